"""A control circuit as wires, contacts and a coil in one row: what a meter shows between two of its places.

Contacts are ohms, open or closed; a coil has its own, and the source a little. The potentials come from the
current that flows round. No rule's bracket or weight is used here.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from random import Random

_CLOSED, _BROKEN = 0.05, 2e8
_METER = 3.5e3


@dataclass(slots=True)
class Chain:
    """names: the elements from the source to the common. open_at: those that are open. tired: ohms of a bad
    contact by name. coil: the name of the coil and its ohms.
    """

    volts: float
    names: Sequence[str]
    coil: str = "K"
    coil_ohm: float = 420.0
    open_at: frozenset[str] = frozenset()
    tired: Mapping[str, float] = field(default_factory=dict)

    def _ohm(self, name: str) -> float:
        if name in self.open_at:
            return _BROKEN
        return self.coil_ohm if name == self.coil else self.tired.get(name, _CLOSED)

    def to_common(self, name: str, rng: Random) -> str:
        """Volts from the load side of this element ("source": its own) to the common."""
        below = self.names[list(self.names).index(name) + 1 :] if name != "source" else list(self.names)
        above = [n for n in self.names if n not in below]
        under = sum(self._ohm(n) for n in below)
        # The meter lies beside everything below its tip; beneath the last element there is the common itself.
        both = under * _METER / (under + _METER) if under else 0.0
        over = 0.4 + sum(self._ohm(n) for n in above)
        return _shown(self.volts * both / (over + both) if both else 0.0, rng)

    def across(self, name: str, rng: Random) -> str:
        """Volts across one element, the others as they are."""
        mine = self._ohm(name)
        both = mine * _METER / (mine + _METER)
        rest = 0.4 + sum(self._ohm(n) for n in self.names if n != name)
        return _shown(self.volts * both / (rest + both), rng)


def _shown(volts: float, rng: Random) -> str:
    seen = volts * rng.gauss(1, 0.002)
    return f"{seen:.1f}" if seen >= 0.05 else "0"
