"""A dictionary of values that mean no good, put into what the fuzzer has made: into one place of a body, of
a query or of a path, in two of three calls.
"""

from __future__ import annotations

import copy
import random
from typing import Any

import schemathesis

SEED = 20261
SHARE = 0.66
HOSTILE: tuple[Any, ...] = (
    # Figures: digits without end, at the edge of what is kept, and none at all.
    "9" * 5000,
    "-" + "9" * 400,
    "1e999999",
    "NaN",
    "Infinity",
    "1,2,3",
    "٣٤",
    "0x10",
    2**31,
    2**63,
    2**64,
    -(2**63) - 1,
    10**400,
    1e308,
    -0.0,
    5e-324,
    # Times: beyond the years, at the edge of UTC, without a zone, leap seconds, folds.
    "0001-01-01T00:00:00+14:00",
    "9999-12-31T23:59:59-14:00",
    "0000-01-01T00:00:00Z",
    "2026-05-04T10:00:00",
    "2016-12-31T23:59:60Z",
    "2026-02-30T00:00:00Z",
    "2026-10-25T02:30:00+02:00",
    "1969-12-31T23:59:59.999999999Z",
    # Words: long, of more than one line, turned around, nothing that shows.
    "x" * 300,
    "T" * 60,
    "x" * 140_000,
    "a\rb",
    "a\r\nSet-Cookie: x=1",
    "a\x00b",
    "\u202e\u2066abc",
    "\ufeff",
    "a\u0301" * 200,
    "🐙" * 100,
    " ",
    "",
    # Words that are read by something else: tables, pages, paths, queries, formats.
    "=cmd|' /C calc'!A0",
    "\t=1+1",
    "<svg onload=alert(1)>",
    "../../../etc/passwd",
    "' OR 1=1 --",
    "{{7*7}} ${7*7} %s %n",
    "tag," + "," * 200_000,
    # Shapes: deep, wide, of another kind.
    None,
    True,
    [],
    {},
    [[]] * 300,
    {"text": "9" * 5000, "unit": "V"},
    {"text": "1", "unit": "\u0000"},
    {str(n): n for n in range(300)},
)
_rng = random.Random(SEED)


def _places(value: Any, at: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Every place in it, leaves and branches."""
    inside = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    return [at, *(place for key, x in inside for place in _places(x, (*at, key)))]


def _put(body: Any, place: tuple[Any, ...], value: Any) -> Any:
    if not place:
        return value
    made = copy.deepcopy(body)
    spot = made
    for key in place[:-1]:
        spot = spot[key]
    spot[place[-1]] = value
    return made


def _twice(body: Any) -> Any:
    """The same entry twice in a parcel, and now and then another one under its id."""
    entries = body["entries"] * 2
    if _rng.random() < 0.5 and isinstance(entries[-1], dict):
        entries[-1] = {**entries[-1], "device": "another"}
    return {**body, "entries": entries}


@schemathesis.hook
def before_call(context: Any, case: Any, kwargs: Any) -> None:
    """One place of what is sent is hostile."""
    if _rng.random() > SHARE:
        return
    body = case.body
    if isinstance(body, dict) and body.get("entries") and _rng.random() < 0.15:
        case.body = _twice(body)
    elif isinstance(body, dict | list) and body:
        case.body = _put(body, _rng.choice(_places(body)), _rng.choice(HOSTILE))
    elif case.query:
        name = _rng.choice(list(case.query))
        case.query = {**case.query, name: str(_rng.choice(HOSTILE))[:3000]}
