"""What a pump moves: density, vapour pressure, viscosity, heat and freezing by temperature and glycol."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from ..base import RULEBOOK, HurbinError, Model

Glycol = Literal["propylene", "ethylene"]
Kind = Literal["water", "seawater", "propylene", "ethylene", "other"]


class _Water(Model):
    density: list[float]
    vapour: list[float]
    viscosity: list[float]
    low: float
    high: float


class _Glycol(Model):
    density: list[float]
    heat: list[float]
    viscosity: list[float]
    freezing: list[float]
    pure: float


class _Fluids(Model):
    water: _Water
    glycol: dict[str, _Glycol]


_FLUIDS = RULEBOOK.section("hydraulics/fluid.toml", _Fluids)
W = _FLUIDS.water
# Of water between 0 and 100 °C, kJ/kg·K: 4.18 to 4.22 (from memory).
_WATER_HEAT = 4186.0
G = 9.80665
STANDARD_AIR_KPA = 101.325


def _within(name: str, t: float, low: float, high: float) -> None:
    if not (math.isfinite(t) and low <= t <= high):
        raise HurbinError(
            "fluid_range",
            f"{name} is known from {low:g} to {high:g} °C here.",
            field="temperature",
            value=f"{t:g}",
            right=f"{low:g} to {high:g} °C",
        )


def water_density(t_c: float) -> float:
    """How heavy is water at this temperature? kg/m³, 0 to 120 °C.

    Fit to IAPWS-IF97, within 0.02 %. Raises `fluid_range`.

    >>> round(water_density(45), 1)
    990.3
    """
    _within("Water", t_c, W.low, W.high)
    x = t_c / 100
    return sum(a * x**n for n, a in enumerate(W.density))


def vapour_kpa(t_c: float) -> float:
    """At what absolute pressure does water boil at this temperature? kPa, 0 to 120 °C.

    Fit to IAPWS-IF97, within 0.1 %. Of glycol mixtures and seawater it is lower: theirs is taken as water's.
    Raises `fluid_range`.

    >>> round(vapour_kpa(75), 1)
    38.6
    """
    _within("Water", t_c, W.low, W.high)
    a, b, c, d = W.vapour
    return math.exp(a + b / (t_c + c) + d * t_c)


def boils_at_c(kpa: float) -> float | None:
    """At what temperature does water boil under this absolute pressure? °C; None outside 0 to 120 °C."""
    if not vapour_kpa(W.low) <= kpa <= vapour_kpa(W.high):
        return None
    low, high = W.low, W.high
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if vapour_kpa(middle) < kpa else (low, middle)
    return (low + high) / 2


def water_viscosity(t_c: float) -> float:
    """Dynamic viscosity of water, mPa·s; within 1 % (fit to IAPWS)."""
    _within("Water", t_c, W.low, W.high)
    a, b, c = W.viscosity
    return float(a * 10 ** (b / (t_c + c)))


def _glycol(kind: str) -> _Glycol:
    return _FLUIDS.glycol[kind]


def freezes_c(kind: Glycol, w: float) -> float:
    """At what temperature does this mixture begin to freeze? °C; w: mass fraction, 0.1 to 0.6.

    >>> round(freezes_c("propylene", 0.30), 1)
    -12.7
    """
    return sum(a * w**n for n, a in enumerate(_glycol(kind).freezing))


def _glycol_range(kind: Glycol, t_c: float, w: float) -> None:
    if not 0.15 <= w <= 0.55:
        raise HurbinError(
            "glycol_range",
            f"Glycol is known from 15 to 55 % by mass here; {100 * w:.0f} % is outside.",
            field="glycol",
            value=f"{100 * w:g}",
            right="15 to 55 % by mass",
        )
    _within("This mixture", t_c, math.ceil(freezes_c(kind, w)), 100.0)


def _plain(a: list[float], t: float, w: float) -> float:
    return a[0] + a[1] * w + a[2] * t + a[3] * w * t + a[4] * w * w + a[5] * t * t


def glycol_density(kind: Glycol, w: float, t_c: float) -> float:
    """How heavy is this mixture? kg/m³; w: mass fraction 0.15 to 0.55. Within 0.14 %.

    >>> round(glycol_density("propylene", 0.30, 5))
    1030
    """
    _glycol_range(kind, t_c, w)
    return _plain(_glycol(kind).density, t_c, w)


def glycol_heat(kind: Glycol, w: float, t_c: float) -> float:
    """Specific heat of this mixture, J/kg·K; within 0.25 %."""
    _glycol_range(kind, t_c, w)
    return _plain(_glycol(kind).heat, t_c, w)


def glycol_viscosity(kind: Glycol, w: float, t_c: float) -> float:
    """Dynamic viscosity of this mixture, mPa·s; within 2.5 %."""
    _glycol_range(kind, t_c, w)
    a = _glycol(kind).viscosity
    more = a[6] * w * t_c * t_c + a[7] * w * w * t_c + a[8] * t_c**3
    return math.exp(_plain(a, t_c, w) + more)


def by_mass(kind: Glycol, volume_fraction: float) -> float:
    """A fraction by volume as one by mass, both at 20 °C; volumes taken to add up (from memory, within one
    point).

    >>> round(by_mass("ethylene", 0.30), 3)
    0.323
    """
    pure, water = _glycol(kind).pure, water_density(20)
    mass = volume_fraction * pure
    return mass / (mass + (1 - volume_fraction) * water)


def by_volume(kind: Glycol, mass_fraction: float) -> float:
    """A fraction by mass as one by volume; as `by_mass`."""
    pure, water = _glycol(kind).pure, water_density(20)
    volume = mass_fraction / pure
    return volume / (volume + (1 - mass_fraction) / water)


def air_kpa(altitude_m: float) -> float:
    """The atmosphere at this height, kPa absolute (handbook; standard atmosphere).

    >>> round(air_kpa(700), 2)
    93.19
    """
    return float(STANDARD_AIR_KPA * (1 - 2.25577e-5 * altitude_m) ** 5.25588)


@dataclass(frozen=True, slots=True)
class Fluid:
    """One fluid at one temperature. rho: kg/m³; p_v: kPa absolute; nu: mm²/s; heat: J/kg·K; None where it is
    not known. w: mass fraction of glycol.
    """

    kind: str
    t_c: float
    rho: float
    p_v: float | None
    nu: float | None
    heat: float | None
    w: float = 0.0

    @property
    def kpa_per_m(self) -> float:
        """What a metre of it weighs."""
        return self.rho * G / 1000


def fluid_of(kind: Kind, t_c: float, *, w: float | None = None, density: float | None = None) -> Fluid | None:
    """Which fluid is this? None where it takes more to know: a glycol's strength, the density of seawater or
    another liquid. w: mass fraction; density: kg/m³ as measured, counts before a fit.

    Raises `fluid_range`, `glycol_range`.
    """
    if kind in ("propylene", "ethylene"):
        if w is None:
            return None
        g: Glycol = kind  # type: ignore[assignment]
        rho = density or glycol_density(g, w, t_c)
        boiling = vapour_kpa(t_c) if t_c >= W.low else vapour_kpa(W.low)
        return Fluid(
            kind, t_c, rho, boiling, 1000 * glycol_viscosity(g, w, t_c) / rho, glycol_heat(g, w, t_c), w
        )
    if kind == "water":
        rho = density or water_density(t_c)
        return Fluid(kind, t_c, rho, vapour_kpa(t_c), 1000 * water_viscosity(t_c) / rho, _WATER_HEAT)
    if density is None:
        return None
    if kind == "seawater":
        return Fluid(kind, t_c, density, vapour_kpa(t_c), 1000 * water_viscosity(t_c) / density, None)
    return Fluid(kind, t_c, density, None, None, None)
