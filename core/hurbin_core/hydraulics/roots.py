"""Where two lines meet: one way to find it, for curves that are known point by point."""

from __future__ import annotations

from collections.abc import Callable


def meets(f: Callable[[float], float], low: float, high: float, tolerance: float = 1e-12) -> float | None:
    """Where between low and high is f zero? None where it has the same sign at both ends.

    Bisection with a secant step whenever that stays inside (Illinois); relative tolerance.
    """
    a, b = f(low), f(high)
    if a == 0:
        return low
    if b == 0:
        return high
    if (a > 0) == (b > 0):
        return None
    for _ in range(200):
        if abs(high - low) <= tolerance * max(1.0, abs(low), abs(high)):
            break
        x = (low * b - high * a) / (b - a)
        if not min(low, high) < x < max(low, high):
            x = (low + high) / 2
        y = f(x)
        if y == 0:
            return x
        if (y > 0) == (b > 0):
            high, b = x, y
            a /= 2
        else:
            low, a = x, y
            b /= 2
    return (low + high) / 2
