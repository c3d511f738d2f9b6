"""A job on a set that was changed under it: another motor, another kind; readings of what is gone."""

from __future__ import annotations

from datetime import timedelta

import pytest
from job_cases import START, Told

from hurbin_core.base import Verdict, write
from hurbin_core.jobs.job.folding import fold
from hurbin_core.jobs.job.proving import before
from hurbin_core.jobs.job.sheet import Job


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
