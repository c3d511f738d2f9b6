"""The insulation test: from preparing it to the judgement, folded from whatever was entered so far."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import timedelta
from itertools import pairwise
from typing import Any

from ...base import (
    Bench,
    Bound,
    Curve,
    CurvePaper,
    CurvePoint,
    Entered,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Needs,
    PaperTick,
    Phrase,
    Problem,
    Quantity,
    RunClock,
    SeriesPoint,
    amount,
    concluded,
    phrase,
    reaches,
    register,
    rules_version,
)  # fmt: skip
from ...logbook import Context, Entry, PastSheet
from ...plant import KINDS, motor_facts
from ...safety import guarded
from ..states import differing_words
from .correction import life_share, test_volts_for
from .entry import MARKS_S, SETUP_FIGURES, SETUP_WORDS, Folded, InsulationEntry, fold, leg_word, value_at
from .falling import falling_finding
from .heading import heading, heading_finding, next_test
from .judging import Worked, against_minimum, against_past, dew_finding, legs_finding, like_points, ratio_findings, ratios, work_out
from .standing import lacking

Sheet = Sequence[Entry[InsulationEntry]]
_ASKED = {
    "test_point": "where it is measured", "links": "links in or out", "phases": "phases together or apart", "test_volts": "the test volts",
}  # fmt: skip
_AIR = {"winding": "the winding's temperature", "ambient": "the room's temperature", "humidity": "the humidity"}


def evaluate(entries: Sheet, context: Context) -> Evaluation:
    """What does this insulation test say, so far? Entries fold by (taken_at, uuid); resistance in MΩ, °C, V dc, seconds.

    Every field may be missing: what can be judged is, the rest is named in `missing`. A problem names an impossible
    figure by its field or its entry's id. Refused whole: built-in electronics, a drive still on the circuit.
    Corrected by IEEE 43-2013 (from memory); limits and sources in `limits.toml` and `rules.toml`.
    """
    limits = Limits(context.overrides)
    plate, facts = context.motor, motor_facts(context.motor)
    test = fold(list(entries))
    key, unsaid = conditions(test)
    w = work_out(test, plate, facts, key, not unsaid, limits)
    problems = [*test.problems, *_refused(test, context)]
    asked, waiting = _waiting(test, unsaid)
    findings: list[Finding] = []
    settled: list[str] = []
    heading_ = None
    if w.worst is not None and not any(p.code in _STOPPERS for p in problems):
        past = like_points(w, w.worst.leg if test.said.get("phases") == "apart" else "", context)
        dew = dew_finding(w)
        own, own_waits = against_past(w, past, limits, context)
        ratio, ratio_waits = ratio_findings(w, limits)
        heading_ = heading(w, past, context)
        going, going_words = heading_finding(heading_, limits)
        some = [dew, legs_finding(test, w, limits), against_minimum(w, bool(past), limits), own, *ratio, going]
        findings = [f for f in some if f is not None]
        waiting = [*waiting, *own_waits, *ratio_waits, *going_words, *_beside(w, context, limits)]
    if w.legs and not any(p.code in _STOPPERS for p in problems):
        fell, steady = falling_finding(w, limits)
        findings += [fell] if fell is not None else []
        settled = ["insulation_falling"] if steady else []
    findings, verdict, beside = concluded(findings, lacking(test, w, unsaid, limits), problems)
    return Evaluation(
        bench="insulation",
        rules_version=rules_version(),
        conditions=key,
        verdict=verdict,
        beside=beside,
        values=_values(test, w),
        findings=findings,
        settled=settled,
        questions=[*_questions(test, context), *test.conflicts],
        waiting=waiting,
        points=_points(test, w, findings),
        due=next_test(heading_, verdict, context, limits) if findings else None,
        paper=_paper(test, w, context),
        clocks=_clocks(test, limits),
        cautions=_cautions(test),
        problems=problems,
        missing=asked,
    )


_STOPPERS = ("built_in_electronics", "drive_connected")


def _refused(test: Folded, context: Context) -> list[Problem]:
    """What forbids the test itself, whatever the figures are."""
    kind = KINDS.get(context.kind)
    if (kind is not None and kind.built_in_electronics) or (context.motor is not None and context.motor.built_in_electronics):
        return [
            Problem(
                code="built_in_electronics", field="test_point", value="", right="the maker's own test",
                message="Electronics are built into this motor: no insulation test is made on it, only the maker's own.",
            )
        ]  # fmt: skip
    on_circuit = {"drive": "A drive", "soft_starter": "A soft starter"}.get(context.control_kind)
    off = test.said.get("drive_off")
    if on_circuit and (off is False or (off is None and test.legs)):
        return [
            Problem(
                code="drive_connected", field="drive_off", value="", right="disconnected at the motor's side",
                message=f"{on_circuit} stands on this circuit: disconnect it at the motor's side and confirm it. The tester's volts destroy it.",
            )
        ]  # fmt: skip
    if off is False:
        message = "Electronics on the circuit: disconnect them at the motor's side and confirm it."
        return [Problem(code="drive_connected", field="drive_off", value="", message=message, right="disconnected")]
    return []


def conditions(test: Folded) -> tuple[str, list[str]]:
    """The series this test belongs to as one canonical string, and what is unsaid of it."""
    said = {k: str(test.said[n]) for k, n in (("at", "test_point"), ("links", "links"), ("phases", "phases")) if n in test.said}
    volts = test.figure("test_volts")
    if volts is not None:
        said["volts"] = f"{round(volts):d}"
    unsaid = [n for n in _ASKED if n not in test.said and n not in test.figures]
    return ";".join(f"{k}={v}" for k, v in sorted(said.items())), unsaid


def _waiting(test: Folded, unsaid: list[str]) -> tuple[list[Missing], list[Phrase]]:
    missing = [Missing(field=n, message=f"Say {_ASKED[n]}: other states are no comparison.") for n in unsaid]
    refused = {p.field for p in test.problems}
    for name, words in _AIR.items():
        if name not in test.figures and name not in refused:
            why = "uncorrected is never good" if name == "winding" else "the dew point waits for it"
            missing.append(Missing(field=name, message=f"{words[0].upper()}{words[1:]} is not read: {why}."))
    if test.said.get("arresters_off") is None:
        missing.append(Missing(field="arresters_off", message="Confirm that surge arresters and capacitors are off, sensors shorted and grounded."))
    if not test.legs:
        missing.append(Missing(field="ohms", message="No reading yet."))
    elif all(value_at(r, 60) is None for r in test.legs):
        missing.append(Missing(field="ohms", message="No reading at or around one minute yet."))
    waiting = [phrase("ins.wait_state", missing=", ".join(_ASKED[n] for n in unsaid))] if unsaid and test.legs else []
    return missing, waiting


def _cautions(test: Folded) -> list[Phrase]:
    out = [phrase("caution.prove")] if not test.legs else []
    if not test.legs:
        out.append(phrase("caution.rotor"))
    if any(r.ended_at is not None and r.discharged_at is None for r in test.runs.values()):
        out.append(phrase("caution.discharge"))
    return out


def _questions(test: Folded, context: Context) -> list[Phrase]:
    out: list[Phrase] = []
    proposed, volts = test_volts_for(motor_facts(context.motor).volts_v), test.figure("test_volts")
    if proposed is not None:
        low, high = amount(proposed[0], "V"), amount(proposed[1], "V")
        if volts is None:
            out.append(phrase("ins.volts_proposed", low=low) if proposed[0] == proposed[1] else phrase("ins.volts_proposed_range", low=low, high=high))
        elif not proposed[0] * (1 - 1e-9) <= volts <= proposed[1] * (1 + 1e-9):
            out.append(phrase("ins.volts_other", volts=amount(volts, "V"), low=low, high=high))
    for run in test.runs.values():
        if run.discharged_at is not None and run.ended_at is not None:
            held = (run.discharged_at - run.ended_at).total_seconds()
            if held < Limits(context.overrides).value("insulation.discharge_times") * run.charged_s - 1:
                out.append(phrase("ins.short_discharge", leg=leg_word(run.leg)))
    cls, winding = (context.motor.insulation_class if context.motor else ""), test.figure("winding")
    if cls and winding is not None:
        limits = Limits(context.overrides)
        top = limits.value(f"insulation.class_{cls.lower()}")
        if reaches(winding, top):
            share = amount(100 * life_share(winding - top, limits), "%")
            out.append(phrase("ins.too_hot", winding=amount(winding, "degC"), top=amount(top, "degC"), cls=cls, share=share))
    ordered = sorted((r for r in test.runs.values() if r.started_at is not None), key=lambda r: r.started_at)  # type: ignore[arg-type,return-value]
    for before, after in pairwise(ordered):
        if before.discharged_at is None or (after.started_at is not None and before.discharged_at > after.started_at):
            out.append(phrase("ins.not_discharged", leg=leg_word(after.leg)))
    return out


def _beside(w: Worked, context: Context, limits: Limits) -> list[Phrase]:
    """What the other measuring point said, and the twin."""
    out: list[Phrase] = []
    now = w.worst.at40 if w.worst is not None else None
    if now is not None and "at=starter" in w.conditions:
        at_motor = [p for p in context.history if p.measurand == "insulation_40" and p.conditions == w.conditions.replace("at=starter", "at=motor")]
        newest_ = max(at_motor, key=lambda p: p.taken_at, default=None)
        if newest_ is not None and newest_.bound is not Bound.AT_MOST and reaches(newest_.value / now.value if now.value > 0 else math.inf, limits.value("insulation.cable_times")):
            out.append(phrase("ins.cable", motor=amount(newest_.value, "MOhm", newest_.bound), now=now))
    twin = context.twin
    mine = [p for p in twin.points if p.measurand == "insulation_40"] if twin is not None else []
    if twin is not None and mine:
        like = [p for p in mine if p.conditions == w.conditions]
        if like:
            last = max(like, key=lambda p: p.taken_at)
            out.append(phrase("ins.twin", tag=twin.tag, value=amount(last.value, "MOhm", last.bound)))
        else:
            out.append(phrase("ins.twin_differs", tag=twin.tag, word=differing_words(mine[-1].conditions, w.conditions)))
    return out


def _values(test: Folded, w: Worked) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}
    for r in w.legs:
        tail = "" if r.leg == "all" else f"_{r.leg}"
        absorption, polarisation = ratios(r)
        named = {
            "minute": r.minute.quantity if r.minute else None, "at40": r.at40, "absorption": absorption, "polarisation": polarisation,
            "ten": r.ten.quantity if r.ten else None,
        }  # fmt: skip
        out |= {k + tail: q for k, q in named.items() if q is not None}
    if w.correction is not None:
        out["factor"] = amount(w.correction.factor, "1")
    if w.dew_c is not None:
        out["dew_point"] = amount(w.dew_c, "degC")
    out["minimum"] = amount(w.least.value, "MOhm")
    proposed = test_volts_for(w.facts.volts_v)
    if proposed is not None:
        out["proposed_volts"] = amount(proposed[0], "V")
    return out


def _points(test: Folded, w: Worked, findings: list[Finding]) -> list[SeriesPoint]:
    """Raw always; corrected and ratios only where the test could tell. Joined leads are one series, by the lowest."""
    if not w.comparable or not findings or w.worst is None:
        return []
    apart = test.said.get("phases") == "apart"
    out: list[SeriesPoint] = []
    for r in w.legs if apart else [w.worst]:
        leg = r.leg if apart else ""
        absorption, polarisation = ratios(r)
        pairs: list[tuple[str, Quantity | None]] = [("insulation_raw", r.minute.quantity if r.minute else None)]
        if not w.blocked:
            pairs += [("insulation_40", r.at40), ("absorption_ratio", absorption), ("polarisation_index", polarisation)]
        out += [
            SeriesPoint(measurand=m, part="motor", leg=leg, conditions=w.conditions, value=q.value, unit=q.unit, bound=q.bound)
            for m, q in pairs if q is not None
        ]  # fmt: skip
    return out


def _clocks(test: Folded, limits: Limits) -> list[RunClock]:
    times = limits.value("insulation.discharge_times")
    out = []
    for run in (r for r in test.runs.values() if r.started_at is not None):
        until = run.ended_at + timedelta(seconds=times * run.charged_s) if run.ended_at is not None else None
        out.append(
            RunClock(name=run.leg, started_at=run.started_at, ended_at=run.ended_at, discharged_at=run.discharged_at, discharge_until=until,
                     marks_s=list(MARKS_S), taken_s=[r.seconds for r in run.readings])
        )  # fmt: skip
    return out


# The curve paper: seconds 10 to 700 and resistance by tenfolds.

_X = (10.0, 700.0)


def _paper(test: Folded, w: Worked, context: Context) -> CurvePaper | None:
    """This test's curves over the ghosts of the last three, on log-log paper, above the minimum (raw scale)."""
    now = [(r.leg, 0, None, "", [(x.seconds, x.ohms.quantity, x.uuid) for x in r.readings]) for r in test.legs]
    past = []
    for i, sheet in enumerate(context.earlier[:3], 1):
        differs = differing_words(sheet.conditions, w.conditions) if w.conditions else ""
        past += [(leg, i, sheet.taken_at, differs, rows) for leg, rows in curves_of(sheet)]
    every = [(t, q) for _, _, _, _, rows in (*now, *past) for t, q, _ in rows if q.value > 0]
    if not every:
        return None
    floor = w.least.value / w.correction.factor if w.correction is not None else None
    figures = [q.value for _, q in every] + ([floor] if floor else [])
    low, high = math.floor(math.log10(min(figures))), math.ceil(math.log10(max(figures)) + 1e-9)
    high = max(high, low + 1)

    def x(t: float) -> float:
        return round((math.log10(min(max(t, _X[0]), _X[1])) - math.log10(_X[0])) / (math.log10(_X[1]) - math.log10(_X[0])), 4)

    def y(v: float) -> float:
        return round((math.log10(v) - low) / (high - low), 4)

    lines = [
        Curve(name=leg, before=n, taken_at=at, differs=differs,
              points=[CurvePoint(x=x(t), y=y(q.value), at=amount(t, "s"), value=q, entry=e) for t, q, e in rows if q.value > 0])
        for leg, n, at, differs, rows in (*past, *now)
    ]  # fmt: skip
    ticks = [PaperTick(at=x(t), value=amount(t, "s")) for t in (15, 30, 60, 120, 300, 600)]
    decades = [PaperTick(at=y(10.0**d), value=amount(10.0**d, "MOhm")) for d in range(low, high + 1)]
    return CurvePaper(curves=lines, x_ticks=ticks, y_ticks=decades, floor=y(floor) if floor else None)


def curves_of(sheet: PastSheet) -> list[tuple[str, list[tuple[float, Quantity, str]]]]:
    """An earlier record's readings by leg, as read."""
    setup = InsulationEntry.model_validate({"kind": "setup", **sheet.body.get("setup", {})})
    rows = [
        Entry[InsulationEntry](uuid=f"past-{i:04d}", taken_at=sheet.taken_at, body=InsulationEntry(kind="reading", **r))
        for i, r in enumerate(sheet.body.get("readings", []))
    ]
    folded = fold([Entry[InsulationEntry](uuid="past-setup", taken_at=sheet.taken_at, body=setup), *rows])
    return [(r.leg, [(x.seconds, x.ohms.quantity, "") for x in r.readings]) for r in folded.legs]


def facts(entries: Sheet) -> dict[str, Any]:
    """What a record keeps: the setup and the readings, as typed, each at its second."""
    test = fold(list(entries))
    setup: dict[str, Any] = {n: test.said[n] for n in SETUP_WORDS if n in test.said}
    setup |= {n: _dump(test.typed[n]) for n in SETUP_FIGURES if n in test.typed}
    readings = [{"leg": run.leg, "seconds": r.seconds, "ohms": _dump(r.typed)} for run in test.legs for r in run.readings]
    return {"setup": setup, "readings": readings}


def _dump(e: Entered) -> dict[str, str]:
    return e.model_dump(mode="json", exclude_defaults=True)


INSULATION = register(
    Bench(
        name="insulation",
        title="Insulation test",
        entry=InsulationEntry,
        context=Context,
        evaluate=guarded(evaluate, dead_test=True),
        needs=Needs(series=(("insulation_40", 60),), earlier=3, twin=True, slots=("motor", "control")),
        facts=facts,
        many=True,
        timed=True,
        entries=lambda body, at: [(at, {"kind": "setup", **body.get("setup", {})}, ""), *((at, {"kind": "reading", **r}, "") for r in body.get("readings", []))],
    )
)
