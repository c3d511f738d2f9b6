"""Questions put to the database as they stand, and many rows put in at once.

What every look and every keystroke asks is written as SQL, and what a file brings in goes in as plain rows:
building these in the ORM takes three to five times as long as the database needs for them.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Sequence
from datetime import UTC
from typing import Any, TypeVar

from django.db import connection
from django.db.models import (
    BooleanField,
    CharField,
    DateTimeField,
    FloatField,
    ForeignKey,
    IntegerField,
    JSONField,
    Model,
)
from MySQLdb.constants import FIELD_TYPE

M = TypeVar("M", bound=Model)


def ask(sql: str, params: Sequence[Any] = ()) -> list[tuple[Any, ...]]:
    """The answer as rows; times in UTC. JSON comes as its text."""
    described, found = _asked(sql, params)
    times = [i for i, c in enumerate(described) if c[1] == FIELD_TYPE.DATETIME]
    if not times:
        return found
    out = []
    for cells in map(list, found):
        for i in times:
            cells[i] = cells[i] and cells[i].replace(tzinfo=UTC)
        out.append(tuple(cells))
    return out


def _asked(sql: str, params: Sequence[Any]) -> tuple[Any, list[tuple[Any, ...]]]:
    with connection.cursor() as cursor:
        cursor.execute(sql, [connection.ops.adapt_unknown_value(x) for x in params])
        return cursor.description, list(cursor.fetchall())


def rows(model: type[M], sql: str, params: Sequence[Any] = ()) -> list[M]:
    """The answer as rows of a model: every column of it, or those that are named with its key. What else is
    asked for is an attribute of each.
    """
    described, found = _asked(sql, params)
    if not found:
        return []
    at = {c[0]: i for i, c in enumerate(described)}
    fields = [f for f in model._meta.concrete_fields if f.column in at]
    cells = [(at.pop(f.column), _READ.get(type(f))) for f in fields]
    names = [f.attname for f in fields]
    out = []
    for line in found:
        values = [line[i] if read is None or line[i] is None else read(line[i]) for i, read in cells]
        made = model.from_db(connection.alias, names, values)
        for name, i in at.items():
            setattr(made, name, line[i])
        out.append(made)
    return out


# What the database's own types do not say.
_READ: dict[type[Any], Callable[[Any], Any]] = {
    DateTimeField: lambda at: at.replace(tzinfo=UTC),
    BooleanField: bool,
    JSONField: json.loads,
}


def row(model: type[M], sql: str, params: Sequence[Any] = ()) -> M | None:
    """The first of them."""
    return next(iter(rows(model, sql, params)), None)


def by_id(model: type[M], pk: int) -> M | None:
    """One row by its key."""
    return row(model, f"SELECT * FROM {model._meta.db_table} WHERE id = %s", [pk])


def put_in(model: type[M], made: Iterable[dict[str, Any]]) -> None:
    """Insert rows of a model, given by its columns' names; what is not given by its default.

    Raises what the database raises; no signals, no keys given back.
    """
    lines = list(made)
    if not lines:
        return
    fields = [f for f in model._meta.concrete_fields if not f.primary_key or f.attname in lines[0]]
    columns = [[_stored(f, x.get(f.attname, _LACKING)) for x in lines] for f in fields]
    names = ", ".join(f"`{f.column}`" for f in fields)
    sql = f"INSERT INTO `{model._meta.db_table}` ({names}) VALUES ({', '.join(['%s'] * len(fields))})"
    with connection.cursor() as cursor:
        cursor.executemany(sql, list(zip(*columns, strict=True)))


_LACKING = object()
_AS_IT_IS = (CharField, FloatField, IntegerField, BooleanField, ForeignKey)


def _stored(field: Any, value: Any) -> Any:
    if value is _LACKING:
        value = field.get_default()
    return value if isinstance(field, _AS_IT_IS) else field.get_db_prep_save(value, connection)
