"""What is drawn of a scan: the ladder with the temperature of each joint. Geometry, no pixels."""

from ...base import Model, Quantity
from ..circuit.view import ElementView, PathView, RungView, SpanView


class JointView(Model):
    """One joint: its temperature, what it is over its like at full load, and its verdict."""

    at: str
    temp: Quantity
    over: Quantity | None = None
    verdict: str
    bare: bool = False


class DropView(Model):
    """One drop: across which span, the heat it makes, its resistance, and its verdict."""

    at: str
    drop: Quantity
    heat: Quantity | None = None
    ohms: Quantity | None = None
    verdict: str


class JointsView(Model):
    """The ladder and what was read at it. spots: places by point for a temperature; spans: for a drop."""

    title: str = ""
    confirmed: bool = False
    legs: list[str] = []
    elements: list[ElementView] = []
    rungs: list[RungView] = []
    spans: list[SpanView] = []
    paths: list[PathView] = []
    positions: list[str] = []
    joints: list[JointView] = []
    drops: list[DropView] = []
    load: Quantity | None = None
    spot: Quantity | None = None
