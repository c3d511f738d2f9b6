"""Where a probe can be put in a circuit, what lies between two such points, and what is joined to what."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import Literal

from ...base import HurbinError, Model
from .parts import ELECTRONICS, ENDS, LEGS, Element, Kind, Leg, Position, Wiring


def run_rungs(run: Sequence[Element]) -> list[str]:
    """The rungs of one run of elements, in their order."""
    out: list[str] = []
    for e in run:
        ends = e.kind in ENDS and e is run[-1]
        out += [f"{e.id}.out"] if e.kind == "source" else [f"{e.id}.in"]
        if e.kind != "source" and not ends:
            out.append(f"{e.id}.out")
    return out


def rungs(circuit: Wiring) -> list[str]:
    """Where a probe can be put, from the source down: beneath and above each element, every leg alike; first
    the ladder, then the paths beside it.
    """
    return [r for run in circuit.runs for r in run_rungs(run)]


def runs_of(circuit: Wiring) -> dict[str, int]:
    """Which run each rung is on: 0 for the ladder, then the paths in their order."""
    return {r: n for n, run in enumerate(circuit.runs) for r in run_rungs(run)}


def point(rung: str, leg: int) -> str:
    return f"{rung}.{leg}"


def rung_of(point_: str) -> str:
    """The rung of a point: `F.in.2` is on `F.in`."""
    return point_.rpartition(".")[0]


def leg_of(point_: str) -> int:
    """The leg of a point; 0 for ground."""
    end = point_.rpartition(".")[2]
    return int(end) if end.isdigit() else 0


class Span(Model):
    """What lies between two neighbouring points of one leg: inside an element, or the wire between two.
    `through`: an element that does not stand in this leg; `winding`: of a motor, from its one end to the
    other; `electronics`: what passes no mains frequency.
    """

    id: str
    leg: Leg
    upper: str
    lower: str
    within: str = ""
    kind: Kind | Literal["wire", "through", "winding", "electronics"] = "wire"

    @property
    def conducts(self) -> bool:
        """Is it, while nothing is open in it, next to no resistance?"""
        return self.kind not in ("winding", "electronics")

    @property
    def opens(self) -> bool:
        """Is it an element that can be open, and nothing but next to no resistance while it is not?"""
        return bool(self.within) and self.conducts and self.kind != "through"


def spans(circuit: Wiring) -> list[Span]:
    """Every span of every leg, from the source down; first of the ladder, then of the paths beside it."""
    out: list[Span] = []
    of = {e.id: e for e in circuit.every}
    for n, run in enumerate(circuit.runs):
        order = run_rungs(run)
        if n:
            path = circuit.paths[n - 1]
            order = [path.leaves, *order, *([path.lands] if path.lands else [])]
        for upper, lower in pairwise(order):
            one, two = upper.split(".")[0], lower.split(".")[0]
            onto = circuit.paths[n - 1].onto if n and lower == circuit.paths[n - 1].lands else LEGS
            for leg in circuit.legs:
                inside = one == two
                out.append(
                    Span(
                        id=f"{one}.{leg}" if inside else f"{one}-{two}.{leg}",
                        leg=leg,
                        upper=point(upper, leg),
                        lower=point(lower, onto[leg - 1]),
                        within=one if inside else "",
                        kind=_kind(of[one], leg) if inside else "wire",
                    )
                )
    return out


def _kind(e: Element, leg: int) -> Kind | Literal["through", "winding", "electronics"]:
    if e.kind == "motor":
        return "winding"
    if e.kind in ELECTRONICS:
        return "electronics"
    return e.kind if e.stands_in(leg) else "through"


def joints(circuit: Wiring, position: Position) -> list[tuple[str, str, str]]:
    """What is joined in this position while nothing is open: two points, and the span between them; none for
    a star point's bridge.
    """
    of = {e.id: e for e in circuit.every}
    out: list[tuple[str, str, str]] = []
    for s in spans(circuit):
        e = of.get(s.within)
        stands_out = e is not None and e.switched and s.kind != "through" and not e.is_in(position)
        if s.conducts and not stands_out:
            crossed = e is not None and e.crossing and position == "reverse"
            lower = point(rung_of(s.lower), 4 - leg_of(s.lower)) if crossed else s.lower
            out.append((s.upper, lower, s.id))
    for e in circuit.every:
        if e.joins:
            out += [(point(f"{e.id}.out", a), point(f"{e.id}.out", a + 1), "") for a in (1, 2)]
    return out


def shorted(circuit: Wiring, position: Position) -> tuple[int, int] | None:
    """Two legs of the source that are joined in this position while nothing is open; none where none are."""
    source = f"{circuit.elements[0].id}.out"
    of: dict[str, int] = {}
    for leg in circuit.legs:
        for p in tied(point(source, leg), [(a, b) for a, b, _ in joints(circuit, position)]):
            if of.setdefault(p, leg) != leg:
                return of[p], leg
    return None


def tied(start: str, pairs: Sequence[tuple[str, str]]) -> dict[str, str]:
    """Which points are reached from this one along what is joined, each with the one that it is reached
    from.
    """
    beside: dict[str, list[str]] = {}
    for a, b in pairs:
        beside.setdefault(a, []).append(b)
        beside.setdefault(b, []).append(a)
    came, ahead = {start: ""}, [start]
    for p in ahead:
        for q in beside.get(p, []):
            if q not in came:
                came[q] = p
                ahead.append(q)
    return came


def known_point(circuit: Wiring, name: str) -> str:
    """A point of this circuit, or ground. Raises `point_unknown`."""
    there = {point(r, leg) for r in rungs(circuit) for leg in circuit.legs} | {"ground"}
    if name not in there:
        raise HurbinError(
            "point_unknown",
            f"This circuit has no point {name}. Edit the circuit, or read at a point that it has.",
            field="point",
            value=name,
            right=", ".join(rungs(circuit)),
        )
    return name
