"""What is stamped on the parts, kept as typed, and the figures read from it."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Literal

from pydantic import Field, model_validator

from ..base import Entered, Limits, Missing, Model, Problem, entered_field, field_rules, read_fields


class MotorPlate(Model):
    """A motor's plate. A dual-voltage plate has a low and a high column; `connection` says which is in
    use.
    """

    phases: Literal[1, 3] = Field(default=3, title="Phases")
    connection: Literal["single", "low", "high"] = Field(default="single", title="Connection in use")
    volts_low: Entered | None = entered_field("Nameplate voltage", "voltage", high=15000)
    volts_high: Entered | None = entered_field("Nameplate voltage, high connection", "voltage", high=15000)
    amps_low: Entered | None = entered_field("Nameplate current (FLA)", "current", high=5000)
    amps_high: Entered | None = entered_field(
        "Nameplate current (FLA), high connection", "current", high=5000
    )
    power: Entered | None = entered_field("Power", "power", high=20000)
    speed: Entered | None = entered_field("Speed", "speed", high=30000)
    frequency: Entered | None = entered_field("Frequency", "frequency", low=10, high=400)
    service_factor: Entered | None = entered_field("Service factor", "ratio", low=1.0, high=2.0)
    sf_amps_low: Entered | None = entered_field("Service-factor current (SFA)", "current", high=5000)
    sf_amps_high: Entered | None = entered_field(
        "Service-factor current (SFA), high connection", "current", high=5000
    )
    sf_on_drive: bool = Field(default=False, title="Service factor applies on a drive (per nameplate)")
    insulation_class: Literal["", "A", "B", "F", "H"] = Field(default="", title="Insulation class")
    winding: Literal["", "random", "form"] = Field(default="", title="Winding type")
    built_in_electronics: bool = Field(default=False, title="Built-in electronics")
    cooling: Literal["", "own_fan", "separate", "pumped_water"] = Field(default="", title="Cooled by")
    max_ambient: Entered | None = entered_field("Maximum ambient temperature", "temperature", low=0, high=90)
    year: int | None = Field(default=None, ge=1900, le=2100, title="Year built")
    frame: str = Field(default="", max_length=40, title="Frame")
    serial: str = Field(default="", max_length=60, title="Serial number")
    note: str = Field(default="", max_length=400, title="Note")


class ControlPlate(Model):
    """What starts the motor: a direct starter, a soft starter or a drive (told by the component's kind)."""

    overload_setting: Entered | None = entered_field("Overload setting", "current", high=5000)
    rated_amps: Entered | None = entered_field("Rated current", "current", high=5000)
    current_limit: Entered | None = entered_field("Drive current limit", "current", high=5000)
    overload_multiplier: Entered | None = entered_field(
        "Overload, trip ÷ setting", "ratio", low=1.0, high=2.0
    )
    trip_class: Literal["", "10A", "10", "20", "30"] = Field(default="", title="Trip class")
    fuse_class: Literal["", "J", "RK1", "RK5", "CC", "T", "H", "gG", "aM", "aR"] = Field(
        default="", title="Fuse class, per drawing"
    )
    fuse_delay: Literal["", "delay", "fast"] = Field(default="", title="Fuse delay, per drawing")
    fuse_amps: Entered | None = entered_field("Fuse rating, per drawing", "current", high=5000)
    fuse_volts: Entered | None = entered_field("Fuse voltage, per drawing", "voltage", high=20000)
    note: str = Field(default="", max_length=400, title="Note")


class FusesPlate(Model):
    """The fuses of the power circuit, as they belong there: what is printed on them, how they are held."""

    fuse_class: Literal["", "J", "RK1", "RK5", "CC", "T", "H", "gG", "aM", "aR"] = Field(
        default="", title="Class"
    )
    fuse_delay: Literal["", "delay", "fast"] = Field(default="", title="Delay")
    fuse_amps: Entered | None = entered_field("Rating", "current", high=5000)
    fuse_volts: Entered | None = entered_field("Voltage", "voltage", high=20000)
    interrupting: Entered | None = entered_field("Interrupting rating", "fault_current", high=500)
    clip: Literal["", "spring", "bolted", "rejecting", "carrier"] = Field(default="", title="Clips")
    note: str = Field(default="", max_length=400, title="Note")


class PumpPlate(Model):
    """The wet end, and the curve that came with it. `curve`: rows of flow, head, and what else is known; with
    the speed, the impeller and the density that it holds for.
    """

    type: Literal["", "radial", "mixed", "axial", "vortex", "regenerative", "displacement"] = Field(
        default="", title="Pump type"
    )
    flow: Entered | None = entered_field("Rated flow", "flow", high=50000)
    head: Entered | None = entered_field("Rated head, as pressure", "pressure", high=50000)
    impeller: Entered | None = entered_field("Impeller diameter", "length", low=10, high=3000)
    stages: int | None = Field(default=None, ge=1, le=60, title="Stages")
    curve: str = Field(default="", max_length=4000, title="Curve: flow; head; power; NPSH required")
    curve_speed: Entered | None = entered_field("Speed of the curve", "speed", low=100, high=30000)
    curve_impeller: Entered | None = entered_field("Impeller of the curve", "length", low=10, high=3000)
    curve_density: Entered | None = entered_field(
        "Density of the curve's power", "density", low=500, high=2000
    )
    bep_flow: Entered | None = entered_field("Best-efficiency flow", "flow", high=50000)
    min_flow: Entered | None = entered_field("Minimum continuous flow", "flow", high=50000)
    ring_diameter: Entered | None = entered_field("Wear ring, diameter", "length", low=10, high=3000)
    ring_length: Entered | None = entered_field("Wear ring, length", "length", low=1, high=500)
    ring_new: Entered | None = entered_field(
        "Wear ring, diametral clearance new", "length", low=0.02, high=10
    )
    serial: str = Field(default="", max_length=60, title="Serial number")
    note: str = Field(default="", max_length=400, title="Note")


class PartPlate(Model):
    """Any other part: what it is, in words."""

    size: str = Field(default="", max_length=60, title="Size")
    material: str = Field(default="", max_length=60, title="Material")
    serial: str = Field(default="", max_length=60, title="Serial number")
    note: str = Field(default="", max_length=400, title="Note")


Plate = MotorPlate | ControlPlate | FusesPlate | PumpPlate | PartPlate


class FittedPart(Model):
    """What stands at a place of the train: the component's kind and its plate, where there is one."""

    kind: str
    plate: Plate | None = None

    @model_validator(mode="before")
    @classmethod
    def _plate_of_its_kind(cls, raw: Any) -> Any:
        if isinstance(raw, dict) and isinstance(raw.get("plate"), dict):
            return {**raw, "plate": plate_model(str(raw.get("kind", ""))).model_validate(raw["plate"])}
        return raw


def plate_model(component_kind: str) -> type[Plate]:
    """Which plate does a component of this kind carry?"""
    if component_kind == "motor":
        return MotorPlate
    if component_kind in ("starter", "soft_starter", "drive"):
        return ControlPlate
    if component_kind == "fuses":
        return FusesPlate
    if component_kind in ("wet_end", "rotor"):
        return PumpPlate
    return PartPlate


@dataclass(slots=True)
class MotorFacts:
    """The plate's figures for the connection in use, metric, None where the plate is silent."""

    phases: int = 3
    volts_v: float | None = None
    amps_a: float | None = None
    sf: float | None = None
    sf_amps_a: float | None = None
    sf_amps_from: str = ""
    power_kw: float | None = None
    speed_rpm: float | None = None
    frequency_hz: float | None = None
    max_ambient_c: float = 40.0
    cooling: str = ""
    sf_on_drive: bool = False
    problems: list[Problem] = field(default_factory=list)


def motor_facts(plate: MotorPlate | None) -> MotorFacts:
    """Which figures hold for the connection in use? Service-factor amps come from the plate where it
    gives them, else plate amps times service factor; `sf_amps_from` says which."""
    if plate is None:
        return MotorFacts()
    got, problems = read_fields(plate)

    def value(name: str) -> float | None:
        return got[name].value if name in got else None

    column = "high" if plate.connection == "high" else "low"
    amps, sf, sf_amps = value(f"amps_{column}"), value("service_factor"), value(f"sf_amps_{column}")
    made_from = "nameplate" if sf_amps is not None else ""
    if sf_amps is None and amps is not None and sf is not None and sf > 1:
        sf_amps, made_from = amps * sf, "nameplate current × service factor"
    ambient = value("max_ambient")
    return MotorFacts(
        phases=plate.phases,
        volts_v=value(f"volts_{column}") or None,
        amps_a=amps or None,
        sf=sf,
        sf_amps_a=sf_amps,
        sf_amps_from=made_from,
        power_kw=value("power"),
        speed_rpm=value("speed"),
        frequency_hz=value("frequency"),
        max_ambient_c=Limits().value("plate.ambient") if ambient is None else ambient,
        cooling=plate.cooling,
        sf_on_drive=plate.sf_on_drive,
        problems=problems,
    )


# What rooms above hold against a plate before it is kept: a curve that cannot be.
PLATE_CHECKS: list[Callable[[Plate], list[Problem]]] = []


def check_plate(plate: Plate) -> tuple[list[Problem], list[Missing]]:
    """Can this plate be? What on it is impossible, and what is missing that a check will ask for."""
    got, problems = read_fields(plate)
    problems += [p for check in PLATE_CHECKS for p in check(plate)]
    missing: list[Missing] = []
    if not isinstance(plate, MotorPlate):
        return problems, missing

    def clash(field_name: str, message: str, right: str) -> None:
        text = getattr(plate, field_name)
        problems.append(
            Problem(
                code="plate_clash",
                field=field_name,
                value=text.text if text else "",
                message=message,
                right=right,
            )
        )

    if plate.connection != "single":
        if {"volts_low", "volts_high"} <= got.keys() and got["volts_high"].value <= got["volts_low"].value:
            clash(
                "volts_high",
                "Voltage of the high connection must be above that of the low one.",
                "high voltage above low voltage",
            )
        if {"amps_low", "amps_high"} <= got.keys() and got["amps_high"].value >= got["amps_low"].value:
            clash(
                "amps_high",
                "Current at the high voltage must be the smaller one.",
                "high-voltage current below low-voltage current",
            )
    for column in ("low", "high"):
        plain, full = got.get(f"amps_{column}"), got.get(f"sf_amps_{column}")
        if plain and full and full.value < plain.value:
            clash(
                f"sf_amps_{column}",
                "Service-factor current cannot be below nameplate current.",
                "nameplate current or more",
            )
    column = "high" if plate.connection == "high" else "low"
    for name, words in (
        (f"volts_{column}", "voltage readings cannot be evaluated"),
        (f"amps_{column}", "the load cannot be evaluated"),
    ):
        if name not in got and not any(p.field == name for p in problems):
            label = field_rules(MotorPlate)[name].label
            missing.append(Missing(field=name, message=f"{label}: not entered, so {words}."))
    return problems, missing
