"""How tight, in which rounds, in which order?"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ...alignment import bolt_order
from ...base import (
    TABLES,
    Entered,
    Evaluation,
    Finding,
    Model,
    Quantity,
    Verdict,
    amount,
    entered_field,
    phrase,
    said_field,
)
from ...hydraulics import answer
from ...logbook import AnyCase, Entry
from ..tooling import Tool, judge_tool, lacks, small_bench, told, tool_of

Grade = Literal["4.6", "A2-70", "8.8", "grade 2", "grade 5"]
Size = Literal["M6", "M8", "M10", "M12", "M16", "M20", "1/4", "5/16", "3/8", "1/2", "5/8", "3/4"]
_LOWEST = {"4.6": "4.6", "A2-70": "4.6", "8.8": "4.6", "grade 2": "grade 2", "grade 5": "grade 2"}


class BoltsEntry(Model):
    """Bolts of one joint. Every field may be missing."""

    grade: Grade | None = said_field("Grade")
    size: Size | None = said_field("Size")
    lubricant: Literal["dry", "oiled"] | None = said_field("Thread")
    into: Literal["steel", "cast_iron", "cast_ears", "reduced"] | None = said_field("Thread is in")
    maker: Entered | None = entered_field("Manufacturer's torque", "torque", low=0.1, high=5000, printed=True)
    bolts: Entered | None = entered_field("Bolts", "ratio", low=2, high=48, printed=True)
    gasket: Literal["soft", "ring", "none"] | None = said_field("Gasket")
    tightened: list[int] = said_field("Bolts tightened", [], max_length=240)
    applied: Entered | None = entered_field("Torque applied", "torque", low=0, high=5000)
    note: str = said_field("Note", "", free=True, max_length=500)


class BoltRound(Model):
    """One round: its torque and which bolts of it are tightened."""

    title: str
    torque: Quantity | None = None
    done: int = 0
    circular: bool = False


class BoltsView(Model):
    """The circle of bolts in its order. next: the bolt that comes now, none when all rounds are done."""

    order: list[int] = []
    torque: Quantity | None = None
    from_maker: bool = False
    halved: bool = False
    rounds: list[BoltRound] = []
    next: int | None = None
    next_round: int | None = None


def table_torque(grade: str, size: str, lubricant: str, into: str, b: Tool[BoltsEntry]) -> float | None:
    """Torque by the table, N·m: dry, three quarters oiled, half of the lower grade in cast iron, on cast ears
    and reduced threads. None where it says nothing. Source: T = K·d·F, handbook, from memory.
    """
    soft = into in ("cast_iron", "cast_ears", "reduced")
    row = TABLES["bolts.torque"].at(_LOWEST[grade] if soft else grade, size)
    if row is None:
        return None
    torque = row["torque"] * (b.limits.value("bolts.oiled") / 100 if lubricant == "oiled" else 1.0)
    return torque * b.limits.value("bolts.cast") / 100 if soft else torque


def order_of(n: int) -> list[int]:
    """In which order are n bolts tightened, numbered round the circle? By the table, else a cross.

    >>> order_of(8)
    [1, 5, 3, 7, 2, 6, 4, 8]
    """
    told_ = next((r for r in TABLES["bolts.order"].rows if r[0] == n), None)
    return [int(x) for x in str(told_[1]).split("-")] if told_ else bolt_order(n)


def replay(entries: Sequence[Entry[BoltsEntry]], case: AnyCase) -> Tool[BoltsEntry]:
    return tool_of(entries, BoltsEntry, case)


def judge(b: Tool[BoltsEntry], case: AnyCase) -> Evaluation[BoltsView]:
    """Which torque, which rounds, and was it applied? N·m. The manufacturer's figure comes first; stainless
    is never dry.
    """
    view = _drawn(b)
    soft = b.body.gasket == "soft"
    waiting = [phrase("bolts.again")] if soft else []
    lacking = lacks(
        bolts__lubricant=b.body.lubricant is None and b.get("maker") is None,
        bolts__into=b.body.into is None and b.get("maker") is None,
        bolts__rounds=view.next is not None or not view.rounds,
    )
    missing = []
    if b.body.size is not None and view.torque is None:
        missing.append(("maker", "No figure for this bolt here: enter the manufacturer's torque."))
    return told("bolts", b, [_galls(b), _applied(b, view)], lacking, view, missing=missing, waiting=waiting)


def _galls(b: Tool[BoltsEntry]) -> Finding | None:
    if b.body.grade != "A2-70" or b.body.lubricant != "dry":
        return None
    return answer("bolt_torque", Verdict.ACT, phrase("bolts.galls"), subject="thread")


def _applied(b: Tool[BoltsEntry], view: BoltsView) -> Finding | None:
    applied = b.get("applied")
    if applied is None:
        return None
    if view.torque is None:
        return answer("bolt_torque", Verdict.UNKNOWN, phrase("bolts.no_torque"))
    off = amount(100 * abs(applied / view.torque.value - 1), "%")
    reason = phrase("bolts.applied", applied=amount(applied, "N·m"), wanted=view.torque)
    return judge_tool(b, "bolt_torque", off, reason)


def _drawn(b: Tool[BoltsEntry]) -> BoltsView:
    body, maker = b.body, b.get("maker")
    torque = maker
    soft = body.into in ("cast_iron", "cast_ears", "reduced")
    if torque is None and body.grade and body.size and body.lubricant and body.into:
        dry_stainless = body.grade == "A2-70" and body.lubricant == "dry"
        torque = None if dry_stainless else table_torque(body.grade, body.size, body.lubricant, body.into, b)
    view = BoltsView(
        torque=amount(torque, "N·m") if torque else None,
        from_maker=maker is not None,
        halved=soft and maker is None,
    )
    n = b.get("bolts")
    if n is None:
        return view
    if n != int(n):
        b.t.refuse("bolts", "Bolts are counted whole.", "4, 6, 8, 12")
        return view
    view.order = order_of(int(n))
    shares = (b.limits.value("bolts.round_1"), b.limits.value("bolts.round_2"), 100.0)
    titles = ["by finger", *(f"{s:g} %" for s in shares), "once round at 100 %"]
    for i, title in enumerate(titles):
        share = None if i == 0 else shares[min(i, 3) - 1]
        view.rounds.append(
            BoltRound(
                title=title,
                torque=amount(torque * share / 100, "N·m") if torque and share else None,
                circular=i == len(titles) - 1,
            )
        )
    _follow(b, view)
    return view


def _follow(b: Tool[BoltsEntry], view: BoltsView) -> None:
    """Which bolt comes next? A bolt out of its turn is refused; what was tightened before it counts."""
    plan = [(r, x) for r, round_ in enumerate(view.rounds) for x in _of(view, round_)]
    for i, bolt in enumerate(b.body.tightened):
        if i >= len(plan) or plan[i][1] != bolt:
            wanted = str(plan[i][1]) if i < len(plan) else "none: all rounds are done"
            words = f"Bolt {bolt} was tightened out of its turn. Slacken it and go on with {wanted}."
            b.t.refuse("tightened", words, wanted, "bolt_order")
            plan = plan[i:]
            break
        view.rounds[plan[i][0]].done += 1
    else:
        plan = plan[len(b.body.tightened) :]
    if plan:
        view.next_round, view.next = plan[0]


def _of(view: BoltsView, round_: BoltRound) -> list[int]:
    return sorted(view.order) if round_.circular else view.order


BOLTS = small_bench(
    "bolts",
    "`",
    "Bolts",
    "Bolts tightened",
    "a bolt circle",
    "Tighten a bolt circle",
    "look up torque, rounds and order of bolts",
    64,
    "pump",
    BoltsEntry,
    BoltsView,
    replay,
    judge,
)
