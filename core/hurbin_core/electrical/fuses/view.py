"""What is drawn of a set of fuses."""

from ...base import Model, Quantity


class FuseView(Model):
    """One fuse. state: sound, blown, or empty where it was not read. unlike: what of it is not as the drawing
    wants it, or not as its neighbours are.
    """

    leg: int
    name: str
    state: str = ""
    clip: str = ""
    unlike: list[str] = []


class FusesView(Model):
    """The fuses, what the drawing wants of them, and how much hangs on them. signs: a second one blew
    without a cause: somebody has to sign.
    """

    fuses: list[FuseView] = []
    wanted: str = ""
    classes: dict[str, str] = {}
    load: Quantity | None = None
    signs: bool = False
