"""Passes side by side: do they converge, did the readings follow what was moved, and did it stay where it was
left last time?
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime
from typing import Any

from ..base import (
    By,
    Finding,
    Lacking,
    Limits,
    Phrase,
    Quantity,
    Verdict,
    amount,
    body_of,
    concluded,
    exceeds,
    phrase,
)
from ..logbook import Context, Entry, PastSheet
from .drawing import shaft_views
from .entry import alignment_entry
from .judging import GoverningTolerance, position_findings, target_of
from .reading import PER_100
from .shaft_position import ShaftPosition, against
from .view import PassView
from .visit import Move, Pass, Visit, fold

_LIMITS = Limits()
_NOTICED = _LIMITS.value("alignment.noticed")
_SHARE = _LIMITS.value("alignment.pass_share") / 100
_WORSE = 1 + _LIMITS.value("alignment.pass_worse") / 100


def tolerance_ratio(position: ShaftPosition, target: float, held: GoverningTolerance) -> float | None:
    """How far out, in times the acceptable, is the worst of offset and angle? None while a plane or a limit
    is not known.
    """
    v, h = against(position.vertical, target), position.horizontal
    offset, angle = held.acceptable("offset"), held.acceptable("angle")
    if angle is None or any(x is None for x in (v.offset, v.slope, h.offset, h.slope)):
        return None
    slopes = [abs(x) * PER_100 / angle for x in (v.slope, h.slope) if x is not None]
    return max(
        [*slopes, *([abs(x) / offset for x in (v.offset, h.offset) if x is not None] if offset else [])]
    )


def pass_values(position: ShaftPosition) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}
    for tail, plane in (("v", position.vertical), ("h", position.horizontal)):
        if plane.offset is not None:
            out[f"offset_{tail}"] = amount(plane.offset, "mm")
        if plane.slope is not None:
            out[f"angle_{tail}"] = amount(plane.slope * PER_100, "mm/100mm")
    return out


def expected(move: Move) -> tuple[float | None, float | None]:
    """By how much did this move raise the front and the rear feet (mean of left and right), in mm? None where
    a pack was not told or measured.
    """
    out: list[float | None] = []
    for end in ("front", "rear"):
        rises = []
        for foot in (f"{end}_left", f"{end}_right"):
            old, new = move.before[foot], move.after[foot]
            if old is None or new is None or old.unmeasured or new.unmeasured:
                break
            rises.append((sum(new.pack) - sum(old.pack)) / 10000)
        out.append(sum(rises) / 2 if len(rises) == 2 else None)
    return out[0], out[1]


def _seen(a: ShaftPosition, b: ShaftPosition, side: bool, x: float) -> float | None:
    one, two = (a.horizontal.at(x), b.horizontal.at(x)) if side else (a.vertical.at(x), b.vertical.at(x))
    return None if one is None or two is None else two - one


def suspicions(visit: Visit, before: Pass, after: Pass) -> list[Phrase]:
    """Did the second pass see what was done between the two? Swapped signs, or a dial that slipped, said
    aloud.
    """
    front, rear = visit.typed.value("x_front"), visit.typed.value("x_rear")
    if before.position is None or after.position is None or front is None or rear is None:
        return []
    between = visit.moves[before.moves : after.moves]
    if not between:
        shifts = [
            abs(s)
            for side in (False, True)
            for x in (front, rear)
            if (s := _seen(before.position, after.position, side, x)) is not None
        ]
        moved = max(shifts, default=0.0)
        return (
            [phrase("pass.tightening", moved=amount(moved, "mm"))]
            if exceeds(moved, _NOTICED) and after.tightened and not before.tightened
            else []
        )
    out: list[Phrase] = []
    rises = [expected(m) for m in between]
    pushes = (sum(m.front for m in between), sum(m.rear for m in between))
    for i, (x, end) in enumerate(((front, "front"), (rear, "rear"))):
        told = [r[i] for r in rises]
        up = None if any(t is None for t in told) else sum(t for t in told if t is not None)
        for done, side, way in ((up, False, "up"), (pushes[i], True, "right")):
            saw = _seen(before.position, after.position, side, x)
            if done is None or saw is None or not exceeds(abs(done), 2 * _NOTICED):
                continue
            args: dict[str, Quantity | str | Phrase] = {
                "end": end,
                "way": way,
                "done": amount(done, "mm"),
                "saw": amount(saw, "mm"),
            }
            if abs(saw + done) < _SHARE * abs(done):
                out.append(phrase("pass.swapped", **args))
            elif exceeds(abs(saw - done), max(2 * _NOTICED, _SHARE * abs(done))):
                out.append(phrase("pass.slipped", **args))
    return out


def pass_views(
    visit: Visit,
    target: float,
    grown: bool,
    held: GoverningTolerance,
    spacer: float | None,
    lacks: Callable[[Pass], Lacking],
) -> tuple[list[PassView], list[Phrase]]:
    """The passes beside one another, and what their order asks: the later ones must come closer."""
    read = [p for p in visit.passes if p.position is not None]
    views: list[PassView] = []
    asks: list[Phrase] = []
    worse = 0
    for i, p in enumerate(read):
        assert p.position is not None
        findings = position_findings(p.position, held, target, grown, spacer)
        says: list[Phrase] = []
        if i:
            said = suspicions(visit, read[i - 1], p)
            asks += said
            says += said
            one, two = (
                tolerance_ratio(x, target, held) for x in (read[i - 1].position, p.position) if x is not None
            )
            if one is not None and two is not None and exceeds(two, 1.0) and exceeds(two, one * _WORSE):
                worse += 1
                says.append(phrase("pass.worse"))
                asks.append(phrase("pass.worse_twice") if worse > 1 else phrase("pass.worse"))
        verdict = concluded(findings, lacks(p))[1] if findings else None
        views.append(
            PassView(
                uuid=p.entry.uuid,
                title=p.title,
                taken=p.body.taken or "as_found",
                at=p.entry.taken_at,
                values=pass_values(p.position),
                verdict=verdict,
                says=says,
                shafts=shaft_views(
                    p.position, target, visit.typed.value("x_front"), visit.typed.value("x_rear")
                ),
            )
        )
    return views, list({(a.template, str(a.args)): a for a in asks}.values())


def log_of(entries: Sequence[Entry[Any]]) -> list[dict[str, Any]]:
    """The entries as a record keeps them: when, by whom, and what was typed."""
    return [
        {"at": e.taken_at.isoformat(), "by": e.by, "body": body_of(e.body)}
        for e in entries
        if e.body.kind != "try"
    ]


def entries_of(body: dict[str, Any], at: datetime) -> list[Entry[Any]]:
    """A record's facts as entries again; a record of one pass from a file keeps no log."""
    log = body.get("log")
    if not isinstance(log, list):
        plain = {k: v for k, v in body.items() if k != "log"}
        return [Entry[Any](uuid="00000000", taken_at=at, body=alignment_entry(**plain))]
    return [
        Entry[Any](
            uuid=f"entry{i:05d}",
            taken_at=datetime.fromisoformat(x["at"]),
            by=x.get("by", ""),
            body=alignment_entry(**x["body"]),
        )
        for i, x in enumerate(log)
    ]


def left_last(earlier: list[PastSheet]) -> tuple[datetime, Pass] | None:
    """How it was left on the newest earlier visit: its last pass."""
    for past in earlier:
        visit = fold(entries_of(past.body, past.taken_at))
        read = [p for p in visit.passes if p.position is not None]
        if read:
            return past.taken_at, read[-1]
    return None


def drift_finding(
    visit: Visit, held: GoverningTolerance, context: Context
) -> tuple[Finding | None, list[Phrase]]:
    """Is it still where it was left? As found now against as left then, in the same terms and the same state:
    hot and cold are not compared. Beyond the acceptable it does not stay.
    """
    found = next((p for p in visit.passes if p.body.taken == "as_found" and p.position is not None), None)
    last = left_last(context.earlier)
    if (
        found is None
        or found.position is None
        or last is None
        or last[1].position is None
        or not held.offset
        or not held.angle
    ):
        return None, []
    now_is, then_was = found.body.temperature, last[1].body.temperature
    if now_is != then_was:
        return None, [phrase("drift.differs", now=now_is, then=then_was)]
    then_pose = last[1].position
    rows: list[tuple[float, Quantity, str]] = []
    pairs = (
        ("Vertical", found.position.vertical, then_pose.vertical),
        ("Horizontal", found.position.horizontal, then_pose.horizontal),
    )
    for way, now, then in pairs:
        if now.offset is not None and then.offset is not None:
            change = now.offset - then.offset
            rows.append((abs(change) / held.offset[-1].value, amount(change, "mm"), way))
        if now.slope is not None and then.slope is not None:
            turn = (now.slope - then.slope) * PER_100
            rows.append((abs(turn) / held.angle[-1].value, amount(turn, "mm/100mm"), way))
    if not rows:
        return None, []
    share, change_, way = max(rows, key=lambda x: x[0])
    moved = exceeds(share, 1.0)
    args: dict[str, Quantity | str | Phrase] = {
        "change": change_,
        "way": way,
        "when": f"{last[0].day} {last[0]:%b %Y}",
    }
    return (
        Finding(
            question="alignment_wander",
            part="coupling",
            verdict=Verdict.WATCH if moved else Verdict.GOOD,
            by=By.NEXT_STOP if moved else None,
            rule="alignment_wander",
            reason=phrase("drift.moved" if moved else "drift.stayed", **args),
            notes=[phrase("drift.root")] if moved else [],
        ),
        [],
    )


def target_for(visit: Visit) -> tuple[float, bool]:
    last = visit.last
    return target_of(last.body, last.typed) if last is not None else (0.0, False)
