"""Fewer points for a plot, with nothing that sticks out left behind."""

from __future__ import annotations

from collections.abc import Sequence


def downsample(times: Sequence[float], values: Sequence[float], most: int) -> list[int]:
    """Which points does a plot `most` points wide need? Indexes, in order: first, last, and of each equal
    stretch its lowest and highest. A series that fits is kept whole. Times must rise.

    >>> downsample([0, 1, 2, 3, 4, 5], [1, 9, 1, 1, -3, 1], 4)
    [0, 1, 4, 5]
    """
    n = len(times)
    if n <= most:
        return list(range(n))
    stretches = max(1, (most - 2) // 2)
    keep = {0, n - 1}
    for k in range(stretches):
        a, b = 1 + k * (n - 2) // stretches, 1 + (k + 1) * (n - 2) // stretches
        if a < b:
            part = values[a:b]
            keep.add(a + part.index(min(part)))
            keep.add(a + part.index(max(part)))
    return sorted(keep)
