"""What happens in a job, one entry at a time: opened, done, left out, looked at, lifted, used, sent,
proved.
"""

from __future__ import annotations

from datetime import date
from typing import Any, Literal

from ...base import Entered, Kept, Model, entered_field, entry_of, entry_union, said_field

YesNo = Literal["yes", "no"]


class Opened(Model):
    """A job is opened: by which procedure, in which version, and what it came from."""

    kind: Literal["open"] = "open"
    procedure: str = said_field("Procedure", "", max_length=40)
    version: int = said_field("Version", 0, ge=0, le=100000)
    because: str = said_field("Because", "", max_length=300)
    source: Literal["hand", "verdict", "call", "due"] = said_field("Opened from", "hand")
    # Which verdict, call or check: its question with its subject, its number, its bench.
    of: str = said_field("Opened from which", "", max_length=160)
    set_kind: str = said_field("Type of set then", "", max_length=40)


class About(Model):
    """What the set lacks to be compiled, who owns the job, and what the service names as its proof."""

    kind: Literal["about"]
    weight: Entered | None = entered_field(
        "Heaviest part to be lifted", "mass", low=0.1, high=100000, kept=Kept.SET, printed=True
    )
    seal_kind: str = said_field("Seal kind or kit number", "", kept=Kept.SET, max_length=80)
    hot: YesNo | None = said_field("Pumps anything over 50 °C", kept=Kept.SET)
    outside: YesNo | None = said_field("Is outside", kept=Kept.SET)
    pit: YesNo | None = said_field("Is in a pit or well", kept=Kept.SET)
    roof: YesNo | None = said_field("Is on a roof", kept=Kept.SET)
    header: YesNo | None = said_field("Shares a header", kept=Kept.SET)
    sizes: str = said_field("Tool sizes here", "", kept=Kept.SET, free=True, max_length=300)
    owner: str = said_field("Owner of the job", "", kept=Kept.VISIT, free=True, max_length=80)
    twin: Literal["now", "later", "none"] | None = said_field("Paired set of like age", kept=Kept.VISIT)
    waits: str = said_field("Waits for", "", kept=Kept.VISIT, free=True, max_length=200)
    expected: date | None = said_field("Back on", kept=Kept.VISIT, free=True)
    service: str = said_field("The service is judged by", "", kept=Kept.SET, max_length=80)
    service_low: Entered | None = entered_field(
        "Service, at least", "ratio", low=-1e6, high=1e6, kept=Kept.SET, printed=True
    )
    service_high: Entered | None = entered_field(
        "Service, at most", "ratio", low=-1e6, high=1e6, kept=Kept.SET, printed=True
    )
    service_minutes: Entered | None = entered_field(
        "Service, for", "duration", unit="min", low=0, high=864000, kept=Kept.SET, printed=True
    )
    restarts: str = said_field("What restarts after it, in order", "", kept=Kept.SET, max_length=300)
    no_service: YesNo | None = said_field("The service names no proof", kept=Kept.SET)


class Stepped(Model):
    """A step is done, or left out with its reason."""

    kind: Literal["done", "skip"]
    step: str = said_field("Step", "", max_length=40)
    said: str = said_field("Recorded", "", max_length=400)
    figure: Entered | None = said_field("Figure")
    why: str = said_field("Why it is skipped", "", max_length=300)


class Looked(Model):
    """A part was looked at: which signs were seen."""

    kind: Literal["look"]
    step: str = said_field("Step", "", max_length=40)
    look: str = said_field("What was looked at", "", max_length=40)
    signs: list[str] = said_field("Signs seen", [], max_length=20)
    note: str = said_field("Note", "", free=True, max_length=300)


class FoundAs(Model):
    """As found, before as left: what stood where, which way round, how many turns."""

    kind: Literal["found", "left"]
    step: str = said_field("Step", "", max_length=40)
    what: str = said_field("What", "", max_length=80)
    how: str = said_field("How it was", "", max_length=200)


class LeadLifted(Model):
    """One lead and the conductor it was on."""

    kind: Literal["lead"]
    lead: str = said_field("Lead", "", max_length=20)
    conductor: str = said_field("Conductor", "", max_length=20)
    shares: str = said_field("Shares a nut with", "", max_length=40)
    back: bool = said_field("Back on", False)


class ChangeMade(Model):
    """A temporary change that no step makes: put on, or restored."""

    kind: Literal["change"]
    change: str = said_field("Temporary change", "", max_length=20)
    place: str = said_field("Place", "", max_length=120)
    on: bool = said_field("On", True)


class PartTaken(Model):
    """Parts reserved, used, or brought back."""

    kind: Literal["part"]
    code: str = said_field("Part", "", max_length=40)
    place: str = said_field("From", "", max_length=60)
    reserved: int = said_field("Reserved", 0, ge=0, le=999)
    used: int = said_field("Used", 0, ge=0, le=999)
    emergency: bool = said_field("Old good one kept as emergency only", False)


class ToShop(Model):
    """Sent to the shop, or back from it."""

    kind: Literal["sent", "accepted"]
    what: str = said_field("What", "", max_length=120)
    shop: str = said_field("Shop", "", max_length=80)
    wrote: list[str] = said_field("Written on the note, or reported back", [], max_length=20)
    promised: date | None = said_field("Promised for")
    price: Entered | None = entered_field("Price", "ratio", low=0, high=1e9, printed=True)
    good: YesNo | None = said_field("Accepted")
    note: str = said_field("Note", "", max_length=300)


class ProofRead(Model):
    """A figure of the proof that no other bench reads."""

    kind: Literal["drip", "heat", "head", "service", "arrow"]
    minute: Entered | None = entered_field("Minutes since start", "duration", unit="min", low=0, high=864000)
    drops: Entered | None = entered_field("Drops in that minute", "ratio", low=0, high=2000)
    packing: YesNo | None = said_field("It is packed, not a seal")
    bearing: Entered | None = entered_field("Bearing", "temperature", low=-30, high=300)
    ambient: Entered | None = entered_field("Air", "temperature", low=-30, high=80)
    before: Entered | None = entered_field("Head before", "head", low=0.1, high=5000)
    after: Entered | None = entered_field("Head after", "head", low=0, high=5000)
    sign: Literal["meter", "drawdown", "difference"] | None = said_field("Sign of flow")
    valve: Literal["same", "other"] | None = said_field("Valve as before")
    value: Entered | None = entered_field("Service reads", "ratio", low=-1e6, high=1e6)
    right: YesNo | None = said_field("Turns by the arrow")


class Spent(Model):
    """Hours and travel of one person."""

    kind: Literal["hours"]
    who_worked: str = said_field("Who", "", max_length=80)
    hours: Entered | None = entered_field("Hours", "run_time", low=0.01, high=1000, printed=True)
    travel: Entered | None = entered_field("Travel", "ratio", low=0, high=1e6, printed=True)


class CauseNamed(Model):
    """What broke it, and the root behind it."""

    kind: Literal["cause"]
    cause: str = said_field("Cause", "", kept=Kept.VISIT, free=True, said_in="cause", max_length=300)
    root: str = said_field("Root", "", kept=Kept.VISIT, free=True, said_in="cause", max_length=300)


class JobTakenBack(Model):
    """Takes one earlier entry back."""

    kind: Literal["undo"]
    undoes: str = said_field("Removed entry", "", max_length=64)


JobEntry = entry_union(
    Opened,
    About,
    Stepped,
    Looked,
    FoundAs,
    LeadLifted,
    ChangeMade,
    PartTaken,
    ToShop,
    ProofRead,
    Spent,
    CauseNamed,
    JobTakenBack,
)


def job_entry(**body: Any) -> Any:
    """One entry of a job from what was said."""
    return entry_of(JobEntry, body)
