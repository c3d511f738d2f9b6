"""Questions put to the database as they stand, and many rows put in at once.

What every look and every keystroke asks is written as SQL, and what a file brings in goes in as plain rows:
building these in the ORM takes three to five times as long as the database needs for them.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import UTC
from typing import Any, TypeVar

from django.db import connection
from django.db.models import BooleanField, CharField, FloatField, ForeignKey, IntegerField, Model
from MySQLdb.constants import FIELD_TYPE

M = TypeVar("M", bound=Model)


def ask(sql: str, params: Sequence[Any] = ()) -> list[tuple[Any, ...]]:
    """The answer as rows; times in UTC. JSON comes as its text."""
    with connection.cursor() as cursor:
        cursor.execute(sql, [connection.ops.adapt_unknown_value(x) for x in params])
        times = [i for i, c in enumerate(cursor.description) if c[1] == FIELD_TYPE.DATETIME]
        found = cursor.fetchall()
    if not times:
        return list(found)
    out = []
    for row in found:
        cells = list(row)
        for i in times:
            cells[i] = cells[i] and cells[i].replace(tzinfo=UTC)
        out.append(tuple(cells))
    return out


def rows(model: type[M], sql: str, params: Sequence[Any] = ()) -> list[M]:
    """The answer as rows of a model: every column of it, or those that are named with its key."""
    return list(model._default_manager.raw(sql, list(params)))


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
