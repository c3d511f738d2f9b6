"""Kinds, plates, the register file, part states, the simulator."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from conftest import NOW, e, plate
from hypothesis import given, strategies as st

from hurbin_core.base import By, HurbinError, Verdict, phrase
from hurbin_core.logbook import Answer, attention, behind, fold_parts, overdue
from hurbin_core.plant import (
    KINDS,
    PARTS,
    check_plate,
    columns,
    motor_facts,
    parse_register,
    plate_cells,
    slot_for,
    write_register,
)
from hurbin_core.simulator import SetLife

EVERY_KIND = {
    "inline_spring",
    "wet_rotor",
    "close_coupled",
    "base_mounted",
    "bracket_multistage",
    "submersible",
    "condensate_return",
    "vacuum",
    "positive_displacement",
}


def test_every_kind_and_part_has_its_name() -> None:
    assert set(KINDS) == EVERY_KIND
    held = {c for p in PARTS.values() for c in p.holds}
    assert {
        "seal",
        "mounts",
        "element",
        "rotor",
        "bearings",
        "starter",
        "soft_starter",
        "drive",
        "control_interlock",
    } <= held
    for k in KINDS.values():
        assert set(k.slots) <= set(PARTS)
    assert slot_for("base_mounted", "control", "drive") == "control"
    for wrong in (("wet_rotor", "coupling", "coupling"), ("base_mounted", "motor", "seal")):
        with pytest.raises(HurbinError):
            slot_for(*wrong)


def test_connection_in_use_chooses_the_column() -> None:
    p = plate(
        connection="high",
        volts_low=e(230, "V"),
        volts_high=e(400, "V"),
        amps_low=e(35, "A"),
        amps_high=e(20, "A"),
    )
    facts = motor_facts(p)
    assert (facts.volts_v, facts.amps_a, facts.sf_amps_a) == (400, 20, pytest.approx(23))
    assert facts.sf_amps_from == "nameplate current × service factor"


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"connection": "high", "volts_high": e(230, "V")}, "volts_high"),
        ({"connection": "high", "volts_high": e(690, "V"), "amps_high": e(30, "A")}, "amps_high"),
        ({"sf_amps_low": e(18, "A")}, "sf_amps_low"),
        ({"service_factor": e(4)}, "service_factor"),
        ({"amps_low": e("twenty", "A")}, "amps_low"),
    ],
)
def test_a_plate_that_cannot_be(change: dict, field: str) -> None:
    assert field in [p.field for p in check_plate(plate(**change))[0]]


def test_a_plate_says_what_it_lacks() -> None:
    assert [m.field for m in check_plate(plate(amps_low=None))[1]] == ["amps_low"]


def test_register_round_trip() -> None:
    row = {
        "service": "A",
        "service_name": "Loop, hot",
        "tag": "A-1",
        "name": "x",
        "place": "",
        "nickname": "",
        "kind": "base_mounted",
        "role": "duty",
        "pair": "A-1",
        "control": "drive",
        **plate_cells("motor", plate(power=e("11", "kW"))),
    }
    rows, refused = parse_register(write_register([row]))
    assert refused == []
    assert rows[0].motor == plate(power=e("11", "kW"))
    assert rows[0].service_name == "Loop, hot"


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "file_empty"),
        ("\ufeff", "file_empty"),
        ("a,b\n1,2", "header_wrong"),
        ("service,tag,kind,colour\nA,1,x,red", "header_wrong"),
    ],
)
def test_a_file_that_is_no_register(text: str, code: str) -> None:
    with pytest.raises(HurbinError) as told:
        parse_register(text)
    assert told.value.code == code


def test_rows_are_refused_by_line_with_the_reason() -> None:
    text = (
        "\ufeffkind;tag;service;motor_amps_low;role\nbase_mounted;A-1;S;20|A;duty\nbase_mounted;A-1;S;;\n"
        "rocket;A-2;S;;\nbase_mounted;A-3;S;-4|A;boss\n"
    )
    rows, refused = parse_register(text)
    assert [r.tag for r in rows] == ["A-1"]
    assert [(r.line, sorted(p.field for p in r.problems)) for r in refused] == [
        (3, ["tag"]),
        (4, ["kind"]),
        (5, ["motor_amps_low", "role"]),
    ]
    assert "line 2" in refused[0].problems[0].message


def test_a_cell_is_never_a_formula() -> None:
    text = write_register([{"service": "A", "tag": "T", "kind": "vacuum", "name": "=1+1", "place": ""}])
    assert "'=1+1" in text
    row = parse_register(text)[0][0]
    assert (row.name, row.place) == ("=1+1", "")
    assert columns()[0] == "service"


def answer(
    question: str, verdict: Verdict, days: int = 0, part: str = "motor", by: By | None = None
) -> Answer:
    return Answer(
        question=question,
        part=part,
        verdict=verdict,
        by=by,
        reason=phrase("overdue.never"),
        taken_at=NOW - timedelta(days=days),
    )


def test_newest_answer_to_each_question_counts() -> None:
    folded = fold_parts(
        [
            answer("load", Verdict.STOP, 30),
            answer("load", Verdict.GOOD, 1),
            answer("own_past", Verdict.WATCH, 1, "pump"),
        ]
    )
    assert {p.part: p.verdict for p in folded} == {"motor": Verdict.GOOD, "pump": Verdict.WATCH}


def test_overdue_becomes_unknown_but_never_better() -> None:
    part = fold_parts([answer("load", Verdict.WATCH)])[0]
    late = overdue(part, NOW - timedelta(days=3), NOW)
    assert (late.verdict, late.beside) == (Verdict.UNKNOWN, Verdict.WATCH)
    assert overdue(part, NOW, NOW).verdict is Verdict.WATCH
    stop = fold_parts([answer("load", Verdict.STOP)])[0]
    assert overdue(stop, NOW - timedelta(days=99), NOW).verdict is Verdict.STOP


def test_who_needs_a_person_first() -> None:
    act = fold_parts([answer("load", Verdict.ACT, by=By.NOW)])
    watch = fold_parts([answer("load", Verdict.WATCH)])
    assert attention(act, True, 1) < attention(watch, False, 3)
    assert attention(watch, False, 1) < attention(watch, True, 3)
    assert behind([]).template == "behind.nothing"
    assert behind([("B", Verdict.STOP)]).template == "behind.doubtful"


@given(st.integers(0, 1000))
def test_simulator_says_the_same_for_the_same_seed(day: int) -> None:
    life = SetLife(400, 20, 3, 0.8, 0.01, 1.0, 5, "drag", 300)
    assert life.check(day, date(2024, 1, 1)) == life.check(day, date(2024, 1, 1))


def test_simulated_faults_show_on_the_meter() -> None:
    """No rule here: only what the meter's texts do over three years."""

    def amps(fault: str, day: int) -> list[float]:
        return [
            float(a)
            for a in SetLife(400, 30, 3, 0.8, 0.0, 1.0, 9, fault, 300).check(day, date(2024, 6, 1))[1]
        ]

    assert sum(amps("drag", 1090)) > 1.08 * sum(amps("", 1090))
    assert sum(amps("worn_rings", 1090)) < 0.95 * sum(amps("", 1090))
    assert max(amps("joint", 1090)) - min(amps("joint", 1090)) > 4 * (
        max(amps("", 1090)) - min(amps("", 1090))
    )
