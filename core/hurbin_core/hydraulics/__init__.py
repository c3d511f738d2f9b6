"""Water: where a pump runs, what a valve will do, suction, loops, wells, wear."""

from .drawdown import DRAWDOWN
from .duty import DUTY
from .fill import FILL
from .loop import LOOP_BENCH
from .loops import LOOP, LoopKnown, LoopPlate, PastPressure, impossible
from .suction import SUCTION
from .throttle import THROTTLE
from .vacuum import VACUUM
from .wear import WEAR
from .which import WHICH

BENCHES = (DUTY, SUCTION, THROTTLE, WEAR, LOOP_BENCH, FILL, DRAWDOWN, VACUUM, WHICH)

__all__ = [
    "BENCHES",
    "DRAWDOWN",
    "DUTY",
    "FILL",
    "LOOP",
    "LOOP_BENCH",
    "SUCTION",
    "THROTTLE",
    "VACUUM",
    "WEAR",
    "WHICH",
    "LoopKnown",
    "LoopPlate",
    "PastPressure",
    "impossible",
]
