"""The register of instruments at the door: entered, calibrated, in hand, named on a reading, and what that is
worth.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta
from types import SimpleNamespace
from typing import Any

import pytest
from conftest import SAVE, Api, sheet
from django.core.files.uploadedfile import SimpleUploadedFile
from safe_sheets import Safe, offered

from hurbin_server.base.clock import now
from hurbin_server.instruments.models import Instrument
from hurbin_server.logbook.models import Entry, Record
from hurbin_server.logbook.services.read_with import rejudge_read_with
from hurbin_server.plant.models import PumpSet, Site

Door = Callable[[str], Api]


def day(off: float) -> str:
    return (now() + timedelta(days=off)).date().isoformat()


def span(reads: str, top: str, step: str, unit: str) -> dict[str, Any]:
    return {"reads": reads, "top": {"text": top, "unit": unit}, "step": {"text": step, "unit": unit}}


CLAMP = {
    "name": "Clamp 2",
    "kind": "clamp_meter",
    "category": "III",
    "category_volts": {"text": "600", "unit": "V"},
    "spans": [span("current", "400", "0.1", "A"), span("voltage", "600", "1", "V")],
}


def entered(api: Api, site: Site, due: float | None = 200, **more: Any) -> int:
    """An instrument in service for two years, calibrated 100 days ago; its number."""
    body = CLAMP | {"since": day(-700)} | more
    status, told = api("POST", f"/sites/{site.pk}/instruments", body)
    assert status == 201, told
    pk: int = next(i["id"] for i in told["instruments"] if i["name"] == body["name"])
    if due is not None:
        calibrated = {"done": day(-100), "due": day(due)}
        assert api("POST", f"/instruments/{pk}/calibrations", calibrated)[0] == 201
    return pk


def checked(api: Api, row: PumpSet, *named: tuple[str, int], **more: Any) -> dict[str, Any]:
    sent = sheet(row, **more)
    sent["entries"][0]["instruments"] = {reads: str(pk) for reads, pk in named}
    status, told = api("POST", SAVE, sent)
    assert status == 201, told
    return dict(told)


def reasons(told: dict[str, Any]) -> str:
    return " ".join(f["reason"] for f in told["evaluation"]["findings"])


def brought(leo: Api, site: Site, text: str) -> tuple[int, Any]:
    file = SimpleUploadedFile("instruments.csv", text.encode())
    got = leo.client.post(f"/api/v1/sites/{site.pk}/instruments/file", {"file": file})
    return got.status_code, got.json()


def test_a_reading_names_what_it_was_read_with_and_keeps_it(api: Door, site: Site, pump_set: PumpSet) -> None:
    pk = entered(api("leo"), site)
    told = checked(api("tia"), pump_set, ("current", pk), ("voltage", pk))
    assert told["evaluation"]["verdict"] == "good"
    record = api("vic")("GET", f"/records/{told['record']}")[1]
    named = {(r["word"], r["name"]) for r in record["read_with"]}
    assert named == {("current", "Clamp 2"), ("voltage", "Clamp 2")}


def test_an_instrument_out_of_date_is_no_ground_for_good(api: Door, site: Site, pump_set: PumpSet) -> None:
    pk = entered(api("leo"), site, due=-3)
    told = checked(api("tia"), pump_set, ("current", pk), ("voltage", pk))
    assert told["evaluation"]["verdict"] == "unknown"
    assert "past its calibration date" in reasons(told)
    assert api("vic")("GET", f"/sets/{pump_set.pk}/state")[1]["verdict"] == "unknown", "on the set as well"


def test_where_the_register_has_one_the_reading_names_it(api: Door, site: Site, pump_set: PumpSet) -> None:
    before = checked(api("tia"), pump_set, days_ago=3)
    assert before["evaluation"]["verdict"] == "good", "no register, none asked"
    entered(api("leo"), site)
    told = checked(api("tia"), pump_set)
    assert told["evaluation"]["verdict"] == "unknown"
    assert "Choose the instrument that measured" in reasons(told)
    body = {"limit": "school.unnamed_instrument", "choice": "never", "reason": "no register of meters"}
    assert api("leo")("POST", f"/sites/{site.pk}/overrides", body)[0] in (200, 201)
    assert checked(api("tia"), pump_set)["evaluation"]["verdict"] == "good"


def test_a_later_calibration_gives_the_ground_or_takes_it(api: Door, site: Site, pump_set: PumpSet) -> None:
    pk = entered(api("leo"), site, due=-3)
    told = checked(api("tia"), pump_set, ("current", pk), ("voltage", pk), days_ago=1)
    record = Record.objects.get(pk=told["record"])
    row = Instrument.objects.get(pk=pk)

    def verdict() -> str:
        return str(record.judgements.get(newest=True).verdict)

    assert verdict() == "unknown"
    # It had been calibrated two days ago; the certificate came today.
    assert api("leo")("POST", f"/instruments/{pk}/calibrations", {"done": day(-2), "due": day(300)})[0] == 201
    assert rejudge_read_with(row, now() - timedelta(days=100), now()) == 1
    assert verdict() == "good"
    # The next one found it out of tolerance.
    found = {"done": day(0), "due": day(365), "found": "out"}
    assert api("leo")("POST", f"/instruments/{pk}/calibrations", found)[0] == 201
    assert rejudge_read_with(row, now() - timedelta(days=100), now()) == 1
    assert verdict() == "unknown"
    told_now = api("tia")("GET", f"/records/{record.pk}")[1]
    assert "out of tolerance" in told_now["evaluation"]["findings"][0]["reason"]


def test_what_is_set_right_in_the_register_reaches_what_it_read(
    api: Door, site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    pk = entered(api("leo"), site)
    told = checked(api("tia"), pump_set, ("current", pk), ("voltage", pk), days_ago=1)
    assert told["evaluation"]["verdict"] == "good"
    asked: list[tuple[int, str, str]] = []
    asks = SimpleNamespace(enqueue=lambda *said: asked.append(said))
    monkeypatch.setattr("hurbin_server.logbook.tasks.run_read_with", asks)

    def evaluated() -> str:
        row, since, until = asked.pop()
        assert row == pk
        assert asked == []
        rejudge_read_with(
            Instrument.objects.get(pk=row), datetime.fromisoformat(since), datetime.fromisoformat(until)
        )
        return str(Record.objects.get(pk=told["record"]).judgements.get(newest=True).verdict)

    low = CLAMP | {"category": "II", "category_volts": {"text": "300", "unit": "V"}, "version": 1}
    assert api("leo")("PUT", f"/instruments/{pk}", low)[0] == 200
    assert evaluated() == "unknown", "it never was fit for that circuit"
    text = api("leo")("GET", f"/sites/{site.pk}/instruments.csv")[1]
    right = text.replace(",II,300", ",III,600")
    assert right != text
    assert brought(api("leo"), site, right) == (200, {"instruments": 1})
    assert evaluated() == "good", "a file sets right like a hand"
    assert brought(api("leo"), site, right) == (200, {"instruments": 1})
    assert asked == [], "the same file again says nothing new"
    version = Instrument.objects.get(pk=pk).version
    assert api("leo")("POST", f"/instruments/{pk}/retire", {"because": "lost"})[0] == 200
    assert asked == [], "what it read before stays what it was"
    assert api("leo")("POST", f"/instruments/{pk}/reinstate", {"version": version + 1})[0] == 200
    assert evaluated() == "good", "what it read meanwhile is asked again"


def test_the_same_entry_with_another_instrument_is_another(api: Door, site: Site, pump_set: PumpSet) -> None:
    pk = entered(api("leo"), site)
    uuid, entry = "circuit-sheet-1", sheet(pump_set)["entries"][0]
    read = {"volts": {"text": "400", "unit": "V"}}
    entry["body"] = {"kind": "reading", "a": "L1.source", "b": "L2.source", **read}
    path = f"/benches/circuit/sheets/{uuid}/entries"

    def send(named: dict[str, str]) -> int:
        body = {"set_id": pump_set.pk, "entries": [entry | {"instruments": named}]}
        return api("tia")("POST", path, body)[0]

    assert send({"voltage": str(pk)}) == 200, "as it is"
    assert send({"voltage": str(pk)}) == 200, "the answer was lost on the way"
    assert send({}) == 409
    assert Entry.objects.get(uuid=entry["uuid"]).instruments == {"voltage": str(pk)}
    seen = api("tia")("GET", f"/sheets/{uuid}")[1]["entries"][0]
    assert seen["instruments"] == {"voltage": str(pk)}


def test_what_a_person_has_in_hand_is_remembered(api: Door, site: Site) -> None:
    pk = entered(api("leo"), site)
    tia = api("tia")
    path = f"/sites/{site.pk}/in-hand"
    both = {"current": pk, "voltage": pk}
    assert tia("PUT", path, {"reads": both})[1]["in_hand"] == both
    assert tia("PUT", path, {"reads": {"voltage": None}})[1]["in_hand"] == {"current": pk}
    assert api("leo")("GET", f"/sites/{site.pk}/instruments")[1]["in_hand"] == {}
    assert tia("PUT", path, {"reads": {"vibration": pk}})[0] == 422, "it measures no vibration"
    assert tia("PUT", path, {"reads": {"current": 999_999}})[0] == 422
    assert api("vic")("PUT", path, {"reads": {"current": pk}})[0] == 403
    assert api("leo")("POST", f"/instruments/{pk}/retire", {"because": "dropped"})[0] == 200
    assert tia("GET", f"/sites/{site.pk}/instruments")[1]["in_hand"] == {}, "nobody reads with it any more"
    assert tia("POST", f"/instruments/{pk}/reinstate", {"version": 2})[0] == 403
    assert api("leo")("POST", f"/instruments/{pk}/reinstate", {"version": 1})[0] == 409
    told = api("leo")("POST", f"/instruments/{pk}/reinstate", {"version": 2})[1]
    assert told["instruments"][0]["until"] is None


REFUSED = [
    ({"name": " "}, 422, "name_missing"),
    ({"kind": "wand"}, 422, "kind_unknown"),
    ({"spans": []}, 422, "spans_missing"),
    ({"spans": [span("current", "lots", "0.1", "A")]}, 422, "not_a_number"),
    ({"spans": [span("current", "400", "0.1", "furlong")]}, 422, "unit_unknown"),
    ({"since": "2099-01-01"}, 422, "since_wrong"),
    ({"since": "0001-01-01"}, 422, "input_wrong"),
    ({"since": "9999-12-31"}, 422, "input_wrong"),
    ({"name": "a=b"}, 422, "name_wrong"),
    ({"note": "x" * 300}, 422, "input_wrong"),
]


@pytest.mark.parametrize(("more", "status", "code"), REFUSED)
def test_an_instrument_that_is_none_is_refused(
    api: Door, site: Site, more: dict[str, Any], status: int, code: str
) -> None:
    got, told = api("leo")("POST", f"/sites/{site.pk}/instruments", CLAMP | more)
    assert (got, told["code"]) == (status, code)
    assert not Instrument.objects.exists()


def test_who_may_and_what_is_stale(api: Door, site: Site) -> None:
    path = f"/sites/{site.pk}/instruments"
    for name, status in (("tia", 403), ("vic", 403), ("stranger", 404)):
        assert api(name)("POST", path, CLAMP)[0] == status
    pk = entered(api("leo"), site)
    assert api("leo")("POST", path, CLAMP)[0] == 409, "the label is taken"
    edit = CLAMP | {"version": 1, "name": "Clamp 3"}
    assert api("tia")("PUT", f"/instruments/{pk}", edit)[0] == 403
    assert api("leo")("PUT", f"/instruments/{pk}", edit)[0] == 200
    assert api("leo")("PUT", f"/instruments/{pk}", edit)[0] == 409, "changed meanwhile"
    assert api("leo")("PUT", f"/instruments/{pk}", CLAMP | {"version": 2, "kind": "multimeter"})[0] == 422
    for body, status in (
        ({"done": day(2)}, 422),
        ({"done": day(-1), "due": day(-1)}, 422),
        ({"done": day(-100), "due": day(5)}, 409),
        ({"done": "0001-01-01"}, 422),
        ({"done": day(-5), "due": "9999-12-31"}, 422),
    ):
        assert api("leo")("POST", f"/instruments/{pk}/calibrations", body)[0] == status
    assert api("stranger")("GET", path)[0] == 404


def test_the_register_as_a_file(api: Door, site: Site) -> None:
    entered(api("leo"), site)
    leo = api("leo")
    text = leo("GET", f"/sites/{site.pk}/instruments.csv")[1]

    assert brought(leo, site, text) == (200, {"instruments": 1})
    assert leo("GET", f"/sites/{site.pk}/instruments.csv")[1] == text, "out as it came in"
    more = text + "Pen 1,vibration_meter,,,vibration,50,0.1,mm/s,2026-01-05,2027-01-04\r\n"
    assert brought(leo, site, more) == (200, {"instruments": 2})
    before = Instrument.objects.count()
    wrong = "Bad,multimeter,IX,,voltage,600,1,V,,\r\nPen 2,wand,,,vibration,5,0.1,mm/s,,\r\n"
    status, told = brought(leo, site, more + wrong)
    assert (status, told["code"]) == (422, "rows_refused")
    assert [p["field"] for p in told["problems"]] == ["line 5", "line 6"]
    assert Instrument.objects.count() == before, "all or nothing"


def test_readings_go_out_with_what_read_them_and_come_in_again(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    pk = entered(api("leo"), site)
    checked(api("tia"), pump_set, ("current", pk), ("voltage", pk))
    text = api("tia")("GET", f"/sets/{pump_set.pk}/readings/running_check.csv")[1]
    assert "current=Clamp 2; voltage=Clamp 2" in text
    row = api("tia")("GET", f"/sets/{pump_set.pk}/readings/running_check.json")[1][0]
    assert row["instruments"] == {"current": "Clamp 2", "voltage": "Clamp 2"}


def test_a_tester_that_the_register_knows_as_too_low_proves_no_set_dead(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    low = {
        "kind": "voltage_tester",
        "name": "T1",
        "category": "II",
        "spans": [span("voltage", "690", "1", "V")],
    }
    pk = entered(api("leo"), site, due=None, **low)
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.isolate()
    steps = tia("GET", f"/sets/{pump_set.pk}/safety")[1]["isolation"]["proof"]["steps"]
    assert steps[0]["fields"][0]["choices"] == ["T1"]
    safe.prove()
    proof = tia("GET", f"/sets/{pump_set.pk}/safety")[1]["isolation"]["proof"]
    assert proof["state"] == "void"
    assert not offered(tia, pump_set, "dead_test")
    edit = CLAMP | low | {"version": 1, "category": "IV"}
    assert api("leo")("PUT", f"/instruments/{pk}", edit)[0] == 200
    safe.prove()
    assert offered(tia, pump_set, "dead_test")
