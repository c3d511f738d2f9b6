"""A rule drawn says what the judge says: at every figure along its line, published and with a site's own."""

from __future__ import annotations

from datetime import UTC, datetime
from itertools import pairwise

import pytest

from hurbin_core.base import RULES, Limits, Override, Quantity, Rule, Verdict, drawn_rule, judge_steps

WITH_STEPS = [r for r in RULES.values() if r.steps]


@pytest.mark.parametrize("rule", WITH_STEPS, ids=[r.id for r in WITH_STEPS])
def test_between_its_limits_the_line_says_what_the_judge_says(rule: Rule) -> None:
    drawn = drawn_rule(rule, Limits())
    assert drawn is not None
    values = [s.value.value for s in drawn.steps]
    places = [s.at for s in drawn.steps]
    assert values == sorted(values)
    assert places == sorted(places)
    assert len(drawn.zones) == len(values) + 1
    apart = [values[0] / 2, *((a + b) / 2 for a, b in pairwise(values)), values[-1] * 1.5]
    unit = drawn.steps[0].value.unit
    for value, zone in zip(apart, drawn.zones, strict=True):
        steps = Limits().steps(rule.id)
        told = judge_steps(rule, Quantity(value=value, unit=unit), steps, rule.beyond)
        assert told.verdict is zone, (value, zone)


def test_a_sites_own_limit_stands_where_its_figure_is() -> None:
    at = datetime(2026, 11, 14, tzinfo=UTC)
    own = Override(limit="voltage_unbalance.good", value=1.5, unit="%", reason="x", by="Leo", at=at)
    drawn = drawn_rule(RULES["voltage_unbalance"], Limits([own]))
    assert drawn is not None
    first, second, _ = drawn.steps
    assert first.at < (first.site_at or 0) < second.at
    assert (first.site, second.site) == (Quantity(value=1.5, unit="%"), None)
    assert drawn.zones[0] is Verdict.GOOD


def test_a_rule_without_limits_is_not_drawn() -> None:
    assert drawn_rule(RULES["single_phasing"], Limits()) is None
