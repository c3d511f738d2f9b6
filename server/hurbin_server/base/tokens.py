"""Bearer tokens: what a script shows in the place of a session. Kept by digest, told once, ended by hand."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from django.http import HttpRequest

from .clock import now
from .models import Token, User

BEARER = "Bearer "
MARK = "hb_"
# Longer than any that is given out: what is longer is not even hashed.
MOST = 100
# How exactly the last use is told.
USED = timedelta(minutes=1)


def digest_of(key: str) -> str:
    return hashlib.sha256(key.encode()).hexdigest()


def new_token(user: User, site: int, role: str, title: str) -> tuple[Token, str]:
    """A new one, and its key in clear, which nobody can tell again."""
    key = MARK + secrets.token_urlsafe(32)
    made = Token.objects.create(
        user=user, site=site, role=role, title=title, digest=digest_of(key), made_at=now()
    )
    return made, key


def shows_token(request: HttpRequest) -> bool:
    return request.headers.get("Authorization", "").startswith(BEARER)


def person_of(request: HttpRequest) -> User | None:
    """Whose token this request shows, held to its site and role; None: no token that stands."""
    key = request.headers.get("Authorization", "").removeprefix(BEARER).strip()
    if not key.startswith(MARK) or len(key) > MOST:
        return None
    found = Token.objects.select_related("user").filter(digest=digest_of(key), ended_at=None).first()
    if found is None or not found.user.is_active or found.user.must_change:
        return None
    at = now()
    if found.used_at is None or not timedelta(0) <= at - found.used_at < USED:
        Token.objects.filter(pk=found.pk).update(used_at=at)
    found.user.only, found.user.by_token = (found.site, found.role), True
    found.user.may_make_sites = False
    return found.user
