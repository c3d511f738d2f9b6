"""Is a valve endorsed for this week, and how was it left?"""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date

from ...base import Finding, Phrase, Unknown, Verdict, amount, exceeds, phrase, read_fields
from ..answering import answer, judged
from .sheet import Throttle


@dataclass(slots=True)
class Left:
    """The valve as it was left: turns, its legs, and the others estimated where one alone was read."""

    turns: float | None = None
    amps: list[float] = field(default_factory=list)
    whole: bool = False
    waited: bool = False
    guessed: list[float] = field(default_factory=list)


def advice(s: Throttle) -> Finding | None:
    """What closing the valve to nameplate current would leave, against what must be left."""
    if s.legs.worst is None:
        return None
    if s.refused:
        return answer("throttle_advice", Verdict.ACT, s.refused[0], *s.refused[1:])
    over = s.over
    if over is None or not s.legs.whole:
        return answer("throttle_advice", Verdict.UNKNOWN, phrase("throttle.three_legs"))
    if not exceeds(over, s.limits.value("throttle.over")):
        return answer("throttle_advice", Verdict.GOOD, phrase("throttle.within", pct=amount(over, "%")))
    if s.left is None or s.now is None:
        return answer("throttle_advice", Verdict.UNKNOWN, _open(s))
    return _endorsed(s)


def _open(s: Throttle) -> Phrase:
    """Which input does the sum still wait for?"""
    curve = s.pump.curve
    if curve is None or curve.power is None or s.pump.indicative:
        return phrase("throttle.no_curve")
    if "idle_amps" not in s.t.got:
        return phrase("throttle.no_idle")
    if s.fluid is None:
        return phrase("throttle.no_liquid")
    if not s.body.closed and "static" not in s.t.got:
        return phrase("throttle.no_static")
    return phrase("throttle.off_curve")


def _endorsed(s: Throttle) -> Finding:
    """Flow left over the largest of need, floor and the preferred range's lower end."""
    assert s.left is not None
    flow = s.left.flow
    asked = [(s.t.got["need"], phrase("throttle.by_need"))] if "need" in s.t.got else []
    if s.floor is not None:
        asked.append(
            (s.floor[0], phrase(f"duty.floor_{s.floor[1]}" if s.floor[1] != "none" else "duty.floor_pump"))
        )
    bep = s.now.curve.bep if s.now is not None else None
    if bep:
        asked.append((s.limits.value("duty.least") / 100 * bep, phrase("throttle.by_bep")))
    if not asked:
        return answer("throttle_advice", Verdict.UNKNOWN, phrase("throttle.nothing_asked"))
    least, why = max(asked, key=lambda a: a[0])
    pct = amount(100 * flow.value / least, "%", u=100 * flow.u / least)
    reason = phrase(
        "throttle.leaves",
        flow=flow,
        left=s.left.left or amount(0, "%"),
        least=amount(least, "m3/h"),
        why=why,
    )
    notes = []
    if s.instead is not None:
        notes.append(phrase("throttle.instead", flow=s.instead.flow, speed=s.instead.speed or amount(0, "%")))
    found = judged("throttle_advice", pct, s.limits, reason, *notes)
    words = {Verdict.GOOD: "throttle.endorsed", Verdict.ACT: "throttle.refused"}.get(
        found.verdict, "throttle.cannot"
    )
    return found.model_copy(update={"reason": phrase(words, said=reason)})


def left_of(s: Throttle) -> Left | None:
    """The last step by the order of the rows, as it was read."""
    if not s.body.steps:
        return None
    row = s.body.steps[-1]
    read, problems = read_fields(row)
    s.t.problems += problems
    got = {n: r.value for n, r in read.items()}
    names = ("amps_1", "amps_2", "amps_3")[: s.motor.phases]
    amps = [got[n] for n in names if n in got]
    out = Left(got.get("turns"), amps, len(amps) == (3 if s.motor.phases == 3 else 1), bool(row.waited))
    before = s.legs.amps
    if not out.whole and amps and s.legs.whole:
        i = next(n for n, name in enumerate(names) if name in got)
        ratio = amps[0] / before[i] if before[i] else 0.0
        out.guessed = [b * ratio for n, b in enumerate(before) if names[n] not in got]
    return out


def as_left(s: Throttle, left: Left | None, today: date) -> Finding | None:
    """Three legs at the final place, the turns, until when, and what the lasting cure is."""
    if left is None:
        return None
    plate, full = s.motor.amps_a, s.t.got.get("turns_full")
    if left.turns is None or full is None:
        return answer("throttle_left", Verdict.UNKNOWN, phrase("throttle.turns"))
    if exceeds(left.turns, full):
        s.t.refuse("turns_full", "More turns open than the valve has.", "turns in all")
        return answer("throttle_left", Verdict.UNKNOWN, phrase("throttle.turns"))
    if not left.whole:
        notes = [phrase("throttle.guess", amps=amount(a, "A")) for a in left.guessed]
        return answer("throttle_left", Verdict.UNKNOWN, phrase("throttle.one_read"), *notes)
    if not left.waited:
        return answer("throttle_left", Verdict.UNKNOWN, phrase("throttle.wait"), unknown=Unknown.INCONCLUSIVE)
    if plate is None:
        return answer("throttle_left", Verdict.UNKNOWN, phrase("throttle.no_plate"))
    worst = max(left.amps)
    if left.turns < full and (s.body.until is None or s.body.cure is None):
        return answer("throttle_left", Verdict.UNKNOWN, phrase("throttle.until"))
    if s.body.until is not None and s.body.until < today:
        words = "The date until which it is left so is past."
        s.t.refuse("until", words, "a date ahead")
        return answer("throttle_left", Verdict.UNKNOWN, phrase("throttle.until"))
    pct = amount(100 * worst / plate, "%")
    turns = {"turns": amount(left.turns, "turns"), "full": amount(full, "turns")}
    return judged("throttle_left", pct, s.limits, phrase("throttle.left", pct=pct, **turns))
