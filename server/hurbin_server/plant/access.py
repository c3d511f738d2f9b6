"""Who may see and do what: one place, one question."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from hurbin_server.base.door import looked_up
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User

from .models import Component, Membership, PumpSet, Service, Site

R = TypeVar("R")
_RANK = {"viewer": 0, "technician": 1, "lead": 2, "admin": 3}
_WORDS = {"technician": "A technician's", "lead": "A lead's", "admin": "An admin's"}


def _once(key: tuple[str, int, int], ask: Callable[[], R]) -> R:
    """Asked once in the same read, which is of one moment; every time in an act."""
    held = looked_up.get()
    if held is None:
        return ask()
    if key not in held:
        held[key] = ask()
    return held[key]  # type: ignore[no-any-return]


def role_on(user: User, site_id: int) -> str | None:
    return _once(("role", user.pk, site_id), lambda: _role_on(user, site_id))


def _role_on(user: User, site_id: int) -> str | None:
    row = Membership.objects.filter(user=user, site_id=site_id).values_list("role", "active").first()
    if row is not None and not row[1]:
        raise Refused(
            403,
            "disabled",
            "An admin has ended your access to this site. What you typed stays on this device.",
        )
    return str(row[0]) if row else None


def require(user: User, site_id: int, at_least: str = "viewer") -> str:
    """The user's role on the site, if it is enough. 404 for a stranger, 403 for too small a role."""
    role = role_on(user, site_id)
    if role is None:
        raise not_found("That site")
    enough(role, at_least)
    return role


def enough(role: str, at_least: str) -> None:
    if _RANK[role] < _RANK[at_least]:
        raise Refused(
            403, "forbidden", f"{_WORDS[at_least]} rights are needed for that; yours here are a {role}'s."
        )


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


def _on_site(model: type[T], what: str, user: User, pk: int, at_least: str) -> T:
    rows = model.objects.select_related("site")
    found = _once((model.__name__, 0, pk), lambda: rows.filter(pk=pk).first())
    role = role_on(user, found.site_id) if found is not None else None
    if found is None or role is None:
        raise not_found(what)
    enough(role, at_least)
    return found


def set_for(user: User, set_id: int, at_least: str = "viewer") -> PumpSet:
    return _on_site(PumpSet, "That pump set", user, set_id, at_least)


def may_see_set(user: User, set_id: int) -> None:
    """In one question: may this person look at this set? 404 for a stranger, 403 where access has ended."""
    row = Membership.objects.filter(user=user, site__sets=set_id).values_list("active", flat=True).first()
    if row is None:
        raise not_found("That pump set")
    if not row:
        role_on(user, PumpSet.objects.values_list("site_id", flat=True).get(pk=set_id))


def component_for(user: User, component_id: int, at_least: str = "viewer") -> Component:
    return _on_site(Component, "That part", user, component_id, at_least)


def service_for(user: User, service_id: int, at_least: str = "viewer") -> Service:
    return _on_site(Service, "That service", user, service_id, at_least)
