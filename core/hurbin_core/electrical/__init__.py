"""Supply, three-phase current and (later) insulation, windings and leads."""

from .entry import RunningCheckEntry
from .circuit import CIRCUIT_BENCH
from .control import CONTROL_BENCH
from .direction import DIRECTION
from .drive_sheet import DRIVE_SHEET
from .fuses import FUSES
from .insulation import INSULATION, MARKS_S
from .joints import JOINTS
from .leads import LEADS
from .ohms import OHMS
from .protection import PROTECTION
from .running_check import RUNNING_CHECK
from .shaft import SHAFT
from . import circuit as circuit, series as series
from .derating import derating
from .fitting import against_supply
from .formulas import closes_triangle, extra_rise_pct, true_unbalance_pct, unbalance_pct

BENCHES = (
    RUNNING_CHECK,
    INSULATION,
    CIRCUIT_BENCH,
    SHAFT,
    OHMS,
    JOINTS,
    FUSES,
    CONTROL_BENCH,
    LEADS,
    DIRECTION,
    PROTECTION,
    DRIVE_SHEET,
)

__all__ = [
    "BENCHES",
    "CIRCUIT_BENCH",
    "CONTROL_BENCH",
    "DIRECTION",
    "DRIVE_SHEET",
    "FUSES",
    "INSULATION",
    "JOINTS",
    "LEADS",
    "MARKS_S",
    "OHMS",
    "PROTECTION",
    "RUNNING_CHECK",
    "SHAFT",
    "RunningCheckEntry",
    "against_supply",
    "closes_triangle",
    "derating",
    "extra_rise_pct",
    "true_unbalance_pct",
    "unbalance_pct",
]
