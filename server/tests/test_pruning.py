"""What goes by itself, and that nothing goes which somebody may still want."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

import pytest
from conftest import WORD
from django.test import Client
from safe_sheets import Door
from test_attachments import photo
from test_readings import HEAD, line, upload

from hurbin_server.base.clock import now
from hurbin_server.base.models import AuditEntry, Parcel, Session, User
from hurbin_server.base.pruning import prune
from hurbin_server.logbook.models import ReadingsImport
from hurbin_server.logbook.services import importing
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.safety.models import Picture
from hurbin_server.safety.services.calling import add_to_call, report
from hurbin_server.safety.services.pictures import keep_picture

LATER = timedelta(days=61)


def test_sessions_that_are_over_go_and_others_stay(people: dict[str, User]) -> None:
    for name in ("tia", "leo"):
        Client().force_login(people[name])
    Session.objects.filter(user=people["leo"]).update(expire_date=now() - timedelta(seconds=1))
    assert prune()["sessions"] == 1
    assert Session.objects.get().user == people["tia"]


def test_wrong_passwords_are_forgotten_after_two_days(people: dict[str, User]) -> None:
    client = Client()
    csrf = client.get("/api/v1/session").json()["csrf"]
    wrong = {"username": "tia", "password": WORD + "x"}
    head = {"X-CSRFToken": csrf}
    client.post("/api/v1/session", wrong, content_type="application/json", headers=head)
    assert prune()["attempts"] == 0
    assert prune(now() + timedelta(days=3))["attempts"] == 1


def test_a_parcel_is_told_again_for_more_than_a_year(people: dict[str, User]) -> None:
    Parcel.objects.create(user=people["tia"], key="k" * 12, digest="d", at=now())
    assert prune(now() + timedelta(days=399))["parcels"] == 0
    assert prune(now() + timedelta(days=401))["parcels"] == 1


def test_a_file_that_was_dealt_with_loses_its_bytes_and_nothing_else(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    jobs = [upload(api("tia"), site, HEAD + line("600", n), name=f"{n}.csv")[1]["id"] for n in (3, 4)]
    importing.run(jobs[0])
    ReadingsImport.objects.filter(pk=jobs[0]).update(state="cancelled", finished_at=now())
    assert prune()["import_contents"] == 0
    assert prune(now() + LATER)["import_contents"] == 1
    assert prune(now() + LATER)["import_contents"] == 0, "once"
    left = {j.pk: bytes(j.content) for j in ReadingsImport.objects.all()}
    assert left[jobs[0]] == b""
    assert left[jobs[1]] != b"", "one that waits for its check keeps them"
    assert api("tia")("GET", f"/readings/imports/{jobs[0]}/rows")[0] == 200


def test_a_picture_of_which_nothing_speaks_goes_after_two_months(site: Site, people: dict[str, User]) -> None:
    spoken, silent = str(uuid.uuid4()), str(uuid.uuid4())
    for n, key in enumerate((spoken, silent)):
        keep_picture(people["vic"], site.pk, key, photo(90, 60, colour=20 + n))
    report(people["vic"], site.pk, str(uuid.uuid4()), now(), complaint="noise", room="cellar", picture=spoken)
    assert prune()["pictures"] == 0
    assert prune(now() + LATER)["pictures"] == 1
    assert Picture.objects.get().pk == spoken


def test_what_is_added_to_a_call_and_what_is_counted_stands_in_the_trail(
    api: Door, site: Site, people: dict[str, User]
) -> None:
    key = str(uuid.uuid4())
    report(people["vic"], site.pk, key, now(), complaint="noise", room="cellar")
    add_to_call(people["vic"], key, "louder at night", "")
    told = AuditEntry.objects.get(action="call_added_to")
    assert (told.user, told.after["note"]) == (people["vic"], "louder at night")
    part = {"code": "S-1", "title": "Seal", "lines": [], "fits": []}
    made: Any = api("tia")("POST", f"/sites/{site.pk}/parts", part)
    pk = made[1]["parts"][0]["id"]
    api("tia")("PUT", f"/parts/{pk}/count", {"place": "Shelf", "count": 3})
    api("tia")("POST", f"/parts/{pk}/tally", {"place": "Shelf", "change": 1, "key": "k" * 12})
    api("tia")("POST", f"/parts/{pk}/move", {"source": "Shelf", "to": "Van", "count": 1})
    rows = AuditEntry.objects.filter(what="S-1", action__startswith="part_").order_by("pk")
    assert [(r.action, r.after["count"]) for r in rows if r.action != "part_added"] == [
        ("part_counted", 3),
        ("part_counted", 4),
        ("part_moved", 1),
    ]


@pytest.mark.parametrize(
    "name", ["sessions", "parcels", "attempts", "task_results", "import_contents", "pictures"]
)
def test_each_of_them_is_asked(people: dict[str, User], name: str) -> None:
    assert prune()[name] == 0
