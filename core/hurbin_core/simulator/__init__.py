"""Simulated physics and instruments for demo, stand-ins, tests and trainer. Shares no formula with a rule."""

from .chain import Chain
from .coils import Bridge, Coils
from .coupling import Coupling
from .heat import Joints
from .insulation import InsulationTester, Winding, WindingLife
from .ladder import Ladder
from .meter import Meter
from .plant_life import SetLife, fault_from
from .running import Machine, Supply, read_running
from .tester import TwoPoleTester
from .water import GasLoop, Gauge, Impeller, RingedPump, Well

__all__ = [
    "Bridge",
    "Chain",
    "Coils",
    "Joints",
    "Coupling",
    "GasLoop",
    "Gauge",
    "Impeller",
    "Ladder",
    "Machine",
    "Meter",
    "RingedPump",
    "SetLife",
    "Supply",
    "InsulationTester",
    "TwoPoleTester",
    "Well",
    "Winding",
    "WindingLife",
    "fault_from",
    "read_running",
]
