"""One visit to a coupling folded from its entries: the set's measures, what was looked at, passes and moves in their order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from pydantic import BaseModel

from ..base import Entered, HurbinError, Limits, Phrase, Problem, phrase
from ..logbook import Context, Entry
from ..stores import Booking, take_and_return
from .entry import AlignmentEntry, Taken
from .packs import parse_pack
from .poses import Pose
from .reading import Typed, check_reading, pose_of, take
from .shims import FEET, Pack

Sheet = Sequence[Entry[AlignmentEntry]]
# What belongs to the set: the newest word on each counts for every pass, and is kept from one visit to the next.
MEASURES = (
    "coupling", "speed", "face_diameter", "x_front", "x_rear", "plane_distance", "sag", "maker_offset", "maker_angle", "cold", "pump_height", "pump_metal",
    "pump_temperature", "motor_height", "motor_metal", "motor_temperature", "near_ambient", "coupling_diameter", "bolts", "torque", "play", "support_distance", "nut_pitch",
    "maker_gap", "van",
)  # fmt: skip
BEFORE = (
    "signs", "marked", "run_out_rim", "run_out_face", "pipe_strain", "springy", "with_pipes", *(f"soft_{f}" for f in FEET), *(f"across_{f}" for f in FEET),
)  # fmt: skip
FIT = (
    "hub_gap", "hub_gap_maker", "bare_fit", "keyed_fit", "screws_pump", "screws_motor", "floating_shaft", "halves_as_marked", "new_bolts", "element_renewed",
    "root", "guard_on",
)  # fmt: skip
PACKS = tuple(f"pack_{f}" for f in FEET)


@dataclass(slots=True)
class Pass:
    """One set of readings: as typed, read, and the pose that it gives; after how many moves and tightenings it was taken."""

    entry: Entry[AlignmentEntry]
    body: AlignmentEntry
    typed: Typed
    pose: Pose | None
    moves: int
    tightened: bool

    @property
    def title(self) -> str:
        if self.body.taken == "as_found":
            return "As found"
        if self.body.taken == "as_left":
            return "As left"
        what = "tightening" if self.tightened else "move"
        return f"After {what} {self.moves}" if self.moves else f"After a {what}"


@dataclass(slots=True)
class Lying:
    """What lies under one foot: the measured pieces and how many were not measured. None: nobody said."""

    pack: Pack = ()
    unmeasured: int = 0


@dataclass(slots=True)
class Move:
    """What was done between two passes."""

    entry: Entry[AlignmentEntry]
    before: dict[str, Lying | None]
    after: dict[str, Lying | None]
    front: float
    rear: float


@dataclass(slots=True)
class Job:
    """The sheet folded."""

    measures: dict[str, Any] = field(default_factory=dict)
    before: dict[str, Any] = field(default_factory=dict)
    fit: dict[str, Any] = field(default_factory=dict)
    passes: list[Pass] = field(default_factory=list)
    moves: list[Move] = field(default_factory=list)
    lying: dict[str, Lying | None] = field(default_factory=lambda: dict.fromkeys(FEET))
    tight: bool = False
    trying: dict[str, Lying | None] | None = None
    typed: Typed = field(default_factory=Typed)
    problems: list[Problem] = field(default_factory=list)
    conflicts: list[Phrase] = field(default_factory=list)
    entries: list[Entry[AlignmentEntry]] = field(default_factory=list)

    @property
    def next_taken(self) -> Taken:
        """What the next pass is when nobody says otherwise: as left once it is drawn up, as found at the beginning."""
        if self.tight:
            return "as_left"
        return "after_move" if self.moves or any(p.pose is not None for p in self.passes) else "as_found"

    @property
    def last(self) -> Pass | None:
        return self.passes[-1] if self.passes else None


def said(value: Any) -> bool:
    return value is not None and value not in ("", []) and not (isinstance(value, Entered) and not value.text.strip())


def fold(entries: Sheet, context: Context) -> Job:
    """What do these entries say together? In any order, from any device: they count by (taken_at, uuid).

    A pass is read with the newest measures of the set, whichever entry brought them. A figure that cannot be is a problem
    under its field where it stands in the newest entry, under its entry's id where it stands further back.
    """
    undone = {e.body.undoes for e in entries if e.body.kind == "undo"}
    ordered = sorted((e for e in entries if e.uuid not in undone and e.body.kind != "undo"), key=lambda e: (e.taken_at, e.uuid))
    job = Job(entries=ordered)
    limits = Limits(context.overrides)
    _gather(job, ordered)
    job.typed = take(AlignmentEntry.model_validate({**job.measures, **job.before, **job.fit}))
    last = ordered[-1].uuid if ordered else ""
    for p in job.typed.problems:
        brought = next(e.uuid for e in reversed(ordered) if said(getattr(e.body, p.field)))
        job.problems.append(_placed(p, brought, last))
    for e in ordered:
        match e.body.kind:
            case "moved":
                _move(job, e)
            case "tightened":
                job.tight = True
            case "try":
                job.trying = _lying(job, e)
            case "pass" | "measures":
                if not job.moves:
                    job.lying = _lying(job, e)
                if e.body.kind == "pass":
                    _pass(job, e, limits, last)
            case _:
                pass
    return job


def _gather(job: Job, ordered: Sheet) -> None:
    by_device: dict[str, tuple[str, Any]] = {}
    for e in ordered:
        if e.body.kind == "try":
            continue
        for names, held in ((MEASURES, job.measures), (BEFORE, job.before), (FIT, job.fit)):
            for name in names:
                value = getattr(e.body, name)
                if not said(value):
                    continue
                before = by_device.get(name)
                if before is not None and before[0] != e.device and before[1] != value:
                    title = AlignmentEntry.model_fields[name].title or name
                    job.conflicts.append(phrase("align.two_words", what=title, first=_plain(before[1]), second=_plain(value)))
                by_device[name] = (e.device, value)
                held[name] = value


def _plain(value: Any) -> str:
    return f"{value.text} {value.unit}".strip() if isinstance(value, Entered) else str(value)


def _placed(p: Problem, entry: str, last: str) -> Problem:
    """A problem under its field where it stands in the newest entry, under its entry's id where it stands further back."""
    return p if entry == last else p.model_copy(update={"field": entry})


def _lying(job: Job, e: Entry[AlignmentEntry]) -> dict[str, Lying | None]:
    """What lies under the feet after this entry: what it says of a pack, else what lay there."""
    out = dict(job.lying)
    for foot in FEET:
        name = f"pack_{foot}"
        try:
            got = parse_pack(getattr(e.body, name), name)
        except HurbinError as error:
            job.problems.append(Problem.of(error))
            continue
        if got is not None:
            out[foot] = Lying(*got)
    return out


def _move(job: Job, e: Entry[AlignmentEntry]) -> None:
    before = job.lying
    job.lying = _lying(job, e)
    r = take(e.body)
    job.problems += r.problems
    job.moves.append(Move(e, before, job.lying, r.value("pushed_front") or 0.0, r.value("pushed_rear") or 0.0))
    job.tight = False


def _pass(job: Job, e: Entry[AlignmentEntry], limits: Limits, last: str) -> None:
    body = e.body.model_copy(update={**job.measures, "taken": e.body.taken or job.next_taken})
    r = take(body)
    # What is wrong with a figure of the set is said once, with the set's.
    r.problems = [p for p in r.problems if p.field not in (*MEASURES, *BEFORE, *FIT)]
    check_reading(body, r, limits)
    hard = any(p.code == "diameter_zero" for p in r.problems)
    pose = None if hard else pose_of(body, r, limits)
    if body.taken == "as_left" and (body.tight is False or (job.moves and not job.tight and body.tight is not True)):
        r.refuse("not_tight", "tight", "An as-left is read after the last tightening: tightening moves things.", "tighten in a cross, then read again")
    job.passes.append(Pass(e, body, r, pose, len(job.moves), job.tight))
    told = {(p.field, p.code) for p in job.problems}
    job.problems += [p if p.field in MEASURES else _placed(p, e.uuid, last) for p in r.problems if (p.field, p.code) not in told]


class Booked(BaseModel):
    """What one move took from a van and brought back to it."""

    entry: str
    van: str
    booking: Booking


def bookings(entries: Sheet, context: Context) -> list[Booked]:
    """Which shims did the moves of this visit take from which van, and which did they bring back? Only measured pieces count."""
    out: list[Booked] = []
    first = context.vans[0].name if context.vans else ""
    job = fold(entries, context)
    for move in job.moves:
        pairs = [(old, new) for f in FEET if (new := move.after[f]) is not None for old in [move.before[f] or Lying()]]
        booking = take_and_return([t for old, _ in pairs for t in old.pack], [t for _, new in pairs for t in new.pack])
        van = move.entry.body.van or str(job.measures.get("van", "")) or first
        if van and any(booking.change.values()):
            out.append(Booked(entry=move.entry.uuid, van=van, booking=booking))
    return out
