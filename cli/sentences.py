"""Everything the core says, in one list: each sentence with sample figures, in metric and in inches and °F.

    python -m cli.sentences > docs/sentences.md

Whoever rewrites a sentence reads this list through; the core's tests hold it against words that no technician
would say.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import TypeAdapter

from hurbin_core.base import (
    GROUNDS,
    LIMITS,
    RULEBOOK,
    RULES,
    Limit,
    Phrase,
    Prefs,
    Rule,
    amount,
    phrase,
    write,
)
from hurbin_core.catalogue import benches

METRIC = Prefs()
INCH = Prefs(
    units={
        "length": "mil",
        "slope": "mil/in",
        "temperature": "degF",
        "temperature_difference": "degF_rise",
        "vibration": "in/s",
        "height": "ft_height",
        "head": "ft_head",
        "flow": "gpm",
        "pressure": "psi",
        "volume": "gal",
        "loss": "gal/d",
        "velocity": "ft/s",
        "resistance": "MOhm",
    }
)
# A figure of each dimension, in the unit in which it is kept.
FIGURES = {
    "resistance": (26.0, "MOhm"),
    "percent": (4.2, "%"),
    "percent_points": (0.7, "pp"),
    "length": (0.35, "mm"),
    "slope": (0.063, "mm/100mm"),
    "current": (61.0, "A"),
    "voltage": (401.0, "V"),
    "ratio": (1.6, "1"),
    "temperature": (34.0, "degC"),
    "temperature_difference": (6.0, "K"),
    "duration": (60.0, "s"),
    "time": (90.0, "d"),
    "frequency": (46.0, "Hz"),
    "vibration": (3.1, "mm/s"),
    "height": (1200.0, "m"),
    "turns": (0.25, "turns"),
    "low_resistance": (2.46, "ohm"),
    "capacitance": (24.6, "uF"),
    "diode_voltage": (0.46, "V_diode"),
    "fault_current": (18.0, "kA"),
    "voltage_drop": (46.0, "mV_drop"),
    "heat": (2.6, "W"),
    "pressure": (210.0, "kPa"),
    "inertia": (0.12, "kg·m²"),
    "speed": (1465.0, "rpm"),
    "power": (15.0, "kW"),
    "flow": (48.6, "m3/h"),
    "head": (24.3, "m_head"),
    "volume": (39.8, "l"),
    "loss": (1.2, "l/d"),
    "velocity": (0.74, "m/s"),
    "energy": (5490.0, "kWh"),
    "run_time": (6.5, "h"),
    "torque": (88.0, "N·m"),
    "angle": (60.0, "deg"),
    "deviation": (4.0, "um"),
    "mass": (310.0, "kg"),
    "grease": (6.2, "g"),
}
# What stands for the words that a sentence takes, by their names in it.
WORDS = {
    "pair": "L1-L2",
    "part": "half winding",
    "leads": "T9, T6",
    "lead": "T4",
    "to": "T5 T6",
    "winding": "U1-U2",
    "stands": "main contactor alone in",
    "va": "3.0",
    "verdict": "unknown",
    "modes": "on the drive",
    "places": "in the terminal box",
    "proof": "Flow",
    "turned": "on the drive",
    "seen": "nothing",
    "line": "1-2-3",
    "motor": "3-2-1",
    "says": "Stop. Not for this supply.",
    "remedy": "Find out upstream.",
    "low": "20 A",
    "high": "40 A",
    "should": "22 A",
    "is": "15 A",
    "wrong": "trips early",
    "plus": "A",
    "minus": "B",
    "reads": "B to H",
    "triple": "G, H, J",
    "tied": "A",
    "of": "9",
    "guards": "It protects the motor.",
    "hours": "31",
    "e": "0.3",
    "name": "Fuses",
    "legs": "L1-L2",
    "upper": "Fuses, line side",
    "lower": "Fuses, load side",
    "rung": "Fuses, load side",
    "total": "33",
    "after": "6",
    "more": "3",
    "how": "With the contactor in they can be told apart.",
    "earthing": "solidly grounded wye",
    "leg_one": "L1",
    "leg_two": "L2",
    "leg": "L2",
    "n": "4",
    "by": "Saskia Arrowood",
    "who": "Saskia Arrowood",
    "owner": "Jun Belacqua",
    "names": "Saskia Arrowood, Jun Belacqua",
    "locks": "Jun Belacqua",
    "scopes": "motor leads, coupling",
    "tag": "COLD-33",
    "tags": "COLD-33, COLD-34",
    "out": "COLD-34 isolated",
    "age": "3 h",
    "left": "21 h",
    "over": "24 h",
    "days": "12",
    "count": "2",
    "least": "4",
    "wanted": "3",
    "most": "5",
    "months": "7",
    "before": "2",
    "times": "5.8",
    "year": "1964",
    "derating": "95",
    "device": "device-1f2e",
    "way": "up",
    "foot": "front left",
    "feet": "front left, rear left",
    "one": "front left",
    "two": "rear right",
    "edge": "outer",
    "end": "front",
    "plane": "vertical",
    "which": "Vertical",
    "where": "pump DE, horizontal",
    "kind": "offset",
    "cls": "F",
    "tester": "T-9",
    "state": "isolated",
    "title": "Jumper",
    "missing": "L1 to L2, L3 to ground",
    "means": "check valve alone",
    "side": "over",
    "figure": "Leg current L1",
    "does": "stop the pump",
    "point": "terminal box",
    "reading": "401 V",
    "readings": "L1 to L2 0 V, L2 to L3 0 V",
    "what": "Supply",
    "event": "the rewind of 12 Mar 2025",
    "when": "12 Mar 2026",
    "now": "hot",
    "then": "cold",
    "new": "2 new shims",
    "pieces": "9 shims",
    "packs": "front left 0.7 + 0.5 mm",
    "governs": "thermosetting",
    "source": "nameplate",
    "signs": "black rubber dust",
    "first": "in",
    "second": "out",
    "word": "other test voltage",
    "value": "46",
    "detail": "5/7",
    "reason": "no spare until Thursday",
    "words": "the keeper on duty",
    "why": "by class F on the nameplate",
    "instrument": "Meter 3",
    "place": "fuses, load side",
    "category": "CAT III",
    "typed": "812 V",
    "was": "12.0 A on L2 is 60.0 % of nameplate current.",
    "said": "12.0 A on L2 is 60.0 % of nameplate current.",
    "way_one": "by head and curve",
    "way_two": "by power and curve",
    "ask": "Closing it a little",
    "cause": "cavitation",
    "asks": "Viscosity, Rags or long fibres",
    "reserved": "1",
    "letter": "k5",
    "step": "Press the seat into the bracket",
    "want": "3",
    "label": "Shaft lift",
    "procedure": "J05",
    "because": "drips",
    "code": "S-22",
    "root": "dry running",
    "shop": "the shop",
    "conductor": "L1",
    "rubber": "EPDM",
    "made": "04 May, 12:00",
    "begins": "Mon 04 May, 15:00",
    "until": "Thu 07 May, 18:00",
    "liquid": "water",
    "lacks": "Enter the valve position. Without it the reading compares with no other.",
}


# Sentences that stand within another, with their own figure.
WITHIN = {
    "front": ("move.left", 0.3),
    "rear": ("move.left", 0.72),
    "fits_front": ("move.left", 0.2),
    "fits_rear": ("move.left", 0.5),
}
# A seat's band as it stands within a sentence.
BAND = {"low": amount(2.0, "um"), "high": amount(13.0, "um")}


def _sample(name: str, kinds: tuple[str, ...]) -> Any:
    if name in WITHIN and not any(k in FIGURES for k in kinds):
        template, by = WITHIN[name]
        return phrase(template, by=amount(by, "mm"))
    if name == "band":
        return phrase("fits.band", letter="k5", **BAND)
    figure = next((FIGURES[k] for k in kinds if k in FIGURES), None)
    return amount(*figure) if figure else WORDS[name]


def sentence(template: str) -> Phrase:
    """This sentence of the book with sample figures. Raises KeyError for words that have no sample."""
    takes = RULEBOOK.texts[template].takes
    return phrase(template, **{name: _sample(name, kinds) for name, kinds in takes.items()})


def texts() -> Iterator[tuple[str, str, str]]:
    """Every sentence: its id, as it is said in metric, and in inches and °F."""
    for template in RULEBOOK.texts:
        said = sentence(template)
        yield template, write(said, METRIC), write(said, INCH)


def _of_rule(rule: Rule) -> list[str]:
    return [x for x in (rule.title, rule.formula, rule.why, rule.ends, rule.source) if x]


def _of_limit(limit: Limit) -> list[str]:
    return [x for x in (limit.title, limit.label, limit.why, limit.source) if x]


# What of a data file's row is words for a reader; the rest are ids, units and figures.
_SHOWN = (
    "title",
    "asks",
    "does",
    "first",
    "word",
    "says",
    "wants",
    "label",
    "beside",
    "release",
    "threat",
    "tell",
)


def _of_data(data: Any) -> Iterator[str]:
    if isinstance(data, dict):
        for key, value in data.items():
            if key == "spared":
                yield from value.values()
            elif isinstance(value, str):
                if key in _SHOWN:
                    yield value.replace("{tester}", WORDS["tester"])
            else:
                yield from _of_data(value)
    elif isinstance(data, list):
        for row in data:
            yield from [row] if isinstance(row, str) and " " in row else _of_data(row)


def _of_fields(schema: Any) -> Iterator[str]:
    """The names of the fields of a bench, from its schema."""
    for model in [schema, *schema.get("$defs", {}).values()]:
        for name, field in model.get("properties", {}).items():
            if field.get("title") and name not in ("kind",):
                yield str(field["title"])


def sections() -> Iterator[tuple[str, list[str]]]:
    """Everything else the core says, under its headings."""
    yield (
        "Rules: title, formula, reason, what closes it, source",
        [x for r in RULES.values() for x in _of_rule(r)],
    )
    yield "Limits", [x for x in LIMITS.values() for x in _of_limit(x)]
    yield "What must be entered before anything is called good", [g.says for g in GROUNDS.values()]
    for name, data in RULEBOOK.sections.items():
        yield name, list(_of_data(data))
    for bench in benches():
        words = [bench.title, bench.offer, bench.records, bench.one, bench.gated, bench.seen]
        yield (
            f"{bench.title}: names and fields",
            [
                *(w for w in words if w),
                *_of_fields(TypeAdapter(bench.entry).json_schema()),
            ],
        )


def listed() -> str:
    """The whole list as docs/sentences.md holds it."""
    out = [
        "# What Hurbin says",
        "",
        "Every sentence of the core with sample figures; after “→” as a reader with inches and °F has it.",
        "At the end the words of the screens, by the file they stand in; “…” is what is worked out there.",
        "`./hurbin generate` renews this list.",
        "",
        "## Sentences",
        "",
    ]
    for template, metric, inch in texts():
        out.append(f"- `{template}` {metric}" + (f" → {inch}" if inch != metric else ""))
    for heading, lines in sections():
        seen = dict.fromkeys(lines)
        if seen:
            out += ["", f"## {heading}", "", *(f"- {x}" for x in seen)]
    return "\n".join(out) + "\n"


if __name__ == "__main__":
    print(listed(), end="")
