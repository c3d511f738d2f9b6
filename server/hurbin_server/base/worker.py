"""The web host's worker: threads enough to wait for slow senders, and a clock that ends the wait."""

from __future__ import annotations

import socket
import time
from collections.abc import Iterator
from contextlib import suppress
from typing import Any

from gunicorn.http.errors import NoMoreData
from gunicorn.util import close_graceful
from gunicorn.workers.gthread import ThreadWorker

from .receiving import HEAD_S, WAITED, late


class Timed:
    """A connection's parser; whoever does not send the head of a request in time has hung up."""

    def __init__(self, parser: Any, sock: Any) -> None:
        self._parser, self._sock = parser, sock

    def __iter__(self) -> Iterator[Any]:
        return self

    def __next__(self) -> Any:
        WAITED[self._sock] = time.monotonic() + HEAD_S
        try:
            return next(self._parser)
        except OSError as error:
            raise NoMoreData from error
        finally:
            WAITED.pop(self._sock, None)

    def __getattr__(self, name: str) -> Any:
        return getattr(self._parser, name)


class Worker(ThreadWorker):
    """gunicorn's own worker, whose senders are waited for so long and no longer."""

    def handle(self, conn: Any) -> Any:
        begin = conn.init

        def init() -> None:
            begin()
            if not isinstance(conn.parser, Timed):
                conn.parser = Timed(conn.parser, conn.sock)

        conn.init = init
        try:
            goes_on = super().handle(conn)
        finally:
            conn.init = begin
        if not goes_on:
            # Here and not in the loop: whoever keeps his end open is waited for, and the loop serves all.
            close_graceful(conn.sock)
        return goes_on

    def murder_pending(self) -> None:
        """Called with each turn of the loop."""
        super().murder_pending()
        for sock in late(time.monotonic()):
            WAITED.pop(sock, None)
            with suppress(OSError):
                sock.shutdown(socket.SHUT_RD)
