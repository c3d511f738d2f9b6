"""A starter's three legs as conductors, contacts and windings: what stands between two terminals when
something in it is broken.

Every span is a conductance, closed or broken; the windings of a standing motor are three of them from the
terminals to a star point; the meter is one between its tips. The potentials are those at which no current is
left over at any terminal. No rule's network or table is used here.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

_CLOSED, _BROKEN = 1e3, 1e-10
_LEAK = 1e-11
# A place of the circuit, and its leg.
Terminal = tuple[str, int]


@dataclass(slots=True)
class Ladder:
    """places: the terminals from the source down ("S.out", "F.in", "F.out", …), each on three legs. beside:
    what else is joined, terminal to terminal. broken: spans by their upper place and leg ("F.in", 2). coils:
    the elements whose contacts a coil closes. taps: place, two legs, ohms. far: where the windings end;
    nothing said: in a star point of their own. winding_ohm: of each phase of the motor at standstill.
    """

    volts: float
    places: Sequence[str]
    broken: set[Terminal] = field(default_factory=set)
    beside: Sequence[tuple[Terminal, Terminal]] = ()
    coils: Collection[str] = ("K",)
    taps: Sequence[tuple[str, int, int, float]] = ()
    far: str = ""
    winding_ohm: float = 1.4

    def reads(self, one: Terminal, two: Terminal, pulled: Collection[str], meter_ohm: float) -> float:
        """Volts that a meter of this resistance shows between two terminals. pulled: the elements that are in
        of those that a coil closes.
        """
        more = {p for pair in self.beside for p, _ in pair} - {*self.places}
        nodes = [(p, leg) for p in (*self.places, *sorted(more)) for leg in (1, 2, 3)] + [("star", 0)]
        at = {n: i for i, n in enumerate(nodes)}
        size = len(nodes)
        flows = [[0j] * size for _ in range(size)]
        driven = [0j] * size

        def between(a: int, b: int, siemens: complex) -> None:
            flows[a][a] += siemens
            flows[b][b] += siemens
            flows[a][b] -= siemens
            flows[b][a] -= siemens

        for i in range(size):
            flows[i][i] += _LEAK
        for leg in (1, 2, 3):
            source = at[self.places[0], leg]
            flows[source][source] += _CLOSED
            driven[source] = _CLOSED * cmath.rect(self.volts / math.sqrt(3), -2 * math.pi * (leg - 1) / 3)
            end = at[self.far, leg] if self.far else at["star", 0]
            wound = (self.places[-1], leg) not in self.broken
            winding = 1 / cmath.rect(self.winding_ohm, math.radians(68))
            between(at[self.places[-1], leg], end, winding if wound else _BROKEN)
        down = [((a, leg), (b, leg)) for a, b in pairwise(self.places) for leg in (1, 2, 3)]
        for upper, lower in (*down, *self.beside):
            element, _, side = upper[0].partition(".")
            out = side == "in" and element in self.coils and element not in pulled
            between(at[upper], at[lower], _BROKEN if out or upper in self.broken else _CLOSED)
        for place, a, b, ohms in self.taps:
            between(at[place, a], at[place, b], 1 / complex(0.3 * ohms, 0.95 * ohms))
        between(at[one], at[two], 1 / meter_ohm)
        found = _potentials(flows, driven)
        return abs(found[at[one]] - found[at[two]])


def _potentials(flows: list[list[complex]], driven: list[complex]) -> list[complex]:
    """Downwards each terminal is written by the ones after it, upwards it is read off."""
    n = len(driven)
    for k in range(n - 1):
        for i in range(k + 1, n):
            if flows[i][k]:
                share = flows[i][k] / flows[k][k]
                flows[i] = [x - share * y for x, y in zip(flows[i], flows[k], strict=True)]
                driven[i] -= share * driven[k]
    out = [0j] * n
    for k in reversed(range(n)):
        out[k] = (driven[k] - sum(flows[k][j] * out[j] for j in range(k + 1, n))) / flows[k][k]
    return out
