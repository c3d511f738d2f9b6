"""Water: where a pump runs, what a valve will do, suction, loops, wells, wear."""

from .answering import answer, judged
from .drawdown import DRAWDOWN
from .duty import DUTY
from .fill import FILL
from .loop import LOOP_BENCH
from .lasting import again
from .loops import LOOP, LoopKnown, LoopPlate, PastPressure, impossible
from .reading import Typed, typed_of
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
    "Typed",
    "again",
    "answer",
    "impossible",
    "judged",
    "typed_of",
]
