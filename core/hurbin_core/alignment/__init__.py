"""Two shafts brought into line: poses from readings, tolerances by speed, growth, and what each foot asks
for.
"""

from .bench import ALIGNMENT
from .bolts import bolt_order
from .entry import AlignmentEntry, PassRead, alignment_entry
from .formulas import cold_target_mm, flange_lift, without_sag
from .growth import EXPANSION, growth_mm
from .visit import Visit, bookings
from .packs import parse_pack, write_pack
from .shaft_position import (
    Plane,
    ShaftPosition,
    against,
    closure_miss,
    reverse,
    rim_face,
    rim_offset,
    straightedge,
)
from .shim_search import plans
from .shims import FEET, Plan, Question, key_of, leaves, left_over, shortfall, steps_over, tenths
from .tolerance import Tolerance, by_speed, spacer_by_speed
from .vibration import BEARINGS, DIRECTIONS, VIBRATION, VibrationEntry, motor_zones, pump_zones

BENCHES = (ALIGNMENT, VIBRATION)

__all__ = [
    "BENCHES",
    "PassRead",
    "Visit",
    "alignment_entry",
    "ALIGNMENT",
    "BEARINGS",
    "DIRECTIONS",
    "EXPANSION",
    "FEET",
    "AlignmentEntry",
    "Plan",
    "Plane",
    "ShaftPosition",
    "Question",
    "Tolerance",
    "VIBRATION",
    "VibrationEntry",
    "against",
    "bolt_order",
    "bookings",
    "by_speed",
    "closure_miss",
    "cold_target_mm",
    "flange_lift",
    "growth_mm",
    "key_of",
    "leaves",
    "left_over",
    "motor_zones",
    "parse_pack",
    "plans",
    "pump_zones",
    "reverse",
    "rim_face",
    "rim_offset",
    "shortfall",
    "spacer_by_speed",
    "steps_over",
    "straightedge",
    "tenths",
    "without_sag",
    "write_pack",
]
