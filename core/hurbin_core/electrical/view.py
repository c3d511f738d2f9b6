"""What is drawn of a running check: the legs' gauges, and the causes that the pattern allows."""

from ..base import Model, Phrase, Verdict


class Mark(Model):
    """A place on a drawing: 0 is the bottom of its gauge, 1 the top."""

    name: str
    at: float
    verdict: Verdict
    label: str = ""


class Advice(Model):
    """A cause class: what the pattern says, what a repair will change and what it will not."""

    cause: str
    says: Phrase
    changes: list[Phrase] = []
    leaves: list[Phrase] = []


class RunningCheckView(Model):
    """The drawing of a running check: marks on the gauges of its legs, and what the pattern points at."""

    marks: list[Mark] = []
    advice: list[Advice] = []
