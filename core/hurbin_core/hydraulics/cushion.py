"""The cushion of a loop: gas of a vessel, or the stretch of pipe and water; litres by pressure and back."""

from __future__ import annotations

from ..base import RULEBOOK, Model


class _Pipe(Model):
    growth: float
    gpa: float


class _Pipes(Model):
    water_gpa: float
    pipe: dict[str, _Pipe]


_PIPES = RULEBOOK.section("hydraulics/pipes.toml", _Pipes)


def gas_l(kpa: float, precharge: float, vessel_l: float, air: float) -> float:
    """How much of the vessel is gas at this pressure, l (Boyle)? kPa gauge; air: the atmosphere.

    >>> round(gas_l(186, 120, 35, 101.325), 2)
    26.96
    """
    return (precharge + air) * vessel_l / (kpa + air)


def pressure_kpa(gas: float, precharge: float, vessel_l: float, air: float) -> float:
    """The other way round: kPa gauge at which the gas takes so many litres."""
    return (precharge + air) * vessel_l / gas - air


def compliance_l_per_kpa(gas: float, kpa: float, air: float) -> float:
    """How many litres does a kPa cost?

    >>> round(100 * compliance_l_per_kpa(26.96, 186, 101.325), 1)
    9.4
    """
    return gas / (kpa + air)


def water_change_l(volume: float, rho_before: float, rho_now: float) -> float:
    """By how much does the loop's water grow, l? Negative when it cools.

    >>> round(water_change_l(620, 991.8, 996.8), 2)
    -3.11
    """
    return volume * (rho_before / rho_now - 1)


def pipe_change_l(volume: float, pipe: str, rise_k: float) -> float:
    """By how much does the pipe itself grow inside, l? Three times its linear growth (handbook)."""
    return volume * 3 * _PIPES.pipe[pipe].growth * rise_k


def rigid_l_per_kpa(volume: float, pipe: str, bore: float, wall: float) -> float:
    """Litres for a kPa where nothing but pipe and water gives: V·(1/K + D/(E·t)) (thin wall, handbook).

    >>> round(100_000 * rigid_l_per_kpa(340, "steel", 82.5, 3.2), 1)
    20.3
    """
    k = _PIPES.water_gpa * 1e6
    e = _PIPES.pipe[pipe].gpa * 1e6
    return volume * (1 / k + bore / (e * wall))


def fills_l(precharge: float, vessel_l: float, low: float, high: float, air: float) -> float:
    """How much water does the vessel take between two pressures, l? kPa gauge.

    >>> round(39.8 / (fills_l(170, 100, 200, 380, 101.325) / 100))
    118
    """
    return gas_l(low, precharge, vessel_l, air) - gas_l(high, precharge, vessel_l, air)


def wave_m_s(pipe: str, bore: float, wall: float, rho: float) -> float:
    """How fast does a pressure wave run in this pipe, m/s: 1/√(ρ(1/K + D/Et)) (handbook).

    >>> round(wave_m_s("steel", 82.5, 3.2, 998))
    1296
    """
    k, e = _PIPES.water_gpa * 1e9, _PIPES.pipe[pipe].gpa * 1e9
    return float((rho * (1 / k + bore / (e * wall))) ** -0.5)
