"""Reads that are kept: the same while nothing moved, new as soon as anything they were read from did."""

from __future__ import annotations

import gzip
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any
from urllib.parse import quote

import pytest
from conftest import PLATE, SAVE, Api, sheet
from django.db import connection
from django.test.utils import CaptureQueriesContext

from hurbin_core.catalogue import bench as find_bench, benches
from hurbin_server.base import clock, kept
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.services import reads
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.parts import new_plate

Door = Callable[[str], Api]
CHECK = find_bench("running_check")


def page(api: Api, path: str, tag: str = "") -> Any:
    return api.client.get(f"/api/v1{path}", headers={"If-None-Match": tag} if tag else {})


def judged(api: Api, row: PumpSet, **more: Any) -> Any:
    status, told = api("POST", "/benches/running_check/evaluate", sheet(row, **more))
    assert status == 200, told
    return told


@pytest.mark.parametrize("path", ["/sites/{site}/plant", "/sets/{set}/page"])
def test_a_page_is_the_same_until_something_moved(
    api: Door, site: Site, pump_set: PumpSet, path: str
) -> None:
    where, tia = path.format(site=site.pk, set=pump_set.pk), api("tia")
    first = page(tia, where)
    assert first.status_code == 200
    again = page(tia, where, first["ETag"])
    assert (again.status_code, again.content) == (304, b"")
    assert page(tia, where).content == first.content
    assert tia("POST", SAVE, sheet(pump_set, (24, 24.2, 24.1)))[0] == 201
    after = page(tia, where, first["ETag"])
    assert after.status_code == 200
    assert after["ETag"] != first["ETag"]


def test_a_page_goes_out_as_its_reader_takes_it(api: Door, pump_set: PumpSet) -> None:
    tia, where = api("tia"), f"/api/v1/sets/{pump_set.pk}/page"
    plain = tia.client.get(where)
    assert not plain.has_header("Content-Encoding")
    small = [tia.client.get(where, headers={"Accept-Encoding": "gzip, br"}) for _ in range(2)]
    assert [(x["Content-Encoding"], x["Vary"], x["ETag"]) for x in small] == [
        ("gzip", "Accept-Encoding, Cookie", plain["ETag"])
    ] * 2
    assert gzip.decompress(small[0].content) == plain.content
    assert small[0].content == small[1].content, "deflated once"
    same = tia.client.get(where, headers={"Accept-Encoding": "gzip", "If-None-Match": plain["ETag"]})
    assert (same.status_code, same.content) == (304, b"")


def test_what_is_kept_has_bounds_and_the_least_used_goes_first() -> None:
    held: kept.Kept[str] = kept.Kept(3, room=10, weigh=len)
    for key in "abc":
        held.put(key, "s", None, key * 2)
    assert held.good("a", "s") == "aa"
    held.put("d", "s", None, "dd")
    assert [held.good(k, "s") for k in "abcd"] == ["aa", None, "cc", "dd"]
    held.put("e", "s", None, "e" * 9)
    assert [held.good(k, "s") for k in "acde"] == [None, None, None, "e" * 9]
    assert held.good("e", "another state") is None
    past = now() - timedelta(seconds=1)
    held.put("f", "s", past, "f")
    assert held.good("f", "s") is None


def test_one_readers_page_is_not_anothers(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia, leo = api("tia"), api("leo")
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201
    assert leo("PATCH", "/me", {"locale": "de-DE"})[0] == 200
    mine = page(tia, f"/sets/{pump_set.pk}/page").json()["state"]["figures"]
    theirs = page(leo, f"/sets/{pump_set.pk}/page").json()["state"]["figures"]
    assert [(f["figure"], f["unit"]) for f in mine] != [(f["figure"], f["unit"]) for f in theirs]
    assert page(api("stranger"), f"/sets/{pump_set.pk}/page").status_code == 404
    assert page(api("stranger"), f"/sites/{site.pk}/plant").status_code == 404


def test_each_reader_has_plants_sentences_his_way_and_the_new_one_after_a_save(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia, leo = api("tia"), api("leo")
    assert leo("PATCH", "/me", {"locale": "de-DE"})[0] == 200

    def reason(who: Api) -> str:
        told = who("GET", f"/sites/{site.pk}/plant")[1]
        return next(str(s["reason"]) for x in told["services"] for s in x["sets"] if s["id"] == pump_set.pk)

    assert tia("POST", SAVE, sheet(pump_set, (24, 24.2, 24.1)))[0] == 201
    first, theirs = reason(tia), reason(leo)
    assert (first[:4], theirs[:4]) == ("24.2", "24,2")
    assert tia("POST", SAVE, sheet(pump_set, (26, 26.2, 26.1)))[0] == 201
    assert (reason(tia)[:10], reason(leo)[:10]) == ("Stop. 26.2", "Stop. 26,2")


def test_a_page_asks_as_often_however_much_is_on_record(api: Door, pump_set: PumpSet) -> None:
    tia, asked = api("tia"), []
    for _ in range(2):
        for days in (4, 3, 2):
            assert tia("POST", SAVE, sheet(pump_set, days_ago=days))[0] == 201
        kept.pages.clear()
        with CaptureQueriesContext(connection) as told:
            assert page(tia, f"/sets/{pump_set.pk}/page").status_code == 200
        asked.append(len(told))
    assert asked[0] == asked[1] <= 40


def test_a_page_is_read_again_when_a_date_on_it_has_passed(
    api: Door, site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    tia = api("tia")
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201
    before = page(tia, f"/sites/{site.pk}/plant").json()["services"][0]["sets"][0]["verdict"]
    later = now() + timedelta(days=pump_set.service.check_every_days + 1)
    monkeypatch.setenv("HURBIN_AS_OF", later.isoformat())
    assert clock.now() == later
    late = page(tia, f"/sites/{site.pk}/plant").json()["services"][0]["sets"][0]
    assert (before, late["verdict"], "Overdue" in late["reason"]) == ("good", "unknown", True)


def test_a_page_says_until_when_its_offers_hold_and_is_read_again_then(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    leo, path = api("leo"), f"/sets/{pump_set.pk}/page"
    qualified = page(leo, path).json()["safety"]["until"]
    assert qualified > (now() + timedelta(days=30)).isoformat(), "as long as leo is qualified"
    until = now() + timedelta(seconds=20)
    said = {"gate": "second_reset", "reason": "bench test", "until": until.isoformat()}
    assert leo("POST", f"/sets/{pump_set.pk}/waivers", said)[0] == 201
    held = page(leo, path)
    assert held.json()["safety"]["until"] < qualified
    assert page(leo, path, held["ETag"]).status_code == 304
    monkeypatch.setenv("HURBIN_AS_OF", (until + timedelta(seconds=1)).isoformat())
    assert page(leo, path).json()["safety"]["until"] == qualified


def test_a_page_shows_everything_of_a_set_at_once(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201
    whole = page(tia, f"/sets/{pump_set.pk}/page").json()
    for name, path in (
        ("set", ""),
        ("state", "/state"),
        ("trends", "/trends"),
        ("history", "/history"),
        ("safety", "/safety"),
        ("timeline", "/timeline"),
        ("attachments", "/attachments"),
    ):
        assert whole[name] == tia("GET", f"/sets/{pump_set.pk}{path}")[1], name


def test_a_keystroke_asks_three_times_at_most(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    judged(tia, pump_set)
    with CaptureQueriesContext(connection) as asked:
        judged(tia, pump_set)
    assert len(asked) <= 3, [q["sql"] for q in asked]
    assert api("stranger")("POST", "/benches/running_check/evaluate", sheet(pump_set))[0] == 404


def plate(api: Api, row: PumpSet, people: dict[str, User]) -> None:
    motor = row.fittings.get(slot="motor", to_at=None).component
    changed = PLATE | {"amps_low": {"text": "9", "unit": "A"}}
    new_plate(people["ada"], motor.pk, motor.plate_version, changed, "read again")


def record(api: Api, row: PumpSet, people: dict[str, User]) -> None:
    assert api("POST", SAVE, sheet(row, days_ago=1))[0] == 201


def limit(api: Api, row: PumpSet, people: dict[str, User]) -> None:
    body = {"limit": "load.plate", "value": 90, "reason": "sea air"}
    assert api("POST", f"/sites/{row.site_id}/overrides", body)[0] == 201


@pytest.mark.parametrize("change", [plate, record, limit])
def test_a_case_is_built_anew_when_what_it_was_read_from_moved(
    api: Door, pump_set: PumpSet, people: dict[str, User], change: Any
) -> None:
    leo = api("leo")
    judged(leo, pump_set)
    assert reads.kept_case(pump_set.pk, CHECK) is not None
    change(leo, pump_set, people)
    assert reads.kept_case(pump_set.pk, CHECK) is None
    kept = judged(leo, pump_set)
    reads.cases.clear()
    assert judged(leo, pump_set)["findings"] == kept["findings"]


def on_panel() -> dict[str, str]:
    return {"uuid": str(uuid.uuid4()), "kind": "jumper", "place": "panel", "at": now().isoformat()}


def test_a_twins_change_makes_the_case_anew_and_that_of_a_set_far_away_does_not(
    api: Door, pump_set: PumpSet, twin: PumpSet
) -> None:
    tia, site = api("tia"), pump_set.site
    waste = type(pump_set.service).objects.create(site=site, code="W", name="Waste")
    far = PumpSet.objects.create(site=site, service=waste, tag="W-9", name="far", kind="submersible")
    judged(tia, pump_set)
    assert tia("POST", f"/sets/{far.pk}/changes", on_panel())[0] == 201
    assert reads.kept_case(pump_set.pk, CHECK) is not None
    assert tia("POST", f"/sets/{twin.pk}/changes", on_panel())[0] == 201
    assert reads.kept_case(pump_set.pk, CHECK) is None


def test_what_moved_is_told_again_within_the_overlap_and_only_to_its_people(
    api: Door, pump_set: PumpSet, twin: PumpSet
) -> None:
    tia = api("tia")
    begin = tia("GET", "/changes")[1]
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201
    asked = f"/changes?since={quote(begin['now'])}"
    told = {(m["kind"], m["ref"]): m for m in tia("GET", asked)[1]["moved"]}
    assert twin.pk in told["set", pump_set.pk]["near"]
    assert tia("GET", asked)[1]["moved"] != []
    assert api("stranger")("GET", asked)[1]["moved"] == []
    assert api("nobody")("GET", "/changes")[0] == 401
    assert tia("GET", "/changes?since=yesterday")[0] == 422


def test_history_goes_on_where_a_page_ended(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    made = [tia("POST", SAVE, sheet(pump_set, days_ago=n / 24))[1]["record"] for n in range(27)]
    first = tia("GET", f"/sets/{pump_set.pk}/history")[1]
    assert [r["id"] for r in first["records"]] == made[:25]
    newer = tia("POST", SAVE, sheet(pump_set))[1]["record"]
    rest = tia("GET", f"/sets/{pump_set.pk}/history?before={quote(first['next'])}")[1]
    assert ([r["id"] for r in rest["records"]], rest["next"]) == (made[25:], "")
    assert newer not in [r["id"] for r in rest["records"]]
    assert tia("GET", f"/sets/{pump_set.pk}/history?before=x~y")[1]["code"] == "cursor_wrong"


def test_the_manifest_names_every_bench(api: Door, site: Site) -> None:
    told = {b["name"]: b for b in api("vic")("GET", "/benches")[1]}
    assert set(told) == {b.name for b in benches()}
    assert (told["make_safe"]["topic"], told["make_safe"]["files"]) == ("safety", False)
    assert told["insulation"]["many"]
    assert (told["alignment"]["slot"], told["alignment"]["records"]) == ("coupling", "Alignments")
    assert [(b["offer"], b["key"]) for b in told.values() if b["leads"]] == [("Running check", "c")]
    assert next(iter(told)) == "make_safe"
