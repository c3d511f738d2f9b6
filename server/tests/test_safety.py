"""Calls, making safe, gates, temporary changes, deferring, hand-over: through the whole stack."""

from __future__ import annotations

import io
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from conftest import SAVE, Api, sheet
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test.utils import CaptureQueriesContext
from PIL import Image
from pypdf import PdfReader

from hurbin_server.base.clock import now
from hurbin_server.base.models import AuditEntry, User
from hurbin_server.logbook.models import Entry, PartState, Record, Sheet
from hurbin_server.logbook.services.judging import rejudge_all
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.places import make_set
from hurbin_server.safety.models import Call, CheckBack, IsolationState, Matter, Picture
from hurbin_server.safety.services.standing import refresh

Door = Callable[[str], Api]
LINES = [
    {"id": "q1", "kind": "supply", "device": "isolator Q1", "place": "panel A", "means": "isolator", "lock": "hasp"},
    {"id": "f1", "kind": "control_supply", "device": "fuse F1", "place": "panel A", "means": "fuses_out"},
    {"id": "no-auto", "kind": "automation_start", "absent": True},
    {"id": "v2", "kind": "turning_by_flow", "device": "valve V2", "place": "bay 1", "means": "valve"},
    {"id": "no-spring", "kind": "springs", "absent": True},
]  # fmt: skip
MUST = ("q1", "f1", "v2")
ZERO = {n: {"text": "0", "unit": "V"} for n in ("v12", "v23", "v31", "v1g", "v2g", "v3g")}
LIVE = {"tester": "T1", "live_volts": {"text": "400", "unit": "V"}}


class Safe:
    """A making-safe sheet as a device writes it, entry by entry."""

    def __init__(self, api: Api, row: PumpSet, sheet_id: str = "", minutes_ago: float = 60) -> None:
        self.api, self.row, self.sheet = api, row, sheet_id or str(uuid.uuid4())
        self.at = now() - timedelta(minutes=minutes_ago)

    def entry(self, kind: str, **body: Any) -> dict[str, Any]:
        self.at += timedelta(seconds=20)
        return {"uuid": body.pop("uuid", str(uuid.uuid4())), "taken_at": self.at.isoformat(), "device": "test", "body": {"kind": kind, **body}}

    def send(self, *entries: dict[str, Any]) -> tuple[int, Any]:
        return self.api("POST", f"/benches/make_safe/sheets/{self.sheet}/entries", {"set_id": self.row.pk, "entries": list(entries)})

    def do(self, kind: str, **body: Any) -> str:
        e = self.entry(kind, **body)
        status, answer = self.send(e)
        assert status == 200, answer
        self.sheet = answer["uuid"]
        return str(e["uuid"])

    def isolate(self) -> dict[str, str]:
        self.do("open", scope="motor_leads", sources=LINES)
        self.do("told", to="the keeper")
        self.do("stopped")
        for x in MUST:
            self.do("shut", source=x)
        return {x: self.do("lock", source=x) for x in MUST}

    def prove(self) -> None:
        self.do("proof", act="live_before", **LIVE)
        self.do("proof", act="dead", tester="T1", **ZERO)
        self.do("proof", act="live_after", **LIVE)


def safety(api: Api, row: PumpSet) -> Any:
    status, answer = api("GET", f"/sets/{row.pk}/safety")
    assert status == 200, answer
    return answer


def offered(api: Api, row: PumpSet, act: str) -> bool:
    return next(bool(o["offered"]) for o in safety(api, row)["offers"] if o["act"] == act)


def call(api: Api, site: Site, **body: Any) -> tuple[int, Any]:
    return api("POST", f"/sites/{site.pk}/calls", {"uuid": str(uuid.uuid4()), "at": now().isoformat(), "complaint": "noise", **body})


@pytest.fixture
def twin(pump_set: PumpSet, people: dict[str, User]) -> PumpSet:
    PumpSet.objects.filter(pk=pump_set.pk).update(pair="C", role="duty")
    pump_set.refresh_from_db()
    return make_set(people["ada"], pump_set.service_id, {"tag": "C-2", "name": "Cold 2", "kind": "base_mounted", "pair": "C", "role": "standby"})


# Calls.


def test_several_calls_on_one_set_are_one_matter_and_end_with_what_was_found(api: Door, site: Site, pump_set: PumpSet) -> None:
    first = call(api("vic"), site, set_id=pump_set.pk, note="rattles")[1]
    again = call(api("tia"), site, set_id=pump_set.pk, complaint="hot")[1]
    assert first["id"] == again["id"]
    assert [c["title"] for c in again["calls"]] == ["Noise or shaking", "Hot to the hand"]
    assert "2 calls on this" in again["many"]
    assert "C-1 has no standby." in again["threatens"]
    assert again["first"][-1].startswith("Tell ")
    assert api("tia")("POST", f"/matters/{first['id']}/end", {"found": "", "done": "x"})[0] == 422
    status, ended = api("tia")("POST", f"/matters/{first['id']}/end", {"found": "a loose guard", "done": "bolted"})
    assert (status, ended["ended_by"], ended["found"]) == (200, "Tia", "a loose guard")
    assert api("tia")("POST", f"/matters/{first['id']}/end", {"found": "a", "done": "b"})[0] == 409
    assert call(api("tia"), site, set_id=pump_set.pk)[1]["id"] != first["id"]


def test_a_call_sent_twice_is_one_and_comes_from_anybody_of_the_site(api: Door, site: Site, pump_set: PumpSet) -> None:
    key = str(uuid.uuid4())
    assert {call(api("vic"), site, uuid=key, set_id=pump_set.pk)[0] for _ in range(3)} == {201}
    assert Call.objects.count() == Matter.objects.count() == 1
    assert call(api("tia"), site, uuid=key, set_id=pump_set.pk)[0] == 409
    assert call(api("stranger"), site, set_id=pump_set.pk)[0] == 404
    assert call(api("nobody"), site)[0] == 401
    assert call(api("vic"), site)[1]["code"] == "where_missing"
    assert call(api("vic"), site, room="Boiler cellar", complaint="opera")[0] == 422
    assert call(api("vic"), site, set_id=999_999)[0] == 404
    assert call(api("vic"), site, room="x", at=(now() + timedelta(hours=2)).isoformat())[0] == 422
    assert call(api("vic"), site, room="Boiler cellar", complaint="water")[1]["where"] == "Boiler cellar"
    assert call(api("vic"), site, service_id=pump_set.service_id, complaint="no_flow")[1]["where"] == "Cold water"
    assert api("vic")("POST", f"/matters/{Matter.objects.first().pk}/end", {"found": "a", "done": "b"})[0] == 403  # type: ignore[union-attr]


def test_what_it_threatens_knows_the_standby(api: Door, site: Site, pump_set: PumpSet, twin: PumpSet) -> None:
    said = call(api("tia"), site, set_id=pump_set.pk)[1]
    assert "C-2 stands by; nothing is known against it." in said["threatens"]
    assert "Start C-2 in its place." in said["first"]
    Safe(api("tia"), twin).isolate()
    said = next(m for m in api("tia")("GET", f"/sites/{site.pk}/safety")[1]["matters"])
    assert "Its standby C-2 is isolated: nothing stands in." in said["threatens"]
    assert "Start C-2 in its place." not in said["first"]


def photo() -> bytes:
    image = Image.new("RGB", (3000, 1200), (20, 90, 120))
    data = image.getexif()
    data[0x010F] = "a camera"
    data.get_ifd(0x8825)[1] = "N"
    data[0x0112] = 6
    out = io.BytesIO()
    image.save(out, "JPEG", exif=data)
    return out.getvalue()


def test_a_picture_is_made_again_without_where_it_was_taken(api: Door, site: Site, pump_set: PumpSet) -> None:
    vic = api("vic")

    def send(raw: bytes, name: str = "p.jpg", who: Api = vic) -> tuple[int, Any]:
        key = str(uuid.uuid4())
        answer = who.client.post(f"/api/sites/{site.pk}/pictures", {"uuid": key, "file": SimpleUploadedFile(name, raw)})
        return answer.status_code, answer.json()

    raw = photo()
    assert b"a camera" in raw
    status, kept = send(raw)
    assert status == 201
    answer = vic.client.get(f"/api/pictures/{kept['id']}.jpg")
    assert answer["Content-Type"] == "image/jpeg"
    with Image.open(io.BytesIO(answer.content)) as picture:
        assert picture.size == (640, 1600)  # upright, as the camera said
        assert dict(picture.getexif()) == {}
    assert b"a camera" not in answer.content
    assert send(b"no picture")[1]["code"] == "not_a_picture"
    assert send(b"x" * (8 * 1024 * 1024 + 5))[1]["code"] in ("picture_too_large", "http_413")
    assert api("stranger").client.get(f"/api/pictures/{kept['id']}.jpg").status_code == 404
    said = call(vic, site, set_id=pump_set.pk, picture=kept["id"])[1]
    assert said["calls"][0]["picture"] == kept["id"]
    assert call(vic, site, room="x", picture="never-sent")[1]["code"] == "picture_unknown"
    more = vic("POST", f"/calls/{said['calls'][0]['uuid']}/more", {"note": "louder now"})[1]
    assert more["calls"][0]["note"] == "louder now"
    assert api("tia")("POST", f"/calls/{said['calls'][0]['uuid']}/more", {"note": "mine"})[0] == 403
    assert Picture.objects.count() == 1


# The isolation list.


def test_the_list_is_kept_once_and_a_stale_edit_shows_both(api: Door, site: Site, pump_set: PumpSet) -> None:
    path = f"/sets/{pump_set.pk}/isolation-list"
    tia = api("tia")
    assert tia("PUT", path, {"version": 0, "lines": LINES})[1]["list"]["version"] == 1
    status, said = api("leo")("PUT", path, {"version": 0, "lines": LINES[:1]})
    assert (status, said["code"], said["current"]["version"]) == (409, "stale", 1)
    assert tia("PUT", path, {"version": 1, "lines": [{"id": "a", "kind": "supply", "means": "isolator"}]})[1]["problems"][0]["message"] == "Supply: say which device shuts it."
    assert api("vic")("PUT", path, {"version": 1, "lines": LINES})[0] == 403
    assert len(safety(tia, pump_set)["list"]["lines"]) == 5


# Making safe.


def test_isolate_prove_work_and_give_back(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert offered(tia, pump_set, "live_test")
    safe = Safe(tia, pump_set)
    locks = safe.isolate()
    assert safety(tia, pump_set)["isolation"]["state"] == "isolated"
    assert not offered(tia, pump_set, "insulation_test")
    safe.prove()
    seen = safety(tia, pump_set)
    assert seen["isolation"]["state"] == "proved"
    assert [(w["name"], w["locks"], w["mine"]) for w in seen["isolation"]["workers"]] == [("Tia", 3, True)]
    assert offered(tia, pump_set, "insulation_test")
    assert not offered(tia, pump_set, "live_test")
    assert "proved dead. Locked on: Tia" in seen["tags"][0]["says"]
    assert "Local codes" in seen["isolation"]["codes"]
    safe.do("tried", moved=False)
    safe.do("work", note="new seal")
    record = {"set_id": pump_set.pk, "sheet": safe.sheet, "entries": []}
    assert "Tia on supply" in tia("POST", "/benches/make_safe/records", record)[1]["message"] or tia("POST", "/benches/make_safe/records", record)[0] == 422
    assert tia("POST", f"/sheets/{safe.sheet}/leave", {"reason": "called away"})[1]["code"] == "locks_on"
    for item in ("guard_on", "people_clear"):
        safe.do("restored", item=item)
    for x in MUST:
        safe.do("unlock", lock=locks[x])
        safe.do("opened", source=x)
    for item in ("valves_as_found", "automatic", "alarms"):
        safe.do("restored", item=item)
    assert tia("POST", "/benches/make_safe/records", record)[1]["message"] == "Before it is given back: a running check after the restart, or why there is none."
    assert tia("POST", SAVE, sheet(pump_set))[0] == 201
    status, saved = tia("POST", "/benches/make_safe/records", record)
    assert (status, saved["evaluation"]["verdict"]) == (201, "good")
    assert not IsolationState.objects.exists()
    assert offered(tia, pump_set, "live_test")
    assert "made_safe" not in PartState.objects.values_list("question", flat=True)
    back = safety(tia, pump_set)["check_backs"][0]
    assert "given back" in back["says"]
    assert tia("POST", f"/check-backs/{back['id']}/read", {"said": " "})[0] == 422
    assert api("vic")("POST", f"/check-backs/{back['id']}/read", {"said": "dry"})[0] == 403
    assert tia("POST", f"/check-backs/{back['id']}/read", {"said": "dry and quiet"})[0] == 200
    assert safety(tia, pump_set)["tags"] == []
    assert CheckBack.objects.get().read_by.username == "tia"  # type: ignore[union-attr]
    assert (safety(tia, pump_set)["past"][0]["says"], safety(tia, pump_set)["past"][0]["by"]) == ("dry and quiet", "Tia")
    told = tia("GET", f"/records/{saved['record']}")[1]["story"]
    assert [x["says"] for x in told][:3] == ["To be opened or turned: motor leads.", "Told: the keeper.", "Stopped in the ordinary way."]
    answer = tia.client.get(f"/api/records/{saved['record']}/certificate.pdf")
    text = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(answer.content)).pages)
    for words in ("Every conductor to each other and to ground", "Own lock on Supply.", "Alarms cleared", "local codes"):
        assert words in text.replace("\n", " "), words
    assert tia("POST", "/benches/make_safe/records", {**record, "sheet": str(uuid.uuid4()), "corrects": saved["record"], "reason": "x"})[1]["code"] == "not_corrected"


def test_volts_on_an_isolated_set_are_taken_stop_everybody_and_revoke_the_proof(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.isolate()
    safe.prove()
    status, saved = api("leo")("POST", SAVE, sheet(pump_set))
    assert status == 201  # what was seen is never refused
    assert saved["evaluation"]["verdict"] == "stop"
    assert "Not isolated: 40" in saved["evaluation"]["findings"][0]["reason"]
    assert "recorded as proved dead. Treat as live, prove again" in saved["evaluation"]["findings"][0]["reason"]
    seen = safety(tia, pump_set)["isolation"]
    assert (seen["state"], seen["proof"]["state"]) == ("live", "void")
    assert "treat as live, prove again" in seen["live"]
    assert not offered(tia, pump_set, "insulation_test")
    tags = api("vic")("GET", f"/sites/{site.pk}/safety")[1]["tags"]
    assert (tags[0]["kind"], tags[0]["verdict"]) == ("live", "stop")
    assert AuditEntry.objects.filter(action="proof_revoked").exists()
    assert tia("GET", f"/sets/{pump_set.pk}/state")[1]["verdict"] == "stop"
    safe.at = now()
    safe.prove()
    assert safety(tia, pump_set)["isolation"]["state"] == "proved"
    assert tia("GET", f"/sets/{pump_set.pk}/state")[1]["verdict"] == "good"
    # Judged again years later the record says the same: the set stood proved when it was read.
    rejudge_all()
    again = Record.objects.get(bench="running_check").judgements.get(newest=True)
    assert again.verdict == "stop"


def test_one_sheet_a_set_whoever_opens_it(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia, leo = Safe(api("tia"), pump_set), Safe(api("leo"), pump_set)
    tia.isolate()
    leo.do("lock", source="q1")
    assert leo.sheet == tia.sheet
    assert Sheet.objects.filter(bench="make_safe").count() == 1
    tia.do("handover", to="Leo, night shift")
    seen = safety(api("vic"), pump_set)["isolation"]
    assert {w["name"] for w in seen["workers"]} == {"Tia", "Leo"}
    assert [(h["by"], h["words"]) for h in seen["handovers"]] == [("Tia", "Leo, night shift")]


def test_a_lock_is_its_owners_whatever_a_client_says(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = Safe(api("tia"), pump_set)
    locks = tia.isolate()
    leo = Safe(api("leo"), pump_set, tia.sheet, minutes_ago=30)
    forged = {**leo.entry("unlock", lock=locks["q1"]), "by": "Tia", "who": "tia"}
    assert leo.send(forged)[0] == 200
    seen = safety(api("leo"), pump_set)["isolation"]
    assert "Leo took off the lock of Tia on Supply: that does not count" in seen["conflicts"][0]
    assert seen["state"] == "isolated"


def test_a_lock_left_behind_comes_off_by_a_lead_with_the_sites_steps(api: Door, site: Site, pump_set: PumpSet, people: dict[str, User]) -> None:
    from hurbin_server.plant.models import Membership

    Membership.objects.create(user=people["stranger"], site=site, role="technician")
    gone = Safe(api("stranger"), pump_set)
    locks = gone.isolate()
    tia, leo = Safe(api("tia"), pump_set, gone.sheet), Safe(api("leo"), pump_set, gone.sheet)
    assert tia.send(tia.entry("unlock", lock=locks["q1"], forgotten=True, followed="called"))[0] == 403
    assert leo.send(leo.entry("unlock", lock=locks["q1"], forgotten=True))[1]["code"] == "steps_missing"
    leo.at = now()
    leo.do("unlock", lock=locks["q1"], forgotten=True, followed="called her, searched hall A, told the manager")
    seen = safety(api("tia"), pump_set)["isolation"]
    assert seen["removals"][0]["words"] == "Stranger: called her, searched hall A, told the manager"
    assert seen["state"] == "isolating"


def test_two_devices_one_an_hour_offline(api: Door, site: Site, pump_set: PumpSet) -> None:
    """Leo locks and unlocks without a signal; his entries come an hour late, the removal first."""
    tia = Safe(api("tia"), pump_set, minutes_ago=90)
    locks = tia.isolate()
    leo = Safe(api("leo"), pump_set, tia.sheet, minutes_ago=80)
    lock = leo.entry("lock", source="q1")
    off = leo.entry("unlock", lock=lock["uuid"])
    assert leo.send(off)[0] == 200
    assert "not on file yet" in safety(api("tia"), pump_set)["isolation"]["conflicts"][0]
    assert leo.send(lock)[0] == 200
    assert leo.send(lock, off)[0] == 200  # sent again: once
    seen = safety(api("tia"), pump_set)["isolation"]
    assert seen["conflicts"] == []
    assert [w["name"] for w in seen["workers"]] == ["Tia"]
    assert Entry.objects.filter(sheet_id=tia.sheet, body__kind="lock").count() == 4
    assert locks


def test_a_lock_that_comes_in_after_the_set_was_given_back_is_seen(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = Safe(api("tia"), pump_set, minutes_ago=90)
    tia.do("open", scope="motor_leads", sources=LINES)
    leo = Safe(api("leo"), pump_set, tia.sheet, minutes_ago=80)
    late = leo.entry("lock", source="q1")
    assert api("tia")("POST", f"/sheets/{tia.sheet}/leave", {"reason": "the wrong set"})[0] == 200
    assert safety(api("tia"), pump_set)["isolation"]["state"] == "nothing"
    assert leo.send(late)[0] == 200
    seen = safety(api("tia"), pump_set)
    assert [w["name"] for w in seen["isolation"]["workers"]] == ["Leo"]
    assert seen["tags"][0]["kind"] == "isolation"
    assert not offered(api("tia"), pump_set, "live_test")


def test_a_figure_that_is_none_is_refused_before_it_is_on_the_sheet(api: Door, site: Site, pump_set: PumpSet) -> None:
    safe = Safe(api("tia"), pump_set)
    safe.isolate()
    held = Entry.objects.count()
    status, said = safe.send(safe.entry("proof", act="live_before", tester="T1", live_volts={"text": "plenty", "unit": "V"}))
    assert (status, said["code"]) == (422, "figures_refused")
    assert "“plenty” is not a figure" in said["message"]
    assert Entry.objects.count() == held
    assert Safe(api("vic"), pump_set).send(safe.entry("work"))[0] == 403
    assert Safe(api("stranger"), pump_set).send(safe.entry("work"))[0] == 404


def test_a_time_without_a_zone_and_a_line_without_means_are_answered(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert call(tia, site, set_id=pump_set.pk, at="2026-03-02T07:00:00")[0] == 422
    assert change(tia, pump_set, at="2026-03-02T07:00:00")[0] == 422
    safe = Safe(tia, pump_set)
    assert safe.send({**safe.entry("work"), "taken_at": "2026-03-02T07:00:00"})[0] == 422
    status, said = safe.send(safe.entry("open", scope="motor_leads", sources=[{**LINES[0], "means": "prayer"}]))
    assert (status, said["message"]) == (422, "Supply: say how it is shut.")
    assert safe.send(safe.entry("open", scope="motor_leads", sources=[{"id": "x", "kind": "moon", "device": "d", "means": "valve"}]))[0] == 422


def test_how_it_stands_can_be_made_again_from_the_entries(api: Door, site: Site, pump_set: PumpSet) -> None:
    safe = Safe(api("tia"), pump_set)
    safe.isolate()
    before = IsolationState.objects.values("state", "sheet", "since", "scopes", "workers").get()
    IsolationState.objects.all().delete()
    refresh(pump_set, now())
    assert IsolationState.objects.values("state", "sheet", "since", "scopes", "workers").get() == before


# Temporary changes, deferring, gates set aside, hand-over.


def change(api: Api, row: PumpSet, **body: Any) -> tuple[int, Any]:
    return api("POST", f"/sets/{row.pk}/changes", {"uuid": str(uuid.uuid4()), "at": now().isoformat(), "kind": "jumper", "place": "terminal 14", **body})


def test_nothing_closes_while_a_temporary_change_stands(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    matter = call(tia, site, set_id=pump_set.pk)[1]
    status, made = change(tia, pump_set, at=(now() - timedelta(days=9)).isoformat())
    assert status == 201
    tag = safety(tia, pump_set)["changes"][0]
    assert (tag["verdict"], tag["says"]) == ("act", "Jumper for 9 days, by Tia: nobody has put it right since.")
    assert tia("POST", f"/matters/{matter['id']}/end", {"found": "a", "done": "b"})[1]["code"] == "gate_temporary_change"
    assert tia("POST", f"/changes/{made['id']}/off", {"note": "wire back on 14"})[0] == 200
    assert tia("POST", f"/matters/{matter['id']}/end", {"found": "a", "done": "b"})[0] == 200
    for body, code in (({"kind": "magic"}, "change_unknown"), ({"place": " "}, "place_missing"), ({"at": (now() + timedelta(hours=1)).isoformat()}, "taken_in_future")):
        assert change(tia, pump_set, **body)[1]["code"] == code
    assert change(api("vic"), pump_set)[0] == 403


def test_a_step_that_lifts_a_wire_hangs_its_tag_and_takes_it_off(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.do("open", scope="motor_leads", sources=[*LINES, {"id": "a4", "kind": "automation_start", "device": "terminals 4, 5", "place": "panel A", "means": "contacts_parted"}])
    safe.do("shut", source="q1")
    assert safety(tia, pump_set)["changes"] == []
    for _ in range(2):
        safe.do("shut", source="a4")
        hung = safety(tia, pump_set)["changes"]
        assert [(c["title"], c["place"], c["note"]) for c in hung] == [("Lifted wire", "terminals 4, 5, panel A", "to make it safe")]
        assert "still on: Lifted wire, terminals 4, 5, panel A" in [w for x in safety(tia, pump_set)["isolation"]["steps"] if x["id"] == "open" for w in x["waits"]]
        safe.do("opened", source="a4")
        assert safety(tia, pump_set)["changes"] == []


def test_a_lead_sets_one_gate_aside_but_never_one_a_life_hangs_on(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia, leo = api("tia"), api("leo")
    matter = call(tia, site, set_id=pump_set.pk)[1]
    change(tia, pump_set)
    body = {"gate": "temporary_change", "reason": "the jumper stays until Friday", "until": (now() + timedelta(days=2)).isoformat()}
    assert tia("POST", f"/sets/{pump_set.pk}/waivers", body)[0] == 403
    assert leo("POST", f"/sets/{pump_set.pk}/waivers", {**body, "gate": "prove_dead"})[1]["code"] == "gate_is_life"
    assert leo("POST", f"/sets/{pump_set.pk}/waivers", body)[0] == 201
    assert tia("POST", f"/matters/{matter['id']}/end", {"found": "a", "done": "b"})[0] == 200
    assert "waiver" in [t["kind"] for t in safety(tia, pump_set)["tags"]]


def test_a_repair_put_off_is_watched_by_later_records_until_it_ends(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    key = str(uuid.uuid4())
    decision = {
        "part": "control", "what": "warm joint on leg 1", "reason": "the lug is on order", "until": (now() + timedelta(days=6)).isoformat(), "standby": "ran an hour yesterday",
        "changes_mind": "warmer than 20 K over its neighbours", "limits": [{"measurand": "current", "leg": "1", "value": {"text": "16", "unit": "A"}, "does": "stop it"}],
    }  # fmt: skip
    assert tia("POST", f"/sets/{pump_set.pk}/deferrals/{key}", {**decision, "limits": []})[1]["problems"][0]["right"] == "leg 1 over 52 A"
    status, made = tia("POST", f"/sets/{pump_set.pk}/deferrals/{key}", decision)
    assert (status, made["limits"]) == (201, ["Amps of a leg, leg 1 over 16.0\u00a0A: stop it."])
    good = tia("POST", SAVE, sheet(pump_set))[1]["evaluation"]
    assert next(f for f in good["findings"] if f["question"] == "interim_limit")["verdict"] == "good"
    bad = tia("POST", SAVE, sheet(pump_set, amps=(16.4, 15.1, 14.9)))[1]["evaluation"]
    assert (bad["verdict"], bad["findings"][0]["question"]) == ("stop", "interim_limit")
    assert tia("POST", f"/deferrals/{key}/end", {"said": ""})[0] == 422
    assert tia("POST", f"/deferrals/{key}/end", {"said": "lug renewed"})[0] == 200
    after = tia("POST", SAVE, sheet(pump_set, amps=(16.4, 15.1, 14.9)))[1]["evaluation"]
    assert "interim_limit" not in [f["question"] for f in after["findings"]]
    assert tia("GET", f"/sets/{pump_set.pk}/state")[1]["verdict"] == "watch"  # the legs are unequal, and no more than that


def test_losing_the_standby_starts_a_clock(api: Door, site: Site, pump_set: PumpSet, twin: PumpSet) -> None:
    Safe(api("tia"), twin, minutes_ago=4 * 24 * 60 + 30).isolate()
    tags = api("vic")("GET", f"/sites/{site.pk}/safety")[1]["tags"]
    clock = next(t for t in tags if t["kind"] == "clock")
    assert (clock["tag"], clock["verdict"]) == ("C-1", "act")
    assert clock["says"] == "Without a standby for 4 days, 24 h longer than agreed here: C-2 is isolated."


def test_hand_over_reads_everything_out_on_screen_and_on_paper(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    empty = tia("GET", f"/sites/{site.pk}/hand-over")[1]
    assert empty["chapters"] == []
    Safe(tia, pump_set).isolate()
    call(tia, site, room="Boiler cellar", complaint="water")
    change(tia, pump_set, note="bridges the float")
    page = tia("GET", f"/sites/{site.pk}/hand-over")[1]
    assert [c["title"] for c in page["chapters"]] == ["Isolated, and who is locked on", "Calls that are open", "Temporary changes that stand"]
    answer = tia.client.get(f"/api/sites/{site.pk}/hand-over.pdf")
    text = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(answer.content)).pages)
    for words in ("C-1", "Locked on: Tia", "Boiler cellar", "terminal 14", "bridges the float", "Local codes", "Taken over by"):
        assert words in text, words
    assert api("stranger").client.get(f"/api/sites/{site.pk}/hand-over.pdf").status_code == 404


def test_a_sites_tags_take_as_many_queries_for_one_set_as_for_thirty(api: Door, site: Site, pump_set: PumpSet, people: dict[str, User]) -> None:
    def asked() -> int:
        with CaptureQueriesContext(connection) as seen:
            assert api("vic")("GET", f"/sites/{site.pk}/safety")[0] == 200
        return len(seen)

    change(api("tia"), pump_set)
    call(api("tia"), site, set_id=pump_set.pk)
    one = asked()
    for n in range(30):
        row = make_set(people["ada"], pump_set.service_id, {"tag": f"N-{n}", "name": "", "kind": "close_coupled"})
        change(api("tia"), row)
        call(api("tia"), site, set_id=row.pk)
    assert asked() == one
