"""Where a page of a list ended, as a word that is given back for the next one."""

from __future__ import annotations

from datetime import datetime

from .errors import Refused


def cursor(at: datetime, pk: int) -> str:
    return f"{at.isoformat()}~{pk}"


def read_cursor(text: str) -> tuple[datetime, int]:
    """The place that a cursor names. Refused (422): a word that is none."""
    at, _, pk = text.partition("~")
    try:
        found = datetime.fromisoformat(at.replace(" ", "+"))
        if found.tzinfo is None:
            raise ValueError(text)
        return found, int(pk)
    except ValueError:
        message = "No such place in this list: start again from the top."
        raise Refused(422, "cursor_wrong", message, field="before", value=text[:60]) from None
