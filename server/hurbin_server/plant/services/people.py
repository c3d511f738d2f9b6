"""Add, re-role and disable people on a site."""

from __future__ import annotations

import secrets
from typing import Any

from django.db import transaction

from hurbin_server.base import audit
from hurbin_server.base.accounts import check_word
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User

from ..access import site_for
from ..models import Membership


def make_user(username: str, full_name: str, password: str = "") -> tuple[User, str]:
    """A new sign-in; without a password one is made. Returns the user and the password in clear, once."""
    word = password or secrets.token_urlsafe(12)
    user = User(username=username, full_name=full_name or username)
    check_word(word, user)
    user.set_password(word)
    user.save()
    return user, word


def add_person(
    user: User, site_id: int, username: str, full_name: str, role: str, password: str
) -> tuple[Membership, str]:
    """A membership on the site; a new sign-in when nobody has that name yet."""
    site = site_for(user, site_id, "admin")
    with transaction.atomic():
        person = User.objects.filter(username=username).first()
        word = ""
        if person is None:
            person, word = make_user(username, full_name, password)
            # Who made it knows it, and so it opens the door once.
            person.must_change = True
            person.save(update_fields=["must_change"])
        elif not _known_to(user, person):
            raise Refused(
                409,
                "name_taken",
                "This user name is taken. Choose another, or ask whoever runs this machine.",
                field="username",
                value=username,
            )
        row, fresh = Membership.objects.get_or_create(user=person, site=site, defaults={"role": role})
        if not fresh:
            raise Refused(
                409,
                "person_here",
                f"{username} is already on this site. Change the role in the list.",
                field="username",
                value=username,
            )
        audit.note(user, "person_added", username, site_id=site_id, after={"role": role})
    return row, word


def _known_to(user: User, person: User) -> bool:
    """Does this admin meet that person on a site of his? Of anybody else he is told nothing, not a name."""
    mine = Membership.objects.filter(user=user, active=True, role="admin").values("site")
    return Membership.objects.filter(user=person, site__in=mine).exists()


def change_person(user: User, site_id: int, username: str, changes: dict[str, Any]) -> Membership:
    """Another role, or access ended or given back. A site keeps at least one admin."""
    site = site_for(user, site_id, "admin")
    with transaction.atomic():
        rows = list(Membership.objects.select_for_update().select_related("user").filter(site=site))
        row = next((m for m in rows if m.user.username == username), None)
        if row is None:
            raise Refused(404, "not_found", f"{username} is not on this site.")
        before = {"role": row.role, "active": row.active}
        row.role = changes.get("role") or row.role
        row.active = row.active if changes.get("active") is None else changes["active"]
        if not any(m.role == "admin" and m.active for m in rows):
            raise Refused(
                409, "last_admin", "A site needs at least one admin. Add another admin first.", field="role"
            )
        row.save()
        audit.note(
            user,
            "person_changed",
            username,
            site_id=site_id,
            before=before,
            after={"role": row.role, "active": row.active},
        )
    return row
