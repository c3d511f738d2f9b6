"""A running three-phase motor as a circuit: phasors, sequence impedances, a shaft that asks for power.

The line-to-ground volts are set as phasors; the motor answers with a positive-sequence current for its load
and a negative-sequence current through its (much lower) locked impedance; a bad joint is a resistance in one
leg. What a meter would show are the magnitudes. No rule's formula is used here.
"""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass

_TURN = cmath.exp(2j * math.pi / 3)


@dataclass(frozen=True, slots=True)
class Supply:
    """Line-to-line volts, and how far each phase's magnitude is off (share)."""

    volts: float
    off: tuple[float, float, float] = (0.0, 0.0, 0.0)
    phases: int = 3


@dataclass(frozen=True, slots=True)
class Machine:
    """A motor by its equivalent circuit at plate volts: plate amps, no-load share, locked-rotor multiple."""

    volts: float
    amps: float
    no_load: float = 0.38
    locked: float = 6.5
    joint_ohm: tuple[float, float, float] = (0.0, 0.0, 0.0)


def read_running(
    machine: Machine, supply: Supply, shaft: float, hz_share: float = 1.0
) -> tuple[list[float], list[float]]:
    """What stands between the legs and flows in them at a shaft power (share of rated)? (volts ×3, amps ×3).

    The in-phase current carries the shaft's power at the volts there are; the magnetising current follows
    volts over frequency. Single-phase machines answer with their one volt and one amp figure.
    """
    scale = supply.volts / (machine.volts * hz_share)
    magnetising = machine.amps * machine.no_load * scale**1.6
    working = machine.amps * math.sqrt(1 - machine.no_load**2) * shaft / max(scale, 0.1)
    if supply.phases == 1:
        return [supply.volts], [math.hypot(working, magnetising)]
    phase = supply.volts / math.sqrt(3)
    ground = [phase * (1 + supply.off[i]) * _TURN ** (-i) for i in range(3)]
    positive = sum(ground[i] * _TURN**i for i in range(3)) / 3
    negative = sum(ground[i] * _TURN ** (-i) for i in range(3)) / 3
    lag = positive / abs(positive)
    forward = complex(working, -magnetising) * lag
    locked_ohm = (machine.volts * hz_share / math.sqrt(3)) / (machine.amps * machine.locked)
    backward = negative / (locked_ohm * cmath.exp(1.2j))
    legs = [forward * _TURN ** (-i) + backward * _TURN**i for i in range(3)]
    if any(machine.joint_ohm):
        dropped = [legs[i] * machine.joint_ohm[i] for i in range(3)]
        lost = sum(dropped[i] * _TURN ** (-i) for i in range(3)) / 3
        extra = -lost / (locked_ohm * cmath.exp(1.2j))
        legs = [legs[i] + extra * _TURN**i for i in range(3)]
    between = [abs(ground[0] - ground[1]), abs(ground[1] - ground[2]), abs(ground[2] - ground[0])]
    return between, [abs(i) for i in legs]
