"""What a position is held against, and what it says: offset and angle, each against the tightest of its kind;
a flange's gaps.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..base import (
    RULES,
    By,
    Certainty,
    Finding,
    Limits,
    Phrase,
    Quantity,
    Unknown,
    UsedLimit,
    Verdict,
    amount,
    judge_steps,
    phrase,
)
from .entry import PassRead
from .formulas import cold_target_mm, flange_lift
from .growth import growth_mm
from .reading import PER_100, Typed
from .shaft_position import Plane, ShaftPosition, against
from .tolerance import by_speed, spacer_by_speed

_HEIGHTS = ("cold", "pump_height", "pump_temperature", "motor_height", "motor_temperature")


@dataclass(slots=True)
class GoverningTolerance:
    """What this coupling is held to: excellent and acceptable, and whose figure governs. Offset is empty
    where only angles are judged.
    """

    offset: list[UsedLimit]
    angle: list[UsedLimit]
    shown: list[Phrase]

    def acceptable(self, kind: str) -> float | None:
        steps = self.offset if kind == "offset" else self.angle
        return steps[-1].value if steps else None


_MEASURED = {"offset": "Offset", "angle": "Angularity"}
# What is aimed at when it is left, and what must not be exceeded.
_GRADES = {"excellent": "aim", "acceptable": "limit"}


def _limit(kind: str, grade: str, value: float, unit: str, maker: bool) -> UsedLimit:
    source = "Coupling manufacturer" if maker else "Common practice, no source: widely published table"
    return UsedLimit(
        id=f"alignment.{kind}_{grade}",
        title=f"{_MEASURED[kind]}, {_GRADES[grade]}",
        label="manufacturer" if maker else _GRADES[grade],
        value=value,
        unit=unit,
        override=None,
        standard_value=value,
        source=source,
        certainty=Certainty.MAKER if maker else Certainty.PRACTICE,
        from_memory=not maker,
    )


def _pair(
    kind: str, best: float | None, most: float | None, maker: float | None, unit: str
) -> list[UsedLimit]:
    if maker is not None and (most is None or maker < most):
        most, best = maker, min(maker / 2, best) if best is not None else maker / 2
        return [_limit(kind, "excellent", best, unit, False), _limit(kind, "acceptable", most, unit, True)]
    if best is None or most is None:
        return []
    return [_limit(kind, "excellent", best, unit, False), _limit(kind, "acceptable", most, unit, False)]


def held_to(r: Typed, spacer: bool, rpm: float | None) -> GoverningTolerance:
    """Both schools, like with like: what the machine wants at this speed, and what the coupling tolerates;
    the tightest of each governs.
    """
    maker_offset, maker_angle = r.value("maker_offset"), r.value("maker_angle")
    shown: list[Phrase] = []
    for kind, maker, unit in (("offset", maker_offset, "mm"), ("angularity", maker_angle, "mm/100mm")):
        if maker is not None:
            shown.append(phrase("align.maker_says", kind=kind, value=amount(maker, unit)))
    if spacer:
        row = spacer_by_speed(rpm) if rpm is not None else None
        if row is not None:
            shown.append(
                phrase(
                    "align.speed_says",
                    kind="angularity",
                    value=amount(row[1], "mm/100mm"),
                    best=amount(row[0], "mm/100mm"),
                )
            )
        return GoverningTolerance(
            [],
            _pair("angle", row[0] if row else None, row[1] if row else None, maker_angle, "mm/100mm"),
            shown,
        )
    wants = by_speed(rpm) if rpm is not None else None
    if wants is not None:
        shown.append(
            phrase(
                "align.speed_says",
                kind="offset",
                value=amount(wants.offset_acceptable, "mm"),
                best=amount(wants.offset_excellent, "mm"),
            )
        )
        shown.append(
            phrase(
                "align.speed_says",
                kind="angularity",
                value=amount(wants.angle_acceptable, "mm/100mm"),
                best=amount(wants.angle_excellent, "mm/100mm"),
            )
        )
    return GoverningTolerance(
        _pair(
            "offset",
            wants.offset_excellent if wants else None,
            wants.offset_acceptable if wants else None,
            maker_offset,
            "mm",
        ),
        _pair(
            "angle",
            wants.angle_excellent if wants else None,
            wants.angle_acceptable if wants else None,
            maker_angle,
            "mm/100mm",
        ),
        shown,
    )


def target_of(body: PassRead, r: Typed) -> tuple[float, bool]:
    """How high the motor stands cold, and whether growth was reckoned with."""
    got = [r.value(n) for n in _HEIGHTS]
    if (
        body.temperature == "hot"
        or any(v is None for v in got)
        or body.pump_metal is None
        or body.motor_metal is None
    ):
        return 0.0, False
    cold, ph, pt, mh, mt = (float(v) for v in got if v is not None)
    return (
        cold_target_mm(growth_mm(ph, body.pump_metal, cold, pt), growth_mm(mh, body.motor_metal, cold, mt)),
        True,
    )


def _worse(a: float | None, b: float | None) -> tuple[str, float] | None:
    both = [(n, v) for n, v in (("Vertical", a), ("Horizontal", b)) if v is not None]
    return max(both, key=lambda x: abs(x[1]), default=None)


def offset_finding(
    v: Plane, h: Plane, held: GoverningTolerance, target: float, grown: bool
) -> Finding | None:
    top = _worse(v.offset, h.offset)
    if top is None:
        return None
    which, value = top
    u = v.u_offset if which == "Vertical" else h.u_offset
    args: dict[str, Quantity | str] = {"which": which, "value": amount(value, "mm"), "u": amount(u, "mm")}
    template = "align.offset"
    if grown and which == "Vertical":
        template, args = "align.offset_target", {**args, "target": amount(target, "mm")}
    return _finding(
        "alignment_offset",
        phrase(template, **args),
        which,
        value,
        u,
        held.offset,
        "mm",
        _lacking(v.offset, h.offset),
    )


def angle_finding(v: Plane, h: Plane, held: GoverningTolerance) -> Finding | None:
    top = _worse(v.slope, h.slope)
    if top is None:
        return None
    which, slope = top
    u = (v.u_slope if which == "Vertical" else h.u_slope) * PER_100
    value = slope * PER_100
    words = phrase("align.offset", which=which, value=amount(value, "mm/100mm"), u=amount(u, "mm/100mm"))
    return _finding(
        "alignment_angle", words, which, value, u, held.angle, "mm/100mm", _lacking(v.slope, h.slope)
    )


def spacer_finding(v: Plane, h: Plane, length: float, held: GoverningTolerance) -> Finding | None:
    """The angle at each flex plane of a spacer coupling: pump side e(motor plane)/L, motor side −e(pump
    plane)/L; the worst of four.
    """
    rows: list[tuple[str, float, float]] = []
    for plane, way in ((v, "Vertical"), (h, "Horizontal")):
        far = plane.at(length)
        if plane.offset is None or far is None:
            continue
        u = (plane.u_offset + plane.u_slope * length) / length
        rows += [
            (f"{way}, pump-side flex plane", far / length, u),
            (f"{way}, motor-side flex plane", -plane.offset / length, u),
        ]
    if not rows:
        return None
    which, slope, u = max(rows, key=lambda x: abs(x[1]))
    words = phrase(
        "align.offset",
        which=which,
        value=amount(slope * PER_100, "mm/100mm"),
        u=amount(u * PER_100, "mm/100mm"),
    )
    return _finding(
        "alignment_angle",
        words,
        which,
        slope * PER_100,
        u * PER_100,
        held.angle,
        "mm/100mm",
        _lacking(v.slope, h.slope),
    )


def _lacking(up: float | None, side: float | None) -> str:
    """Which plane alone is known; empty when both are."""
    return "vertical" if side is None else "horizontal" if up is None else ""


def _finding(
    question: str,
    reason: Phrase,
    which: str,
    value: float,
    u: float,
    steps: list[UsedLimit],
    unit: str,
    alone: str,
) -> Finding:
    if not steps:
        return Finding(
            question=question,
            part="coupling",
            verdict=Verdict.UNKNOWN,
            by=By.THIS_WEEK,
            unknown=Unknown.INCOMPLETE,
            rule=question,
            reason=reason,
            notes=[phrase("align.no_limit")],
        )
    told = judge_steps(
        RULES[question],
        amount(abs(value), unit, u=u),
        [(steps[0], Verdict.GOOD), (steps[1], Verdict.WATCH)],
        Verdict.ACT,
    )
    verdict, by, line = told.verdict, told.by, told.line
    notes = [] if told.certain else [phrase("align.within", limit=line.limit)]
    if alone:
        notes = [phrase("align.one_plane", plane=alone), *notes]
    if alone and verdict.rank < Verdict.ACT.rank:
        return Finding(
            question=question,
            part="coupling",
            verdict=Verdict.UNKNOWN,
            by=By.THIS_SHIFT,
            unknown=Unknown.INCOMPLETE,
            rule=question,
            reason=reason,
            line=line,
            limits=steps,
            notes=notes,
        )
    args = {
        "value": amount(abs(value), unit),
        "limit": amount(steps[1].value, unit),
        "best": amount(steps[0].value, unit),
    }
    return Finding(
        question=question,
        part="coupling",
        verdict=verdict,
        by=by,
        unknown=Unknown.INCONCLUSIVE if verdict is Verdict.UNKNOWN else None,
        rule=question,
        reason=reason,
        working=[phrase("align.working", which=which, **args)],
        notes=notes,
        line=line,
        limits=steps,
    )


def position_findings(
    position: ShaftPosition, held: GoverningTolerance, target: float, grown: bool, spacer: float | None
) -> list[Finding]:
    """The findings of one pass, held against the cold target; `spacer`: the distance between a spacer
    coupling's planes.
    """
    v, h = against(position.vertical, target), position.horizontal
    some = (
        [spacer_finding(v, h, spacer, held)]
        if spacer is not None
        else [offset_finding(v, h, held, target, grown), angle_finding(v, h, held)]
    )
    return [f for f in some if f is not None]


def flange_findings(r: Typed, limits: Limits) -> tuple[list[Finding], dict[str, Quantity]]:
    """The gaps of a flange before it is bolted: the full difference of opposite gaps judged, and how far the
    support goes up or down.

    A check of the support's height: not judged by the speed table, no proof of shaft alignment. 0.38 mm (15
    thou) is common practice, no source; a maker's figure wins.
    """
    gaps, d = r.clock("gap", False), r.value("face_diameter")
    differences = [
        (w, one - other)
        for w, a, b in (("top and bottom", 12, 6), ("right and left", 3, 9))
        if (one := gaps[a]) is not None and (other := gaps[b]) is not None
    ]
    if not differences:
        return [], {}
    which, worst_ = max(differences, key=lambda x: abs(x[1]))
    used = limits.get("alignment.flange_gap")
    maker = r.value("maker_gap")
    if maker is not None:
        used = used.model_copy(
            update={
                "value": maker,
                "label": "manufacturer",
                "source": "Pump set manufacturer",
                "certainty": Certainty.MAKER,
                "from_memory": False,
            }
        )
    within = Verdict.GOOD if maker is not None else Verdict.WATCH
    told = judge_steps(RULES["flange_gap"], amount(abs(worst_), "mm"), [(used, within)], Verdict.ACT)
    notes = [phrase("flange.no_proof")]
    values: dict[str, Quantity] = {}
    if d:
        values["gap_angle"] = amount(abs(worst_) / d * PER_100, "mm/100mm")
        notes.append(phrase("flange.angle", value=values["gap_angle"], diameter=amount(d, "mm")))
    far = r.value("support_distance")
    lift = flange_lift(gaps, d, far, r.value("nut_pitch")) if d and far else None
    if lift is not None:
        way = "raise" if lift[0] > 0 else "lower"
        values[way] = amount(abs(lift[0]), "mm")
        words = phrase("flange.raise" if way == "raise" else "flange.lower", lift=values[way])
        notes.insert(0, words)
        if lift[1] is not None:
            values["turns"] = amount(abs(lift[1]), "turns")
            notes.insert(1, phrase("flange.turns", turns=values["turns"]))
    if told.verdict is Verdict.ACT:
        notes.append(phrase("flange.no_bolts"))
    elif maker is None:
        notes.insert(0, phrase("flange.no_maker", limit=amount(used.value, "mm")))
    both = len(differences) == 2
    verdict = told.verdict if both or told.verdict is Verdict.ACT else Verdict.UNKNOWN
    reason = phrase(
        "flange.gap",
        which=which,
        value=amount(abs(worst_), "mm"),
        value__limit=amount(used.value, "mm"),
        limit=amount(used.value, "mm"),
    )
    return [
        Finding(
            question="flange_gap",
            part="coupling",
            verdict=verdict,
            by=RULES["flange_gap"].by.get(verdict),
            unknown=None if both or verdict is Verdict.ACT else Unknown.INCOMPLETE,
            rule="flange_gap",
            reason=reason,
            notes=notes,
            line=told.line,
            limits=told.limits,
        )
    ], values
