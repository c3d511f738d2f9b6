"""What is drawn of a direction: the arrow, the shaft in each mode, what stands before a bump."""

from ...base import Model


class ModeView(Model):
    """One way in which it is run. before, now: with, against, not_seen or empty."""

    id: str
    title: str
    before: str = ""
    now: str = ""


class FirstView(Model):
    """One thing before a bump. field: what is ticked; none: it is read off how the set stands."""

    id: str
    title: str
    why: str
    done: bool
    field: str = ""


class PlaceView(Model):
    """Where two leads can be exchanged. fits: it turns round just the modes that are wrong."""

    id: str
    title: str
    turns: str
    fits: bool = False


class DirectionView(Model):
    """The whole. arrow: cw, ccw, or empty; waits: how much stands before a bump still; backwards: the
    arrow's direction seen from the other end.
    """

    arrow: str = ""
    seen_from: str = ""
    modes: list[ModeView] = []
    firsts: list[FirstView] = []
    waits: int = 0
    places: list[PlaceView] = []
    single: bool = False
    one_body: bool = False
