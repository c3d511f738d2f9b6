"""A year by its load: what the same flows take by speed, by valve, and wide open."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import Model, Quantity, amount, read_fields
from .entry import Load
from .sheet import Throttle


class YearView(Model):
    """kWh a year of each way, and its cost where the price is known."""

    hours: Quantity
    speed: Quantity
    valve: Quantity | None = None
    open: Quantity
    speed_money: Quantity | None = None
    valve_money: Quantity | None = None
    open_money: Quantity | None = None


def loads_of(s: Throttle, rows: Sequence[Load]) -> list[tuple[float, float]]:
    """(hours, share of full flow); rows that lack one are left out."""
    out = []
    for row in rows:
        read, problems = read_fields(row)
        s.t.problems += problems
        if {"hours", "share"} <= read.keys():
            out.append((read["hours"].value, read["share"].value / 100))
    total = sum(h for h, _ in out)
    if total > 8784:
        s.t.refuse("profile", f"{total:g} hours: a year has 8760.", "8760 h at most")
        return []
    return out


def by_speed_kwh(loads: Sequence[tuple[float, float]], full_kw: float, power: float) -> float:
    """Σ h·P·s^2.6: what a drive leaves of the cube with its own losses (common practice, no source).

    >>> round(by_speed_kwh([(900, 1), (2600, 0.8), (3100, 0.6)], 5, 2.6), -2)
    15900.0
    """
    return float(sum(h * full_kw * share**power for h, share in loads))


def year(s: Throttle) -> YearView | None:
    """The three ways beside each other; None without hours, or without knowing how it runs."""
    loads = loads_of(s, s.body.profile)
    if not loads or s.now is None or s.now.curve.power is None:
        return None
    now = s.now
    line = s.now.curve.power
    base = line.at(now.q)
    if not base or now.efficiency is None:
        return None
    full = now.kw / now.efficiency
    hours = sum(h for h, _ in loads)
    at = [line.at(now.q * share) for _, share in loads]
    valve = None
    if all(p is not None for p in at):
        valve = sum(h * full * (p or 0.0) / base for (h, _), p in zip(loads, at, strict=True))
    speed = by_speed_kwh(loads, full, s.limits.value("year.power"))
    price = s.t.got.get("price")

    def money(kwh: float | None) -> Quantity | None:
        return amount(kwh * price, "1") if kwh is not None and price else None

    return YearView(
        hours=amount(hours, "h"),
        speed=amount(speed, "kWh"),
        valve=amount(valve, "kWh") if valve is not None else None,
        open=amount(hours * full, "kWh"),
        speed_money=money(speed),
        valve_money=money(valve),
        open_money=money(hours * full),
    )
