"""A job on a set that was changed under it: another motor, another kind; readings of what is gone."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest
from job_cases import START, Told

from hurbin_core.base import DueDate, Verdict, write
from hurbin_core.jobs.job import JOB_BENCH
from hurbin_core.jobs.job.bench import facts
from hurbin_core.jobs.job.folding import fold
from hurbin_core.jobs.job.proving import before
from hurbin_core.jobs.job.sheet import Job
from hurbin_core.jobs.job.times import past_job


def folded(job: Told) -> Job:
    return fold(job.entries, job.case())


def test_a_motor_exchanged_under_the_job_is_told_and_has_no_before() -> None:
    job = Told("J05", "close_coupled")
    assert before(folded(job), "running_check") is not None
    job.known["fitted"] = {"motor": START - timedelta(days=900), "pump": START - timedelta(days=900)}
    assert job.evaluate().cautions == []
    assert before(folded(job), "running_check") is not None
    job.known["fitted"]["motor"] = job.at + timedelta(minutes=1)
    told = [write(c) for c in job.evaluate().cautions]
    assert len(told) == 1
    assert "another one was fitted on 02 Mar" in told[0]
    assert before(folded(job), "running_check") is None


def test_a_motor_taken_off_with_none_in_its_place_has_no_before() -> None:
    job = Told("J05", "close_coupled")
    job.known["bare"] = {"motor": job.at + timedelta(minutes=1)}
    told = [write(c) for c in job.evaluate().cautions]
    assert len(told) == 1
    assert "none is on record in its place" in told[0]
    assert before(folded(job), "running_check") is None
    job.known["bare"] = {"control": job.at + timedelta(minutes=1)}
    assert before(folded(job), "running_check") is not None, "currents are read on the motor"


@pytest.mark.parametrize(("slot", "kept"), [("motor", False), ("pump", False), ("control", True)])
def test_vibration_is_of_motor_and_pump(slot: str, kept: bool) -> None:
    job = Told("J07", "base_mounted")
    job.known["records"].append({**job.known["records"][0], "bench": "vibration"})
    assert before(folded(job), "vibration") is not None
    job.known["fitted"] = {slot: job.at + timedelta(minutes=1)}
    assert (before(folded(job), "vibration") is not None) is kept


def test_a_set_that_became_another_kind_finishes_no_job() -> None:
    job = Told("J05", "close_coupled")
    job.to_end()
    job.close()
    job.kind = "base_mounted"
    e = job.evaluate()
    assert [p.code for p in e.problems] == ["set_changed"]
    assert "close_coupled" in e.problems[0].value
    assert e.verdict is not Verdict.GOOD
    found = e.finding("job_done")
    assert found is None or found.verdict is not Verdict.GOOD


def waited(job: Told) -> list[DueDate]:
    out = JOB_BENCH.performs(job.case(), job.entries, False)
    return [x for x in out if isinstance(x, DueDate) and x.waited]


def test_what_is_at_the_shop_is_waited_for_until_it_is_accepted() -> None:
    job = Told("J14", "close_coupled", roof="yes")
    assert waited(job) == []
    job.say(kind="sent", what="pump", shop="Harbour works", promised="2026-03-20")
    (due,) = waited(job)
    assert (due.key, due.at) == ("shop.2026-03-20", datetime(2026, 3, 21, tzinfo=UTC))
    assert due.why == "pump back from Harbour works, promised for 20 Mar"
    job.known["zone"] = "Pacific/Auckland"
    assert waited(job)[0].at < due.at, "their day is over earlier"
    job.say(kind="sent", what="pump", shop="Harbour works", promised="2026-03-27")
    assert [x.key for x in waited(job)] == ["shop.2026-03-27"]
    job.say(kind="accepted", what="pump", good="no")
    assert waited(job) == []
    job.say(kind="sent", what="pump", shop="Harbour works")
    assert waited(job) == [], "nothing was promised"


def test_a_job_left_for_weeks_is_taken_up_by_somebody_else() -> None:
    job = Told("J05", "close_coupled")
    job.to_end(stop_at="J05.5")
    done = [s.id for s in job.evaluate().view.steps if s.state == "done"]
    job.passes(3 * 7 * 24 * 60)
    e = job.evaluate()
    assert [s.id for s in e.view.steps if s.state == "done"] == done, "what was done stays done"
    assert [p.id for p in e.view.parts if p.state == "off"], "what is off stays on the tray"
    step = next(s for s in e.view.steps if s.state == "now")
    for look in step.looks:
        sound = [x.id for x in look.signs if x.fate == "reuse"]
        job.say("Cleo", kind="look", step=step.id, look=look.look, signs=sound)
    job.done(step.id, "Cleo", said="as it was")
    after = next(s for s in job.evaluate().view.steps if s.id == step.id)
    assert (after.state, after.by) == ("done", "Cleo")
    took = past_job({"procedure": "J05", "entries": facts(job.entries)["entries"]}, "close_coupled")
    assert step.id not in took.steps, "three weeks on a shelf are no work"
