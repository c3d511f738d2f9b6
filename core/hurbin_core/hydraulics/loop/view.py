"""What is drawn of a loop: its vessel, its pressures beside what would stand if it were tight, the three
laws.
"""

from ...base import Model, Phrase, Quantity
from ..paper import PaperAxis, Places


class Pressed(Model):
    """One pressure on the paper: x along time, y up; low, high: what would stand if tight."""

    x: float
    y: float
    low: float | None = None
    high: float | None = None
    at: str = ""
    temp: Quantity | None = None
    kpa: Quantity | None = None
    past: bool = False


class LawView(Model):
    id: str
    says: Phrase
    hours: Quantity | None = None
    path: Places = []


class LoopView(Model):
    """The whole. name: of the register; empty: this set is on none. water: share of the vessel; gas, held:
    its litres. split: where what is to come begins along time. floor: the least standing pressure.
    """

    name: str = ""
    tags: list[str] = []
    plate: list[Phrase] = []
    water: float | None = None
    gas: Quantity | None = None
    held: Quantity | None = None
    high_point: Quantity | None = None
    pressed: list[Pressed] = []
    up: PaperAxis = PaperAxis()
    low: float = 0.0
    floor: float | None = None
    least: Quantity | None = None
    expected: Quantity | None = None
    lost: Quantity | None = None
    rate: Quantity | None = None
    wait: Quantity | None = None
    waited: Quantity | None = None
    laws: list[LawView] = []
    span: Quantity | None = None
    left_out: list[Phrase] = []
