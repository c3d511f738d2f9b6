"""Three-phase windings by ohms: how far the pairs are apart, what is open, what changed, and the ground."""

from __future__ import annotations

from ...base import (
    RULES,
    Finding,
    Limits,
    Phrase,
    SeriesPoint,
    Unknown,
    Verdict,
    amount,
    exceeds,
    judge,
    phrase,
)
from ...logbook import Conditions, Context, HistoryPoint, since_cut
from .answers import answer
from .entry import GROUNDS, PAIRS
from .formulas import delta_windings, furthest_pct, to_25, unbalance_step_pct, wye_windings
from .reading import Measured
from .view import WindingView

LEGS = ("12", "23", "31")
_PAIR = {"12": "L1-L2", "23": "L2-L3", "31": "L3-L1"}
_COMMON = {frozenset(("12", "31")): "L1", frozenset(("12", "23")): "L2", frozenset(("23", "31")): "L3"}


def pair_word(m: Measured, leg: str) -> str:
    """What is read there called: a pair of terminals, or a winding by itself."""
    return f"winding {LEGS.index(leg) + 1}" if m.body.joined == "apart" else _PAIR[leg]


def opened(m: Measured) -> list[str]:
    """The pairs that read open."""
    return [leg for leg, name in zip(LEGS, PAIRS, strict=True) if name in m.open]


def doubled(values: list[float], limits: Limits) -> int | None:
    """Which pair reads twice the two others, which are alike? In a delta the winding across it is open."""
    for i, v in enumerate(values):
        a, b = (x for j, x in enumerate(values) if j != i)
        alike = not exceeds(100 * abs(a - b) / max(a, b), limits.value("ohms.alike"))
        if alike and not exceeds(abs(100 * v / ((a + b) / 2) - 200), 2 * limits.value("ohms.alike")):
            return i
    return None


def conditions(m: Measured) -> Conditions:
    """The state that these ohms belong to, as far as it was said."""
    return Conditions.of(at=m.body.at, joined=m.body.joined)


def winding_findings(m: Measured, context: Context) -> list[Finding]:
    """The answers of a sheet on windings. Worst state in which good is still said: turns shorted in all three
    windings alike, or a fault that only heat or voltage brings: the first is for the history, the second for
    the insulation test.
    """
    out: list[Finding] = []
    if m.read_any(PAIRS) or m.body.tone:
        out.append(_balance(m))
        past = _past(m, context)
        if past is not None:
            out.append(past)
    if m.read_any(GROUNDS):
        out.append(_to_ground(m))
    return out


def _balance(m: Measured) -> Finding:
    nets = m.nets(PAIRS)
    if nets is None or min(nets) <= 0:
        return _open(m)
    if m.body.joined != "apart" and m.body.joined != "wye":
        double = doubled(nets, m.limits)
        if double is not None:
            return answer("winding_ohms", Verdict.STOP, phrase("ohms.double", pair=_PAIR[LEGS[double]]))
    pct, which = furthest_pct(nets)
    result = judge("winding_ohms", amount(pct, "%"), m.limits)
    template = "ohms.even" if result.verdict is Verdict.GOOD else "ohms.apart"
    notes = _in_windings(m, nets)
    return Finding(
        question="winding_ohms",
        part="motor",
        verdict=result.verdict,
        by=result.by,
        rule="winding_ohms",
        line=result.line,
        limits=result.limits,
        reason=phrase(
            template,
            pct=amount(pct, "%"),
            pct__limit=amount(result.line.limit.value, "%"),
            pair=pair_word(m, LEGS[which]),
        ),
        working=[
            phrase(
                "ohms.working",
                **{f"p{leg}": amount(x, "ohm") for leg, x in zip(LEGS, nets, strict=True)},
                lead=amount(m.lead or 0.0, "ohm"),
            )
        ],
        notes=notes,
    )


def _open(m: Measured) -> Finding:
    """Something is open, shorted or not read."""
    gone = opened(m)
    hot = m.body.warm == "hot"
    if len(gone) == 3:
        if hot:
            return answer("winding_ohms", Verdict.UNKNOWN, phrase("ohms.open_hot"), Unknown.INCONCLUSIVE)
        return answer("winding_ohms", Verdict.STOP, phrase("ohms.open_all"))
    if m.body.joined == "apart" and gone:
        return answer(
            "winding_ohms",
            Verdict.STOP,
            phrase("ohms.open_winding", pair=", ".join(pair_word(m, g) for g in gone)),
        )
    if len(gone) == 2:
        return answer("winding_ohms", Verdict.STOP, phrase("ohms.open_leg", leg=_COMMON[frozenset(gone)]))
    read = [m.net(n) for n in PAIRS]
    if len(gone) == 1 and all(x is not None for n, x in zip(PAIRS, read, strict=True) if n not in m.open):
        return answer(
            "winding_ohms",
            Verdict.UNKNOWN,
            phrase("ohms.open_one", pair=pair_word(m, gone[0])),
            Unknown.INCONCLUSIVE,
        )
    zero = [pair_word(m, leg) for leg, x in zip(LEGS, read, strict=True) if x is not None and x <= 0]
    if zero:
        return answer(
            "winding_ohms", Verdict.UNKNOWN, phrase("ohms.zero", pair=zero[0]), Unknown.INCONCLUSIVE
        )
    if m.body.tone:
        return answer("winding_ohms", Verdict.UNKNOWN, phrase("ohms.tone"), Unknown.INCONCLUSIVE)
    missing = ", ".join(
        pair_word(m, leg) for leg, n in zip(LEGS, PAIRS, strict=True) if n not in m.got and n not in m.open
    )
    return answer("winding_ohms", Verdict.UNKNOWN, phrase("ohms.pairs", missing=missing), Unknown.INCOMPLETE)


def _in_windings(m: Measured, nets: list[float]) -> list[Phrase]:
    """What the pairs come to in windings: there the odd one differs by more."""
    made = windings_of(m, nets)
    if made is None:
        return []
    pct, which = furthest_pct([w for _, w in made])
    where = made[which][0]
    figures = {f"w{i + 1}": amount(w, "ohm") for i, (_, w) in enumerate(made)}
    return [phrase(f"ohms.as_{m.body.joined}", **figures, where=where, pct=amount(pct, "%"))]


def windings_of(m: Measured, nets: list[float]) -> list[tuple[str, float]] | None:
    """The windings behind the three pairs, each with its terminals; None where nobody said how they are
    joined, or no motor reads so.
    """
    p12, p23, p31 = nets
    if m.body.joined == "wye":
        w = wye_windings(p12, p23, p31)
        return list(zip(("L1", "L2", "L3"), w, strict=True)) if min(w) > 0 else None
    if m.body.joined == "delta":
        d = delta_windings(p12, p23, p31)
        return list(zip(_PAIR.values(), d, strict=True)) if d is not None else None
    return None


def at_25(m: Measured) -> list[float] | None:
    """The three pairs at 25 °C, as far as they can be held against another day's."""
    nets, temp = m.nets(PAIRS), m.got.get("winding")
    if nets is None or min(nets) <= 0 or temp is None or m.lead is None or m.body.tone:
        return None
    k = float(m.limits.value(f"ohms.k_{m.limits.school('ohms.copper')}"))
    return [to_25(x, temp, k) for x in nets]


def winding_points(m: Measured) -> list[SeriesPoint]:
    """The pairs at 25 °C, each its own series; nothing where the state was not entered."""
    now = at_25(m)
    if now is None or not m.body.at or not m.body.joined:
        return []
    return [
        SeriesPoint(
            measurand="winding_ohms",
            part="motor",
            leg=leg,
            conditions=conditions(m).key,
            value=value,
            unit="ohm",
        )
        for leg, value in zip(LEGS, now, strict=True)
    ]


def _past(m: Measured, context: Context) -> Finding | None:
    """Against the last time in the same state. All three changed alike is no winding: it is the temperature
    or the leads.
    """
    now = at_25(m)
    if now is None or not m.body.at or not m.body.joined:
        return None
    before = _last(context, conditions(m).key)
    if len(before) < 3:
        return None
    changes = [100 * (x - before[leg].value) / before[leg].value for leg, x in zip(LEGS, now, strict=True)]
    most = max(changes, key=abs)
    result = judge("winding_past", amount(abs(most), "%"), m.limits)
    alike = not exceeds(max(changes) - min(changes), m.limits.value("ohms.noise"))
    reason = phrase(
        "ohms.past",
        pair=pair_word(m, LEGS[changes.index(most)]),
        change=amount(most, "%"),
        change__limit=amount(result.line.limit.value * (1 if most >= 0 else -1), "%"),
    )
    verdict, unknown = result.verdict, None
    if alike and verdict is not Verdict.GOOD:
        verdict, unknown, reason = (
            Verdict.UNKNOWN,
            Unknown.INCONCLUSIVE,
            phrase("ohms.past_alike", said=reason),
        )
    return Finding(
        question="winding_past",
        part="motor",
        verdict=verdict,
        by=result.by or RULES["winding_past"].by.get(verdict),
        unknown=unknown,
        rule="winding_past",
        line=result.line,
        limits=result.limits,
        reason=reason,
    )


def _last(context: Context, key: str) -> dict[str, HistoryPoint]:
    points = [
        p
        for p in since_cut(context.history, context.cuts, ["motor"])
        if p.measurand == "winding_ohms" and p.conditions == key and p.value > 0
    ]
    return {p.leg: p for p in sorted(points, key=lambda p: p.taken_at)}


def _to_ground(m: Measured) -> Finding:
    """Open to ground by ohms is no good insulation; a reading is a fault to be confirmed."""
    least = m.limits.value("ohms.to_ground") * 1e6
    low = [(m.got[n], n) for n in GROUNDS if n in m.got and exceeds(least, m.got[n])]
    if low:
        value, name = min(low)
        reason = phrase("ohms.ground_low", leg=f"L{name[-1]}", v=amount(value, "ohm"))
        verdict = Verdict.ACT
    else:
        reason, verdict = phrase("ohms.ground_open"), Verdict.GOOD
    return Finding(
        question="ground_ohms",
        part="motor",
        verdict=verdict,
        by=RULES["ground_ohms"].by.get(verdict),
        rule="ground_ohms",
        reason=reason,
    )


def winding_lacking(m: Measured, context: Context) -> dict[str, Phrase | None]:
    """Which grounds are wanting of a sheet on windings?"""
    body, nets = m.body, m.nets(PAIRS)
    electronic = context.control_kind in ("drive", "soft_starter")
    grounded = [n for n in GROUNDS if n in m.got or n in m.open]
    wanting = {
        "ohms.leads": m.lead is None,
        "ohms.joined": body.joined is None,
        "ohms.at": body.at is None,
        "ohms.tone_only": bool(body.tone),
        "ohms.drive_off": electronic and not body.drive_off,
        "ohms.each_ground": body.joined in (None, "apart") and len(grounded) < 3,
    }
    out: dict[str, Phrase | None] = {ground: None for ground, lacks in wanting.items() if lacks}
    if nets is not None and min(nets) > 0:
        step, mean = m.step(PAIRS), sum(nets) / len(nets)
        pct, _ = furthest_pct(nets)
        coarse = unbalance_step_pct(step, mean)
        if exceeds(pct + coarse, m.limits.value("ohms.unbalance_good")) and not exceeds(
            pct, m.limits.value("ohms.unbalance_good")
        ):
            out["ohms.resolution"] = phrase("ohms.coarse", step=amount(step, "ohm"), pct=amount(coarse, "%"))
    return out


def drawn_windings(m: Measured) -> list[WindingView]:
    """The windings as they are drawn: worked out where they can be, open where something is."""
    nets = m.nets(PAIRS)
    gone = opened(m)
    joined = m.body.joined
    at_pairs = tuple(pair_word(m, leg) for leg in LEGS)
    names = at_pairs if joined in ("delta", "apart") else ("L1", "L2", "L3")
    made = windings_of(m, nets) if nets is not None else None
    if made is None and joined == "apart" and nets is not None:
        made = list(zip(names, nets, strict=True))
    double = doubled(nets, m.limits) if nets is not None and joined == "delta" and min(nets) > 0 else None
    if double is not None:
        return [WindingView(where=n, open=i == double) for i, n in enumerate(names)]
    if made is not None and all(w > 0 for _, w in made):
        pct, which = furthest_pct([w for _, w in made])
        odd = exceeds(pct, m.limits.value("ohms.unbalance_good"))
        return [
            WindingView(where=where, ohms=amount(w, "ohm"), odd=odd and i == which)
            for i, (where, w) in enumerate(made)
        ]
    if joined == "apart":
        lost = {pair_word(m, g) for g in gone}
    elif len(gone) == 3:
        lost = set(names)
    else:
        lost = {_COMMON[frozenset(gone)]} if len(gone) == 2 else set()
    return [WindingView(where=n, open=n in lost) for n in names]
