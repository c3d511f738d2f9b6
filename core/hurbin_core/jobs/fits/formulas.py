"""Which letter a seat has, and how far a reading is off it."""

from __future__ import annotations

from ...base import TABLES, Limits


def letter_of(what: str, nominal: float, heavy: bool, limits: Limits) -> str:
    """Which fit does a seat of this diameter have under a ball bearing? j5, k5 or m5 by diameter and load;
    a housing H7. mm. Source: bearing handbooks, from memory.

    >>> letter_of("shaft", 45, False, Limits())
    'k5'
    """
    if what == "housing":
        return "H7"
    if heavy or nominal > limits.value("fits.heavy"):
        return "m5"
    return "j5" if nominal <= limits.value("fits.small") else "k5"


def band_of(letter: str, nominal: float) -> tuple[float, float] | None:
    """What are the limits of a seat, µm from nominal, lower and upper? None where the table says nothing.
    Source: ISO 286-2, from memory.

    >>> band_of("k5", 45)
    (2.0, 13.0)
    """
    row = TABLES["fits.band"].at(letter, nominal)
    return None if row is None else (row["lower"], row["upper"])


def ring_of(side: str, nominal: float) -> tuple[float, float] | None:
    """What are the limits of a bearing ring's bore or outside, µm from nominal, lower and upper?
    Source: ISO 492 Normal class, from memory.

    >>> ring_of("bore", 45)
    (-12.0, 0.0)
    """
    row = TABLES["fits.ring"].at(side, nominal)
    return None if row is None else (row["lower"], row["upper"])


def interference_um(seat: tuple[float, float], ring: tuple[float, float]) -> tuple[float, float]:
    """What is the interference of a ring on a shaft, µm, least and most? The smallest shaft less the largest
    bore, and the other way round. Source: ISO 286-1, arithmetic.

    >>> interference_um((2.0, 15.0), (-15.0, 0.0))
    (2.0, 30.0)
    """
    return seat[0] - ring[1], seat[1] - ring[0]
