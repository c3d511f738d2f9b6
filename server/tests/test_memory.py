"""The context of a file's row is that of a record: `Memory` and `case_for` answer alike, whatever stands
in the plant.
"""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest
from conftest import PLATE, Api, sheet
from django.db import connection
from django.test.utils import CaptureQueriesContext

from hurbin_core.base import Bench
from hurbin_core.catalogue import bench, benches
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Judgement, LimitOverride, Record
from hurbin_server.logbook.services.casing import case_for
from hurbin_server.logbook.services.judging import rejudge_all
from hurbin_server.logbook.services.memory import Memory
from hurbin_server.logbook.services.saving import save_record
from hurbin_server.logbook.services.sheets import append_entries
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.events import add_event
from hurbin_server.plant.services.parts import fit, make_component, new_plate
from hurbin_server.plant.services.places import make_set
from hurbin_server.safety.models import Deferral

Door = Callable[[str], Api]


def one_entry(at: datetime, **body: Any) -> dict[str, Any]:
    return {"uuid": str(uuid.uuid4()), "taken_at": at, "device": "test", "body": body}


def insulation(user: User, row: PumpSet, days: float, ohms: str, volts: str = "500") -> None:
    at = now() - timedelta(days=days)
    setup = {
        "kind": "setup",
        "test_point": "motor",
        "links": "in",
        "phases": "together",
        "test_volts": {"text": volts, "unit": "V"},
        "arresters_off": True,
        "winding": {"text": "20", "unit": "degC"},
        "ambient": {"text": "19", "unit": "degC"},
        "humidity": {"text": "50", "unit": "%"},
    }
    entries = [
        one_entry(at, **setup),
        one_entry(at, kind="reading", leg="all", seconds=60, ohms={"text": ohms, "unit": "MOhm"}),
    ]
    save_record(user, row.pk, "insulation", str(uuid.uuid4()), entries)


def running(user: User, row: PumpSet, days: float, amps: tuple[float, ...] = (15, 15.1, 14.9)) -> None:
    body = sheet(row, amps)["entries"][0]["body"]
    save_record(
        user, row.pk, "running_check", str(uuid.uuid4()), [one_entry(now() - timedelta(days=days), **body)]
    )


@pytest.fixture
def pair(people: dict[str, User], pump_set: PumpSet) -> tuple[PumpSet, PumpSet]:
    """Two sets behind each other with two years of both kinds of record, an event, and a motor that was
    exchanged.
    """
    ada, tia = people["ada"], people["tia"]
    PumpSet.objects.filter(pk=pump_set.pk).update(pair="P", role="duty")
    pump_set.refresh_from_db()
    twin = make_set(
        ada,
        pump_set.service_id,
        {"tag": "C-2", "name": "Cold 2", "kind": "base_mounted", "pair": "P", "role": "standby"},
        "drive",
        now() - timedelta(days=800),
    )
    new_plate(
        ada,
        twin.fittings.get(slot="motor").component.pk,
        0,
        {**PLATE, "insulation_class": "F"},
        "first entry",
    )
    for days in (390, 300, 210, 120, 30):
        running(tia, pump_set, days, (15 + days / 1000, 15.1, 14.9))
        insulation(tia, pump_set, days - 3, str(300 + days))
    insulation(tia, pump_set, 15, ">2000", "250")
    for days in (380, 200, 20):
        running(tia, twin, days)
    add_event(tia, pump_set.pk, "dried", now() - timedelta(days=250), "dried for two days")
    spare = make_component(ada, pump_set.site_id, "motor", "spare")
    new_plate(ada, spare.pk, 0, {**PLATE, "amps_low": {"text": "21", "unit": "A"}}, "first entry")
    fit(ada, pump_set.pk, "motor", spare.pk, now() - timedelta(days=100), "bearing noise")
    LimitOverride.objects.create(
        site=pump_set.site,
        limit="insulation.baseline",
        value=200,
        unit="MOhm",
        reason="sea air",
        by=people["leo"],
        at=now(),
    )
    return pump_set, twin


@pytest.mark.parametrize("b", [b for b in benches() if not b.single], ids=lambda b: b.name)
def test_a_files_context_is_a_records_context(
    pair: tuple[PumpSet, PumpSet], b: Bench, subtests: pytest.Subtests
) -> None:
    for days in (500, 385, 249, 101, 99, 10, 0):
        with subtests.test(days=days):
            _alike(pair, b, now() - timedelta(days=days))


def _alike(pair: tuple[PumpSet, PumpSet], b: Bench, at: datetime) -> None:
    memory = Memory(pair, b)
    for row in pair:
        row = PumpSet.objects.select_related("site").get(pk=row.pk)
        ours, parts = memory.case(row.pk, at)
        theirs, fitted = case_for(row, b, at)
        assert {k: c.pk for k, c in parts.items()} == {k: c.pk for k, c in fitted.items()}
        assert ours.model_dump(mode="json") == theirs.model_dump(mode="json")
        assert ours.context.history == theirs.context.history, "figure for figure, bound for bound"


def test_a_files_context_knows_of_an_isolation_and_of_a_repair_put_off(
    people: dict[str, User], pair: tuple[PumpSet, PumpSet]
) -> None:
    row, at = pair[0], now() - timedelta(days=5)
    uuid = "isolated-then"
    opened = {
        "uuid": "opened-then",
        "taken_at": at - timedelta(hours=2),
        "device": "t",
        "body": {"kind": "open", "scope": "motor_leads", "sources": []},
    }
    append_entries(people["tia"], row.pk, bench("make_safe"), uuid, [opened])
    Deferral.objects.create(
        uuid="put-off-then",
        pump_set=row,
        part="motor",
        what="a joint",
        reason="parts",
        until=now(),
        standby="runs",
        changes_mind="heat",
        by=people["leo"],
        at=at,
        limits=[
            {"measurand": "current", "value": 18, "unit": "A", "does": "stop it", "until": now().isoformat()}
        ],
    )
    memory, b = Memory(pair, bench("running_check")), bench("running_check")
    for when in (at - timedelta(days=1), at - timedelta(hours=1), at + timedelta(hours=1)):
        ours, theirs = memory.case(row.pk, when)[0], case_for(row, b, when)[0]
        assert ours.state == theirs.state
    assert ours.state.isolation is not None
    assert len(ours.state.interim) == 1


def test_memory_looks_at_a_twin_that_the_file_does_not_name(pair: tuple[PumpSet, PumpSet]) -> None:
    memory = Memory([pair[1]], bench("running_check"))
    twin = memory.case(pair[1].pk, now())[0].context.twin
    assert twin is not None
    assert twin.tag == "C-1"


def test_reading_a_sets_memory_takes_the_same_queries_for_any_number_of_records(
    people: dict[str, User], pair: tuple[PumpSet, PumpSet]
) -> None:
    def queries() -> int:
        with CaptureQueriesContext(connection) as told:
            Memory(pair, bench("running_check"))
        return len(told)

    before = queries()
    for days in (9, 8, 7):
        running(people["tia"], pair[0], days)
    assert queries() == before


def test_the_context_a_judgement_was_made_in_can_be_read_again(pair: tuple[PumpSet, PumpSet]) -> None:
    record = Record.objects.filter(bench="running_check", pump_set=pair[0]).order_by("-taken_at").first()
    assert record is not None
    held = Judgement.objects.get(record=record, newest=True)
    assert held.context["context"]["tag"] == "C-1"
    assert held.context["context"]["parts"]["motor"]["plate"]["amps_low"] == {"text": "21", "unit": "A"}
    assert len(bytes(held.context_deflated)) < 4000


def test_history_and_set_state_keep_the_two_benches_apart(api: Door, pair: tuple[PumpSet, PumpSet]) -> None:
    tia, row = api("tia"), pair[0]
    titles = {r["title"] for r in tia("GET", f"/sets/{row.pk}/history")[1]["records"]}
    assert titles == {"Insulation test", "Running check"}
    figures = {f["label"]: f["figure"] for f in tia("GET", f"/sets/{row.pk}/state")[1]["figures"]}
    assert "mean current" in figures
    assert figures["insulation at 40 °C"].startswith("≥")
    kinds = [e["kind"] for e in tia("GET", f"/sets/{row.pk}/history")[1]["events"]]
    assert kinds == ["motor_change", "dried"]


def test_series_under_other_test_volts_stand_apart_with_the_word(
    api: Door, people: dict[str, User], pair: tuple[PumpSet, PumpSet]
) -> None:
    for days in (9, 6):
        insulation(people["tia"], pair[0], days, "800")
    # The exchange was entered after the tests: now their points go to the motor that stood there.
    rejudge_all()
    found = [
        t for t in api("tia")("GET", f"/sets/{pair[0].pk}/trends")[1] if t["measurand"] == "insulation_40"
    ]
    assert [(t["total"], t["differs"]) for t in found] == [(3, ""), (1, "250 V")]
    assert found[0]["twin"] is None
    assert found[0]["says"].startswith("Too few tests")
    assert found[0]["conditions"] == "at the motor, links in, phases together, 500 V"


def test_trends_in_the_readers_own_units(
    api: Door, people: dict[str, User], pair: tuple[PumpSet, PumpSet]
) -> None:
    tia = api("tia")
    rejudge_all()
    assert tia("PATCH", "/me", {"units": {"resistance": "GOhm"}, "locale": "de-DE"})[0] == 200
    trend = next(t for t in tia("GET", f"/sets/{pair[0].pk}/trends")[1] if t["measurand"] == "insulation_40")
    assert trend["symbol"] == "GΩ"
    assert trend["limits"][0]["value"] == pytest.approx(0.005)
    assert "," in trend["points"][0]["shown"]
    assert trend["points"][0]["value"] < 1
