"""What is drawn of a look at a running pump: the curve, the ways beside each other, the what-if, the
survey.
"""

from ...base import Model, Phrase, Quantity
from ..paper import PumpPaper
from ..whatif import RunOption


class WayView(Model):
    """One way to know the flow. apart: it disagrees with the surest."""

    id: str
    says: Phrase
    flow: Quantity
    apart: bool = False


class SurveyPlaceView(Model):
    """One place of the survey. state: done, next, open, left out."""

    id: str
    title: Phrase
    how: Phrase
    state: str
    head: Quantity | None = None
    amps: Quantity | None = None


class DutyView(Model):
    """The whole. parts: head by pressure, height and velocity; options: as it runs, and the what-ifs;
    endorsed: what is said of the valve's; fluid: which liquid it was judged for.
    """

    curve: PumpPaper | None = None
    ways: list[WayView] = []
    refused: list[Phrase] = []
    parts: list[Quantity] = []
    options: list[RunOption] = []
    says: list[Phrase] = []
    density: Quantity | None = None
    floor: Quantity | None = None
    survey: list[SurveyPlaceView] = []
