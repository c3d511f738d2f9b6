"""The rulebook: every data file of every room, read once, checked, and hashed whole."""

from __future__ import annotations

import hashlib
import tomllib
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Protocol, TypeVar

from pydantic import BaseModel, ValidationError

from .. import ROOMS, __version__
from .errors import HurbinError
from .tables import Table
from .texts import Text, text_of
from .units import DIMENSIONS, unit
from .written_rules import Ground, Limit, Measurand, Rule, School

M = TypeVar("M", bound=BaseModel)


class _Named(Protocol):
    @property
    def id(self) -> str: ...


N = TypeVar("N", bound=_Named)
# What any room's file may hold; every other section belongs to the room that asks for it.
_OWN: dict[str, type[BaseModel]] = {
    "limit": Limit,
    "rule": Rule,
    "school": School,
    "measurand": Measurand,
    "ground": Ground,
    "table": Table,
}
_PLURAL = {"limit": "limits", "rule": "rules", "school": "schools", "measurand": "measurands"} | {
    "ground": "grounds",
    "table": "tables",
}


@dataclass
class Rulebook:
    """What decides anything: limits, tables, rules with their grounds, schools, texts, and the rooms' own
    lists.

    `renamed`: sentences that were called otherwise, by their old ids: what is on record still speaks.
    `files`: every data file as it lies on disk, by "room/name"; the version hashes them all, whatever was
    imported. `sections`: what a room reads with a model of its own.
    """

    limits: dict[str, Limit] = field(default_factory=dict)
    rules: dict[str, Rule] = field(default_factory=dict)
    schools: dict[str, School] = field(default_factory=dict)
    measurands: dict[str, Measurand] = field(default_factory=dict)
    grounds: dict[str, Ground] = field(default_factory=dict)
    tables: dict[str, Table] = field(default_factory=dict)
    texts: dict[str, Text] = field(default_factory=dict)
    renamed: dict[str, str] = field(default_factory=dict)
    files: dict[str, bytes] = field(default_factory=dict)
    sections: dict[str, dict[str, Any]] = field(default_factory=dict)
    asked: set[str] = field(default_factory=set)
    # Where each rule, limit, table and school is from: the room, and the folder in it.
    rooms: dict[tuple[str, str], str] = field(default_factory=dict)

    @classmethod
    def load(cls, root: Path | None = None) -> Rulebook:
        """Every data file of the rooms under `root` (this package). Raises for an id twice or unknown, a
        unit or an argument that nobody knows, a step out of order: nothing is judged by a book with a
        hole in it.
        """
        book = cls()
        for name, raw in _data_files(Path(__file__).parent.parent if root is None else root):
            book._take(name, raw)
        book._check()
        return book

    @property
    def version(self) -> str:
        """Package version and a hash of every data file: which rules judged this."""
        digest = hashlib.sha256()
        for name, raw in sorted(self.files.items()):
            digest.update(name.encode() + b"\0" + raw)
        return f"{__version__}+{digest.hexdigest()[:10]}"

    def section(self, name: str, model: type[M]) -> M:
        """A room's own lists, by its own model: "safety/gates.toml". Raises where the file is not what it
        says.
        """
        if name not in self.files:
            raise HurbinError("file_unknown", f"There is no data file {name}.", field=name)
        self.asked.add(name)
        return model.model_validate(self.sections.get(name, {}))

    def topic(self, kind: str, key: str) -> str:
        """The folder that this row is from, room first: "electrical/insulation"."""
        return self.rooms[kind, key]

    def unasked(self) -> list[str]:
        """Sections that no room reads: data that decides nothing."""
        return sorted(f"{n}: {', '.join(rows)}" for n, rows in self.sections.items() if n not in self.asked)

    def _take(self, name: str, raw: bytes) -> None:
        self.files[name] = raw
        data = tomllib.loads(raw.decode())
        for kind, model in _OWN.items():
            held: dict[str, Any] = getattr(self, _PLURAL[kind])
            for row in data.pop(kind, []):
                try:
                    item = model.model_validate(row)
                except ValidationError as error:
                    raise _refused(name, kind, row, error) from None
                key = str(row["id"])
                _once(held, key, name)
                held[key] = item
                self.rooms[kind, key] = name.rpartition("/")[0]
        for key, says in data.pop("text", {}).items():
            _once(self.texts, key, name)
            self.texts[key] = text_of(key, says, DIMENSIONS)
        for old, new in data.pop("renamed", {}).items():
            _once(self.renamed, old, name)
            self.renamed[old] = new
        if data:
            self.sections[name] = data

    def _check(self) -> None:
        for ground in self.grounds.values():
            self.texts[f"ground.{ground.id}"] = text_of(f"ground.{ground.id}", ground.says, DIMENSIONS)
        for old, new in self.renamed.items():
            known([new], self.texts, old, "text")
            _once(self.texts, old, "renamed")
        for limit in self.limits.values():
            unit(limit.unit)
        for table in self.tables.values():
            table.check()
        for rule in self.rules.values():
            self._check_rule(rule)
        for measurand in self.measurands.values():
            known([measurand.watch] if measurand.watch else [], DIMENSIONS, measurand.id, "unit")
            known(measurand.limits, self.limits, measurand.id, "limit")

    def _check_rule(self, rule: Rule) -> None:
        known(rule.ground, self.grounds, rule.id, "ground")
        known(rule.read, DIMENSIONS, rule.id, "unit")
        named = [n for s in rule.steps for n in (s.limit, *((s.times,) if s.times else ()))]
        known(named, self.limits, rule.id, "limit")
        for stands, others in rule.instead.items():
            known([stands], {s.limit: s for s in rule.steps}, rule.id, "step")
            known(others, self.limits, rule.id, "limit")
        units = {unit(self.limits[s.limit].unit).dimension for s in rule.steps}
        if len(units) > 1:
            raise HurbinError(
                "units_mixed", f"{rule.id} has steps in {', '.join(sorted(units))}.", field=rule.id
            )
        for step in rule.steps:
            if step.times and unit(self.limits[step.times].unit).dimension not in ("ratio", "percent"):
                raise HurbinError("not_a_factor", f"{rule.id}: {step.times} is no factor.", field=rule.id)


def _data_files(root: Path) -> Iterable[tuple[str, bytes]]:
    """The rooms' data files: the rooms in their order, a room that is not named there behind them."""
    rooms = sorted(
        (r for r in root.iterdir() if r.is_dir() and not r.name.startswith(("_", "."))),
        key=lambda r: (ROOMS.index(r.name) if r.name in ROOMS else len(ROOMS), r.name),
    )
    for room in rooms:
        yield from _of_room(room, room.name)


def _of_room(folder: Path, path: str) -> Iterable[tuple[str, bytes]]:
    inside = sorted(folder.iterdir(), key=lambda f: (f.is_dir(), f.name))
    for item in inside:
        if item.is_file() and item.name.endswith(".toml"):
            yield f"{path}/{item.name}", item.read_bytes()
        elif item.is_dir() and not item.name.startswith(("_", ".")):
            yield from _of_room(item, f"{path}/{item.name}")


def _refused(name: str, kind: str, row: Any, error: ValidationError) -> HurbinError:
    first = error.errors()[0]
    where = ".".join(str(x) for x in first["loc"])
    of = row.get("id", "?") if isinstance(row, dict) else "?"
    return HurbinError("data_wrong", f"{name}: {kind} {of}: {where}: {first['msg']}", field=str(of))


def _once(table: Mapping[str, object], key: str, name: str) -> None:
    if key in table:
        raise HurbinError("defined_twice", f"{key} is defined twice, again in {name}.", field=key)


def known(names: Iterable[str], table: Collection[str], of: str, what: str) -> None:
    """Is each of these in the table? Raises `…_unknown` with who names it."""
    for name in names:
        if name not in table:
            raise HurbinError(f"{what}_unknown", f"{of}: there is no {what} {name}.", field=of, value=name)


def by_id(rows: Iterable[N]) -> dict[str, N]:
    """A room's own list by its ids. Raises `defined_twice`."""
    out: dict[str, N] = {}
    for row in rows:
        _once(out, row.id, "its list")
        out[row.id] = row
    return out


RULEBOOK = Rulebook.load()
_VERSION = RULEBOOK.version


def rules_version() -> str:
    """Which rules judge now: the package's version and a hash of every data file."""
    return _VERSION
