"""The suction side: NPSH available against required, submergence, strainer, and which noise it is."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    By,
    Evaluation,
    Finding,
    Missing,
    Model,
    Needs,
    Phrase,
    Quantity,
    SeriesPoint,
    Unknown,
    Verdict,
    amount,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Conditions, Entry, newest, newest_body
from ...safety import guarded
from ..answering import answer, judged, told_by
from ..formulas import submergence
from ..lasting import again
from ..pump import of_plate
from ..reading import fluid_lacks
from .entry import SuctionEntry
from .noise import NOISES, QUESTIONS, Told, told
from .sheet import Suction, understand


class NpshPart(Model):
    """One term of the sum. low, high: where it stands along the scale, 0 to 1."""

    id: str
    says: Phrase
    size: Quantity
    low: float
    high: float


class NoiseCause(Model):
    """One cause. part: its share, 0 to 1."""

    id: str
    title: str
    share: Quantity
    part: float
    proof: str


class NoiseAsked(Model):
    """A question of the noise: its words, and what is answered. action: something is moved for it."""

    id: str
    title: str
    answers: list[tuple[str, str]]
    next: bool = False


class SuctionView(Model):
    """The sum as a standing scale of metres, what is required along it, and the noise."""

    parts: list[NpshPart] = []
    available: float | None = None
    required: float | None = None
    wanted: float | None = None
    hottest: Quantity | None = None
    lowest: Quantity | None = None
    level: Quantity | None = None
    flooded: bool | None = None
    causes: list[NoiseCause] = []
    asked: list[NoiseAsked] = []
    needed: Quantity | None = None


def replay(entries: Sequence[Entry[SuctionEntry]], case: AnyCase) -> Suction:
    """The newest word on the suction side, read once."""
    entry = newest(list(entries))
    return understand(entry.body if entry is not None else SuctionEntry(), case.context)


def judge(s: Suction, case: AnyCase) -> Evaluation[SuctionView]:
    """Is there enough head at the eye that the liquid does not boil there, and what is the noise?

    m of the pumped liquid, kPa, °C. Every field may be missing: what hangs on it is unknown.
    """
    noise = told(s.body)
    asked = (_npsh(s), _bell(s), _strainer(s), _noise(s, noise))
    raw = [f for f in asked if f is not None]
    found, verdict, beside = concluded(raw, _lacking(s), s.t.problems)
    values = {"npsh": amount(s.available, "m_head", u=s.u or 0.0)} if s.available is not None else {}
    return Evaluation[SuctionView](
        bench="suction",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        values=values,
        findings=found,
        waiting=s.pump.notes,
        cautions=[phrase("suction.caution")] if s.body.water_seen == "none" or not raw else [],
        points=_points(s),
        due=again(case),
        problems=s.t.problems,
        missing=[*of_plate(s.pump), *_missing(s)],
        view=_drawn(s, noise),
    )


def _npsh(s: Suction) -> Finding | None:
    """Available against required; both known, or it is said what is missing."""
    if s.available is None:
        return None
    value = amount(s.available, "m_head", u=s.u or 0.0)
    if s.required is None or s.wanted is None:
        return answer("npsh", Verdict.UNKNOWN, phrase("suction.no_required", npsh=value))
    margin = s.limits.get("npsh.margin").model_copy(update={"value": s.wanted, "unit": "m_head"})
    bare = s.limits.get("npsh.required").model_copy(update={"value": s.required, "unit": "m_head"})
    steps = [(margin, Verdict.GOOD), (bare, Verdict.WATCH)]
    ruled = told_by("npsh", value, s.limits, steps)
    over = s.available - s.required
    reason = phrase(
        "suction.npsh" if over >= 0 else "suction.short",
        npsh=value,
        required=amount(s.required, "m_head"),
        margin=amount(abs(over), "m_head"),
    )
    notes = [phrase("suction.three_percent")]
    if s.hottest is not None:
        notes.append(phrase("suction.hottest", hottest=amount(s.hottest, "degC")))
    if s.lowest is not None:
        notes.append(phrase("suction.lowest", level=amount(s.lowest, "m_head")))
    return Finding(
        question="npsh",
        part="pump",
        verdict=ruled.verdict,
        by=ruled.by if ruled.by or ruled.verdict is Verdict.GOOD else By.THIS_WEEK,
        unknown=Unknown.INCONCLUSIVE if ruled.verdict is Verdict.UNKNOWN else None,
        rule="npsh",
        reason=reason,
        notes=notes,
        line=ruled.line,
        limits=ruled.limits,
    )


def _bell(s: Suction) -> Finding | None:
    if not s.t.has("bell", "submerged", "flow") or not s.t.got["bell"]:
        return None
    needed = submergence(s.t.got["bell"], s.t.got["flow"])
    pct = amount(100 * s.t.got["submerged"] / needed, "%")
    over = amount(s.t.got["submerged"], "m_head")
    return judged(
        "submergence", pct, s.limits, phrase("suction.bell", over=over, needed=amount(needed, "m_head"))
    )


def _strainer(s: Suction) -> Finding | None:
    if not s.t.has("strainer_drop", "strainer_clean") or not s.t.got["strainer_clean"]:
        return None
    times = amount(s.t.got["strainer_drop"] / s.t.got["strainer_clean"], "1")
    drop, clean = amount(s.t.got["strainer_drop"], "kPa"), amount(s.t.got["strainer_clean"], "kPa")
    return judged("strainer", times, s.limits, phrase("suction.strainer", drop=drop, clean=clean))


def _noise(s: Suction, n: Told) -> Finding | None:
    """A noise is never good: it is named, or one more look is asked for."""
    if n.answered == 0:
        return None
    if s.body.water_seen == "none":
        return answer("noise", Verdict.STOP, phrase("suction.dry"))
    if s.body.water_seen is None:
        return answer("noise", Verdict.UNKNOWN, phrase("suction.water_first"))
    top = max(n.shares, key=lambda k: n.shares[k])
    cause = next(c for c in NOISES if c.id == top)
    share = amount(100 * n.shares[top], "%")
    sure = n.shares[top] >= s.limits.value("noise.sure") / 100
    if not sure and n.next is not None:
        reason = phrase("suction.next", cause=cause.title, share=share, ask=n.next.title)
        return answer("noise", Verdict.UNKNOWN, reason)
    if not sure:
        return answer("noise", Verdict.UNKNOWN, phrase("suction.unsure"), unknown=Unknown.INCONCLUSIVE)
    return answer(
        "noise", Verdict.ACT, phrase("suction.is", cause=cause.title, share=share, proof=cause.proof)
    )


def _lacking(s: Suction) -> dict[str, Phrase | None]:
    wanting = {
        "suction.error": s.u is None,
        "suction.flow": not s.near and not s.from_curve,
        "suction.air": s.air is None,
        "suction.strainer_flow": s.body.strainer_flow != "same",
    }
    return {n: None for n, lacks in wanting.items() if lacks}


def _points(s: Suction) -> list[SeriesPoint]:
    if s.available is None or s.body.npsh_by is None:
        return []
    key = Conditions.of(by=s.body.npsh_by).key
    return [
        SeriesPoint(measurand="npsh_available", part="pump", conditions=key, value=s.available, unit="m_head")
    ]


def _missing(s: Suction) -> list[Missing]:
    if s.body.npsh_by is None:
        return []
    names = (
        ("suction", "suction_z", "suction_bore", "flow") if s.body.npsh_by == "gauge" else ("level", "loss")
    )
    words = {
        "suction": "Enter the suction pressure.",
        "suction_z": "Enter how high the gauge sits over the pump centre.",
        "suction_bore": "Enter the bore at the gauge: the water's speed counts.",
        "flow": "Enter the flow: velocity head and NPSH required follow from it.",
        "level": "Enter the level over the pump centre; a lift is negative.",
        "loss": "Enter the friction of the suction pipe.",
    }
    out = [Missing(field=n, message=words[n]) for n in names if n not in s.t.got]
    if s.air is None:
        out.append(
            Missing(field="altitude", message="Enter the altitude: the atmosphere is part of the sum.")
        )
    lacks = fluid_lacks(s.body, s.t)
    if lacks:
        out.append(
            Missing(field=lacks, message="Enter liquid and temperature: vapour pressure follows from them.")
        )
    return out


def _drawn(s: Suction, n: Told) -> SuctionView:
    top = sum(v for _, v in s.parts if v > 0)
    span = max(top, s.wanted or 0.0, 1e-6) * 1.08
    parts, at = [], 0.0
    for id, size in s.parts:
        low, high = sorted((at, at + size))
        parts.append(
            NpshPart(
                id=id,
                says=phrase(f"suction.part_{id}"),
                size=amount(size, "m_head"),
                low=low / span,
                high=high / span,
            )
        )
        at += size
    needed = (
        submergence(s.t.got["bell"], s.t.got["flow"]) if s.t.has("bell", "flow") and s.t.got["bell"] else None
    )
    level = s.t.got.get("level")
    return SuctionView(
        parts=parts,
        available=s.available / span if s.available is not None and s.parts else None,
        required=s.required / span if s.required is not None and s.parts else None,
        wanted=s.wanted / span if s.wanted is not None and s.parts else None,
        hottest=amount(s.hottest, "degC") if s.hottest is not None else None,
        lowest=amount(s.lowest, "m_head") if s.lowest is not None else None,
        level=amount(level, "m_head") if level is not None else None,
        flooded=level >= 0 if level is not None else None,
        causes=[
            NoiseCause(
                id=c.id,
                title=c.title,
                share=amount(100 * n.shares[c.id], "%"),
                part=n.shares[c.id],
                proof=c.proof,
            )
            for c in sorted(NOISES, key=lambda c: -n.shares[c.id])
        ]
        if n.answered
        else [],
        asked=[
            NoiseAsked(
                id=q.id, title=q.title, answers=q.answers, next=n.next is not None and q.id == n.next.id
            )
            for q in QUESTIONS
        ],
        needed=amount(needed, "m_head") if needed is not None else None,
    )


SUCTION = Bench(
    name="suction",
    title="Suction",
    records="Suction checks",
    one="a suction check",
    offer="Check the suction side",
    key="6",
    does="check NPSH and tell a noise apart",
    place=31,
    part="pump",
    slot="pump",
    entry=SuctionEntry,
    view=SuctionView,
    needs=Needs(plates=("motor", "control", "pump")),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
