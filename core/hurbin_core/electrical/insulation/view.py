"""What is drawn of an insulation test: its curves on log-log paper, and its clocks."""

from datetime import datetime

from ...base import Model, Quantity, RunClock


class CurvePoint(Model):
    """A reading on the curve paper: `x`, `y` from 0 to 1, its own figure and second."""

    x: float
    y: float
    at: Quantity
    value: Quantity
    entry: str = ""


class Curve(Model):
    """One line on the paper. `before` counts back from the newest earlier test (0: this one); `differs`
    crosses it out.
    """

    name: str
    before: int = 0
    taken_at: datetime | None = None
    points: list[CurvePoint]
    differs: str = ""


class PaperTick(Model):
    at: float
    value: Quantity


class CurvePaper(Model):
    """Readings over time on log-log paper; `floor` is the limit one stands above. Geometry, not pixels."""

    curves: list[Curve]
    x_ticks: list[PaperTick]
    y_ticks: list[PaperTick]
    floor: float | None = None


class InsulationView(Model):
    """The drawing of a test: the paper once there is something on it, and the runs under way."""

    paper: CurvePaper | None = None
    clocks: list[RunClock] = []
