"""Questions as they stand, and rows put in at once: the same as through the models."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest
from django.db import DataError, IntegrityError, connection
from django.test.utils import CaptureQueriesContext

from hurbin_server.base.asking import ask, by_id, put_in, row, rows
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Entry, Finding, Sheet
from hurbin_server.plant.models import PumpSet

AT = datetime(2026, 3, 4, 5, 6, 7, 891011, tzinfo=UTC)


def sheet(pump_set: PumpSet, user: User, uuid: str, **more: object) -> dict[str, object]:
    start = {"pump_set_id": pump_set.pk, "bench": "running_check", "opened_by_id": user.pk}
    return {"uuid": uuid, "opened_at": AT, **start, **more}


def test_what_is_put_in_is_read_as_the_models_read_it(pump_set: PumpSet, people: dict[str, User]) -> None:
    tia = people["tia"]
    put_in(Sheet, [sheet(pump_set, tia, "s1"), sheet(pump_set, tia, "s2", closed_at=AT)])
    words = {"note": "a 'quoted' \\ 100 % ∆", "figures": [1.5, None, True]}
    put_in(
        Entry,
        [{"uuid": "e1", "sheet_id": "s1", "by_id": tia.pk, "taken_at": AT, "received_at": AT, "body": words}],
    )
    one, two = Sheet.objects.order_by("uuid")
    assert (one.opened_at, one.closed_at, one.left_because, two.closed_at) == (AT, None, "", AT)
    entry = Entry.objects.get()
    assert (entry.body, entry.taken_at, entry.late, entry.device, entry.clock_off_ms) == (
        words,
        AT,
        False,
        "",
        None,
    )


def test_questions_are_answered_with_times_in_utc(pump_set: PumpSet, people: dict[str, User]) -> None:
    put_in(Sheet, [sheet(pump_set, people["tia"], "s1"), sheet(pump_set, people["tia"], "s2", closed_at=AT)])
    asked = ask(
        "SELECT uuid, opened_at, closed_at FROM logbook_sheet WHERE opened_at = %s ORDER BY uuid", [AT]
    )
    assert asked == [("s1", AT, None), ("s2", AT, AT)]
    found = rows(Sheet, "SELECT * FROM logbook_sheet WHERE closed_at IS NOT NULL AND closed_at <= %s", [AT])
    assert [(s.pk, s.closed_at) for s in found] == [("s2", AT)]
    assert row(Sheet, "SELECT * FROM logbook_sheet WHERE closed_at > %s", [AT]) is None
    assert (by_id(PumpSet, pump_set.pk), by_id(PumpSet, pump_set.pk + 1)) == (pump_set, None)


def test_many_rows_are_a_few_statements_and_all_or_none(pump_set: PumpSet, people: dict[str, User]) -> None:
    many = [sheet(pump_set, people["tia"], f"s{i}") for i in range(300)]
    with CaptureQueriesContext(connection) as asked:
        put_in(Sheet, many)
    assert len(asked) == 1
    assert Sheet.objects.count() == 300
    with pytest.raises(IntegrityError, match="Duplicate"):
        put_in(Sheet, [sheet(pump_set, people["tia"], "s7")])


def test_what_a_column_cannot_hold_is_refused(pump_set: PumpSet, people: dict[str, User]) -> None:
    with pytest.raises(DataError, match="too long"):
        put_in(Sheet, [sheet(pump_set, people["tia"], "s1", bench="x" * 41)])
    with pytest.raises(IntegrityError, match="cannot be null"):
        put_in(Finding, [{"question": "x", "reason": {}, "taken_at": now(), "pump_set_id": pump_set.pk}])
    put_in(Finding, [])
    assert not Finding.objects.exists()
