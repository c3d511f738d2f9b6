"""What must stand before a bump on this kind of set, and where an exchange of two leads turns what round."""

from __future__ import annotations

from collections.abc import Callable

from ...base import RULEBOOK, Model, by_id, known
from ...plant import KINDS
from .entry import DirectionEntry


class First(Model):
    """One thing to be done before a bump; when: on which sets."""

    id: str
    title: str
    why: str
    when: str


class Place(Model):
    """Where two leads can be exchanged, and which modes turn the other way then."""

    id: str
    title: str
    turns: list[str]


class _File(Model):
    first: list[First]
    place: list[Place]


_data = RULEBOOK.section("electrical/direction/before.toml", _File)
PLACES: dict[str, Place] = by_id(_data.place)


class SetTraits(Model):
    """What of a set decides it. kind: of the pump set; phases: of its motor."""

    kind: str = ""
    phases: int = 3
    body: DirectionEntry = DirectionEntry()

    @property
    def coupled(self) -> bool:
        """Is the pump turned with the motor? Not known counts as yes: that is the worse."""
        return self.one_body or self.body.coupled != "no"

    @property
    def one_body(self) -> bool:
        return self.kind in KINDS and not KINDS[self.kind].coupled

    @property
    def displacement(self) -> bool:
        return self.kind in KINDS and KINDS[self.kind].positive


_WHEN: dict[str, Callable[[SetTraits], bool]] = {
    "always": lambda _: True,
    "shaft": lambda s: not (s.one_body and s.kind in KINDS and KINDS[s.kind].posture == "one_body"),
    "three_phase": lambda s: s.phases == 3,
    "one_way": lambda s: s.body.one_way == "yes" and not s.one_body,
    "threaded": lambda s: s.body.threaded == "yes",
    "wet": lambda s: s.coupled,
    "displacement": lambda s: s.displacement and s.coupled,
}


def firsts(traits: SetTraits) -> list[First]:
    """What must stand before a bump of this set, in its order?"""
    return [f for f in _data.first if _WHEN[f.when](traits)]


def done(traits: SetTraits, first: First) -> bool:
    """Was it said? Uncoupled is read off how it stands."""
    if first.id == "uncoupled":
        return traits.body.coupled == "no"
    return bool(getattr(traits.body, first.id))


def turned_round(place: str, modes: list[str]) -> set[str]:
    """Which of these modes does an exchange there turn round?"""
    return set(PLACES[place].turns) & set(modes)


for _first in _data.first:
    known([_first.when], _WHEN, _first.id, "condition")
