"""No good without ground: what a finding stands on, what is wanting of it, how the findings of a sheet
end."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from .errors import Problem
from .evaluation import Finding
from .limits import GROUNDS, RULES
from .phrases import Phrase, amount, phrase
from .quantity import Quantity
from .verdict import By, Unknown, Verdict, worst

# Which grounds are wanting, and the words for each where the data file's own do not fit.
Lacking = Mapping[str, Phrase | None]


def stand_on_ground(f: Finding, lacking: Lacking) -> Finding:
    """What is left of this finding when some of its rule's grounds are wanting?

    A would-be good, or watch, becomes unknown and names what is wanting; a watch stands beside it. An act or
    a stop needs no ground: nothing that is missing makes it milder.
    """
    wanting = [g for g in RULES[f.rule].ground if g in lacking]
    if not wanting or f.verdict.rank >= Verdict.ACT.rank:
        return f
    words = [lacking[g] or phrase(f"ground.{g}") for g in wanting]
    if f.verdict is Verdict.UNKNOWN:
        return f.model_copy(update={"lacks": wanting, "notes": [*f.notes, *words]})
    against = any(GROUNDS[g].contradicts for g in wanting)
    return f.model_copy(
        update={
            "verdict": Verdict.UNKNOWN,
            "beside": Verdict.WATCH if f.verdict is Verdict.WATCH else None,
            "unknown": Unknown.INCONCLUSIVE if against else Unknown.INCOMPLETE,
            "by": f.by or By.THIS_WEEK,
            "reason": phrase("ground.said", said=f.reason, lacks=words[0]),
            "notes": [*words[1:], *f.notes],
            "lacks": wanting,
        }
    )


def _beside_limits(f: Finding) -> Finding:
    """No figure of a finding's sentences is rounded across a limit that the finding shows."""
    limits = [amount(u.value, u.unit) for u in f.limits]
    if f.line is not None:
        limits += [t.value for t in f.line.ticks]
    if not limits:
        return f
    marked = {name: [_marked(p, limits) for p in getattr(f, name)] for name in ("working", "notes")}
    return f.model_copy(update={"reason": _marked(f.reason, limits), **marked})


def _marked(p: Phrase, limits: list[Quantity]) -> Phrase:
    args = {k: _marked(v, limits) if isinstance(v, Phrase) else v for k, v in p.args.items()}
    return Phrase.made(
        {"template": p.template, "args": args, "beside": [*p.beside, *limits], "written": p.written}
    )


def ordered(findings: Iterable[Finding]) -> list[Finding]:
    """The worst first; of one verdict the one that is wanted soonest."""
    return sorted(findings, key=lambda f: (-f.verdict.rank, f.by.rank if f.by else 9))


def concluded(
    findings: Sequence[Finding], lacking: Lacking, problems: Sequence[Problem] = ()
) -> tuple[list[Finding], Verdict, Verdict | None]:
    """The findings as they end: each on its ground, the worst first; the whole's verdict and what stands
    beside."""
    stood = [_beside_limits(stand_on_ground(f, lacking)) for f in findings]
    verdict, beside = whole(stood, problems)
    return ordered(stood), verdict, beside


def whole(findings: Iterable[Finding], problems: Sequence[Problem] = ()) -> tuple[Verdict, Verdict | None]:
    """The worst of the findings, and the watch that an unknown must not hide. Something on the sheet that was
    refused leaves the whole unknown at best."""
    said = [v for f in findings for v in (f.verdict, f.beside) if v is not None]
    return worst([*said, Verdict.UNKNOWN] if problems else said)


__all__ = ["Lacking", "concluded", "ordered", "stand_on_ground", "whole"]
