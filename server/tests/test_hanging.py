"""Temporary changes, gates set aside, repairs put off, the standby's clock, the hand-over: through the whole
stack.
"""

from __future__ import annotations

import io
import uuid
from datetime import timedelta

from conftest import SAVE, sheet
from django.db import connection
from django.test.utils import CaptureQueriesContext
from pypdf import PdfReader
from safe_sheets import LINES, Door, Safe, call, change, safety

from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.places import make_set

# Temporary changes, deferring, gates set aside, hand-over.


def test_nothing_closes_while_a_temporary_change_stands(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    matter = call(tia, site, set_id=pump_set.pk)[1]
    status, made = change(tia, pump_set, at=(now() - timedelta(days=9)).isoformat())
    assert status == 201
    tag = safety(tia, pump_set)["changes"][0]
    assert (tag["verdict"], tag["says"]) == (
        "act",
        "Jumper, in place for 9 days, by Tia: overdue, not restored since.",
    )
    assert (
        tia("POST", f"/matters/{matter['id']}/end", {"found": "a", "done": "b"})[1]["code"]
        == "gate_temporary_change"
    )
    assert tia("POST", f"/changes/{made['id']}/off", {"note": "wire back on 14"})[0] == 200
    assert tia("POST", f"/matters/{matter['id']}/end", {"found": "a", "done": "b"})[0] == 200
    for body, code in (
        ({"kind": "magic"}, "change_unknown"),
        ({"place": " "}, "place_missing"),
        ({"at": (now() + timedelta(hours=1)).isoformat()}, "taken_in_future"),
    ):
        assert change(tia, pump_set, **body)[1]["code"] == code
    assert change(api("vic"), pump_set)[0] == 403


def test_a_step_that_lifts_a_wire_hangs_its_tag_and_takes_it_off(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.do(
        "open",
        scope="motor_leads",
        sources=[
            *LINES,
            {
                "id": "a4",
                "kind": "automation_start",
                "device": "terminals 4, 5",
                "place": "panel A",
                "means": "contacts_parted",
            },
        ],
    )
    safe.do("shut", source="q1")
    assert safety(tia, pump_set)["changes"] == []
    for _ in range(2):
        safe.do("shut", source="a4")
        hung = safety(tia, pump_set)["changes"]
        assert [(c["title"], c["place"], c["note"]) for c in hung] == [
            ("Lifted wire", "terminals 4, 5, panel A", "for isolation")
        ]
        assert "not restored yet: Lifted wire, terminals 4, 5, panel A" in [
            w for x in safety(tia, pump_set)["isolation"]["steps"] if x["id"] == "open" for w in x["waits"]
        ]
        safe.do("opened", source="a4")
        assert safety(tia, pump_set)["changes"] == []


def test_a_lead_sets_one_gate_aside_but_never_one_a_life_hangs_on(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia, leo = api("tia"), api("leo")
    matter = call(tia, site, set_id=pump_set.pk)[1]
    change(tia, pump_set)
    body = {
        "gate": "temporary_change",
        "reason": "the jumper stays until Friday",
        "until": (now() + timedelta(days=2)).isoformat(),
    }
    assert tia("POST", f"/sets/{pump_set.pk}/waivers", body)[0] == 403
    assert (
        leo("POST", f"/sets/{pump_set.pk}/waivers", {**body, "gate": "prove_dead"})[1]["code"]
        == "gate_is_life"
    )
    assert leo("POST", f"/sets/{pump_set.pk}/waivers", body)[0] == 201
    assert tia("POST", f"/matters/{matter['id']}/end", {"found": "a", "done": "b"})[0] == 200
    assert "waiver" in [t["kind"] for t in safety(tia, pump_set)["tags"]]


def test_a_repair_put_off_is_watched_by_later_records_until_it_ends(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    key = str(uuid.uuid4())
    decision = {
        "part": "control",
        "what": "warm joint on leg 1",
        "reason": "the lug is on order",
        "until": (now() + timedelta(days=6)).isoformat(),
        "standby": "ran an hour yesterday",
        "changes_mind": "warmer than 20 K over its neighbours",
        "limits": [
            {"measurand": "current", "leg": "1", "value": {"text": "16", "unit": "A"}, "does": "stop it"}
        ],
    }
    assert (
        tia("POST", f"/sets/{pump_set.pk}/deferrals/{key}", {**decision, "limits": []})[1]["problems"][0][
            "right"
        ]
        == "leg current L1 over 52 A"
    )
    status, made = tia("POST", f"/sets/{pump_set.pk}/deferrals/{key}", decision)
    assert (status, made["limits"]) == (201, ["Leg current L1 over 16.0\u00a0A: stop it."])
    good = tia("POST", SAVE, sheet(pump_set))[1]["evaluation"]
    assert next(f for f in good["findings"] if f["question"] == "interim_limit")["verdict"] == "good"
    bad = tia("POST", SAVE, sheet(pump_set, amps=(16.4, 15.1, 14.9)))[1]["evaluation"]
    assert (bad["verdict"], bad["findings"][0]["question"]) == ("stop", "interim_limit")
    assert tia("POST", f"/deferrals/{key}/end", {"said": ""})[0] == 422
    assert tia("POST", f"/deferrals/{key}/end", {"said": "lug renewed"})[0] == 200
    after = tia("POST", SAVE, sheet(pump_set, amps=(16.4, 15.1, 14.9)))[1]["evaluation"]
    assert "interim_limit" not in [f["question"] for f in after["findings"]]
    assert (
        tia("GET", f"/sets/{pump_set.pk}/state")[1]["verdict"] == "unknown"
    )  # the legs are unequal: equal volts clear no joint


def test_losing_the_standby_starts_a_clock(api: Door, site: Site, pump_set: PumpSet, twin: PumpSet) -> None:
    Safe(api("tia"), twin, minutes_ago=4 * 24 * 60 + 30).isolate()
    tags = api("vic")("GET", f"/sites/{site.pk}/safety")[1]["tags"]
    clock = next(t for t in tags if t["kind"] == "clock")
    assert (clock["tag"], clock["verdict"]) == ("C-1", "act")
    assert clock["says"] == "No standby for 4 days, 24 h over the limit set here: C-2 is isolated."


def test_hand_over_reads_everything_out_on_screen_and_on_paper(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    empty = tia("GET", f"/sites/{site.pk}/hand-over")[1]
    assert empty["chapters"] == []
    Safe(tia, pump_set).isolate()
    call(tia, site, room="Boiler cellar", complaint="water")
    change(tia, pump_set, note="bridges the float")
    page = tia("GET", f"/sites/{site.pk}/hand-over")[1]
    assert [c["title"] for c in page["chapters"]] == [
        "Isolated, and who is locked on",
        "Open calls",
        "Temporary changes in place",
    ]
    answer = tia.client.get(f"/api/v1/sites/{site.pk}/hand-over.pdf")
    text = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(answer.content)).pages)
    for words in (
        "C-1",
        "Locked on: Tia",
        "Boiler cellar",
        "terminal 14",
        "bridges the float",
        "Local codes",
        "Received by",
    ):
        assert words in text, words
    assert api("stranger").client.get(f"/api/v1/sites/{site.pk}/hand-over.pdf").status_code == 404


def test_a_sites_tags_take_as_many_queries_for_one_set_as_for_thirty(
    api: Door, site: Site, pump_set: PumpSet, people: dict[str, User]
) -> None:
    def asked() -> int:
        with CaptureQueriesContext(connection) as seen:
            assert api("vic")("GET", f"/sites/{site.pk}/safety")[0] == 200
        return len(seen)

    change(api("tia"), pump_set)
    call(api("tia"), site, set_id=pump_set.pk)
    one = asked()
    for n in range(30):
        row = make_set(
            people["ada"], pump_set.service_id, {"tag": f"N-{n}", "name": "", "kind": "close_coupled"}
        )
        change(api("tia"), row)
        call(api("tia"), site, set_id=row.pk)
    assert asked() == one
