"""A drive's settings: registers packed by the wire's own library read back, what cannot be named, what a
parameter ought to be by nameplate, fuse, pump and pipe.
"""

from __future__ import annotations

import struct
from typing import Any

import pytest
from cases import case
from hypothesis import given, strategies as st
from pymodbus.client.mixin import ModbusClientMixin

from hurbin_core.base import Entered, HurbinError, Verdict, write
from hurbin_core.electrical import DRIVE_SHEET
from hurbin_core.electrical.drive_sheet import (
    MAPS,
    PARAMETERS,
    decode,
    defaults,
    read_settings,
    write_settings,
)
from hurbin_core.electrical.drive_sheet.parameters import read_setting
from hurbin_core.logbook import Entry
from hurbin_core.plant import MotorPlate

from test_protection import AT  # isort: skip

PACK = ModbusClientMixin.convert_to_registers
TYPE = ModbusClientMixin.DATATYPE


def packed(family: str, settings: dict[str, str]) -> dict[int, int]:
    """Registers as the library that speaks the wire packs them; the rest as it leaves the factory."""
    sheet, out = MAPS[family], {}
    for r in sheet.registers:
        number = r.default
        if r.parameter in settings:
            said = settings[r.parameter]
            number = next((int(n) for n, w in r.choices.items() if w == said), None) or 0
            if not r.choices:
                number = round(float(said) / r.scale)
        kind = TYPE.INT32 if sheet.words == 2 else TYPE.INT16 if number < 0 else TYPE.UINT16
        out.update(enumerate(PACK(number, kind), r.address))
    return out


@pytest.mark.parametrize("family", MAPS)
@given(
    amps=st.integers(1, 3000),
    hz=st.integers(500, 12000),
    point=st.integers(-900, 900),
    restart=st.sampled_from(["off", "on"]),
)
def test_what_was_packed_is_read_back(family: str, amps: int, hz: int, point: int, restart: str) -> None:
    said = {
        "motor_amps": f"{amps / 10:g}",
        "max_hz": f"{hz / 100:g}",
        "restart": restart,
        "pid_setpoint": f"{point / 10:g}",
    }
    if MAPS[family].words == 1:
        said["pid_setpoint"] = f"{point / 100:g}"
    got = decode(MAPS[family], packed(family, said))
    assert got.problems == []
    assert {k: float(got.settings[k]) for k in said if k != "restart"} == pytest.approx(
        {k: float(v) for k, v in said.items() if k != "restart"}
    )
    assert got.settings["restart"] == restart


@pytest.mark.parametrize("family", MAPS)
def test_a_family_names_sixty_parameters_and_its_own_defaults_can_be(family: str) -> None:
    assert len(MAPS[family].registers) >= 60
    assert decode(MAPS[family], packed(family, {})).settings == defaults(MAPS[family])
    for k, text in defaults(MAPS[family]).items():
        assert read_setting(PARAMETERS[k], text) is not None
    spans = [r.address + n for r in MAPS[family].registers for n in range(MAPS[family].words)]
    assert len(spans) == len(set(spans))


@pytest.mark.parametrize(
    ("spoil", "code", "lost"),
    [
        (lambda held, at: held.pop(at["motor_amps"]), "register_missing", "motor_amps"),
        (lambda held, at: held.update({at["restart"]: 77}), "register_choice", "restart"),
        (lambda held, at: held.update({at["max_hz"]: 0xFFFF}), "register_range", "max_hz"),
    ],
)
def test_a_register_that_cannot_be_is_named_and_not_taken(spoil: Any, code: str, lost: str) -> None:
    held = packed("ladder", {"motor_amps": "20"})
    spoil(held, {r.parameter: r.address for r in MAPS["ladder"].registers})
    got = decode(MAPS["ladder"], held)
    assert [(p.code, p.field) for p in got.problems] == [(code, lost)]
    assert lost not in got.settings
    assert len(got.settings) == len(MAPS["ladder"].registers) - 1


@pytest.mark.parametrize(("volts", "taken"), [("400", True), ("40", False), ("415", True)])
def test_ten_times_the_nameplate_is_a_wrong_scale_and_nothing_is_taken(volts: str, taken: bool) -> None:
    got = decode(MAPS["ladder"], packed("ladder", {"motor_volts": volts}), plate_volts=400.0)
    assert bool(got.settings) is taken
    assert taken or "scaled wrong" in got.problems[0].message


def test_the_other_family_is_noticed() -> None:
    wide = packed("wide", {})
    shifted = {a - 3900: v for a, v in wide.items()}
    assert decode(MAPS["ladder"], shifted).problems


# ---- by file


def test_settings_go_out_as_a_table_and_come_back() -> None:
    said = {"motor_amps": "20.4", "accel": "20", "restart": "off", "motor_power": "20 hp"}
    text = write_settings(said)
    assert "motor_amps,20.4,A" in text.replace("\r", "")
    got = read_settings("\ufeff" + text)
    assert got.problems == []
    assert got.settings["motor_power"] == "20 hp"
    assert got.settings["motor_amps"] == "20.4 A"


def test_lines_that_cannot_be_are_named_and_the_others_taken() -> None:
    got = read_settings(
        "Parameter;Value\nAcceleration;20\naccel;30\nspeed of light;3\nrestart;often\nmax_hz;9999\n"
    )
    assert got.settings == {"accel": "20"}
    assert [p.code for p in got.problems] == [
        "parameter_twice",
        "parameter_unknown",
        "setting_word",
        "too_high",
    ]
    with pytest.raises(HurbinError, match="no columns"):
        read_settings("a,b\n1,2\n")


# ---- what it ought to be

MOTOR = MotorPlate(
    volts_low=Entered(text="400 V"),
    amps_low=Entered(text="29 A"),
    power=Entered(text="15 kW"),
    speed=Entered(text="1465 rpm"),
    frequency=Entered(text="50 Hz"),
)


def sheet(rows: dict[str, str], **more: Any) -> Any:
    body = {"rows": [{"id": k, "found": v} for k, v in rows.items()], **more}
    entry = Entry(uuid="00000001", taken_at=AT, body=DRIVE_SHEET.entry.model_validate(body))
    return DRIVE_SHEET.evaluate(case(as_of=AT, motor=MOTOR, control_kind="drive"), [entry])


def state(e: Any, name: str) -> str:
    return next(str(r.state) for g in e.view.groups for r in g.rows if r.id == name)


@pytest.mark.parametrize(
    ("name", "said", "more", "expected"),
    [
        ("motor_rpm", "1465", {}, "right"),
        ("motor_rpm", "1500", {}, "wrong"),
        ("motor_poles", "4", {}, "right"),
        ("motor_power", "20.1 hp", {}, "right"),
        ("current_limit", "63", {"fuse": {"text": "63", "unit": "A"}}, "right"),
        ("current_limit", "64", {"fuse": {"text": "63", "unit": "A"}}, "wrong"),
        ("current_limit", "40", {}, "unsure"),
        ("accel", "0.4", {"pipe": {"text": "20", "unit": "m"}}, "wrong"),
        ("decel", "40", {"pipe": {"text": "20000", "unit": "m"}}, "right"),
        ("decel", "39", {"pipe": {"text": "20000", "unit": "m"}}, "wrong"),
        ("carrier", "8 kHz", {"cable": {"text": "90", "unit": "m"}}, ""),
        ("boost", "5", {}, ""),
    ],
)
def test_what_a_parameter_ought_to_be(name: str, said: str, more: dict[str, Any], expected: str) -> None:
    e = sheet({name: said}, **more)
    assert e.problems == [] or name == "carrier"
    assert state(e, name) in (expected, "unread")


def test_one_kilohertz_is_no_unit_here_and_what_was_typed_stays_named() -> None:
    e = sheet({"carrier": "8 kHz"})
    assert e.problems[0].field == "found.carrier"
    assert e.verdict is not Verdict.GOOD


def test_flux_of_sixty_hertz_settings_on_a_fifty_hertz_plate() -> None:
    """460 V at 60 Hz against 400 V at 50 Hz: 7.67 over 8.00 V/Hz, 96 %; the other way 104 %."""
    e = sheet({"motor_volts": "460", "motor_hz": "60"})
    notes = " ".join(write(p) for f in e.findings for p in f.notes)
    assert pytest.approx(0.958, abs=5e-4) == 460 / 60 / (400 / 50)
    assert "95.8" in notes
    assert "weak" in notes


def test_no_parameter_that_is_missing_or_unknown_is_called_good() -> None:
    for k, p in PARAMETERS.items():
        if p.should:
            e = sheet({k: "nonsense 7"})
            assert e.verdict is not Verdict.GOOD, k
    twice = [{"id": "accel", "found": "5"}, {"id": "accel", "found": "6"}, {"id": "warp", "found": "9"}]
    body = DRIVE_SHEET.entry.model_validate({"rows": twice})
    e = DRIVE_SHEET.evaluate(
        case(as_of=AT, motor=MOTOR, control_kind="drive"), [Entry(uuid="00000002", taken_at=AT, body=body)]
    )
    assert {p.code for p in e.problems} == {"parameter_twice", "parameter_unknown"}


def test_a_packed_word_is_the_higher_half_first() -> None:
    """By struct, not by our own reading."""
    high, low = struct.unpack(">2H", struct.pack(">I", 400_000))
    at = next(r for r in MAPS["wide"].registers if r.parameter == "motor_rpm")
    held = packed("wide", {}) | {at.address: high, at.address + 1: low}
    assert decode(MAPS["wide"], held).problems[0].code == "register_range"
    assert decode(MAPS["wide"], packed("wide", {"motor_rpm": "1475"})).settings["motor_rpm"] == "1475"


@pytest.mark.parametrize(
    ("plate", "said", "expected"), [("1493", "1500", "wrong"), ("1493", "1493", "right")]
)
def test_the_synchronous_speed_is_wrong_however_near_the_nameplate_is(
    plate: str, said: str, expected: str
) -> None:
    motor = MOTOR.model_copy(update={"speed": Entered(text=f"{plate} rpm")})
    body = DRIVE_SHEET.entry.model_validate({"rows": [{"id": "motor_rpm", "found": said}]})
    told = case(as_of=AT, motor=motor, control_kind="drive")
    e = DRIVE_SHEET.evaluate(told, [Entry(uuid="00000003", taken_at=AT, body=body)])
    assert state(e, "motor_rpm") == expected
