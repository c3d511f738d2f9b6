"""Who may be offered a live test: a qualification in date, and nothing else."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from hurbin_core.base import HurbinError, Limits, write
from hurbin_core.safety import (
    Qualification,
    SafetyFacts,
    ask,
    check_qualification,
    in_date,
    qualification_stands,
    qualified_for,
)

AT = datetime(2026, 5, 4, 9, tzinfo=UTC)
DAY = timedelta(days=1)


def held(kind: str = "live_tests", since: float = -100, until: float = 100, **more: Any) -> Qualification:
    return Qualification(kind=kind, since=AT + since * DAY, until=AT + until * DAY, **more)


WHO = [
    ([], False),
    ([held()], True),
    ([held("electrical_work")], True),
    ([held(until=0)], False),
    ([held(since=0)], True),
    ([held(since=1)], False),
    ([held(ended=AT)], False),
    ([held(ended=AT + DAY)], True),
    ([held("juggling")], False),
    ([held(until=-1), held()], True),
]


@pytest.mark.parametrize(("has", "offered"), WHO)
def test_a_live_test_is_offered_to_whom(has: list[Qualification], offered: bool) -> None:
    facts = SafetyFacts(kind="base_mounted", worker="tia", qualified=qualified_for(has, AT))
    answer = ask("live_test", facts)
    assert answer.offered is offered
    assert [s.gate for s in answer.shut] == ([] if offered else ["qualified"])
    assert all(s.life for s in answer.shut), "nobody waives it"
    assert ask("running_test", facts).offered, "a pen on a bearing housing is no live part"


def test_how_it_stands_today_is_never_better_than_it_counts() -> None:
    def word(**more: Any) -> tuple[str, str]:
        told = qualification_stands(held(**more), AT, Limits())
        return told.verdict.value, write(told.says).replace("\u00a0", " ")

    assert word() == ("good", "In date for 100 days.")
    assert word(until=45) == ("watch", "Expires in 45 days.")
    assert word(until=0.4) == ("watch", "Expires today.")
    assert word(until=-2) == ("act", "Expired 2 days ago.")
    assert word(since=3) == ("unknown", "Counts in 3 days.")
    assert word(ended=AT) == ("unknown", "Withdrawn.")
    for since in (-400, -1, 1):
        for until in (-5, 0, 0.5, 44, 46):
            one = held(since=since, until=until)
            good = qualification_stands(one, AT, Limits()).verdict.value in ("good", "watch")
            assert good is in_date(one, AT)


@pytest.mark.parametrize(
    ("kind", "since", "until", "code"),
    [
        ("juggling", -1, 10, "qualification_unknown"),
        ("live_tests", 10, 5, "until_wrong"),
        ("live_tests", -10, -1, "until_wrong"),
        ("live_tests", -10, 5000, "until_far"),
    ],
)
def test_what_cannot_be_entered(kind: str, since: float, until: float, code: str) -> None:
    with pytest.raises(HurbinError) as refused:
        check_qualification(kind, AT + since * DAY, AT + until * DAY, AT)
    assert refused.value.code == code
