"""How many spares are kept, how they stand, and the file they come in and go out by."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, strategies as st

from hurbin_core.base import HurbinError, Limits, Verdict, write
from hurbin_core.stores import (
    PartFigures,
    PartRow,
    least_level,
    levels_of,
    order_lot,
    read_parts,
    stock_words,
    write_parts,
)


@given(st.floats(0.1, 60), st.floats(1, 300), st.sampled_from([0.01, 0.02, 0.05, 0.2]))
def test_the_least_level_against_scipy(per_year: float, lead: float, risk: float) -> None:
    from scipy.stats import poisson

    mean = per_year * lead / 365
    k = least_level(per_year, lead, risk)
    assert poisson.sf(k, mean) <= risk + 1e-9
    assert k == 0 or poisson.sf(k - 1, mean) > risk - 1e-9


def test_published_figures() -> None:
    """Seal kits 9 a year, 7 weeks, 5 %: keep 3; 26 couplers at 0.45 a year, 3 weeks, 2 %: 3; lot 5, most
    8.
    """
    assert least_level(9, 49, 0.05) == 3
    assert least_level(26 * 0.45, 21, 0.02) == 3
    assert order_lot(9, 25, 85, 0.18) == 5
    told = levels_of(PartFigures(per_year=9, lead_days=49, price=85), Limits())
    assert (told.least, told.most) == (3, 8)
    assert sum(least_level(1.1 * 365 / 49, 49, 0.05) for _ in range(4)) > least_level(
        4.4 * 365 / 49, 49, 0.05
    )


def test_a_rare_part_with_a_long_wait_is_an_insurance() -> None:
    """0.08 a year, 20 weeks: Poisson says 0 where the chance to run out is allowed, yet waiting costs
    more.
    """
    far = PartFigures(per_year=0.08, lead_days=140, price=640, day_cost=26.4)
    told = levels_of(far, Limits())
    assert told.least == 1
    assert told.why is not None
    assert "waiting for it costs 296 a year, holding it 115" in write(told.why).replace(
        "295.7", "296"
    ).replace("115.2", "115").replace("295.68", "296")
    assert levels_of(far.model_copy(update={"day_cost": 1.0}), Limits()).least == 0


def test_what_nobody_knows_has_no_level_and_is_never_good() -> None:
    told = levels_of(PartFigures(per_year=4), Limits())
    assert told.least is None
    assert told.asks == ["the lead time as measured"]
    assert stock_words(9, 0, None, 1.0, Limits())[0] is Verdict.UNKNOWN


@pytest.mark.parametrize(
    ("count", "reserved", "least", "verdict"),
    [
        (-1, 0, 2, "act"),
        (2, 3, 1, "act"),
        (3, 0, 3, "watch"),
        (3, 3, 2, "act"),
        (4, 0, 3, "good"),
        (0, 0, 0, "good"),
    ],
)
def test_how_a_part_stands(count: int, reserved: int, least: int, verdict: str) -> None:
    assert stock_words(count, reserved, least, 30.0, Limits())[0].value == verdict


@pytest.mark.parametrize(
    ("days", "says"),
    [(None, "not all of it was ever counted"), (366.0, "last counted 366"), (1e9, "Count it")],
)
def test_a_count_that_nobody_made_or_long_ago_is_never_good(days: float | None, says: str) -> None:
    verdict, words = stock_words(4, 0, 3, days, Limits())
    assert verdict is Verdict.UNKNOWN
    assert says in write(words)
    assert stock_words(4, 0, 3, 365.0, Limits())[0] is Verdict.GOOD
    assert stock_words(3, 0, 3, days, Limits())[0] is Verdict.WATCH, "what is low is ordered all the same"


def test_a_file_reads_back_to_the_same() -> None:
    row = PartRow(
        line=2, code="S-1", title="Seal, 22 mm", place="Shelf A", count=2, lines=["seal_set"], price=85.5
    )
    rows, problems = read_parts(write_parts([row]))
    assert not problems
    assert rows == [row]


@pytest.mark.parametrize(
    ("cells", "code"),
    [
        (",Seal,A,2", "word_wrong"),
        ("S,Seal,A,", "count_missing"),
        ("S,Seal,A,-2", "count_wrong"),
        ("S,Seal,A,٣", "count_wrong"),
        ("S,Seal,A,999999999999", "count_wrong"),
        (f"{'S' * 41},Seal,A,2", "word_wrong"),
    ],
)
def test_a_line_that_cannot_be_is_named(cells: str, code: str) -> None:
    rows, problems = read_parts(f"code,title,place,count\n{cells}")
    assert not rows
    assert [(p.code, p.field) for p in problems] == [(code, "line 2")]


def test_figures_that_are_none() -> None:
    for typed in ("nan", "inf", "-1", "1e400", "many"):
        _, problems = read_parts(f"code,title,place,count,price\nS,Seal,A,2,{typed}")
        assert [p.code for p in problems] == ["figure_wrong"], typed
    with pytest.raises(HurbinError, match="Missing columns"):
        read_parts("code,title\nS,Seal")
    assert math.isfinite(least_level(60, 3000, 0.01))


def test_a_rare_part_is_not_called_enough_at_none_before_its_wait_is_priced() -> None:
    rare = PartFigures(per_year=0.08, lead_days=140)
    told = levels_of(rare, Limits())
    assert told.least is None
    assert told.asks == ["its price", "what a day without it costs"]
    assert stock_words(0, 0, told.least, 1.0, Limits())[0] is Verdict.UNKNOWN
    priced = rare.model_copy(update={"price": 640, "day_cost": 1.0})
    assert levels_of(priced, Limits()).least == 0
