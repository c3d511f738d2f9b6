"""Calls, isolation, making safe, volts, locks: through the whole stack."""

from __future__ import annotations

import io
import uuid
from datetime import timedelta
from typing import Any

from conftest import SAVE, Api, sheet
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from pypdf import PdfReader
from safe_sheets import LINES, MUST, Door, Safe, call, change, offered, safety

from hurbin_server.base.clock import now
from hurbin_server.base.models import AuditEntry, User
from hurbin_server.logbook.models import Entry, PartState, Record, Sheet
from hurbin_server.logbook.services.judging import rejudge_all
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.safety.models import Call, CheckBack, IsolationState, Matter, Picture
from hurbin_server.safety.services.standing import refresh

# Calls.


def test_several_calls_on_one_set_are_one_matter_and_end_with_what_was_found(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    first = call(api("vic"), site, set_id=pump_set.pk, note="rattles")[1]
    again = call(api("tia"), site, set_id=pump_set.pk, complaint="hot")[1]
    assert first["id"] == again["id"]
    assert [c["title"] for c in again["calls"]] == ["Noise or vibration", "Hot to the touch"]
    assert "2 reports on this" in again["many"]
    assert "C-1 has no standby." in again["threatens"]
    assert again["first"][-1].startswith("Tell ")
    assert api("tia")("POST", f"/matters/{first['id']}/end", {"found": "", "done": "x"})[0] == 422
    status, ended = api("tia")(
        "POST", f"/matters/{first['id']}/end", {"found": "a loose guard", "done": "bolted"}
    )
    assert (status, ended["ended_by"], ended["found"]) == (200, "Tia", "a loose guard")
    assert api("tia")("POST", f"/matters/{first['id']}/end", {"found": "a", "done": "b"})[0] == 409
    assert call(api("tia"), site, set_id=pump_set.pk)[1]["id"] != first["id"]


def test_a_call_sent_twice_is_one_and_comes_from_anybody_of_the_site(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    said = {"uuid": str(uuid.uuid4()), "set_id": pump_set.pk, "at": now().isoformat()}
    assert {call(api("vic"), site, **said)[0] for _ in range(3)} == {201}
    assert Call.objects.count() == Matter.objects.count() == 1
    assert call(api("tia"), site, **said)[0] == 409
    assert call(api("vic"), site, **said, complaint="water")[1]["code"] == "call_differs"
    assert call(api("vic"), site, **{**said, "set_id": None}, room="Cellar")[1]["code"] == "call_differs"
    assert Call.objects.count() == 1
    assert call(api("stranger"), site, set_id=pump_set.pk)[0] == 404
    assert call(api("nobody"), site)[0] == 401
    assert call(api("vic"), site)[1]["code"] == "where_missing"
    assert call(api("vic"), site, room="Boiler cellar", complaint="opera")[0] == 422
    assert call(api("vic"), site, set_id=999_999)[0] == 404
    assert call(api("vic"), site, room="x", at=(now() + timedelta(hours=2)).isoformat())[0] == 422
    assert call(api("vic"), site, room="Boiler cellar", complaint="water")[1]["where"] == "Boiler cellar"
    assert (
        call(api("vic"), site, service_id=pump_set.service_id, complaint="no_flow")[1]["where"]
        == "Cold water"
    )
    assert (
        api("vic")("POST", f"/matters/{Matter.objects.first().pk}/end", {"found": "a", "done": "b"})[0] == 403
    )  # type: ignore[union-attr]


def test_what_it_threatens_knows_the_standby(api: Door, site: Site, pump_set: PumpSet, twin: PumpSet) -> None:
    said = call(api("tia"), site, set_id=pump_set.pk)[1]
    assert "Standby C-2: nothing recorded against it." in said["threatens"]
    assert "Start C-2 in its place." in said["first"]
    Safe(api("tia"), twin).isolate()
    said = next(m for m in api("tia")("GET", f"/sites/{site.pk}/safety")[1]["matters"])
    assert "Standby C-2 is isolated: no standby available." in said["threatens"]
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
        answer = who.client.post(
            f"/api/v1/sites/{site.pk}/pictures", {"uuid": key, "file": SimpleUploadedFile(name, raw)}
        )
        return answer.status_code, answer.json()

    raw = photo()
    assert b"a camera" in raw
    status, kept = send(raw)
    assert status == 201
    answer = vic.client.get(f"/api/v1/pictures/{kept['id']}.jpg")
    assert answer["Content-Type"] == "image/jpeg"
    with Image.open(io.BytesIO(answer.content)) as picture:
        assert picture.size == (640, 1600)  # upright, as the camera said
        assert dict(picture.getexif()) == {}
    assert b"a camera" not in answer.content
    assert send(b"not a readable photo")[1]["code"] == "not_a_picture"
    assert send(b"x" * (8 * 1024 * 1024 + 5))[1]["code"] in ("picture_too_large", "too_large")
    assert api("stranger").client.get(f"/api/v1/pictures/{kept['id']}.jpg").status_code == 404
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
    assert (
        tia("PUT", path, {"version": 1, "lines": [{"id": "a", "kind": "supply", "means": "isolator"}]})[1][
            "problems"
        ][0]["message"]
        == "Supply: enter which device isolates it."
    )
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
    assert "Proved dead. Locked on: Tia" in seen["tags"][0]["says"]
    assert "Local codes" in seen["isolation"]["codes"]
    safe.do("tried", moved=False)
    safe.do("work", note="new seal")
    record = {"set_id": pump_set.pk, "sheet": safe.sheet, "entries": []}
    assert (
        "Tia on supply" in tia("POST", "/benches/make_safe/records", record)[1]["detail"]
        or tia("POST", "/benches/make_safe/records", record)[0] == 422
    )
    assert tia("POST", f"/sheets/{safe.sheet}/leave", {"reason": "called away"})[1]["code"] == "locks_on"
    for item in ("guard_on", "people_clear"):
        safe.do("restored", item=item)
    for x in MUST:
        safe.do("unlock", lock=locks[x])
        safe.do("opened", source=x)
    for item in ("valves_as_found", "automatic", "alarms"):
        safe.do("restored", item=item)
    assert (
        tia("POST", "/benches/make_safe/records", record)[1]["detail"]
        == "Before return to service: a running check after the restart, or why there is none."
    )
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
    assert (safety(tia, pump_set)["past"][0]["says"], safety(tia, pump_set)["past"][0]["by"]) == (
        "dry and quiet",
        "Tia",
    )
    told = tia("GET", f"/records/{saved['record']}")[1]["story"]
    assert [x["says"] for x in told][:3] == [
        "Work scope: motor leads.",
        "Informed: the keeper.",
        "Stopped normally.",
    ]
    answer = tia.client.get(f"/api/v1/records/{saved['record']}/certificate.pdf")
    text = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(answer.content)).pages)
    for words in (
        "Each conductor to every other and to ground",
        "Own lock on Supply.",
        "Alarms cleared",
        "Local codes",
    ):
        assert words in text.replace("\n", " "), words
    assert (
        tia(
            "POST",
            "/benches/make_safe/records",
            {**record, "sheet": str(uuid.uuid4()), "corrects": saved["record"], "reason": "x"},
        )[1]["code"]
        == "not_corrected"
    )


def test_volts_on_an_isolated_set_are_taken_stop_everybody_and_revoke_the_proof(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    safe = Safe(tia, pump_set)
    safe.isolate()
    safe.prove()
    status, saved = api("leo")("POST", SAVE, sheet(pump_set))
    assert status == 201  # what was seen is never refused
    assert saved["evaluation"]["verdict"] == "stop"
    assert "Not isolated: 40" in saved["evaluation"]["findings"][0]["reason"]
    assert (
        "recorded as isolated and proved dead. Treat as live, prove dead again"
        in saved["evaluation"]["findings"][0]["reason"]
    )
    seen = safety(tia, pump_set)["isolation"]
    assert (seen["state"], seen["proof"]["state"]) == ("live", "void")
    assert "treat as live, prove dead again" in seen["live"]
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
    assert "Leo took off Tia's lock on “Supply”: that does not count" in seen["conflicts"][0]
    assert seen["state"] == "isolated"


def test_a_lock_left_behind_comes_off_by_a_lead_with_the_sites_steps(
    api: Door, site: Site, pump_set: PumpSet, people: dict[str, User]
) -> None:
    from hurbin_server.plant.models import Membership

    Membership.objects.create(user=people["stranger"], site=site, role="technician")
    gone = Safe(api("stranger"), pump_set)
    locks = gone.isolate()
    tia, leo = Safe(api("tia"), pump_set, gone.sheet), Safe(api("leo"), pump_set, gone.sheet)
    assert tia.send(tia.entry("unlock", lock=locks["q1"], forgotten=True, followed="called"))[0] == 403
    assert leo.send(leo.entry("unlock", lock=locks["q1"], forgotten=True))[1]["code"] == "steps_missing"
    leo.at = now()
    leo.do(
        "unlock", lock=locks["q1"], forgotten=True, followed="called her, searched hall A, told the manager"
    )
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


def test_a_lock_that_comes_in_after_the_set_was_given_back_is_seen(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
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


def test_a_figure_that_is_none_is_refused_before_it_is_on_the_sheet(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    safe = Safe(api("tia"), pump_set)
    safe.isolate()
    held = Entry.objects.count()
    status, said = safe.send(
        safe.entry("proof", act="live_before", tester="T1", live_volts={"text": "plenty", "unit": "V"})
    )
    assert (status, said["code"]) == (422, "figures_refused")
    assert "“plenty” is not a number" in said["detail"]
    assert Entry.objects.count() == held
    assert Safe(api("vic"), pump_set).send(safe.entry("work"))[0] == 403
    assert Safe(api("stranger"), pump_set).send(safe.entry("work"))[0] == 404


def test_a_time_without_a_zone_and_a_line_without_means_are_answered(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    assert call(tia, site, set_id=pump_set.pk, at="2026-03-02T07:00:00")[0] == 422
    assert change(tia, pump_set, at="2026-03-02T07:00:00")[0] == 422
    safe = Safe(tia, pump_set)
    assert safe.send({**safe.entry("work"), "taken_at": "2026-03-02T07:00:00"})[0] == 422
    status, said = safe.send(
        safe.entry("open", scope="motor_leads", sources=[{**LINES[0], "means": "prayer"}])
    )
    assert (status, said["detail"]) == (422, "Supply: enter how it is isolated.")
    assert (
        safe.send(
            safe.entry(
                "open",
                scope="motor_leads",
                sources=[{"id": "x", "kind": "moon", "device": "d", "means": "valve"}],
            )
        )[0]
        == 422
    )


def test_how_it_stands_can_be_made_again_from_the_entries(api: Door, site: Site, pump_set: PumpSet) -> None:
    safe = Safe(api("tia"), pump_set)
    safe.isolate()
    before = IsolationState.objects.values("state", "sheet", "since", "scopes", "workers").get()
    IsolationState.objects.all().delete()
    refresh(pump_set, now())
    assert IsolationState.objects.values("state", "sheet", "since", "scopes", "workers").get() == before
