"""What an admin of a site may do to the sign-ins of its people, and the tokens of the site."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from hurbin_server.base import accounts, audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import Session, Token, User
from hurbin_server.base.tokens import new_token

from ..access import role_on, site_for
from ..models import Membership

T = TypeVar("T")
# A token is nobody's hand: it keeps no people and no site.
TOKEN_ROLES = ("viewer", "technician", "lead")
MOST_TOKENS = 40


def person_for(user: User, site_id: int, username: str) -> User:
    """Somebody of this site, for what touches all of his sign-in. Refused: not on the site (404); on another
    site, too, of which this user is no admin (409): whoever runs the machine decides there.
    """
    site_for(user, site_id, "admin")
    row = Membership.objects.select_related("user").filter(site=site_id, user__username=username).first()
    if row is None:
        raise Refused(404, "not_found", f"{username} is not on this site.")
    others = Membership.objects.filter(user=row.user, active=True).values_list("site_id", flat=True)
    if any(role_on(user, other) != "admin" for other in others):
        said = f"{username} works elsewhere too. Whoever runs this machine can do it: ./hurbin user."
        raise Refused(409, "works_elsewhere", said)
    return row.user


def reset_password(user: User, site_id: int, username: str) -> str:
    """A password for one sign-in, told once. Refused for oneself (409): that is changed, not reset."""
    person = person_for(user, site_id, username)
    if person.pk == user.pk:
        raise Refused(409, "own_password", "Change your own password on your own page.")
    return accounts.one_time_password(user, person)


def set_active(user: User, site_id: int, username: str, active: bool) -> None:
    person = person_for(user, site_id, username)
    if person.pk == user.pk:
        raise Refused(409, "own_sign_in", "Nobody takes his own sign-in away.")
    accounts.set_active(user, person, active)


def end_sessions(user: User, site_id: int, username: str) -> int:
    return accounts.end_sessions(user, person_for(user, site_id, username))


def lift_lock_out(user: User, site_id: int, username: str) -> int:
    return accounts.lift_lock_out(user, person_for(user, site_id, username))


def sessions_of(people: list[User]) -> dict[int, int]:
    """How many sessions of each stand."""
    out: dict[int, int] = {}
    for pk in Session.objects.filter(user__in=people, expire_date__gt=now()).values_list("user", flat=True):
        if pk is not None:
            out[pk] = out.get(pk, 0) + 1
    return out


def tokens_of(user: User, site_id: int) -> list[Token]:
    site_for(user, site_id, "admin")
    return list(Token.objects.filter(site=site_id).select_related("user").order_by("-made_at", "-pk"))


def make_token(user: User, site_id: int, title: str, role: str) -> tuple[Token, str]:
    """A token in one's own name. Refused (409): too many stand."""
    site_for(user, site_id, "admin")
    if Token.objects.filter(site=site_id, ended_at=None).count() >= MOST_TOKENS:
        raise Refused(409, "tokens_full", f"Limit reached: {MOST_TOKENS} tokens. End one first.")
    made, key = new_token(user, site_id, role, title.strip())
    audit.note(user, "token_made", title, site_id=site_id, after={"role": role})
    return made, key


def end_token(user: User, token_id: int) -> Token:
    """A token that stands no more. Ended twice it is ended once."""
    found = Token.objects.select_related("user").filter(pk=token_id).first()
    if found is None or role_on(user, found.site) is None:
        raise not_found("Token")
    site_for(user, found.site, "admin")
    if found.ended_at is None:
        found.ended_at = now()
        found.save(update_fields=["ended_at"])
        audit.note(user, "token_ended", found.title, site_id=found.site)
    return found


def by_name(username: str, do: Callable[[User], T]) -> T:
    """From the command line: whoever runs the machine is asked nothing."""
    person = User.objects.filter(username=username).first()
    if person is None:
        raise Refused(404, "not_found", f"Nobody signs in as {username}.")
    return do(person)
