"""What is drawn of a motor's protection: the lead's way to the dial, the image's curve, sizes, starts."""

from ...base import Model, Quantity


class DialView(Model):
    """The dial: 0 to 1 along its arc. due: where it belongs; most, hard: where the ceilings are on it."""

    at: float | None = None
    due: float | None = None
    least: float | None = None
    most: float | None = None
    hard: float | None = None
    set: Quantity | None = None
    right: Quantity | None = None
    trip: Quantity | None = None


class CurveMark(Model):
    """A current at which something happens. x: along the curve's width; until: how far up it lasts."""

    id: str
    title: str
    x: float
    until: float | None = None
    cold: Quantity | None = None
    hot: Quantity | None = None


class CurveView(Model):
    """Seconds over multiples of the setting, both by tenfolds, 0 to 1. cold, hot: the slowest image that the
    class allows; fast: the quickest.
    """

    cold: list[tuple[float, float]] = []
    hot: list[tuple[float, float]] = []
    fast: list[tuple[float, float]] = []
    marks: list[CurveMark] = []
    across: list[tuple[float, str]] = []
    up: list[tuple[float, str]] = []


class SizeView(Model):
    """What one kind of device may be: its share of table current, and the next standard size."""

    id: str
    title: str
    share: Quantity
    sum: Quantity
    size: Quantity
    has: bool = False


class ProtectionView(Model):
    """The whole. loops: passes of a lead; ratio: of the transformer as it is printed ("150/5"). starts:
    places along the log, 0 to 1; busiest: the hour with most of them.
    """

    dial: DialView = DialView()
    loops: int = 1
    ratio: str = ""
    inside_delta: bool = False
    device: str = ""
    plate: Quantity | None = None
    curve: CurveView | None = None
    wait: Quantity | None = None
    share: Quantity | None = None
    sizes: list[SizeView] = []
    starts: list[float] = []
    busiest: tuple[float, float] | None = None
    allowed: int | None = None
