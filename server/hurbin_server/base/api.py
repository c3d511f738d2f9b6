"""Session, own preferences, health, and what the fields of a figure may take."""

from __future__ import annotations

from typing import Literal

from django.contrib.auth import authenticate, logout, update_session_auth_hash
from django.db import connection
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router
from ninja.utils import check_csrf
from pydantic import BaseModel, Field

from hurbin_core.base import DIMENSIONS, rules_version

from . import accounts, audit, pins, tablets
from .address import address_of
from .clock import now
from .door import act
from .errors import ERRORS, Refused
from .limiting import SIGN_IN
from .models import User
from .prefs import check_units

router = Router(tags=["base"])


class Me(BaseModel):
    username: str
    full_name: str
    may_make_sites: bool
    units: dict[str, str]
    locale: str
    sheet: str
    hand: str
    must_change: bool
    shared: bool
    pin: pins.State


class SessionOut(BaseModel):
    """Signed-in user (null: none), server time, and the CSRF token for writes."""

    me: Me | None
    csrf: str
    now: str
    rules_version: str
    demo: bool


class SignIn(BaseModel):
    username: str = Field(max_length=60)
    password: str = Field(max_length=200)


class NewPassword(BaseModel):
    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class PinIn(BaseModel):
    """pin: empty to have none."""

    password: str = Field(max_length=200)
    pin: str = Field(default="", max_length=20)


class Again(BaseModel):
    """One of the two."""

    pin: str = Field(default="", max_length=20)
    password: str = Field(default="", max_length=200)


class PrefsIn(BaseModel):
    units: dict[str, str] | None = None
    locale: str | None = Field(default=None, max_length=12)
    sheet: Literal["light", "night"] | None = None
    hand: Literal["left", "right"] | None = None


class SessionsEnded(BaseModel):
    ended: int


class Health(BaseModel):
    database: str


class UnitOut(BaseModel):
    code: str
    symbol: str


def me_of(user: User) -> Me:
    return Me(
        username=user.username,
        full_name=user.full_name,
        may_make_sites=user.may_make_sites,
        units=user.units,
        locale=user.locale,
        sheet=user.sheet,
        hand=user.hand,
        must_change=user.must_change,
        shared=user.shared,
        pin=pins.state_of(user),
    )


def session_of(request: HttpRequest) -> SessionOut:
    from django.conf import settings

    user = request.user if request.user.is_authenticated else None
    return SessionOut(
        me=me_of(user) if user else None,
        csrf=get_token(request),
        now=now().isoformat(),
        rules_version=rules_version(),
        demo=settings.DEMO,
    )


@router.get("/health", auth=None, response={200: Health, 503: ERRORS[503]}, operation_id="health")
def health(request: HttpRequest) -> Health:
    with connection.cursor() as cursor:
        cursor.execute("select 1")
    return Health(database="answers")


@router.get("/session", auth=None, response={200: SessionOut, 503: ERRORS[503]}, operation_id="session")
def session(request: HttpRequest) -> SessionOut:
    return session_of(request)


@router.post(
    "/session", auth=None, response={200: SessionOut, **ERRORS}, operation_id="sign_in", throttle=SIGN_IN
)
def sign_in(request: HttpRequest, body: SignIn) -> SessionOut:
    if check_csrf(request) is not None:
        raise Refused(403, "csrf", "This page has expired. Reload it and sign in.")
    accounts.slow_spraying(address_of(request))
    user = authenticate(request, username=body.username, password=body.password)
    if user is None:
        raise Refused(401, "wrong_password", "Wrong user name or password.")
    pins.awake(user)
    tablet = tablets.tablet_of(request)
    tablets.come_in(request, user, tablet)
    audit.note(user, "signed_in", address_of(request), after={"tablet": tablet.title} if tablet else None)
    return session_of(request)


@router.delete("/session", response={200: SessionOut, **ERRORS}, operation_id="sign_out")
def sign_out(request: HttpRequest) -> SessionOut:
    audit.note(request.user, "signed_out", address_of(request))
    logout(request)
    return session_of(request)


@router.patch("/me", response={200: Me, **ERRORS}, operation_id="set_preferences")
def set_preferences(request: HttpRequest, body: PrefsIn) -> Me:
    user: User = request.user
    if body.units is not None:
        check_units(body.units)
        user.units = {**user.units, **body.units}
    for name in ("locale", "sheet", "hand"):
        value = getattr(body, name)
        if value is not None:
            setattr(user, name, value)
    act(lambda: user.save(update_fields=["units", "locale", "sheet", "hand"]))
    return me_of(user)


def _is_his(request: HttpRequest, password: str) -> bool:
    """His password? Wrong ones are counted as at the sign-in."""
    return authenticate(request, username=request.user.username, password=password) == request.user


@router.post(
    "/me/password", response={200: SessionOut, **ERRORS}, operation_id="change_password", throttle=SIGN_IN
)
def change_password(request: HttpRequest, body: NewPassword) -> SessionOut:
    """Another password of one's own: every other session of this person ends."""
    here = request.session.session_key or ""
    if not _is_his(request, body.old):
        raise Refused(422, "old_password_wrong", "This is not your password now.", field="old")
    act(lambda: accounts.change_password(request.user, body.old, body.new, here))
    update_session_auth_hash(request, request.user)
    return session_of(request)


@router.post("/me/pin", response={200: SessionOut, **ERRORS}, operation_id="set_pin", throttle=SIGN_IN)
def set_pin(request: HttpRequest, body: PinIn) -> SessionOut:
    """A PIN for tablets that are shared; nothing else is opened by it."""
    if body.pin:
        pins.check_pin(body.pin)
    if not _is_his(request, body.password):
        raise Refused(422, "password_wrong", "This is not your password.", field="password")
    here = request.session.session_key or ""
    act(lambda: pins.set_pin(request.user, body.pin, here))
    return session_of(request)


@router.post(
    "/session/again", response={200: SessionOut, **ERRORS}, operation_id="show_again", throttle=SIGN_IN
)
def show_again(request: HttpRequest, body: Again) -> SessionOut:
    """Whoever holds the tablet shows that he is the one who is signed in, by his PIN or his password."""
    user: User = request.user
    if body.password and not _is_his(request, body.password):
        raise Refused(422, "password_wrong", "This is not your password.", field="password")
    if not body.password and not pins.opens(user, body.pin):
        code = "pin_wrong" if pins.state_of(user) == "set" else "pin_opens_not"
        raise Refused(422, code, pins.wrong(user), field="pin")
    if body.password:
        pins.awake(user)
    tablets.known_again(request)
    return session_of(request)


@router.post("/me/sessions/end", response={200: SessionsEnded, **ERRORS}, operation_id="end_other_sessions")
def end_other_sessions(request: HttpRequest) -> SessionsEnded:
    """Sign out everywhere else."""
    mine = request.session.session_key or ""
    return SessionsEnded(ended=act(lambda: accounts.end_sessions(request.user, request.user, but=mine)))


@router.get("/units", response={200: dict[str, list[UnitOut]], **ERRORS}, operation_id="units")
def units(request: HttpRequest) -> dict[str, list[UnitOut]]:
    return {d: [UnitOut(code=u.code, symbol=u.symbol) for u in us] for d, us in DIMENSIONS.items()}
