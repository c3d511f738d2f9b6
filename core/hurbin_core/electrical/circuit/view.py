"""What is drawn of a walk: the ladder with its readings, what is left, where next. Geometry, no pixels."""

from datetime import datetime

from ...base import Model, Phrase, Quantity


class TapView(Model):
    """What hangs beneath an element, between which legs."""

    id: str
    what: str
    title: Phrase
    legs: list[int]


class ElementView(Model):
    """One element of the ladder. closed: a contact that is in (None: not one that a coil moves)."""

    id: str
    kind: str
    name: str
    legs: list[int]
    closed: bool | None = None
    crossed: bool = False
    joins: bool = False
    taps: list[TapView] = []


class PathView(Model):
    """A path beside the ladder: the rungs of the ladder that it leaves and comes back to, what they are
    called, and at which point there each of its legs comes out.
    """

    leaves: str
    lands: str = ""
    begins: Phrase
    ends: Phrase | None = None
    onto: list[str] = []


class RungView(Model):
    """One place for the probes on every leg. side: line or load side of its element, or its only one. run:
    on the ladder (0), or on which of the paths beside it.
    """

    id: str
    element: str
    side: str
    title: Phrase
    run: int = 0


class SpanView(Model):
    """What lies between two points: how much of the suspicion it holds, 0 to 1."""

    id: str
    leg: int
    upper: str
    lower: str
    within: str
    through: bool
    share: float
    named: bool = False


class ReadingView(Model):
    """One reading where it was taken: its figure, what it reads as, in which state, and if it is used."""

    uuid: str
    one: str
    two: str
    title: Phrase
    what: str
    figure: Quantity
    reads: str
    word: Phrase
    state: Phrase
    key: str
    at: datetime
    by: str = ""
    used: bool = True
    notes: list[Phrase] = []


class Leftover(Model):
    """One thing that it may still be, and how likely. weight: of its ink, 0 to 1."""

    id: str
    title: Phrase
    share: Quantity
    weight: float
    leg: int = 0


class BranchView(Model):
    """What the next probe may read, and what that would leave."""

    reads: Phrase
    leaves: Phrase
    weight: float


class NextView(Model):
    """Where to measure next, why there, in which state, and what each reading would leave. waits: what has to
    be done first, confirm: the word that it is.
    """

    one: str
    two: str
    contactor: str
    motor: str
    leads: str
    meter: str
    title: Phrase
    why: Phrase
    waits: Phrase | None = None
    confirm: Phrase | None = None
    minutes: Quantity
    branches: list[BranchView] = []


class LadderView(Model):
    """The circuit with everything that was read of it.

    confirmed: somebody said that this is its circuit. left, total: how many single faults are left, of how
    many. cannot: what no probe in this state parts, and what would. signs: what the readings look like, by
    name. stands: the state that a reading is of while nobody says otherwise. proved: when the meter
    was: before, or before and after these readings. positions: how its starter can stand.
    """

    title: str = ""
    supply: Phrase | None = None
    below: str = ""
    legs: list[str] = []
    elements: list[ElementView] = []
    rungs: list[RungView] = []
    spans: list[SpanView] = []
    paths: list[PathView] = []
    positions: list[str] = []
    readings: list[ReadingView] = []
    confirmed: bool = False
    contactor: bool = False
    motor: bool = False
    ground: bool = False
    left: int = 0
    total: int = 0
    headline: Phrase | None = None
    leftovers: list[Leftover] = []
    more: int = 0
    others: Phrase | None = None
    cannot: list[Phrase] = []
    signs: list[Phrase] = []
    next: NextView | None = None
    stands: dict[str, str] = {}
    proved: str = ""
