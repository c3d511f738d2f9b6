"""Run by `test_adding_a_bench.py` with a room more beside the others: it is there wherever a bench is."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from conftest import Api

from hurbin_core.catalogue import benches
from hurbin_server.base.clock import now
from hurbin_server.plant.models import Event, PumpSet, Site

Door = Callable[[str], Api]


def look(row: PumpSet, hours: float, level: str, **more: Any) -> dict[str, Any]:
    body = {"level": {"text": level, "unit": "mm"}, "pump": "running", **more}
    taken_at = (now() - timedelta(hours=hours)).isoformat()
    return {
        "set_id": row.pk,
        "sheet": str(uuid.uuid4()),
        "entries": [{"uuid": str(uuid.uuid4()), "taken_at": taken_at, "body": body}],
    }


def test_it_is_judged_saved_trended_and_shown(api: Door, pump_set: PumpSet) -> None:
    assert "sump" in {b.name for b in benches()}
    tia = api("tia")
    case = tia("GET", f"/benches/sump/case/{pump_set.pk}")[1]
    assert case["offers"]["open_wet_end"]["offered"] is False
    for hours, level, verdict in ((30, "150", "good"), (20, "300", "act"), (10, "600", "stop")):
        status, saved = tia("POST", "/benches/sump/records", look(pump_set, hours, level))
        assert (status, saved["evaluation"]["verdict"]) == (201, verdict), saved
    assert saved["evaluation"]["findings"][0]["reason"] == "600\u00a0mm over the float, after 2 looks before."
    assert saved["evaluation"]["view"] == {"filled": 1.0, "level": saved["evaluation"]["view"]["level"]}
    assert saved["evaluation"]["view"]["level"]["shown"] == "600\u00a0mm"
    assert saved["evaluation"]["ghosts"][0]["text"] == "300"
    assert tia("GET", f"/records/{saved['record']}")[1]["evaluation"]["view"]["filled"] == 1.0
    unsaid = look(pump_set, 1, "100")
    unsaid["entries"][0]["body"].pop("pump")
    assert tia("POST", "/benches/sump/evaluate", unsaid)[1]["verdict"] == "unknown"
    trend = next(t for t in tia("GET", f"/sets/{pump_set.pk}/trends")[1] if t["measurand"] == "sump_level")
    assert (trend["total"], trend["limits"][0]["label"]) == (3, "good up to")


def test_its_effects_are_performed_once(api: Door, pump_set: PumpSet) -> None:
    body = look(pump_set, 2, "450", flooded=True)
    for _ in range(2):
        assert api("tia")("POST", "/benches/sump/records", body)[0] in (200, 201)
    assert [e.kind for e in Event.objects.filter(pump_set=pump_set)] == ["flood"]


def test_it_goes_to_files_and_stands_on_the_rules(api: Door, pump_set: PumpSet, site: Site) -> None:
    tia = api("tia")
    head = tia("GET", "/readings/sump/template.csv")[1].lstrip("\ufeff").strip()
    assert head == "tag,taken_at,level|mm,pump,flooded"
    assert tia("POST", "/benches/sump/records", look(pump_set, 3, "120"))[0] == 201
    rows = tia("GET", f"/sites/{site.pk}/readings/sump.csv")[1].splitlines()
    assert rows[1].split(",")[0] == "C-1"
    assert rows[1].endswith(",120,running,")
    rules = tia("GET", f"/sites/{site.pk}/rules")[1]
    assert {"sump.good", "sump.act"} <= {x["id"] for x in rules["limits"]}
    assert "Water in the sump" in {r["title"] for r in rules["rules"]}
