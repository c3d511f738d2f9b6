"""Two shafts brought into line: poses from readings, tolerances by speed, growth, and what each foot asks for."""

from ..base import load_data

load_data(__name__, "limits.toml", "grounds.toml", "rules.toml", "texts.toml")

from .bench import ALIGNMENT
from .bolts import bolt_order
from .entry import AlignmentEntry
from .growth import EXPANSION, cold_target_mm, growth_mm
from .job import Booked, bookings
from .packs import parse_pack, write_pack
from .poses import Plane, Pose, against, closure_miss, flange_lift, reverse, rim_face, rim_offset, straightedge, without_sag
from .shim_search import plans
from .shims import FEET, Plan, Question, key_of, leaves, left_over, shortfall, steps_over, tenths
from .tolerance import Tolerance, by_speed, spacer_by_speed
from .vibration import BEARINGS, DIRECTIONS, VIBRATION, VibrationEntry, motor_zones, pump_zones

__all__ = [
    "ALIGNMENT", "BEARINGS", "DIRECTIONS", "EXPANSION", "FEET", "AlignmentEntry", "Booked", "Plan", "Plane", "Pose", "Question", "Tolerance", "VIBRATION", "VibrationEntry", "against", "bolt_order", "bookings", "by_speed", "closure_miss", "cold_target_mm", "flange_lift", "growth_mm", "key_of", "leaves", "left_over", "motor_zones", "parse_pack", "plans", "pump_zones",
    "reverse", "rim_face", "rim_offset", "shortfall", "spacer_by_speed", "steps_over", "straightedge", "tenths", "without_sag", "write_pack",
]  # fmt: skip
