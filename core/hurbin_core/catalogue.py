"""Every room's benches in one tuple, made of the rooms' own. The way in for server, command line, files and
tests.

A room is a folder of this package; what it offers stands in its `BENCHES`. Nobody has to be told of a new
one.
"""

from __future__ import annotations

import importlib
import pkgutil
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import hurbin_core

from .base import RULEBOOK, AnyBench, HurbinError, once, rules_version

_NOT_ROOMS = ("simulator",)
_TOLD = ("rule", "limit", "table", "school")


@dataclass(frozen=True)
class Topic:
    """What some rules are about. key: as a rule names it, "electrical/ohms"; room, title: both in words."""

    key: str
    room: str
    title: str


def _rooms() -> list[Any]:
    names = [
        m.name for m in pkgutil.iter_modules(hurbin_core.__path__) if m.ispkg and m.name not in _NOT_ROOMS
    ]
    return [importlib.import_module(f"hurbin_core.{n}") for n in sorted(names)]


@lru_cache(maxsize=1)
def _all() -> dict[str, AnyBench]:
    return once([b for room in _rooms() for b in getattr(room, "BENCHES", ())])


def benches() -> list[AnyBench]:
    """Every bench by name. The rooms are read when they are first asked for."""
    return list(_all().values())


@lru_cache(maxsize=1)
def topics() -> dict[str, str]:
    """The room that each bench belongs to, by the bench's name."""
    return {
        b.name: room.__name__.rpartition(".")[2] for room in _rooms() for b in getattr(room, "BENCHES", ())
    }


def bench(name: str) -> AnyBench:
    """The bench of this name. Raises `bench_unknown` with those that are."""
    found = _all().get(name)
    if found is None:
        right = ", ".join(_all())
        message = f"There is no bench “{name}”."
        raise HurbinError("bench_unknown", message, field="bench", value=name, right=right)
    return found


@lru_cache(maxsize=1)
def rule_topics() -> list[Topic]:
    """What the rulebook's rules, limits, tables and schools are about, rules first, room by room.

    A bench's own go by the bench's title; what a room says for all its benches stands first in it.
    """
    keys = [RULEBOOK.rooms[kind, key] for told in _TOLD for kind, key in RULEBOOK.rooms if kind == told]
    rooms = list(dict.fromkeys(k.partition("/")[0] for k in keys))
    ordered = sorted(dict.fromkeys(keys), key=lambda k: (rooms.index(k.partition("/")[0]), "/" in k))
    shared = {k.partition("/")[0] for k in ordered if "/" in k}
    return [_topic(k, k in shared) for k in ordered]


def _topic(key: str, shared: bool) -> Topic:
    room, _, folder = key.partition("/")
    title = f"{room.capitalize()} in general" if shared else room.capitalize()
    if folder:
        title = _all()[folder].title if folder in _all() else folder.replace("_", " ").capitalize()
    return Topic(key=key, room=room.capitalize(), title=title)


__all__ = ["Topic", "bench", "benches", "rule_topics", "rules_version", "topics"]
