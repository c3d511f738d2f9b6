"""Every room's benches in one tuple, made of the rooms' own. The way in for server, command line, files and
tests.

A room is a folder of this package; what it offers stands in its `BENCHES`. Nobody has to be told of a new
one.
"""

from __future__ import annotations

import importlib
import pkgutil
from functools import lru_cache
from typing import Any

import hurbin_core

from .base import AnyBench, HurbinError, once, rules_version

_NOT_ROOMS = ("simulator",)


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


__all__ = ["bench", "benches", "rules_version", "topics"]
