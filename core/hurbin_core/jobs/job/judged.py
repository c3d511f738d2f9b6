"""What a job says of figures read at a step and of parts that were looked at."""

from __future__ import annotations

from datetime import datetime

from ...base import RULES, By, Finding, Phrase, Quantity, Unknown, Verdict, judge_steps, phrase
from ..anatomy import LOOKS
from ..compiling import JobStep
from .sheet import Job, Said, look_signs


def figure_finding(job: Job, step: JobStep, figure: Quantity) -> Finding | None:
    """The figure of a step held against its rule; None where it has none."""
    if step.figure is None or not step.figure.rule:
        return None
    rule = RULES[step.figure.rule]
    told = judge_steps(rule, figure, job.limits.steps(rule.id), rule.beyond)
    return Finding(
        question=rule.id,
        subject=step.id,
        part=job.procedure.part if job.procedure else "pump",
        verdict=told.verdict,
        by=told.by,
        unknown=Unknown.INCONCLUSIVE if told.verdict is Verdict.UNKNOWN else None,
        rule=rule.id,
        reason=phrase("job.figure", label=step.figure.label, step=step.title),
        line=told.line,
        limits=told.limits,
    )


def figure_verdict(job: Job, step: JobStep, figure: Quantity) -> Verdict:
    """May a hold stand on this figure? One without a rule is good by being read."""
    found = figure_finding(job, step, figure)
    return found.verdict if found is not None else Verdict.GOOD


def newest_looks(job: Job) -> dict[tuple[str, str], Said]:
    """The newest look at each part, by step and look."""
    return {(x.body.step, x.body.look): x for x in job.of("look") if x.body.look in LOOKS}


def fate_of(look: str, signs: list[str]) -> tuple[Verdict, str]:
    """What becomes of a part with these signs: reuse, renew, send, or open where good signs are not
    confirmed.

    One bad sign decides. Reuse needs every good sign confirmed, and is never said of a part whose used one
    never goes back.
    """
    told = LOOKS[look]
    known = [s for s in signs if s in look_signs(look)]
    if any(s.startswith("send") for s in known):
        return Verdict.ACT, "send"
    if any(s.startswith("mend") for s in known):
        return Verdict.WATCH, "renew"
    if told.never:
        return Verdict.UNKNOWN, "open"
    whole = all(f"reuse.{i}" in known for i in range(len(told.reuse)))
    return (Verdict.GOOD, "reuse") if whole else (Verdict.UNKNOWN, "open")


_FATES = {
    "reuse": "job.look_reuse",
    "renew": "job.look_renew",
    "renewed": "job.look_renewed",
    "send": "job.look_send",
    "open": "job.look_open",
}


def look_finding(job: Job, x: Said) -> Finding:
    """A part that was looked at: reuse, renew or mend here, send or scrap."""
    look = LOOKS[x.body.look]
    verdict, fate = fate_of(x.body.look, x.body.signs)
    signs = look_signs(x.body.look)
    seen = [signs[s] for s in x.body.signs if s in signs]
    if verdict is Verdict.WATCH and _renewed(job, x.body.look, x.at):
        verdict, fate = Verdict.GOOD, "renewed"
    reason: Phrase = phrase(_FATES[fate], what=look.title, signs="; ".join(seen) or "nothing confirmed")
    notes = [phrase("job.pair", what=look.pair)] if look.pair and fate in ("renew", "send") else []
    return Finding(
        question="part_looked",
        subject=f"{x.body.step}/{x.body.look}",
        part=job.procedure.part if job.procedure else "pump",
        verdict=verdict,
        by=By.NOW if verdict is Verdict.ACT else By.NEXT_STOP if verdict is Verdict.WATCH else None,
        unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
        rule="part_looked",
        reason=reason,
        notes=notes,
    )


def _renewed(job: Job, look: str, since: datetime) -> bool:
    """Was the part that this look judges put back new after it was looked at?"""
    parts = job.tree.by_part if job.tree else {}
    for s in job.steps:
        d = job.done.get(s.id)
        if d is None or d.skipped or d.at < since:
            continue
        if any(parts[p].judged == look for p in s.renew if p in parts):
            return True
    return False


def renewed_since(job: Job, step: JobStep) -> bool:
    """Was everything that this step looked at put back new? Its figure says nothing of what runs now."""
    read_at = job.done[step.id].at
    return bool(step.inspects) and all(_renewed(job, look, read_at) for look in step.inspects)
