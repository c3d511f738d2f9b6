"""The same again: what is sent twice is done once; whoever comes second is told what the first one did."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.db.models import Model

from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User

WORDS = {"call": "call", "change": "temporary change", "deferral": "decision", "trial": "release"}


def the_same(what: str, held: Model, said: dict[str, Any], made: bool = False) -> None:
    """What is on file under this id says what is said now. Refused (409): it says something else."""
    if made:
        return
    for name, wanted in said.items():
        there = getattr(held, name)
        if isinstance(wanted, datetime):
            differs = abs(there - wanted) > timedelta(milliseconds=1)
        else:
            differs = there != wanted
        if differs:
            raise Refused(
                409,
                f"{what}_differs",
                f"Another {WORDS[what]} is on file under this id; it stays as it is. Send this anew.",
            )


def done_before(user: User, did: str, by: User | None, at: datetime | None, there: str, said: str) -> None:
    """It was done already: by this person in the same words it is the same, else it is told (409)."""
    if by == user and there == said:
        return
    who = by.full_name if by is not None else "Somebody"
    when = f" on {at:%Y-%m-%d at %H:%M} UTC" if at is not None else ""
    words = f": “{there}”" if there else ""
    raise Refused(
        409,
        "done_before",
        f"{who} {did} before you{when}{words}. What you wrote was not kept.",
        current={"by": who, "at": at.isoformat() if at else "", "said": there},
    )
