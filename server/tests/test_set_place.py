"""A set as a place: how each part stands and why, what is due, everything that happened on one line."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from conftest import SAVE, sheet
from safe_sheets import Door, Safe, call, change

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.safety import timeline


def state(tia: Any, row: PumpSet) -> dict[str, Any]:
    return dict(tia("GET", f"/sets/{row.pk}/state")[1])


def test_a_part_says_its_answers_the_one_that_decides_first(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    saved = tia("POST", SAVE, sheet(pump_set, amps=(15.0, 15.1, 3.0)))[1]
    told = state(tia, pump_set)
    assert told["verdict"] == told["parts"][0]["verdict"] != "good"
    first = told["parts"][0]["answers"][0]
    ranks = [
        ["good", "watch", "unknown", "act", "stop"].index(a["verdict"]) for a in told["parts"][0]["answers"]
    ]
    assert ranks == sorted(ranks, reverse=True)
    assert (first["record"], first["was"]) == (saved["record"], "")
    assert any(a["line"] and a["line"]["margin"] for p in told["parts"] for a in p["answers"])
    assert all("_" not in a["title"] for p in told["parts"] for a in p["answers"])


def test_what_is_overdue_is_unknown_and_says_what_it_was(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    tia = api("tia")
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201
    before = state(tia, pump_set)
    due = next(d for d in before["due"] if d["bench"] == "running_check")
    assert not due["overdue"]
    monkeypatch.setenv("HURBIN_AS_OF", (now() + timedelta(days=400)).isoformat())
    after = state(tia, pump_set)
    assert after["verdict"] == "unknown"
    answers = [a for p in after["parts"] for a in p["answers"]]
    good = [a["reason"] for p in before["parts"] for a in p["answers"] if a["verdict"] == "good"]
    assert good
    assert {a["was"] for a in answers} >= set(good)
    assert "good" not in {a["verdict"] for a in answers}
    assert after["due"][0] == {**due, "overdue": True}


def test_a_set_without_a_record_is_unknown_and_everything_is_still_to_be_done(
    api: Door, pump_set: PumpSet
) -> None:
    told = state(api("vic"), pump_set)
    assert (told["verdict"], told["figures"]) == ("unknown", [])
    assert [(p["part"], p["answers"]) for p in told["parts"]] == [("motor", [])]
    assert {d["at"] for d in told["due"]} == {None}


def moments(tia: Any, row: PumpSet) -> list[dict[str, Any]]:
    return list(tia("GET", f"/sets/{row.pk}/timeline")[1]["moments"])


def test_records_calls_repairs_and_open_items_stand_on_one_line(
    api: Door, site: Site, pump_set: PumpSet, twin: PumpSet
) -> None:
    tia = api("tia")
    old = tia("POST", SAVE, sheet(pump_set, days_ago=5))[1]["record"]
    wrong = tia("POST", SAVE, sheet(pump_set, days_ago=3))[1]["record"]
    right = sheet(pump_set, days_ago=3, corrects=wrong, reason="read on the wrong leg")
    newer = tia("POST", SAVE, right)[1]["record"]
    matter = call(tia, site, set_id=pump_set.pk)[1]
    assert tia("POST", f"/matters/{matter['id']}/end", {"found": "gland", "done": "tightened"})[0] == 200
    assert change(tia, pump_set)[0] == 201
    assert change(tia, twin)[0] == 201
    event = {"kind": "overhaul", "at": (now() - timedelta(days=9)).isoformat(), "note": "new wear ring"}
    assert tia("POST", f"/sets/{pump_set.pk}/events", event)[0] == 201
    line = moments(tia, pump_set)
    assert [m["at"] for m in line] == sorted(m["at"] for m in line)
    assert [m["record"] for m in line if m["kind"] == "record"] == [old, newer]
    [closed] = [m for m in line if m["kind"] == "call"]
    assert (closed["says"], closed["until"] is None) == ("gland tightened", False)
    [hung] = [m for m in line if m["kind"] == "open"]
    assert hung["until"] is None
    [part] = [m for m in line if m["kind"] == "part"]
    assert (part["title"], part["says"]) == ("Overhauled", "new wear ring")
    assert api("stranger")("GET", f"/sets/{pump_set.pk}/timeline")[0] == 404


def test_a_long_past_stands_on_it_by_its_newest_records(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(timeline, "MOST", 2)
    tia = api("tia")
    made = [tia("POST", SAVE, sheet(pump_set, days_ago=d))[1]["record"] for d in (8, 6, 4)]
    told = tia("GET", f"/sets/{pump_set.pk}/timeline")[1]
    assert [m["record"] for m in told["moments"]] == made[1:]
    assert told["older"] is True


def lane(tia: Any, site: Site) -> tuple[str, str]:
    [told] = tia("GET", f"/sites/{site.pk}/safety")[1]["served"]
    return told["verdict"], " ".join(told["says"])


def test_a_service_says_whether_it_is_served_and_by_what(
    api: Door, site: Site, pump_set: PumpSet, twin: PumpSet
) -> None:
    tia = api("tia")
    assert lane(tia, site)[0] == "unknown"
    assert tia("POST", SAVE, sheet(pump_set, days_ago=2.5))[0] == 201
    assert lane(tia, site) == ("good", f"Served by {pump_set.tag}. Last seen running: 2 days ago.")
    assert tia("POST", SAVE, sheet(pump_set, amps=(0, 0, 0), days_ago=1))[0] == 201
    assert lane(tia, site)[0] == "unknown"  # the newest check found it standing
    assert tia("POST", SAVE, sheet(pump_set, days_ago=0.5))[0] == 201
    assert lane(tia, site)[0] == "good"
    Safe(tia, pump_set).isolate()
    assert lane(tia, site)[0] == "unknown"  # its twin was never seen running
    assert tia("POST", SAVE, sheet(twin))[0] == 201
    verdict, words = lane(tia, site)
    assert (verdict, words.startswith(f"Only {twin.tag} is left: {pump_set.tag} ")) == ("watch", True)
    assert call(tia, site, set_id=twin.pk, complaint="will_not_start")[0] == 201
    assert lane(tia, site)[0] == "act"


def test_who_needs_a_person_first_has_one_action(
    api: Door, site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    tia = api("tia")

    def first() -> tuple[str, str, str]:
        [one] = tia("GET", f"/sites/{site.pk}/plant")[1]["first"]
        return one["part"], one["part_title"], one["bench"]

    assert first() == ("motor", "Motor", "running_check")
    assert tia("POST", SAVE, sheet(pump_set, amps=(15.0, 15.1, 3.0)))[0] == 201
    assert first()[2] == ""
    assert first()[0] in ("motor", "supply", "pump")
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201
    assert tia("GET", f"/sites/{site.pk}/plant")[1]["first"] == []
    monkeypatch.setenv("HURBIN_AS_OF", (now() + timedelta(days=400)).isoformat())
    assert first()[2] == "running_check"
