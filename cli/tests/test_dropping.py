"""The proxy of the drill: what it carries, what it loses, and that a cut is seen at both ends."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Iterator

import pytest

from cli.dropping import Dropping


class Host:
    """Answers each line with itself; remembers what reached it."""

    def __init__(self) -> None:
        self.heard: list[bytes] = []
        self.ended = threading.Event()
        self._listener = socket.create_server(("127.0.0.1", 0))
        self.port = int(self._listener.getsockname()[1])
        threading.Thread(target=self._serve, daemon=True).start()

    def _serve(self) -> None:
        try:
            while True:
                sock, _ = self._listener.accept()
                threading.Thread(target=self._answer, args=(sock,), daemon=True).start()
        except OSError:
            return

    def _answer(self, sock: socket.socket) -> None:
        with sock:
            try:
                while data := sock.recv(4096):
                    self.heard.append(data)
                    sock.sendall(b"you said " + data)
            except OSError:
                pass
        self.ended.set()

    def close(self) -> None:
        self._listener.close()


@pytest.fixture
def host() -> Iterator[Host]:
    made = Host()
    yield made
    made.close()


def through(proxy: Dropping) -> socket.socket:
    return socket.create_connection(("127.0.0.1", proxy.port), timeout=5)


def ended(sock: socket.socket, said: bytes = b"") -> bool:
    """Has the other end hung up, whichever way that shows?"""
    try:
        sock.sendall(said)
        return sock.recv(10) == b""
    except ConnectionError:
        return True


def test_it_carries_both_ways(host: Host) -> None:
    proxy = Dropping(host.port, 1, loses=0.0)
    with through(proxy) as one, through(proxy) as two:
        for sock, said in ((one, b"one"), (two, b"two"), (one, b"three")):
            sock.sendall(said)
            assert sock.recv(4096) == b"you said " + said
    assert proxy.lost_answers == 0
    proxy.close()


def test_an_answer_that_is_lost_was_a_request_that_arrived(host: Host) -> None:
    proxy = Dropping(host.port, 1, loses=1.0)
    with through(proxy) as sock:
        sock.sendall(b"keep this")
        assert sock.recv(4096) == b"", "hung up, without a word"
    assert host.heard == [b"keep this"]
    assert proxy.lost_answers == 1
    proxy.close()


def test_a_cut_is_seen_at_both_ends_and_the_next_one_is_carried(host: Host) -> None:
    proxy = Dropping(host.port, 1, loses=0.0)
    with through(proxy) as sock:
        sock.sendall(b"one")
        assert sock.recv(4096) == b"you said one"
        assert proxy.drop() == 2, "both halves of it"
        assert ended(sock, b"two")
        assert host.ended.wait(5)
    assert proxy.drop() == 0
    with through(proxy) as sock:
        sock.sendall(b"again")
        assert sock.recv(4096) == b"you said again"
    proxy.close()


def test_without_a_host_it_hangs_up() -> None:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        nobody = int(s.getsockname()[1])
    proxy = Dropping(nobody, 1)
    begun = time.monotonic()
    with through(proxy) as sock:
        assert ended(sock)
    assert time.monotonic() - begun < 5
    proxy.close()
