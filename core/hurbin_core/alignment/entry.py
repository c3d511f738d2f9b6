"""The alignment of a coupling as typed, entry by entry: the set's measures, what was looked at before, each pass of readings, each move, the coupling."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from ..base import Entered, entered_field

Kind = Literal["pass", "measures", "before", "moved", "tightened", "fit", "try", "undo"]
Sign = Literal["nothing", "rubber_dust", "torn_element", "loose_bolts", "heat_marks"]
Taken = Literal["as_found", "after_move", "as_left"]
METALS = Literal["cast_iron", "carbon_steel", "stainless_304", "stainless_316", "aluminium"]


def _gauge(label: str, *, low: float = -20, high: float = 20, words: tuple[str, ...] = ()) -> Any:
    return entered_field(label, "length", low=low, high=high, words=words)


def _step(label: str) -> Any:
    return _gauge(label, words=("flush", "a hair high", "a hair low"))


class AlignmentEntry(BaseModel):
    """One thing that was said, read or done. Seen from behind the motor towards the pump: 12 up, 3 right, 9 left. `kind` says which fields count.

    pass: one set of readings at one time, with whatever measures of the set came with it. measures: the set's own figures
    (the newest word on each counts, for every pass). before: what was looked at with the guard off. moved: which shims lie
    under each foot now, and how far it was pushed. tightened: drawn up in a cross. fit: the coupling itself. try: a pack in
    pencil, never kept. undo: takes one earlier entry back. Steps are positive where the motor's hub is proud. Dials are
    in-travel positive, zeroed at 12. A pack is written `0.50 + 0.25 mm`, `?` for a piece that was not measured. `taken` unsaid: as the visit stands. Every field may be missing.
    """

    kind: Kind = Field(default="pass", title="What")
    taken: Taken | None = Field(default=None, title="When")
    method: Literal["straightedge", "rim_face", "reverse", "flange", "laser"] = Field(default="straightedge", title="Read with")
    temperature: Literal["cold", "hot"] = Field(default="cold", title="The machines are")
    tight: bool | None = Field(default=None, title="After the last tightening")
    coupling: Literal["short", "spacer"] | None = Field(default=None, title="The coupling is")
    speed: Entered | None = entered_field("Speed", "speed", low=1, high=30000)
    face_diameter: Entered | None = _gauge("Diameter over the faces", low=0, high=2000)
    x_front: Entered | None = _gauge("Coupling to front feet", low=-5000, high=5000)
    x_rear: Entered | None = _gauge("Coupling to rear feet", low=-5000, high=8000)
    step_12: Entered | None = _step("Step at 12")
    step_3: Entered | None = _step("Step at 3")
    step_6: Entered | None = _step("Step at 6")
    step_9: Entered | None = _step("Step at 9")
    gap_12: Entered | None = _gauge("Gap at 12", low=0, high=100)
    gap_3: Entered | None = _gauge("Gap at 3", low=0, high=100)
    gap_6: Entered | None = _gauge("Gap at 6", low=0, high=100)
    gap_9: Entered | None = _gauge("Gap at 9", low=0, high=100)
    carried_by: Literal["motor", "pump"] = Field(default="motor", title="The rim dial is carried by")
    face_touches: Literal["front", "back"] = Field(default="front", title="The face dial touches")
    sag: Entered | None = _gauge("Sag at 6", low=-5, high=5)
    rim_3: Entered | None = _gauge("Rim at 3")
    rim_6: Entered | None = _gauge("Rim at 6")
    rim_9: Entered | None = _gauge("Rim at 9")
    face_3: Entered | None = _gauge("Face at 3")
    face_6: Entered | None = _gauge("Face at 6")
    face_9: Entered | None = _gauge("Face at 9")
    back_3: Entered | None = _gauge("Other dial at 3")
    back_6: Entered | None = _gauge("Other dial at 6")
    back_9: Entered | None = _gauge("Other dial at 9")
    plane_distance: Entered | None = _gauge("Between the two planes", low=0, high=5000)
    offset_v: Entered | None = _gauge("Offset, up")
    offset_h: Entered | None = _gauge("Offset, right")
    angle_v: Entered | None = entered_field("Angle, up", "slope", low=-20, high=20)
    angle_h: Entered | None = entered_field("Angle, right", "slope", low=-20, high=20)
    maker_offset: Entered | None = _gauge("The coupling tolerates, offset", low=0, high=20)
    maker_angle: Entered | None = entered_field("The coupling tolerates, angle", "slope", low=0, high=20)
    cold: Entered | None = entered_field("Cold", "temperature", low=-40, high=90)
    pump_height: Entered | None = _gauge("Pump, foot to shaft", low=0, high=5000)
    pump_metal: METALS | None = Field(default=None, title="Pump of")
    pump_temperature: Entered | None = entered_field("Pump's metal at work", "temperature", low=-40, high=400)
    motor_height: Entered | None = _gauge("Motor, foot to shaft", low=0, high=5000)
    motor_metal: METALS | None = Field(default=None, title="Motor of")
    motor_temperature: Entered | None = entered_field("Motor's metal at work", "temperature", low=-40, high=400)
    near_ambient: bool | None = Field(default=None, title="Pump and motor stay within 10 K of ambient at work")
    coupling_diameter: Entered | None = _gauge("Coupling diameter", low=0, high=2000)
    bolts: int | None = Field(default=None, ge=2, le=24, title="Bolts of a foot or flange")
    torque: Entered | None = entered_field("Torque", "torque", low=0, high=5000)
    play: Entered | None = _gauge("Play in the bolt holes, to each side", low=0, high=20)
    support_distance: Entered | None = _gauge("Flange to support", low=0, high=5000)
    nut_pitch: Entered | None = _gauge("Pitch of the support's nut", low=0, high=20)
    maker_gap: Entered | None = _gauge("The maker allows between opposite gaps", low=0, high=5)
    pack_front_left: str = Field(default="", max_length=80, title="Shims, front left")
    pack_front_right: str = Field(default="", max_length=80, title="Shims, front right")
    pack_rear_left: str = Field(default="", max_length=80, title="Shims, rear left")
    pack_rear_right: str = Field(default="", max_length=80, title="Shims, rear right")
    van: str = Field(default="", max_length=60, title="Van")
    pushed_front: Entered | None = _gauge("Pushed right at the front")
    pushed_rear: Entered | None = _gauge("Pushed right at the rear")
    signs: list[Sign] | None = Field(default=None, max_length=6, title="Under the coupling")
    marked: bool | None = Field(default=None, title="Hubs, shims and feet marked for a way back")
    run_out_rim: Entered | None = _gauge("Run-out of the rim", low=0, high=10)
    run_out_face: Entered | None = _gauge("Run-out of the face", low=0, high=10)
    pipe_strain: Entered | None = _gauge("Moved while the pipe bolts were drawn up", low=0, high=10)
    soft_front_left: Entered | None = _gauge("Front left rises when loosened", low=0, high=10)
    soft_front_right: Entered | None = _gauge("Front right rises when loosened", low=0, high=10)
    soft_rear_left: Entered | None = _gauge("Rear left rises when loosened", low=0, high=10)
    soft_rear_right: Entered | None = _gauge("Rear right rises when loosened", low=0, high=10)
    across_front_left: Entered | None = _gauge("Front left, gap outer less inner edge", low=-10, high=10)
    across_front_right: Entered | None = _gauge("Front right, gap outer less inner edge", low=-10, high=10)
    across_rear_left: Entered | None = _gauge("Rear left, gap outer less inner edge", low=-10, high=10)
    across_rear_right: Entered | None = _gauge("Rear right, gap outer less inner edge", low=-10, high=10)
    springy: bool | None = Field(default=None, title="Springy with a clean, thin pack")
    with_pipes: bool | None = Field(default=None, title="It changes with the pipe bolts")
    hub_gap: Entered | None = _gauge("Gap between the hubs", low=0, high=500)
    hub_gap_maker: Entered | None = _gauge("Gap the maker asks for", low=0, high=500)
    bare_fit: bool | None = Field(default=None, title="Hubs tried bare")
    keyed_fit: bool | None = Field(default=None, title="Hubs tried with the key")
    screws_pump: Literal["fixed", "floating"] | None = Field(default=None, title="Pump's hub")
    screws_motor: Literal["fixed", "floating"] | None = Field(default=None, title="Motor's hub")
    floating_shaft: bool | None = Field(default=None, title="The pump's shaft has to float (balance disc)")
    halves_as_marked: bool | None = Field(default=None, title="Element halves as they were marked")
    new_bolts: bool | None = Field(default=None, title="New bolts with thread lock")
    element_renewed: bool | None = Field(default=None, title="Element renewed")
    root: str = Field(default="", max_length=300, title="Why it went")
    guard_on: bool | None = Field(default=None, title="Guard on")
    undoes: str = Field(default="", max_length=64, title="Entry taken back")
    note: str = Field(default="", max_length=500, title="Note")
