"""The tablets that the people of a site share, and who may be known by a PIN on one."""

from __future__ import annotations

from hurbin_server.base import audit, pins
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import Tablet, User
from hurbin_server.base.tablets import end_tablet, new_tablet

from ..access import role_on, site_for
from ..models import Membership

MOST_TABLETS = 40


def tablets_on(user: User, site_id: int) -> list[Tablet]:
    site_for(user, site_id, "lead")
    return list(Tablet.objects.filter(site=site_id).select_related("made_by").order_by("-made_at", "-pk"))


def make_tablet(user: User, site_id: int, title: str) -> tuple[Tablet, str]:
    """The browser that asks becomes one of the site's, with the key for its cookie. Refused: less than a lead
    (403); by a PIN, a token or on another tablet (409); too many stand (409).
    """
    site_for(user, site_id, "lead")
    if user.only is not None or user.shared:
        said = "This browser is a shared tablet already. End that first, then sign in with your password."
        raise Refused(409, "tablet_already", said)
    if Tablet.objects.filter(site=site_id, ended_at=None).count() >= MOST_TABLETS:
        raise Refused(409, "tablets_full", f"Limit reached: {MOST_TABLETS} tablets. End one first.")
    made, key = new_tablet(user, site_id, title.strip())
    audit.note(user, "tablet_made", made.title, site_id=site_id)
    return made, key


def end(user: User, tablet_id: int) -> Tablet:
    """A tablet that is shared no more: whoever is signed in on it is signed out. Ended twice it is ended
    once.
    """
    found = Tablet.objects.select_related("made_by").filter(pk=tablet_id).first()
    if found is None or role_on(user, found.site) is None:
        raise not_found("Tablet")
    site_for(user, found.site, "lead")
    if found.ended_at is None:
        end_tablet(found)
        audit.note(user, "tablet_ended", found.title, site_id=found.site)
    return found


def people_of(tablet: Tablet) -> list[User]:
    """Who may come in by a PIN there: of its site, with a sign-in, with a PIN, by name."""
    rows = Membership.objects.filter(site=tablet.site, active=True, user__is_active=True)
    rows = rows.filter(user__must_change=False).exclude(user__pin="").select_related("user")
    return sorted((m.user for m in rows), key=lambda u: (u.full_name.casefold(), u.pk))


def known_by_pin(tablet: Tablet, username: str, pin: str) -> User:
    """Who comes in. Refused (401): nobody of these, another PIN, one that rests after too many wrong ones."""
    person = next((p for p in people_of(tablet) if p.username == username), None)
    if person is None or not pins.opens(person, pin):
        resting = person is not None and pins.state_of(person) == "rests"
        raise Refused(401, "pin_rests" if resting else "pin_wrong", pins.wrong(person), field="pin")
    return person
