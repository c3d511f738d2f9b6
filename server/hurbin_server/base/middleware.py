"""What is refused before a view is reached: a body that is too large, a database that is gone."""

from __future__ import annotations

import re
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from .errors import answer, trouble

View = Callable[[HttpRequest], HttpResponse]
# The words of a form around its file.
FORM_WORDS = 64 * 1024
_SIGN_IN = tuple(
    f"/api/v1/{where}" for where in ("session", "session/again", "tablet/session", "me/pin", "me/password")
)
SIGN_IN_MOST = 4 * 1024
_FILE = re.compile(r"^/api/v1/sites/\d+/readings/imports$")


def database_gone(get_response: View) -> View:
    """When the database is gone before a view is reached (sessions, users): the same answer as inside the
    API.
    """

    def middleware(request: HttpRequest) -> HttpResponse:
        return get_response(request)

    def process_exception(request: HttpRequest, error: Exception) -> HttpResponse | None:
        return trouble(error)

    middleware.process_exception = process_exception  # type: ignore[attr-defined]
    return middleware


def most_for(path: str) -> int:
    """The most bytes that are taken at this address, with the words of a form around its file."""
    if path in _SIGN_IN:
        return SIGN_IN_MOST
    file = _FILE.match(path) is not None
    return FORM_WORDS + (settings.READINGS_FILE_MOST if file else settings.DATA_UPLOAD_MAX_MEMORY_SIZE)


def too_large(get_response: View) -> View:
    """A body over the most is refused by its announced length, before any of it is read."""

    def middleware(request: HttpRequest) -> HttpResponse:
        length = int(request.META.get("CONTENT_LENGTH") or 0)
        most = most_for(request.path)
        if length > most:
            unit, by = ("MB", 1e6) if most > 1_000_000 else ("KB", 1e3)
            what = f"Too large: {length / by:.0f} {unit}, limit {most / by:.0f} {unit}."
            return answer(413, "too_large", what)
        return get_response(request)

    return middleware
