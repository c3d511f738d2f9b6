"""What is drawn of a terminal box: its nuts, the half windings as arrows, what moves where. No pixels."""

from ...base import Model, Phrase, Quantity


class NutView(Model):
    """One nut: what is in it, by the marks in use."""

    line: str = ""
    leads: list[str] = []


class HalfView(Model):
    """One half winding: its ends, its arrow (in what it is made for, so that 1 is right), the arrow that it
    has on the right list, and how it stands. x, y: to the right and upwards.
    """

    name: str
    phase: int
    x: float
    y: float
    due_x: float
    due_y: float
    percent: Quantity
    angle: Quantity
    volts: Quantity | None = None
    state: str = ""


class LineView(Model):
    """What a line would draw at standstill, of what is right at this supply."""

    name: str
    percent: Quantity


class TestView(Model):
    """The next test of unmarked leads: what is tied to what, what is read, or how the others kick."""

    tied: str
    to: str
    reads: list[str]
    kicks: bool = False


class UnmarkedView(Model):
    """Unmarked leads so far: groups, marks by tape ("A": "T7"), the next test, whether all have theirs."""

    groups: list[list[str]] = []
    marks: dict[str, str] = {}
    asked: TestView | None = None
    says: Phrase | None = None
    done: bool = False


class LeadsView(Model):
    """The box. winding: by which it is drawn. names: every lead. loose: those in no nut. right: the list
    for this supply. moves: the shortest ways there, each a whole one. by_line, by_lead: mean currents of
    three rolls.
    """

    leads: int = 0
    winding: str = ""
    names: list[str] = []
    nuts: list[NutView] = []
    loose: list[str] = []
    halves: list[HalfView] = []
    lines: list[LineView] = []
    torque: Quantity | None = None
    heat: Quantity | None = None
    right: list[NutView] = []
    list_title: str = ""
    moves: list[Phrase] = []
    by_line: list[Quantity] = []
    by_lead: list[Quantity] = []
    unmarked: UnmarkedView | None = None
