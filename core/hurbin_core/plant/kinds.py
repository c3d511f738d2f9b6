"""The kinds of pump set and the parts of a train, as data."""

from __future__ import annotations

import tomllib
from importlib.resources import files
from typing import Literal

from pydantic import BaseModel

from ..base import HurbinError


class Part(BaseModel):
    """One place on a train and the kinds of component that fit there (none: it cannot be swapped)."""

    id: str
    title: str
    holds: list[str]


class Kind(BaseModel):
    id: str
    title: str
    posture: Literal["flat", "upright", "one_body"]
    slots: list[str]
    built_in_electronics: bool = False


class EventKind(BaseModel):
    """Something that happens to a part (or, without one, to the whole set) and after which it is another machine.
    `repair`: something was put right: it ends an act, and a stop may be tried out under watch."""

    id: str
    title: str
    part: str = ""
    repair: bool = False


class Serves(BaseModel):
    """What a service is for, what its failing threatens, and who is told."""

    id: str
    title: str
    threat: str
    tell: str


class _File(BaseModel):
    part: list[Part]
    kind: list[Kind]
    event: list[EventKind]
    serves: list[Serves]


_data = _File.model_validate(tomllib.loads(files(__package__).joinpath("kinds.toml").read_text()))
PARTS: dict[str, Part] = {p.id: p for p in _data.part}
KINDS: dict[str, Kind] = {k.id: k for k in _data.kind}
EVENT_KINDS: dict[str, EventKind] = {e.id: e for e in _data.event}
SERVES: dict[str, Serves] = {s.id: s for s in _data.serves}
COMPONENT_KINDS: dict[str, str] = {held: p.id for p in _data.part for held in p.holds}


def kind(kind_id: str) -> Kind:
    """Which kind of set is this? Raises `kind_unknown` with the kinds that are."""
    found = KINDS.get(kind_id)
    if found is None:
        raise HurbinError(
            "kind_unknown", f"“{kind_id}” is not a kind of pump set.", field="kind", value=kind_id, right=", ".join(KINDS)
        )
    return found


def slot_for(kind_id: str, slot: str, component: str) -> str:
    """May a component of this kind be fitted at this place on this kind of set?"""
    if slot not in kind(kind_id).slots:
        right = ", ".join(s for s in kind(kind_id).slots if PARTS[s].holds)
        raise HurbinError("slot_unknown", f"A {kind(kind_id).title.lower()} set has no {slot}.", field="slot", right=right)
    if component not in PARTS[slot].holds:
        raise HurbinError(
            "does_not_fit",
            f"A {component.replace('_', ' ')} does not go in the place of the {PARTS[slot].title.lower()}.",
            field="kind",
            value=component,
            right=", ".join(PARTS[slot].holds),
        )
    return slot
