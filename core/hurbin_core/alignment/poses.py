"""From what feelers, dials and lasers show at the clock to where the motor's axis stands against the pump's.

One convention: seen from behind the motor towards the pump, 12 up, 3 right, 9 left. x runs from the measuring plane back along
the motor; e(x) = offset + slope·x is the motor's axis against the pump's; positive is motor high, motor right. All in mm and mm/mm.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ..base import HurbinError

Clock = Mapping[int, float | None]
# Common practice, no source: what a straightedge, a feeler between faces and a dial can tell apart.
STEP_U, GAP_U, DIAL_U = 0.05, 0.05, 0.01
CLOSURE_MM, CLOSURE_SHARE = 0.02, 0.10


@dataclass(frozen=True, slots=True)
class Plane:
    """One plane of a pose: offset at the measuring plane and slope, each with what it may be off by. None: not read."""

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
class Pose:
    """Where the motor stands: seen from the side, and from above."""

    vertical: Plane
    horizontal: Plane


def _half(c: Clock, plus: int, minus: int) -> float | None:
    a, b = c.get(plus), c.get(minus)
    return None if a is None or b is None else (a - b) / 2


def _over(c: Clock, plus: int, minus: int, diameter: float) -> float | None:
    half = _half(c, plus, minus)
    return None if half is None else 2 * half / diameter


def _positive(name: str, value: float, words: str) -> float:
    if not value > 0:
        raise HurbinError("diameter_zero", f"{words} has to be above zero.", field=name, value=value, right="the figure from a rule or calliper")
    return value


def straightedge(steps: Clock, gaps: Clock, face_diameter: float, u_steps: Mapping[int, float] | None = None) -> Pose:
    """Straightedge and feeler. step(θ) > 0: the motor's hub is proud at θ; gaps between the faces over their diameter.

    Half the difference of opposite steps cancels unequal hubs (not eccentric ones). Wider at the top: the motor's tail is low.
    """
    d = _positive("face_diameter", face_diameter, "The diameter of the faces")
    u = u_steps or {}

    def u_of(a: int, b: int) -> float:
        return (u.get(a, STEP_U) + u.get(b, STEP_U)) / 2

    def slope(a: int, b: int) -> float | None:
        s = _over(gaps, a, b, d)
        return None if s is None else -s

    return Pose(
        Plane(_half(steps, 12, 6), slope(12, 6), u_of(12, 6), GAP_U / d),
        Plane(_half(steps, 3, 9), slope(3, 9), u_of(3, 9), GAP_U / d),
    )


def without_sag(readings: Clock, sag: float) -> dict[int, float | None]:
    """A dial's readings, zeroed at 12, without the sag of what carries it: all of it at 6, half at 3 and 9.

    >>> without_sag({12: 0.0, 6: 0.10}, -0.06)[6]
    0.16
    """
    share = {12: 0.0, 3: 0.5, 6: 1.0, 9: 0.5}
    return {k: None if v is None else round(v - sag * share[k], 12) for k, v in readings.items()}


def closure_miss(readings: Clock) -> float | None:
    """By how much do four readings of one dial miss 3 + 9 = 12 + 6, beyond what is allowed? None while one is missing; 0 when they close.

    Allowed: 0.02 mm or a tenth of the largest, whichever is more (common practice, no source). A forgotten sag is not seen by it.
    """
    got = [readings.get(k) for k in (3, 9, 12, 6)]
    if any(v is None for v in got):
        return None
    three, nine, twelve, six = (float(v) for v in got if v is not None)
    miss = abs(three + nine - twelve - six)
    allowed = max(CLOSURE_MM, CLOSURE_SHARE * max(abs(three), abs(nine), abs(twelve), abs(six)))
    return miss if miss > allowed * (1 + 1e-9) else 0.0


def rim_offset(rim: Clock, carried_by: str) -> tuple[float | None, float | None]:
    """Offset (vertical, horizontal) at the plane the plunger touches, from a rim dial, in-travel positive. It reads twice the offset."""
    if carried_by == "motor":
        return _half(rim, 6, 12), _half(rim, 9, 3)
    return _half(rim, 12, 6), _half(rim, 3, 9)


def rim_face(rim: Clock, face: Clock, sweep: float, carried_by: str, touches: str) -> Pose:
    """Rim and face dials, without sag. The face dial's sign turns with the side of the hub that it touches, whoever carries it."""
    d = _positive("face_diameter", sweep, "The face dial's own sweep")
    v, h = rim_offset(rim, carried_by)
    sign = 1.0 if touches == "front" else -1.0

    def slope(a: int, b: int) -> float | None:
        s = _over(face, a, b, d)
        return None if s is None else sign * s

    return Pose(Plane(v, slope(12, 6), DIAL_U, 2 * DIAL_U / d), Plane(h, slope(3, 9), DIAL_U, 2 * DIAL_U / d))


def reverse(on_motor: Clock, on_pump: Clock, distance: float) -> Pose:
    """Reverse dials: the one carried by the motor touches the pump's hub, the one carried by the pump touches the motor's hub,
    `distance` further back. The pose is told at the pump's plane (x = 0)."""
    length = _positive("plane_distance", distance, "The distance between the two planes")
    at_pump, at_motor = rim_offset(on_motor, "motor"), rim_offset(on_pump, "pump")

    def plane(i: int) -> Plane:
        a, b = at_pump[i], at_motor[i]
        slope = None if a is None or b is None else (b - a) / length
        return Plane(a, slope, DIAL_U, 2 * DIAL_U / length)

    return Pose(plane(0), plane(1))


def flange_lift(gaps: Clock, diameter: float, distance: float, pitch: float | None = None) -> tuple[float, float | None] | None:
    """By how much is the support of a motor on an adapter raised (positive), from the gaps at 12 and 6? Also in turns of its nut.

    Wider at 12: the far end is low. A check of the support's height, no proof of shaft alignment."""
    half = _half(gaps, 12, 6)
    if half is None:
        return None
    lift = 2 * half / _positive("face_diameter", diameter, "The flange's diameter") * distance
    return lift, lift / pitch if pitch else None


def against(plane: Plane, target: float, target_slope: float = 0.0) -> Plane:
    """What is left between where the motor stands and where it has to stand cold."""
    return replace(
        plane, offset=None if plane.offset is None else plane.offset - target, slope=None if plane.slope is None else plane.slope - target_slope
    )
