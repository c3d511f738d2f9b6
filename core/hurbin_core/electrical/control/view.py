"""What is drawn of a control ladder: each element as it stands, what is left, where next."""

from ...base import Model, Phrase, Quantity


class ControlElementView(Model):
    """One element. reads: full, part, zero, or empty, at its load side. share: of the suspicion, 0 to 1.
    stands: by its process value open, closed or either; empty: not known. bypassed: by the selector.
    """

    id: str
    kind: str
    name: str
    reads: str = ""
    volts: Quantity | None = None
    share: float = 0.0
    named: bool = False
    stands: str = ""
    set_point: str = ""
    bypassed: bool = False


class ControlView(Model):
    """The ladder from its source to its common."""

    volts: Quantity | None = None
    confirmed: bool = False
    elements: list[ControlElementView] = []
    source_reads: str = ""
    next: str = ""
    why: Phrase | None = None
    left: int = 0
