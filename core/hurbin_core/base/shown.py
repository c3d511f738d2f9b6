"""What is sent of a figure, a margin line, a finding: the shapes, no judging."""

from .limits import Override
from .model import Model
from .quantity import Bound
from .verdict import By, Unknown, Verdict
from .written_rules import Certainty


class ShownQuantity(Model):
    """A figure as its reader has it. error: what it can be off by ("± 0.3", same unit); empty: not known."""

    value: float
    unit: str
    bound: Bound
    shown: str
    error: str = ""
    figure: str
    symbol: str


class ShownTick(Model):
    limit: str
    label: str
    shown: str
    at: float
    governs: bool
    overridden: bool


class ShownLine(Model):
    """The margin drawing with its words; `floor`: the limit is a least one, the good side lies above it."""

    value: ShownQuantity
    value_at: float
    limit_at: float
    bound: Bound
    margin: str
    over: bool
    floor: bool
    ticks: list[ShownTick]


class ShownLimit(Model):
    id: str
    title: str
    shown: str
    published: str
    source: str
    certainty: Certainty
    from_memory: bool
    override: Override | None


class ShownFinding(Model):
    question: str
    part: str
    subject: str
    title: str
    verdict: Verdict
    beside: Verdict | None
    by: By | None
    unknown: Unknown | None
    lacks: list[str]
    rule: str
    reason: str
    working: list[str]
    notes: list[str]
    line: ShownLine | None
    limits: list[ShownLimit]
    formula: str
    why: str
    source: str
    certainty: Certainty
    from_memory: bool


class ShownPart(Model):
    """What one part of the train shows for this sheet: the worst of what hangs on it."""

    part: str
    verdict: Verdict
