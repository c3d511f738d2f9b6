"""A case is one object that can be sent: the answer is the same after the way, whatever was filed before."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import pytest
from cases import case
from conftest import NOW, entry, plate
from pydantic import ValidationError
from sheet_table import Sheet, case_and_entries, evaluate, sheets

from hurbin_core.base import (
    Evaluation,
    Finding,
    Kept,
    NoView,
    Verdict,
    entry_of,
    kept_fields,
    phrase,
)
from hurbin_core.catalogue import bench, benches
from hurbin_core.electrical.insulation import InsulationEntry
from hurbin_core.logbook import AnyCase, Case, Entry, SetState

TABLE = sheets()


def said(evaluation: Evaluation[Any]) -> dict[str, Any]:
    return evaluation.model_dump(mode="json")


@pytest.mark.parametrize("sheet", TABLE[::10], ids=lambda s: s.name)
def test_a_case_that_was_sent_and_kept_is_answered_the_same(sheet: Sheet) -> None:
    given, entries = case_and_entries(sheet)
    b = bench(sheet.raw["bench"])
    told = [given.model_dump(mode="json"), [x.model_dump(mode="json") for x in entries]]
    sent = json.loads(json.dumps(told))
    again = Case[b.entry].model_validate(sent[0])  # type: ignore[name-defined]
    typed = [Entry[b.entry].model_validate(x) for x in sent[1]]  # type: ignore[name-defined]
    assert said(b.evaluate(again, typed)) == said(evaluate(sheet))


@pytest.mark.parametrize("sheet", TABLE[5::10], ids=lambda s: s.name)
def test_what_is_filed_counts_as_what_is_sent(sheet: Sheet) -> None:
    """One device sends the first half, another the rest, twice: the answer is that of the whole sheet."""
    given, entries = case_and_entries(sheet)
    half = len(entries) // 2
    filed = given.model_copy(update={"filed": entries[:half]})
    b = bench(sheet.raw["bench"])
    assert said(b.evaluate(filed, entries[half:])) == said(evaluate(sheet))
    assert said(b.evaluate(filed, [*entries, *entries])) == said(evaluate(sheet))


def test_what_was_filed_stands_whatever_is_sent_under_its_id() -> None:
    own = entry(amps=(15, 15, 15))
    filed = Entry[Any](uuid="entry-0001", taken_at=NOW, body=own)
    other = Entry[Any](uuid="entry-0001", taken_at=NOW, body=entry(amps=(30, 30, 30)))
    b = bench("running_check")
    held = plant().model_copy(update={"filed": [filed]})
    alone = b.evaluate(held, [])
    assert alone.values["current_mean"].value == 15.0
    assert said(b.evaluate(held, [other])) == said(alone)


def plant() -> AnyCase:
    return case(NOW, motor=plate())


def test_the_newest_entry_counts_whichever_device_sent_it_first() -> None:
    late, soon = NOW + timedelta(minutes=5), NOW
    rows = [
        Entry[Any](uuid="entry-late", taken_at=late, body=entry(amps=(15, 15, 15))),
        Entry[Any](uuid="entry-soon", taken_at=soon, body=entry(amps=(30, 30, 30))),
    ]
    b = bench("running_check")
    for order in (rows, rows[::-1]):
        assert b.evaluate(plant(), order).values["current_mean"].value == 15.0


def test_a_state_that_nobody_told_is_not_isolated_and_holds_nothing() -> None:
    state = SetState()
    assert (state.isolation, state.interim, state.changes, state.checked_at) == (None, [], [], None)


def test_one_question_of_one_subject_is_answered_once() -> None:
    def finding(subject: str) -> Finding:
        return Finding(
            question="load",
            part="motor",
            subject=subject,
            verdict=Verdict.UNKNOWN,
            rule="load",
            reason=phrase("overdue.never"),
        )

    def answer(*subjects: str) -> Evaluation[NoView]:
        return Evaluation[NoView](
            bench="b",
            rules_version="1",
            verdict=Verdict.UNKNOWN,
            findings=[finding(s) for s in subjects],
            view=NoView(),
        )

    both = answer("L1", "L2")
    assert both.finding("load", "L2") is both.findings[1]
    assert both.finding("load") is None
    with pytest.raises(ValidationError, match="load is answered twice"):
        answer("L1", "L1")


def test_an_entry_tells_by_its_kind_what_it_is_and_the_field_says_with_what_it_is_kept() -> None:
    assert type(entry_of(InsulationEntry, {"kind": "start"})).__name__ == "TestLeg"
    assert type(entry_of(InsulationEntry, {})).__name__ == "TestSetup"
    for kind in ({}, [], 7, None, "nothing"):
        with pytest.raises(ValidationError):
            entry_of(InsulationEntry, {"kind": kind})
    kept = kept_fields(InsulationEntry)
    assert kept["winding"].kept is Kept.VISIT
    assert "ohms" not in kept
    assert "seconds" not in kept
    for b in benches():
        for field in kept_fields(b.entry).values():
            assert field.title[:1].isupper(), (b.name, field.name)
    alignment = kept_fields(bench("alignment").entry)
    assert (alignment["speed"].kept, alignment["coupling"].kept) == (Kept.SET, Kept.SET)
