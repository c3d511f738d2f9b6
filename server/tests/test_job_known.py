"""What a job is told of its set by the register: what stands there, and since when."""

from __future__ import annotations

from datetime import timedelta

from safe_sheets import Door
from test_jobs import Job

from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.jobs.known import known_of
from hurbin_server.logbook.signals import Day
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.parts import fit, make_component


def test_another_motor_under_an_open_job_is_told(api: Door, site: Site, pump_set: PumpSet) -> None:
    job = Job(api("tia"), pump_set).opened()
    assert not any("another one was fitted" in c for c in job.view()["cautions"])
    admin = User.objects.get(username="ada")
    other = make_component(admin, site.pk, "motor", "M-99")
    at = now() - timedelta(minutes=1)
    fit(admin, pump_set.pk, "motor", other.pk, at)
    told = [c for c in job.view()["cautions"] if "another one was fitted" in c]
    assert len(told) == 1
    assert told[0].startswith("Motor: another one was fitted on")
    known = known_of(pump_set, now(), Day(now()))[0]
    assert known.fitted["motor"] == at
    before = known_of(pump_set, at - timedelta(minutes=5), Day(now()))[0]
    assert before.fitted["motor"] < at, "a past day knows the motor of that day"
