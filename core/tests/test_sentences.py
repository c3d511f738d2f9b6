"""Every sentence as its reader has it, with sample figures in both systems of units: nothing of the program
shows through, no word stands that no technician would say.
"""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from cli.sentences import sections, texts

SAID = list(texts())
HELD = (Path(__file__).parents[2] / "docs" / "sentences.md").read_text()
_, SCREENS = HELD.split("\n## Words of the screens\n")
ON_SCREEN = [line[2:] for line in SCREENS.splitlines() if line.startswith("- ")]
LISTED = [(heading, line) for heading, lines in sections() for line in lines]

# The program shows through: names of fields and classes, keys with values, empty places, a plural of one.
SHOWS_THROUGH = re.compile(
    r"[a-z]_[a-z]|\w+=\w|[{}]|[=:(] ?(?:None|True|False)\b|InsulationTester|Folded"
    r"|(?<![\d.,])1 (?:feet|days|pieces|shims|rounds|rows|checks|tests|records|entries)\b"
)
# Words of an earlier speech, and words that mean two things to this reader.
OLD_WORDS = (
    "let out|give or take|put off|reckoned|drawn? up|untold|not told|given back|gives? back|set aside"
    "|made safe|plate volts|plate amps|of plate|amps|volts|maker's?|lies ahead|stands in|hangs on|befall"
    "|asks for|all good"
)
NOT_SAID = re.compile(rf"\b(?:{OLD_WORDS})\b", re.IGNORECASE)
# A source of energy is isolated or not; open and shut are words of valves, covers and circuits.
OPEN_OR_SHUT = re.compile(
    r"\b(?:isolator|breaker|supply|source)s?\b[^.;]*\b(?:open(?:ed)?|shut)\b", re.IGNORECASE
)
CLEARANCE = re.compile(
    r"\b(?:is|are|now) safe\b|\bsafe to\b|\ball clear\b|\bit holds\b|\bstayed\b", re.IGNORECASE
)


@pytest.mark.parametrize("not_so", [SHOWS_THROUGH, NOT_SAID, CLEARANCE, OPEN_OR_SHUT])
def test_no_sentence_says_it_so(not_so: re.Pattern[str]) -> None:
    said = [(template, one) for template, *both in SAID for one in both]
    assert [(template, one) for template, one in [*said, *LISTED] if not_so.search(one)] == []


@pytest.mark.parametrize("not_so", [NOT_SAID, CLEARANCE, OPEN_OR_SHUT])
def test_no_screen_says_it_so(not_so: re.Pattern[str]) -> None:
    assert len(ON_SCREEN) > 900
    assert [line for line in ON_SCREEN if not_so.search(line)] == []


def test_a_sentence_begins_and_ends_as_one() -> None:
    """What stands within another, or on an axis, begins small and has no full stop; any other does both."""
    odd = [
        template
        for template, metric, _ in SAID
        if metric[0].isupper()
        and " " in metric
        and not metric.endswith((".", "?", ":", "nameplate current", "°C"))
        and not template.startswith(("value.", "story.", "place.", "circuit.done_"))
        and not template.endswith((".working", ".title"))
    ]
    assert odd == []


def test_figures_follow_the_readers_units() -> None:
    inch = {template: both for template, *both in SAID}
    metric, theirs = inch["soft.shim"]
    assert "0.350\u00a0mm" in metric
    assert "13.8\u00a0mil" in theirs
    # Where it gives a length, a temperature or a velocity, no metric one is left over for the other reader.
    left = [
        t for t, both in inch.items() if both[0] != both[1] and re.search(r"\d\s?(?:mm|°C|mm/s)\b", both[1])
    ]
    assert left == []
