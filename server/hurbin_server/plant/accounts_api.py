"""The sign-ins of a site's people, its tokens and its machine, for its admins."""

from __future__ import annotations

from datetime import datetime
from typing import ClassVar, Literal

from django.http import HttpRequest
from ninja import Status
from pydantic import BaseModel, Field

from hurbin_core.plant import OneLine
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.models import Token
from hurbin_server.base.prefs import prefs_of

from .machine import MachineOut, machine
from .services import accounts

router = DoorRouter(tags=["accounts"])


class OneTimeOut(BaseModel):
    """A password for one sign-in: shown once, kept nowhere."""

    TOLD_ONCE: ClassVar[set[str]] = {"password"}

    username: str
    password: str = ""


class ActiveIn(BaseModel):
    active: bool


class DoneOut(BaseModel):
    """How many it was done to: sessions, or addresses."""

    n: int


class TokenIn(BaseModel):
    title: OneLine = Field(min_length=1, max_length=60, title="What it is for")
    role: Literal["viewer", "technician", "lead"]


class TokenOut(BaseModel):
    """A token of the site. key: in the answer to its making alone."""

    TOLD_ONCE: ClassVar[set[str]] = {"key"}

    id: int
    title: str
    role: str
    by: str
    made_at: datetime
    used_at: datetime | None
    ended_at: datetime | None
    key: str = ""


def token_out(t: Token, key: str = "") -> TokenOut:
    return TokenOut(
        id=t.pk,
        title=t.title,
        role=t.role,
        by=t.user.full_name,
        made_at=t.made_at,
        used_at=t.used_at,
        ended_at=t.ended_at,
        key=key,
    )


_PERSON = "/sites/{site_id}/people/{username}"


@router.post(f"{_PERSON}/password", response={200: OneTimeOut, **ERRORS}, operation_id="reset_password")
def reset_password(request: HttpRequest, site_id: int, username: str) -> OneTimeOut:
    word = accounts.reset_password(request.user, site_id, username)
    return OneTimeOut(username=username, password=word)


@router.put(f"{_PERSON}/sign-in", response={200: DoneOut, **ERRORS}, operation_id="set_sign_in")
def set_sign_in(request: HttpRequest, site_id: int, username: str, body: ActiveIn) -> DoneOut:
    accounts.set_active(request.user, site_id, username, body.active)
    return DoneOut(n=1)


@router.post(f"{_PERSON}/sessions/end", response={200: DoneOut, **ERRORS}, operation_id="end_sessions")
def end_sessions(request: HttpRequest, site_id: int, username: str) -> DoneOut:
    return DoneOut(n=accounts.end_sessions(request.user, site_id, username))


@router.post(f"{_PERSON}/lock-out/lift", response={200: DoneOut, **ERRORS}, operation_id="lift_lock_out")
def lift_lock_out(request: HttpRequest, site_id: int, username: str) -> DoneOut:
    return DoneOut(n=accounts.lift_lock_out(request.user, site_id, username))


@router.get("/sites/{site_id}/tokens", response={200: list[TokenOut], **ERRORS}, operation_id="tokens")
def tokens(request: HttpRequest, site_id: int) -> list[TokenOut]:
    return [token_out(t) for t in accounts.tokens_of(request.user, site_id)]


@router.post("/sites/{site_id}/tokens", response={201: TokenOut, **ERRORS}, operation_id="make_token")
def make_token(request: HttpRequest, site_id: int, body: TokenIn) -> Status:
    made, key = accounts.make_token(request.user, site_id, body.title, body.role)
    return Status(201, token_out(made, key))


@router.delete("/tokens/{token_id}", response={200: TokenOut, **ERRORS}, operation_id="end_token")
def end_token(request: HttpRequest, token_id: int) -> TokenOut:
    return token_out(accounts.end_token(request.user, token_id))


@router.get("/sites/{site_id}/machine", response={200: MachineOut, **ERRORS}, operation_id="machine")
def of_the_machine(request: HttpRequest, site_id: int) -> MachineOut:
    return machine(request.user, site_id, prefs_of(request.user))
