"""When the database is gone before a view is reached (sessions, users): the same answer as inside the API."""

from __future__ import annotations

from collections.abc import Callable

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse

from .errors import ProblemBody, answer


def database_gone(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    def middleware(request: HttpRequest) -> HttpResponse:
        return get_response(request)

    def process_exception(request: HttpRequest, error: Exception) -> HttpResponse | None:
        if isinstance(error, OperationalError | InterfaceError):
            return answer(
                503,
                ProblemBody(
                    code="database_gone",
                    message="The database does not answer. What you typed is kept and sent again.",
                ),
            )
        return None

    middleware.process_exception = process_exception  # type: ignore[attr-defined]
    return middleware
