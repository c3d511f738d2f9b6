"""What a device sends carries an id: done once, answered alike, other content refused."""

from __future__ import annotations

import threading
import uuid
from datetime import timedelta

import pytest
from conftest import Device
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection

from hurbin_server.base.clock import now
from hurbin_server.base.models import AuditEntry, Parcel, User
from hurbin_server.logbook.models import ReadingsImport
from hurbin_server.plant.models import Event, Membership, PumpSet, Site


@pytest.fixture
def tia(people: dict[str, User], site: Site) -> Device:
    return Device(people["tia"])


def happened(note: str = "wet to the terminals") -> dict[str, str]:
    return {"kind": "flood", "at": (now() - timedelta(hours=1)).isoformat(), "note": note}


def test_a_parcel_sent_again_is_done_once_and_answered_alike(tia: Device, pump_set: PumpSet) -> None:
    key, said = str(uuid.uuid4()), happened()
    first = tia.send(f"/sets/{pump_set.pk}/events", said, key)
    assert first[0] == 201
    assert tia.send(f"/sets/{pump_set.pk}/events", said, key) == first
    assert Event.objects.filter(kind="flood").count() == 1
    assert tia.send(f"/sets/{pump_set.pk}/events", said)[1] != first[1]


@pytest.mark.parametrize("path", ["/sites/{site}/components", "/sets/{set}/waivers", "/sets/{set}/events"])
def test_what_has_no_id_of_its_own_is_once_by_its_parcel(
    people: dict[str, User], site: Site, pump_set: PumpSet, path: str
) -> None:
    until = (now() + timedelta(hours=4)).isoformat()
    body = {
        "/sites/{site}/components": {"kind": "motor", "label": "spare"},
        "/sets/{set}/waivers": {"gate": "second_reset", "reason": "bench test", "until": until},
        "/sets/{set}/events": happened(),
    }[path]
    ada, key = Device(people["ada"]), str(uuid.uuid4())
    where = path.format(site=site.pk, set=pump_set.pk)
    before = AuditEntry.objects.count()
    first = ada.send(where, body, key)
    assert first[0] == 201, first
    assert ada.send(where, body, key) == first
    assert AuditEntry.objects.count() == before + 1


def test_other_content_under_the_same_id_is_refused_and_nothing_of_it_kept(
    tia: Device, pump_set: PumpSet
) -> None:
    key = str(uuid.uuid4())
    assert tia.send(f"/sets/{pump_set.pk}/events", happened(), key)[0] == 201
    status, told = tia.send(f"/sets/{pump_set.pk}/events", happened("dry after all"), key)
    assert (status, told["code"], told["title"]) == (409, "parcel_differs", "Conflict with saved data")
    assert list(Event.objects.filter(kind="flood").values_list("note", flat=True)) == ["wet to the terminals"]


def test_a_refused_parcel_may_be_mended_and_sent_again(tia: Device, pump_set: PumpSet) -> None:
    key = str(uuid.uuid4())
    assert tia.send(f"/sets/{pump_set.pk}/events", happened(""), key)[0] == 422
    assert not Parcel.objects.exists()
    assert tia.send(f"/sets/{pump_set.pk}/events", happened(), key)[0] == 201


def test_who_has_no_access_any_more_is_not_told_again(
    people: dict[str, User], tia: Device, site: Site, pump_set: PumpSet
) -> None:
    key, said = str(uuid.uuid4()), happened()
    assert tia.send(f"/sets/{pump_set.pk}/events", said, key)[0] == 201
    mine = Membership.objects.filter(user=people["tia"], site=site)
    mine.update(active=False)
    status, told = tia.send(f"/sets/{pump_set.pk}/events", said, key)
    assert (status, told["code"]) == (403, "disabled")
    mine.delete()
    assert tia.send(f"/sets/{pump_set.pk}/events", said, key)[0] == 404


def test_nor_of_what_moved_nothing_yet(people: dict[str, User], site: Site, pump_set: PumpSet) -> None:
    """A file on its way has changed no set: its parcel still knows on which site it was asked for."""
    tia, key = Device(people["tia"]), str(uuid.uuid4())

    def send() -> int:
        file = SimpleUploadedFile("old.csv", b"tag,taken_at\nC-1,2024-03-04 10:00\n")
        body = {"bench": "running_check", "file": file}
        where = f"/api/v1/sites/{site.pk}/readings/imports"
        return tia.client.post(where, body, headers={"Idempotency-Key": key}).status_code

    assert (send(), send(), ReadingsImport.objects.count()) == (201, 201, 1)
    Membership.objects.filter(user=people["tia"], site=site).delete()
    assert send() == 404


def test_one_persons_id_is_not_anothers(people: dict[str, User], tia: Device, pump_set: PumpSet) -> None:
    key, leo = str(uuid.uuid4()), Device(people["leo"])
    assert tia.send(f"/sets/{pump_set.pk}/events", happened(), key)[0] == 201
    assert leo.send(f"/sets/{pump_set.pk}/events", happened("by Leo"), key)[0] == 201


def test_a_new_password_is_told_once_and_kept_nowhere(people: dict[str, User], site: Site) -> None:
    ada, key = Device(people["ada"]), str(uuid.uuid4())
    body = {"username": "mo", "full_name": "Mo", "role": "viewer", "password": ""}
    status, told = ada.send(f"/sites/{site.pk}/people", body, key)
    assert status == 201
    assert told["password"]
    again = ada.send(f"/sites/{site.pk}/people", body, key)[1]
    assert (again["username"], again.get("password")) == ("mo", None)


@pytest.mark.django_db(transaction=True)
def test_the_same_parcel_twice_at_once_is_done_once(people: dict[str, User], pump_set: PumpSet) -> None:
    key, said, answers = str(uuid.uuid4()), happened(), []

    def send() -> None:
        answers.append(Device(people["tia"]).send(f"/sets/{pump_set.pk}/events", said, key))
        connection.close()

    threads = [threading.Thread(target=send) for _ in range(4)]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert answers == [answers[0]] * 4
    assert answers[0][0] == 201
    assert Event.objects.filter(kind="flood").count() == 1
