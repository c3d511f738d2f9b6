"""Whose hand hangs a lock, on a device that several hands share."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime, timedelta

# What only one's own hand does, whoever else holds the device.
BY_HAND = ("lock", "unlock")
# Long enough to go round the sources of one set, too short to lay the device down and be taken for another.
KNOWN_FOR = timedelta(minutes=2)


def asks_again(kinds: Iterable[str], shared: bool, known_at: datetime | None, at: datetime) -> bool:
    """Must whoever sends these entries of make-safe show first that he is the one who is signed in?

    `kinds`: of the entries; `shared`: on a device of several people; `known_at`: when he showed it last on
    this session (None: never since he came in); `at`: now. A time ahead of now was not shown. The worst that
    still passes: somebody else takes the device out of his hand within the two minutes.

    A lock is under the control of the one who hung it (OSHA 29 CFR 1910.147(c)(5)(ii)(D) and (e)(3), from
    memory); the two minutes are common practice, no source.
    """
    if not shared or not any(k in BY_HAND for k in kinds):
        return False
    return known_at is None or not timedelta(0) <= at - known_at < KNOWN_FOR
