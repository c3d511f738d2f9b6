"""One error shape for everything the server refuses."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from pydantic import BaseModel

from hurbin_core.base import Problem


class ProblemBody(BaseModel):
    """What every refusal looks like. `current` is what stands now, where the refusal is about staleness."""

    code: str
    message: str
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
    ) -> None:
        super().__init__(message)
        self.status = status
        if field and not problems:
            problems = [Problem(code=code, field=field, value=value, message=message, right=right)]
        self.body = ProblemBody(code=code, message=message, problems=problems or [], current=current)


def answer(status: int, body: ProblemBody) -> HttpResponse:
    return HttpResponse(body.model_dump_json(), status=status, content_type="application/json")


def not_found(what: str) -> Refused:
    return Refused(404, "not_found", f"{what} is not here, or not yours to see.")


ERRORS = {
    400: ProblemBody,
    401: ProblemBody,
    403: ProblemBody,
    404: ProblemBody,
    409: ProblemBody,
    422: ProblemBody,
    503: ProblemBody,
}


def locked_out(request: HttpRequest, *args: object, **kwargs: object) -> HttpResponse:
    """Called by the sign-in throttle in place of the view's own answer."""
    return answer(
        403,
        ProblemBody(
            code="locked_out", message="Too many wrong passwords. Wait ten minutes, or ask an admin."
        ),
    )
