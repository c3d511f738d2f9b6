"""What can be done to a sign-in: another password, an end to its sessions, a lock-out lifted."""

from __future__ import annotations

import secrets
from datetime import timedelta

from axes.models import AccessAttempt
from axes.utils import reset
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db.models import Max

from . import audit
from .clock import now
from .errors import Refused
from .models import Session, User

# Wrong passwords for so many names from one address within the time are no slip of the finger.
NAMES, WITHIN = 5, timedelta(minutes=10)
PAUSE = timedelta(seconds=15)


def check_word(word: str, user: User) -> None:
    """Raises `password_weak` (422) with every reason."""
    try:
        validate_password(word, user)
    except ValidationError as error:
        raise Refused(
            422,
            "password_weak",
            " ".join(error.messages),
            field="password",
            right="at least 10 characters, not a common password",
        ) from None


def change_password(user: User, old: str, new: str, here: str) -> None:
    """One's own password, the old one having been shown; every session but the one here ends. Refused (422):
    the new one is weak or the same.
    """
    check_word(new, user)
    if old == new:
        raise Refused(422, "password_same", "This is your old password.", field="password", right="another")
    user.set_password(new)
    user.must_change = False
    user.save(update_fields=["password", "must_change"])
    Session.objects.filter(user=user).exclude(session_key=here).delete()
    audit.note(user, "password_changed", user.username)


def one_time_password(by: User | None, person: User) -> str:
    """A password that opens the door once: whoever comes in by it has to choose his own. All sessions end."""
    word = secrets.token_urlsafe(12)
    person.set_password(word)
    person.must_change = True
    # Whoever lost the one may have lost the other.
    person.pin, person.pin_wrong = "", 0
    person.save(update_fields=["password", "must_change", "pin", "pin_wrong"])
    Session.objects.filter(user=person).delete()
    lift_lock_out(by, person)
    audit.note(by, "password_reset", person.username)
    return word


def set_active(by: User | None, person: User, active: bool) -> None:
    """May this person sign in at all? Without it every session ends."""
    person.is_active = active
    person.save(update_fields=["is_active"])
    if not active:
        Session.objects.filter(user=person).delete()
    audit.note(by, "sign_in_enabled" if active else "sign_in_disabled", person.username)


def end_sessions(by: User | None, person: User, but: str = "") -> int:
    """End the sessions of this person, all but one; how many they were."""
    ended, _ = Session.objects.filter(user=person).exclude(session_key=but).delete()
    audit.note(by, "sessions_ended", person.username, after={"ended": ended})
    return ended


def lift_lock_out(by: User | None, person: User) -> int:
    """Forget the wrong passwords that were given for this name; from how many addresses."""
    lifted = int(reset(username=person.username))
    if lifted:
        audit.note(by, "lock_out_lifted", person.username)
    return lifted


def slow_spraying(address: str) -> None:
    """Whoever tries one name after the other from one address tries slowly. Refused (429) within the pause;
    nobody elsewhere waits for it.
    """
    told = AccessAttempt.objects.filter(ip_address=address, attempt_time__gt=now() - WITHIN)
    found = told.aggregate(newest=Max("attempt_time"))
    if found["newest"] is None or told.values("username").distinct().count() < NAMES:
        return
    gone = now() - found["newest"]
    if gone < PAUSE:
        raise Refused(
            429,
            "slowed",
            f"Wrong passwords for {NAMES} names or more came from here. Try again in a moment.",
            retry_after=max(1, int((PAUSE - gone).total_seconds()) + 1),
        )
