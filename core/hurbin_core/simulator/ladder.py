"""A starter's three legs as conductors, contacts and windings: what stands between two terminals when
something in it is broken.

Every span is a conductance, closed or broken; the windings of a standing motor are three of them from the
terminals to a star point; the meter is one between its tips. The potentials are those at which no current is
left over at any terminal. No rule's network or table is used here.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence
from dataclasses import dataclass, field

_CLOSED, _BROKEN = 1e3, 1e-10
_LEAK = 1e-11


@dataclass(slots=True)
class Ladder:
    """places: the terminals from the source down ("S.out", "F.in", "F.out", …), each on three legs. broken:
    spans by their upper place and leg ("F.in", 2). coil: the element whose contacts a coil closes. taps:
    place, two legs, ohms. winding_ohm: of each phase of the motor at standstill.
    """

    volts: float
    places: Sequence[str]
    broken: set[tuple[str, int]] = field(default_factory=set)
    coil: str = "K"
    taps: Sequence[tuple[str, int, int, float]] = ()
    winding_ohm: float = 1.4

    def reads(self, one: tuple[str, int], two: tuple[str, int], closed: bool, meter_ohm: float) -> float:
        """Volts that a meter of this resistance shows between two terminals, the contactor in or out."""
        nodes = [(p, leg) for p in self.places for leg in (1, 2, 3)] + [("star", 0)]
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
            for upper, lower in zip(self.places, self.places[1:], strict=False):
                coil = upper == f"{self.coil}.in" and not closed
                shut = (upper, leg) not in self.broken and not coil
                between(at[upper, leg], at[lower, leg], _CLOSED if shut else _BROKEN)
            between(
                at[self.places[-1], leg], at["star", 0], 1 / cmath.rect(self.winding_ohm, math.radians(68))
            )
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
