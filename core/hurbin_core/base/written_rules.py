"""What a data file may say: limits, rules with their steps and grounds, schools, measurands. Shapes, no
judging.
"""

from enum import StrEnum

from pydantic import BaseModel, ConfigDict

from .verdict import By, Verdict


class Certainty(StrEnum):
    STANDARD = "standard"
    HANDBOOK = "handbook"
    PRACTICE = "practice"
    MAKER = "maker"


class Written(BaseModel):
    """A row of a data file: nothing that is not known here may stand in it."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Source(Written):
    """Where a figure is from and how sure it is."""

    source: str
    certainty: Certainty
    from_memory: bool = False


class Does(StrEnum):
    """What a limit does to the figure it is named for. Its title is always: the figure, then this."""

    GOOD_TO = "good up to"
    WATCH_TO = "watch up to"
    ACT_TO = "act up to"
    ACT_DOWN_TO = "act down to"
    GOOD_DOWN_TO = "good down to"
    WATCH_DOWN_TO = "watch down to"
    UP_TO = "up to"
    DOWN_TO = "down to"
    ABOVE = "above"
    BELOW = "below"
    FROM = "from"
    WITHIN = "within"
    AFTER = "after"
    IS = "taken as"


class Limit(Source):
    """One limit as its source states it, in its source's own unit. `of`: the figure it is named for;
    `does`: what it does to it. `fixed`: a life hangs on it, or it is arithmetic and not a choice: no site
    overrides it.
    """

    id: str
    of: str
    does: Does
    value: float
    unit: str
    why: str = ""
    label: str = ""
    fixed: bool = False

    @property
    def title(self) -> str:
        return f"{self.of}, {self.does.value}"


class School(Written):
    """Where practitioners differ: the ways on offer, and the one taken unless a site says otherwise."""

    id: str
    title: str
    options: dict[str, str]
    default: str
    why: str


class Step(Written):
    """Up to this limit, and at it, this verdict. `times`: a factor the limit is taken by."""

    limit: str
    verdict: Verdict
    times: str = ""


class Ground(Written):
    """An input, a state or a condition without which a rule may not say good (or watch). `says`: the
    instruction with its reason. `contradicts`: it is not missing but stands against the reading, so that
    the test cannot tell.
    """

    id: str
    says: str
    contradicts: bool = False


class Rule(Source):
    """One question the core answers: its formula, its steps, its source, how soon to act.

    ground: what good stands on, by the ids of the grounds. concerns: the parts whose exchange or event closes
    the answer (none: the part the finding hangs on). goes_with: the part that takes the answer along when it
    is fitted elsewhere. ends: what ends a stop on it, besides a newer answer; trial: after a recorded repair
    it may be tried out under watch. bars: the acts that its stop forbids besides a start. read: the
    dimensions of the readings it stands on, where those are not all that its bench reads. instead: limits
    that stand in the place of a step's own on other machines. beyond: what is said past the last step.
    """

    id: str
    title: str
    formula: str
    why: str
    steps: list[Step] = []
    instead: dict[str, list[str]] = {}
    beyond: Verdict = Verdict.ACT
    floor: bool = False
    leads: bool = False
    by: dict[Verdict, By] = {}
    ground: list[str] = []
    concerns: list[str] = []
    goes_with: str = ""
    ends: str = ""
    trial: bool = False
    bars: list[str] = []
    read: list[str] = []


class Measurand(Written):
    """One kind of figure that is trended: its words, the part it is shown at, its axis, the limits drawn with
    it.

    watch: its dimension, where a repair put off may be held to a figure of it. live: it is read on a
    running circuit, so that nothing of it is there on a dead one.
    """

    id: str
    title: str
    label: str
    part: str
    watch: str = ""
    live: bool = False
    log: bool = False
    floor: bool = False
    limits: list[str] = []
    plot: bool = True
