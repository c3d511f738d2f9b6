"""PINs: by what somebody is known again on a tablet that is shared, and nowhere else."""

from __future__ import annotations

import re
from typing import Literal

from django.contrib.auth.hashers import check_password, make_password
from django.db.models import F

from . import audit
from .errors import Refused
from .models import Session, User

# So many wrong ones in a row, and only the password opens: four digits are soon tried through.
MOST_WRONG = 5
_DIGITS = re.compile(r"[0-9]{4,8}")
_RUNS = ("01234567890", "09876543210")
RIGHT = "4 to 8 digits, no row (1234) and no repeats (1111, 1212)"

State = Literal["none", "set", "rests"]


def state_of(user: User) -> State:
    """Has he a PIN, and does it open anything?"""
    return "none" if not user.pin else "set" if user.pin_wrong < MOST_WRONG else "rests"


def check_pin(pin: str) -> None:
    """Raises `pin_weak` (422) for one that is no PIN, or among the first that anybody would try."""
    pairs = len(pin) % 2 == 0 and pin == pin[:2] * (len(pin) // 2)
    if not _DIGITS.fullmatch(pin):
        said = "A PIN is 4 to 8 digits."
    elif len(set(pin)) == 1 or pairs or any(pin in run for run in _RUNS):
        said = "This PIN is among the first that anybody would try."
    else:
        return
    raise Refused(422, "pin_weak", said, field="pin", right=RIGHT)


def set_pin(user: User, pin: str, here: str = "") -> None:
    """Choose one, or none (empty). Whoever came in on a shared tablet by the one before is signed out, but
    for the session here.
    """
    if pin:
        check_pin(pin)
    user.pin, user.pin_wrong = make_password(pin) if pin else "", 0
    user.save(update_fields=["pin", "pin_wrong"])
    Session.objects.filter(user=user, tablet__isnull=False).exclude(session_key=here).delete()
    audit.note(user, "pin_set" if pin else "pin_removed", user.username)


def awake(user: User) -> None:
    """He came in by his password: what others tried before him counts no more."""
    User.objects.filter(pk=user.pk, pin_wrong__gt=0).update(pin_wrong=0)
    user.pin_wrong = 0


def opens(user: User, pin: str) -> bool:
    """Is this his PIN, and does it open anything? Counted before it is looked at, so that many at once are no
    more tries than one after the other; kept at once, whatever the request comes to.
    """
    waking = User.objects.filter(pk=user.pk, pin_wrong__lt=MOST_WRONG).exclude(pin="")
    if not waking.update(pin_wrong=F("pin_wrong") + 1):
        user.refresh_from_db(fields=["pin", "pin_wrong"])
        return False
    if check_password(pin, user.pin):
        awake(user)
        return True
    user.refresh_from_db(fields=["pin", "pin_wrong"])
    if user.pin_wrong >= MOST_WRONG:
        audit.note(user, "pin_rests", user.username)
    return False


def wrong(user: User | None) -> str:
    """What is said after a PIN that does not open."""
    if user is None or state_of(user) == "none":
        return "Wrong PIN."
    left = MOST_WRONG - user.pin_wrong
    if left <= 0:
        return f"Too many wrong PINs for {user.full_name}. The password opens, and wakes the PIN again."
    return f"Wrong PIN. {left} more, then only the password opens." if left < 3 else "Wrong PIN."
