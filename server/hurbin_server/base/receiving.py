"""What stands between the sockets and the application: a request is received whole, and in time, before it
takes one of the few places where work is done. Somebody who sends half of one holds a socket, and no place.
"""

from __future__ import annotations

import os
import tempfile
import time
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import IO, Any

from django.core.handlers.wsgi import WSGIRequest
from django.db import DatabaseError
from django.http import HttpResponse

from .errors import answer, trouble
from .middleware import most_for

App = Callable[[dict[str, Any], Callable[..., Any]], Iterable[bytes]]

# Of each web process: where work is done, one database connection each.
PLACES = 4
# A body up to this is received from anybody: it is a sign-in, or a call. Beyond it one has to be signed in.
FOR_ANYBODY = 64 * 1024
# A head, and what a body may take besides its length over the slowest link that is waited for.
HEAD_S = 10.0
SLOWEST = 8 * 1024
IN_MEMORY = 1024 * 1024
CHUNK = 64 * 1024

# Sockets on which somebody is waited for, and until when; whoever runs the loop closes those that are late.
WAITED: dict[Any, float] = {}


class Received:
    """An application that sees a request only once all of it is there."""

    def __init__(self, app: App, places: int = PLACES) -> None:
        self._app, self._places = app, places
        self._pool: tuple[int, ThreadPoolExecutor] | None = None

    def __call__(self, environ: dict[str, Any], start: Callable[..., Any]) -> Iterable[bytes]:
        if not _plain(environ):
            return _refuse(start, answer(400, "address_wrong", "This address cannot be read."))
        length = _length(environ)
        if length is None:
            return _refuse(start, answer(400, "length_wrong", "The length of what was sent is no number."))
        if length == 0 or length > most_for(environ.get("PATH_INFO", "")):
            # None to receive, or too much: the application says so by its announced length.
            return self._work(self._app, environ, start)
        if length > FOR_ANYBODY:
            shut = self._work(_shut, environ)
            if shut is not None:
                return _refuse(start, shut)
        # What answers is whole when it comes back, and reads no more of what was sent.
        with tempfile.SpooledTemporaryFile(max_size=IN_MEMORY) as body:
            if not _receive(environ, length, body):
                said = "Only half of it arrived in time. It is kept on your device and sent again."
                return _refuse(start, answer(408, "half_sent", said))
            environ["wsgi.input"] = body
            return self._work(self._app, environ, start)

    def _work(self, do: Callable[..., Any], *args: Any) -> Any:
        if self._pool is None or self._pool[0] != os.getpid():
            # Made in the process that uses it: threads do not come along when it is forked.
            self._pool = (os.getpid(), ThreadPoolExecutor(self._places, thread_name_prefix="place"))
        try:
            place = self._pool[1].submit(do, *args)
        except RuntimeError:
            # This process is ending, and its places are shut: what came in before is still answered.
            return do(*args)
        return place.result()


def _plain(environ: dict[str, Any]) -> bool:
    """Is the address bytes, as a web server hands them on (PEP 3333)? Else nobody behind could read it."""
    try:
        for name in ("PATH_INFO", "QUERY_STRING"):
            environ.get(name, "").encode("iso-8859-1")
    except UnicodeEncodeError:
        return False
    return True


def _length(environ: dict[str, Any]) -> int | None:
    said = environ.get("CONTENT_LENGTH") or "0"
    return int(said) if said.isascii() and said.isdigit() and len(said) <= 15 else None


def _receive(environ: dict[str, Any], length: int, out: IO[bytes]) -> bool:
    """Take all of a body; False: it did not come, or not in time."""
    sock, source = environ.get("gunicorn.socket"), environ["wsgi.input"]
    left = length
    if sock is not None:
        WAITED[sock] = time.monotonic() + HEAD_S + length / SLOWEST
    try:
        while left > 0:
            chunk = source.read(min(CHUNK, left))
            if not chunk:
                return False
            out.write(chunk)
            left -= len(chunk)
    except OSError:
        return False
    finally:
        WAITED.pop(sock, None)
    out.seek(0)
    return True


def _shut(environ: dict[str, Any]) -> HttpResponse | None:
    """Why this sender is not listened to; None: somebody who is signed in."""
    # Sessions are rows: known once the application is set up.
    from .sessions import is_somebody

    try:
        # A copy: what makes a request of it writes the address into it as it is read, not as it was sent.
        if is_somebody(WSGIRequest({**environ})):
            return None
    except DatabaseError as error:
        return trouble(error)
    said = "You are signed out. Sign in to continue. Nothing you entered is lost."
    return answer(401, "signed_out", said)


def _refuse(start: Callable[..., Any], said: HttpResponse) -> Iterable[bytes]:
    """Refused without waiting for what follows."""
    said["Content-Length"] = str(len(said.content))
    start(f"{said.status_code} {said.reason_phrase}", list(said.items()))
    return [said.content]


def late(now: float) -> list[Any]:
    """The sockets on which somebody was waited for long enough."""
    return [sock for sock, until in list(WAITED.items()) if now > until]
