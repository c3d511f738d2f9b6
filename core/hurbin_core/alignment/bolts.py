"""In which order bolts are drawn up, and in which steps."""

from __future__ import annotations

from ..base import TABLES, amount
from .view import BoltView


def bolt_order(n: int) -> list[int]:
    """A cross over n bolts, numbered round the circle from 1: each is followed by its opposite, each pair by
    the one furthest from those that are drawn. An odd circle has no opposites: as near to them as there is.

    >>> bolt_order(4), bolt_order(6), bolt_order(5)
    ([1, 3, 2, 4], [1, 4, 2, 5, 3, 6], [1, 3, 5, 2, 4])
    """
    if n % 2:
        return [(i * (n // 2)) % n + 1 for i in range(n)] if n > 3 else list(range(1, n + 1))
    half, done = n // 2, [0]
    while len(done) < half:
        left = [p for p in range(half) if p not in done]
        done.append(max(left, key=lambda p: (min(min(abs(p - d), half - abs(p - d)) for d in done), -p)))
    return [b for p in done for b in (p + 1, p + 1 + half)]


def bolt_view(n: int, torque: float | None) -> BoltView:
    """The order for n bolts and the torque of each round, in N·m; no torque, no figures: snug, then tight,
    evenly.
    """
    return BoltView(
        order=bolt_order(n), steps=[amount(torque * s / 100, "N·m") for s in _rounds()] if torque else []
    )


def _rounds() -> list[float]:
    """The torque of each round, in percent of the final one."""
    return [float(share) for _, share in TABLES["bolts.rounds"].rows]
