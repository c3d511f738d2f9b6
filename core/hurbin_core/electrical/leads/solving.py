"""Volts and angle of each half winding, amps and torque at standstill, for leads joined in any way."""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass
from functools import lru_cache

from ..circuit.machine import MOTOR, A
from ..circuit.network import Machine, Network, inverse, solve
from ..circuit.points import tied
from .windings import LINES, Box, Winding

_TURN = 2 * math.pi / 3


@dataclass(frozen=True, slots=True)
class Driven:
    """What each half winding gets from a supply of one volt between lines.

    volts: across each, phasors; shorted, open_: which have both ends on one nut, or no way for a current.
    lines: current of each line, phasors, in units of the motor's own; torque: with its sign, in the same.
    """

    volts: tuple[complex, ...]
    shorted: frozenset[int]
    open_: frozenset[int]
    lines: tuple[complex, ...]
    heat: tuple[float, ...]
    torque: float


@lru_cache(maxsize=16)
def _impedances(phases: tuple[int, ...]) -> tuple[tuple[complex, ...], ...]:
    """Between half windings at standstill, per unit: its own leakage, and the field that all of them make.
    In series they are one phase of the motor.
    """
    halves = len(phases) // 3
    iron, rotor = complex(0, MOTOR.magnetising_x), complex(MOTOR.rotor_r, MOTOR.rotor_x)
    own = complex(MOTOR.stator_r, MOTOR.stator_x) / halves
    field = iron * rotor / (iron + rotor) / halves**2
    return tuple(
        tuple(
            (own if i == j else 0j)
            + field * (cmath.exp(1j * _TURN * (a - b)) + cmath.exp(-1j * _TURN * (a - b))) / 3
            for j, b in enumerate(phases)
        )
        for i, a in enumerate(phases)
    )


def driven(winding: Winding, box: Box) -> Driven:
    """What does each half winding get when the leads are joined like this?

    Coupled half windings of a motor that stands, nodal analysis. A lead that is in no nut is open. Raises
    ValueError where two lines are in one nut.
    """
    joined: list[tuple[str, str]] = []
    for nut in box:
        first, *rest = sorted(nut)
        joined += [(first, x) for x in rest]
    ends = [(a, b) for a, b, _ in winding.coils]
    phases = tuple(p for *_, p in winding.coils)
    reached = {p for line in LINES for p in tied(line, [*joined, *ends])}
    shorted = {k for k, (a, b) in enumerate(ends) if b in tied(a, joined)}
    dead = {k for k, (a, b) in enumerate(ends) if a not in reached and b not in reached}
    live = [k for k in range(len(ends)) if k not in dead]
    z = _impedances(phases)
    y = inverse([[z[i][j] for j in live] for i in live])
    points = [ends[k][0] for k in live] + [ends[k][1] for k in live]
    rows = [[s * v for s in (side, -side) for v in row] for side in (1, -1) for row in y]
    held = {line: A**-k / math.sqrt(3) for k, line in enumerate(LINES)}
    machine = Machine(tuple(points), tuple(tuple(row) for row in rows))
    solved = solve(
        Network(held, joined, [], [machine], [*winding.names, *LINES, *(p for e in ends for p in e)])
    )
    volts = [0j] * len(ends)
    for k in live:
        a, b = (solved.potential(p) or 0j for p in ends[k])
        volts[k] = a - b
    amps = [0j] * len(ends)
    for k, row in zip(live, y, strict=True):
        amps[k] = sum((v * volts[j] for v, j in zip(row, live, strict=True)), 0j)
    lines = tuple(
        sum((amps[k] for k in live if ends[k][0] in at), 0j)
        - sum((amps[k] for k in live if ends[k][1] in at), 0j)
        for at in (tied(line, joined) for line in LINES)
    )
    carries = [abs(i) > 1e-6 for i in amps]
    open_ = {k for k in range(len(ends)) if not carries[k] and k not in shorted}
    ahead, back = (
        abs(sum(i * cmath.exp(s * 1j * _TURN * p) for i, p in zip(amps, phases, strict=True)))
        for s in (1, -1)
    )
    heat = tuple(abs(i) ** 2 for i in amps)
    return Driven(tuple(volts), frozenset(shorted), frozenset(open_), lines, heat, ahead**2 - back**2)
