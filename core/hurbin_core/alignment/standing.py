"""What an alignment stands on: which grounds of its rules are wanting after these entries, on this set."""

from __future__ import annotations

from ..base import Phrase
from ..logbook import Context
from ..plant import KINDS, SERVES
from .reading import WORDS
from .tolerance import by_speed
from .visit import Pass, Visit

DIALS = ("rim_face", "reverse")


def of_pass(
    p: Pass, visit: Visit, rpm: float | None, grown: bool, context: Context
) -> dict[str, Phrase | None]:
    """Which grounds are wanting of one pass: how it was read, in what state, and what its target rests on?"""
    kind, serves = KINDS.get(context.kind), SERVES.get(context.serves)
    tempered = (kind is not None and kind.tempered) or (serves is not None and serves.tempered)
    near = bool(visit.said("near_ambient"))
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


def lacking(visit: Visit, rpm: float | None, grown: bool, context: Context) -> dict[str, Phrase | None]:
    """Which grounds are wanting after the whole visit: those of its last pass, and what was done after it?"""
    last = visit.last
    out = of_pass(last, visit, rpm, grown, context) if last is not None else {}
    if any(visit.typed.value(n) is None for n in ("run_out_rim", "run_out_face")):
        out["align.run_out_both"] = None
    if last is not None and (len(visit.moves) > last.moves or (visit.tight and not last.tightened)):
        out["align.read_again"] = None
    return out


def _not_as_left(last: Pass) -> bool:
    """A pass after a move counts as left only when it was read after the last tightening."""
    return last.body.taken != "as_found" and not (last.tightened or last.body.tight is True)


def _closed(last: Pass) -> bool:
    gaps = [g for g in last.typed.clock("gap", False).values() if g is not None]
    return last.body.method == "flange" and bool(gaps) and max(abs(g) for g in gaps) == 0
