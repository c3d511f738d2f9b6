"""From what feelers, dials and lasers show at the clock to where the motor's axis stands against the pump's.

One convention: seen from behind the motor towards the pump, 12 up, 3 right, 9 left. x runs from the measuring
plane back along the motor; e(x) = offset + slope·x is the motor's axis against the pump's; positive is motor
high, motor right. All in mm and mm/mm.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ..base import Limits
from .formulas import Clock, half_difference, positive

_LIMITS = Limits()
# What a straightedge, a feeler between faces and a dial can tell apart, in mm.
STEP_U, GAP_U, DIAL_U = (_LIMITS.value(f"alignment.{n}_u") for n in ("straightedge", "feeler", "dial"))
CLOSURE_MM = _LIMITS.value("alignment.dial_closure")
CLOSURE_SHARE = _LIMITS.value("alignment.dial_closure_share") / 100


@dataclass(frozen=True, slots=True)
class Plane:
    """One plane of a shaft's position: offset and slope, each with what it may be off by. None:
    not read.
    """

    offset: float | None = None
    slope: float | None = None
    u_offset: float = 0.0
    u_slope: float = 0.0

    def at(self, x: float) -> float | None:
        """The motor's axis against the pump's at x, or None while it is not known.

        >>> round(Plane(0.20, -0.30 / 150).at(500), 6)
        -0.8
        """
        return None if self.offset is None or self.slope is None else self.offset + self.slope * x


@dataclass(frozen=True, slots=True)
class ShaftPosition:
    """Where the motor stands: seen from the side, and from above."""

    vertical: Plane
    horizontal: Plane


def _over(c: Clock, plus: int, minus: int, diameter: float) -> float | None:
    half = half_difference(c, plus, minus)
    return None if half is None else 2 * half / diameter


def straightedge(
    steps: Clock, gaps: Clock, face_diameter: float, u_steps: Mapping[int, float] | None = None
) -> ShaftPosition:
    """Straightedge and feeler. step(θ) > 0: the motor's hub is proud at θ; gaps between the faces over their
    diameter.

    Half the difference of opposite steps cancels unequal hubs (not eccentric ones). Wider at the top: the
    motor's tail is low.
    """
    d = positive("face_diameter", face_diameter, "Face diameter")
    u = u_steps or {}

    def u_of(a: int, b: int) -> float:
        return (u.get(a, STEP_U) + u.get(b, STEP_U)) / 2

    def slope(a: int, b: int) -> float | None:
        s = _over(gaps, a, b, d)
        return None if s is None else -s

    return ShaftPosition(
        Plane(half_difference(steps, 12, 6), slope(12, 6), u_of(12, 6), GAP_U / d),
        Plane(half_difference(steps, 3, 9), slope(3, 9), u_of(3, 9), GAP_U / d),
    )


def closure_miss(readings: Clock) -> float | None:
    """By how much do four readings of one dial miss 3 + 9 = 12 + 6, beyond what is allowed? None while one is
    missing; 0 when they close.

    Allowed: 0.02 mm or a tenth of the largest, whichever is more (common practice, no source). A forgotten
    sag is not seen by it.
    """
    got = [readings.get(k) for k in (3, 9, 12, 6)]
    if any(v is None for v in got):
        return None
    three, nine, twelve, six = (float(v) for v in got if v is not None)
    miss = abs(three + nine - twelve - six)
    allowed = max(CLOSURE_MM, CLOSURE_SHARE * max(abs(three), abs(nine), abs(twelve), abs(six)))
    return miss if miss > allowed * (1 + 1e-9) else 0.0


def rim_offset(rim: Clock, carried_by: str) -> tuple[float | None, float | None]:
    """Offset (vertical, horizontal) at the plane the plunger touches, from a rim dial, in-travel positive. It
    reads twice the offset.
    """
    if carried_by == "motor":
        return half_difference(rim, 6, 12), half_difference(rim, 9, 3)
    return half_difference(rim, 12, 6), half_difference(rim, 3, 9)


def rim_face(rim: Clock, face: Clock, sweep: float, carried_by: str, touches: str) -> ShaftPosition:
    """Rim and face dials, without sag. The face dial's sign turns with the side of the hub that it touches,
    whoever carries it.
    """
    d = positive("face_diameter", sweep, "Face dial sweep diameter")
    v, h = rim_offset(rim, carried_by)
    sign = 1.0 if touches == "front" else -1.0

    def slope(a: int, b: int) -> float | None:
        s = _over(face, a, b, d)
        return None if s is None else sign * s

    return ShaftPosition(
        Plane(v, slope(12, 6), DIAL_U, 2 * DIAL_U / d), Plane(h, slope(3, 9), DIAL_U, 2 * DIAL_U / d)
    )


def reverse(on_motor: Clock, on_pump: Clock, distance: float) -> ShaftPosition:
    """Reverse dials: the one carried by the motor touches the pump's hub, the one carried by the pump touches
    the motor's hub, `distance` further back. The position is told at the pump's plane (x = 0).
    """
    length = positive("plane_distance", distance, "Distance between the two planes")
    at_pump, at_motor = rim_offset(on_motor, "motor"), rim_offset(on_pump, "pump")

    def plane(i: int) -> Plane:
        a, b = at_pump[i], at_motor[i]
        slope = None if a is None or b is None else (b - a) / length
        return Plane(a, slope, DIAL_U, 2 * DIAL_U / length)

    return ShaftPosition(plane(0), plane(1))


def against(plane: Plane, target: float, target_slope: float = 0.0) -> Plane:
    """What is left between where the motor stands and where it has to stand cold."""
    return replace(
        plane,
        offset=None if plane.offset is None else plane.offset - target,
        slope=None if plane.slope is None else plane.slope - target_slope,
    )
