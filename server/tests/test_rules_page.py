"""The rulebook as a site reads it: every row under its topic, the site's own figures beside the published."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from conftest import Api

from hurbin_server.base.models import User
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.places import make_site

Door = Callable[[str], Api]
WATCH = {"limit": "voltage_unbalance.watch", "value": 3, "unit": "%", "reason": "long feeder"}


@pytest.fixture
def path(site: Site) -> str:
    return f"/sites/{site.pk}"


def told(api: Api, path: str) -> dict[str, Any]:
    status, rules = api("GET", f"{path}/rules")
    assert status == 200
    return dict(rules)


def row(rules: dict[str, Any], of: str, key: str) -> dict[str, Any]:
    return dict(next(x for x in rules[of] if x["id"] == key))


def test_who_may_look_reads_every_rule_and_a_stranger_none(api: Door, path: str) -> None:
    seen = {who: told(api(who), path) for who in ("vic", "tia", "leo", "ada")}
    assert [seen[who]["role"] for who in seen] == ["viewer", "technician", "lead", "admin"]
    without = [{k: v for k, v in rules.items() if k != "role"} for rules in seen.values()]
    assert all(rules == without[0] for rules in without)
    assert api("stranger")("GET", f"{path}/rules")[0] == 404
    assert api("nobody")("GET", f"{path}/rules")[0] == 401


def test_each_row_is_under_a_topic_and_tells_where_it_is_from(api: Door, path: str) -> None:
    rules = told(api("vic"), path)
    topics = {t["key"]: t for t in rules["topics"]}
    for of in ("rules", "limits", "tables", "schools"):
        assert rules[of], of
        assert {x["topic"] for x in rules[of]} <= topics.keys()
    for of in ("rules", "limits", "tables"):
        assert [x["id"] for x in rules[of] if not (x["source"] and x["certainty"])] == [], of
    assert [r["id"] for r in rules["rules"] if not (r["why"] and r["formula"])] == []
    assert topics["electrical/drive_sheet"]["title"] == "Drive settings"
    assert topics["safety"] == {"key": "safety", "room": "Safety", "title": "Safety"}
    # Rooms hang together, and what holds for a whole room comes before its benches'.
    keys = [t["key"] for t in rules["topics"]]
    assert keys.index("electrical") < min(keys.index(k) for k in keys if k.startswith("electrical/"))


def test_a_rule_is_drawn_with_its_limits_in_order_between_its_zones(api: Door, path: str) -> None:
    rules = told(api("vic"), path)
    drawn = [r for r in rules["rules"] if r["ticks"]]
    assert len(drawn) > 50
    limits = {x["id"] for x in rules["limits"]}
    for rule in drawn:
        places = [t["at"] for t in rule["ticks"]]
        assert places == sorted(places), rule["id"]
        assert all(0 < at < 1 for at in places), rule["id"]
        assert len(rule["zones"]) == len(places) + 1, rule["id"]
        assert {t["limit"] for t in rule["ticks"]} <= set(rule["limits"]) <= limits, rule["id"]
    unbalance = row(rules, "rules", "voltage_unbalance")
    assert unbalance["zones"] == ["good", "watch", "act", "stop"]
    assert [t["shown"] for t in unbalance["ticks"]] == ["1\u00a0%", "2\u00a0%", "5\u00a0%"]


def test_the_site_s_own_figure_stands_beside_the_published_one(api: Door, path: str) -> None:
    leo = api("leo")
    assert leo("POST", f"{path}/overrides", WATCH)[0] == 201
    rules = told(api("tia"), path)
    limit = row(rules, "limits", "voltage_unbalance.watch")
    assert limit["shown"] == "2\u00a0%"
    own = limit["overrides"][0]
    assert (own["shown"], own["set_tag"]) == ("3\u00a0%", "")
    assert (own["override"]["by"], own["override"]["reason"]) == ("Leo", "long feeder")
    ticks = row(rules, "rules", "voltage_unbalance")["ticks"]
    watch = next(t for t in ticks if t["limit"] == "voltage_unbalance.watch")
    assert (watch["shown"], watch["site"]) == ("2\u00a0%", "3\u00a0%")
    assert watch["at"] < watch["site_at"] < 1
    assert [t["site"] for t in ticks if t["limit"] != "voltage_unbalance.watch"] == ["", ""]
    assert leo("DELETE", f"{path}/overrides/{own['id']}")[0] == 200
    after = told(leo, path)
    assert row(after, "limits", "voltage_unbalance.watch")["overrides"] == []
    assert {t["site"] for t in row(after, "rules", "voltage_unbalance")["ticks"]} == {""}


def test_a_figure_of_one_set_is_named_with_it_and_moves_no_tick_of_the_site(
    api: Door, path: str, pump_set: PumpSet
) -> None:
    leo = api("leo")
    assert leo("POST", f"{path}/overrides", WATCH | {"set_id": pump_set.pk})[0] == 201
    rules = told(leo, path)
    assert row(rules, "limits", "voltage_unbalance.watch")["overrides"][0]["set_tag"] == "C-1"
    assert {t["site"] for t in row(rules, "rules", "voltage_unbalance")["ticks"]} == {""}


def test_another_practice_is_told_in_words_with_who_chose_it(api: Door, path: str) -> None:
    leo = api("leo")
    school = row(told(leo, path), "schools", "insulation.correction")
    assert school["default"] in school["options"]
    assert school["overrides"] == []
    other = next(k for k in school["options"] if k != school["default"])
    body = {"limit": school["id"], "choice": other, "unit": "", "reason": "older windings here"}
    assert leo("POST", f"{path}/overrides", {**body, "reason": ""})[1]["code"] == "reason_missing"
    assert leo("POST", f"{path}/overrides", {**body, "choice": "neither"})[0] == 422
    assert leo("POST", f"{path}/overrides", body)[0] == 201
    own = row(told(leo, path), "schools", school["id"])["overrides"][0]
    assert (own["shown"], own["override"]["choice"]) == (school["options"][other], other)
    assert own["override"]["reason"] == "older windings here"


def test_a_figure_of_one_site_is_none_of_another_s(
    api: Door, path: str, people: dict[str, User], site: Site
) -> None:
    second = make_site(
        people["ada"], {"code": "GLAS", "name": "Glasshouse", "time_zone": "UTC", "altitude_m": None}
    )
    assert api("leo")("POST", f"{path}/overrides", WATCH)[0] == 201
    ada = api("ada")
    rules = told(ada, f"/sites/{second.pk}")
    assert row(rules, "limits", "voltage_unbalance.watch")["overrides"] == []
    own = row(told(ada, path), "limits", "voltage_unbalance.watch")["overrides"][0]
    # Taken away by its own number at the other site: it stands.
    assert api("leo")("DELETE", f"/sites/{second.pk}/overrides/{own['id']}")[0] in (404, 403)
    assert row(told(ada, path), "limits", "voltage_unbalance.watch")["overrides"] != []


def test_figures_are_written_as_their_reader_writes_them(
    api: Door, path: str, people: dict[str, User]
) -> None:
    people["tia"].locale = "de-DE"
    people["tia"].units = {"temperature": "degF"}
    people["tia"].save()
    rules = told(api("tia"), path)
    shown = " ".join(x["shown"] for x in rules["limits"])
    assert "°F" in shown
    assert "°C" not in shown
    assert any("," in c for t in rules["tables"] for r in t["rows"] for c in r)
    english = told(api("vic"), path)["tables"]
    assert not any("," in c for t in english for r in t["rows"] for c in r if c[:1].isdigit())
