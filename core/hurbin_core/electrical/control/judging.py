"""What a control ladder says: what is open and whether it is right to be, the coil's voltage, drops."""

from __future__ import annotations

from ...base import (
    RULES,
    Finding,
    Phrase,
    Unknown,
    Verdict,
    amount,
    exceeds,
    phrase,
)
from ..circuit.control import ControlElement
from .formulas import far_coil_share, held_ma
from .searching import Ladder, Left, stands


def _answer(
    question: str,
    verdict: Verdict,
    reason: Phrase,
    notes: list[Phrase] | None = None,
    unknown: Unknown = Unknown.INCOMPLETE,
    subject: str = "",
) -> Finding:
    return Finding(
        question=question,
        subject=subject,
        part="control",
        verdict=verdict,
        by=RULES[question].by.get(verdict),
        unknown=unknown if verdict is Verdict.UNKNOWN else None,
        rule=question,
        reason=reason,
        notes=notes or [],
    )


def name_of(ladder: Ladder, id_: str) -> str:
    """What an element is called here."""
    if id_ == "source":
        return "Control source"
    return next((e.name or e.id for e in ladder.control.elements if e.id == id_), id_)


def control_findings(ladder: Ladder, left: Left) -> list[Finding]:
    """The answers of a control ladder.

    Worst state in which good would still be said: a contact that chatters now and then, or an interlock that
    is bypassed where nobody entered the jumper.
    """
    out: list[Finding] = []
    if ladder.volts or ladder.across:
        out.append(_open(ladder, left))
    coil = _coil(ladder)
    if coil is not None:
        out.append(coil)
    out += _drops(ladder)
    for found in (_both(ladder), _held(ladder), _restart(ladder)):
        if found is not None:
            out.append(found)
    return out


def _open(ladder: Ladder, left: Left) -> Finding:
    if left.against is not None:
        first, second = (name_of(ladder, x) for x in left.against)
        return _answer(
            "control_open",
            Verdict.UNKNOWN,
            phrase("control.against", first=first, second=second),
            unknown=Unknown.INCONCLUSIVE,
        )
    if left.named == "source":
        template = "control.no_source" if left.dead else "control.low_source"
        return _answer("control_open", Verdict.ACT, phrase(template, v=amount(ladder.volts["source"], "V")))
    if left.part:
        return _answer("control_open", Verdict.ACT, phrase("control.part", name=name_of(ladder, left.part)))
    if left.named:
        return _named(ladder, left.named)
    names = ", ".join(name_of(ladder, x) for x in list(left.shares)[:4])
    more = "…" if len(left.shares) > 4 else ""
    return _answer("control_open", Verdict.UNKNOWN, phrase("control.searching", names=names + more))


def _before(ladder: Ladder, element: ControlElement) -> str:
    """The place ahead of this element: the load side of the one before."""
    line = ladder.path
    i = line.index(element)
    return line[i - 1].id if i else "source"


def _named(ladder: Ladder, id_: str) -> Finding:
    e = next(x for x in ladder.path if x.id == id_)
    name = name_of(ladder, id_)
    if e.kind == "coil":
        template = "control.coil_in" if ladder.body.pulled == "in" else "control.coil_dead"
        verdict = Verdict.GOOD if ladder.body.pulled == "in" else Verdict.ACT
        if verdict is Verdict.GOOD and ladder.body.selector == "hand":
            return _answer("control_open", Verdict.UNKNOWN, phrase("control.hand_only"))
        return _answer("control_open", verdict, phrase(template, name=name))
    if e.kind == "selector" and ladder.body.selector == "off":
        return _answer("control_open", Verdict.UNKNOWN, phrase("control.off"), unknown=Unknown.INCONCLUSIVE)
    if e.kind != "interlock":
        return _answer("control_open", Verdict.ACT, phrase("control.open", name=name), _kind_notes(e))
    stood = stands(ladder, e)
    template = {
        "open": "control.right_open",
        "closed": "control.wrong_open",
        "either": "control.in_band",
        "": "control.ask_value",
    }[stood]
    verdict = Verdict.UNKNOWN if stood in ("", "either") else Verdict.ACT
    return _answer("control_open", verdict, phrase(template, name=name))


def _kind_notes(e: ControlElement) -> list[Phrase]:
    return [phrase(f"control.prove_{e.kind}")] if e.kind in ("overload", "trip", "fuse", "start") else []


def _coil(ladder: Ladder) -> Finding | None:
    """The coil's own voltage, with the coil in circuit."""
    coil = next(e for e in ladder.path if e.kind == "coil")
    volts = ladder.across.get(coil.id)
    if volts is None:
        return None
    nominal = ladder.control.volts
    off = 100 * (volts - nominal) / nominal
    low, high = ladder.limits.value("control.coil_low"), ladder.limits.value("control.coil_high")
    figures = {"v": amount(volts, "V"), "off": amount(off, "%")}
    notes = _far(ladder)
    if ladder.body.pulled == "chatters":
        notes = [phrase("control.chatter_order"), *notes]
    if exceeds(-low, off) or exceeds(off, high):
        return _answer("coil_volts", Verdict.ACT, phrase("control.coil_off", **figures), notes)
    if ladder.body.pulled == "chatters":
        return _answer("coil_volts", Verdict.ACT, phrase("control.coil_chatters", **figures), notes)
    if ladder.body.pulled is None:
        return _answer("coil_volts", Verdict.UNKNOWN, phrase("control.coil_state", **figures), notes)
    return _answer("coil_volts", Verdict.GOOD, phrase("control.coil_good", **figures), notes)


def _far(ladder: Ladder) -> list[Phrase]:
    """What the coil gets as it pulls in, at the end of its cable."""
    length, area, inrush = (ladder.figures.get(n) for n in ("cable_m", "area", "inrush"))
    if not length or not area or not inrush:
        return []
    share = 100 * far_coil_share(ladder.control.volts, inrush, length, area)
    least = 100 - ladder.limits.value("control.coil_low")
    volts = amount(ladder.control.volts * share / 100, "V")
    template = "control.far_low" if exceeds(least, share) else "control.far_good"
    return [phrase(template, v=volts, share=amount(share, "%"))]


def _drops(ladder: Ladder) -> list[Finding]:
    """What is lost across something closed, with the coil in circuit."""
    out = []
    for e in ladder.path:
        volts = ladder.across.get(e.id)
        share = 100 * volts / ladder.scale if volts is not None else 0.0
        if volts is None or e.kind == "coil" or exceeds(share, ladder.limits.value("control.full")):
            continue
        value, name = amount(share, "%"), name_of(ladder, e.id)
        if ladder.body.pulled != "in":
            out.append(
                _answer("control_drop", Verdict.UNKNOWN, phrase("control.drop_idle", name=name), subject=e.id)
            )
        elif exceeds(share, ladder.limits.value("control.drop")):
            reason = phrase("control.drop_high", name=name, share=value)
            out.append(_answer("control_drop", Verdict.WATCH, reason, subject=e.id))
        else:
            out.append(
                _answer(
                    "control_drop",
                    Verdict.GOOD,
                    phrase("control.drop_good", name=name, share=value),
                    subject=e.id,
                )
            )
    return out


def _both(ladder: Ladder) -> Finding | None:
    """Two coils of a reversing pair at once."""
    other = ladder.figures.get("other_coil")
    if other is None:
        return None
    coil = next(e for e in ladder.path if e.kind == "coil")
    mine = ladder.across.get(coil.id, ladder.volts.get(_before(ladder, coil), 0.0))
    live = ladder.limits.value("control.drops_out") / 100 * ladder.control.volts
    if exceeds(other, live) and exceeds(mine, live):
        return _answer("two_coils", Verdict.STOP, phrase("control.two_coils"))
    if coil.id not in ladder.across:
        return _answer("two_coils", Verdict.UNKNOWN, phrase("control.two_coils_unread"))
    if not exceeds(other, live) and not exceeds(mine, live):
        return _answer("two_coils", Verdict.UNKNOWN, phrase("control.no_coil"))
    return _answer("two_coils", Verdict.GOOD, phrase("control.one_coil"))


def _held(ladder: Ladder) -> Finding | None:
    """Stays in although its contact is open."""
    if not ladder.body.stays:
        return None
    length, hertz = ladder.figures.get("cable_m"), ladder.body.hertz
    if length is None or hertz is None:
        return _answer("control_held", Verdict.ACT, phrase("control.held"))
    per = ladder.limits.value("control.nf_per_m")
    ma = held_ma(ladder.control.volts, float(hertz), length, per)
    va = f"{ma * ladder.control.volts / 1000:.1f}"
    return _answer("control_held", Verdict.ACT, phrase("control.held_by", ma=amount(ma / 1000, "A"), va=va))


def _restart(ladder: Ladder) -> Finding | None:
    """Does it start by itself when the voltage comes back? It decides who may stand near."""
    if ladder.body.wires is None:
        return None
    two = ladder.body.wires == "two"
    verdict = Verdict.WATCH if two else Verdict.GOOD
    return _answer("control_restart", verdict, phrase("control.two_wire" if two else "control.three_wire"))


def control_lacking(ladder: Ladder) -> dict[str, Phrase | None]:
    """Which grounds are wanting?"""
    body = ladder.body
    wanting = {
        "control.confirmed": not ladder.confirmed,
        "control.proved": not body.proved,
        "control.selector": body.selector is None,
        "control.called": not body.called,
        "control.off_in": body.selector == "off" and body.pulled == "in",
        "control.jumpered": bool(body.jumper.strip()),
    }
    return {g: None for g, lacks in wanting.items() if lacks}
