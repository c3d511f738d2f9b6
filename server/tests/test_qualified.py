"""Who may be offered a live test: by a qualification that a lead entered, until its last day."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from conftest import SAVE, Api, sheet
from safe_sheets import offered
from test_fuses import blown, checked

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.safety.models import Qualification

Door = Callable[[str], Api]


def day(off: float) -> str:
    return (now() + timedelta(days=off)).date().isoformat()


def given(api: Api, site: Site, who: str = "tia", **more: Any) -> tuple[int, Any]:
    body = {"username": who, "kind": "live_tests", "since": day(-10), "until": day(300)} | more
    return api("POST", f"/sites/{site.pk}/qualifications", body)


def without(name: str) -> None:
    Qualification.objects.filter(user__username=name).delete()


def test_without_one_live_tests_are_not_offered_and_what_was_seen_is_taken(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    without("tia")
    tia = api("tia")
    assert not offered(tia, pump_set, "live_test")
    told = tia("GET", f"/sets/{pump_set.pk}/safety")[1]
    live = next(o for o in told["offers"] if o["act"] == "live_test")
    assert [s["gate"] for s in live["shut"]] == ["qualified"]
    assert offered(api("leo"), pump_set, "live_test"), (
        "another person's does not count, nor does the lack of it"
    )
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201, "the record of what was seen always is"
    assert tia("POST", f"/sets/{pump_set.pk}/waivers", {"gate": "qualified"})[0] in (403, 422)
    assert given(api("leo"), site)[0] == 201
    assert offered(tia, pump_set, "live_test")


def test_it_counts_through_its_last_day_and_not_after(api: Door, site: Site, pump_set: PumpSet) -> None:
    without("tia")
    assert given(api("leo"), site, until=day(0))[0] == 201
    tia = api("tia")
    assert offered(tia, pump_set, "live_test")
    told = tia("GET", f"/sets/{pump_set.pk}/safety")[1]
    row = Qualification.objects.get(user__username="tia")
    assert told["until"] == row.until.isoformat().replace("+00:00", "Z"), "asked again when it runs out"
    Qualification.objects.update(until=now() - timedelta(seconds=1))
    assert not offered(tia, pump_set, "live_test")


def test_withdrawn_it_no_longer_counts(api: Door, site: Site, pump_set: PumpSet) -> None:
    row = Qualification.objects.get(user__username="tia")
    path = f"/qualifications/{row.pk}/withdraw"
    assert api("tia")("POST", path, {"because": "no"})[0] == 403
    assert api("leo")("POST", path, {"because": " "})[0] == 422
    assert api("leo")("POST", path, {"because": "certificate of somebody else"})[0] == 200
    assert not offered(api("tia"), pump_set, "live_test")
    page = api("leo")("GET", f"/sites/{site.pk}/qualifications")[1]
    held = {p["username"]: p for p in page["people"]}
    assert held["tia"]["held"][0]["ended_because"] == "certificate of somebody else"
    assert (held["tia"]["live"], held["leo"]["live"]) == (False, True)


@pytest.mark.parametrize(
    ("more", "status"),
    [
        ({"kind": "juggling"}, 422),
        ({"until": "2020-01-01"}, 422),
        ({"until": "2099-01-01"}, 422),
        ({"until": "9999-12-31"}, 422),
        ({"since": "0001-01-01"}, 422),
        ({"who": "stranger"}, 404),
        ({"who": "leo"}, 403),
    ],
)
def test_what_is_refused(api: Door, site: Site, more: dict[str, Any], status: int) -> None:
    assert given(api("leo"), site, **more)[0] == status


def test_who_may_enter_and_see_them(api: Door, site: Site) -> None:
    for name, status in (("tia", 403), ("vic", 403), ("stranger", 404)):
        assert given(api(name), site)[0] == status
    assert given(api("ada"), site, "ada")[0] == 201, "an admin is the last to ask"
    path = f"/sites/{site.pk}/qualifications"
    assert [p["username"] for p in api("tia")("GET", path)[1]["people"]] == ["tia"], "only one's own"
    assert len(api("leo")("GET", path)[1]["people"]) == 4


def test_a_licensed_person_signs_and_a_lead_enters_anybodys_signature(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    signature = {"cause": "not_found", "signed": "T. Licensed", "signed_as": "licensed"}
    assert blown(api("tia"), pump_set, 9)[0] == 201
    assert checked(api("tia"), pump_set, 8, **signature)[0] == 403
    assert given(api("leo"), site, kind="electrical_work")[0] == 201
    assert checked(api("tia"), pump_set, 7, **signature)[0] == 201
    assert checked(api("tia"), pump_set, 6, **signature | {"signed_as": "manufacturer"})[0] == 403
    assert checked(api("leo"), pump_set, 5, **signature | {"signed_as": "manufacturer"})[0] == 201
