"""The insulation test as typed: many entries, made by whoever stands there, folded to one test."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from types import MappingProxyType
from typing import Any, Literal

from pydantic import ConfigDict

from ...base import (
    TABLES,
    Bound,
    Entered,
    Kept,
    Limits,
    Model,
    Problem,
    Quantity,
    Read,
    RunMark,
    amount,
    entered_field,
    entry_of,
    entry_union,
    field_rules,
    phrase,
    said_field,
)
from ...logbook import Conditions, Entry, SheetState, read_or, replay

Leg = Literal["all", "L1", "L2", "L3"]
MARKS = [
    RunMark(second=round(at), asked=at - ahead, until=at + after, within=within)
    for at, ahead, after, within in ([float(x) for x in r] for r in TABLES["insulation.marks"].rows)
]
MARKS_S = tuple(m.second for m in MARKS)
LONGEST_S = 3600.0


class TestSetup(Model):
    """How the test is made: the newest word on each field counts."""

    model_config = ConfigDict(json_schema_extra={"x-marks": [m.model_dump() for m in MARKS]})
    kind: Literal["setup"] = "setup"
    test_point: Literal["motor", "starter"] | None = said_field("Measured at", kept=Kept.VISIT)
    links: Literal["in", "out"] | None = said_field("Links", kept=Kept.VISIT)
    phases: Literal["together", "apart"] | None = said_field("Phases", kept=Kept.VISIT)
    test_volts: Entered | None = entered_field(
        "Test voltage, DC", "voltage", low=50, high=15000, kept=Kept.VISIT
    )
    drive_off: bool | None = said_field("Drive and electronics disconnected", kept=Kept.VISIT)
    arresters_off: bool | None = said_field(
        "Surge arresters and capacitors disconnected, sensors shorted and grounded", kept=Kept.VISIT
    )
    winding: Entered | None = entered_field(
        "Winding temperature", "temperature", low=-40, high=200, kept=Kept.VISIT
    )
    ambient: Entered | None = entered_field(
        "Ambient temperature", "temperature", low=-40, high=90, kept=Kept.VISIT
    )
    humidity: Entered | None = entered_field("Humidity", "percent", low=1, high=100, kept=Kept.VISIT)
    ceiling: Entered | None = entered_field(
        "Tester range up to", "resistance", unit="GOhm", high=1e9, kept=Kept.VISIT, printed=True
    )
    tester: str = said_field("Insulation tester", "", kept=Kept.VISIT, free=True, max_length=60)
    note: str = said_field("Note", "", kept=Kept.VISIT, free=True, max_length=500)


class TestLeg(Model):
    """start: volts go on a leg. end: volts off. discharged: the leg was held to ground."""

    kind: Literal["start", "end", "discharged"]
    leg: Leg | None = said_field("Leg")


class TestReading(Model):
    """Ohms at the entry's own second, or at `seconds` when typed in afterwards."""

    kind: Literal["reading"]
    leg: Leg | None = said_field("Leg")
    seconds: float | None = said_field("Time of reading, s", ge=0, le=LONGEST_S)
    ohms: Entered | None = entered_field("Insulation resistance", "resistance", high=1e9, bounds_allowed=True)


class TestTakenBack(Model):
    """Takes one earlier entry back: both stay readable."""

    kind: Literal["undo"]
    undoes: str | None = said_field("Removed entry", max_length=64)


InsulationEntry = entry_union(TestSetup, TestLeg, TestReading, TestTakenBack)
_RULES = field_rules(InsulationEntry)


def insulation_entry(**body: Any) -> Any:
    """One entry of an insulation test from what was said or read."""
    return entry_of(InsulationEntry, body)


@dataclass(slots=True)
class Reading:
    """One figure of one leg at its true second. `uuid` is the entry it came in with."""

    uuid: str
    seconds: float
    ohms: Read
    typed: Entered


@dataclass(slots=True)
class Run:
    """Volts on one leg, once: its readings by second. Without `started_at` it was typed in afterwards."""

    leg: str
    started_at: datetime | None = None
    ended_at: datetime | None = None
    discharged_at: datetime | None = None
    readings: list[Reading] = field(default_factory=list)

    @property
    def charged_s(self) -> float:
        if self.started_at is not None and self.ended_at is not None:
            return (self.ended_at - self.started_at).total_seconds()
        return max((r.seconds for r in self.readings), default=0.0)


@dataclass(slots=True)
class InsulationTest(SheetState):
    """The test as it stands: what was said of it (see `SheetState`), and the runs of each leg. tops: how far
    the instruments of the register reach, MΩ.
    """

    runs: dict[str, Run] = field(default_factory=dict)
    earlier_runs: list[Run] = field(default_factory=list)
    tops: Mapping[str, float] = field(default_factory=dict)

    @property
    def legs(self) -> list[Run]:
        return [r for r in self.runs.values() if r.readings]

    @property
    def conditions(self) -> Conditions:
        """The state that the figures belong to, as far as it was said."""
        volts = self.figure("test_volts")
        return Conditions.of(
            at=self.said("test_point"),
            links=self.said("links"),
            phases=self.said("phases"),
            volts=None if volts is None else f"{round(volts):d}",
        )


def fold(entries: Sequence[Entry[Any]], tops: Mapping[str, float] = MappingProxyType({})) -> InsulationTest:
    """What do these entries say together? Any order, any device: they count by (taken_at, uuid). tops: how
    far instruments reach, MΩ, by their numbers: what “OL” on one of them means.

    Two readings of one leg at one second, or two devices with different words on one field: the later stands
    and the difference is told. A reading that cannot be is a problem under its own entry's id.
    """
    test = InsulationTest(tops=tops)
    replay(entries, test, _HANDLERS, entry=InsulationEntry)
    for run in (*test.runs.values(), *test.earlier_runs):
        run.readings.sort(key=lambda r: r.seconds)
    return test


def _clock(test: InsulationTest, e: Entry[Any]) -> None:
    leg = e.body.leg or "all"
    run = test.runs.get(leg)
    if e.body.kind == "start":
        if run is not None and run.readings:
            test.earlier_runs.append(run)
        test.runs[leg] = Run(leg, started_at=e.taken_at)
    elif run is not None and run.started_at is not None:
        if e.body.kind == "end" and run.ended_at is None:
            run.ended_at = e.taken_at
        elif e.body.kind == "discharged":
            run.discharged_at = e.taken_at


def _reading(test: InsulationTest, e: Entry[Any]) -> None:
    leg = e.body.leg or "all"
    run = test.runs.setdefault(leg, Run(leg))
    if e.body.ohms is None or not e.body.ohms.text.strip():
        return
    seconds = e.body.seconds
    if _after_the_test(run, e):
        test.conflicts.append(phrase("ins.after_off", value=e.body.ohms.text, leg=leg_word(leg)))
        return
    if seconds is None and run.started_at is not None:
        seconds = round((e.taken_at - run.started_at) / timedelta(seconds=1), 1)
    if seconds is None or not 0 <= seconds <= LONGEST_S:
        said = "" if seconds is None else f"{seconds:g} s"
        message = (
            "Enter how many seconds after test start this was read."
            if seconds is None
            else f"{said} after test start is not possible."
        )
        test.problems.append(
            Problem(code="second_missing", field=e.uuid, value=said, message=message, right="0 to 3600 s")
        )
        return
    got = read_or(test.problems, e.body.ohms, _RULES["ohms"], e.uuid, _ceiling(test, e))
    if got is None:
        return
    same = next((r for r in run.readings if abs(r.seconds - seconds) < 0.5), None)
    if same is not None:
        run.readings.remove(same)
        if same.ohms != got:
            figures = {"first": _shown(same.ohms), "second": _shown(got)}
            test.conflicts.append(
                phrase("ins.two_readings", leg=leg_word(leg), at=amount(seconds, "s"), **figures)
            )
    run.readings.append(Reading(e.uuid, seconds, got, e.body.ohms))


def _ceiling(test: InsulationTest, e: Entry[Any]) -> Read | None:
    """How far the tester reads: as somebody said, else as the register has the one that was named."""
    said = test.read.get("ceiling")
    top = test.tops.get(e.instruments.get("resistance", ""))
    return said if said is not None or top is None else Read(top, "MOhm")


_HANDLERS = {"start": _clock, "end": _clock, "discharged": _clock, "reading": _reading}


def _after_the_test(run: Run, e: Entry[Any]) -> bool:
    """Was this read when the volts were off already? It belongs to no test then."""
    if run.ended_at is None or run.started_at is None:
        return False
    if e.body.seconds is not None:
        return float(e.body.seconds) > run.charged_s + 1
    return e.taken_at > run.ended_at


def _shown(r: Read) -> Quantity:
    return amount(r.value, r.unit, r.bound)


def leg_word(leg: str) -> str:
    return "the winding" if leg == "all" else leg


@dataclass(frozen=True, slots=True)
class At:
    """Resistance at one moment: read as it stands, or off the curve between two readings (log-log)."""

    value: float
    bound: Bound
    how: Literal["read", "curve", "near"]
    second: float

    @property
    def quantity(self) -> Quantity:
        return amount(self.value, "MOhm", self.bound)


def value_at(run: Run, second: float, limits: Limits) -> At | None:
    """What did this run read at `second`? A reading within two per cent of it counts as it stands; else the
    straight line between its neighbours on log-log paper; else a single reading within a quarter of it, and
    the answer says so. Never beyond the readings: None where they do not reach. A bound on either side leaves
    a bound.
    """
    close = min(run.readings, key=lambda r: abs(r.seconds - second), default=None)
    if close is None:
        return None
    if abs(close.seconds - second) <= max(1.0, limits.value("insulation.mark_window") / 100 * second):
        return At(close.ohms.value, close.ohms.bound, "read", close.seconds)
    before = [r for r in run.readings if 0 < r.seconds < second and r.ohms.value > 0]
    after = [r for r in run.readings if r.seconds > second and r.ohms.value > 0]
    if before and after:
        return _between(before[-1], after[0], second)
    if abs(close.seconds - second) <= limits.value("insulation.mark_near") / 100 * second:
        return At(close.ohms.value, close.ohms.bound, "near", close.seconds)
    return None


def _between(a: Reading, b: Reading, second: float) -> At | None:
    share = _log(second / a.seconds) / _log(b.seconds / a.seconds)
    bounds = {a.ohms.bound, b.ohms.bound}
    if bounds == {Bound.EXACT}:
        return At(a.ohms.value * (b.ohms.value / a.ohms.value) ** share, Bound.EXACT, "curve", second)
    if Bound.AT_MOST in bounds:
        return (
            At(max(a.ohms.value, b.ohms.value), Bound.AT_MOST, "curve", second)
            if bounds <= {Bound.EXACT, Bound.AT_MOST}
            else None
        )
    return At(min(a.ohms.value, b.ohms.value), Bound.AT_LEAST, "curve", second)


def _log(x: float) -> float:
    from math import log

    return log(x)
