"""The insulation test: from preparing it to the judgement, folded from whatever was entered so far."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import datetime, timedelta
from itertools import pairwise
from typing import Any

from ...base import (
    Bench,
    Bound,
    Entered,
    Evaluation,
    Filed,
    Finding,
    Limits,
    Missing,
    Needs,
    Phrase,
    Problem,
    Quantity,
    RunClock,
    Series,
    SeriesPoint,
    Timed,
    amount,
    body_of,
    concluded,
    exceeds,
    kept_fields,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Conditions, Context, Entry
from ...plant import KINDS, motor_facts
from ...safety import guarded, live_evidence
from .correction import test_volts_for
from .entry import MARKS, MARKS_S, InsulationEntry, InsulationTest, fold, leg_word, value_at
from .falling import falling_finding
from .forecasting import forecast_finding, forecast_of, next_test
from .formulas import life_share
from .judging import against_minimum, dew_finding
from .legs import legs_finding
from .own_past import against_past, like_points
from .paper import paper_of
from .ratios import ratio_findings, ratios
from .standing import lacking
from .view import InsulationView
from .worked import Worked, work_out

Sheet = Sequence[Entry[Any]]
_ASKED = {
    "test_point": "the test point",
    "links": "links in or out",
    "phases": "phases together or separated",
    "test_volts": "the test voltage",
}
_AIR = {
    "winding": "the winding temperature",
    "ambient": "the ambient temperature",
    "humidity": "the humidity",
}


def replay(entries: Sheet, case: AnyCase) -> InsulationTest:
    """How does the test stand after these entries? In any order, from any device."""
    return fold(entries, {i.id: s.top for i in case.instruments if (s := i.span("resistance")) is not None})


def judge(test: InsulationTest, case: AnyCase) -> Evaluation[InsulationView]:
    """What does this insulation test say, so far? Resistance in MΩ, °C, V dc, seconds.

    Every field may be missing: what can be judged is, the rest is named in `missing`. A problem names an
    impossible figure by its field or its entry's id. Refused whole: built-in electronics, a drive still on
    the circuit. Corrected by IEEE 43-2013 (from memory); limits and sources in `limits.toml` and
    `rules.toml`.
    """
    context = case.context
    limits = Limits(context.overrides)
    plate, facts = context.motor, motor_facts(context.motor)
    key, unsaid = test.conditions, unsaid_of(test)
    w = work_out(test, plate, facts, key, not unsaid, limits)
    problems = [*test.problems, *_refused(test, context)]
    refused = any(p.code in _STOPPERS for p in problems)
    asked, waiting = _waiting(test, unsaid, limits)
    findings: list[Finding] = []
    ahead = None
    if w.worst is not None and not refused:
        past = like_points(w, w.worst.leg if test.said("phases") == "apart" else "", context)
        own, own_waits = against_past(w, past, limits, context)
        ratio, ratio_waits = ratio_findings(w, limits)
        ahead = forecast_of(w, past, context)
        going, going_words = forecast_finding(ahead, limits)
        some = [
            dew_finding(w),
            legs_finding(test, w, limits),
            against_minimum(w, bool(past), limits),
            own,
            *ratio,
            going,
        ]
        findings = [f for f in some if f is not None]
        waiting = [*waiting, *own_waits, *ratio_waits, *going_words, *_beside(w, context, limits)]
    fell, steady = falling_finding(w, limits) if w.legs and not refused else (None, False)
    findings, verdict, beside = concluded(
        [*findings, *([fell] if fell is not None else [])], lacking(test, w, unsaid, limits), problems
    )
    return Evaluation[InsulationView](
        bench="insulation",
        rules_version=rules_version(),
        conditions=key.key,
        verdict=verdict,
        beside=beside,
        values=_values(test, w),
        findings=findings,
        settled=["insulation_falling"] if steady else [],
        questions=[*_questions(test, context), *test.conflicts],
        waiting=waiting,
        points=_points(test, w, findings),
        due=next_test(ahead, verdict, context, limits) if findings else None,
        cautions=_cautions(test),
        problems=problems,
        missing=asked,
        view=InsulationView(paper=paper_of(test, w, context), clocks=_clocks(test, limits)),
    )


_STOPPERS = ("built_in_electronics", "drive_connected")


def _refused(test: InsulationTest, context: Context) -> list[Problem]:
    """What forbids the test itself, whatever the figures are."""
    kind = KINDS.get(context.kind)
    if (kind is not None and kind.built_in_electronics) or (
        context.motor is not None and context.motor.built_in_electronics
    ):
        return [
            Problem(
                code="built_in_electronics",
                field="test_point",
                value="",
                right="the manufacturer's own test",
                message=(
                    "Built-in electronics: no insulation test on this motor, only the manufacturer's own"
                    " test."
                ),
            )
        ]
    on_circuit = {"drive": "A drive", "soft_starter": "A soft starter"}.get(context.control_kind)
    off = test.said("drive_off")
    if on_circuit and (off is False or (off is None and test.legs)):
        return [
            Problem(
                code="drive_connected",
                field="drive_off",
                value="",
                right="disconnected on the motor side",
                message=(
                    f"{on_circuit} is on this circuit. Disconnect it on the motor side and confirm."
                    " The test voltage destroys it."
                ),
            )
        ]
    if off is False:
        message = "Electronics on the circuit: disconnect them on the motor side and confirm."
        return [
            Problem(
                code="drive_connected", field="drive_off", value="", message=message, right="disconnected"
            )
        ]
    return []


def unsaid_of(test: InsulationTest) -> list[str]:
    """What of the state nobody said: without it the figures belong to no series."""
    return [n for n in _ASKED if test.said(n) is None and test.figure(n) is None]


def _waiting(test: InsulationTest, unsaid: list[str], limits: Limits) -> tuple[list[Missing], list[Phrase]]:
    missing = [
        Missing(field=n, message=f"Enter {_ASKED[n]}. Tests in other states cannot be compared.")
        for n in unsaid
    ]
    refused = {p.field for p in test.problems}
    for name, words in _AIR.items():
        if test.figure(name) is None and name not in refused:
            why = (
                "without it the reading cannot be corrected to 40 °C and is never good"
                if name == "winding"
                else "without it there is no dew point"
            )
            missing.append(Missing(field=name, message=f"Enter {words}: {why}."))
    if test.said("arresters_off") is None:
        missing.append(
            Missing(
                field="arresters_off",
                message="Confirm: surge arresters and capacitors disconnected, sensors shorted and grounded.",
            )
        )
    if not test.legs:
        missing.append(Missing(field="ohms", message="No reading yet."))
    elif all(value_at(r, 60, limits) is None for r in test.legs):
        missing.append(Missing(field="ohms", message="No reading at or near one minute yet."))
    waiting = (
        [phrase("ins.wait_state", missing=", ".join(_ASKED[n] for n in unsaid))]
        if unsaid and test.legs
        else []
    )
    return missing, waiting


def _cautions(test: InsulationTest) -> list[Phrase]:
    out = [phrase("caution.prove")] if not test.legs else []
    if not test.legs:
        out.append(phrase("caution.rotor"))
    if any(r.ended_at is not None and r.discharged_at is None for r in test.runs.values()):
        out.append(phrase("caution.discharge"))
    return out


def _questions(test: InsulationTest, context: Context) -> list[Phrase]:
    out: list[Phrase] = []
    proposed, volts = test_volts_for(motor_facts(context.motor).volts_v), test.figure("test_volts")
    if proposed is not None:
        low, high = amount(proposed[0], "V"), amount(proposed[1], "V")
        if volts is None:
            out.append(
                phrase("ins.volts_proposed", low=low)
                if proposed[0] == proposed[1]
                else phrase("ins.volts_proposed_range", low=low, high=high)
            )
        elif not proposed[0] * (1 - 1e-9) <= volts <= proposed[1] * (1 + 1e-9):
            out.append(phrase("ins.volts_other", volts=amount(volts, "V"), low=low, high=high))
    for run in test.runs.values():
        if run.discharged_at is not None and run.ended_at is not None:
            held = (run.discharged_at - run.ended_at).total_seconds()
            times = Limits(context.overrides).value("insulation.discharge_times")
            if held < times * run.charged_s - 1:
                out.append(phrase("ins.short_discharge", leg=leg_word(run.leg), times=f"{times:g}"))
    cls, winding = (context.motor.insulation_class if context.motor else ""), test.figure("winding")
    if cls and winding is not None:
        limits = Limits(context.overrides)
        top = limits.value(f"insulation.class_{cls.lower()}")
        if exceeds(winding, top):
            share = amount(100 * life_share(winding - top, limits.value("insulation.life_halves")), "%")
            out.append(
                phrase(
                    "ins.too_hot",
                    winding=amount(winding, "degC"),
                    top=amount(top, "degC"),
                    cls=cls,
                    share=share,
                )
            )
    ordered = sorted((r for r in test.runs.values() if r.started_at is not None), key=lambda r: r.started_at)  # type: ignore[arg-type,return-value]
    for before, after in pairwise(ordered):
        if before.discharged_at is None or (
            after.started_at is not None and before.discharged_at > after.started_at
        ):
            out.append(phrase("ins.not_discharged", leg=leg_word(after.leg)))
    return out


def _beside(w: Worked, context: Context, limits: Limits) -> list[Phrase]:
    """What the other measuring point said, and the twin."""
    out: list[Phrase] = []
    now = w.worst.at40 if w.worst is not None else None
    if now is not None and w.conditions.get("at") == "starter":
        at_motor = [
            p
            for p in context.history
            if p.measurand == "insulation_40" and p.conditions == w.conditions.but(at="motor").key
        ]
        newest_ = max(at_motor, key=lambda p: p.taken_at, default=None)
        if (
            newest_ is not None
            and newest_.bound is not Bound.AT_MOST
            and exceeds(
                newest_.value / now.value if now.value > 0 else math.inf,
                limits.value("insulation.cable_times"),
            )
        ):
            out.append(phrase("ins.cable", motor=amount(newest_.value, "MOhm", newest_.bound), now=now))
    twin = context.twin
    mine = [p for p in twin.points if p.measurand == "insulation_40"] if twin is not None else []
    if twin is not None and mine:
        like = [p for p in mine if p.conditions == w.conditions.key]
        if like:
            last = max(like, key=lambda p: p.taken_at)
            out.append(phrase("ins.twin", tag=twin.tag, value=amount(last.value, "MOhm", last.bound)))
        else:
            out.append(
                phrase(
                    "ins.twin_differs",
                    tag=twin.tag,
                    word=Conditions.parse(mine[-1].conditions).unlike(w.conditions),
                )
            )
    return out


def _values(test: InsulationTest, w: Worked) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}
    for r in w.legs:
        tail = "" if r.leg == "all" else f"_{r.leg}"
        absorption, polarisation = ratios(r)
        named = {
            "minute": r.minute.quantity if r.minute else None,
            "at40": r.at40,
            "absorption": absorption,
            "polarisation": polarisation,
            "ten": r.ten.quantity if r.ten else None,
        }
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


def _points(test: InsulationTest, w: Worked, findings: list[Finding]) -> list[SeriesPoint]:
    """Raw always; corrected and ratios only where the test could tell. Joined leads are one series, by the
    lowest.
    """
    if not w.comparable or not findings or w.worst is None:
        return []
    apart = test.said("phases") == "apart"
    out: list[SeriesPoint] = []
    for r in w.legs if apart else [w.worst]:
        leg = r.leg if apart else ""
        absorption, polarisation = ratios(r)
        pairs: list[tuple[str, Quantity | None]] = [
            ("insulation_raw", r.minute.quantity if r.minute else None)
        ]
        if not w.blocked:
            pairs += [
                ("insulation_40", r.at40),
                ("absorption_ratio", absorption),
                ("polarisation_index", polarisation),
            ]
        out += [
            SeriesPoint(
                measurand=m,
                part="motor",
                leg=leg,
                conditions=w.conditions.key,
                value=q.value,
                unit=q.unit,
                bound=q.bound,
            )
            for m, q in pairs
            if q is not None
        ]
    return out


def _clocks(test: InsulationTest, limits: Limits) -> list[RunClock]:
    times = limits.value("insulation.discharge_times")
    out = []
    for run in (r for r in test.runs.values() if r.started_at is not None):
        until = run.ended_at + timedelta(seconds=times * run.charged_s) if run.ended_at is not None else None
        out.append(
            RunClock(
                name=run.leg,
                started_at=run.started_at,
                ended_at=run.ended_at,
                discharged_at=run.discharged_at,
                discharge_until=until,
                marks=MARKS,
                taken_s=[r.seconds for r in run.readings],
            )
        )
    return out


def facts(entries: Sheet) -> dict[str, Any]:
    """What a record keeps: the setup and the readings, as typed, each at its second."""
    test = fold(entries)
    setup = {n: w.value for n in kept_fields(InsulationEntry) if (w := test.words.get(n)) is not None}
    readings = [
        {"leg": run.leg, "seconds": r.seconds, "ohms": body_of(r.typed)}
        for run in test.legs
        for r in run.readings
    ]
    body = {n: body_of(v) if isinstance(v, Entered) else v for n, v in setup.items()}
    return {"setup": body, "readings": readings}


def _entries(body: dict[str, Any], at: datetime) -> list[tuple[datetime, dict[str, Any], str]]:
    setup = (at, {"kind": "setup", **body.get("setup", {})}, "")
    return [setup, *((at, {"kind": "reading", **r}, "") for r in body.get("readings", []))]


INSULATION = Bench(
    name="insulation",
    title="Insulation test",
    records="Insulation tests",
    one="an insulation test",
    key="i",
    does="start an insulation test",
    place=20,
    part="motor",
    act="insulation_test",
    read_with=("resistance", "temperature"),
    entry=InsulationEntry,
    view=InsulationView,
    needs=Needs(plates=("motor", "control"), series=(Series("insulation_40", 60),), earlier=3, twin=True),
    replay=replay,
    judge=guarded(judge, dead_test=True),
    effects=live_evidence(judge),
    facts=facts,
    many=True,
    clocks=lambda e: e.view.clocks,
    files=Filed(
        timed=Timed(
            kind="reading",
            place="leg",
            second="seconds",
            value="ohms",
            unit="MOhm",
            places={"R": "all", "L1": "L1", "L2": "L2", "L3": "L3"},
            marks=MARKS_S,
        ),
        entries=_entries,
    ),
)
