"""What is drawn of a drive's settings: rows by group, each beside what it ought to be and once was."""

from ...base import Model, Phrase


class TrackView(Model):
    """Where a figure lies, 0 to 1: what it ought to be (low to high), as it was, found, left."""

    low: float
    high: float
    before: float | None = None
    found: float | None = None
    left: float | None = None


class SettingView(Model):
    """One row. unit: of a figure without one; choices: of a word. before: as it was left last time. state:
    right, wrong, reasoned, unread, unsure, or empty where nothing is asked of it. moved: since then.
    """

    id: str
    title: str
    unit: str = ""
    choices: list[str] = []
    before: str = ""
    should: Phrase | None = None
    why: str = ""
    state: str = ""
    moved: bool = False
    wrong: str = ""
    track: TrackView | None = None
    own: bool = False


class SettingGroup(Model):
    """The rows of one kind."""

    id: str
    title: str
    rows: list[SettingView] = []
    asked: int = 0
    right: int = 0


class FamilyView(Model):
    """A family of drives that can be read over the network."""

    id: str
    title: str
    note: str


class DriveSheetView(Model):
    """The whole. moved, wrong: how many of each."""

    groups: list[SettingGroup] = []
    families: list[FamilyView] = []
    read: int = 0
    moved: int = 0
    wrong: int = 0
    before_at: str = ""
