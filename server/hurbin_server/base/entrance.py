"""Who is let in to an operation, asked before anything of what was sent is read."""

from __future__ import annotations

from typing import Any
from urllib.parse import unquote

from django.http import HttpRequest
from ninja.errors import HttpError
from ninja.security import SessionAuth

from .errors import Refused
from .tokens import shows_token

SAFE = ("GET", "HEAD", "OPTIONS")
CSRF = "X-CSRFToken"
# Who is signed in, as the page that sends believes.
SENT_AS = "Sent-As"
# What is open to somebody whose password was made by an admin.
TO_CHANGE = ("/api/v1/me/password", "/api/v1/session")
# What is somebody's own, and no script's.
OWN = ("/api/v1/me", "/api/v1/session")


def _of_another(request: HttpRequest) -> bool:
    """Does the page believe that somebody else is signed in? Another tab has switched the person meanwhile:
    what this one sends is not to be kept in his name.
    """
    said = request.headers.get(SENT_AS)
    return said is not None and unquote(said) != request.user.username


class Entrance(SessionAuth):
    """A session with its CSRF token in the header, or a bearer token. Django looks for a CSRF token in a form
    first, and so would read a form of anybody: here nobody is heard before he is known.
    """

    def _get_key(self, request: HttpRequest) -> str | None:
        if not request.user.is_authenticated:
            return None
        if shows_token(request):
            if request.path.startswith(OWN):
                raise Refused(403, "not_by_token", "A token does not change what is a person's own.")
            return ""
        checked = self.csrf and not getattr(request, "_dont_enforce_csrf_checks", False)
        if checked and request.method not in SAFE and CSRF not in request.headers:
            raise HttpError(403, "CSRF check Failed")
        return super()._get_key(request)

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        if not request.user.is_authenticated or _of_another(request):
            return None
        if request.user.must_change and not request.path.startswith(TO_CHANGE):
            raise Refused(
                403, "password_to_change", "Your password was made by an admin. Choose your own to go on."
            )
        return request.user
