"""A person's units and decimal mark, as the core wants them."""

from __future__ import annotations

from hurbin_core.base import DIMENSIONS, Prefs

from .errors import Refused
from .models import User

_COMMA = ("de", "fr", "es", "it", "nl", "pt", "da", "fi", "sv", "nb", "pl", "cs")


def prefs_of(user: User) -> Prefs:
    units = dict(user.units)
    if units.get("temperature") == "degF":
        units["temperature_difference"] = "degF_rise"
    return Prefs(units=units, decimal="," if user.locale.split("-")[0] in _COMMA else ".")


def reader(user: User) -> str:
    """What of a person decides how figures are written for him, in one word: for what is kept by reader."""
    return f"{user.locale} {sorted(user.units.items())} {user.only or ''}"


def check_units(units: dict[str, str]) -> None:
    for dimension, code in units.items():
        if code not in [u.code for u in DIMENSIONS.get(dimension, ())]:
            raise Refused(
                422, "unit_unknown", f"“{code}” is not a unit of {dimension}.", field="units", value=code
            )
