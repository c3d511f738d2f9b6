"""What every bench's answer is held against as well: what its readings were taken with. A good verdict that
stands on an instrument out of date, of too low a category, out of its range or not named is none.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from pydantic import BaseModel

from ..base import (
    HELD,
    RULES,
    UNITS,
    AnyBench,
    Bound,
    Entered,
    Evaluation,
    FieldRule,
    Finding,
    HurbinError,
    Kept,
    Limits,
    Model,
    Phrase,
    Unknown,
    Verdict,
    from_metric,
    ordered,
    phrase,
    read,
    whole,
)
from ..plant import MotorPlate, motor_facts
from .fitness import Shown, unfit
from .register import READS, Instrument

SCHOOL = "school.unnamed_instrument"


class Doubt(Model):
    """Why what was read of one dimension may not stand for good. named: an instrument was."""

    reads: str
    why: Phrase
    named: bool


@dataclass(frozen=True, slots=True)
class _Field:
    """A field of an entry that may hold a reading, or something that has one. said: of a typed figure."""

    name: str
    title: str
    reads: str
    said: Mapping[str, Any] | None


@lru_cache(maxsize=256)
def _readable(model: type[BaseModel]) -> tuple[_Field, ...]:
    """Where readings may stand in a model: neither what is kept with the set nor what is printed."""
    out = []
    for name, info in model.model_fields.items():
        extra: Any = info.json_schema_extra if isinstance(info.json_schema_extra, dict) else {}
        if extra.get("x-kept") != Kept.SET.value and not extra.get("x-printed"):
            said = extra.get("x-entered")
            reads = said["dimension"] if said is not None else extra.get("x-reads", "")
            out.append(_Field(name, info.title or name, reads, said))
    return tuple(out)


def shown_in(body: BaseModel, dimensions: Sequence[str]) -> Iterator[Shown]:
    """Every figure of these dimensions that was read into an entry, those of its spots as well. What is kept
    with the set from one visit to the next was not read now, what is printed not by an instrument.
    """
    for f in _readable(type(body)):
        value = getattr(body, f.name)
        if value is None:
            continue
        if f.reads:
            if f.reads in dimensions:
                yield from _read_into(f, value)
        elif isinstance(value, BaseModel):
            yield from shown_in(value, dimensions)
        elif isinstance(value, list):
            for one in value:
                if isinstance(one, BaseModel):
                    yield from shown_in(one, dimensions)


def _read_into(f: _Field, value: Any) -> Iterator[Shown]:
    if f.said is None:
        yield Shown(reads=f.reads, typed=f.title)
    elif isinstance(value, Entered) and value.text.strip():
        yield _shown(value, f.said)


def _shown(typed: Entered, said: Mapping[str, Any]) -> Shown:
    dimension = said["dimension"]
    rule = FieldRule(said["label"], said["label"], dimension, None, None, tuple(said["words"]), True)
    held = UNITS.get(typed.unit)
    symbol = held.symbol if held is not None else ""
    written = f"{typed.text.strip()} {symbol}".strip()
    try:
        got = read(typed, rule)
    except HurbinError:
        got = None
    if got is None or got.word or got.bound is not Bound.EXACT:
        return Shown(reads=dimension, typed=written)
    # A scale of another zero has steps of its own, of the same fineness.
    own_zero = held is not None and held.offset != 0
    steps = from_metric(got.value, typed.unit) if own_zero else got.value
    return Shown(reads=dimension, typed=written, value=got.value, steps=steps)


def used_for(bench: AnyBench, entry: Any) -> dict[str, str]:
    """Of the instruments that an entry names, those that read any of its figures."""
    if not entry.instruments:
        return {}
    shown = {s.reads for s in shown_in(entry.body, bench.read_with)}
    return {reads: named for reads, named in entry.instruments.items() if reads in shown}


def doubts(bench: AnyBench, case: Any, entries: Sequence[Any]) -> list[Doubt]:
    """What stands against the instruments of these readings, once a dimension; what was named first."""
    register: dict[str, Instrument] = {i.id: i for i in case.instruments}
    limits = Limits(case.context.overrides)
    counted = list(_counted(entries))
    found = [(e, s) for e in counted for s in shown_in(e.body, bench.read_with)]
    if not found:
        return []
    volts = _highest(case, [s for _, s in found])
    out: dict[str, Doubt] = {}
    for e, shown in found:
        why, named = _against(e, shown, register, volts, limits)
        held = out.get(shown.reads)
        if why is not None and (held is None or (named and not held.named)):
            out[shown.reads] = Doubt(reads=shown.reads, why=why, named=named)
    return list(out.values())


def _counted(entries: Sequence[Any]) -> Iterator[Any]:
    undone = {e.body.undoes for e in entries if getattr(e.body, "kind", "") == "undo"}
    return (e for e in entries if not e.late and e.uuid not in undone)


def _highest(case: Any, shown: Sequence[Shown]) -> float | None:
    """The highest voltage known of the circuit: what was read on it, and what the motor is made for."""
    part = case.context.parts.get("motor")
    plate = part.plate if part is not None else None
    facts = motor_facts(plate) if isinstance(plate, MotorPlate) else None
    read_v = [s.value for s in shown if s.reads == "voltage" and s.value is not None]
    known = [*read_v, *([facts.volts_v] if facts is not None and facts.volts_v else [])]
    return max(known, default=None)


def _against(
    entry: Any, shown: Shown, register: Mapping[str, Instrument], volts: float | None, limits: Limits
) -> tuple[Phrase | None, bool]:
    named = entry.instruments.get(shown.reads, "")
    what = READS.get(shown.reads, shown.reads)
    if named:
        tool = register.get(named)
        if tool is None:
            return phrase("instrument.unknown", what=what), True
        return unfit(tool, shown, entry.taken_at, volts, limits), True
    school = limits.school(SCHOOL)
    kept = any(
        i.span(shown.reads) and i.since <= entry.taken_at and (i.until is None or entry.taken_at < i.until)
        for i in register.values()
    )
    if school == "always" or (school == "where_kept" and kept):
        return phrase("instrument.unnamed", what=what), False
    return None, False


def traced(bench: AnyBench, e: Evaluation[Any], case: Any, entries: Sequence[Any]) -> Evaluation[Any]:
    """The same answer, held against what its readings were taken with: a good verdict on one that may not
    stand for it is unknown, with why; every other verdict stays and says it beside.
    """
    against = doubts(bench, case, entries) if bench.read_with and e.findings else []
    if not against:
        return e
    findings = ordered([_held(f, against) for f in e.findings])
    verdict, beside = whole(findings, e.problems)
    turned = any(f.verdict is Verdict.GOOD for f in e.findings)
    more: dict[str, Any] = {"view": _without_good(e.view)} if turned else {}
    return e.model_copy(update={"findings": findings, "verdict": verdict, "beside": beside, **more})


def _held(f: Finding, against: Sequence[Doubt]) -> Finding:
    rule = RULES.get(f.rule)
    stands_on = rule.read if rule is not None and rule.read else [d.reads for d in against]
    doubt = next((d for d in against if d.reads in stands_on), None)
    if doubt is None:
        return f
    if f.verdict is not Verdict.GOOD:
        return f.model_copy(update={"notes": [*f.notes, phrase("instrument.beside", why=doubt.why)]})
    return f.model_copy(
        update={
            "verdict": Verdict.UNKNOWN,
            "unknown": Unknown.INCONCLUSIVE if doubt.named else Unknown.INCOMPLETE,
            "by": None,
            "reason": phrase("instrument.void", why=doubt.why, was=f.reason),
        }
    )


def _without_good(drawn: Any) -> Any:
    """The same drawing, no mark in it good."""
    if drawn is Verdict.GOOD:
        return Verdict.UNKNOWN
    if isinstance(drawn, BaseModel):
        fields = {n: _without_good(getattr(drawn, n)) for n in type(drawn).model_fields}
        changed = {n: v for n, v in fields.items() if v is not getattr(drawn, n)}
        return drawn.model_copy(update=changed) if changed else drawn
    if isinstance(drawn, list):
        again = [_without_good(x) for x in drawn]
        return again if any(a is not b for a, b in zip(again, drawn, strict=True)) else drawn
    if isinstance(drawn, dict):
        turned = {k: _without_good(v) for k, v in drawn.items()}
        return turned if any(turned[k] is not drawn[k] for k in drawn) else drawn
    return drawn


HELD.append(traced)
