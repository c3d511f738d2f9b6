"""Running in hand opens a temporary change by itself; automatic seen once closes it: the whole stack."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from conftest import SAVE, sheet
from safe_sheets import Door, change, safety
from test_readings import checked, written

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.safety.models import TemporaryChange


def check(who: Any, pump_set: PumpSet, control: str | None, days_ago: float) -> None:
    body = sheet(pump_set, days_ago=days_ago)
    if control:
        body["entries"][0]["body"]["control"] = control
    assert who("POST", SAVE, body)[0] == 201


def open_ones(who: Any, pump_set: PumpSet) -> list[str]:
    return [c["title"] for c in safety(who, pump_set)["changes"]]


def test_hand_opens_it_once_and_automatic_closes_it(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    check(tia, pump_set, None, 9)
    assert open_ones(tia, pump_set) == []
    check(tia, pump_set, "hand", 8)
    check(tia, pump_set, "hand", 7)
    (made,) = TemporaryChange.objects.filter(pump_set=pump_set)
    assert (made.kind, made.off_at) == ("hand_mode", None)
    assert (now() - made.put_at).days == 8
    assert "Hand mode" in str(safety(tia, pump_set)["changes"])
    check(tia, pump_set, None, 6)
    assert TemporaryChange.objects.get(pk=made.pk).off_at is None, "nobody looked at the switch"
    check(tia, pump_set, "automatic", 5)
    made.refresh_from_db()
    assert made.off_at is not None
    assert (now() - made.off_at).days == 5
    assert open_ones(tia, pump_set) == []


def test_an_older_look_says_nothing_of_today(api: Door, site: Site, pump_set: PumpSet) -> None:
    """Entered afterwards, or imported: once a later check said how it stands it opens and closes nothing."""
    tia = api("tia")
    check(tia, pump_set, "automatic", 3)
    check(tia, pump_set, "hand", 20)
    assert not TemporaryChange.objects.exists()
    check(tia, pump_set, "hand", 2)
    check(tia, pump_set, "automatic", 4)
    assert TemporaryChange.objects.get().off_at is None


def test_a_later_check_that_says_nothing_of_it_hides_no_older_look(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    """Seen in hand without a signal, sent after somebody else's check that left the switch out: it counts."""
    tia = api("tia")
    check(tia, pump_set, None, 1)
    check(tia, pump_set, "hand", 3)
    assert TemporaryChange.objects.get().off_at is None
    check(tia, pump_set, "automatic", 2)
    assert TemporaryChange.objects.get().off_at is not None


def test_one_that_somebody_put_on_by_hand_is_closed_by_it_and_not_doubled(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    at = (now() - timedelta(days=9)).isoformat()
    assert change(tia, pump_set, kind="hand_mode", place="panel B", at=at)[0] == 201
    check(tia, pump_set, "hand", 5)
    assert TemporaryChange.objects.count() == 1
    other = (now() - timedelta(days=2)).isoformat()
    assert change(tia, pump_set, kind="jumper", place="terminals 4, 5", at=other)[0] == 201
    check(tia, pump_set, "automatic", 1)
    standing = TemporaryChange.objects.filter(off_at=None)
    assert [c.kind for c in standing] == ["jumper"], "another change is none of its business"


def test_a_file_of_checks_opens_and_closes_it_as_if_saved_one_by_one(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    head = "tag,taken_at,read_at,valve,coupled,control,amps_1|A,amps_2|A,amps_3|A\r\n"

    def row(days: float, control: str) -> str:
        at = (now() - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")
        return f"C-1,{at},motor_leads,open,yes,{control},15,15,15\r\n"

    def brought(*rows: str) -> None:
        job = written(tia, checked(tia, site, head + "".join(rows), bench="running_check"))
        assert job["state"] == "written", job

    brought(row(9, ""), row(8, "hand"), row(7, ""))
    made = TemporaryChange.objects.get()
    assert (made.kind, made.off_at, (now() - made.put_at).days) == ("hand_mode", None, 8)
    brought(row(5, "automatic"), row(20, "hand"))
    made.refresh_from_db()
    assert made.off_at is not None
    assert (now() - made.off_at).days == 5
    assert TemporaryChange.objects.count() == 1, "one older than what is on file opens nothing"


def test_a_file_around_an_automatic_on_record_is_in_hand_since_its_later_look(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    check(tia, pump_set, "automatic", 6)
    head = "tag,taken_at,read_at,valve,coupled,control,amps_1|A,amps_2|A,amps_3|A\r\n"
    at = [(now() - timedelta(days=d)).strftime("%Y-%m-%dT%H:%M:%SZ") for d in (8, 4)]
    rows = "".join(f"C-1,{t},motor_leads,open,yes,hand,15,15,15\r\n" for t in at)
    written(tia, checked(tia, site, head + rows, bench="running_check"))
    assert (now() - TemporaryChange.objects.get().put_at).days == 4


def test_one_that_was_put_on_after_the_look_stays(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    at = (now() - timedelta(hours=1)).isoformat()
    assert change(tia, pump_set, kind="hand_mode", place="panel B", at=at)[0] == 201
    check(tia, pump_set, "automatic", 1)
    assert TemporaryChange.objects.get().off_at is None
