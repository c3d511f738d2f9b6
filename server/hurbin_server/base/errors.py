"""One shape for everything the server refuses: a problem document after RFC 9457."""

from __future__ import annotations

import errno
import re
from typing import Any

from django.db import DatabaseError, InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse
from pydantic import BaseModel

from hurbin_core.base import Problem

PROBLEM = "application/problem+json"
TITLES = {
    400: "Not understood",
    401: "Not signed in",
    403: "Not allowed",
    404: "Not found",
    405: "Method not allowed",
    409: "Conflict with saved data",
    413: "Too large",
    422: "Not accepted",
    429: "Too many requests",
    500: "The server failed",
    503: "Not available",
}


class ProblemBody(BaseModel):
    """What every refusal looks like (RFC 9457), with our own members: `code` is stable and for programs,
    `problems` name the fields, `current` is what stands now where the refusal is about staleness.
    """

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    code: str
    problems: list[Problem] = []
    current: dict[str, Any] | None = None


class Refused(Exception):
    def __init__(
        self,
        status: int,
        code: str,
        message: str,
        *,
        field: str = "",
        right: str = "",
        problems: list[Problem] | None = None,
        current: dict[str, Any] | None = None,
        value: str = "",
        retry_after: int = 0,
    ) -> None:
        super().__init__(message)
        self.status, self.code, self.current, self.retry_after = status, code, current, retry_after
        if field and not problems:
            problems = [Problem(code=code, field=field, value=value, message=message, right=right)]
        self.problems = problems or []


def refusal(error: Refused) -> HttpResponse:
    return answer(
        error.status,
        error.code,
        str(error),
        problems=error.problems,
        current=error.current,
        retry_after=error.retry_after,
    )


def answer(
    status: int,
    code: str,
    detail: str,
    *,
    problems: list[Problem] | None = None,
    current: dict[str, Any] | None = None,
    retry_after: int = 0,
) -> HttpResponse:
    body = ProblemBody(
        type=f"urn:hurbin:problem:{code}",
        title=TITLES.get(status, "Refused"),
        status=status,
        detail=detail,
        code=code,
        problems=problems or [],
        current=current,
    )
    out = HttpResponse(body.model_dump_json(), status=status, content_type=PROBLEM)
    if retry_after:
        out["Retry-After"] = str(retry_after)
    return out


def not_found(what: str) -> Refused:
    """The same words for what is not there and for what is another site's, whatever it is: `what` is for who
    reads the code.
    """
    return Refused(404, "not_found", "There is nothing here, or you have no access to it.")


def database_gone() -> HttpResponse:
    return answer(
        503,
        "database_gone",
        "Database not responding. Your entries are stored on this device and will be sent again.",
        retry_after=3,
    )


FULL = "Not saved, kept here: the server's disk is full. It is sent when there is room again."
# What a database and a file say when nothing more can be written: full disk, full table, full quota.
_FULL = (1021, 1114, 20)
# And where it only says that it could not write, with the system's own number.
_UNWRITTEN, _ENOSPC = (1026, 1030, 3), re.compile(r"\b28\b|No space left")
_NO_ROOM = (errno.ENOSPC, errno.EDQUOT)


def trouble(error: Exception) -> HttpResponse | None:
    """The answer to a database that is gone or a disk that is full; None: the error is something else."""
    number = error.args[0] if error.args else None
    unwritten = number in _UNWRITTEN and _ENOSPC.search(str(error)) is not None
    full = isinstance(error, DatabaseError) and (number in _FULL or unwritten)
    if full or (isinstance(error, OSError) and error.errno in _NO_ROOM):
        return answer(503, "disk_full", FULL, retry_after=20)
    return database_gone() if isinstance(error, OperationalError | InterfaceError) else None


ERRORS = dict.fromkeys((400, 401, 403, 404, 409, 413, 422, 429, 503), ProblemBody)


def locked_out(request: HttpRequest, *args: object, **kwargs: object) -> HttpResponse:
    """Called by the sign-in throttle in place of the view's own answer."""
    return answer(
        429,
        "locked_out",
        "Too many wrong passwords. Wait ten minutes, or ask an admin.",
        retry_after=600,
    )


def no_such_address(request: HttpRequest) -> HttpResponse:
    return answer(404, "no_such_address", "There is nothing at this address of the API.")


def failed(request: HttpRequest) -> HttpResponse:
    """What nobody foresaw: nothing was decided, and the device that asked keeps what it sent."""
    return answer(500, "failed", "The server failed over this. What you typed is kept and sent again.")
