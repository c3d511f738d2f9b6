"""Two shafts brought into line: poses from readings, tolerances by speed, growth, and what each foot asks for."""

from ..base import load_data

load_data(__name__, "limits.toml", "rules.toml", "texts.toml")

from .bench import ALIGNMENT
from .entry import AlignmentEntry
from .growth import EXPANSION, cold_target_mm, growth_mm
from .job import Booked, bookings
from .packs import parse_pack, write_pack
from .poses import Plane, Pose, against, closure_miss, flange_lift, reverse, rim_face, rim_offset, straightedge, without_sag
from .shims import FEET, Plan, Question, key_of, leaves, left_over, plans, shortfall, steps_over, tenths
from .tolerance import Tolerance, by_speed, spacer_by_speed

__all__ = [
    "ALIGNMENT", "EXPANSION", "FEET", "AlignmentEntry", "Booked", "Plan", "Plane", "Pose", "Question", "Tolerance", "against", "bookings", "by_speed", "closure_miss", "cold_target_mm", "flange_lift", "growth_mm", "key_of", "leaves", "left_over", "parse_pack", "plans",
    "reverse", "rim_face", "rim_offset", "shortfall", "spacer_by_speed", "steps_over", "straightedge", "tenths", "without_sag", "write_pack",
]  # fmt: skip
