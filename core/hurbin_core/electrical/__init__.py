"""Supply, three-phase current and (later) insulation, windings and leads."""

from ..base import load_data

load_data(__name__, "limits.toml", "rules.toml", "texts.toml")

from .entry import RunningCheckEntry
from .running_check import RUNNING_CHECK
from .unbalance import closes_triangle, derating, extra_rise_pct, true_unbalance_pct, unbalance_pct

__all__ = [
    "RUNNING_CHECK", "RunningCheckEntry", "closes_triangle", "derating", "extra_rise_pct", "true_unbalance_pct",
    "unbalance_pct",
]  # fmt: skip
