"""What was kept is read for good: sentences, rules and limits may be called otherwise tomorrow."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from conftest import SAVE, Api, sheet

from hurbin_core.base import RULEBOOK
from hurbin_server.logbook.models import Judgement
from hurbin_server.logbook.services.judging import rejudge_all
from hurbin_server.plant.models import PumpSet

Door = Callable[[str], Api]


@pytest.fixture
def record(api: Door, pump_set: PumpSet) -> int:
    """A running check with an overload: a verdict that stands on Plant."""
    return int(api("tia")("POST", SAVE, sheet(pump_set, (24, 24.1, 23.9)))[1]["record"])


def reasons(api: Door, record: int) -> dict[str, str]:
    told = api("vic")("GET", f"/records/{record}")[1]
    return {f["question"]: f["reason"] for f in told["evaluation"]["findings"]}


def test_a_sentence_that_was_taken_from_the_book_is_read_as_it_was_written(
    api: Door, pump_set: PumpSet, record: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Record, Plant, the set and the certificate: each still says why."""
    before = reasons(api, record)
    vic = api("vic")
    site = pump_set.site_id
    plant = vic("GET", f"/sites/{site}/plant")[1]
    assert "120" in json.dumps(plant)
    for gone in [t for t in RULEBOOK.texts if t.startswith(("load.", "vu.", "iu."))]:
        monkeypatch.delitem(RULEBOOK.texts, gone)
    after = reasons(api, record)
    assert after == before
    assert "120" in after["load"]
    again = vic("GET", f"/sites/{site}/plant")[1]
    assert {**again, "as_of": ""} == {**plant, "as_of": ""}
    assert vic("GET", f"/sets/{pump_set.pk}/state")[0] == 200
    assert vic.client.get(f"/api/v1/records/{record}/certificate.pdf").status_code == 200


def test_a_rule_and_a_limit_that_are_gone_still_stand_on_the_old_record(
    api: Door, record: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    told = api("vic")("GET", f"/records/{record}")[1]["evaluation"]["findings"]
    limits = {f["question"]: f["limits"] for f in told}
    monkeypatch.delitem(RULEBOOK.rules, "load")
    for gone in ("load.stop", "load.act", "load.watch"):
        monkeypatch.delitem(RULEBOOK.limits, gone, raising=False)
    again = api("vic")("GET", f"/records/{record}")[1]["evaluation"]["findings"]
    load = next(f for f in again if f["question"] == "load")
    assert load["source"] == "an earlier rulebook"
    assert load["title"] == "Load"
    assert load["limits"] == limits["load"]
    assert load["limits"][0]["title"]


def test_an_answer_kept_before_benches_had_views_is_read_in_one(api: Door, record: int) -> None:
    """The shape of 0.5.0: what the bench drew lay flat in the answer."""
    kept = Judgement.objects.get(record_id=record, newest=True)
    view = kept.evaluation.pop("view")
    assert view["marks"]
    assert "marks" not in kept.evaluation
    kept.evaluation.update(view)
    kept.save(update_fields=["evaluation"])
    told = api("vic")("GET", f"/records/{record}")
    assert told[0] == 200
    assert [m["at"] for m in told[1]["evaluation"]["view"]["marks"]] == [m["at"] for m in view["marks"]]


def test_an_old_flat_answer_is_judged_again_once_and_then_stands(api: Door, record: int) -> None:
    kept = Judgement.objects.get(record_id=record, newest=True)
    kept.evaluation.update(kept.evaluation.pop("view"))
    kept.save(update_fields=["evaluation"])
    rejudge_all()
    assert Judgement.objects.filter(record_id=record).count() == 2
    rejudge_all()
    newest = Judgement.objects.get(record_id=record, newest=True)
    assert Judgement.objects.filter(record_id=record).count() == 2
    assert "view" in newest.evaluation


def sentences(x: Any) -> list[dict[str, Any]]:
    """Every sentence in something kept, however deep."""
    if isinstance(x, list):
        return [s for i in x for s in sentences(i)]
    if not isinstance(x, dict):
        return []
    own = [x] if "template" in x else []
    return own + [s for v in x.values() for s in sentences(v)]


def test_every_sentence_of_an_answer_is_kept_with_its_words(record: int) -> None:
    kept = Judgement.objects.get(record_id=record, newest=True)
    said = sentences(json.loads(json.dumps(kept.evaluation)))
    assert len(said) > 5
    assert all(s["written"] for s in said)
