"""What a tag, a code and a name may be, on whichever way they come in."""

from __future__ import annotations

import re
import unicodedata
from typing import Annotated

from pydantic import AfterValidator

CODE = r"^[A-Za-z0-9][A-Za-z0-9._/-]*$"
_CODE = re.compile(CODE.removesuffix("$") + r"\Z")
# The most letters of what a register names.
MOST = {
    "service": 20,
    "service_name": 120,
    "tag": 30,
    "name": 120,
    "place": 120,
    "nickname": 60,
    "pair": 30,
}
CODES = ("service", "tag")
# Ends of lines, and what turns the way of writing around: neither stands in a name.
_NEVER = ("Cc", "Zl", "Zp", "Cs")
_TURNS = {chr(n) for n in (*range(0x202A, 0x202F), *range(0x2066, 0x206A))}


def one_line(text: str) -> str:
    """The text, if it is one line of letters that show. Raises ValueError for one with an end of line or a
    control character in it.

    >>> one_line("Cold water 2")
    'Cold water 2'
    """
    if any(unicodedata.category(c) in _NEVER or c in _TURNS for c in text):
        raise ValueError("one line of plain letters, without a break or a control character")
    return text


# A name in what is sent to the server.
OneLine = Annotated[str, AfterValidator(one_line)]


def wrong_name(field: str, text: str) -> str:
    """What is wrong with a cell of the register; empty: nothing. field: a column that names something.

    >>> wrong_name("tag", "C 1")
    'only letters, digits and . _ / - in a tag'
    """
    if len(text) > MOST[field]:
        return f"{len(text)} letters; {MOST[field]} at most"
    if field in CODES and text and not _CODE.match(text):
        return f"only letters, digits and . _ / - in a {field}"
    try:
        one_line(text)
    except ValueError as error:
        return str(error)
    return ""
