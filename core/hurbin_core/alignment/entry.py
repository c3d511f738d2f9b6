"""One pass at a coupling as typed: how it was read, where, what the feelers, dials or the laser showed, and the set's own measures."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from ..base import Entered, entered_field

METALS = Literal["cast_iron", "carbon_steel", "stainless_304", "stainless_316", "aluminium"]


def _gauge(label: str, *, low: float = -20, high: float = 20, words: tuple[str, ...] = ()) -> Any:
    return entered_field(label, "length", low=low, high=high, words=words)


def _step(label: str) -> Any:
    return _gauge(label, words=("flush", "a hair high", "a hair low"))


class AlignmentEntry(BaseModel):
    """One set of readings, taken cold or hot, at one time. Seen from behind the motor towards the pump: 12 up, 3 right, 9 left.

    Steps are positive where the motor's hub is proud. Dials are in-travel positive, zeroed at 12. Every field may be missing.
    """

    taken: Literal["as_found", "after_move", "as_left"] = Field(default="as_found", title="When")
    method: Literal["straightedge", "rim_face", "reverse", "laser"] = Field(default="straightedge", title="Read with")
    temperature: Literal["cold", "hot"] = Field(default="cold", title="The machines are")
    tight: bool | None = Field(default=None, title="After the last tightening")
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
    note: str = Field(default="", max_length=500, title="Note")
