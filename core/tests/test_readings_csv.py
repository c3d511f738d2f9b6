"""Files of readings: what people's files look like, what is refused, and that a file comes back as it went
out.
"""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, strategies as st
from pydantic import ValidationError

from hurbin_core.base import HurbinError, decode
from hurbin_core.catalogue import bench
from hurbin_core.electrical import RunningCheckEntry
from hurbin_core.logbook import Context, Entry, open_readings, read_time, template, write_readings

LISBON = "Europe/Lisbon"
CHECK, TEST = bench("running_check"), bench("insulation")


def rows(text: str, b: Any = CHECK, **more: Any) -> list[Any]:
    return list(open_readings(text, b, LISBON, **more).rows())


def test_the_template_is_read_again() -> None:
    for b in (CHECK, TEST):
        assert rows(template(b), b) == []


def test_semicolons_a_decimal_comma_a_mark_other_order_other_units() -> None:
    text = decode(
        "\ufeffAmps_1|A;TAG;volts_12 [kV];taken_at;amps_3;amps_2\r\n14,7;C-1;0,402;2024-03-02"
        " 09:15;;14,9|A\r\n".encode()
    )
    row = rows(text)[0]
    assert (row.tag, row.problems) == ("C-1", [])
    assert row.taken_at == datetime(2024, 3, 2, 9, 15, tzinfo=UTC)
    assert row.bodies == [
        {
            "amps_1": {"text": "14,7", "unit": "A"},
            "volts_12": {"text": "0,402", "unit": "kV"},
            "amps_2": {"text": "14,9", "unit": "A"},
        }
    ]


def test_bounds_over_range_and_blank_legs_of_an_insulation_test() -> None:
    text = (
        "tag,taken_at,test_point,test_volts|V,ceiling|GOhm,winding|degF,R_30s|MOhm,R_60s|GOhm,L2_60s|MOhm,more_readings\nC-1,2024-07-01T10:00Z,motor,500,10,68,OL,>10G,,67s"
        " 800|MOhm; L1 61s >2|GOhm\n"
    )
    row = rows(text, TEST)[0]
    assert row.problems == []
    assert row.bodies[0] == {
        "test_point": "motor",
        "test_volts": {"text": "500", "unit": "V"},
        "ceiling": {"text": "10", "unit": "GOhm"},
        "winding": {"text": "68", "unit": "degF"},
    }
    assert [(r["leg"], r["seconds"], r["ohms"]["text"]) for r in row.bodies[1:]] == [
        ("all", 30, "OL"),
        ("all", 60, ">10G"),
        ("all", 67, "800"),
        ("L1", 61, ">2"),
    ]


@pytest.mark.parametrize(
    ("text", "day_first", "said"),
    [
        ("2024-03-02T09:15", None, "2024-03-02T09:15:00"),
        ("2024-07-02 09:15", None, "2024-07-02T08:15:00"),
        ("2024-07-02T09:15:30+02:00", None, "2024-07-02T07:15:30"),
        ("2024-03-02", None, "2024-03-02T12:00:00"),
        ("02.03.2024 09:15", None, "2024-03-02T09:15:00"),
        ("2/3/2024", True, "2024-03-02T12:00:00"),
        ("2/3/2024", False, "2024-02-03T12:00:00"),
        ("25/3/24 7:05", None, "2024-03-25T07:05:00"),
    ],
)
def test_dates_as_people_write_them(text: str, day_first: bool | None, said: str) -> None:
    assert read_time(text, ZoneInfo(LISBON), day_first).strftime("%Y-%m-%dT%H:%M:%S") == said


def test_a_date_that_reads_two_ways_is_refused_unless_the_file_tells() -> None:
    head = "tag,taken_at,amps_1|A\n"
    assert rows(head + "C-1,2/3/2024,5\n")[0].problems[0].code == "time_two_ways"
    told = rows(head + "C-1,2/3/2024,5\nC-1,25/3/2024,5\n")
    assert [r.taken_at.month for r in told] == [3, 3]
    assert rows(head + "C-1,31.2.2024,5\n")[0].problems[0].code == "time_wrong"


@pytest.mark.parametrize(
    ("raw", "code"),
    [
        (b"", "file_empty"),
        (b"  \n", "file_empty"),
        (b"\x89PNG\r\n\x1a\n....", "file_wrong_kind"),
        (b"PK\x03\x04....", "file_wrong_kind"),
        (b"\xd0\xcf\x11\xe0....", "file_wrong_kind"),
        (b"abc\x00\x01", "file_wrong_kind"),
    ],
)
def test_what_is_no_file_of_readings(raw: bytes, code: str) -> None:
    with pytest.raises(HurbinError) as told:
        decode(raw)
    assert told.value.code == code


@pytest.mark.parametrize(
    ("header", "words"),
    [
        ("taken_at,amps_1", "Missing columns in the header: tag"),
        ("tag,taken_at,colour", "Unknown columns in the header: colour"),
        ("tag,taken_at,amps_1,Amps_1", "twice"),
        ("tag,taken_at,amps_1|bar", "not a unit"),
    ],
)
def test_a_header_that_is_none(header: str, words: str) -> None:
    with pytest.raises(HurbinError, match=words):
        open_readings(header + "\n", CHECK, LISBON)


def test_rows_are_refused_with_their_line_and_reason() -> None:
    text = (
        "tag,taken_at,amps_1|A,valve,coupled\n,2024-01-01,5,open,yes\nC-1,,5,open,yes\nC-1,2024-01-01,5,ajar,yes\n"
        "C-1,2024-01-01,5,open,perhaps\nC-1,2024-01-01,5,open,yes,9\n"
    )
    found = rows(text)
    assert [r.line for r in found] == [2, 3, 4, 5, 6]
    assert [r.problems[0].code for r in found] == [
        "tag_missing",
        "time_missing",
        "choice_unknown",
        "choice_unknown",
        "row_too_long",
    ]


FIGURE = st.sampled_from(["512", ">10", "OL", "0,35", "1.2 G", "-3", "<0.1"])
UNITS = st.sampled_from(["MOhm", "GOhm", ""])


@given(
    st.lists(
        st.tuples(
            st.sampled_from(["all", "L1", "L3"]),
            st.sampled_from([15.0, 30.0, 60.0, 67.5, 600.0]),
            FIGURE,
            UNITS,
        ),
        max_size=6,
        unique_by=lambda r: (r[0], r[1]),
    ),
    st.sampled_from(["=cmd", "rain; then, sun", "“quoted”", "line"]),
)
def test_round_trip_loses_nothing(readings: list[tuple[str, float, str, str]], note: str) -> None:
    def ohms(text: str, unit: str) -> dict[str, str]:
        return {"text": text, "unit": unit} if unit else {"text": text}

    facts = {
        "setup": {
            "test_point": "motor",
            "note": note,
            "arresters_off": True,
            "winding": {"text": "68", "unit": "degF"},
        },
        "readings": [{"leg": leg, "seconds": s, "ohms": ohms(t, u)} for leg, s, t, u in readings],
    }
    at = datetime(2024, 3, 2, 9, 15, 30, 123456, tzinfo=UTC)
    row = rows(write_readings(TEST, [("C-1", at, facts)]), TEST)[0]
    assert row.problems == []
    assert row.taken_at == at
    setup, *rest = row.bodies
    assert {k: v for k, v in setup.items() if k != "kind"} == facts["setup"]
    assert sorted(map(str, ({k: v for k, v in r.items() if k != "kind"} for r in rest))) == sorted(
        map(str, facts["readings"])
    )
    made = [
        Entry[TEST.entry].model_validate({"uuid": f"row-{i:06d}", "taken_at": at, "body": b})
        for i, b in enumerate(row.bodies)
    ]  # type: ignore[name-defined]
    assert TEST.facts(made)["setup"] == {**facts["setup"]}


def test_a_running_check_comes_back_as_typed() -> None:
    facts = {
        "volts_12": {"text": "0,402", "unit": "kV"},
        "amps_1": {"text": "14.7"},
        "valve": "throttled",
        "coupled": False,
        "note": "-",
    }
    row = rows(write_readings(CHECK, [("C-1", datetime(2024, 3, 2, tzinfo=UTC), facts)]))[0]
    assert row.bodies == [facts]


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("2024-13-45", "time_wrong"),
        ("2024-02-30 09:00", "time_wrong"),
        ("31.02.2024", "time_wrong"),
        ("0001-01-01", "time_outside"),
        ("9999-12-31T23:59:59", "time_outside"),
        ("1899-12-31", "time_outside"),
        ("2101-01-01", "time_outside"),
    ],
)
def test_a_time_that_cannot_be_is_refused_by_name(text: str, code: str) -> None:
    with pytest.raises(HurbinError) as told:
        read_time(text, ZoneInfo("Europe/Lisbon"), None)
    assert told.value.code == code


@pytest.mark.parametrize("at", ["2026-03-02T09:00:00", "0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z"])
def test_an_entry_without_a_zone_or_out_of_all_time_is_refused(at: str) -> None:
    with pytest.raises(ValidationError):
        Entry[RunningCheckEntry].model_validate({"uuid": "entry-0001", "taken_at": at, "body": {}})
    with pytest.raises(ValidationError):
        Context.model_validate({"as_of": at})
