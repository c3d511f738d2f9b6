"""Overhauls on the server: many hands on one job, holds by how the set really stood, parts, procedures, what
is back when.
"""

from __future__ import annotations

import io
import json
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from conftest import PLATE, Api
from django.core.files.uploadedfile import SimpleUploadedFile
from pypdf import PdfReader
from safe_sheets import LINES, Safe

from hurbin_core.jobs.procedure import PROCEDURES
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.jobs.models import IsolationMoment, SiteProcedure
from hurbin_server.jobs.reads import back_token
from hurbin_server.logbook.models import Entry, Record, Sheet
from hurbin_server.plant.models import PumpSet, Service, Site
from hurbin_server.plant.services.parts import new_plate
from hurbin_server.plant.services.places import make_set
from hurbin_server.safety.models import CheckBack, TemporaryChange
from hurbin_server.simulator.job_life import _DATA, JobLife
from hurbin_server.stores.models import Part, PartMove, PartReserved, PartStock

Door = Callable[[str], Api]
ABOUT = {"outside": "no", "pit": "no", "roof": "no", "header": "no", "hot": "no", "no_service": "yes"}


class Job:
    """A job's sheet as a device writes it."""

    def __init__(self, api: Api, row: PumpSet, sheet: str = "", minutes_ago: float = 90) -> None:
        self.api, self.row, self.sheet = api, row, sheet or str(uuid.uuid4())
        self.at = now() - timedelta(minutes=minutes_ago)

    def entry(self, **body: Any) -> dict[str, Any]:
        self.at += timedelta(seconds=20)
        told = {"uuid": str(uuid.uuid4()), "taken_at": self.at.isoformat(), "device": "test"}
        return {**told, "body": body}

    def say(self, **body: Any) -> str:
        e = self.entry(**body)
        status, answer = self.send(e)
        assert status == 200, answer
        self.sheet = answer["uuid"]
        return str(e["uuid"])

    def send(self, *entries: dict[str, Any]) -> tuple[int, Any]:
        body = {"set_id": self.row.pk, "entries": list(entries)}
        return self.api("POST", f"/benches/job/sheets/{self.sheet}/entries", body)

    def opened(self, procedure: str = "J07", **more: Any) -> Job:
        self.say(kind="open", procedure=procedure, because="dust", set_kind=self.row.kind, **more)
        self.say(kind="about", **ABOUT)
        return self

    def view(self) -> Any:
        """What a device sees: every entry of the sheet, sent as it has them."""
        sheets = self.api("GET", f"/benches/job/sheets?set_id={self.row.pk}")[1]
        held = [e for x in sheets if x["uuid"] == self.sheet for e in x["entries"] if not e["late"]]
        kept = ("uuid", "taken_at", "device", "instruments", "body")
        rows = [{k: e[k] for k in kept} for e in held]
        status, answer = self.api("POST", "/benches/job/evaluate", {"set_id": self.row.pk, "entries": rows})
        assert status == 200, answer
        return answer

    def state(self, step: str) -> str:
        return str(next(s["state"] for s in self.view()["view"]["steps"] if s["id"] == step))

    def save(self) -> tuple[int, Any]:
        return self.api(
            "POST", "/benches/job/records", {"set_id": self.row.pk, "sheet": self.sheet, "entries": []}
        )


def test_two_devices_at_once_work_on_one_job(api: Door, pump_set: PumpSet) -> None:
    one = Job(api("tia"), pump_set).opened()
    other = Job(api("leo"), pump_set)
    other.say(kind="open", procedure="J07", because="dust", set_kind="base_mounted")
    assert other.sheet == one.sheet
    one.say(kind="done", step="I1", said="automatic")
    other.at = one.at + timedelta(seconds=5)
    other.say(kind="done", step="I1", said="automatic")
    told = one.view()
    assert any("was confirmed twice: by Tia, then by Leo" in q for q in told["questions"])
    assert Sheet.objects.filter(bench="job").count() == 1
    assert Entry.objects.filter(sheet_id=one.sheet).count() == 5, "nothing is dropped"


def test_a_hold_is_met_by_how_the_set_stood_then(api: Door, pump_set: PumpSet) -> None:
    job = Job(api("tia"), pump_set, minutes_ago=80).opened()
    job.say(kind="done", step="I1", said="automatic")
    job.say(kind="done", step="I2")
    assert job.state("I2") == "now"
    safe = Safe(api("tia"), pump_set, minutes_ago=60)
    safe.do("open", scope="coupling", sources=LINES)
    safe.isolate()
    safe.prove()
    assert [m.state for m in IsolationMoment.objects.order_by("at")][-1] == "proved"
    job.at = safe.at
    for step in ("I2", "I3", "I4"):
        job.say(kind="done", step=step)
        assert job.state(step) == "done", job.view()["questions"]
    # A hold confirmed before the proof stays what it was: not counted.
    early = Job(api("leo"), pump_set, job.sheet, minutes_ago=70)
    early.say(kind="done", step="I3")
    assert job.state("I3") == "done"


def test_a_step_hangs_its_change_and_the_job_is_neither_left_nor_closed_with_it(
    api: Door, pump_set: PumpSet
) -> None:
    job = _isolated(api, pump_set)
    job.say(kind="done", step="J07.1", said="two punch marks")
    hung = TemporaryChange.objects.get(sheet=job.sheet)
    assert (hung.kind, hung.place, hung.off_at) == ("guard_off", "coupling guard", None)
    status, answer = job.save()
    assert (status, answer["code"]) in ((422, "job_unfinished"), (422, "sheet_empty"))
    status, answer = api("tia")("POST", f"/sheets/{job.sheet}/leave", {"reason": "rain"})
    assert (status, answer["code"]) == (409, "changes_stand")
    assert not Record.objects.filter(bench="job").exists()


def _isolated(api: Door, row: PumpSet) -> Job:
    job = Job(api("tia"), row, minutes_ago=80).opened()
    job.say(kind="done", step="I1", said="automatic")
    safe = Safe(api("tia"), row, minutes_ago=60)
    safe.do("open", scope="coupling", sources=LINES)
    safe.isolate()
    safe.prove()
    job.at = safe.at
    for step in ("I2", "I3", "I4"):
        job.say(kind="done", step=step)
    return job


def _part(api: Door, site: Site, code: str = "ELEM-1", n: int = 2) -> int:
    body = {"code": code, "title": "Element", "lines": ["element"], "fits": ["base_mounted"]}
    status, answer = api("tia")("POST", f"/sites/{site.pk}/parts", body)
    assert status == 201, answer
    pk = int(next(p["id"] for p in answer["parts"] if p["code"] == code))
    assert api("tia")("PUT", f"/parts/{pk}/count", {"place": "Shelf 1", "count": n})[0] == 200
    return pk


def test_a_kit_is_reserved_used_and_brought_back_once(api: Door, site: Site, pump_set: PumpSet) -> None:
    pk = _part(api, site)
    job = Job(api("tia"), pump_set).opened()
    kit = {k["kind"]: k for k in job.view()["view"]["pick"]["kit"]}
    assert (kit["element"]["short"], kit["coupling_bolt_set"]["short"]) == (0, 1)
    job.say(kind="part", code="ELEM-1", place="Shelf 1", reserved=1)
    assert PartReserved.objects.get(part=pk).count == 1
    job.say(kind="part", code="ELEM-1", place="Shelf 1", reserved=1, used=1)
    job.say(kind="part", code="ELEM-1", place="Shelf 1", reserved=1, used=1, emergency=True)
    lot = PartStock.objects.get(part=pk)
    assert (lot.count, lot.emergency) == (1, 1)
    assert not PartReserved.objects.filter(part=pk).exists()
    assert (
        sum(PartMove.objects.filter(sheet=job.sheet, emergency=False).values_list("change", flat=True)) == -1
    )
    status, answer = api("tia")("POST", f"/sheets/{job.sheet}/leave", {"reason": "rain"})
    assert (status, answer["code"]) == (200,) or answer["code"] == "parts_used"


def test_two_vans_never_take_the_same_part(api: Door, site: Site) -> None:
    pk = _part(api, site, n=1)
    move = {"source": "Shelf 1", "to": "Van 1", "count": 1}
    assert api("tia")("POST", f"/parts/{pk}/move", move)[0] == 200
    status, answer = api("leo")("POST", f"/parts/{pk}/move", {**move, "to": "Van 2"})
    assert (status, answer["code"]) == (409, "not_enough")
    assert "0 free in Shelf 1" in answer["detail"]


def test_a_part_taken_more_often_than_it_was_there_is_told_not_lost(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    _part(api, site, n=1)
    job = Job(api("tia"), pump_set).opened()
    job.say(kind="part", code="ELEM-1", place="Shelf 1", used=3)
    told = api("vic")("GET", f"/sites/{site.pk}/stores")[1]["parts"][0]
    assert (told["verdict"], told["says"]) == ("act", "2 more taken than counted. Count it.")


def test_parts_come_in_and_out_as_a_file_all_or_nothing(api: Door, site: Site) -> None:
    def send(text: str) -> tuple[int, Any]:
        file = SimpleUploadedFile("parts.csv", text.encode(), "text/csv")
        got = api("tia").client.post(f"/api/v1/sites/{site.pk}/parts/file", {"file": file})
        return got.status_code, json.loads(got.content)

    good = "code,title,place,count,lines,per_year,lead_days,price\nS-1,Seal,Shelf A,2,seal_set,9,49,85\n"
    status, answer = send(good + "S-2,Bad,Shelf A,-1,,,,\n")
    assert (status, answer["code"]) == (422, "rows_refused")
    assert Part.objects.count() == 0
    assert send(good)[0] == 200
    part = api("vic")("GET", f"/sites/{site.pk}/stores")[1]["parts"][0]
    assert (part["least"], part["most"], part["order"], part["verdict"]) == (3, 8, 6, "watch")
    text = api("vic").client.get(f"/api/v1/sites/{site.pk}/parts.csv").content.decode("utf-8-sig")
    assert text.splitlines()[1].startswith("S-1,Seal,Shelf A,2")
    labels = api("vic").client.get(f"/api/v1/sites/{site.pk}/parts/labels.pdf")
    assert labels.content.startswith(b"%PDF")


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/sites/{s}/parts", {"code": "X", "title": "X"}),
        ("POST", "/sites/{s}/procedures/J07", {"data": {}, "reason": "x", "expected_version": 0}),
    ],
)
def test_who_may_only_look_changes_nothing(api: Door, site: Site, method: str, path: str, body: Any) -> None:
    assert api("vic")(method, path.format(s=site.pk), body)[0] == 403
    assert api("stranger")(method, path.format(s=site.pk), body)[0] == 404
    assert api("nobody")(method, path.format(s=site.pk), body)[0] == 401


def test_a_lead_extends_a_procedure_and_jobs_under_way_keep_theirs(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    before = Job(api("tia"), pump_set).opened()
    _, shipped = api("leo")("GET", f"/sites/{site.pk}/procedures/J07")
    data = shipped["data"]
    data["step"].insert(
        1, {"id": "x1", "title": "Photograph the dust", "do": "Photograph it.", "why": "Colour."}
    )
    path = f"/sites/{site.pk}/procedures/J07"
    sent = {"data": data, "reason": "we had three in a year", "expected_version": 0}
    assert api("tia")("POST", path, sent)[0] == 403
    assert api("leo")("POST", path, sent)[0] == 201
    assert api("leo")("POST", path, sent)[1]["code"] == "stale"
    assert SiteProcedure.objects.count() == 1
    assert "J07.x1" not in {s["id"] for s in before.view()["view"]["steps"]}
    assert api("tia")("POST", f"/sheets/{before.sheet}/leave", {"reason": "begun anew"})[0] == 200
    after = Job(api("tia"), pump_set).opened(version=1)
    assert "J07.x1" in {s["id"] for s in after.view()["view"]["steps"]}


def test_a_procedure_that_does_not_close_is_refused_with_its_place(api: Door, site: Site) -> None:
    raw = PROCEDURES["J07"].model_dump(mode="json", by_alias=True, exclude_defaults=True)
    raw["step"] = [s for s in raw["step"] if s["id"] != "7"]
    sent = {"data": raw, "reason": "shorter", "expected_version": 0}
    status, answer = api("leo")("POST", f"/sites/{site.pk}/procedures/OWN-1", sent)
    assert (status, answer["code"]) == (422, "procedure_refused")
    assert {p["code"] for p in answer["problems"]} == {"part_stays_off"}
    status, answer = api("leo")("POST", f"/sites/{site.pk}/procedures/OWN-1", {**sent, "data": {"step": 7}})
    assert status == 422


def test_when_is_it_back_says_no_more_than_that(api: Door, pump_set: PumpSet, client: Any) -> None:
    path = f"/api/v1/back/{back_token(pump_set.pk)}"
    assert client.get(path).json()["state"] == "no job under way"
    job = Job(api("tia"), pump_set).opened()
    job.say(kind="about", owner="Tia", waits="a coupling element", expected="2030-01-02")
    told = client.get(path).json()
    assert told["state"] == "waiting for a coupling element"
    assert (told["owner"], told["expected"]) == ("Tia", "2030-01-02")
    assert set(told) == {"tag", "name", "state", "owner", "expected", "left", "waits", "as_of"}
    assert client.get("/api/v1/back/nonsense").status_code == 404
    assert api("stranger")("GET", f"/sets/{pump_set.pk}/back")[0] == 404


def test_anatomy_is_read_without_a_job(api: Door) -> None:
    status, told = api("vic")("GET", "/anatomy/base_mounted")
    assert status == 200
    assert [r["part"]["id"] for r in told["order"]][-1] == "bearings" or told["order"]
    assert api("vic")("GET", "/anatomy/nonsense")[0] == 404


@pytest.fixture
def wells(people: dict[str, User], pump_set: PumpSet) -> dict[str, PumpSet]:
    Service.objects.filter(pk=pump_set.service_id).update(serves="sewage")
    rows = {}
    for tag in ("CAFE-08", "LIFT-62", "OZON-73"):
        kind = "close_coupled" if tag == "OZON-73" else "submersible"
        told = {"tag": tag, "name": tag, "kind": kind}
        rows[tag] = make_set(
            people["ada"], pump_set.service_id, told, fitted_from=now() - timedelta(days=400)
        )
        motor = rows[tag].fittings.get(slot="motor").component
        new_plate(people["ada"], motor.pk, 0, PLATE, "first entry")
    return rows


def test_the_demo_s_jobs_go_through_the_doors_that_people_use(
    api: Door, people: dict[str, User], site: Site, wells: dict[str, PumpSet]
) -> None:
    """One closed to be read, one half done, one whose kit is short: walked, reported, looked at again."""
    named = {"teodor": people["leo"], "ines": people["ada"], "jun": people["tia"], "saskia": people["leo"]}
    named["jun"], named["saskia"] = people["tia"], people["ada"]
    JobLife(now(), named, wells, {u.username: {} for u in people.values()}).happen()
    record = Record.objects.filter(bench="job").order_by("taken_at")[0]
    assert record.pump_set.tag == "CAFE-08"
    _, work = api("vic")("GET", f"/sites/{site.pk}/work")
    assert {j["tag"] for j in work["jobs"]} == {"LIFT-62", "OZON-73"}
    ozon = next(j for j in work["jobs"] if j["tag"] == "OZON-73")
    assert "Seal set, 16 mm: 1 short" in ozon["short"]
    kits = {k["title"]: k["verdict"] for k in api("vic")("GET", f"/sites/{site.pk}/stores")[1]["kits"]}
    assert kits["Ozone pump, seal"] == "act"
    assert "good" in kits.values()
    assert [c["verdict"] for c in work["closed"]] == ["good", "good"]
    assert "check.week" in CheckBack.objects.filter(read_at=None).values_list("key", flat=True)
    assert CheckBack.objects.filter(sheet=record.sheet_id).count() == 4
    assert PartMove.objects.filter(sheet=record.sheet_id).count() == 2
    assert not TemporaryChange.objects.filter(sheet=record.sheet_id, off_at=None).exists()
    paper = api("vic").client.get(f"/api/v1/records/{record.pk}/certificate.pdf")
    text = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(paper.content)).pages)
    for words in ("Found", "Done", "Proved", "Left", "dish cloths and string", "Cause"):
        assert words in text, words
    table = api("vic").client.get(f"/api/v1/records/{record.pk}/job.csv").content.decode("utf-8-sig")
    assert table.startswith("at,by,kind,step")
    assert len(_DATA["job"]) >= 4


def test_a_hand_over_sent_again_with_its_record_is_the_same_one(api: Door, pump_set: PumpSet) -> None:
    job = Job(api("tia"), pump_set).opened("J14")
    rows = [
        job.entry(kind="sent", what="pump", shop="works", wrote=["symptoms"], promised="2026-12-04"),
        job.entry(kind="accepted", what="pump", good="yes", wrote=["run-outs"]),
        job.entry(kind="hours", who_worked="Tia", hours={"text": "3.5", "unit": "h"}),
    ]
    assert job.send(*rows)[0] == 200
    assert job.send(*rows)[0] == 200
    body = {"set_id": pump_set.pk, "sheet": job.sheet, "entries": rows}
    status, answer = job.api("POST", "/benches/job/records", body)
    assert status == 422, answer
    assert Entry.objects.filter(sheet_id=job.sheet).count() == 5
