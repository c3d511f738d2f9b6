"""A single-phase motor by ohms: run and start winding, its protector, and what is mislabelled."""

from __future__ import annotations

from ...base import Finding, Phrase, Unknown, Verdict, amount, exceeds, phrase
from .answers import answer
from .entry import SINGLE
from .reading import Measured

_NAMES = {"common_run": "common to run", "common_start": "common to start", "run_start": "run to start"}


def single_findings(m: Measured) -> list[Finding]:
    """Run winding, start winding and their sum. Worst state in which good is still said: turns shorted within
    a winding that still reads under the other: its current under load tells, and its own history.
    """
    return [_windings(m)] if m.read_any(SINGLE) or m.body.tone else []


def _windings(m: Measured) -> Finding:
    gone = {n for n in SINGLE if n in m.open}
    nets = m.nets(SINGLE)
    if nets is None:
        return _open(m, gone)
    run, start, both = nets
    figures = {"run": amount(run, "ohm"), "start": amount(start, "ohm"), "both": amount(both, "ohm")}
    if min(nets) <= 0:
        return answer("single_phase_ohms", Verdict.UNKNOWN, phrase("ohms.single_zero"), Unknown.INCONCLUSIVE)
    off = 100 * abs(both - run - start) / both
    step = m.step(SINGLE)
    slack = max(m.limits.value("ohms.sum"), 100 * 2 * step / both)
    if exceeds(off, slack):
        return answer("single_phase_ohms", Verdict.ACT, phrase("ohms.single_sum", **figures))
    if not exceeds(start, run):
        return answer("single_phase_ohms", Verdict.ACT, phrase("ohms.single_swapped", **figures))
    return answer("single_phase_ohms", Verdict.GOOD, phrase("ohms.single_good", **figures))


def _open(m: Measured, gone: set[str]) -> Finding:
    left = [n for n in SINGLE if n not in gone]
    if len(gone) == 3:
        return answer("single_phase_ohms", Verdict.STOP, phrase("ohms.single_all"))
    if len(gone) == 2 and left[0] in m.got:
        lost = {"common_start": "run", "common_run": "start", "run_start": "common"}[left[0]]
        if lost == "common" and m.body.warm == "hot":
            return answer(
                "single_phase_ohms", Verdict.UNKNOWN, phrase("ohms.single_hot"), Unknown.INCONCLUSIVE
            )
        return answer("single_phase_ohms", Verdict.STOP, phrase(f"ohms.single_{lost}"))
    if len(gone) == 1 and all(n in m.got for n in left):
        return answer(
            "single_phase_ohms",
            Verdict.UNKNOWN,
            phrase("ohms.single_one", pair=_NAMES[next(iter(gone))]),
            Unknown.INCONCLUSIVE,
        )
    if m.body.tone:
        return answer("single_phase_ohms", Verdict.UNKNOWN, phrase("ohms.tone"), Unknown.INCONCLUSIVE)
    missing = ", ".join(_NAMES[n] for n in SINGLE if n not in m.got and n not in m.open)
    return answer(
        "single_phase_ohms", Verdict.UNKNOWN, phrase("ohms.pairs", missing=missing), Unknown.INCOMPLETE
    )


def single_lacking(m: Measured) -> dict[str, Phrase | None]:
    """Which grounds are wanting?"""
    wanting = {"ohms.leads": m.lead is None, "ohms.tone_only": bool(m.body.tone)}
    return {ground: None for ground, lacks in wanting.items() if lacks}
