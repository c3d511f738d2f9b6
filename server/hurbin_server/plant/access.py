"""Who may see and do what: one place, one question."""

from __future__ import annotations

from typing import TypeVar

from django.db.models import QuerySet

from hurbin_server.base import versions
from hurbin_server.base.asking import ask
from hurbin_server.base.door import STILL_MAY, once, rights_on
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User

from .known import known_set
from .models import Component, Membership, PumpSet, Service, Site

_RANK = {"viewer": 0, "technician": 1, "lead": 2, "admin": 3}


def role_on(user: User, site_id: int) -> str | None:
    return once(("role", user.pk, site_id), lambda: _role_on(user, site_id))


_MEMBER = "SELECT role, active{more} FROM plant_membership WHERE user_id = %s AND site_id = %s"


def _role_on(user: User, site_id: int) -> str | None:
    if _elsewhere(user, site_id):
        return None
    return _capped(user, _member(_MEMBER.format(more=""), [user.pk, site_id])[0])


def _elsewhere(user: User, site_id: int) -> bool:
    """Whoever comes in by a token or a PIN is on its site alone: of others not even an end of access is
    told.
    """
    return user.only is not None and user.only[0] != site_id


def _capped(user: User, role: str | None) -> str | None:
    """By a token or a PIN nobody is more than it opens, and than he is himself."""
    if user.only is None or role is None:
        return role
    return min(role, user.only[1], key=_RANK.__getitem__)


def sites_of(user: User) -> QuerySet[Membership]:
    """Where this person may look, by the code of the site."""
    rows = Membership.objects.filter(user=user, active=True).select_related("site").order_by("site__code")
    return rows if user.only is None else rows.filter(site_id=user.only[0])


def role_and_state(user: User, site_id: int) -> tuple[str, str]:
    """In one question: whether this person may look at the site, as what, and in which state all of it is."""
    sql = _MEMBER.format(more=f", ({versions.OF_SITE})")
    found, state = ("", "") if _elsewhere(user, site_id) else _member(sql, [site_id, user.pk, site_id])
    role = _capped(user, found or None)
    if role is None:
        raise not_found("Site")
    return role, state


def _member(sql: str, params: list[int]) -> tuple[str | None, str]:
    found = ask(sql, params)
    if not found:
        return None, ""
    if not found[0][1]:
        raise Refused(
            403,
            "disabled",
            "An admin has ended your access to this site. Entries not yet sent stay on this device.",
        )
    return str(found[0][0]), str(found[0][-1])


def require(user: User, site_id: int, at_least: str = "viewer") -> str:
    """The user's role on the site, if it is enough. 404 for a stranger, 403 for too small a role."""
    rights_on(site_id)
    role = role_on(user, site_id)
    if role is None:
        raise not_found("Site")
    enough(user, role, at_least)
    return role


def enough(user: User, role: str, at_least: str) -> None:
    if _RANK[role] < _RANK[at_least]:
        capped = user.only is not None and not user.by_token and user.only[1] == role
        more = " You came in by PIN: sign in with your password for more." if capped else ""
        said = f"This needs {at_least} rights. Your role on this site: {role}.{more}"
        raise Refused(403, "forbidden", said)


def site_for(user: User, site_id: int, at_least: str = "viewer") -> Site:
    require(user, site_id, at_least)
    return Site.objects.get(pk=site_id)


def hold_set(pk: int) -> None:
    """Lock a set until the act ends: whoever else changes something of it waits."""
    PumpSet.objects.select_for_update().only("pk").get(pk=pk)


def hold_site(pk: int) -> None:
    """Lock a site for what belongs to none of its sets."""
    Site.objects.select_for_update().only("pk").get(pk=pk)


T = TypeVar("T", PumpSet, Component, Service)


def _on_site(found: T | None, what: str, user: User, at_least: str) -> T:
    role = role_on(user, found.site_id) if found is not None else None
    if found is None or role is None:
        raise not_found(what)
    enough(user, role, at_least)
    rights_on(found.site_id)
    return found


def set_for(user: User, set_id: int, at_least: str = "viewer") -> PumpSet:
    return _on_site(known_set(set_id), "Pump set", user, at_least)


def may_see_set(user: User, set_id: int) -> None:
    """In one question: may this person look at this set? 404 for a stranger, 403 where access has ended."""
    found = ask(
        "SELECT m.active, s.site_id FROM plant_membership m JOIN plant_pumpset s ON s.site_id = m.site_id"
        " WHERE s.id = %s AND m.user_id = %s",
        [set_id, user.pk],
    )
    if not found or _elsewhere(user, found[0][1]):
        raise not_found("Pump set")
    if not found[0][0]:
        role_on(user, found[0][1])


def component_for(user: User, component_id: int, at_least: str = "viewer") -> Component:
    found = Component.objects.select_related("site").filter(pk=component_id).first()
    return _on_site(found, "Part", user, at_least)


def service_for(user: User, service_id: int, at_least: str = "viewer") -> Service:
    found = Service.objects.select_related("site").filter(pk=service_id).first()
    return _on_site(found, "Service", user, at_least)


STILL_MAY.append(require)
