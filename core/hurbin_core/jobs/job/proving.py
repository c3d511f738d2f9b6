"""The proof of a job: what was read after the last part went back, against nameplate and before."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime

from ...base import (
    RULES,
    By,
    Finding,
    Phrase,
    Problem,
    Quantity,
    Unknown,
    Verdict,
    amount,
    exceeds,
    judge_steps,
    phrase,
    read_fields,
    worst,
)
from ..known import BenchRecord
from .sheet import Job, Said


def service_known(job: Job) -> bool | None:
    """Does the service name a proof? None where nobody said."""
    if job.said("no_service") == "yes":
        return False
    return True if job.said("service") else None


def proof_verdict(job: Job, what: str) -> Verdict:
    """What the proof says of this; unknown where nothing was read."""
    found = prove(job, what)
    return worst([f.verdict for f in found])[0] if found else Verdict.UNKNOWN


def prove(job: Job, what: str) -> list[Finding]:
    """The findings of one part of the proof; none where nothing was read of it. No good stands on a minute
    that had not come yet when it was entered.
    """
    found = _PROOFS[what](job) if what in _PROOFS else []
    early = _early(job, _TIMED[what]) if what in _TIMED else None
    if early is None:
        return found
    passed = (Verdict.GOOD, Verdict.WATCH)
    return [
        _found(f.rule, Verdict.UNKNOWN, early, f.subject, f.part) if f.verdict in passed else f for f in found
    ]


# Proofs that are read at minutes since the start, and the entries they are read with.
_TIMED = {"seal": "drip", "heat": "heat", "service": "service"}
# A minute is rounded as it is typed.
_ROUNDED_S = 60.0


def _early(job: Job, kind: str) -> Phrase | None:
    """Was a minute entered before it can have come, counted from when the set was given back to run, or else
    from the last part that went back?
    """
    given = [job.done[s.id].at for s in job.steps if s.meets == "given_back" and s.id in job.done]
    known = [job.put_back_at, job.opened.at if job.opened else None, *given]
    since = max((at for at in known if at is not None), default=None)
    for x in _said(job, kind):
        minute = _figures(job, x).get("minute")
        gone = (x.at - since).total_seconds() if since is not None else 0.0
        if minute is not None and exceeds(minute, gone + _ROUNDED_S):
            return phrase("proof.early", minute=amount(minute / 60, "min"), gone=amount(gone / 60, "min"))
    return None


def _found(
    rule: str, verdict: Verdict, reason: Phrase, subject: str = "", part: str = "pump", *notes: Phrase
) -> Finding:
    return Finding(
        question=rule,
        subject=subject,
        part=part,
        verdict=verdict,
        by=None if verdict is Verdict.GOOD else By.NOW,
        unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
        rule=rule,
        reason=reason,
        notes=list(notes),
    )


def _judged(
    job: Job, rule: str, figure: Quantity, reason: Phrase, subject: str = "", part: str = "pump"
) -> Finding:
    ruled = RULES[rule]
    told = judge_steps(ruled, figure, job.limits.steps(rule), ruled.beyond)
    return Finding(
        question=rule,
        subject=subject,
        part=part,
        verdict=told.verdict,
        by=told.by,
        unknown=Unknown.INCONCLUSIVE if told.verdict is Verdict.UNKNOWN else None,
        rule=rule,
        reason=reason,
        line=told.line,
        limits=told.limits,
    )


def _said(job: Job, kind: str) -> list[Said]:
    """What was read for the proof since the last part went back: what was seen before it proves nothing."""
    since = job.put_back_at
    return [x for x in job.of(kind) if since is None or x.at >= since]


def after(job: Job, bench: str) -> BenchRecord | None:
    """The newest record of a bench since the last part went back (or since the opening, where none did)."""
    since = job.put_back_at or (job.opened.at if job.opened else None)
    rows = [r for r in job.known.records if r.bench == bench and (since is None or r.taken_at > since)]
    return max(rows, key=lambda r: r.taken_at, default=None)


def before(job: Job, bench: str, conditions: str = "") -> BenchRecord | None:
    """The newest record of a bench from before the job's first part came off, of the same conditions. What
    was read on a motor or pump that is gone since is no before, with another in its place or none.
    """
    slots = _READ_ON.get(bench, ())
    if any(slot in job.known.bare for slot in slots):
        return None
    first = _first_off(job)
    since = [job.known.fitted[slot] for slot in slots if slot in job.known.fitted]
    rows = [
        r
        for r in job.known.records
        if r.bench == bench
        and (first is None or r.taken_at < first)
        and all(r.taken_at >= at for at in since)
        and (not conditions or r.conditions == conditions)
    ]
    return max(rows, key=lambda r: r.taken_at, default=None)


# On what each of the compared benches reads.
_READ_ON = {"running_check": ("motor",), "vibration": ("motor", "pump")}


def _first_off(job: Job) -> datetime | None:
    at = [job.done[s.id].at for s in job.steps if s.off and s.id in job.done]
    return min(at, default=job.opened.at if job.opened else None)


def _reads(r: BenchRecord, measurand: str) -> dict[str, float]:
    return {x.leg: x.value for x in r.reads if x.measurand == measurand}


def _direction(job: Job) -> list[Finding]:
    rows = _said(job, "arrow")
    if not rows or rows[-1].body.right is None:
        return []
    ok = rows[-1].body.right == "yes"
    verdict = Verdict.GOOD if ok else Verdict.STOP
    return [_found("proof_direction", verdict, phrase("proof.right" if ok else "proof.wrong"), part="motor")]


def _amps(job: Job) -> list[Finding]:
    """Every conductor the motor has; against nameplate by its own check, against before at the same valve."""
    now = after(job, "running_check")
    if now is None:
        return []
    legs = _reads(now, "current")
    want = 3 if job.marks.get("phases") == 3 else 1
    if len(legs) < want:
        reason = phrase("proof.legs", n=str(len(legs)), want=str(want))
        return [_found("proof_amps", Verdict.UNKNOWN, reason, part="motor")]
    if now.verdict in (Verdict.ACT, Verdict.STOP, Verdict.UNKNOWN):
        reason = phrase("proof.check", verdict=now.verdict.value)
        return [_found("proof_amps", now.verdict, reason, part="motor")]
    mean = sum(legs.values()) / len(legs)
    old = before(job, "running_check", now.conditions)
    past = _reads(old, "current") if old is not None else {}
    if old is None or len(past) < want:
        reason = phrase("proof.no_before", now=amount(mean, "A"))
        return [_found("proof_amps", Verdict.WATCH, reason, "", "motor", phrase("proof.plate_only"))]
    was = sum(past.values()) / len(past)
    off = amount(100 * abs(mean / was - 1), "%")
    reason = phrase("proof.amps", now=amount(mean, "A"), was=amount(was, "A"))
    held = _judged(job, "proof_amps", off, reason, part="motor")
    if held.verdict is Verdict.GOOD and now.verdict is Verdict.WATCH:
        return [_found("proof_amps", Verdict.WATCH, phrase("proof.check", verdict="watch"), part="motor")]
    return [held]


def _watts(job: Job) -> list[Finding]:
    d = job.done.get("P4e")
    if d is None or d.figure is None:
        return []
    alone = phrase("proof.watts_alone")
    return [_found("proof_watts", Verdict.WATCH, phrase("proof.watts", now=d.figure), "", "motor", alone)]


def _volts(job: Job) -> list[Finding]:
    now = after(job, "running_check")
    if now is None:
        return []
    pairs = _reads(now, "voltage")
    want = 3 if job.marks.get("phases") == 3 else 1
    if len(pairs) < want:
        reason = phrase("proof.pairs", n=str(len(pairs)), want=str(want))
        return [_found("proof_volts", Verdict.UNKNOWN, reason, part="supply")]
    return [
        _found("proof_volts", now.verdict, phrase("proof.volts", verdict=now.verdict.value), part="supply")
    ]


def _vibration(job: Job) -> list[Finding]:
    now = after(job, "vibration")
    if now is None:
        return []
    old = before(job, "vibration")
    top = max((x.value for x in now.reads if x.unit == "mm/s"), default=None)
    was = max((x.value for x in old.reads if x.unit == "mm/s"), default=None) if old is not None else None
    if top is None:
        return [_found("proof_vibration", Verdict.UNKNOWN, phrase("proof.no_vibration"))]
    reason = phrase("proof.vibration", now=amount(top, "mm/s"), verdict=now.verdict.value)
    notes = [phrase("proof.vibration_was", was=amount(was, "mm/s"))] if was is not None else []
    return [_found("proof_vibration", now.verdict, reason, "", "pump", *notes)]


def _figures(job: Job, x: Said) -> dict[str, float]:
    got, problems = read_fields(x.body)
    for p in problems:
        told: Problem = p.model_copy(update={"field": f"{x.entry}.{p.field}"})
        if told not in job.problems:
            job.problems.append(told)
    return {n: r.value for n, r in got.items()}


def _head(job: Job) -> list[Finding]:
    rows = _said(job, "head")
    if not rows:
        return []
    x = rows[-1]
    got = _figures(job, x)
    if "after" not in got:
        return []
    if x.body.sign is None:
        return [_found("proof_head", Verdict.UNKNOWN, phrase("proof.no_flow_sign"))]
    if "before" not in got:
        return [_found("proof_head", Verdict.UNKNOWN, phrase("proof.no_head_before"))]
    if x.body.valve != "same":
        return [_found("proof_head", Verdict.UNKNOWN, phrase("proof.other_valve"))]
    off = amount(100 * abs(got["after"] / got["before"] - 1), "%")
    reason = phrase("proof.head", now=amount(got["after"], "m_head"), was=amount(got["before"], "m_head"))
    return [_judged(job, "proof_head", off, reason)]


def _drips(job: Job) -> list[tuple[float, float, Said]]:
    out = []
    for x in _said(job, "drip"):
        got = _figures(job, x)
        if {"minute", "drops"} <= got.keys():
            out.append((got["minute"] / 60, got["drops"], x))
    return sorted(out, key=lambda r: r[0])


def _seal(job: Job) -> list[Finding]:
    """Dry for its minutes; a few drops in the first five are usual. Packing drips so many a minute."""
    rows = _drips(job)
    if not rows:
        return []
    minutes, first = job.limits.value("proof.seal_minutes"), job.limits.value("proof.seal_first")
    last, drops, x = rows[-1]
    if x.body.packing == "yes":
        low, high = job.limits.value("proof.packing_low"), job.limits.value("proof.packing_high")
        inside = not exceeds(low, drops) and not exceeds(drops, high)
        words = phrase(
            "proof.packing", drops=amount(drops, "1"), low=amount(low, "1"), high=amount(high, "1")
        )
        return [_found("proof_seal", Verdict.GOOD if inside else Verdict.ACT, words, part="seal")]
    wet = [m for m, n, _ in rows if n > 0 and exceeds(m, first)]
    if wet:
        words = phrase("proof.wet", minute=amount(max(wet), "min"))
        return [_found("proof_seal", Verdict.ACT, words, part="seal")]
    if exceeds(minutes, last):
        words = phrase("proof.too_soon", left=amount(minutes - last, "min"))
        return [_found("proof_seal", Verdict.UNKNOWN, words, part="seal")]
    if len(rows) < 2:
        return [_found("proof_seal", Verdict.UNKNOWN, phrase("proof.seal_once"), part="seal")]
    return [_found("proof_seal", Verdict.GOOD, phrase("proof.dry", minute=amount(last, "min")), part="seal")]


def _heat(job: Job) -> list[Finding]:
    """It stands when it rises less than a kelvin in ten minutes; then rise over air and its own ceiling."""
    rows = sorted(
        (g["minute"] / 60, g["bearing"], g["ambient"])
        for g in (_figures(job, x) for x in _said(job, "heat"))
        if {"minute", "bearing", "ambient"} <= g.keys()
    )
    if not rows:
        return []
    last, temp, air = rows[-1]
    out = [
        _judged(
            job,
            "proof_heat",
            amount(temp - air, "K"),
            phrase("proof.heat", temp=amount(temp, "degC"), air=amount(air, "degC")),
            "rise",
            "bearings",
        ),
        _judged(
            job,
            "proof_heat_most",
            amount(temp, "degC"),
            phrase("proof.heat_most", temp=amount(temp, "degC")),
            "most",
            "bearings",
        ),
    ]
    span = job.limits.value("proof.heat_minutes")
    earlier = [r for r in rows if not exceeds(span, last - r[0])]
    if not earlier:
        return [*out, _found("proof_heat", Verdict.UNKNOWN, phrase("proof.heat_again"), "stands", "bearings")]
    minute, was, _ = earlier[-1]
    rise = (temp - was) / (last - minute) * span
    out.append(
        _judged(
            job,
            "proof_stands",
            amount(rise, "K"),
            phrase("proof.stands", rise=amount(rise, "K")),
            "stands",
            "bearings",
        )
    )
    return out


def _service(job: Job) -> list[Finding]:
    rows = _said(job, "service")
    if not rows:
        return []
    low, high, minutes = (job.figure(n) for n in ("service_low", "service_high", "service_minutes"))
    name = str(job.said("service") or "")
    if not name or (low is None and high is None) or minutes is None:
        return [_found("proof_service", Verdict.UNKNOWN, phrase("proof.service_open"))]
    told = [_figures(job, x) for x in rows]
    read = sorted((g["minute"], g["value"]) for g in told if {"minute", "value"} <= g.keys())
    if not read:
        return [_found("proof_service", Verdict.UNKNOWN, phrase("proof.service_open"))]
    last, value = read[-1]
    args: dict[str, Quantity | str | Phrase] = {"name": name, "value": amount(value, "1")}
    if (low is not None and exceeds(low, value)) or (high is not None and exceeds(value, high)):
        return [_found("proof_service", Verdict.ACT, phrase("proof.service_out", **args))]
    if exceeds(minutes, last):
        return [_found("proof_service", Verdict.UNKNOWN, phrase("proof.service_soon", **args))]
    return [_found("proof_service", Verdict.GOOD, phrase("proof.service_in", **args))]


_PROOFS: dict[str, Callable[[Job], list[Finding]]] = {
    "direction": _direction,
    "amps": _amps,
    "watts": _watts,
    "volts": _volts,
    "head": _head,
    "seal": _seal,
    "heat": _heat,
    "vibration": _vibration,
    "service": _service,
}
