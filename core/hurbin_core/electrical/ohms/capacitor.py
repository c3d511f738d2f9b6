"""A capacitor against its mark: by a meter, out of circuit, or by voltage and current in service."""

from __future__ import annotations

from ...base import Finding, Phrase, Problem, Unknown, Verdict, amount, exceeds, phrase
from .answers import answer
from .formulas import in_service_uf
from .reading import Measured
from .view import BandView


def band_of(m: Measured) -> tuple[float, float] | None:
    """Within what may this capacitor be, in µF? None while mark, role or tolerance is not entered.

    A start capacitor −0/+20 %, a run capacitor as marked, ±6 or ±10 %. Common practice, no source.
    """
    mark, role = m.got.get("marked"), m.body.role
    if mark is None or role is None:
        return None
    if role == "start":
        return mark, mark * (1 + m.limits.value("ohms.start_over") / 100)
    if m.body.band is None:
        return None
    share = float(m.body.band) / 100
    return mark * (1 - share), mark * (1 + share)


def value_of(m: Measured) -> float | None:
    """Its capacitance in µF: the meter's word, else what it draws in service."""
    if "read_uf" in m.got:
        return m.got["read_uf"]
    volts, amps = m.got.get("cap_volts"), m.got.get("cap_amps")
    if volts and amps is not None and m.body.hertz is not None:
        return in_service_uf(amps, volts, float(m.body.hertz))
    return None


def capacitor_findings(m: Measured) -> list[Finding]:
    """Does it hold what it is marked with? Worst state in which good is still said: it breaks down at voltage
    only, which no meter of a few volts sees; read in service it would show.
    """
    body = m.body
    if body.looks in ("bulged", "oil"):
        return [answer("capacitor", Verdict.ACT, phrase(f"ohms.cap_{body.looks}"))]
    if "read_uf" in m.open:
        return [answer("capacitor", Verdict.ACT, phrase("ohms.cap_open"))]
    value, band = value_of(m), band_of(m)
    if value is None:
        return []
    if band is None:
        return [answer("capacitor", Verdict.UNKNOWN, phrase("ohms.cap_mark"), Unknown.INCOMPLETE)]
    low, high = band
    figures = {"v": amount(value, "uF"), "low": amount(low, "uF"), "high": amount(high, "uF")}
    inside = not exceeds(value, high) and not exceeds(low, value)
    if inside:
        return [answer("capacitor", Verdict.GOOD, phrase("ohms.cap_good", **figures))]
    return [answer("capacitor", Verdict.ACT, phrase("ohms.cap_out", **figures))]


def capacitor_lacking(m: Measured) -> dict[str, Phrase | None]:
    """Which grounds are wanting? Two ways that disagree leave neither."""
    metered = "read_uf" in m.got
    volts, amps = m.got.get("cap_volts"), m.got.get("cap_amps")
    wanting = {
        "ohms.cap_looks": m.body.looks is None,
        "ohms.cap_bleeder": metered and m.body.bleeder in (None, "on"),
        "ohms.cap_two_ways": False,
    }
    if metered and volts and amps is not None and m.body.hertz is not None:
        other = in_service_uf(amps, volts, float(m.body.hertz))
        apart = 100 * abs(other - m.got["read_uf"]) / max(m.got["read_uf"], 1e-9)
        wanting["ohms.cap_two_ways"] = exceeds(apart, m.limits.value("ohms.cap_ways"))
    return {ground: None for ground, lacks in wanting.items() if lacks}


def capacitor_problems(m: Measured) -> list[Problem]:
    """A current without a voltage, or a voltage of nothing, says nothing of a capacitor."""
    volts, amps = m.got.get("cap_volts"), m.got.get("cap_amps")
    typed = m.body.cap_volts
    if volts == 0 and amps and typed is not None:
        message = "Current through it and no voltage across it: one of the two was read elsewhere."
        return [
            Problem(
                code="cap_volts", field="cap_volts", value=typed.text, message=message, right="its voltage"
            )
        ]
    return []


def drawn_band(m: Measured) -> BandView | None:
    """The band and the value on one line."""
    band, value = band_of(m), value_of(m)
    if band is None:
        return None
    low, high = band
    ends = [low, high, *([value] if value is not None else [])]
    least, span = min(ends), (max(ends) - min(ends)) or 1.0
    start, whole = least - 0.25 * span, 1.5 * span

    def at(x: float) -> float:
        return round((x - start) / whole, 4)

    return BandView(
        low=amount(low, "uF"),
        high=amount(high, "uF"),
        low_at=at(low),
        high_at=at(high),
        value_at=None if value is None else at(value),
    )
