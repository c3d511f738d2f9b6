"""The insulation test as typed: many entries, made by whoever stands there, folded to one test."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from ...base import Bound, Entered, HurbinError, Phrase, Problem, Quantity, Read, amount, entered_field, field_rules, phrase, read
from ...logbook import Entry

Leg = Literal["all", "L1", "L2", "L3"]
MARKS_S = (15, 30, 45, 60, 120, 180, 240, 300, 360, 420, 480, 540, 600)
LONGEST_S = 3600.0


class InsulationEntry(BaseModel):
    """One thing that was said or read. `kind` says which fields count; every field may be missing.

    setup: how the test is made (the newest word on each field counts). start: volts go on a leg. reading: ohms at
    the entry's own second, or at `seconds` when typed in afterwards. end: volts off. discharged: the leg was held
    to ground. undo: takes one earlier entry back (both stay readable).
    """

    model_config = ConfigDict(json_schema_extra={"x-marks": list(MARKS_S)})
    kind: Literal["setup", "start", "reading", "end", "discharged", "undo"] = Field(default="setup", title="What")
    test_point: Literal["motor", "starter"] | None = Field(default=None, title="Measured")
    links: Literal["in", "out"] | None = Field(default=None, title="Links")
    phases: Literal["together", "apart"] | None = Field(default=None, title="Phases")
    test_volts: Entered | None = entered_field("Test volts dc", "voltage", low=50, high=15000)
    drive_off: bool | None = Field(default=None, title="Drive and electronics disconnected")
    arresters_off: bool | None = Field(default=None, title="Surge arresters and capacitors off, sensors shorted and grounded")
    winding: Entered | None = entered_field("Winding temperature", "temperature", low=-40, high=200)
    ambient: Entered | None = entered_field("Room temperature", "temperature", low=-40, high=90)
    humidity: Entered | None = entered_field("Humidity", "percent", low=1, high=100)
    ceiling: Entered | None = entered_field("InsulationTester reads up to", "resistance", unit="GOhm", high=1e9)
    tester: str = Field(default="", max_length=60, title="InsulationTester")
    note: str = Field(default="", max_length=500, title="Note")
    leg: Leg | None = Field(default=None, title="Leg")
    seconds: float | None = Field(default=None, ge=0, le=LONGEST_S, title="Second of the reading")
    ohms: Entered | None = entered_field("Insulation", "resistance", high=1e9, bounds_allowed=True)
    undoes: str | None = Field(default=None, max_length=64, title="Entry taken back")


SETUP_WORDS = ("test_point", "links", "phases", "drive_off", "arresters_off", "tester", "note")
SETUP_FIGURES = ("test_volts", "winding", "ambient", "humidity", "ceiling")
_RULES = field_rules(InsulationEntry)


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
class Folded:
    """The sheet folded: what was said, what was read, what cannot be, what two devices said differently."""

    said: dict[str, Any] = field(default_factory=dict)
    figures: dict[str, Read] = field(default_factory=dict)
    typed: dict[str, Entered] = field(default_factory=dict)
    runs: dict[str, Run] = field(default_factory=dict)
    earlier_runs: list[Run] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    conflicts: list[Phrase] = field(default_factory=list)

    def figure(self, name: str) -> float | None:
        return self.figures[name].value if name in self.figures else None

    @property
    def legs(self) -> list[Run]:
        return [r for r in self.runs.values() if r.readings]


def fold(entries: list[Entry[InsulationEntry]]) -> Folded:
    """What do these entries say together? Any order, any device: they count by (taken_at, uuid).

    Two readings of one leg at one second, or two devices with different words on one field: the later stands and
    the difference is told. A reading that cannot be is a problem under its own entry's id.
    """
    test = Folded()
    undone = {e.body.undoes for e in entries if e.body.kind == "undo"}
    ordered = sorted((e for e in entries if e.uuid not in undone), key=lambda e: (e.taken_at, e.uuid))
    by_device: dict[str, tuple[str, Any]] = {}
    for e in ordered:
        if e.body.kind == "setup":
            _setup(test, e, by_device)
    for e in ordered:
        if e.body.kind in ("start", "end", "discharged"):
            _clock(test, e)
        elif e.body.kind == "reading":
            _reading(test, e)
    for run in (*test.runs.values(), *test.earlier_runs):
        run.readings.sort(key=lambda r: r.seconds)
    return test


def _setup(test: Folded, e: Entry[InsulationEntry], by_device: dict[str, tuple[str, Any]]) -> None:
    for name in (*SETUP_WORDS, *SETUP_FIGURES):
        value = getattr(e.body, name)
        if value is None or value == "":
            continue
        before = by_device.get(name)
        if before is not None and before[0] != e.device and before[1] != value and name not in ("note", "tester"):
            title = InsulationEntry.model_fields[name].title or name
            test.conflicts.append(phrase("ins.two_words", what=title, first=_plain(before[1]), second=_plain(value)))
        by_device[name] = (e.device, value)
        if name in SETUP_WORDS:
            test.said[name] = value
            continue
        test.typed[name] = value
        test.figures.pop(name, None)
        test.problems = [p for p in test.problems if p.field != name]
        try:
            got = read(value, _RULES[name])
            if got is not None:
                test.figures[name] = got
        except HurbinError as error:
            test.problems.append(Problem.of(error))


def _plain(value: Any) -> str:
    if isinstance(value, Entered):
        return f"{value.text} {value.unit}".strip()
    return {True: "yes", False: "no"}.get(value, str(value)) if isinstance(value, bool) else str(value)


def _clock(test: Folded, e: Entry[InsulationEntry]) -> None:
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


def _reading(test: Folded, e: Entry[InsulationEntry]) -> None:
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
        message = "Say at which second after volts on this was read." if seconds is None else f"{said} after volts on cannot be."
        test.problems.append(Problem(code="second_missing", field=e.uuid, value=said, message=message, right="0 to 3600 s"))
        return
    try:
        got = read(e.body.ohms, _RULES["ohms"], test.figures.get("ceiling"))
    except HurbinError as error:
        test.problems.append(Problem.of(error).model_copy(update={"field": e.uuid}))
        return
    if got is None:
        return
    same = next((r for r in run.readings if abs(r.seconds - seconds) < 0.5), None)
    if same is not None:
        run.readings.remove(same)
        if same.ohms != got:
            figures = {"first": _shown(same.ohms), "second": _shown(got)}
            test.conflicts.append(phrase("ins.two_readings", leg=leg_word(leg), at=amount(seconds, "s"), **figures))
    run.readings.append(Reading(e.uuid, seconds, got, e.body.ohms))


def _after_the_test(run: Run, e: Entry[InsulationEntry]) -> bool:
    """Was this read when the volts were off already? It belongs to no test then."""
    if run.ended_at is None or run.started_at is None:
        return False
    if e.body.seconds is not None:
        return e.body.seconds > run.charged_s + 1
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


def value_at(run: Run, second: float) -> At | None:
    """What did this run read at `second`? A reading within two per cent of it counts as it stands; else the straight line
    between its neighbours on log-log paper; else a single reading within a quarter of it, and the answer says so.
    Never beyond the readings: None where they do not reach. A bound on either side leaves a bound."""
    close = min(run.readings, key=lambda r: abs(r.seconds - second), default=None)
    if close is None:
        return None
    if abs(close.seconds - second) <= max(1.0, 0.02 * second):
        return At(close.ohms.value, close.ohms.bound, "read", close.seconds)
    before = [r for r in run.readings if 0 < r.seconds < second and r.ohms.value > 0]
    after = [r for r in run.readings if r.seconds > second and r.ohms.value > 0]
    if before and after:
        return _between(before[-1], after[0], second)
    if abs(close.seconds - second) <= 0.25 * second:
        return At(close.ohms.value, close.ohms.bound, "near", close.seconds)
    return None


def _between(a: Reading, b: Reading, second: float) -> At | None:
    share = _log(second / a.seconds) / _log(b.seconds / a.seconds)
    bounds = {a.ohms.bound, b.ohms.bound}
    if bounds == {Bound.EXACT}:
        return At(a.ohms.value * (b.ohms.value / a.ohms.value) ** share, Bound.EXACT, "curve", second)
    if Bound.AT_MOST in bounds:
        return At(max(a.ohms.value, b.ohms.value), Bound.AT_MOST, "curve", second) if bounds <= {Bound.EXACT, Bound.AT_MOST} else None
    return At(min(a.ohms.value, b.ohms.value), Bound.AT_LEAST, "curve", second)


def _log(x: float) -> float:
    from math import log

    return log(x)
