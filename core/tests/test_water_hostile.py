"""What nobody should type, in every field of the benches of water, with plates and loops that cannot be: an
answer, never an exception, and never a figure that is none.
"""

from __future__ import annotations

import json
from datetime import UTC, date, datetime, timedelta
from random import Random
from typing import Any, Literal, get_args, get_origin

import pytest
from cases import case
from pydantic import BaseModel

from hurbin_core.base import Entered, Prefs, present
from hurbin_core.catalogue import bench
from hurbin_core.logbook import Entry, HistoryPoint
from hurbin_core.plant import MotorPlate, PumpPlate

AT = datetime(2026, 3, 2, tzinfo=UTC)
BENCHES = ("duty", "throttle", "suction", "wear", "loop", "fill", "drawdown", "vacuum", "which")
TYPED = [
    "",
    "0",
    "-1",
    "1",
    "2",
    "3.5",
    "40",
    "400",
    "1e308",
    "9e999",
    "NaN",
    "OL",
    "<5",
    "٣",
    "1.2.3",
    "0,09",
]
TYPED += ["0.0000001", "99999999999", "-0", "½", "5 V", "20 bar", "-0.9", "120", "12", "0.42"]
CURVES = [
    "",
    "x",
    "0;0\n1;0\n2;0",
    "0; 34\n36; 30.2\n66; 21.5",
    "0;34;0\n20;32;0\n40;28;0\n60;20;0",
    "1;2\n3;1.9\n4;1.8\n9;0",
]
CURVES += [
    "0; 34; 5; 2\n20; 32; 4; 2\n40; 28; 3; 3\n60; 20; 2; 5",
    "flow;head;efficiency\n0;30;0\n20;28;0.001\n40;20;70",
]
LEVELS = ["", "x", "0;0", "0;0\n1;4\n2;9", "5;1\n1;4", "0 0\n0 0"]


def typed(rng: Random) -> dict[str, str]:
    return {"text": rng.choice(TYPED), "unit": ""}


def words(annotation: Any) -> list[str]:
    """The words that a field takes."""
    if get_origin(annotation) is Literal:
        return [str(w) for w in get_args(annotation)]
    return [w for a in get_args(annotation) for w in words(a)]


def row_model(annotation: Any) -> type[BaseModel] | None:
    inner = get_args(annotation)
    held = inner[0] if get_origin(annotation) is list and inner else None
    return held if isinstance(held, type) and issubclass(held, BaseModel) else None


def value(name: str, info: Any, rng: Random) -> Any:
    if "x-entered" in (info.json_schema_extra or {}):
        return typed(rng)
    rows = row_model(info.annotation)
    if rows is not None:
        return [body_of(rows, rng) for _ in range(rng.randint(0, 4))]
    if name == "levels":
        return rng.choice(LEVELS)
    if name == "done":
        return rng.sample(["mended", "fill", "x", ""], 2)
    told = str(info.annotation)
    if "datetime.datetime" in told or "AwareDatetime" in told:
        return (AT - timedelta(hours=rng.choice([-5, 0, 1, 1, 30, 900, 900000]))).isoformat()
    if "datetime.date" in told:
        return rng.choice(
            [date(1900, 1, 1), date(2026, 3, 1), date(2026, 3, 9), date(9999, 12, 31)]
        ).isoformat()
    if "float" in told:
        return rng.choice([0, 0.5, 1])
    said = words(info.annotation)
    return rng.choice(said) if said else rng.choice([True, False]) if "bool" in told else "x"


def body_of(model: type[BaseModel], rng: Random) -> dict[str, Any]:
    return {n: value(n, i, rng) for n, i in model.model_fields.items() if rng.random() < 0.7}


def pump(rng: Random) -> PumpPlate:
    figures = ("flow", "head", "impeller", "curve_speed", "curve_impeller", "bep_flow", "min_flow")
    rings = ("ring_diameter", "ring_length", "ring_new", "curve_density")
    said = {
        n: Entered(text=rng.choice(["", "0", "40", "2900", "-3", "x", "0.4"])) for n in (*figures, *rings)
    }
    kinds = ("", "radial", "axial", "displacement", "vortex", "mixed", "regenerative")
    return PumpPlate(type=rng.choice(kinds), curve=rng.choice(CURVES), **said)  # type: ignore[arg-type]


def motor(rng: Random) -> MotorPlate | None:
    names = ("volts_low", "amps_low", "power", "speed", "frequency")
    figures = {n: Entered(text=rng.choice(["", "0", "400", "20", "1470", "50"])) for n in names}
    return rng.choice([None, MotorPlate(phases=rng.choice([1, 3]), **figures)])  # type: ignore[arg-type]


def past(rng: Random) -> list[HistoryPoint]:
    names = ("head_at_flow", "drawdown_flow", "drawdown_amps", "current")
    return [
        HistoryPoint(
            measurand=rng.choice(names),
            conditions="",
            value=rng.choice([0, 1e-9, 66, 101, 1e12]),
            taken_at=AT - timedelta(days=rng.randint(0, 900)),
            record=str(rng.randint(0, 3)),
        )
        for _ in range(rng.randint(0, 9))
    ]


def loop(rng: Random) -> dict[str, Any]:
    from hurbin_core.hydraulics import LoopPlate

    known = [
        {"at": (AT - timedelta(days=n)).isoformat(), "kpa": rng.choice([-90, 0, 150]), "temp_c": 20}
        for n in (1, 3)
    ]
    return {"name": "L", "plate": body_of(LoopPlate, rng), "tags": ["A-1"], "past": known}


@pytest.mark.parametrize("name", BENCHES)
@pytest.mark.parametrize("seed", range(150))
def test_any_sheet_of_water_has_an_answer(name: str, seed: int) -> None:
    rng, b = Random(f"{name}/{seed}"), bench(name)
    entry = Entry(uuid="00000001", taken_at=AT, body=b.entry.model_validate(body_of(b.entry, rng)))
    more = {"loop": loop(rng)} if rng.random() < 0.8 else {}
    kinds = [
        "base_mounted",
        "wet_rotor",
        "submersible",
        "positive_displacement",
        "vacuum",
        "condensate_return",
        "",
    ]
    told = case(
        as_of=AT,
        motor=motor(rng),
        pump=rng.choice([None, pump(rng)]),
        control_kind=rng.choice(["starter", "drive", ""]),
        kind=rng.choice(kinds),
        altitude_m=rng.choice([None, 0.0, 12.0, 4000.0]),
        history=past(rng),
        **more,
    )
    answer = b.evaluate(told, [entry])
    json.dumps(answer.model_dump(mode="json"), allow_nan=False)
    json.dumps(present(answer, Prefs()).model_dump(mode="json"), allow_nan=False)
    b.performs(told, [entry], True)
