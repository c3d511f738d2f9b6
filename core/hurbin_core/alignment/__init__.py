"""Two shafts brought into line: poses from readings, tolerances by speed, growth, and what each foot asks for."""

from ..base import load_data

load_data(__name__, "rules.toml", "texts.toml")

from .bench import ALIGNMENT
from .entry import AlignmentEntry
from .growth import EXPANSION, cold_target_mm, growth_mm
from .poses import Plane, Pose, against, closure_miss, flange_lift, reverse, rim_face, rim_offset, straightedge, without_sag
from .tolerance import Tolerance, by_speed

__all__ = [
    "ALIGNMENT", "EXPANSION", "AlignmentEntry", "Plane", "Pose", "Tolerance", "against", "by_speed", "closure_miss", "cold_target_mm", "flange_lift", "growth_mm",
    "reverse", "rim_face", "rim_offset", "straightedge", "without_sag",
]  # fmt: skip
