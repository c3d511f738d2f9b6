"""What a control circuit does by itself: what a far coil gets, and what its cable lets through."""

from __future__ import annotations

import math

# Copper at working temperature, Ω·mm²/m. Common practice, no source.
_RHO = 0.018


def far_coil_share(volts: float, inrush_va: float, cable_m: float, area_mm2: float) -> float:
    """Which share of the control voltage gets a coil at the end of this cable as it pulls in? The cable
    there and back in series with the coil. Common practice, no source.

    >>> round(far_coil_share(24.0, 70.0, 95.0, 1.5), 2)
    0.78
    """
    coil = volts * volts / inrush_va
    return coil / (coil + 2 * cable_m * _RHO / area_mm2)


def held_ma(volts: float, hz: float, cable_m: float, nf_per_m: float) -> float:
    """Which current does the capacitance of this cable let through to a coil whose contact is open, in mA?
    Arithmetic.

    >>> round(held_ma(230.0, 50.0, 600.0, 0.3))
    13
    """
    return float(2 * math.pi * hz * cable_m * nf_per_m * 1e-9 * volts * 1000)
