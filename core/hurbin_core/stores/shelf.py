"""A van's shims: sizes by measurement, what a job takes and brings back, what runs low."""

from collections import Counter
from collections.abc import Iterable
from typing import Any

from ..base import Entered, FieldRule, HurbinError, Model, Phrase, Quantity, Verdict, phrase, read
from ..logbook import Case

THICKEST_MM = 60.0
MOST = 9999


class ShimLot(Model):
    """Shims of one measured thickness, in whole tenths of a micrometre: how many there are, and from how few
    on they are bought.
    """

    tenths: int
    count: int
    least: int = 0


class VanShelf(Model):
    """What a van holds of shims."""

    name: str
    pieces: list[ShimLot] = []


VANS = "vans"


def vans_of(case: Case[Any]) -> list[VanShelf]:
    """What the vans hold, as far as the case was told."""
    return case.extra(VANS, VanShelf)


class Booking(Model):
    """What one job took from a van and what it brought back, sizes in whole tenths of a micrometre."""

    taken: dict[int, int] = {}
    returned: dict[int, int] = {}

    @property
    def change(self) -> Counter[int]:
        total = Counter(self.returned)
        total.subtract(self.taken)
        return total


def size_of(typed: Entered, field: str = "size") -> int:
    """A measured thickness in whole tenths of a micrometre. Raises HurbinError for none, zero, or one too
    thick to be a shim.

    >>> size_of(Entered(text="10", unit="mil"))
    2540
    """
    got = read(typed, FieldRule(field, "Thickness", "length", 0.0, THICKEST_MM))
    tenths = round(got.value * 10000) if got is not None else 0
    if tenths <= 0:
        raise HurbinError(
            "thickness_zero",
            "A shim must have a thickness. Measure it: colour is not a size.",
            field=field,
            value=typed.text,
            right="0.25 mm, or 10 mil",
        )
    return tenths


def take_and_return(before: Iterable[int], after: Iterable[int]) -> Booking:
    """From the measured pieces under all feet before and after a move: what came from the van, and what goes
    back to it.

    A piece moved from one foot to another is neither.

    >>> take_and_return([2500, 1000], [1000, 5000]).change == {2500: 1, 5000: -1}
    True
    """
    old, new = Counter(before), Counter(after)
    return Booking(taken=dict(new - old), returned=dict(old - new))


def lot_words(lot: ShimLot) -> tuple[Verdict, Phrase]:
    """How does one size stand: enough, low, gone, or taken more often than it was counted? A size with no
    least is never low.
    """
    args: dict[str, Quantity | str] = {"count": str(lot.count), "least": str(lot.least)}
    if lot.count < 0:
        return Verdict.ACT, phrase("shelf.below", n=str(-lot.count))
    if lot.least and lot.count == 0:
        return Verdict.ACT, phrase("shelf.none")
    if lot.least and lot.count < lot.least:
        return Verdict.WATCH, phrase("shelf.low", **args)
    return Verdict.GOOD, phrase("shelf.enough", **args)
