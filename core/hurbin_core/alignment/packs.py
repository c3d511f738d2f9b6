"""A pack of shims as people write it: `0.50 + 0.25`, `2 x 0.10 + ?`, `10 + 5 mil`, `none`."""

from __future__ import annotations

import re
from collections.abc import Sequence

from ..base import Entered, FieldRule, HurbinError, find_unit, read
from .shims import Pack, tenths

_NONE = ("none", "nothing", "0", "-", "–")
_SPLIT = re.compile(r"\s*(?:\+|;|\s)\s*")
_TIMES = re.compile(r"([0-9]+)\s*[x×]\s*")
THICKEST_MM = 60.0
BARE_MM = 5.0  # no shim under a motor is thicker: a bare figure over it was meant in thousandths
MOST_WRITTEN = 20


def parse_pack(text: str, field: str) -> tuple[Pack, int] | None:
    """The measured pieces of a pack, sorted, in tenths of a micrometre, and how many were not measured (`?`).
    None: nothing was said.

    The unit stands once at the end (mm when it is not said). Raises HurbinError for what is no thickness.

    >>> parse_pack("2 x 0.10 + 0,25 mm", "pack_front_left")
    ((1000, 1000, 2500), 0)
    >>> parse_pack("10 + ? mil", "pack_front_left")
    ((2540,), 1)
    """
    said = text.strip()
    if not said:
        return None
    if said.lower() in _NONE:
        return (), 0
    words = said.rsplit(None, 1)
    last = re.search(r"[^\d\s.,?+;x×]+$", words[-1])
    unit = find_unit(last.group(), "length") if last else None
    if last is not None and unit is None:
        raise HurbinError(
            "unit_unknown",
            f"“{last.group()}” is not a thickness unit.",
            field=field,
            value=text,
            right="0.50 + 0.25 mm, or 10 + 5 mil",
        )
    figures = said[: len(said) - len(last.group())].strip() if last else said
    figures = _TIMES.sub(lambda m: f"{m.group(1)}×", figures)
    pieces: list[int] = []
    unmeasured = 0
    for word in (w for w in _SPLIT.split(figures) if w):
        many, _, size = word.rpartition("×")
        count = _count(many, field, text)
        if len(pieces) + unmeasured + count > MOST_WRITTEN:
            raise _too_many(field, text)
        if size == "?":
            unmeasured += count
            continue
        thick = _thickness(size, unit.code if unit else "mm", field, text)
        if unit is None and thick > tenths(BARE_MM):
            message = f"“{size}” has no unit: {size} mm, or thousandths of an inch? Write it with its unit."
            raise HurbinError(
                "unit_asked", message, field=field, value=text, right=f"{size} mil, or {size} mm"
            )
        pieces += [thick] * count
    return tuple(sorted(pieces)), unmeasured


def _count(many: str, field: str, text: str) -> int:
    if not many:
        return 1
    if not re.fullmatch(r"[0-9]{1,3}", many):
        raise (
            _too_many(field, text)
            if many.isascii() and many.isdigit()
            else HurbinError(
                "count_wrong",
                f"“{many}” is not a count of shims.",
                field=field,
                value=text,
                right="2 x 0.10 mm",
            )
        )
    return int(many)


def _too_many(field: str, text: str) -> HurbinError:
    message = "More than twenty shims under one foot: check the count."
    return HurbinError(
        "pack_too_many", message, field=field, value=text, right="five at most (common practice)"
    )


def _thickness(size: str, unit: str, field: str, text: str) -> int:
    try:
        got = read(Entered(text=size, unit=unit), FieldRule(field, "Shim", "length", 0.0, THICKEST_MM))
    except HurbinError as error:
        raise HurbinError(
            error.code,
            f"“{size}” is not a shim thickness: {error}",
            field=field,
            value=text,
            right="0.50 + 0.25 mm",
        ) from error
    thick = tenths(got.value) if got is not None else 0
    if thick <= 0:
        raise HurbinError(
            "thickness_zero",
            "A shim must have a thickness. Measure it, or enter ? for it.",
            field=field,
            value=text,
            right="0.50 + 0.25 mm",
        )
    return thick


def write_pack(pack: Sequence[int], unmeasured: int = 0) -> str:
    """A pack as it is typed, in mm.

    >>> write_pack((2500, 5000), 1)
    '0.5 + 0.25 + ? mm'
    """
    parts = [f"{t / 10000:.4f}".rstrip("0").rstrip(".") for t in sorted(pack, reverse=True)] + [
        "?"
    ] * unmeasured
    return f"{' + '.join(parts)} mm" if parts else "none"
