"""A request is received whole before it takes a place; whoever sends half of one takes none."""

from __future__ import annotations

import io
import json
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from django.core.handlers.wsgi import WSGIHandler
from django.db import OperationalError
from django.test import Client, RequestFactory

from hurbin_server.base import receiving
from hurbin_server.base.models import User
from hurbin_server.base.receiving import FOR_ANYBODY, Received, late


class Slow(io.BytesIO):
    """A socket's other end: gives what it has, and then nothing until it is let go."""

    def __init__(self, have: bytes, let_go: threading.Event) -> None:
        super().__init__(have)
        self._let_go = let_go

    def read(self, size: int | None = -1) -> bytes:
        return super().read(size) or (self._let_go.wait(10) and b"") or b""


def environ(path: str, body: Any, length: str, **more: str) -> dict[str, Any]:
    made = RequestFactory().post(path, b"", content_type="application/json").environ
    return {**made, "wsgi.input": body, "CONTENT_LENGTH": length, **more}


class Told:
    def __init__(self) -> None:
        self.status, self.head = "", {}

    def __call__(self, status: str, head: list[tuple[str, str]], *_: Any) -> None:
        self.status, self.head = status, dict(head)


def ask(app: Received, env: dict[str, Any]) -> tuple[int, Any]:
    told = Told()
    body = b"".join(app(env, told))
    return int(told.status.split()[0]), json.loads(body) if body.startswith(b"{") else body


@contextmanager
def app(do: Any) -> Iterator[Received]:
    yield Received(do, places=2)


def echo(env: dict[str, Any], start: Any) -> list[bytes]:
    start("200 OK", [])
    return [env["wsgi.input"].read()]


def test_what_is_whole_reaches_the_application_as_it_was_sent() -> None:
    with app(echo) as received:
        body = b"x" * 40_000
        assert ask(received, environ("/api/v1/session", io.BytesIO(b"{}"), "2")) == (200, {})
        assert ask(received, environ("/x", io.BytesIO(body), str(len(body)))) == (200, body)


def test_eighty_who_send_half_leave_every_place_free() -> None:
    let_go, answers = threading.Event(), []
    with app(echo) as received:

        def half() -> None:
            answers.append(ask(received, environ("/x", Slow(b"{", let_go), "900")))

        threads = [threading.Thread(target=half) for _ in range(80)]
        [t.start() for t in threads]
        took = []
        for _ in range(3):  # the machine may be busy for a moment: who finds no place free waits each time
            begun = time.monotonic()
            assert ask(received, environ("/x", io.BytesIO(b"ok"), "2")) == (200, b"ok")
            took.append(time.monotonic() - begun)
        assert min(took) < 0.2
        let_go.set()
        [t.join(10) for t in threads]
    assert [(status, told["code"]) for status, told in answers] == [(408, "half_sent")] * 80


@pytest.mark.parametrize("name", ["PATH_INFO", "QUERY_STRING"])
def test_an_address_that_is_no_bytes_is_refused(name: str) -> None:
    with app(WSGIHandler()) as received:
        env = environ("/api/v1/health", io.BytesIO(b""), "0") | {name: "/api/v1/x\U000a0ce5"}
        assert ask(received, env)[1]["code"] == "address_wrong"


@pytest.mark.parametrize("said", ["-1", "1e3", "٣", "9" * 5000, "0x10", "1 2"])
def test_a_length_that_is_none_is_refused(said: str) -> None:
    with app(echo) as received:
        assert ask(received, environ("/x", io.BytesIO(b"ok"), said))[1]["code"] == "length_wrong"


@pytest.mark.django_db(transaction=True)
def test_much_is_received_from_those_who_are_signed_in_alone(people: dict[str, User]) -> None:
    read = io.BytesIO(b"x" * (FOR_ANYBODY + 1))
    env = environ("/api/v1/sets/1/attachments", read, str(FOR_ANYBODY + 1))
    with app(WSGIHandler()) as received:
        status, told = ask(received, env)
        assert (status, told["code"], read.tell()) == (401, "signed_out", 0), "none of it was read"
        client = Client()
        client.force_login(people["tia"])
        key = client.cookies["sessionid"].value
        assert ask(received, {**env, "HTTP_COOKIE": f"sessionid={key}x"})[0] == 401
        assert ask(received, {**env, "HTTP_COOKIE": f"sessionid={key}"})[0] == 403, "read, and without CSRF"
        assert read.tell() == FOR_ANYBODY + 1


@pytest.mark.django_db(transaction=True)
def test_a_long_body_reaches_an_address_of_any_letters(people: dict[str, User]) -> None:
    """As it was sent, and not as it was read to know its sender."""
    client = Client()
    client.force_login(people["tia"])
    with app(echo) as received:
        cookie = f"sessionid={client.cookies['sessionid'].value}"
        path = "/api/v1/sheets/กา/leave".encode().decode("latin-1")
        env = environ(path, io.BytesIO(b"x" * (FOR_ANYBODY + 1)), str(FOR_ANYBODY + 1), HTTP_COOKIE=cookie)
        assert ask(received, env)[0] == 200
    assert env["PATH_INFO"] == path


def test_whoever_cannot_be_asked_about_is_told_to_come_again(monkeypatch: pytest.MonkeyPatch) -> None:
    def gone(request: Any) -> bool:
        raise OperationalError(2006, "gone away")

    monkeypatch.setattr("hurbin_server.base.sessions.is_somebody", gone)
    env = environ("/api/v1/sets/1/attachments", io.BytesIO(b"x"), str(FOR_ANYBODY + 1))
    with app(echo) as received:
        status, told = ask(received, env)
    assert (status, told["code"]) == (503, "database_gone")


def test_what_came_in_before_the_end_is_answered_after_the_places_are_shut() -> None:
    with app(echo) as received:
        assert ask(received, environ("/x", io.BytesIO(b"one"), "3")) == (200, b"one")
        received._pool[1].shutdown()
        assert ask(received, environ("/x", io.BytesIO(b"two"), "3")) == (200, b"two")


def test_a_body_over_the_most_is_refused_unread() -> None:
    read = io.BytesIO(b"x")
    with app(WSGIHandler()) as received:
        for path, length in (("/api/v1/session", 5_000), ("/api/v1/sets/1/attachments", 9_000_000)):
            assert ask(received, environ(path, read, str(length)))[1]["code"] == "too_large", path
    assert read.tell() == 0


def test_who_is_late_is_found_by_the_clock() -> None:
    receiving.WAITED.clear()
    receiving.WAITED["one"], receiving.WAITED["two"] = 10.0, 30.0
    assert late(20.0) == ["one"]
    receiving.WAITED.clear()
