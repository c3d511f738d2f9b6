"""What is looked at with the guard off, before a reading counts: what lies under it, run-out, pipe strain,
soft foot.
"""

from __future__ import annotations

from ..base import RULES, By, Finding, Limits, Phrase, Verdict, amount, exceeds, judge, nominal, phrase
from .planning import TITLES
from .shims import FEET
from .visit import Visit

SIGNS = {
    "rubber_dust": "black rubber dust",
    "torn_element": "a torn element",
    "loose_bolts": "loose bolts",
    "heat_marks": "heat marks",
}
_OPPOSITE = {"front_left": "rear_right", "front_right": "rear_left"}


def before_findings(visit: Visit, limits: Limits) -> list[Finding]:
    """What the checks before the readings say: each measured one judged, each on its own."""
    some = [_signs(visit), _run_out(visit, limits), _pipe_strain(visit, limits), _soft_foot(visit, limits)]
    return [f for f in some if f is not None]


def not_looked_at(visit: Visit) -> list[str]:
    """Which of them nobody has done yet, in the order of the work."""
    t = visit.typed
    wants = [
        ("signs", visit.said("signs") is None, "coupling condition"),
        ("marked", not visit.said("marked"), "match marks"),
        (
            "run_out_rim",
            t.value("run_out_rim") is None or t.value("run_out_face") is None,
            "hub run-out",
        ),
        ("pipe_strain", t.value("pipe_strain") is None, "pipe strain"),
        ("soft_front_left", any(t.value(f"soft_{f}") is None for f in FEET), "soft foot, all four feet"),
    ]
    return [words for _, want, words in wants if want]


def _signs(visit: Visit) -> Finding | None:
    signs = [SIGNS[s] for s in visit.said("signs") or [] if s in SIGNS]
    if not signs:
        return None
    return Finding(
        question="coupling_signs",
        part="coupling",
        verdict=Verdict.WATCH,
        by=By.NEXT_STOP,
        rule="coupling_signs",
        reason=phrase("before.signs", signs=" and ".join(signs)),
    )


def _run_out(visit: Visit, limits: Limits) -> Finding | None:
    rows = [
        (w, v)
        for w, v in (("rim", visit.typed.value("run_out_rim")), ("face", visit.typed.value("run_out_face")))
        if v is not None
    ]
    if not rows:
        return None
    which, value = max(rows, key=lambda r: r[1])
    told = judge("hub_run_out", amount(value, "mm"), limits)
    notes = [phrase("before.stop")] if told.verdict is Verdict.STOP else []
    return Finding(
        question="hub_run_out",
        part="coupling",
        verdict=told.verdict,
        by=told.by,
        rule="hub_run_out",
        reason=phrase("before.run_out", which=which, value=amount(value, "mm")),
        notes=notes,
        line=told.line,
        limits=told.limits,
    )


def _pipe_strain(visit: Visit, limits: Limits) -> Finding | None:
    value = visit.typed.value("pipe_strain")
    if value is None:
        return None
    told = judge("pipe_strain", amount(value, "mm"), limits)
    return Finding(
        question="pipe_strain",
        part="pump",
        verdict=told.verdict,
        by=told.by,
        rule="pipe_strain",
        reason=phrase("before.pipe_strain", value=amount(value, "mm")),
        notes=[phrase("before.pipes")] if told.verdict is not Verdict.GOOD else [],
        line=told.line,
        limits=told.limits,
    )


def soft_foot_words(
    rises: dict[str, float], across: dict[str, float], limits: Limits, springy: bool, with_pipes: bool
) -> list[Phrase]:
    """Which foot to shim, or which not: rock over a diagonal, an angled foot, pipe strain in disguise.

    rises: how far each foot comes up when it alone is loosened; across: gap at its outer less at its inner
    edge; mm. Common practice, no source, but the limit itself (API RP 686, from memory).
    """
    if springy or with_pipes:
        return [phrase("soft.strain")]
    limit = limits.value("alignment.soft_foot")
    share = limits.value("alignment.soft_share") / 100
    up = {f: v for f, v in rises.items() if exceeds(v, limit)}
    out = [
        phrase("soft.angled", foot=TITLES[f], gap=amount(abs(v), "mm"), edge="outer" if v > 0 else "inner")
        for f, v in across.items()
        if exceeds(abs(v), limit)
    ]
    for one, two in _OPPOSITE.items():
        if one in up and two in up and not (set(up) - {one, two}):
            half = share * max(up[one], up[two]) / 2
            return [*out, phrase("soft.rocks", one=TITLES[one], two=TITLES[two], shim=amount(half, "mm"))]
    if up:
        foot = max(up, key=lambda f: up[f])
        out.append(
            phrase(
                "soft.shim",
                foot=TITLES[foot],
                shim=amount(share * up[foot], "mm"),
                share=nominal(share * 100, "%"),
            )
        )
    return out


def _soft_foot(visit: Visit, limits: Limits) -> Finding | None:
    rises = {f: v for f in FEET if (v := visit.typed.value(f"soft_{f}")) is not None}
    across = {f: v for f in FEET if (v := visit.typed.value(f"across_{f}")) is not None}
    if not rises:
        return None
    foot = max(rises, key=lambda f: rises[f])
    told = judge("soft_foot", amount(rises[foot], "mm"), limits)
    notes = soft_foot_words(
        rises, across, limits, bool(visit.said("springy")), bool(visit.said("with_pipes"))
    )
    verdict, by = told.verdict, told.by
    if verdict is Verdict.GOOD and len(rises) < len(FEET):
        verdict, by = Verdict.UNKNOWN, By.THIS_SHIFT
        notes.insert(0, phrase("soft.all_four"))
    elif verdict is Verdict.GOOD and notes:
        verdict, by = Verdict.ACT, RULES["soft_foot"].by.get(Verdict.ACT)
    return Finding(
        question="soft_foot",
        part="motor",
        verdict=verdict,
        by=by,
        rule="soft_foot",
        reason=phrase("before.soft", foot=TITLES[foot], value=amount(rises[foot], "mm")),
        notes=notes,
        line=told.line,
        limits=told.limits,
    )
