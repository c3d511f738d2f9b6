"""Is a service served, and by which of its sets? From memory of how a duty and standby pair is looked at."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from hurbin_core.base import Bound, Verdict, write
from hurbin_core.safety import Carrier, Served, ran, served

NOW = datetime(2026, 11, 14, 9, tzinfo=UTC)
MONTH = timedelta(days=30)


def carrier(
    tag: str, days: float | None = 3, standby: bool = False, pair: str = "A", out: str = ""
) -> Carrier:
    seen = None if days is None else NOW - timedelta(days=days)
    return Carrier(tag=tag, standby=standby, pair=pair, out=out, seen=seen)


def told(*carriers: Carrier) -> tuple[Verdict, str]:
    found = served(carriers, MONTH, NOW)
    assert isinstance(found, Served)
    return found.verdict, " ".join(write(w) for w in found.says)


def test_a_pair_is_served_by_its_duty_set_and_how_long_ago_it_ran_is_said() -> None:
    pair = (carrier("K-2", days=1, standby=True), carrier("K-1", days=12))
    assert told(*pair) == (Verdict.GOOD, "Served by K-1. Last seen running: 12 days ago.")


def test_with_one_of_a_pair_out_the_other_is_left_alone() -> None:
    found = told(carrier("K-1", out="isolated"), carrier("K-2", standby=True))
    assert found == (
        Verdict.WATCH,
        "Only K-2 is left: K-1 isolated. Served by K-2. Last seen running: 3 days ago.",
    )


@pytest.mark.parametrize("days", [None, 30.1, -0.1])
def test_what_was_not_seen_running_in_its_time_carries_nothing(days: float | None) -> None:
    """Never, too long ago, or in the future: a role alone is no ground."""
    verdict, words = told(carrier("K-1", days=days))
    assert verdict is Verdict.UNKNOWN
    assert words == "Cannot tell: K-1 not seen running within 30 days."


def test_on_the_last_day_it_still_counts() -> None:
    assert told(carrier("K-1", days=30))[0] is Verdict.GOOD


def test_a_stale_duty_set_is_carried_by_the_standby_that_was_seen() -> None:
    assert told(carrier("K-1", days=90), carrier("K-2", standby=True))[1].startswith("Served by K-2.")


def test_a_place_with_nothing_left_is_not_served_however_good_the_others_are() -> None:
    verdict, words = told(
        carrier("K-1", out="isolated"),
        carrier("K-2", standby=True, out="on a stop verdict"),
        carrier("K-3", pair=""),
    )
    assert verdict is Verdict.ACT
    assert words.startswith("Not served: K-1 isolated, K-2 on a stop verdict.")
    assert "Served by K-3." in words


def test_out_and_the_other_unseen_is_unknown_not_served() -> None:
    verdict, words = told(carrier("K-1", out="isolated"), carrier("K-2", days=None, standby=True))
    assert verdict is Verdict.UNKNOWN
    assert "Served by" not in words
    assert "Out: K-1 isolated." in words


@pytest.mark.parametrize(
    ("measurand", "unit", "value", "bound", "running"),
    [
        ("current_mean", "A", 14.0, Bound.EXACT, True),
        ("current_mean", "A", 0.0, Bound.EXACT, False),
        ("current_mean", "A", 14.0, Bound.AT_MOST, False),  # at most so much may be nothing
        ("current_mean", "A", 14.0, Bound.AT_LEAST, True),
        ("voltage_mean", "V", 400.0, Bound.EXACT, False),  # voltage alone turns no shaft
        ("insulation_40", "MOhm", 900.0, Bound.EXACT, False),
    ],
)
def test_running_is_current_on_a_running_circuit(
    measurand: str, unit: str, value: float, bound: Bound, running: bool
) -> None:
    assert ran([(measurand, unit, value, bound)]) is running


def test_a_service_without_sets_says_nothing() -> None:
    assert served([], MONTH, NOW) is None
