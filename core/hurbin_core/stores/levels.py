"""How many of a part are kept: least by what is used while more is on its way, most by the order lot."""

from __future__ import annotations

import math

from ..base import Limits, Model, Phrase, Verdict, amount, exceeds, phrase


def least_level(per_year: float, lead_days: float, risk: float) -> int:
    """The smallest stock k with P(Poisson(rate × lead) > k) ≤ risk. per_year: uses; lead: days; risk: 0 to 1.
    Source: stock theory, handbook.

    >>> least_level(9, 49, 0.05), least_level(11.7, 21, 0.02)
    (3, 3)
    """
    mean = per_year * lead_days / 365.0
    term = total = math.exp(-mean)
    k = 0
    while 1.0 - total > risk and k < 10_000:
        k += 1
        term *= mean / k
        total += term
    return k


def order_lot(per_year: float, order_cost: float, price: float, holding: float) -> int:
    """How many at once: √(2·D·A / (h·price)), at least one. holding: of the price, a year. Source: stock
    theory, handbook.

    >>> order_lot(9, 25, 85, 0.18)
    5
    """
    if price <= 0 or holding <= 0:
        return 1
    return max(1, round(math.sqrt(2 * per_year * order_cost / (holding * price))))


class PartFigures(Model):
    """What is known of a part's use. per_year: uses; lead_days: measured; price in the site's money. insured:
    what a day without it costs, where it stops a set.
    """

    per_year: float | None = None
    lead_days: float | None = None
    price: float | None = None
    day_cost: float | None = None


class Levels(Model):
    """Least and most, and why. asks: what is still wanted to say them."""

    least: int | None = None
    most: int | None = None
    why: Phrase | None = None
    asks: list[str] = []


def levels_of(f: PartFigures, limits: Limits) -> Levels:
    """From how few on is it ordered, and up to how many? Unknown where use or lead time is."""
    lacking = [
        words
        for value, words in (
            (f.per_year, "how many are used a year"),
            (f.lead_days, "the lead time as measured"),
        )
        if value is None
    ]
    if lacking or f.per_year is None or f.lead_days is None:
        return Levels(asks=lacking)
    risk = limits.value("stores.risk") / 100
    least = least_level(f.per_year, f.lead_days, risk)
    args = {
        "rate": amount(f.per_year, "1"),
        "lead": amount(f.lead_days, "d"),
        "risk": amount(limits.value("stores.risk"), "%"),
    }
    why = phrase("stores.poisson", n=str(least), **args)
    wait = f.per_year * f.lead_days * (f.day_cost or 0.0)
    holding = (f.price or 0.0) * limits.value("stores.holding") / 100
    if least == 0:
        # It is still kept where waiting costs more than holding: both must be known.
        unsaid = [
            words
            for value, words in ((f.price, "its price"), (f.day_cost, "what a day without it costs"))
            if value is None
        ]
        if unsaid:
            return Levels(asks=unsaid)
    if least == 0 and wait > holding > 0:
        least = 1
        why = phrase("stores.insurance", wait=amount(wait, "1"), hold=amount(holding, "1"))
    lot = order_lot(
        f.per_year, limits.value("stores.order"), f.price or 0.0, limits.value("stores.holding") / 100
    )
    return Levels(least=least, most=least + lot, why=why)


def count_stands(counted_days: float | None, limits: Limits) -> bool:
    """May a count be gone by? counted_days: since the oldest of its counts; None: some of it never was. By
    the limit `stores.count_age`.
    """
    return counted_days is not None and not exceeds(counted_days, limits.value("stores.count_age"))


def stock_words(
    count: int, reserved: int, least: int | None, counted_days: float | None, limits: Limits
) -> tuple[Verdict, Phrase]:
    """How does a part stand: below zero, short for what is reserved, at its least, or enough? A part that
    nobody reckoned a least for is not good by lying there, nor is one that nobody counted for long; the worst
    state in which it is still good is one taken out without a word since the last count. counted_days: see
    `count_stands`.
    """
    free = count - reserved
    args = {"count": str(count), "reserved": str(reserved)}
    if count < 0:
        return Verdict.ACT, phrase("stores.below", n=str(-count))
    if free < 0:
        return Verdict.ACT, phrase("stores.short", **args)
    if least is None:
        return Verdict.UNKNOWN, phrase("stores.no_least", **args)
    if free <= least and least > 0:
        verdict = Verdict.ACT if free == 0 else Verdict.WATCH
        return verdict, phrase("stores.order_now", least=str(least), **args)
    if counted_days is None:
        return Verdict.UNKNOWN, phrase("stores.not_counted", count=str(count))
    if not count_stands(counted_days, limits):
        return Verdict.UNKNOWN, phrase("stores.old_count", count=str(count), age=amount(counted_days, "d"))
    return Verdict.GOOD, phrase("stores.enough", **args)


def to_order(count: int, reserved: int, least: int | None, most: int | None) -> int:
    """How many are ordered now? Up to the most, once no more than the least is free; none where nobody
    reckoned a least. Source: stock theory, handbook.

    >>> to_order(3, 0, 3, 8), to_order(4, 0, 3, 8)
    (5, 0)
    """
    free = count - reserved
    return max(0, (most or 0) - free) if least is not None and free <= least else 0
