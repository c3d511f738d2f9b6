"""The bench for ohms: one thing measured dead, drawn as it is, judged by what stands behind its terminals."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Needs,
    Phrase,
    Problem,
    Series,
    SeriesPoint,
    amount,
    concluded,
    exceeds,
    phrase,
    rules_version,
    write,
)
from ...logbook import AnyCase, Context, Entry, ghosts_of, newest, newest_body
from ...plant import KINDS, motor_facts
from ...safety import guarded, live_evidence
from .capacitor import capacitor_findings, capacitor_lacking, capacitor_problems, drawn_band, value_of
from .contacts import contact_findings
from .drive import drawn_diodes, drive_findings, drive_lacking, wait_of
from .entry import LEGS, LINES, PAIRS, POLES, SENSORS, SINGLE, OhmsEntry
from .reading import Measured, understand
from .sensors import sensor_findings, sensor_lacking, sensor_points
from .single import single_findings, single_lacking
from .view import OhmsView
from .winding import drawn_windings, opened, winding_findings, winding_lacking, winding_points

_GHOSTS = (
    *PAIRS,
    *SINGLE,
    *POLES,
    *LINES,
    *SENSORS,
    "read_uf",
    *(f"{r}_{x}" for x in LEGS for r in ("minus", "plus")),
)


def choices_of(context: Context) -> list[str]:
    """What can be measured on this set? The usual one first; nothing on built-in electronics."""
    kind, motor = KINDS.get(context.kind), context.motor
    if (kind is not None and kind.built_in_electronics) or (motor is not None and motor.built_in_electronics):
        return []
    if motor_facts(motor).phases == 1:
        return ["single_phase", "capacitor", "contacts", "sensors"]
    return ["winding", *(["drive"] if context.control_kind == "drive" else []), "contacts", "sensors"]


def replay(entries: Sequence[Entry[OhmsEntry]], case: AnyCase) -> Measured:
    """The newest sheet of ohms, read once; what it was measured on where nobody said is the usual."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else OhmsEntry()
    if body.of is None:
        usual = choices_of(case.context)
        body = body.model_copy(update={"of": usual[0] if usual else "winding"})
    return understand(body, Limits(case.context.overrides))


def judge(m: Measured, case: AnyCase) -> Evaluation[OhmsView]:
    """What do these ohms say of the windings, the contacts, the capacitor or the drive?

    Ω, V, A, µF and °C. Every field may be missing. Nothing of it is good on a set that is not recorded as
    proved dead. Refused whole: built-in electronics.
    """
    context, of = case.context, m.body.of or "winding"
    choices = choices_of(context)
    problems = [*m.problems, *capacitor_problems(m), *_not_here(m, choices)]
    raw, lacking = _asked(m, case) if choices else ([], {})
    found, verdict, beside = concluded(raw, lacking, problems)
    wait = wait_of(m)
    return Evaluation[OhmsView](
        bench="ohms",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        points=_points(m, "ohms.proved" not in lacking) if raw else [],
        ghosts=ghosts_of(context.last, _GHOSTS),
        cautions=_cautions(m, of, bool(raw)),
        waiting=_waiting(m, of, choices),
        problems=problems,
        missing=_missing(m, of, raw),
        view=OhmsView(
            of=of,
            choices=choices,
            joined=m.body.joined or "",
            windings=drawn_windings(m) if of == "winding" else [],
            diodes=drawn_diodes(m) if of == "drive" else [],
            band=drawn_band(m) if of == "capacitor" else None,
            wait=amount(wait, "s") if wait else None,
        ),
    )


def _asked(m: Measured, case: AnyCase) -> tuple[list[Finding], dict[str, Phrase | None]]:
    """The answers to what was measured, and the grounds that are wanting of them."""
    isolation = case.state.isolation
    dead: dict[str, Phrase | None] = (
        {} if isolation is not None and isolation.state == "proved" else {"ohms.proved": None}
    )
    match m.body.of:
        case "single_phase":
            return single_findings(m), dead | single_lacking(m)
        case "contacts":
            return contact_findings(m), dead
        case "capacitor":
            # What it draws in service is read live; out of circuit it is read dead.
            metered = m.read_any(("read_uf",))
            return capacitor_findings(m), (dead if metered else {}) | capacitor_lacking(m)
        case "drive":
            return drive_findings(m), dead | drive_lacking(m)
        case "sensors":
            return sensor_findings(m), dead | sensor_lacking(m)
        case _:
            return winding_findings(m, case.context), dead | winding_lacking(m, case.context)


def _not_here(m: Measured, choices: list[str]) -> list[Problem]:
    """What was measured on something that this set does not have."""
    if not choices:
        said = write(phrase("ohms.not_here"))
        right = "the manufacturer's own test"
        return [Problem(code="built_in_electronics", field="of", value="", message=said, right=right)]
    if m.body.of in choices:
        return []
    right = ", ".join(choices).replace("_", " ")
    message = "This set has no such part: check what was measured, or its register."
    return [Problem(code="not_on_this_set", field="of", value=m.body.of or "", message=message, right=right)]


def _points(m: Measured, dead: bool) -> list[SeriesPoint]:
    """The series, and what was live: a charged bus, a current in service. Nothing is
    trended that was read on a set not proved dead, and a discharged bus is no voltage.
    """
    out = winding_points(m) if m.body.of == "winding" and dead else []
    charged = m.limits.value("safety.stored_below")
    if m.body.of == "drive" and "bus" in m.got and not exceeds(charged, m.got["bus"]):
        out.append(_point("drive_bus", "control", m.got["bus"], "V"))
    if m.body.of == "sensors" and dead:
        out += sensor_points(m)
    if m.body.of == "capacitor":
        value = value_of(m)
        if value is not None and dead:
            out.append(_point("capacitance", "motor", value, "uF"))
        if "cap_amps" in m.got:
            out.append(_point("capacitor_current", "motor", m.got["cap_amps"], "A"))
    return out


def _point(measurand: str, part: str, value: float, unit: str) -> SeriesPoint:
    return SeriesPoint(measurand=measurand, part=part, conditions="", value=value, unit=unit)


_CAUTIONS = {
    "drive": "ohms.bus_caution",
    "capacitor": "ohms.cap_caution",
    "sensors": "ohms.sensor_caution",
}


def _cautions(m: Measured, of: str, read: bool) -> list[Phrase]:
    if read and of != "drive":
        return []
    own = _CAUTIONS.get(of, "ohms.caution")
    return [phrase(own), phrase("safety.codes")]


def _waiting(m: Measured, of: str, choices: list[str]) -> list[Phrase]:
    if not choices:
        return [phrase("ohms.not_here")]
    nets = m.nets(PAIRS)
    if of == "winding" and nets is not None and "winding" not in m.got:
        return [phrase("ohms.cold_only")]
    return []


_FIRST = {
    "winding": ("pair_12", "Read the three pairs."),
    "single_phase": ("common_run", "Read common to run, common to start, and run to start."),
    "contacts": ("pole_1", "Push the contactor in by hand and read each pole."),
    "capacitor": ("read_uf", "Measure the capacitor, discharged and out of circuit."),
    "drive": ("bus", "Measure the DC bus first."),
    "sensors": ("thermistor", "Read the thermistor string, or the moisture probe, at its leads."),
}


def _missing(m: Measured, of: str, raw: list[Finding]) -> list[Missing]:
    """Before anything is read: where to begin."""
    if raw or opened(m):
        return []
    field, message = _FIRST[of]
    return [Missing(field=field, message=message)]


OHMS = Bench(
    name="ohms",
    title="Resistance",
    records="Resistance tests",
    one="a resistance test",
    offer="Measure resistance",
    gated="Resistance on the dead circuit",
    seen="Enter readings already taken",
    key="d",
    does="measure resistance",
    place=30,
    part="motor",
    act="dead_test",
    read_with=("low_resistance", "capacitance", "diode_voltage", "voltage", "current", "temperature"),
    routine=False,
    entry=OhmsEntry,
    view=OhmsView,
    needs=Needs(plates=("motor", "control"), series=(Series("winding_ohms", 12),)),
    replay=replay,
    judge=guarded(judge, dead_test=True),
    effects=live_evidence(judge),
    facts=newest_body,
)
