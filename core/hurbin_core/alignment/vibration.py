"""Overall vibration velocity at four bearings, three directions each: pumps and motors by their standards'
zones, before and after.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ..base import (
    RULES,
    TABLES,
    Bench,
    Bound,
    By,
    Entered,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Model,
    Needs,
    NoView,
    Phrase,
    Problem,
    Read,
    SeriesPoint,
    Unknown,
    UsedLimit,
    Verdict,
    amount,
    concluded,
    entered_field,
    exceeds,
    field_rules,
    judge_steps,
    nominal,
    ordered,
    phrase,
    read_fields,
    rules_version,
    said_field,
    whole,
)
from ..logbook import AnyCase, Conditions, Context, Entry, ghosts_of, newest, newest_body, read_or
from ..plant import motor_facts
from ..safety import guarded, live_evidence

BEARINGS = {
    "motor_far": "motor NDE",
    "motor_near": "motor DE",
    "pump_near": "pump DE",
    "pump_far": "pump NDE",
}
DIRECTIONS = {"h": "horizontal", "v": "vertical", "a": "axial"}


def _velocity(label: str) -> Any:
    return entered_field(label, "vibration", high=200, bounds_allowed=True)


class VibrationEntry(Model):
    """One round with a vibration meter: overall velocity, r.m.s., 10 to 1000 Hz, at the bearings. Every field
    may be missing.
    """

    when: Literal["before", "after", "round"] = said_field("When", "round")
    category: Literal["one", "two"] | None = said_field("Pump category")
    foundation: Literal["rigid", "flexible"] | None = said_field("Foundation")
    power: Entered | None = entered_field("Motor power", "power", high=50000)
    motor_far_h: Entered | None = _velocity("Motor NDE, horizontal")
    motor_far_v: Entered | None = _velocity("Motor NDE, vertical")
    motor_far_a: Entered | None = _velocity("Motor NDE, axial")
    motor_near_h: Entered | None = _velocity("Motor DE, horizontal")
    motor_near_v: Entered | None = _velocity("Motor DE, vertical")
    motor_near_a: Entered | None = _velocity("Motor DE, axial")
    pump_near_h: Entered | None = _velocity("Pump DE, horizontal")
    pump_near_v: Entered | None = _velocity("Pump DE, vertical")
    pump_near_a: Entered | None = _velocity("Pump DE, axial")
    pump_far_h: Entered | None = _velocity("Pump NDE, horizontal")
    pump_far_v: Entered | None = _velocity("Pump NDE, vertical")
    pump_far_a: Entered | None = _velocity("Pump NDE, axial")
    note: str = said_field("Note", "", max_length=500)


_FIELDS = field_rules(VibrationEntry)


def pump_zones(category: str | None, kw: float | None) -> list[float] | None:
    """Upper limits of zones A, B and C for a pump, mm/s r.m.s.; None while its category or the power is not
    known.

    ISO 10816-7, from memory.

    >>> pump_zones("two", 30.0)
    [3.2, 5.1, 8.5]
    """
    return _zones("pump", category, kw) if kw is not None and category is not None else None


def _zones(machine: str, kind: str, kw: float) -> list[float] | None:
    row = TABLES[f"vibration.{machine}"].at(kind, kw)
    return list(row.values()) if row is not None else None


def motor_zones(foundation: str | None, kw: float | None) -> list[float] | None:
    """Upper limits of zones A, B and C for a motor over 15 kW, mm/s r.m.s.; None below, and while the
    foundation is not said.

    ISO 20816-3, from memory.

    >>> motor_zones("rigid", 30.0)
    [1.4, 2.8, 4.5]
    """
    if kw is None or foundation is None or not exceeds(kw, _from_kw()):
        return None
    return _zones("motor", foundation, kw)


def _from_kw() -> float:
    return Limits().value("vibration.motor_from")


def laxest(machine: str) -> list[float]:
    """The highest upper limits of zones A, B and C that any size, category or foundation of this machine is
    given: what is beyond them is beyond its own, whichever those are.
    """
    rows = [[float(c) for c in r[2:]] for r in TABLES[f"vibration.{machine}"].rows]
    return [max(column) for column in zip(*rows, strict=True)]


def _steps(machine: str, zones: list[float]) -> list[tuple[UsedLimit, Verdict]]:
    table = TABLES[f"vibration.{machine}"]
    out: list[tuple[UsedLimit, Verdict]] = []
    for name, value, verdict in zip("ABC", zones, (Verdict.GOOD, Verdict.GOOD, Verdict.ACT), strict=True):
        used = UsedLimit(
            id=f"vibration.{machine}_{name.lower()}",
            title=f"Vibration of the {machine}, zone {name}, up to",
            label=f"zone {name}",
            value=value,
            unit="mm/s",
            override=None,
            standard_value=value,
            source=table.source,
            certainty=table.certainty,
            from_memory=table.from_memory,
        )
        out.append((used, verdict))
    return out


@dataclass(slots=True)
class Round:
    """A round with the meter: what was typed, and what was understood of it."""

    body: VibrationEntry
    got: dict[str, Read]
    problems: list[Problem]
    kw: float | None


def replay(entries: Sequence[Entry[VibrationEntry]], case: AnyCase) -> Round:
    """Which round do these entries make? The newest by (taken_at, uuid), read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else VibrationEntry()
    got, problems = read_fields(body)
    kw = got["power"].value if "power" in got else motor_facts(case.context.motor).power_kw
    return Round(body, got, problems, kw)


def judge(seen: Round, case: AnyCase) -> Evaluation[NoView]:
    """How does this set shake, bearing by bearing, and is that a zone to run in?

    Overall velocity, mm/s r.m.s. The worst of a machine's bearings is judged: zones A and B good, C act, D
    stop. Pumps by ISO 10816-7, motors over 15 kW by ISO 20816-3 (both from memory); where category, size or
    foundation are not known, only what is beyond every zone is certain. Good stands on every bearing: see the
    grounds.
    """
    body, got, kw, context = seen.body, seen.got, seen.kw, case.context
    machines = (("pump", pump_zones(body.category, kw)), ("motor", motor_zones(body.foundation, kw)))
    findings: list[Finding] = []
    for machine, zones in machines:
        found = _machine(machine, got, zones, context)
        if found is not None:
            findings += concluded([found], _lacking(machine, got, body, kw))[0]
    findings = ordered(findings)
    verdict, beside = whole(findings, seen.problems)
    return Evaluation[NoView](
        bench="vibration",
        rules_version=rules_version(),
        conditions=Conditions.of(when=body.when).key,
        verdict=verdict,
        beside=beside,
        findings=findings,
        waiting=_before_and_after(body, got, context),
        points=_points(got),
        ghosts=ghosts_of(context.last, _FIELDS),
        problems=seen.problems,
        missing=_missing(got, body, kw),
        view=NoView(),
    )


def _names(machine: str) -> list[str]:
    return [f"{b}_{d}" for b in BEARINGS if b.startswith(machine) for d in DIRECTIONS]


def _worst(got: dict[str, Read], machine: str) -> tuple[str, Read] | None:
    """The bearing that shakes most; a reading of at least so much stands before a figure of the same size."""
    rows = [(n, got[n]) for n in _names(machine) if n in got]
    return max(rows, key=lambda x: (x[1].value, x[1].bound is Bound.AT_LEAST), default=None)


def _where(name: str) -> str:
    return f"{BEARINGS[name[:-2]]}, {DIRECTIONS[name[-1]]}"


def _lacking(
    machine: str, got: dict[str, Read], body: VibrationEntry, kw: float | None
) -> dict[str, Phrase | None]:
    """Which grounds are wanting for this machine: bearings not read, readings of nothing, what its zones
    depend on.
    """
    bearings = [b for b in BEARINGS if b.startswith(machine)]
    radial = all(f"{b}_{d}" in got for b in bearings for d in "hv")
    axial = any(f"{b}_a" in got for b in bearings)
    small = kw is not None and not exceeds(kw, _from_kw())
    wanting = {
        "vib.bearings": not (radial and axial),
        "vib.zero": any(got[n].value == 0 for n in _names(machine) if n in got),
        "vib.category": body.category is None,
        "vib.power": kw is None,
        "vib.foundation": body.foundation is None and not small,
    }
    return {ground: None for ground, lacks in wanting.items() if lacks}


def _machine(
    machine: str, got: dict[str, Read], zones: list[float] | None, context: Context
) -> Finding | None:
    top = _worst(got, machine)
    if top is None:
        return None
    name, reading = top
    value = reading.quantity
    rule, part = f"vibration_{machine}", "pump" if machine == "pump" else "motor"
    told = judge_steps(RULES[rule], value, _steps(machine, zones or laxest(machine)), Verdict.STOP)
    verdict, by = told.verdict, told.by
    notes: list[Phrase] = []
    if zones is None and verdict.rank >= Verdict.ACT.rank:
        # Beyond what any is allowed: certain, whichever zones are its own.
        notes.append(phrase("vib.beyond_all"))
    elif zones is None:
        return Finding(
            question=rule,
            part=part,
            verdict=Verdict.UNKNOWN,
            by=By.NEXT_STOP,
            unknown=Unknown.INCOMPLETE,
            rule=rule,
            reason=phrase("vib.worst", where=_where(name), value=value),
            notes=[phrase("vib.no_zone")],
        )
    rises = _rises(machine, got, (zones or laxest(machine))[1], context)
    notes += rises
    if rises and verdict is Verdict.GOOD:
        verdict, by = Verdict.WATCH, By.NEXT_STOP
    if name.endswith("_a"):
        notes.append(phrase("vib.axial"))
    return Finding(
        question=rule,
        part=part,
        verdict=verdict,
        by=by,
        unknown=Unknown.INCONCLUSIVE if verdict is Verdict.UNKNOWN else None,
        rule=rule,
        reason=phrase("vib.worst", where=_where(name), value=value),
        notes=notes,
        line=told.line,
        limits=told.limits,
    )


def _rises(machine: str, got: dict[str, Read], zone_b: float, context: Context) -> list[Phrase]:
    """Every bearing that rose by a quarter of zone B's upper limit or more, the worst of them or not."""
    out: list[Phrase] = []
    for name in _names(machine):
        old = _last(context, name) if name in got else None
        share = Limits(context.overrides).value("vibration.changed")
        if old is not None and exceeds(got[name].value - old, share / 100 * zone_b):
            change = amount(got[name].value - old, "mm/s", got[name].bound)
            out.append(phrase("vib.rise", where=_where(name), change=change, share=nominal(share, "%")))
    return out


def _last(context: Context, name: str) -> float | None:
    raw = context.last.body.get(name) if context.last is not None else None
    if not isinstance(raw, dict):
        return None
    got = read_or([], Entered.model_validate(raw), _FIELDS[name])
    return got.value if got is not None else None


def _before_and_after(body: VibrationEntry, got: dict[str, Read], context: Context) -> list[Phrase]:
    if body.when != "after" or context.last is None or context.last.body.get("when") != "before":
        return []
    out: list[Phrase] = []
    for machine in ("pump", "motor"):
        top = _worst(got, machine)
        old = _last(context, top[0]) if top is not None else None
        if top is not None and old is not None:
            before, after = amount(old, "mm/s"), top[1].quantity
            out.append(phrase("vib.before_after", where=_where(top[0]), before=before, after=after))
    return out


def _points(got: dict[str, Read]) -> list[SeriesPoint]:
    tops = [(m, _worst(got, m)) for m in ("pump", "motor")]
    return [
        SeriesPoint(
            measurand=f"vib_{m}", part="", conditions="", value=t[1].value, unit="mm/s", bound=t[1].bound
        )
        for m, t in tops
        if t is not None
    ]


def _missing(got: dict[str, Read], body: VibrationEntry, kw: float | None) -> list[Missing]:
    out: list[Missing] = []
    if body.category is None:
        out.append(
            Missing(
                field="category",
                message="Enter the pump category. The zone limits depend on it.",
            )
        )
    if kw is None:
        out.append(Missing(field="power", message="Enter the motor power. The zone limits depend on it."))
    elif exceeds(kw, _from_kw()) and body.foundation is None:
        out.append(
            Missing(
                field="foundation",
                message="Enter the foundation, rigid or flexible. The motor's zone limits depend on it.",
            )
        )
    if not any(f"{b}_{d}" in got for b in BEARINGS for d in DIRECTIONS):
        out.append(Missing(field="pump_near_h", message="No reading yet."))
    return out


VIBRATION = Bench(
    name="vibration",
    title="Vibration",
    records="Vibration checks",
    one="a vibration check",
    key="s",
    does="how it shakes, bearing by bearing",
    place=40,
    part="bearings",
    act="running_test",
    read_with=("vibration",),
    entry=VibrationEntry,
    view=NoView,
    needs=Needs(plates=("motor", "control")),
    replay=replay,
    judge=guarded(judge),
    effects=live_evidence(judge),
    facts=newest_body,
)
