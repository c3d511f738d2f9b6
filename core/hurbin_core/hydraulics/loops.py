"""A closed loop as the register has it: its water, its vessel, its highest point, its pipe; and what of it
cannot be.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from pydantic import AwareDatetime

from ..base import (
    Entered,
    HurbinError,
    Limits,
    Missing,
    Model,
    Problem,
    entered_field,
    exceeds,
    read_fields,
    said_field,
)
from ..logbook import AnyCase
from .fluid import STANDARD_AIR_KPA, Fluid, air_kpa, by_mass, fluid_of

LOOP = "loop"
Pipe = Literal["steel", "copper", "plastic"]


class LoopPlate(Model):
    """What stands in the register of one loop. Heights over its gauge."""

    volume: Entered | None = entered_field("Water in the loop", "volume", high=2e6)
    vessel: Entered | None = entered_field("Expansion vessel (0: none)", "volume", high=1e5)
    precharge: Entered | None = entered_field("Precharge of the vessel", "pressure", unit="bar", high=2000)
    high_point: Entered | None = entered_field("Highest point above the gauge", "head", low=0, high=500)
    relief: Entered | None = entered_field("Relief valve opens at", "pressure", unit="bar", high=4000)
    hottest: Entered | None = entered_field("Hottest it gets", "temperature", low=-20, high=130)
    coldest: Entered | None = entered_field("Coldest it gets", "temperature", low=-30, high=90)
    gauge_step: Entered | None = entered_field("Smallest step of its gauge", "pressure", unit="bar", high=100)
    fluid: Literal["water", "propylene", "ethylene"] | None = said_field("Liquid")
    glycol: Entered | None = entered_field("Glycol", "percent", high=100)
    glycol_by: Literal["mass", "volume"] | None = said_field("Percent by mass or by volume")
    pipe: Pipe | None = said_field("Pipe")
    bore: Entered | None = entered_field("Inside diameter of most of its pipe", "length", low=3, high=2000)
    wall: Entered | None = entered_field("Wall of that pipe", "length", low=0.3, high=100)
    vessel_at: Literal["suction", "discharge"] | None = said_field("Vessel joins")
    note: str = said_field("Note", "", free=True, max_length=400)


class PastPressure(Model):
    """A standing pressure that is on record: kPa gauge, °C, and on which set it was read."""

    at: AwareDatetime
    kpa: float
    temp_c: float
    tag: str = ""


class LoopKnown(Model):
    """A loop of the register: its name, its plate, the sets on it, and its standing pressures on record."""

    name: str
    plate: LoopPlate = LoopPlate()
    tags: list[str] = []
    past: list[PastPressure] = []


@dataclass(slots=True)
class Loop:
    """A loop understood. got: l, kPa gauge, m, °C, mm. known: it stands in the register."""

    known: LoopKnown | None
    got: dict[str, float] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)
    air: float = STANDARD_AIR_KPA
    air_known: bool = False

    @property
    def plate(self) -> LoopPlate:
        return self.known.plate if self.known is not None else LoopPlate()

    @property
    def rigid(self) -> bool | None:
        """No vessel at all? None where nobody said."""
        return None if "vessel" not in self.got else self.got["vessel"] == 0

    @property
    def w(self) -> float | None:
        """Glycol by mass; 0 for water; None where it is not known."""
        if self.plate.fluid == "water":
            return 0.0
        if self.plate.fluid is None or "glycol" not in self.got or self.plate.glycol_by is None:
            return None
        share = self.got["glycol"] / 100
        return share if self.plate.glycol_by == "mass" else by_mass(self.plate.fluid, share)

    def liquid(self, t_c: float) -> Fluid | None:
        """Its liquid at this temperature; None where it is not known, or outside the fits."""
        if self.plate.fluid is None or self.w is None:
            return None
        try:
            return fluid_of(self.plate.fluid, t_c, w=self.w or None)
        except HurbinError:
            return None

    @property
    def whole(self) -> bool:
        """Is enough known to say what a pressure means?"""
        if self.w is None or "volume" not in self.got or self.rigid is None:
            return False
        return {"bore", "wall"} <= self.got.keys() if self.rigid else "precharge" in self.got


def loop_of(case: AnyCase) -> Loop:
    """Which loop is this set on? Unknown where none of the register holds it."""
    rows = case.extra(LOOP, LoopKnown)
    out = Loop(rows[0] if rows else None)
    altitude = case.context.altitude_m
    if altitude is not None:
        out.air, out.air_known = air_kpa(altitude), True
    if out.known is not None:
        read, out.problems = read_fields(out.known.plate)
        out.got = {n: r.value for n, r in read.items()}
        out.problems += impossible(out.known.plate)
    return out


def impossible(plate: LoopPlate) -> list[Problem]:
    """What of a loop's plate cannot be, each with its own answer; shown where it is typed."""
    got = {n: r.value for n, r in read_fields(plate)[0].items()}
    out: list[Problem] = []

    def refuse(name: str, message: str, right: str) -> None:
        typed = getattr(plate, name)
        text = typed.text if isinstance(typed, Entered) else str(typed or "")
        out.append(Problem(code="loop_wrong", field=name, value=text, message=message, right=right))

    volume, vessel = got.get("volume"), got.get("vessel")
    if volume == 0:
        refuse("volume", "A loop without water is none.", "above 0")
    elif volume and vessel and exceeds(vessel, volume):
        refuse(
            "vessel",
            "The vessel is larger than the whole loop. Check the unit, or whether the two figures are "
            "exchanged.",
            "a vessel smaller than the loop",
        )
    if {"precharge", "relief"} <= got.keys() and not exceeds(got["relief"], got["precharge"]):
        refuse(
            "precharge",
            "Precharge at or above the relief valve: no water could go in.",
            "below the relief valve",
        )
    if {"hottest", "coldest"} <= got.keys() and got["coldest"] > got["hottest"]:
        refuse("coldest", "The coldest is above the hottest.", "below the hottest")
    if plate.fluid == "water" and got.get("glycol"):
        refuse("glycol", "Water, and a percentage of glycol. Correct one of the two.", "0 for water")
    return out


def of_register(loop: Loop) -> list[Missing]:
    """What is wrong in the register: mended there, it refuses nothing that is typed here."""
    return [Missing(field="loop", message=f"Register of loops: {p.message}") for p in loop.problems]


def least_standing(loop: Loop, t_c: float, limits: Limits) -> float | None:
    """Which pressure at the gauge keeps the highest point filled, kPa? Height·ρg and a reserve; hot loops
    stay above boiling up there. None without the height or the liquid.

    Common practice, no source.
    """
    liquid = loop.liquid(t_c)
    if liquid is None or "high_point" not in loop.got:
        return None
    reserve = limits.value("loop.reserve")
    top = reserve
    hottest = loop.liquid(loop.got["hottest"]) if "hottest" in loop.got else None
    if hottest is not None and hottest.p_v is not None:
        top = max(reserve, hottest.p_v - loop.air + reserve)
    return loop.got["high_point"] * liquid.kpa_per_m + top
