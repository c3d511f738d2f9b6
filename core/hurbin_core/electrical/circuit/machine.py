"""An induction motor as its two sequences: standing, turning, turning on two legs."""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import lru_cache

from ...base import RULEBOOK, Model

A = complex(-0.5, math.sqrt(3) / 2)


class _Motor(Model):
    """Resistances and reactances of one phase, per unit of rated volts and amps."""

    stator_r: float
    stator_x: float
    magnetising_x: float
    rotor_r: float
    rotor_x: float
    source: str
    certainty: str
    why: str


class _File(Model):
    motor: _Motor


MOTOR = RULEBOOK.section("electrical/circuit/network.toml", _File).motor


def impedance(slip: float) -> complex:
    """Of one phase at this slip, per unit: stator, then magnetising beside rotor. The equivalent circuit of
    every textbook; at 1 it stands, at 2 − s it is what the backward sequence meets.
    """
    m = MOTOR
    rotor = complex(m.rotor_r / slip, m.rotor_x)
    iron = complex(0, m.magnetising_x)
    return complex(m.stator_r, m.stator_x) + iron * rotor / (iron + rotor)


def _torque(slip: float, current: complex) -> float:
    """Of a sequence that carries this current, per unit of rated volts times amps."""
    m = MOTOR
    share = complex(0, m.magnetising_x) / complex(m.rotor_r / slip, m.rotor_x + m.magnetising_x)
    return float(abs(current * share) ** 2) * m.rotor_r / slip


def _slip_at(torque: float, single: bool) -> float | None:
    """The slip on the stable side at which the motor gives this torque; none: it cannot, it stalls."""

    def given(s: float) -> float:
        if not single:
            return _torque(s, 1 / impedance(s))
        current = 1 / (impedance(s) + impedance(2 - s))
        return _torque(s, current) - _torque(2 - s, current)

    slips = [1e-4 * 1.05**k for k in range(190)]
    top = max(slips, key=given)
    if given(top) < torque:
        return None
    low, high = 1e-5, top
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if given(middle) < torque else (low, middle)
    return high


@lru_cache(maxsize=1)
def _rated() -> float:
    """The torque at which it takes its rated amps."""
    low, high = 1e-4, 0.2
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if abs(1 / impedance(middle)) < 1 else (low, middle)
    return _torque(high, 1 / impedance(high))


@lru_cache(maxsize=64)
def sequences(turning: bool, load: float, single: bool) -> tuple[complex, complex, complex]:
    """Admittance of the forward, the backward and the zero sequence, per unit. `load`: torque, of rated;
    `single`: one of its legs is lost. Standing, or stalled, the first two are those of the locked rotor. The
    zero sequence passes the stator's leakage alone.
    """
    zero = 1 / complex(MOTOR.stator_r, MOTOR.stator_x)
    slip = _slip_at(load * _rated(), single) if turning else None
    if slip is None:
        return 1 / impedance(1), 1 / impedance(1), zero
    return 1 / impedance(slip), 1 / impedance(2 - slip), zero


Rows = tuple[tuple[complex, ...], ...]


def three_legs(forward: complex, backward: complex, zero: complex = 0j) -> Rows:
    """The admittances between three legs of a machine, from those of its sequences: the transformation to
    symmetrical components and back. Without a neutral the zero sequence is nothing.
    """
    a, a2 = A, A * A
    first = (zero + forward + backward) / 3
    second = (zero + forward * a + backward * a2) / 3
    third = (zero + forward * a2 + backward * a) / 3
    return ((first, second, third), (third, first, second), (second, third, first))


def between_ends(windings: Rows, out: Iterable[int] = ()) -> Rows:
    """The same between six points, the starts of three windings and then their ends. out: those windings that
    are open; no current flows in them, and what the others induce there moves their ends alone.
    """
    rows = [list(row) for row in windings]
    for k in out:
        rows = [
            [0j if k in (i, j) else rows[i][j] - rows[i][k] * rows[k][j] / rows[k][k] for j in range(3)]
            for i in range(3)
        ]
    return tuple(tuple(sign * y for sign in (side, -side) for y in row) for side in (1, -1) for row in rows)
