"""Flash, pull-down, leak and slip. Metric; nothing is judged here."""

from __future__ import annotations

import math
from bisect import bisect_right

from ...base import RULEBOOK, Model


class _Steam(Model):
    row: list[tuple[float, float, float]]


_ROWS = RULEBOOK.section("hydraulics/vacuum/steam.toml", _Steam).row


def _saturated(kpa: float) -> tuple[float, float] | None:
    """Heat of the liquid and of evaporation at this absolute pressure, kJ/kg; straight lines over ln p."""
    if not _ROWS[0][0] <= kpa <= _ROWS[-1][0]:
        return None
    i = min(max(bisect_right([r[0] for r in _ROWS], kpa) - 1, 0), len(_ROWS) - 2)
    (p, f, g), (q, f2, g2) = _ROWS[i], _ROWS[i + 1]
    t = math.log(kpa / p) / math.log(q / p)
    return f + t * (f2 - f), g + t * (g2 - g)


def flash_pct(before_kpa: float, after_kpa: float) -> float | None:
    """How much of hot condensate flashes to steam when its pressure falls, percent of mass? Absolute
    pressures; None outside 50 to 1300 kPa, and where it rises.

    >>> round(flash_pct(451.325, 101.325), 1), round(flash_pct(451.325, 136.325), 1)
    (9.1, 7.6)
    """
    one, two = _saturated(before_kpa), _saturated(after_kpa)
    if one is None or two is None or before_kpa < after_kpa:
        return None
    return 100 * (one[0] - two[0]) / two[1]


def pull_down_s(volume_l: float, flow_m3h: float, start: float, end: float, ultimate: float) -> float:
    """How long does it take down to `end`, s? t = (V/S)·ln((p₀ − p_u)/(p − p_u)), absolute (handbook).

    >>> round(pull_down_s(850, 38, 101.3, 35, 4.2), 1)
    92.5
    """
    return volume_l / 1000 / (flow_m3h / 3600) * math.log((start - ultimate) / (end - ultimate))


def suction_m3h(volume_l: float, seconds: float, start: float, end: float, ultimate: float) -> float:
    """Which suction flow does a pull-down say, m³/h?

    >>> round(suction_m3h(850, 41, 60, 40, 4.2), 1)
    33.1
    """
    return volume_l / 1000 / seconds * math.log((start - ultimate) / (end - ultimate)) * 3600


def leak_pa_m3_s(volume_l: float, rise_kpa: float, seconds: float) -> float:
    """What leaks in? Pa·m³/s: V·Δp/Δt.

    >>> round(leak_pa_m3_s(850, 6.5, 540), 1)
    10.2
    """
    return volume_l / 1000 * rise_kpa * 1000 / seconds


def free_air_l_h(leak: float, air_kpa: float = 101.325) -> float:
    """How much is that as air of the room? l/h.

    >>> round(free_air_l_h(10.23))
    363
    """
    return leak / (air_kpa * 1000) * 1000 * 3600


def slip_pct(per_rev_l: float, rpm: float, flow_m3h: float) -> float:
    """What of its displacement runs back? Percent.

    >>> round(slip_pct(0.062, 340, 1.03), 1)
    18.6
    """
    full = per_rev_l * rpm * 60 / 1000
    return 100 * (full - flow_m3h) / full


def clearance_times(slip_times: float) -> float:
    """By how much did the clearance grow, where slip grew so many times? Slip goes with its cube, thin liquid
    in laminar gaps (handbook).

    >>> round(clearance_times(2.2), 2)
    1.3
    """
    return float(max(slip_times, 0.0) ** (1 / 3))
