"""Settings as a table: a line a parameter, its value, and its unit where it has one."""

from __future__ import annotations

from collections.abc import Mapping

from ...base import HurbinError, Problem, header_of, line, plain, rows_of
from .parameters import PARAMETERS, Decoded, read_setting

_HEADER = ("parameter", "value", "unit")
_MOST = 500


def read_settings(text: str) -> Decoded:
    """What does this file say a drive is set to? Parameters by their id or their title, in any case.

    Raises HurbinError where it has no such columns. A line that cannot be is named and not taken.
    """
    text = plain(text)
    header = [h.lower() for h in header_of(text)]
    if not {"parameter", "value"} <= set(header):
        raise HurbinError(
            "file_columns",
            "The file has no columns “parameter” and “value”.",
            field="file",
            value=", ".join(header)[:60],
            right=", ".join(_HEADER),
        )
    at = {name: header.index(name) for name in _HEADER if name in header}
    by_title = {p.title.lower(): p for p in PARAMETERS.values()}
    settings: dict[str, str] = {}
    problems: list[Problem] = []
    for n, cells in rows_of(text):
        if n > _MOST:
            raise HurbinError("file_long", f"More than {_MOST} lines: not a drive's settings.", field="file")
        named, value, unit = (cells[at[c]] if c in at and at[c] < len(cells) else "" for c in _HEADER)
        p = PARAMETERS.get(named.lower()) or by_title.get(named.lower())
        if p is None:
            problems.append(
                _wrong(n, named, "parameter_unknown", f"“{named[:40]}” is no parameter known here.")
            )
            continue
        if p.id in settings:
            problems.append(_wrong(n, named, "parameter_twice", f"{p.title} is in the file twice."))
            continue
        said = f"{value} {unit}".strip() if value and not p.choices else value.lower()
        try:
            if read_setting(p, said) is not None:
                settings[p.id] = said
        except HurbinError as error:
            problems.append(_wrong(n, value, error.code, str(error)))
    return Decoded(settings, problems)


def _wrong(n: int, value: str, code: str, message: str) -> Problem:
    return Problem(code=code, field=f"line {n}", value=value[:60], message=f"Line {n}: {message}")


def write_settings(settings: Mapping[str, str]) -> str:
    """Settings as such a file, with the unit of each figure that was typed without one."""
    out = [line(_HEADER)]
    for k, text in settings.items():
        p = PARAMETERS[k]
        bare = bool(text) and not p.choices and not any(c.isalpha() or c in "%°" for c in text)
        out.append(line((k, text, p.unit if bare and p.unit != "1" else "")))
    return "".join(out)
