"""Kits of a site, taps on a shelf, a forecast brought in: what a job is prepared with."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from safe_sheets import Door
from test_jobs import Job, _part

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.simulator.weather import forecast
from hurbin_server.stores.models import Kit, Part, PartMove, PartStock

KEY = "0f0f0f0f-1111-2222-3333-444444444444"


def kit(api: Door, site: Site, who: str = "tia", **more: Any) -> tuple[int, Any]:
    body = {"title": "Coupler kit", "procedure": "J02", "lines": [{"code": "ELEM-1", "wanted": 2}]}
    return api(who)("POST", f"/sites/{site.pk}/kits", body | more)


def test_a_kit_of_the_set_stands_for_what_it_fills_and_the_rest_stays(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    _part(api, site)
    job = Job(api("tia"), pump_set).opened()
    procedure = job.view()["view"]["procedure"]
    status, stores = kit(api, site, procedure=procedure, set_id=pump_set.pk)
    assert (status, stores["kits"][0]["tag"]) == (201, pump_set.tag)
    told = stores["kits"][0]
    assert (told["verdict"], told["whole"], told["says"]) == ("good", 1, "Whole kits here: 1.")
    lines = {k["kind"]: k for k in job.view()["view"]["pick"]["kit"]}
    assert (lines["ELEM-1"]["wanted"], lines["ELEM-1"]["short"]) == (2, 0)
    assert "element" not in lines
    assert lines["coupling_bolt_set"]["short"] == 1, "what the kit leaves out is not forgotten"
    take = lines["ELEM-1"]["takes"]
    assert take == [{"code": "ELEM-1", "place": "Shelf 1", "reserved": 2, "used": 0}]
    job.say(kind="part", **take[0])
    after = {k["kind"]: k for k in job.view()["view"]["pick"]["kit"]}["ELEM-1"]
    assert (after["short"], after["takes"], after["reserved"]) == (0, [], 2)
    short = api("vic")("GET", f"/sites/{site.pk}/stores")[1]["kits"][0]
    assert (short["verdict"], short["says"]) == ("act", "Short for one: 2 × ELEM-1.")


def test_what_is_reserved_lies_there_once(api: Door, site: Site, pump_set: PumpSet) -> None:
    _part(api, site, n=1)
    job = Job(api("tia"), pump_set).opened()
    kit(api, site, procedure=job.view()["view"]["procedure"], kind=pump_set.kind)
    job.say(kind="part", code="ELEM-1", place="Shelf 1", reserved=1)
    line = {k["kind"]: k for k in job.view()["view"]["pick"]["kit"]}["ELEM-1"]
    assert (line["wanted"], line["short"]) == (2, 1)


def test_what_is_no_kit_is_refused_by_its_place(api: Door, site: Site, pump_set: PumpSet) -> None:
    _part(api, site)
    for more, code in (
        ({"procedure": "J99"}, "procedure_unknown"),
        ({"kind": "steam_engine"}, "kind_unknown"),
        ({"set_id": 999_999}, "set_unknown"),
        ({"lines": [{"code": "NONE-1", "wanted": 1}]}, "part_unknown"),
        ({"lines": []}, "input_wrong"),
        ({"title": "   "}, "input_wrong"),
        ({"lines": [{"code": "ELEM-1", "wanted": 0}]}, "input_wrong"),
    ):
        status, answer = kit(api, site, **more)
        assert (status, answer["code"]) == (422, code), more
    assert kit(api, site, "vic")[0] == 403
    assert kit(api, site, "stranger")[0] == 404
    assert kit(api, site)[0] == 201
    assert kit(api, site)[1]["code"] == "kit_taken"
    assert not Kit.objects.exclude(title="Coupler kit").exists()


def test_a_stale_edit_shows_both_and_a_kit_taken_apart_leaves_its_parts(api: Door, site: Site) -> None:
    _part(api, site)
    row = kit(api, site)[1]["kits"][0]
    edit = {"expected_version": 1, "title": "Two of them", "lines": [{"code": "ELEM-1", "wanted": 1}] * 2}
    status, told = api("leo")("PUT", f"/kits/{row['id']}", edit)
    assert (status, told["kits"][0]["parts"][0]["wanted"]) == (200, 2), "one code is one line"
    status, answer = api("tia")("PUT", f"/kits/{row['id']}", edit)
    assert (status, answer["code"], answer["current"]["version"]) == (409, "stale", 2)
    assert api("vic")("DELETE", f"/kits/{row['id']}")[0] == 403
    assert api("tia")("DELETE", f"/kits/{row['id']}")[1]["kits"] == []
    assert Part.objects.filter(code="ELEM-1").exists()
    assert api("tia")("DELETE", f"/kits/{row['id']}")[0] == 404


def test_a_part_never_counted_is_no_part_there(api: Door, site: Site) -> None:
    pk = _part(api, site)
    PartStock.objects.filter(part=pk).delete()
    told = kit(api, site)[1]["kits"][0]
    assert (told["verdict"], told["whole"]) == ("unknown", None)


def test_a_count_goes_stale_and_goes_with_what_is_moved(api: Door, site: Site) -> None:
    pk = _part(api, site)
    said = {"source": "Shelf 1", "to": "Van 1", "count": 1}
    kit(api, site)
    long_ago = now() - timedelta(days=500)
    PartStock.objects.filter(part=pk).update(counted_at=long_ago)
    assert api("tia")("POST", f"/parts/{pk}/move", said)[0] == 200
    assert PartStock.objects.get(part=pk, place="Van 1").counted_at == long_ago
    told = api("vic")("GET", f"/sites/{site.pk}/stores")[1]
    assert (told["kits"][0]["verdict"], told["kits"][0]["says"]) == (
        "unknown",
        "Counted too long ago: ELEM-1.",
    )
    for place in ("Shelf 1", "Van 1"):
        api("tia")("PUT", f"/parts/{pk}/count", {"place": place, "count": 1})
    told = api("vic")("GET", f"/sites/{site.pk}/stores")[1]
    assert told["kits"][0]["verdict"] == "good"


def test_two_quick_taps_count_twice_and_one_sent_twice_counts_once(api: Door, site: Site) -> None:
    pk = _part(api, site, n=2)
    tap = {"place": "Shelf 1", "change": 1, "key": KEY}
    for key in (KEY, KEY, KEY.replace("0", "a")):
        assert api("tia")("POST", f"/parts/{pk}/tally", {**tap, "key": key})[0] == 200
    assert PartStock.objects.get(part=pk).count == 4
    assert PartMove.objects.filter(part=pk, sheet__startswith="tap:").count() == 2
    for other in ({"place": "Van 9"}, {"change": 7}):
        status, answer = api("tia")("POST", f"/parts/{pk}/tally", {**tap, **other, "key": KEY})
        assert (status, answer["code"]) == (409, "tap_differs")
    assert not PartStock.objects.filter(place="Van 9").exists()
    status, answer = api("tia")("POST", f"/parts/{pk}/tally", {**tap, "change": -5, "key": KEY[::-1]})
    assert (status, answer["code"]) == (409, "not_enough")
    assert api("vic")("POST", f"/parts/{pk}/tally", tap)[0] == 403


@pytest.mark.parametrize("who", ["tia", "vic", "stranger"])
def test_a_forecast_comes_in_as_a_file(api: Door, site: Site, who: str) -> None:
    def send(text: str) -> tuple[int, Any]:
        file = SimpleUploadedFile("forecast.json", text.encode(), "application/json")
        got = api(who).client.post(f"/api/v1/sites/{site.pk}/weather/file", {"file": file})
        return got.status_code, json.loads(got.content)

    status, answer = send(forecast(now(), "one"))
    assert status == {"tia": 200, "vic": 403, "stranger": 404}[who]
    if who != "tia":
        return
    assert answer["source"].endswith("simulated")
    status, answer = send(forecast(now() - timedelta(hours=5), "two"))
    assert (status, answer["code"]) == (409, "weather_older")
    status, answer = send("rain, surely")
    assert (status, answer["code"]) == (422, "weather_not_read")
    assert "JSON" in answer["detail"]


def test_a_job_in_the_open_is_told_of_the_weather(api: Door, site: Site, pump_set: PumpSet) -> None:
    job = Job(api("tia"), pump_set).opened()
    job.say(kind="about", outside="yes", roof="no")
    assert job.view()["view"]["pick"]["weather"]["verdict"] == "unknown"
    file = SimpleUploadedFile("f.json", forecast(now(), "one").encode(), "application/json")
    assert api("tia").client.post(f"/api/v1/sites/{site.pk}/weather/file", {"file": file}).status_code == 200
    weather = job.view()["view"]["pick"]["weather"]
    assert weather["verdict"] in ("good", "act")
    assert "(forecast of" in weather["says"]
