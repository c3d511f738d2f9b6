"""A shaft turned by hand, coupled and each half by itself: what it took, and where it binds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ...base import (
    Bench,
    By,
    Entered,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Model,
    Needs,
    Phrase,
    Problem,
    Quantity,
    Unknown,
    Verdict,
    amount,
    concluded,
    entered_field,
    exceeds,
    phrase,
    read_fields,
    rules_version,
    said_field,
)
from ...logbook import AnyCase, Entry, ghosts_of, newest, newest_body
from ...plant import KINDS
from ...safety import guarded, live_evidence

Feel = Literal["even", "heavy", "rough", "locked"]
HALVES = ("motor", "pump")


class ShaftEntry(Model):
    """One shaft turned by hand. A set without a coupling has one shaft: only the first is asked."""

    coupled: Feel | None = said_field("Coupled, turned by hand")
    motor_half: Feel | None = said_field("Motor half, uncoupled")
    pump_half: Feel | None = said_field("Pump half, uncoupled")
    turns: Entered | None = entered_field("Full turns made", "turns", high=50)
    gap: Entered | None = entered_field("Coupling gap", "length", high=100)
    tool: Literal["hand", "strap", "slot"] | None = said_field("Turned with")
    note: str = said_field("Note", "", max_length=500)


class HandTurnedView(Model):
    """What is drawn: each half as it turned, whether there are two, where it binds (empty: nowhere known)."""

    halves: bool = True
    coupled: str = ""
    motor: str = ""
    pump: str = ""
    binds: str = ""
    gap: Quantity | None = None


@dataclass(slots=True)
class Turned:
    """What was said of the shaft, and read of it."""

    body: ShaftEntry
    turns: float | None
    gap: float | None
    problems: list[Problem]


def replay(entries: Sequence[Entry[ShaftEntry]], case: AnyCase) -> Turned:
    """The newest word on the shaft, its figures read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else ShaftEntry()
    got, problems = read_fields(body)
    figures = {n: r.value for n, r in got.items()}
    return Turned(body, figures.get("turns"), figures.get("gap"), problems)


_SAYS = {
    "even": (Verdict.GOOD, None),
    "heavy": (Verdict.WATCH, By.NEXT_STOP),
    "rough": (Verdict.ACT, By.THIS_SHIFT),
    "locked": (Verdict.STOP, By.NOW),
}


def _worse(a: Feel, b: Feel) -> bool:
    return _SAYS[a][0].rank > _SAYS[b][0].rank


def binds(body: ShaftEntry) -> str:
    """Where does it bind: motor, pump, both, or only where they are joined? Empty: nowhere, or not told.

    >>> binds(ShaftEntry(coupled="locked", motor_half="even", pump_half="even"))
    'coupling'
    """
    motor, pump = body.motor_half, body.pump_half
    bad = [n for n, x in (("motor", motor), ("pump", pump)) if x not in (None, "even")]
    if len(bad) == 2:
        return "both"
    if bad:
        return bad[0]
    if motor and pump and body.coupled not in (None, "even"):
        return "coupling"
    return ""


def judge(turned: Turned, case: AnyCase) -> Evaluation[HandTurnedView]:
    """Does the shaft turn, and where does it bind?

    The worst state in which it would still be called good: it binds only warm, or only under pressure. A full
    turn by hand tells of the cold, empty machine; the first run is watched all the same.
    """
    kind = KINDS.get(case.context.kind)
    halves = kind is None or kind.coupled
    body = turned.body if halves else turned.body.model_copy(update={"motor_half": None, "pump_half": None})
    found, verdict, beside = concluded(_findings(body, halves), _lacking(turned, body), turned.problems)
    return Evaluation[HandTurnedView](
        bench="shaft",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        cautions=[phrase("shaft.caution"), phrase("safety.codes")] if body.coupled is None else [],
        waiting=_waiting(body, halves),
        ghosts=ghosts_of(case.context.last, ["turns", "gap"]),
        problems=turned.problems,
        missing=_missing(turned, body),
        view=HandTurnedView(
            halves=halves,
            coupled=body.coupled or "",
            motor=body.motor_half or "",
            pump=body.pump_half or "",
            binds=binds(body),
            gap=amount(turned.gap, "mm") if turned.gap is not None else None,
        ),
    )


def _findings(body: ShaftEntry, halves: bool) -> list[Finding]:
    out: list[Finding] = []
    if body.coupled is not None:
        out.append(_whole(body, body.coupled, halves))
    elif body.motor_half or body.pump_half:
        out.append(_not_coupled())
    for half in HALVES:
        feel: Feel | None = getattr(body, f"{half}_half")
        if feel is None:
            continue
        verdict, by = _SAYS[feel]
        out.append(
            Finding(
                question=f"turns_{half}",
                part=half,
                verdict=verdict,
                by=by,
                rule=f"turns_{half}",
                reason=phrase(f"shaft.{half}_{feel}"),
            )
        )
    return out


def _not_coupled() -> Finding:
    """Each half by itself says nothing of the two together."""
    return Finding(
        question="turns_by_hand",
        part="coupling",
        verdict=Verdict.UNKNOWN,
        unknown=Unknown.INCOMPLETE,
        by=By.NOW,
        rule="turns_by_hand",
        reason=phrase("shaft.not_coupled"),
    )


def _whole(body: ShaftEntry, feel: Feel, halves: bool) -> Finding:
    """The shaft as it is joined; what a half alone says against it makes it unknown."""
    part = "coupling" if halves else "motor"
    worst = [x for x in (body.motor_half, body.pump_half) if x is not None and _worse(x, feel)]
    if worst:
        return Finding(
            question="turns_by_hand",
            part=part,
            verdict=Verdict.UNKNOWN,
            unknown=Unknown.INCONCLUSIVE,
            by=By.NOW,
            rule="turns_by_hand",
            reason=phrase("shaft.against"),
        )
    verdict, by = _SAYS[feel]
    where = binds(body)
    notes: list[Phrase] = []
    if feel != "even" and halves and where:
        notes.append(phrase(f"shaft.binds_{where}"))
    return Finding(
        question="turns_by_hand",
        part=part,
        verdict=verdict,
        by=by,
        rule="turns_by_hand",
        reason=phrase(f"shaft.whole_{feel}"),
        notes=notes,
    )


def _lacking(turned: Turned, body: ShaftEntry) -> dict[str, Phrase | None]:
    least = Limits().value("shaft.turns")
    full = turned.turns is not None and not exceeds(least, turned.turns)
    return {} if full else {"shaft.full_turn": None}


def _waiting(body: ShaftEntry, halves: bool) -> list[Phrase]:
    """A bound shaft that was not uncoupled: the next act, and what it tells."""
    apart = body.motor_half is not None and body.pump_half is not None
    if halves and body.coupled in ("heavy", "rough", "locked") and not apart:
        return [phrase("shaft.uncouple")]
    return []


def _missing(turned: Turned, body: ShaftEntry) -> list[Missing]:
    out: list[Missing] = []
    if body.coupled is None and body.motor_half is None and body.pump_half is None:
        out.append(Missing(field="coupled", message="Enter how it turned."))
    if turned.turns is None and not any(p.field == "turns" for p in turned.problems):
        message = "Enter how many full turns were made. A spot that binds is missed otherwise."
        out.append(Missing(field="turns", message=message))
    return out


SHAFT = Bench(
    name="shaft",
    title="Shaft by hand",
    records="Shafts turned by hand",
    one="a shaft turned by hand",
    offer="Turn the shaft by hand",
    gated="Hands on the shaft",
    seen="Enter what was felt already",
    key="h",
    does="turn its shaft by hand",
    place=45,
    part="coupling",
    act="turn_by_hand",
    evidence=("turn",),
    entry=ShaftEntry,
    view=HandTurnedView,
    needs=Needs(plates=("motor",)),
    replay=replay,
    judge=guarded(judge),
    effects=live_evidence(judge),
    facts=newest_body,
    routine=False,
)
