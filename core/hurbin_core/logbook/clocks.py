"""Devices whose clocks are wrong: their times are set right, and it is told."""

from __future__ import annotations

from hurbin_core.base import Limits, Phrase, Quantity, phrase


def clock_word(device: str, who: str, off_s: float) -> Phrase | None:
    """Was this device's clock so far off that it must be told? `off_s`: the seconds that were added to its
    times to set them right; positive: it was behind. None: near enough.

    The limit is common practice, no source.
    """
    if abs(off_s) <= Limits().get("clock.off").value:
        return None
    way = "behind" if off_s > 0 else "ahead"
    off = Quantity(value=abs(off_s) / 60.0, unit="min")
    return phrase("clock.off", device=device, who=who, off=off, way=way)
