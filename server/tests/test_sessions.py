"""Who is signed in: one question, and only the one whom the session and its person agree on."""

from __future__ import annotations

from typing import Any

import pytest
from conftest import WORD
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from hurbin_server.base.models import Session, User


@pytest.fixture
def tia(people: dict[str, User]) -> Client:
    client = Client()
    told = client.post(
        "/api/v1/session",
        {"username": "tia", "password": WORD},
        content_type="application/json",
        headers={"X-CSRFToken": client.get("/api/v1/session").json()["csrf"]},
    )
    assert told.status_code == 200, told.content
    return client


def signed_in(client: Client) -> str | None:
    me = client.get("/api/v1/session").json()["me"]
    return me["username"] if me else None


def the_session(**new: Any) -> None:
    assert Session.objects.update(**new) == 1


def test_a_session_and_its_person_are_one_question(tia: Client, people: dict[str, User]) -> None:
    assert Session.objects.get().user_id == people["tia"].pk
    with CaptureQueriesContext(connection) as asked:
        assert signed_in(tia) == "tia"
    assert len(asked) == 1, [q["sql"] for q in asked]


def test_one_that_was_opened_before_they_stood_together_goes_on(tia: Client) -> None:
    the_session(user=None)
    assert signed_in(tia) == "tia"


def test_the_session_s_own_words_say_who_it_is(tia: Client, people: dict[str, User]) -> None:
    the_session(user=people["ada"])
    assert signed_in(tia) == "tia"


def test_words_that_were_tampered_with_sign_nobody_in(tia: Client) -> None:
    said = Session.objects.get().session_data
    the_session(session_data=said[:-4] + "AAAA")
    assert signed_in(tia) is None


def test_a_new_password_ends_the_sessions_of_the_old_one(tia: Client, people: dict[str, User]) -> None:
    people["tia"].set_password("another-long-one-8")
    people["tia"].save()
    assert signed_in(tia) is None
    assert not Session.objects.exists()


def test_whoever_is_no_longer_active_is_not_signed_in(tia: Client, people: dict[str, User]) -> None:
    User.objects.filter(pk=people["tia"].pk).update(is_active=False)
    assert signed_in(tia) is None


def test_a_session_that_is_over_signs_nobody_in(tia: Client) -> None:
    the_session(expire_date="2020-01-01T00:00:00Z")
    assert signed_in(tia) is None


def test_signing_out_ends_it(tia: Client) -> None:
    csrf = tia.get("/api/v1/session").json()["csrf"]
    assert tia.delete("/api/v1/session", headers={"X-CSRFToken": csrf}).status_code == 200
    assert not Session.objects.exists()
    assert signed_in(tia) is None
