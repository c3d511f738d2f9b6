"""Tablets that the people of a site share: who holds one now, and what a session on it is good for."""

from __future__ import annotations

import secrets
from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest, HttpResponse

from .clock import now
from .models import Session, Tablet, User
from .tokens import MOST, digest_of

COOKIE = "hurbin_tablet"
MARK = "ht_"
LASTS = timedelta(days=400)
# What a session on one keeps.
TABLET, SITE, BY_PIN, KNOWN = "tablet", "tablet_site", "by_pin", "known_at"
# Whoever came in by a PIN is no more than this there: what an admin does takes his password.
MOST_BY_PIN = "lead"


def new_tablet(user: User, site: int, title: str) -> tuple[Tablet, str]:
    """A new one, and its key in clear, for the cookie of the browser that asked."""
    key = MARK + secrets.token_urlsafe(32)
    made = Tablet.objects.create(site=site, title=title, digest=digest_of(key), made_by=user, made_at=now())
    return made, key


def give_key(answer: HttpResponse, key: str) -> None:
    """No script of the page can read it, and no other site sends it."""
    answer.set_cookie(
        COOKIE,
        key,
        max_age=LASTS,
        path="/api/",
        secure=settings.TLS,
        httponly=True,
        samesite="Strict",
    )


def tablet_of(request: HttpRequest) -> Tablet | None:
    """The tablet that this request comes from; None: from none that stands."""
    key = request.COOKIES.get(COOKIE, "")
    if not key.startswith(MARK) or len(key) > MOST:
        return None
    return Tablet.objects.filter(digest=digest_of(key), ended_at=None).first()


def come_in(request: HttpRequest, user: User, tablet: Tablet | None, by_pin: bool = False) -> None:
    """Sign this person in, on a tablet or on a device of his own."""
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    # On one's own again after somebody who shared it: of his session nothing is left.
    for name in (TABLET, SITE, BY_PIN, KNOWN):
        request.session.pop(name, None)
    if tablet is not None:
        share(request, tablet, by_pin)
        Tablet.objects.filter(pk=tablet.pk).update(used_at=now())
    held(request.user, request.session)


def share(request: HttpRequest, tablet: Tablet, by_pin: bool = False) -> None:
    """From here on this session is one on a tablet of several people."""
    request.session.update({TABLET: tablet.pk, SITE: tablet.site, BY_PIN: by_pin})


def known_again(request: HttpRequest) -> None:
    """Whoever holds the tablet has just shown that he is the one who is signed in."""
    request.session[KNOWN] = now().isoformat()


def held(person: User, session: Mapping[str, Any]) -> None:
    """Tell the person of a request what his session says of the device in his hand."""
    if TABLET not in session:
        return
    person.shared = True
    said = session.get(KNOWN)
    person.known_at = datetime.fromisoformat(said) if said else None
    if session.get(BY_PIN):
        person.only = (session[SITE], MOST_BY_PIN)
        person.may_make_sites = False


def end_tablet(tablet: Tablet) -> None:
    """It is nobody's tablet any more; whoever is signed in on it is signed out."""
    tablet.ended_at = now()
    tablet.save(update_fields=["ended_at"])
    Session.objects.filter(tablet=tablet).delete()
