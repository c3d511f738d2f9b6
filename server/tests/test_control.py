"""A control ladder at the door: confirmed with the circuit; what was lifted or bridged hangs by itself."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any

from conftest import Api

from hurbin_server.base.clock import now
from hurbin_server.plant.models import PumpSet
from hurbin_server.safety.models import TemporaryChange

Door = Callable[[str], Api]


def confirmed(api: Api, row: PumpSet, **more: Any) -> dict[str, Any]:
    """The usual control ladder, confirmed with the usual circuit; more: of its interlock L."""
    told = api("GET", f"/sets/{row.pk}/circuit")[1]
    control = told["usual_control"]
    for e in control["elements"]:
        if e["id"] == "L":
            e.update(more)
    body = {"circuit": told["circuit"] | {"control": control}, "expected_version": told["version"]}
    status, answer = api("PUT", f"/sets/{row.pk}/circuit", body)
    assert status == 200, answer
    return dict(answer)


def walked(api: Api, row: PumpSet, *spots: tuple[str, str], **more: Any) -> tuple[int, Any]:
    body = {"selector": "auto", "called": True, "proved": True, "pulled": "out", **more}
    body["spots"] = [{"at": at, "volts": {"text": v, "unit": "V"}} for at, v in spots]
    entry = {
        "uuid": str(uuid.uuid4()),
        "taken_at": now().isoformat(),
        "device": "phone",
        "body": body,
    }
    asked = {"set_id": row.pk, "sheet": str(uuid.uuid4()), "entries": [entry]}
    return api("POST", "/benches/control/records", asked)


def told(answer: Any) -> dict[str, str]:
    return {f["question"]: f["verdict"] for f in answer["evaluation"]["findings"]}


def test_a_walk_is_only_as_good_as_the_ladder_that_somebody_confirmed(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    whole = (("source", "111"), ("O", "110"), ("K", "0"))
    assert told(walked(tia, pump_set, *whole, pulled="in")[1])["control_open"] == "unknown"
    kept = confirmed(tia, pump_set)
    assert kept["version"] == 1
    assert told(walked(tia, pump_set, *whole, pulled="in")[1])["control_open"] == "good"
    stale = {"circuit": kept["circuit"], "expected_version": 0}
    status, answer = tia("PUT", f"/sets/{pump_set.pk}/circuit", stale)
    assert (status, answer["code"]) == (409, "stale")
    assert answer["current"]["circuit"]["control"]["elements"]


def test_what_was_lifted_and_bridged_hangs_on_the_set_by_itself_once(api: Door, pump_set: PumpSet) -> None:
    tia = api("tia")
    spots = (("source", "111"), ("A", "0"))
    assert walked(tia, pump_set, *spots, lifted="terminal 7", jumper="14 to 15")[0] == 201
    rows = TemporaryChange.objects.filter(pump_set=pump_set, off_at=None)
    assert {(r.kind, r.place) for r in rows} == {("lifted_wire", "terminal 7"), ("jumper", "14 to 15")}
    tags = tia("GET", f"/sets/{pump_set.pk}/safety")[1]["tags"]
    assert all(any(place in str(t) for t in tags) for place in ("terminal 7", "14 to 15"))


def test_who_may_and_what_cannot_be(api: Door, pump_set: PumpSet) -> None:
    assert walked(api("vic"), pump_set, ("source", "111"))[0] == 403
    status, answer = walked(api("tia"), pump_set, ("source", "400"))
    assert (status, answer["problems"][0]["code"]) == (422, "volts_beyond")
    status, answer = walked(api("tia"), pump_set, ("Z9", "110"))
    assert (status, answer["problems"][0]["field"]) == (422, "volts:Z9")
    two = confirmed(api("tia"), pump_set)["circuit"]
    two["control"]["elements"].append({"id": "K2", "kind": "coil"})
    status, answer = api("tia")(
        "PUT", f"/sets/{pump_set.pk}/circuit", {"circuit": two, "expected_version": 1}
    )
    assert status == 422
    assert "one coil" in str(answer)
