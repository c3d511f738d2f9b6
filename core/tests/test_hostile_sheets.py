"""What nobody should type, in every field of the benches before a first start: an answer, never an exception,
and never a figure that is none.
"""

from __future__ import annotations

import json
from datetime import UTC, datetime
from random import Random
from typing import Any, get_args

import pytest
from cases import case

from hurbin_core.base import Entered, Prefs, present
from hurbin_core.catalogue import bench
from hurbin_core.electrical.drive_sheet import PARAMETERS
from hurbin_core.logbook import Entry, PastSheet
from hurbin_core.plant import MotorPlate

AT = datetime(2026, 3, 2, tzinfo=UTC)
TYPED = [
    "",
    "0",
    "-1",
    "1",
    "2",
    "3.5",
    "400",
    "1e308",
    "9e999",
    "NaN",
    "OL",
    "<5",
    ">3",
    "٣",
    "1.2.3",
    "0,09",
]
TYPED += ["5 V", "20 hp", "8 kHz", "99999999999", "-0", "½", "off", "trip", "4-20"]
WORDS = {
    "groups": ["A B / C D / E F", "A B/C D/E F/G H J", "A B C/D E F/G H J", "A/A", "///", "×"],
    "starts": [
        "06:10 07:10",
        "9999-12-31 23:59",
        "0000-01-01 00:00",
        "24:00",
        "x",
        "٣٣:١٠",
        "0001-01-01 00:00 00:00",
    ],
    "family": ["ladder", "wide", "none"],
    "box": ["L1 T1 T7/L2 T2 T8", "L1 1 / L2 2 / L3 3 / 4 5 6", "L1 L2", "T1"],
}
PLATES = [
    None,
    MotorPlate(),
    MotorPlate(phases=1, amps_low=Entered(text="0"), speed=Entered(text="0"), frequency=Entered(text="10")),
    MotorPlate(
        volts_low=Entered(text="400 V"),
        amps_low=Entered(text="20 A"),
        frequency=Entered(text="50"),
        speed=Entered(text="1470"),
        power=Entered(text="11"),
        service_factor=Entered(text="1.15"),
    ),
]


def literals(annotation: Any) -> list[str]:
    """The words that a field takes."""
    if isinstance(annotation, str):
        return [annotation]
    return [w for a in get_args(annotation) for w in literals(a)]


def rows(rng: Random) -> list[dict[str, str]]:
    ids = [*PARAMETERS, "warp", ""]
    words = ("found", "left", "should", "why", "reason")
    return [
        {"id": rng.choice(ids)} | {w: rng.choice(TYPED) for w in words} for _ in range(rng.randint(0, 30))
    ]


def value(name: str, info: Any, rng: Random) -> Any:
    extra = info.json_schema_extra or {}
    if "x-entered" in extra:
        return {"text": rng.choice(TYPED), "unit": rng.choice(["", "V", "A", "s"])}
    if name == "rows":
        return rows(rng)
    if name == "tests":
        tapes = "ABCDEFGHJ"
        one = {"tied": rng.choice(tapes), "to": rng.choice(tapes), "kicks": rng.choice(["", "alike", "x"])}
        return [one | {"one": {"text": rng.choice(TYPED)}, "two": {"text": rng.choice(TYPED)}}] * rng.randint(
            0, 4
        )
    if name in WORDS:
        return rng.choice(WORDS[name])
    said = literals(info.annotation)
    return rng.choice(said) if said else rng.choice([True, False]) if "bool" in str(info.annotation) else "x"


@pytest.mark.parametrize("name", ["protection", "direction", "drive_sheet", "leads"])
@pytest.mark.parametrize("seed", range(150))
def test_any_sheet_has_an_answer(name: str, seed: int) -> None:
    rng, b = Random(f"{name}/{seed}"), bench(name)
    fields = b.entry.model_fields.items()
    body = {n: value(n, info, rng) for n, info in fields if n != "kind" and rng.random() < 0.65}
    entry = Entry(uuid="00000001", taken_at=AT, body=b.entry.model_validate(body))
    told = case(
        as_of=AT,
        motor=rng.choice(PLATES),
        control_kind=rng.choice(["starter", "drive", "soft_starter", ""]),
        kind=rng.choice(["base_mounted", "wet_rotor", "submersible", "positive_displacement", ""]),
        earlier=[PastSheet(taken_at=datetime(2026, 1, 1, tzinfo=UTC), body=body)] if seed % 3 == 0 else [],
    )
    answer = b.evaluate(told, [entry])
    json.dumps(answer.model_dump(mode="json"), allow_nan=False)
    json.dumps(present(answer, Prefs()).model_dump(mode="json"), allow_nan=False)
