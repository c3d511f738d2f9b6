"""Who is signed in, in one question: Django's own database sessions with their person beside them, so that a
person's sessions can be found, too.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY, get_user
from django.contrib.auth.models import AnonymousUser
from django.contrib.sessions.backends.db import SessionStore as Plain
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import constant_time_compare
from django.utils.functional import SimpleLazyObject

from . import tablets, tokens
from .asking import row
from .clock import now
from .models import Session, User

_WITH_PERSON = """SELECT u.*, s.session_data AS kept FROM base_session s JOIN base_user u ON u.id = s.user_id
WHERE s.session_key = %s AND s.expire_date > %s"""


class SessionStore(Plain):
    """A session in the database, read together with its person."""

    person: User | None = None

    @classmethod
    def get_model_class(cls) -> type[Session]:
        return Session

    def create_model_instance(self, data: dict[str, Any]) -> Session:
        made: Session = super().create_model_instance(data)
        made.user_id = int(data[SESSION_KEY]) if SESSION_KEY in data else None
        made.tablet_id = data.get(tablets.TABLET)
        return made

    def load(self) -> dict[str, Any]:
        self.person = row(User, _WITH_PERSON, [self.session_key, now()])
        if self.person is None:
            return dict(super().load())
        return dict(self.decode(self.person.kept))  # type: ignore[attr-defined]


def signed_in(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: `request.user`, looked up when somebody asks."""

    def middleware(request: HttpRequest) -> HttpResponse:
        request.user = SimpleLazyObject(lambda: _person_of(request))  # type: ignore[assignment]
        return get_response(request)

    return middleware


def is_somebody(request: HttpRequest) -> bool:
    """Is this request, which no middleware has seen yet, one of somebody who is signed in?"""
    request.session = SessionStore(request.COOKIES.get(settings.SESSION_COOKIE_NAME))
    return bool(_person_of(request).is_authenticated)


def _person_of(request: HttpRequest) -> User | AnonymousUser:
    """Whose token or session it is; a token that does not stand is not made good by a session beside it."""
    if tokens.shows_token(request):
        return tokens.person_of(request) or AnonymousUser()
    person = _person_of_session(request)
    if isinstance(person, User):
        tablets.held(person, request.session)
    return person


def _person_of_session(request: HttpRequest) -> User | AnonymousUser:
    """The session's person, if the session says the same of him in every respect: his id, the way he came in,
    and the password he had then. Whatever else it says is for Django to judge.
    """
    session = request.session
    said, way, kept = (session.get(key) for key in (SESSION_KEY, BACKEND_SESSION_KEY, HASH_SESSION_KEY))
    person: User | None = getattr(session, "person", None)
    if (
        person is not None
        and person.is_active
        and said == str(person.pk)
        and way in settings.AUTHENTICATION_BACKENDS
        and constant_time_compare(kept or "", person.get_session_auth_hash())
    ):
        return person
    return get_user(request)  # type: ignore[return-value]
