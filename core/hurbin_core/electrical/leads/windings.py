"""The windings behind the leads of a terminal box, as data: half windings, joints inside, right lists."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...base import RULEBOOK, Model, by_id

Continuity = Literal["one", "pairs", "pairs_and_triple", "triples"]
Use = Literal["low", "high"]
Nut = frozenset[str]
Box = list[Nut]
LINES = ("L1", "L2", "L3")


class RightList(Model):
    """One right way to join the leads. use: for which of a plate's two voltages."""

    id: str
    title: str
    use: Use
    nuts: list[str]

    @property
    def box(self) -> Box:
        return [frozenset(n.split()) for n in self.nuts]


class Winding(Model):
    """A winding: its half windings from end to end with their phase, and its right lists."""

    id: str
    title: str
    leads: int
    kind: Literal["wye", "delta"]
    continuity: Continuity
    coils: list[tuple[str, str, int]]
    list_: list[RightList] = Field(alias="list")

    @property
    def names(self) -> list[str]:
        """The leads, in their order."""
        return [str(n) for n in range(1, self.leads + 1)]

    def right(self, use: Use) -> RightList | None:
        """The list for this voltage of the plate."""
        return next((x for x in self.list_ if x.use == use), None)


class _File(Model):
    winding: list[Winding]


WINDINGS: dict[str, Winding] = by_id(RULEBOOK.section("electrical/leads/windings.toml", _File).winding)


def windings_of(leads: int) -> list[Winding]:
    """The windings that bring out this many leads."""
    return [w for w in WINDINGS.values() if w.leads == leads]
