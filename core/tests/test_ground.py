"""Properties of every bench: what is missing never makes good, what is worse never makes milder."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

import pytest
from hypothesis import given, settings, strategies as st
from sheet_table import LIKE, Sheet, evaluate, sheets

from hurbin_core.base import GROUNDS, RULES, Verdict

# How bad, where an unknown stands beside a watch: neither hides the other.
SEVERITY = {Verdict.GOOD: 0, Verdict.WATCH: 1, Verdict.UNKNOWN: 1, Verdict.ACT: 2, Verdict.STOP: 3}
# What a technician says of how it was read. A reading, or a word on what is wrong, is evidence, not ground.
SAID = {
    "running_check": ("body", ["read_at", "valve", "coupled", "speed"]),
    "insulation": ("setup", ["test_point", "links", "phases", "test_volts", "arresters_off", "winding"]),
    "alignment": ("measures", ["near_ambient", "sag"]),
    "vibration": ("body", ["category", "foundation", "power"]),
}
PLATES = {
    "running_check": ["amps_low", "volts_low", "frequency"],
    "insulation": ["volts_low"],
    "alignment": ["speed"],
}


def verdicts(raw: dict[str, Any]) -> dict[tuple[str, str], Verdict]:
    return {(f.question, f.subject): f.verdict for f in evaluate(Sheet("", "", deepcopy(raw))).findings}


def overall(raw: dict[str, Any]) -> Verdict:
    return evaluate(Sheet("", "", deepcopy(raw))).verdict


def without(raw: dict[str, Any], where: str, names: list[str]) -> dict[str, Any]:
    out = deepcopy(raw)
    place = out.get("context", {}).get("motor", {}) if where == "motor" else out.get(where, {})
    for n in names:
        place.pop(n, None)
    return out


REMOVABLE = [s for s in sheets() if s.raw["bench"] in SAID]


@pytest.mark.parametrize("bench", list(SAID))
def test_removing_what_was_said_makes_no_question_good(bench: str) -> None:
    """Every sheet, every state it was read in and every nameplate figure its verdict rests on, one at a
    time."""
    for sheet in (s for s in REMOVABLE if s.raw["bench"] == bench):
        before = verdicts(sheet.raw)
        where, names = SAID[bench]
        for place, fields in ((where, names), ("motor", PLATES.get(bench, []))):
            for name in fields:
                after = verdicts(without(sheet.raw, place, [name]))
                became = [
                    q
                    for q, v in after.items()
                    if v is Verdict.GOOD and before.get(q, Verdict.GOOD) is not Verdict.GOOD
                ]
                assert became == [], (sheet.name, name)


HEALTHY = {
    "line": "running_check",
    "drive": "running_check",
    "winding": "insulation",
    "legs": "insulation",
    "coupling": "alignment",
    "shaking": "vibration",
}


@settings(max_examples=60, deadline=None)
@given(st.data())
def test_a_healthy_sheet_without_its_ground_is_not_good(data: st.DataObject) -> None:
    like = data.draw(st.sampled_from(list(HEALTHY)))
    raw = LIKE[like]
    assert overall(raw) is Verdict.GOOD
    where, names = SAID[HEALTHY[like]]
    there = [n for n in names if n in raw.get(where, {})]
    gone = data.draw(st.lists(st.sampled_from(there), min_size=1, unique=True))
    assert overall(without(raw, where, gone)) is not Verdict.GOOD


def worse_amps(raw: dict[str, Any], leg: int, share: float) -> dict[str, Any]:
    out = deepcopy(raw)
    body = out["body"]
    for n in (1, 2, 3):
        body[f"amps_{n}"] = f"{float(body[f'amps_{n}']) * (share if n == leg else 1):.3f}"
    return out


@settings(max_examples=80, deadline=None)
@given(
    st.integers(1, 3),
    st.floats(0.8, 1.8),
    st.floats(1.0, 1.4),
    st.sampled_from(["", "valve", "read_at", "coupled"]),
)
def test_more_amps_on_one_leg_never_make_its_load_milder(
    leg: int, share: float, more: float, gone: str
) -> None:
    raw = without(LIKE["line"], "body", [gone])
    a, b = (verdicts(worse_amps(raw, leg, s)).get(("load", "")) for s in (share, share * more))
    if a is not None and b is not None:
        assert SEVERITY[b] >= SEVERITY[a]


@settings(max_examples=80, deadline=None)
@given(
    st.floats(0.5, 4000),
    st.floats(0.05, 1),
    st.sampled_from(["", "links", "winding", "test_volts"]),
    st.sampled_from(["", "<", ">"]),
)
def test_less_insulation_never_reads_better(mohm: float, share: float, gone: str, bound: str) -> None:
    raw = without(LIKE["winding"], "setup", [gone])

    def at(value: float) -> Verdict:
        return verdicts({**raw, "readings": [[60, f"{bound}{value:.4f} M"]]})[("insulation", "")]

    assert SEVERITY[at(mohm * share)] >= SEVERITY[at(mohm)]


@settings(max_examples=60, deadline=None)
@given(st.floats(0, 0.4), st.floats(0, 0.3), st.sampled_from(["offset_v", "offset_h"]), st.booleans())
def test_further_out_is_never_judged_better(out: float, more: float, which: str, near: bool) -> None:
    raw = LIKE["coupling"] if near else without(LIKE["coupling"], "measures", ["near_ambient"])

    def at(value: float) -> Verdict:
        entry = {**raw["entries"][0], "offset_v": "0 mm", which: f"{value:.4f} mm"}
        return verdicts({**raw, "entries": [entry]})[("alignment_offset", "")]

    assert SEVERITY[at(out + more)] >= SEVERITY[at(out)]


@settings(max_examples=60, deadline=None)
@given(
    st.floats(0.1, 15),
    st.floats(0, 10),
    st.sampled_from(["", "category", "foundation", "power"]),
    st.sampled_from(["pump_far_h", "motor_near_v"]),
)
def test_more_vibration_is_never_judged_better(mm_s: float, more: float, gone: str, name: str) -> None:
    raw = without(LIKE["shaking"], "body", [gone])
    question = f"vibration_{name.split('_')[0]}"

    def at(value: float) -> Verdict:
        return verdicts({**raw, "body": {**raw["body"], name: f"{value:.3f} mm/s"}})[(question, "")]

    assert SEVERITY[at(mm_s + more)] >= SEVERITY[at(mm_s)]


def test_every_ground_is_stood_on_and_every_rule_of_a_good_names_its_own() -> None:
    used = {g for r in RULES.values() for g in r.ground}
    assert used == set(GROUNDS)
    for rule in (
        "load",
        "current_unbalance",
        "line_voltage",
        "insulation",
        "alignment_offset",
        "vibration_pump",
        "made_safe",
    ):
        assert RULES[rule].ground
