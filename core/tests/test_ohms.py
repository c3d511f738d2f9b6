"""Ohms of a dead machine: from pairs to windings, what is open or shorted, and what no meter can tell."""

from __future__ import annotations

import math
from datetime import UTC, datetime, timedelta
from itertools import permutations
from typing import Any

import numpy as np
import pytest
from cases import case
from hypothesis import given, strategies as st

from hurbin_core.base import Entered, Verdict
from hurbin_core.electrical.ohms import OHMS, OhmsEntry
from hurbin_core.electrical.ohms.formulas import delta_windings, to_25, wye_windings
from hurbin_core.electrical.ohms.reading import step_of
from hurbin_core.logbook import Entry
from hurbin_core.plant import MotorPlate

AT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
PROVED = {"state": "proved", "sheet": "s", "since": AT - timedelta(hours=1)}
PAIRS = ("pair_12", "pair_23", "pair_31")
WHOLE = {"of": "winding", "at": "motor", "joined": "wye", "lead_way": "zeroed", "winding": "25"}


def told(context: dict[str, Any] | None = None, **body: Any) -> Any:
    typed = {
        k: {"text": v} if OHMS.entry.model_fields[k].json_schema_extra and _figure(k) else v
        for k, v in body.items()
    }
    entry = Entry(uuid="entry00001", taken_at=AT, body=OhmsEntry.model_validate(typed))
    given = {"kind": "base_mounted", "control_kind": "starter", "isolation": PROVED, **(context or {})}
    return OHMS.evaluate(case(AT + timedelta(hours=1), **given), [entry])


def _figure(name: str) -> bool:
    extra = OhmsEntry.model_fields[name].json_schema_extra
    return isinstance(extra, dict) and "x-entered" in extra


# A network of resistors between three terminals, solved node by node: nothing of our own formulas.
def pairs_of(resistors: list[tuple[int, int, float]], nodes: int) -> list[float]:
    g = np.zeros((nodes, nodes))
    for a, b, r in resistors:
        g[a, a] += 1 / r
        g[b, b] += 1 / r
        g[a, b] -= 1 / r
        g[b, a] -= 1 / r
    inverse = np.linalg.pinv(g)
    return [float(inverse[a, a] + inverse[b, b] - 2 * inverse[a, b]) for a, b in ((0, 1), (1, 2), (2, 0))]


OHM = st.floats(0.02, 900)


@given(OHM, OHM, OHM)
def test_windings_are_found_again_behind_their_terminals(a: float, b: float, c: float) -> None:
    wye = pairs_of([(0, 3, a), (1, 3, b), (2, 3, c)], 4)
    assert wye_windings(*wye) == pytest.approx((a, b, c), rel=1e-4, abs=1e-6 * max(a, b, c))
    spread = max(a, b, c) / min(a, b, c)
    delta = delta_windings(*pairs_of([(0, 1, a), (1, 2, b), (2, 0, c)], 3))
    if spread < 1e3:
        assert delta == pytest.approx((a, b, c), rel=1e-4)


# IEC 60028: copper of 100 % IACS has a coefficient of 0.00393 per kelvin at 20 °C.
@pytest.mark.parametrize("temp", [-10.0, 4.0, 31.0, 90.0])
def test_copper_follows_the_published_coefficient(temp: float) -> None:
    at_20, at_t = 1.0, 1.0 + 0.00393 * (temp - 20.0)
    at_25 = at_20 + 0.00393 * 5.0
    assert to_25(at_t, temp, 234.5) == pytest.approx(at_25, rel=2e-4)


def test_an_open_winding_is_named_whichever_it_is_and_however_it_is_joined() -> None:
    for gone in range(3):
        others = [w for w in range(3) if w != gone]
        delta = pairs_of([((w), (w + 1) % 3, 4.0) for w in others], 3)
        e = told(
            **(WHOLE | {"joined": "delta"}), **dict(zip(PAIRS, (f"{x:.2f}" for x in delta), strict=True))
        )
        assert e.verdict is Verdict.STOP
        assert ("L1-L2", "L2-L3", "L3-L1")[gone] in str(e.finding("winding_ohms").reason.args)
        read = {
            n: "OL" if gone in ends else "8.00"
            for n, ends in zip(PAIRS, ((0, 1), (1, 2), (2, 0)), strict=True)
        }
        wye = told(**WHOLE, **read)
        assert wye.verdict is Verdict.STOP
        assert wye.finding("winding_ohms").reason.args["leg"] == f"L{gone + 1}"
        assert [w.where for w in wye.view.windings if w.open] == [f"L{gone + 1}"]


@pytest.mark.parametrize(
    ("typed", "step"),
    [
        (Entered(text="0.62", unit="ohm"), 0.01),
        (Entered(text="0,6", unit="ohm"), 0.1),
        (Entered(text="620", unit="mohm"), 0.001),
        (Entered(text="12", unit="ohm"), 1.0),
        (Entered(text="1.2 kΩ", unit="ohm"), 100.0),
    ],
)
def test_what_a_meter_could_show_is_told_by_its_last_digit(typed: Entered, step: float) -> None:
    assert step_of(typed) == pytest.approx(step)


def test_no_rounding_of_a_meter_makes_an_odd_winding_good() -> None:
    """Whatever the true ohms are, what the meter shows of a winding over the limit is never called good."""
    for step, scale in ((0.1, 0.6), (0.01, 0.6), (0.01, 4.0), (1.0, 30.0)):
        places = max(0, round(-math.log10(step)))
        for odd in (1.035, 1.05, 1.1):
            for true in set(permutations((scale, scale, scale * odd))):
                mean = sum(true) / 3
                over = 100 * max(abs(x - mean) for x in true) / mean > 2
                e = told(**WHOLE, **{n: f"{x:.{places}f}" for n, x in zip(PAIRS, true, strict=True)})
                if over:
                    assert e.finding("winding_ohms").verdict is not Verdict.GOOD, (step, true)


def history(*values: float, days: int = 90) -> list[dict[str, Any]]:
    return [
        {
            "measurand": "winding_ohms",
            "leg": leg,
            "conditions": "at=motor;joined=wye",
            "value": v,
            "taken_at": AT - timedelta(days=days),
            "record": "1",
        }
        for leg, v in zip(("12", "23", "31"), values, strict=True)
    ]


@pytest.mark.parametrize(
    ("then", "now", "verdict"),
    [
        ((4.80, 4.80, 4.80), ("4.85", "4.84", "4.85"), "good"),
        ((4.80, 4.80, 4.80), ("4.80", "4.80", "4.98"), "watch"),
        ((4.80, 4.80, 4.80), ("4.80", "4.80", "5.20"), "act"),
        ((4.80, 4.80, 4.80), ("5.20", "5.20", "5.19"), "unknown"),
    ],
)
def test_copper_does_not_change(then: tuple[float, ...], now: tuple[str, ...], verdict: str) -> None:
    e = told({"history": history(*then)}, **WHOLE, **dict(zip(PAIRS, now, strict=True)))
    assert e.finding("winding_past").verdict.value == verdict
    rewound = [{"at": AT - timedelta(days=10), "kind": "rewind"}]
    e = told({"history": history(*then), "cuts": rewound}, **WHOLE, **dict(zip(PAIRS, now, strict=True)))
    assert e.finding("winding_past") is None


def test_nothing_is_trended_of_which_the_state_is_not_known() -> None:
    pairs = dict.fromkeys(PAIRS, "4.84")
    assert len(told(**WHOLE, **pairs).points) == 3
    for lost in ("at", "joined", "lead_way", "winding"):
        assert told(**{k: v for k, v in WHOLE.items() if k != lost}, **pairs).points == []


def test_a_single_phase_motor_has_a_sheet_of_its_own() -> None:
    motor = MotorPlate(phases=1)
    e = told({"motor": motor}, lead_way="zeroed", common_run="1.6", common_start="4.9", run_start="6.5")
    assert e.view.of == "single_phase"
    assert e.verdict is Verdict.GOOD
    assert told({"motor": motor}).missing[0].field == "common_run"
