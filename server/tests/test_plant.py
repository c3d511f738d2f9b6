"""Sites, sets, plates, fittings, people, the register file; who may, and what is stale."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta

import pytest
from conftest import PLATE, SAVE, WORD, Api, sheet
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from hurbin_core.plant import KINDS
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.plant.models import PumpSet, Service, Site
from hurbin_server.plant.services.places import make_set

Door = Callable[[str], Api]


def test_site_service_pair_on_the_empty_plant(api: Door, people: dict[str, User]) -> None:
    ada = api("ada")
    assert ada("GET", "/sites")[1] == []
    status, site = ada("POST", "/sites", {"code": "DOCK", "name": "Dock", "time_zone": "Europe/Oslo"})
    assert (status, site["role"]) == (201, "admin")
    assert (
        ada("POST", "/sites", {"code": "DOCK", "name": "Again", "time_zone": "UTC"})[1]["code"]
        == "code_taken"
    )
    assert (
        ada("POST", "/sites", {"code": "D2", "name": "x", "time_zone": "Mars/Base"})[1]["problems"][0][
            "field"
        ]
        == "time_zone"
    )
    assert api("tia")("POST", "/sites", {"code": "T", "name": "x"})[0] == 403
    service = ada("POST", f"/sites/{site['id']}/services", {"code": "A", "name": "Loop"})[1]
    pair = ada(
        "POST",
        f"/services/{service['id']}/pairs",
        {"duty_tag": "A-1", "standby_tag": "A-2", "kind": "inline_spring"},
    )
    assert pair[0] == 201
    assert [s["role"] for s in pair[1]] == ["duty", "standby"]
    assert pair[1][0]["partners"][0]["tag"] == "A-2"
    again = ada(
        "POST",
        f"/services/{service['id']}/pairs",
        {"duty_tag": "A-3", "standby_tag": "A-2", "kind": "inline_spring"},
    )
    assert again[1]["problems"][0] | {"message": ""} == {
        "code": "tag_taken",
        "field": "tag",
        "value": "A-2",
        "message": "",
        "right": "",
    }
    assert not PumpSet.objects.filter(tag="A-3").exists()


@pytest.mark.parametrize("kind", KINDS)
def test_a_set_of_every_kind(api: Door, site: Site, pump_set: PumpSet, kind: str) -> None:
    body = {"tag": "K-1", "kind": kind, "control": "drive"}
    status, made = api("ada")("POST", f"/services/{pump_set.service_id}/sets", body)
    assert status == 201
    assert made["slots"] == KINDS[kind].slots
    assert [c["kind"] for c in made["components"] if c["slot"] == "control"] == ["drive"]


def test_duplicate_tag_is_said(api: Door, pump_set: PumpSet) -> None:
    status, body = api("ada")(
        "POST", f"/services/{pump_set.service_id}/sets", {"tag": "C-1", "kind": "vacuum"}
    )
    assert (status, body["code"]) == (409, "tag_taken")
    status, body = api("ada")(
        "POST", f"/services/{pump_set.service_id}/sets", {"tag": "C-9", "kind": "rocket"}
    )
    assert (status, body["code"]) == (422, "kind_unknown")


def test_stale_set_edit_shows_both(api: Door, pump_set: PumpSet) -> None:
    ada = api("ada")
    edit = {"tag": "C-1", "name": "mine", "service_id": pump_set.service_id, "version": 1}
    assert ada("PUT", f"/sets/{pump_set.pk}", {**edit, "name": "theirs"})[1]["version"] == 2
    status, body = ada("PUT", f"/sets/{pump_set.pk}", edit)
    assert (status, body["code"], body["current"]["name"], body["current"]["version"]) == (
        409,
        "stale",
        "theirs",
        2,
    )
    assert PumpSet.objects.get().name == "theirs"


def test_plate_versions_reason_and_staleness(api: Door, pump_set: PumpSet) -> None:
    ada = api("ada")
    motor = pump_set.fittings.get(slot="motor").component_id
    path = f"/components/{motor}/plates"
    fresh = {**PLATE, "amps_low": {"text": "21", "unit": "A"}}
    assert (
        ada("POST", path, {"expected_version": 1, "plate": fresh, "reason": ""})[1]["code"]
        == "reason_missing"
    )
    assert (
        ada("POST", path, {"expected_version": 1, "plate": fresh, "reason": "read again"})[1]["plate_version"]
        == 2
    )
    status, body = ada("POST", path, {"expected_version": 1, "plate": PLATE, "reason": "old screen"})
    assert (status, body["current"]["plate"]["amps_low"]["text"]) == (409, "21")
    bad = ada(
        "POST",
        path,
        {"expected_version": 2, "plate": {**PLATE, "service_factor": {"text": "9"}}, "reason": "x"},
    )
    assert (bad[0], bad[1]["problems"][0]["field"]) == (422, "service_factor")
    assert (
        ada("POST", path, {"expected_version": 2, "plate": {"phases": 2}, "reason": "x"})[1]["problems"][0][
            "field"
        ]
        == "phases"
    )
    assert [v["reason"] for v in ada("GET", path)[1]] == ["read again", "first entry"]


def test_fittings_refuse_future_and_overlap(api: Door, site: Site, pump_set: PumpSet) -> None:
    ada = api("ada")
    spare = ada("POST", f"/sites/{site.pk}/components", {"kind": "motor", "label": "spare"})[1]["id"]
    path = f"/sets/{pump_set.pk}/fittings"

    def fit(component: int, days: float) -> tuple[int, dict]:
        return ada(
            "POST",
            path,
            {
                "slot": "motor",
                "component_id": component,
                "from_at": (now() + timedelta(days=days)).isoformat(),
            },
        )

    assert fit(spare, 2)[1]["code"] == "fitting_in_future"
    assert fit(spare, -900)[1]["code"] == "fitting_overlaps"
    status, row = fit(spare, -5)
    assert status == 201
    assert next(c for c in row["components"] if c["slot"] == "motor")["id"] == spare
    assert fit(spare, -4)[1]["code"] == "fitting_overlaps"
    assert (
        ada("POST", path, {"slot": "seal", "component_id": spare, "from_at": now().isoformat()})[1]["code"]
        == "does_not_fit"
    )
    assert [c["label"] for c in ada("GET", f"/sites/{site.pk}/register")[1]["spares"]] == ["C-1 motor"]


def test_viewer_looks_and_cannot_write(api: Door, site: Site, pump_set: PumpSet) -> None:
    vic = api("vic")
    reads = (
        f"/sites/{site.pk}/plant",
        f"/sets/{pump_set.pk}",
        f"/sets/{pump_set.pk}/history",
        f"/sets/{pump_set.pk}/trends",
        f"/sites/{site.pk}/rules",
        f"/sites/{site.pk}/register",
        f"/sites/{site.pk}/register.csv",
    )
    for path in reads:
        assert vic("GET", path)[0] == 200, path
    motor = pump_set.fittings.get(slot="motor").component_id
    writes = [
        ("POST", SAVE, sheet(pump_set)),
        ("POST", f"/sites/{site.pk}/services", {"code": "X", "name": "x"}),
        ("POST", f"/services/{pump_set.service_id}/sets", {"tag": "X", "kind": "vacuum"}),
        ("PUT", f"/sets/{pump_set.pk}", {"tag": "X", "service_id": pump_set.service_id, "version": 1}),
        ("POST", f"/components/{motor}/plates", {"expected_version": 1, "plate": PLATE, "reason": "x"}),
        (
            "POST",
            f"/sets/{pump_set.pk}/fittings",
            {"slot": "motor", "component_id": motor, "from_at": now().isoformat()},
        ),
        ("POST", f"/sites/{site.pk}/overrides", {"limit": "load.plate", "value": 90, "reason": "x"}),
        ("POST", f"/sites/{site.pk}/people", {"username": "eve", "role": "admin"}),
        ("POST", f"/sites/{site.pk}/register.csv", {"text": "service,tag,kind\nA,B,vacuum", "write": True}),
        ("PUT", f"/sites/{site.pk}", {"code": "X", "name": "x", "version": 1}),
    ]
    for method, path, body in writes:
        assert vic(method, path, body)[0] == 403, path
        assert api("stranger")(method, path, body)[0] == 404, path
        assert api("nobody")(method, path, body)[0] == 401, path
    assert vic("GET", f"/sites/{site.pk}/people")[0] == 403


def test_people_are_added_re_roled_and_disabled(api: Door, site: Site, pump_set: PumpSet) -> None:
    ada, tia = api("ada"), api("tia")
    path = f"/sites/{site.pk}/people"
    made = ada("POST", path, {"username": "noor", "role": "technician", "full_name": "Noor"})
    assert made[0] == 201
    assert len(made[1]["password"]) > 11
    assert ada("POST", path, {"username": "noor", "role": "lead"})[1]["code"] == "person_here"
    assert (
        ada("POST", path, {"username": "weak", "role": "lead", "password": "short"})[1]["problems"][0][
            "field"
        ]
        == "password"
    )
    assert ada("PATCH", f"{path}/tia", {"role": "viewer"})[1]["role"] == "viewer"
    assert tia("POST", SAVE, sheet(pump_set))[0] == 403
    ada("PATCH", f"{path}/tia", {"active": False})
    status, body = tia("POST", SAVE, sheet(pump_set))
    assert (status, body["code"]) == (403, "disabled")
    assert ada("PATCH", f"{path}/ada", {"role": "viewer"})[1]["code"] == "last_admin"


def test_register_file_goes_out_and_in_again(
    api: Door, people: dict[str, User], site: Site, pump_set: PumpSet
) -> None:
    ada = api("ada")
    text = ada("GET", f"/sites/{site.pk}/register.csv")[1]
    path = f"/sites/{site.pk}/register.csv"
    same = ada("POST", path, {"text": text, "write": True})[1]
    assert (same["same"], same["new"], same["changes"], same["refused"]) == (1, 0, 0, 0)
    changed = text.replace("20|A", "22|A").replace("Cold 1", "Cold one")
    plan = ada("POST", path, {"text": changed})[1]
    assert (plan["changes"], plan["written"]) == (1, False)
    assert "motor nameplate" in plan["rows"][0]["says"]
    assert ada("POST", path, {"text": changed, "write": True})[1]["written"]
    assert PumpSet.objects.get().name == "Cold one"
    with_bad = "service,tag,kind\nNEW,N-1,vacuum\nNEW,N-2,rocket\n"
    assert ada("POST", path, {"text": with_bad})[1]["refused"] == 1
    assert ada("POST", path, {"text": with_bad, "write": True})[0] == 422
    assert not Service.objects.filter(code="NEW").exists()
    assert ada("POST", path, {"text": "service,tag,kind\nNEW,N-1,vacuum\n", "write": True})[1]["new"] == 1
    assert Service.objects.get(code="NEW").sets.get().tag == "N-1"
    assert ada("POST", path, {"text": "nonsense"})[1]["code"] == "header_wrong"


def test_query_count_of_plant_is_the_same_at_any_size(
    api: Door, people: dict[str, User], site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")

    def queries() -> int:
        with CaptureQueriesContext(connection) as seen:
            assert tia("GET", f"/sites/{site.pk}/plant")[0] == 200
        return len(seen)

    tia("POST", SAVE, sheet(pump_set, amps=(21, 21, 21.1)))
    few = queries()
    for i in range(30):
        row = make_set(people["ada"], pump_set.service_id, {"tag": f"M-{i}", "name": "m", "kind": "vacuum"})
        if i < 3:
            tia("POST", SAVE, sheet(row))
    assert queries() == few


def test_sign_in_throttle_and_headers(people: dict[str, User], site: Site) -> None:
    client = Client(enforce_csrf_checks=True)
    token = client.get("/api/v1/session").json()["csrf"]

    def sign_in(word: str) -> int:
        return client.post(
            "/api/v1/session",
            {"username": "tia", "password": word},
            content_type="application/json",
            headers={"X-CSRFToken": token},
        ).status_code

    assert (
        client.post(
            "/api/v1/session", {"username": "tia", "password": WORD}, content_type="application/json"
        ).status_code
        == 403
    )
    assert sign_in(WORD) == 200
    signed = client.get("/api/v1/session")
    assert "default-src 'none'" in signed["Content-Security-Policy"]
    assert "unsafe-inline" not in signed["Content-Security-Policy"]
    assert signed["X-Frame-Options"] == "DENY"
    assert client.cookies["sessionid"]["httponly"]
    assert client.post(
        f"/api/v1/sites/{site.pk}/services", {}, content_type="application/json"
    ).status_code in (
        401,
        403,
    )
    token = signed.json()["csrf"]  # renewed at sign-in
    codes = [sign_in("wrong-password") for _ in range(9)]
    assert codes[0] == 401
    assert codes[-1] == 429
    assert sign_in(WORD) == 429


def test_codes_are_exact(api: Door, site: Site, pump_set: PumpSet) -> None:
    """mL is not ML: tags differ by case."""
    assert (
        api("ada")("POST", f"/services/{pump_set.service_id}/sets", {"tag": "c-1", "kind": "vacuum"})[0]
        == 201
    )


def test_what_is_not_there(api: Door, pump_set: PumpSet) -> None:
    for path in (
        "/sets/999999",
        "/records/999999",
        "/components/999999",
        "/series/999999/points",
        "/sites/999999/plant",
    ):
        assert api("tia")("GET", path)[0] == 404
    assert api("tia")("POST", SAVE, {"set_id": "x"})[0] == 422


def test_a_spare_of_no_known_kind_is_refused(api: Callable[[str], Api], site: Site) -> None:
    for kind in ("flux capacitor", "x" * 300, "𝔐\u0001"):
        status, said = api("ada")("POST", f"/sites/{site.pk}/components", {"kind": kind, "label": "spare"})
        assert (status, said["code"]) == (422, "kind_unknown")
    assert api("ada")("POST", f"/sites/{site.pk}/components", {"kind": "motor", "label": "spare"})[0] == 201
