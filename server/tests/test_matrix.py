"""Every operation for every kind of sender: who is let in, and what the others are told."""

from __future__ import annotations

import json
import tomllib
import uuid
from collections.abc import Iterator
from datetime import timedelta
from http.cookies import SimpleCookie
from pathlib import Path
from typing import Any

import pytest
from conftest import SAVE, WORD, sheet
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import Client
from least_body import DESCRIBED, body_of
from safe_sheets import LINES, Door, Safe
from test_attachments import attach, paper, photo
from test_readings import HEAD, line, upload

from hurbin_server.base import kept, limiting
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.base.tablets import new_tablet
from hurbin_server.base.tokens import new_token
from hurbin_server.hydraulics.models import Loop
from hurbin_server.instruments.models import Instrument
from hurbin_server.jobs.reads import back_token
from hurbin_server.logbook.models import LimitOverride, Series
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.places import make_site
from hurbin_server.safety.models import CheckBack, Deferral, Matter, Qualification
from hurbin_server.safety.services.calling import report
from hurbin_server.safety.services.pictures import keep_picture
from hurbin_server.stores.services.counting import add_van

TABLE = tomllib.loads((Path(__file__).parent / "data" / "matrix.toml").read_text())
RANK = ["viewer", "technician", "lead", "admin"]
# Each kind of sender with its role on the site; "": none.
ACTORS = {
    "nobody": "",
    "stranger": "",
    "elsewhere": "",
    "vic": "viewer",
    "tia": "technician",
    "leo": "lead",
    "ada": "admin",
    "token": "technician",
}
OPERATIONS = {
    told["operationId"]: (verb, path, told)
    for path, verbs in DESCRIBED["paths"].items()
    for verb, told in verbs.items()
}


def least_of(name: str, path: str) -> str | None:
    """What the table says of an operation; None: it does not stand in it."""
    named = next((least for least, names in TABLE["least"].items() if name in names), None)
    if named is None and "/benches/" in path:
        return next((least for end, least in TABLE["bench"].items() if name.endswith(f"_{end}")), None)
    return named


def wanted(least: str, actor: str) -> set[int]:
    """The refusals with which this sender may be met; none: he is let in."""
    role = ACTORS[actor]
    if least == "nobody":
        return set()
    if actor == "nobody":
        return {401}
    if least == "by_hand":
        return {403} if actor == "token" else wanted("technician", actor)
    if least == "caller" and role:
        return set() if actor == "vic" else {403}
    if least in ("anybody", "own", "maker"):
        shut = (least == "own" and actor == "token") or (least == "maker" and actor != "ada")
        return {403} if shut and actor != "elsewhere" else set()
    if not role:
        return {404}
    return {403} if RANK.index(role) < RANK.index(least) else set()


class Senders:
    def __init__(self, people: dict[str, User], site: Site) -> None:
        key = new_token(people["ada"], site.pk, "technician", "matrix")[1]
        self._clients = {name: Client() for name in ACTORS}
        for name, client in self._clients.items():
            if name in people:
                client.force_login(people[name])
        self._cookies = {
            name: client.cookies.output(header="", sep=";") for name, client in self._clients.items()
        }
        self._clients["token"] = Client(headers={"Authorization": f"Bearer {key}"})

    def send(self, actor: str, verb: str, path: str, kind: str, body: Any) -> Any:
        client = self._clients[actor]
        client.cookies = SimpleCookie(self._cookies[actor])
        if kind == "multipart/form-data":
            file = SimpleUploadedFile("x.csv", b"code,title\n", "text/csv")
            data = {n: v for n, v in body.items() if n != "file"} | {"file": file}
            return client.post(path, data)
        more = {} if verb == "get" else {"data": json.dumps(body), "content_type": "application/json"}
        return getattr(client, verb)(path, **more)


@pytest.fixture
def people(people: dict[str, User]) -> dict[str, User]:
    """And the admin of another site."""
    user = User.objects.create(username="elsewhere", full_name="Else Where", may_make_sites=True)
    make_site(user, {"code": "GLASS", "name": "Glasshouse", "time_zone": "UTC", "altitude_m": None})
    return people | {"elsewhere": user}


@pytest.fixture
def things(api: Door, site: Site, pump_set: PumpSet, people: dict[str, User]) -> dict[str, Any]:
    """One of everything that a path names, on the site."""
    tia, at, ada = api("tia"), now(), people["ada"]

    def made(verb: str, path: str, body: Any) -> Any:
        status, told = tia(verb, path, body)
        assert status in (200, 201), (path, told)
        return told

    record = made("POST", SAVE, sheet(pump_set))["record"]
    call, change = str(uuid.uuid4()), str(uuid.uuid4())
    report(people["vic"], site.pk, call, at, complaint="noise", room="cellar")
    put_on = {"uuid": change, "at": at.isoformat(), "kind": "jumper", "place": "panel"}
    made("POST", f"/sets/{pump_set.pk}/changes", put_on)
    part = made("POST", f"/sites/{site.pk}/parts", {"code": "S-1", "title": "Seal", "lines": [], "fits": []})
    part_id = part["parts"][0]["id"]
    made("PUT", f"/parts/{part_id}/count", {"place": "Shelf", "count": 3})
    kit = {"title": "Kit", "procedure": "J02", "lines": [{"code": "S-1", "wanted": 1}]}
    put_off = Deferral.objects.create(
        uuid=str(uuid.uuid4()), pump_set=pump_set, until=at + timedelta(days=9), by=ada, at=at
    )
    due = CheckBack.objects.create(pump_set=pump_set, sheet="s" * 12, at=at, due=at)
    words = {"name": "Meter 1", "said": {"name": "Meter 1", "kind": "multimeter", "spans": []}}
    override = LimitOverride.objects.create(
        site=site, limit="lift.wind", value=8, unit="m/s", reason="hoist", by=ada, at=at
    )
    left = Safe(tia, pump_set)
    left.do("open", scope="motor_leads", sources=LINES)
    return {
        "attachment_aside": attach(tia, pump_set, photo(90, 60))[1]["uuid"],
        "attached_photo": attach(tia, pump_set, photo(80, 60))[1]["uuid"],
        "attached_document": attach(tia, pump_set, paper())[1]["uuid"],
        "add_to_call": call,
        "take_change_off": change,
        "end_deferral": put_off.pk,
        "leave_sheet": left.sheet,
        "sheet": left.sheet,
        "picture": keep_picture(people["vic"], site.pk, str(uuid.uuid4()), photo(70, 60)).pk,
        "bench": "running_check",
        "check_id": due.pk,
        "circuit": tia("GET", f"/sets/{pump_set.pk}/circuit")[1]["circuit"],
        "code": "J05",
        "component_id": pump_set.fittings.get(slot="motor").component_id,
        "instrument_id": Instrument.objects.create(site=site, since=at, **words).pk,
        "job_id": upload(tia, site, HEAD + line("600", 3))[1]["id"],
        "kind": "motor",
        "kit_id": made("POST", f"/sites/{site.pk}/kits", kit)["kits"][0]["id"],
        "loop_id": Loop.objects.create(site=site, name="Loop 1").pk,
        "matter_id": Matter.objects.get(site=site).pk,
        "name": "close_coupled",
        "override_id": override.pk,
        "part_id": part_id,
        "qualification_id": Qualification.objects.filter(site=site, user=people["tia"]).get().pk,
        "record_id": record,
        "series_id": Series.objects.filter(pump_set=pump_set).first().pk,
        "service_id": pump_set.service_id,
        "set_id": pump_set.pk,
        "site_id": site.pk,
        "tablet_id": new_tablet(people["leo"], site.pk, "Tablet 1")[0].pk,
        "token": back_token(pump_set.pk),
        "token_id": new_token(ada, site.pk, "viewer", "to end")[0].pk,
        "username": "tia",
        "van_id": add_van(people["tia"], site.pk, "Van 1").pk,
    }


# What a body names as a path does.
NAMED_IN_BODIES = ("set_id", "site_id", "service_id", "component_id", "circuit")
# What an operation needs besides the least that its shape asks for, so that its sender is asked about.
SAID: dict[str, dict[str, Any]] = {
    "sign_in": {"username": "tia", "password": WORD},
    "import_register": {"text": "service,tag,kind\nCOLD,C-1,vacuum\n"},
    "report_call": {"complaint": "noise", "room": "cellar"},
    "qualify": {"username": "tia", "kind": "live_tests"},
    "start_readings_import": {"bench": "running_check"},
}


def asking(name: str, named: dict[str, Any]) -> str:
    """What an address asks for behind its path."""
    if name.endswith("_open_sheets"):
        return f"?set_id={named['set_id']}"
    return "?words=cold" if name == "find" else ""


def cells(people: dict[str, User], site: Site, things: dict[str, Any]) -> Iterator[tuple[str, str, str, int]]:
    """Every operation for every sender: its name, the sender, what the table says, what it was told. Each is
    taken back before the next.
    """
    senders = Senders(people, site)
    for name, (verb, path, told) in OPERATIONS.items():
        least = least_of(name, path)
        if least is None:
            continue
        kind, body = body_of(told)
        if isinstance(body, dict):
            body |= {k: things[k] for k in NAMED_IN_BODIES if k in body} | SAID.get(name, {})
        named = {**things, "uuid": things.get(name, str(uuid.uuid4()))}
        where = path.format_map(named) + asking(name, things)
        for actor in ACTORS:
            limiting.EVALUATE.clear()
            limiting.UPLOAD.clear()
            limiting.SIGN_IN.clear()
            point = transaction.savepoint()
            got = senders.send(actor, verb, where, kind, body)
            transaction.savepoint_rollback(point)
            kept.pages.clear()
            yield name, actor, least, got.status_code


def test_every_operation_stands_in_the_table_once_and_nothing_else_does() -> None:
    named = [n for names in TABLE["least"].values() for n in names]
    assert len(named) == len(set(named))
    assert [n for n, (_, path, _) in OPERATIONS.items() if least_of(n, path) is None] == []
    assert [n for n in named if n not in OPERATIONS] == []


def test_everybody_is_let_in_where_the_table_says_and_nowhere_else(
    people: dict[str, User], site: Site, things: dict[str, Any]
) -> None:
    wrong, n = [], 0
    for name, actor, least, status in cells(people, site, things):
        n += 1
        shut = wanted(least, actor)
        # A record that is no job has no table of one, for whoever may look at it.
        told = (401, 403) if name == "job_csv" else (401, 403, 404)
        right = status in shut if shut else status not in told and status < 500
        if not right:
            wrong.append(f"{name} for {actor}: {status}, by the table {sorted(shut) or 'let in'}")
    assert not wrong, "\n".join(wrong)
    assert n == len(OPERATIONS) * len(ACTORS)


def test_what_is_another_site_s_is_told_like_what_is_nowhere(
    people: dict[str, User], site: Site, things: dict[str, Any]
) -> None:
    """Byte for byte: whoever asks for a thing of another site learns nothing, not that there is one."""
    senders, told = Senders(people, site), {}
    nowhere = {k: 987_654_321 if isinstance(v, int) else v for k, v in things.items()}
    for name, (verb, path, described) in OPERATIONS.items():
        if least_of(name, path) not in (*RANK, "by_hand", "caller") or "{" not in path:
            continue
        kind, body = body_of(described)
        if isinstance(body, dict):
            body |= {"set_id": things["set_id"]} if "set_id" in body else {}
            body |= SAID.get(name, {})
        answers = []
        for named in (things, nowhere):
            where = path.format_map(
                {**named, "uuid": named.get(name, "x" * 12) if named is things else "y" * 12}
            )
            if "set_id" in (body or {}):
                body["set_id"] = named["set_id"]
            where += asking(name, named)
            answers.append(senders.send("elsewhere", verb, where, kind, body).content)
        if answers[0] != answers[1]:
            told[name] = answers
    assert not told
