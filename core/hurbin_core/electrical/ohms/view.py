"""What is drawn of a sheet of ohms: the windings, the bridge, the capacitor's band. Geometry, no pixels."""

from ...base import Model, Quantity


class WindingView(Model):
    """One winding behind the terminals. where: its terminals. odd: it is the one furthest off."""

    where: str
    ohms: Quantity | None = None
    odd: bool = False
    open: bool = False


class DiodeView(Model):
    """One diode of the bridge, by its field, and what it is: sound, short, open, odd; empty: not read."""

    field: str
    state: str = ""


class BandView(Model):
    """A capacitor against its mark: where the band begins and ends and the value stands, 0 to 1."""

    low: Quantity
    high: Quantity
    low_at: float
    high_at: float
    value_at: float | None = None


class OhmsView(Model):
    """choices: what can be measured on this set. of: what is. wait: how long the bus still needs."""

    of: str = "winding"
    choices: list[str] = []
    joined: str = ""
    windings: list[WindingView] = []
    diodes: list[DiodeView] = []
    band: BandView | None = None
    wait: Quantity | None = None
