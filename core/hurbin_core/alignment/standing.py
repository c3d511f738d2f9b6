"""What an alignment stands on: which grounds of its rules are wanting after these entries, on this set."""

from __future__ import annotations

from ..base import Phrase
from ..logbook import Context
from .job import Job, Pass
from .reading import WORDS
from .tolerance import by_speed

# Services whose water is not near ambient, whatever is said.
TEMPERED = ("heat", "cooling")
DIALS = ("rim_face", "reverse")


def of_pass(p: Pass, job: Job, rpm: float | None, grown: bool, context: Context) -> dict[str, Phrase | None]:
    """Which grounds are wanting of one pass: how it was read, in what state, and what its target rests on?"""
    tempered = context.serves in TEMPERED or context.kind == "condensate_return"
    near = bool(job.measures.get("near_ambient"))
    hot = p.body.temperature == "hot"
    wanting = {
        "align.speed": rpm is None or by_speed(rpm) is None,
        "align.tight": _not_as_left(p),
        "align.growth": not (grown or near or hot),
        "align.not_ambient": near and tempered and not grown,
        "align.cold": hot,
        "align.sag": p.body.method in DIALS and p.typed.value("sag") is None,
        "align.words": any(r.word in WORDS for r in p.typed.got.values()),
        "align.flange_closed": _closed(p),
    }
    return {ground: None for ground, lacks in wanting.items() if lacks}


def lacking(job: Job, rpm: float | None, grown: bool, context: Context) -> dict[str, Phrase | None]:
    """Which grounds are wanting after the whole visit: those of its last pass, and what was done after it?"""
    last = job.last
    out = of_pass(last, job, rpm, grown, context) if last is not None else {}
    if any(job.typed.value(n) is None for n in ("run_out_rim", "run_out_face")):
        out["align.run_out_both"] = None
    if last is not None and (len(job.moves) > last.moves or (job.tight and not last.tightened)):
        out["align.read_again"] = None
    return out


def _not_as_left(last: Pass) -> bool:
    """A pass after a move counts as left only when it was read after the last tightening."""
    return last.body.taken != "as_found" and not (last.tightened or last.body.tight is True)


def _closed(last: Pass) -> bool:
    gaps = [g for g in last.typed.clock("gap", False).values() if g is not None]
    return last.body.method == "flange" and bool(gaps) and max(abs(g) for g in gaps) == 0
