"""What a job is told of its set by the register: what stands there, and since when."""

from __future__ import annotations

from datetime import timedelta

from safe_sheets import Door
from test_jobs import Job

from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.jobs.known import known_of
from hurbin_server.logbook.signals import Day
from hurbin_server.plant.models import Fitting, PumpSet, Site
from hurbin_server.plant.services.parts import fit, make_component
from hurbin_server.safety.models import CheckBack


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


def test_a_motor_taken_off_for_none_is_told_too(api: Door, site: Site, pump_set: PumpSet) -> None:
    Job(api("tia"), pump_set).opened()
    admin = User.objects.get(username="ada")
    stood = Fitting.objects.get(pump_set=pump_set, slot="motor", to_at=None)
    gone = now() - timedelta(minutes=1)
    Fitting.objects.filter(pk=stood.pk).update(to_at=gone)
    known = known_of(pump_set, now(), Day(now()))[0]
    assert (known.bare, "motor" in known.fitted) == ({"motor": gone}, False)
    assert known_of(pump_set, gone - timedelta(minutes=5), Day(now()))[0].bare == {}
    fit(admin, pump_set.pk, "motor", make_component(admin, site.pk, "motor", "M-98").pk, now())
    assert known_of(pump_set, now(), Day(now()))[0].bare == {}


def test_what_a_shop_promised_stands_on_plant_until_it_is_accepted(api: Door, pump_set: PumpSet) -> None:
    job = Job(api("tia"), pump_set).opened()
    job.say(kind="sent", what="coupling", shop="Harbour works", promised="2020-01-31")
    row = CheckBack.objects.get(pump_set=pump_set)
    assert (row.waited, row.read_at) == (True, None)
    tags = api("vic")("GET", f"/sets/{pump_set.pk}/safety")[1]["check_backs"]
    assert [t["verdict"] for t in tags] == ["act"]
    assert "back from Harbour works" in tags[0]["says"]
    later = f"{now() + timedelta(days=9):%Y-%m-%d}"
    job.say(kind="sent", what="coupling", shop="Harbour works", promised=later)
    tags = api("vic")("GET", f"/sets/{pump_set.pk}/safety")[1]["check_backs"]
    assert [t["verdict"] for t in tags] == ["watch"], "another day was promised"
    job.say(kind="accepted", what="coupling", good="yes")
    assert not CheckBack.objects.filter(pump_set=pump_set).exists()


def test_a_promise_goes_with_the_job_that_is_left(api: Door, pump_set: PumpSet) -> None:
    job = Job(api("tia"), pump_set).opened()
    job.say(kind="sent", what="coupling", shop="Harbour works", promised="2020-01-31")
    assert CheckBack.objects.filter(pump_set=pump_set).count() == 1
    status, _ = api("tia")("POST", f"/sheets/{job.sheet}/leave", {"reason": "opened on the wrong set"})
    assert status == 200
    assert not CheckBack.objects.filter(pump_set=pump_set).exists()
