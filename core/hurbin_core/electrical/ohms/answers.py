"""One answer of a sheet of ohms, with how soon its rule wants somebody to act."""

from __future__ import annotations

from ...base import RULES, Finding, Phrase, Unknown, Verdict


def answer(question: str, verdict: Verdict, reason: Phrase, unknown: Unknown | None = None) -> Finding:
    """This question answered so. What is unknown says why: something was not read, or it cannot tell."""
    drive = question.startswith("drive_") or question == "contact_ohms"
    return Finding(
        question=question,
        part="control" if drive else "motor",
        verdict=verdict,
        by=RULES[question].by.get(verdict),
        unknown=unknown,
        rule=question,
        reason=reason,
    )
