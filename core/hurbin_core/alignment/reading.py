"""One pass as typed: its figures, what cannot be, and the position that they give."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import combinations

from pydantic import BaseModel

from ..base import TABLES, HurbinError, Limits, Problem, Read, exceeds, field_rules, read_fields
from .entry import AlignmentEntry, PassRead
from .formulas import Clock, without_sag
from .shaft_position import (
    DIAL_U,
    Plane,
    ShaftPosition,
    closure_miss,
    reverse,
    rim_face,
    straightedge,
)

FIELDS = field_rules(AlignmentEntry)
WORDS = {str(w): (float(step), float(u)) for w, step, u in TABLES["alignment.words"].rows}
CLOCKS = (12, 3, 6, 9)
PER_100 = 100.0
_METRIC, _INCH = ("mm",), ("in", "mil")
_RINGS = {
    "step": "steps",
    "gap": "gaps",
    "rim": "dial readings",
    "face": "dial readings",
    "back": "dial readings",
}


@dataclass(slots=True)
class Typed:
    """The figures of an entry, metric, and what cannot be."""

    got: dict[str, Read] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    def value(self, name: str) -> float | None:
        return self.got[name].value if name in self.got else None

    def clock(self, prefix: str, zeroed: bool) -> dict[int, float | None]:
        out: dict[int, float | None] = {}
        for k in CLOCKS:
            r = self.got.get(f"{prefix}_{k}")
            out[k] = (
                WORDS[r.word][0] if r is not None and r.word in WORDS else r.value if r is not None else None
            )
        if zeroed and any(v is not None for v in out.values()):
            out[12] = 0.0
        return out

    def refuse(self, code: str, name: str, message: str, right: str = "") -> None:
        self.problems.append(Problem(code=code, field=name, value="", message=message, right=right))


def take(body: BaseModel) -> Typed:
    """Every figure of an entry, and a problem under its own field for each that is none."""
    return Typed(*read_fields(body))


def rings(method: str) -> tuple[str, ...]:
    return {
        "straightedge": ("step", "gap"),
        "rim_face": ("rim", "face"),
        "reverse": ("rim", "back"),
        "flange": ("gap",),
    }.get(method, ())


def check_reading(body: PassRead, r: Typed, limits: Limits) -> None:
    """What a set of readings shows to be wrong before any position is made of it: feet, diameters, mixed
    units, a dial beyond its travel.
    """
    front, rear = r.value("x_front"), r.value("x_rear")
    if front is not None and front <= 0:
        r.refuse(
            "feet_in_front",
            "x_front",
            "The front feet are behind the coupling: measure from the measuring plane back along the motor.",
            "more than 0 mm",
        )
    if front is not None and rear is not None and rear <= front:
        r.refuse(
            "feet_in_front",
            "x_rear",
            "The rear feet must be further back than the front feet.",
            f"more than {front:g} mm",
        )
    for name in ("face_diameter", "plane_distance", "coupling_diameter"):
        if r.value(name) == 0:
            r.refuse("diameter_zero", name, f"{FIELDS[name].label} cannot be zero.", "the measured figure")
    sag = r.value("sag")
    if body.method in ("rim_face", "reverse") and sag is not None and sag > 0:
        r.refuse(
            "sag_sign",
            "sag",
            "Sag pulls the dial down: zeroed at 12 it reads minus at 6.",
            "−0.06 mm, as read over a stiff pipe",
        )
    for ring in rings(body.method):
        _one_system(body, r, ring)
        if ring in ("rim", "face", "back"):
            _within_travel(r, ring, limits)


def _one_system(body: PassRead, r: Typed, ring: str) -> None:
    """Inches beside millimetres in one set of four: one of them was typed on in the other's unit."""
    systems: dict[bool, str] = {}
    for k in CLOCKS:
        entered = getattr(body, f"{ring}_{k}", None)
        got = r.got.get(f"{ring}_{k}")
        if entered is None or got is None or got.word or got.value == 0:
            continue
        inch = entered.text.rstrip().lower().endswith(("in", "mil", "thou", '"', "inch")) or (
            entered.unit in _INCH and not entered.text.rstrip().lower().endswith("mm")
        )
        systems.setdefault(inch, f"{ring}_{k}")
    if len(systems) == 2:
        name = systems[True]
        r.refuse(
            "mixed_units",
            name,
            f"These four {_RINGS[ring]} mix inches and millimetres. If inches are meant, this one is"
            f" {r.got[name].value:.3f} mm.",
            "one unit for all four",
        )


def _within_travel(r: Typed, ring: str, limits: Limits) -> None:
    most = limits.value("alignment.dial_travel")
    for k in CLOCKS:
        v = r.value(f"{ring}_{k}")
        if v is not None and exceeds(abs(v), most):
            r.refuse(
                "dial_travel",
                f"{ring}_{k}",
                f"{abs(v):g} mm is more than the dial's travel of {most:g} mm. Count the turns again, or"
                " bring the motor close by eye first.",
                f"at most {most:g} mm",
            )


def position_of(body: PassRead, r: Typed, limits: Limits) -> ShaftPosition | None:
    """The position of this pass, or None when nothing of it was read; a set of readings that cannot be one
    shaft is refused.
    """
    try:
        if body.method == "straightedge":
            return _by_feeler(r, limits)
        if body.method == "rim_face":
            return _by_rim_face(body, r)
        if body.method == "reverse":
            return _by_reverse(r)
        return _by_laser(r) if body.method == "laser" else None
    except HurbinError as error:
        r.problems.append(Problem.of(error))
        return None


def check_gaps(r: Typed, limits: Limits) -> None:
    """A gap larger than a quarter of its face is no gap."""
    d = r.value("face_diameter")
    for k, g in r.clock("gap", False).items():
        if g is not None and d and g > d * limits.value("alignment.gap_share") / 100:
            r.refuse(
                "gap_too_large",
                f"gap_{k}",
                f"A gap of {g:g} mm on a face of {d:g} mm is not possible. Was it read in thousandths of"
                " an inch?",
                "a gap far below a quarter of the face diameter",
            )


def _by_feeler(r: Typed, limits: Limits) -> ShaftPosition | None:
    steps, gaps = r.clock("step", False), r.clock("gap", False)
    if not any(v is not None for v in (*steps.values(), *gaps.values())):
        return None
    check_gaps(r, limits)
    closure = limits.value("alignment.feeler_closure")
    worded = any(x.word in WORDS for x in r.got.values())
    for ring, clock, words in (("step", steps, "steps"), ("gap", gaps, "gaps")):
        if not (ring == "step" and worded) and not any(p.field.startswith(ring) for p in r.problems):
            _feelers_close(r, ring, clock, words, closure)
    d = r.value("face_diameter")
    u = {k: WORDS[x.word][1] for k in CLOCKS if (x := r.got.get(f"step_{k}")) is not None and x.word in WORDS}
    return straightedge(steps, gaps if d is not None else {}, d if d is not None else 1.0, u)


def _miss(clock: Clock) -> float | None:
    a, b, c, d = (clock.get(k) for k in CLOCKS)
    return None if a is None or b is None or c is None or d is None else (b + d) - (a + c)


def exchanged(clock: Clock, allowed: float, hours: tuple[int, ...] = CLOCKS) -> str:
    """Which clock positions, read the other way round, would make the four close? In words, empty when no
    single exchange does.
    """
    pairs = []
    for one, two in combinations(hours, 2):
        miss = _miss({**clock, one: clock.get(two), two: clock.get(one)})
        if miss is not None and abs(miss) <= allowed:
            pairs.append(f"{one} and {two}")
    return " or ".join(pairs)


def _feelers_close(r: Typed, ring: str, clock: Clock, words: str, allowed: float) -> None:
    miss = _miss(clock)
    if miss is None or not exceeds(abs(miss), allowed):
        return
    pairs = exchanged(clock, 0.05)
    likely = (
        f"They would fit with {pairs} swapped: were the clock positions mixed up?"
        if pairs
        else "Was one read at a different step, or after turning the hubs?"
    )
    r.refuse(
        "not_one_shaft",
        f"{ring}_6",
        f"These four {words} cannot be from one shaft: 3 + 9 differs from 12 + 6 by {abs(miss):.2f} mm."
        f" {likely}",
        "3 + 9 equal to 12 + 6",
    )


def _closes(r: Typed, dial: dict[int, float | None], prefix: str, words: str) -> None:
    miss = closure_miss(dial)
    if not miss:
        return
    pairs = exchanged(dial, 0.02, (3, 6, 9))
    likely = f" It closes with {pairs} swapped: were the clock positions mixed up?" if pairs else ""
    right = "3 + 9 equal to 12 + 6"
    r.refuse(
        "not_one_shaft",
        f"{prefix}_6",
        f"{words}: 3 + 9 differs from 12 + 6 by {miss:.2f} mm. These four cannot be from one shaft: loose"
        f" bracket, slipped dial, or a wrong sign.{likely}",
        right,
    )


def _by_rim_face(body: PassRead, r: Typed) -> ShaftPosition | None:
    rim, face = r.clock("rim", True), r.clock("face", True)
    if not any(v is not None for v in (*rim.values(), *face.values())):
        return None
    rim = without_sag(rim, r.value("sag") or 0.0)
    _closes(r, rim, "rim", "Rim")
    _closes(r, face, "face", "Face")
    d = r.value("face_diameter")
    return rim_face(
        rim, face if d is not None else {}, d if d is not None else 1.0, body.carried_by, body.face_touches
    )


def _by_reverse(r: Typed) -> ShaftPosition | None:
    one, two = r.clock("rim", True), r.clock("back", True)
    if not any(v is not None for v in (*one.values(), *two.values())):
        return None
    sag = r.value("sag") or 0.0
    one, two = without_sag(one, sag), without_sag(two, sag)
    _closes(r, one, "rim", "Motor-side dial")
    _closes(r, two, "back", "Pump-side dial")
    distance = r.value("plane_distance")
    return reverse(one, two, distance) if distance is not None else reverse(one, {}, 1.0)


def _by_laser(r: Typed) -> ShaftPosition | None:
    names = ("offset_v", "offset_h", "angle_v", "angle_h")
    if not any(n in r.got for n in names):
        return None
    v, h, av, ah = (r.value(n) for n in names)
    return ShaftPosition(
        Plane(v, av / PER_100 if av is not None else None, DIAL_U, 0.0),
        Plane(h, ah / PER_100 if ah is not None else None, DIAL_U, 0.0),
    )
