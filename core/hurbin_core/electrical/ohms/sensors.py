"""The sensors in a motor by ohms: the thermistors of its protection, the probe of its seal chamber."""

from __future__ import annotations

from ...base import Args, Finding, Phrase, SeriesPoint, Unknown, Verdict, amount, exceeds, phrase
from .answers import answer
from .entry import SENSORS
from .reading import Measured


def sensor_findings(m: Measured) -> list[Finding]:
    """Is the string whole, and would its relay trip? Is the probe dry?

    Worst state in which good is still said: one thermistor of three is bridged and the other two read high; a
    probe whose electrode is coated.
    """
    return [*_string(m), *_probe(m)]


def _string(m: Measured) -> list[Finding]:
    if not m.read_any(("thermistor",)):
        return [_tone("thermistor")] if m.body.tone and not m.read_any(SENSORS) else []
    hot = m.body.warm == "hot"
    if "thermistor" in m.open:
        if hot:
            return [_unknown("thermistor", "ohms.ptc_open_hot")]
        return [answer("thermistor", Verdict.ACT, phrase("ohms.ptc_open"))]
    value = m.net("thermistor")
    assert value is not None
    v = amount(value, "ohm")
    if exceeds(m.limits.value("ohms.ptc_short"), value):
        return [answer("thermistor", Verdict.ACT, phrase("ohms.ptc_short", v=v))]
    if exceeds(value, m.limits.value("ohms.ptc_trip")):
        template = "ohms.ptc_trips_hot" if hot else "ohms.ptc_trips_cold"
        return [answer("thermistor", Verdict.ACT, phrase(template, v=v))]
    count = int(m.body.in_series or 3)
    low, high = (count * m.limits.value(f"ohms.ptc_{end}") for end in ("least", "most"))
    figures: dict[str, Args] = {
        "v": v,
        "low": amount(low, "ohm"),
        "high": amount(high, "ohm"),
        "n": str(count),
    }
    if exceeds(low, value):
        return [answer("thermistor", Verdict.ACT, phrase("ohms.ptc_few", **figures))]
    if not exceeds(value, high):
        return [answer("thermistor", Verdict.GOOD, phrase("ohms.ptc_good", **figures))]
    if hot:
        return [_unknown("thermistor", "ohms.ptc_cooling", **figures)]
    return [answer("thermistor", Verdict.WATCH, phrase("ohms.ptc_high", **figures))]


def _probe(m: Measured) -> list[Finding]:
    if not m.read_any(("moisture",)):
        return []
    least = m.got.get("moisture_least")
    if "moisture" in m.open:
        if m.body.probe_lead != "whole":
            return [_unknown("moisture", "ohms.probe_open")]
        return [answer("moisture", Verdict.GOOD, phrase("ohms.probe_dry"))]
    value = m.got["moisture"]
    v = amount(value, "ohm")
    if least is None:
        return [answer("moisture", Verdict.UNKNOWN, phrase("ohms.probe_no_least", v=v), Unknown.INCOMPLETE)]
    figures: dict[str, Args] = {"v": v, "v__limit": amount(least, "ohm"), "least": amount(least, "ohm")}
    if exceeds(least, value):
        return [answer("moisture", Verdict.ACT, phrase("ohms.probe_wet", **figures))]
    return [answer("moisture", Verdict.GOOD, phrase("ohms.probe_within", **figures))]


def _unknown(question: str, template: str, **figures: Args) -> Finding:
    return answer(question, Verdict.UNKNOWN, phrase(template, **figures), Unknown.INCONCLUSIVE)


def _tone(question: str) -> Finding:
    return answer(question, Verdict.UNKNOWN, phrase("ohms.tone"), Unknown.INCONCLUSIVE)


def sensor_lacking(m: Measured) -> dict[str, Phrase | None]:
    """Which grounds are wanting?"""
    read = m.read_any(("thermistor",))
    wanting = {
        "ohms.low_test": read and m.body.low_test is not True,
        "ohms.warm": read and m.body.warm is None,
        "ohms.in_series": read and m.body.in_series is None,
        "ohms.relay_off": m.read_any(SENSORS) and m.body.relay_off is not True,
        "ohms.tone_only": m.body.tone is True,
    }
    return {ground: None for ground, lacks in wanting.items() if lacks}


def sensor_points(m: Measured) -> list[SeriesPoint]:
    """What is trended: a string that was read cold, and the raw ohms of the probe."""
    out = []
    string = m.net("thermistor")
    if string is not None and m.body.warm == "cold":
        out.append(_point("thermistor_ohms", string))
    if "moisture" in m.got:
        out.append(_point("moisture_ohms", m.got["moisture"]))
    return out


def _point(measurand: str, value: float) -> SeriesPoint:
    return SeriesPoint(measurand=measurand, part="motor", conditions="", value=value, unit="ohm")
