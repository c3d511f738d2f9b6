"""The alignment of a coupling as typed, entry by entry: the set's measures, what was looked at before, each
pass of readings, each move, the coupling.
"""

from typing import Any, Literal

from ..base import Entered, Kept, Model, entered_field, entry_of, entry_union, said_field

Sign = Literal["nothing", "rubber_dust", "torn_element", "loose_bolts", "heat_marks"]
PassKind = Literal["as_found", "after_move", "as_left"]
METALS = Literal["cast_iron", "carbon_steel", "stainless_304", "stainless_316", "aluminium"]


def _gauge(
    label: str,
    *,
    low: float = -20,
    high: float = 20,
    words: tuple[str, ...] = (),
    kept: Kept = Kept.ENTRY,
    said_in: str = "",
    printed: bool = False,
) -> Any:
    return entered_field(
        label, "length", low=low, high=high, words=words, kept=kept, said_in=said_in, printed=printed
    )


def _step(label: str) -> Any:
    return _gauge(label, words=("flush", "a hair high", "a hair low"))


class SetMeasures(Model):
    """What belongs to the set: the newest word on each counts for every pass, and is kept from one visit
    to the next.
    """

    coupling: Literal["short", "spacer"] | None = said_field("Coupling type", kept=Kept.SET)
    speed: Entered | None = entered_field("Speed", "speed", low=1, high=30000, kept=Kept.SET)
    face_diameter: Entered | None = _gauge("Face diameter", low=0, high=2000, kept=Kept.SET)
    x_front: Entered | None = _gauge("Coupling to front feet", low=-5000, high=5000, kept=Kept.SET)
    x_rear: Entered | None = _gauge("Coupling to rear feet", low=-5000, high=8000, kept=Kept.SET)
    sag: Entered | None = _gauge("Bracket sag at 6", low=-5, high=5, kept=Kept.SET)
    plane_distance: Entered | None = _gauge(
        "Distance between the two planes", low=0, high=5000, kept=Kept.SET
    )
    maker_offset: Entered | None = _gauge(
        "Coupling manufacturer's limit, offset", low=0, high=20, kept=Kept.SET
    )
    maker_angle: Entered | None = entered_field(
        "Coupling manufacturer's limit, angularity", "slope", low=0, high=20, kept=Kept.SET
    )
    cold: Entered | None = entered_field(
        "Metal temperature, cold", "temperature", low=-40, high=90, kept=Kept.SET
    )
    pump_height: Entered | None = _gauge("Pump shaft height", low=0, high=5000, kept=Kept.SET)
    pump_metal: METALS | None = said_field("Pump material", kept=Kept.SET)
    pump_temperature: Entered | None = entered_field(
        "Pump metal temperature, running", "temperature", low=-40, high=400, kept=Kept.SET
    )
    motor_height: Entered | None = _gauge("Motor shaft height", low=0, high=5000, kept=Kept.SET)
    motor_metal: METALS | None = said_field("Motor material", kept=Kept.SET)
    motor_temperature: Entered | None = entered_field(
        "Motor metal temperature, running", "temperature", low=-40, high=400, kept=Kept.SET
    )
    near_ambient: bool | None = said_field(
        "Pump and motor stay within 10 K of ambient when running", kept=Kept.SET
    )
    coupling_diameter: Entered | None = _gauge("Coupling diameter", low=0, high=2000, kept=Kept.SET)
    bolts: int | None = said_field("Number of bolts, foot or flange", ge=2, le=24, kept=Kept.SET)
    torque: Entered | None = entered_field("Torque", "torque", low=0, high=5000, kept=Kept.SET)
    play: Entered | None = _gauge("Bolt-hole play, each way", low=0, high=20, kept=Kept.SET)
    support_distance: Entered | None = _gauge("Flange to support", low=0, high=5000, kept=Kept.SET)
    nut_pitch: Entered | None = _gauge("Support nut, thread pitch", low=0, high=20, kept=Kept.SET)
    maker_gap: Entered | None = _gauge(
        "Manufacturer's limit, difference of opposite gaps", low=0, high=5, kept=Kept.SET
    )
    van: str = said_field("Van", "", max_length=60, kept=Kept.SET)


class Looks(Model):
    """What is looked at with the guard off, before a reading counts."""

    signs: list[Sign] | None = said_field("Under the coupling", max_length=6, kept=Kept.VISIT)
    marked: bool | None = said_field("Hubs, shims and feet match-marked", kept=Kept.VISIT)
    run_out_rim: Entered | None = _gauge("Hub run-out, rim", low=0, high=10, kept=Kept.VISIT)
    run_out_face: Entered | None = _gauge("Hub run-out, face", low=0, high=10, kept=Kept.VISIT)
    pipe_strain: Entered | None = _gauge(
        "Movement while tightening the pipe bolts", low=0, high=10, kept=Kept.VISIT
    )
    soft_front_left: Entered | None = _gauge(
        "Front left, rise when loosened", low=0, high=10, kept=Kept.VISIT
    )
    soft_front_right: Entered | None = _gauge(
        "Front right, rise when loosened", low=0, high=10, kept=Kept.VISIT
    )
    soft_rear_left: Entered | None = _gauge("Rear left, rise when loosened", low=0, high=10, kept=Kept.VISIT)
    soft_rear_right: Entered | None = _gauge(
        "Rear right, rise when loosened", low=0, high=10, kept=Kept.VISIT
    )
    across_front_left: Entered | None = _gauge(
        "Front left, outer gap minus inner gap", low=-10, high=10, kept=Kept.VISIT
    )
    across_front_right: Entered | None = _gauge(
        "Front right, outer gap minus inner gap", low=-10, high=10, kept=Kept.VISIT
    )
    across_rear_left: Entered | None = _gauge(
        "Rear left, outer gap minus inner gap", low=-10, high=10, kept=Kept.VISIT
    )
    across_rear_right: Entered | None = _gauge(
        "Rear right, outer gap minus inner gap", low=-10, high=10, kept=Kept.VISIT
    )
    springy: bool | None = said_field("Still springy with a clean, thin shim pack", kept=Kept.VISIT)
    with_pipes: bool | None = said_field("Soft foot changes with the pipe bolts", kept=Kept.VISIT)


class CouplingFit(Model):
    """The coupling itself: its gap, who is fixed and who floats, its element."""

    hub_gap: Entered | None = _gauge("Gap between hubs", low=0, high=500, kept=Kept.VISIT, said_in="fit")
    hub_gap_maker: Entered | None = _gauge(
        "Gap between hubs, manufacturer's figure",
        low=0,
        high=500,
        kept=Kept.VISIT,
        said_in="fit",
        printed=True,
    )
    bare_fit: bool | None = said_field("Hub fit checked without key", kept=Kept.VISIT, said_in="fit")
    keyed_fit: bool | None = said_field("Hub fit checked with key", kept=Kept.VISIT, said_in="fit")
    screws_pump: Literal["fixed", "floating"] | None = said_field("Pump hub", kept=Kept.VISIT, said_in="fit")
    screws_motor: Literal["fixed", "floating"] | None = said_field(
        "Motor hub", kept=Kept.VISIT, said_in="fit"
    )
    floating_shaft: bool | None = said_field(
        "Pump shaft must float (balance disc)", kept=Kept.VISIT, said_in="fit"
    )
    halves_as_marked: bool | None = said_field(
        "Element halves matched to their marks", kept=Kept.VISIT, said_in="fit"
    )
    new_bolts: bool | None = said_field("New bolts, threadlocker applied", kept=Kept.VISIT, said_in="fit")
    element_renewed: bool | None = said_field("Element replaced", kept=Kept.VISIT, said_in="fit")
    root: str = said_field("Why it failed", "", max_length=300, kept=Kept.VISIT, said_in="fit")
    guard_on: bool | None = said_field("Guard on", kept=Kept.VISIT, said_in="fit")


class Packs(Model):
    """What lies under each foot: `0.50 + 0.25 mm`, `?` for a piece that was not measured."""

    pack_front_left: str = said_field("Shims, front left", "", max_length=80)
    pack_front_right: str = said_field("Shims, front right", "", max_length=80)
    pack_rear_left: str = said_field("Shims, rear left", "", max_length=80)
    pack_rear_right: str = said_field("Shims, rear right", "", max_length=80)


class Said(SetMeasures, Looks, CouplingFit, Packs):
    """What any entry of a visit may bring along."""

    note: str = said_field("Note", "", max_length=500)


class PassRead(Said):
    """One set of readings at one time. Seen from behind the motor towards the pump: 12 up, 3 right, 9 left.
    Steps are positive where the motor's hub is proud; dials in-travel positive, zeroed at 12. `taken` unsaid:
    as the visit stands.
    """

    kind: Literal["pass"] = "pass"
    taken: PassKind | None = said_field("When")
    method: Literal["straightedge", "rim_face", "reverse", "flange", "laser"] = said_field(
        "Method", "straightedge"
    )
    temperature: Literal["cold", "hot"] = said_field("Machines cold or hot", "cold")
    tight: bool | None = said_field("After the last tightening")
    step_12: Entered | None = _step("Step at 12")
    step_3: Entered | None = _step("Step at 3")
    step_6: Entered | None = _step("Step at 6")
    step_9: Entered | None = _step("Step at 9")
    gap_12: Entered | None = _gauge("Gap at 12", low=0, high=100)
    gap_3: Entered | None = _gauge("Gap at 3", low=0, high=100)
    gap_6: Entered | None = _gauge("Gap at 6", low=0, high=100)
    gap_9: Entered | None = _gauge("Gap at 9", low=0, high=100)
    carried_by: Literal["motor", "pump"] = said_field("Rim dial mounted on", "motor")
    face_touches: Literal["front", "back"] = said_field("Face dial reads on", "front")
    rim_3: Entered | None = _gauge("Rim at 3")
    rim_6: Entered | None = _gauge("Rim at 6")
    rim_9: Entered | None = _gauge("Rim at 9")
    face_3: Entered | None = _gauge("Face at 3")
    face_6: Entered | None = _gauge("Face at 6")
    face_9: Entered | None = _gauge("Face at 9")
    back_3: Entered | None = _gauge("Second dial at 3")
    back_6: Entered | None = _gauge("Second dial at 6")
    back_9: Entered | None = _gauge("Second dial at 9")
    offset_v: Entered | None = _gauge("Vertical offset (motor high +)")
    offset_h: Entered | None = _gauge("Horizontal offset (motor right +)")
    angle_v: Entered | None = entered_field("Vertical angularity", "slope", low=-20, high=20)
    angle_h: Entered | None = entered_field("Horizontal angularity", "slope", low=-20, high=20)


class VisitWord(Said):
    """measures: the set's own figures. before: what was looked at with the guard off. fit: the coupling
    itself. tightened: drawn up in a cross. try: a pack in pencil, never kept.
    """

    kind: Literal["measures", "before", "fit", "tightened", "try"]


class Moved(Said):
    """Which shims lie under each foot now, and how far it was pushed."""

    kind: Literal["moved"]
    pushed_front: Entered | None = _gauge("Moved right at the front feet")
    pushed_rear: Entered | None = _gauge("Moved right at the rear feet")


class VisitTakenBack(Model):
    """Takes one earlier entry back."""

    kind: Literal["undo"]
    undoes: str = said_field("Removed entry", "", max_length=64)


AlignmentEntry = entry_union(PassRead, VisitWord, Moved, VisitTakenBack)


def alignment_entry(**body: Any) -> Any:
    """One entry of a visit from what was said, read or done."""
    return entry_of(AlignmentEntry, body)
