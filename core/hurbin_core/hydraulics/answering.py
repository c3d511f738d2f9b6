"""One answer of a bench of this room, and what of it a judged figure gives."""

from __future__ import annotations

from collections.abc import Sequence

from ..base import (
    RULES,
    By,
    Finding,
    Judged,
    Limits,
    Phrase,
    Quantity,
    Unknown,
    UsedLimit,
    Verdict,
    interval,
    judge_steps,
)


def answer(
    question: str,
    verdict: Verdict,
    reason: Phrase,
    *notes: Phrase,
    part: str = "pump",
    subject: str = "",
    unknown: Unknown = Unknown.INCOMPLETE,
    rule: str = "",
) -> Finding:
    """An answer that no limit decides."""
    used = rule or question
    return Finding(
        question=question,
        subject=subject,
        part=part,
        verdict=verdict,
        by=RULES[used].by.get(verdict),
        unknown=unknown if verdict is Verdict.UNKNOWN else None,
        rule=used,
        reason=reason,
        notes=list(notes),
    )


def told_by(
    rule: str, figure: Quantity, limits: Limits, steps: Sequence[tuple[UsedLimit, Verdict]] | None = None
) -> Judged:
    """What the steps say of a figure with its error. Where not even its better end is good, the figure itself
    decides between watch and act: both ask for something, and which of them an error does not take back.
    """
    ruled = RULES[rule]
    used = steps if steps is not None else limits.steps(rule)
    told = judge_steps(ruled, figure, used, ruled.beyond)
    if told.verdict is not Verdict.UNKNOWN:
        return told
    best = figure.model_copy(update={"value": interval(figure, ruled.floor)[0], "u": 0.0})
    if judge_steps(ruled, best, used, ruled.beyond).verdict is Verdict.GOOD:
        return told
    return judge_steps(ruled, figure.model_copy(update={"u": 0.0}), used, ruled.beyond)


def judged(
    question: str,
    figure: Quantity,
    limits: Limits,
    reason: Phrase,
    *notes: Phrase,
    part: str = "pump",
    subject: str = "",
    rule: str = "",
    working: list[Phrase] | None = None,
) -> Finding:
    """An answer by the limits of a rule: a figure whose error straddles one is unknown, never good."""
    used = rule or question
    told = told_by(used, figure, limits)
    return Finding(
        question=question,
        subject=subject,
        part=part,
        verdict=told.verdict,
        by=told.by if told.by or told.verdict is Verdict.GOOD else By.THIS_WEEK,
        unknown=Unknown.INCONCLUSIVE if told.verdict is Verdict.UNKNOWN else None,
        rule=used,
        reason=reason,
        working=working or [],
        notes=list(notes),
        line=told.line,
        limits=told.limits,
    )
