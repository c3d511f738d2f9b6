"""Head, power, flow, suction and wear as single sums. Metric in, metric out; nothing is judged here."""

from __future__ import annotations

import math

from .fluid import G


def velocity(q_m3h: float, bore_mm: float) -> float:
    """How fast is it in this bore? m/s.

    >>> round(velocity(54, 102.3), 3)
    1.825
    """
    return q_m3h / 3600 / (math.pi * (bore_mm / 1000) ** 2 / 4)


def velocity_head(q_m3h: float, bore_mm: float) -> float:
    """How much head is in its speed, v²/2g? m.

    >>> round(velocity_head(54, 77.9), 3)
    0.505
    """
    return velocity(q_m3h, bore_mm) ** 2 / (2 * G)


def head_parts(
    p_s: float, p_d: float, z_s: float, z_d: float, rho: float, q: float, d_s: float, d_d: float
) -> tuple[float, float, float]:
    """What does the pump add? Pressure, height and velocity, each in m; together its head. kPa, m, kg/m³,
    m³/h, mm (Bernoulli).

    >>> [round(x, 3) for x in head_parts(42, 336, 0.30, 0.95, 990.3, 54, 102.3, 77.9)]
    [30.273, 0.65, 0.335]
    """
    return (
        (p_d - p_s) * 1000 / (rho * G),
        z_d - z_s,
        velocity_head(q, d_d) - velocity_head(q, d_s),
    )


def water_kw(rho: float, q_m3h: float, head_m: float) -> float:
    """How much power is in the water? kW.

    >>> round(water_kw(998.2, 54, 26), 2)
    3.82
    """
    return rho * G * q_m3h / 3600 * head_m / 1000


def motor_kw(volts: float, amps: float, pf: float, phases: int = 3) -> float:
    """How much power does a motor take in? kW.

    >>> round(motor_kw(398, 8.0, 0.80) * 0.885, 2)
    3.9
    """
    return (math.sqrt(3) if phases == 3 else 1.0) * volts * amps * pf / 1000


def share_by_amps(amps: float, idle: float, rated: float) -> float | None:
    """Which share of rated shaft power does a current say? I² = I₀² + (Iₙ² − I₀²)·x² (common practice, no
    source, ± 5 %). None below the current at no load.

    >>> round(share_by_amps(9.98, 3.6, 8.3), 3)
    1.245
    """
    if rated <= idle or amps < idle:
        return None
    return math.sqrt((amps**2 - idle**2) / (rated**2 - idle**2))


def amps_at_share(share: float, idle: float, rated: float) -> float:
    """Which current at this share of rated shaft power? A; the other way round of `share_by_amps`.

    >>> round(amps_at_share(4.98 / 4.0, 3.6, 8.3), 2)
    9.98
    """
    return math.sqrt(idle**2 + (rated**2 - idle**2) * share**2)


def flow_by_drop(q_ref: float, drop_ref: float, drop: float) -> float:
    """Which flow by the pressure drop of a clean exchanger and its test sheet? m³/h, kPa.

    >>> round(flow_by_drop(48, 62, 41), 1)
    39.0
    """
    return q_ref * math.sqrt(drop / drop_ref)


def flow_by_heat(kw: float, rise_k: float, rho: float, heat: float) -> float:
    """Which flow by the heat it carries? m³/h; kW, K; heat: J/kg·K.

    >>> round(flow_by_heat(186, 5.6, 999, 4190), 1)
    28.6
    """
    return kw * 1000 / (rho * heat * rise_k) * 3600


def flow_by_valve(kv: float, drop_kpa: float, rho: float) -> float:
    """Which flow goes through a valve? m³/h: Kv·√(Δp in bar ÷ SG) (IEC 60534-2-1).

    >>> round(flow_by_valve(63, 22, 1000), 1)
    29.5
    """
    return kv * math.sqrt(drop_kpa / 100 / (rho / 1000))


def valve_kv(q_m3h: float, loss_m: float, rho: float) -> float:
    """Which Kv eats this head at this flow? m³/h, m, kg/m³ (IEC 60534-2-1).

    >>> round(valve_kv(42, 10.97, 998.2), 1)
    40.5
    """
    bar = loss_m * rho * G / 1e5
    return q_m3h / math.sqrt(bar / (rho / 1000))


def npsh_by_level(surface_kpa: float, p_v: float, rho: float, level: float, loss: float) -> float:
    """How much NPSH is available? m: from the pressure on the surface (absolute), the level over the pump's
    centre (a lift is negative) and the friction.

    >>> round(npsh_by_level(93.19, 15.76, 985.7, 1.8, 0.6), 2)
    9.21
    """
    return (surface_kpa - p_v) * 1000 / (rho * G) + level - loss


def npsh_by_gauge(p_g: float, air: float, p_v: float, rho: float, q: float, bore: float, z: float) -> float:
    """How much NPSH is available? m: from a gauge on the suction, z m above the pump's centre.

    >>> round(npsh_by_gauge(-18, 101.325, 1.403, 999.5, 54, 102.3, 0.25), 2)
    8.78
    """
    return (p_g + air - p_v) * 1000 / (rho * G) + velocity_head(q, bore) + z


def submergence(bell_m: float, q_m3h: float) -> float:
    """How deep must a bell stand so that no air is drawn? m: D·(1 + 2.3·v/√(gD)) (ANSI/HI 9.8, from memory).

    >>> round(submergence(0.15, 11 * 3.6), 3)
    0.327
    """
    v = velocity(q_m3h, bell_m * 1000)
    return bell_m * (1 + 2.3 * v / math.sqrt(G * bell_m))


def least_speed(static: float, shut_off: float) -> float:
    """Below which share of its speed does it no longer lift the static head?

    >>> round(100 * least_speed(7, 34), 1)
    45.4
    """
    return math.sqrt(static / shut_off)


def viscous(nu: float, q: float, head: float, rpm: float) -> tuple[float, float, float]:
    """What does a thick liquid leave of head, flow and efficiency? (B, C_H = C_Q, C_η). mm²/s, m³/h, m,
    1/min at the best point (ANSI/HI 9.6.7, from memory).

    >>> [round(x, 3) for x in viscous(8, 54, 26, 1465)]
    [2.072, 0.996, 0.936]
    """
    b = 16.5 * nu**0.5 * head**0.0625 / (q**0.375 * rpm**0.25)
    if b <= 1:
        return b, 1.0, 1.0
    log = math.log10(b)
    return b, math.exp(-0.165 * log**3.15), float(b ** (-0.0547 * b**0.69))
