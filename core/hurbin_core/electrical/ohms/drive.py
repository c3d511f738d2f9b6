"""A drive, dead: its bus, the diodes of its input and its output, and what lies to ground."""

from __future__ import annotations

from ...base import Finding, Phrase, Unknown, Verdict, amount, exceeds, phrase
from .answers import answer
from .entry import INPUT, LEGS, LINES, OUTPUT
from .formulas import bus_wait_s
from .reading import Measured
from .view import DiodeView

_DIODES = tuple(f"{rail}_{leg}" for leg in LEGS for rail in ("minus", "plus"))


def wait_of(m: Measured) -> float | None:
    """How long does the bus still need to its limit, in s, by its own fall? None: it cannot be told."""
    first, then, between = (m.got.get(n) for n in ("bus_first", "bus", "bus_between"))
    if first is None or then is None or between is None:
        return None
    return bus_wait_s(first, then, between, m.limits.value("safety.stored_below"))


def state_of(m: Measured, name: str) -> str:
    """What is this diode by its reading the right way round? Empty: not read."""
    if name in m.open:
        half = m.body.bridge == "half" and name in [f"plus_{x}" for x in INPUT]
        return "half" if half else "open"
    value = m.got.get(name)
    if value is None:
        return ""
    out = name[-1] in OUTPUT
    low = m.limits.value("ohms.diode_low_output" if out else "ohms.diode_low")
    high = m.limits.value("ohms.diode_high_output" if out else "ohms.diode_high")
    if exceeds(m.limits.value("ohms.diode_short"), value):
        return "short"
    return "odd" if exceeds(low, value) or exceeds(value, high) else "sound"


def drive_findings(m: Measured) -> list[Finding]:
    """What the dead drive says. Worst state in which good is still said: a transistor that fails only when it
    is driven, or under voltage: the first power-up stays guarded.
    """
    out: list[Finding] = []
    if "bus" in m.got:
        out.append(_bus(m))
    for question, legs in (("drive_input", INPUT), ("drive_output", OUTPUT)):
        names = [f"{rail}_{leg}" for leg in legs for rail in ("minus", "plus")]
        if m.read_any(names) or any(getattr(m.body, f"back_{leg}") for leg in legs):
            out.append(_diodes(m, question, legs, names))
    if m.body.rails is not None:
        out.append(_rails(m))
    if m.body.earth is not None:
        out.append(_earth(m))
    if m.read_any(LINES):
        out.append(_lines(m))
    return out


def _bus(m: Measured) -> Finding:
    volts, least = m.got["bus"], m.limits.value("safety.stored_below")
    if exceeds(least, volts):
        return answer("drive_bus", Verdict.GOOD, phrase("ohms.bus_low", v=amount(volts, "V")))
    wait = wait_of(m)
    if wait is not None:
        figures = {"v": amount(volts, "V"), "wait": amount(wait, "s")}
        return answer("drive_bus", Verdict.STOP, phrase("ohms.bus_wait", **figures))
    stays = "bus_first" in m.got and "bus_between" in m.got
    template = "ohms.bus_stays" if stays else "ohms.bus_charged"
    return answer("drive_bus", Verdict.STOP, phrase(template, v=amount(volts, "V")))


def _diodes(m: Measured, question: str, legs: tuple[str, ...], names: list[str]) -> Finding:
    states = {n: state_of(m, n) for n in names}
    bad = [n for n in names if states[n] in ("short", "open")]
    back = [leg.upper() for leg in legs if getattr(m.body, f"back_{leg}") == "not"]
    if bad:
        template = f"ohms.diode_{states[bad[0]]}"
        return answer(question, Verdict.STOP, phrase(template, what=diode_word(bad[0])))
    if back:
        return answer(question, Verdict.STOP, phrase("ohms.diode_back", leg=", ".join(back)))
    odd = [n for n in names if states[n] == "odd"]
    if odd:
        value = amount(m.got[odd[0]], "V_diode")
        return answer(question, Verdict.ACT, phrase("ohms.diode_odd", what=diode_word(odd[0]), v=value))
    missing = [diode_word(n) for n in names if not states[n]]
    missing += [f"{leg.upper()} reversed" for leg in legs if getattr(m.body, f"back_{leg}") is None]
    if missing:
        said = ", ".join(missing[:4]) + ("…" if len(missing) > 4 else "")
        return answer(
            question, Verdict.UNKNOWN, phrase("ohms.diode_missing", missing=said), Unknown.INCOMPLETE
        )
    if any(s == "half" for s in states.values()):
        return answer(question, Verdict.UNKNOWN, phrase("ohms.diode_half"), Unknown.INCONCLUSIVE)
    spread = max(
        max(got) - min(got) for rail in ("minus", "plus") if (got := [m.got[f"{rail}_{leg}"] for leg in legs])
    )
    if exceeds(spread, m.limits.value("ohms.diode_alike")):
        return answer(question, Verdict.ACT, phrase("ohms.diode_apart", v=amount(spread, "V_diode")))
    return answer(question, Verdict.GOOD, phrase("ohms.diode_good", v=amount(spread, "V_diode")))


def _rails(m: Measured) -> Finding:
    said = m.body.rails
    verdict = {"climbs": Verdict.GOOD, "steady": Verdict.ACT, "short": Verdict.STOP}[said or "steady"]
    return answer("drive_rails", verdict, phrase(f"ohms.rails_{said}"))


def _earth(m: Measured) -> Finding:
    said = m.body.earth
    verdict = Verdict.ACT if said == "steady" else Verdict.GOOD
    return answer("drive_ground", verdict, phrase(f"ohms.earth_{said}"))


def _lines(m: Measured) -> Finding:
    """Line to line runs through two diodes: alike says nothing, a hard short says enough."""
    few = m.limits.value("ohms.line_short")
    values = [m.got[n] for n in LINES if n in m.got]
    opens = [n for n in LINES if n in m.open]
    if values and exceeds(few, min(values)):
        return answer("drive_lines", Verdict.STOP, phrase("ohms.line_short", v=amount(min(values), "ohm")))
    if len(values) + len(opens) < 3:
        return answer("drive_lines", Verdict.UNKNOWN, phrase("ohms.line_missing"), Unknown.INCOMPLETE)
    mixed = bool(values) and bool(opens)
    apart = 100 * (max(values) - min(values)) / max(values) if values else 0.0
    if mixed or exceeds(apart, m.limits.value("ohms.line_alike")):
        return answer("drive_lines", Verdict.WATCH, phrase("ohms.line_odd"))
    return answer("drive_lines", Verdict.UNKNOWN, phrase("ohms.line_alike"), Unknown.INCONCLUSIVE)


def diode_word(name: str) -> str:
    """A diode by its two ends, as the leads go.

    >>> diode_word("minus_r")
    'DC− to R'
    """
    rail, _, leg = name.partition("_")
    return f"DC− to {leg.upper()}" if rail == "minus" else f"{leg.upper()} to DC+"


def drive_lacking(m: Measured) -> dict[str, Phrase | None]:
    """Which grounds are wanting?"""
    wanting = {"ohms.bus": "bus" not in m.got, "ohms.motor_off": not m.body.drive_off}
    if "bus" in m.got and not exceeds(m.limits.value("safety.stored_below"), m.got["bus"]):
        wanting["ohms.bus_high"] = True
    return {ground: None for ground, lacks in wanting.items() if lacks}


def drawn_diodes(m: Measured) -> list[DiodeView]:
    """Every diode as it is drawn."""
    return [DiodeView(field=n, state=state_of(m, n)) for n in _DIODES]
