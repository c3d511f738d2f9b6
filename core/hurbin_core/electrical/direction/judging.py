"""Does it turn with the arrow in every mode? What a proof is worth, what an exchange of leads explains."""

from __future__ import annotations

from dataclasses import dataclass, field

from ...base import (
    RULES,
    Finding,
    Limits,
    Phrase,
    Problem,
    Unknown,
    Verdict,
    amount,
    exceeds,
    phrase,
    read_fields,
    write,
)
from .before import PLACES, SetTraits, done, firsts, turned_round
from .entry import DirectionEntry

# What is no proof of a direction, as it is said.
_NONE = {"flow": "Flow", "amps": "Current", "drive_arrow": "A drive's arrow"}


@dataclass(slots=True)
class Proof:
    """The sheet once read. modes: the ways in which this set is run."""

    body: DirectionEntry
    limits: Limits
    traits: SetTraits
    modes: list[str]
    heads: dict[str, float] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    def before(self, mode: str) -> str:
        return getattr(self.body, f"before_{mode}") or ""

    def now(self, mode: str) -> str:
        return getattr(self.body, f"now_{mode}") or ""

    @property
    def wrong(self) -> list[str]:
        """The modes that turn against the arrow as it is left. Reversed it turns the other way by design."""
        return [m for m in self.modes if self.now(m) == right_way(m, "against")]

    @property
    def unseen(self) -> list[str]:
        return [m for m in self.modes if self.now(m) in ("", "not_seen")]

    @property
    def said(self) -> bool:
        """Was anything of a direction entered?"""
        b = self.body
        return bool(b.proof or b.exchanged or b.bumped) or any(
            self.now(m) or self.before(m) for m in self.modes
        )


def right_way(mode: str, seen: str) -> str:
    """What is seen in this mode when the set turns so: the second contactor of a reversing pair turns it the
    other way.

    >>> right_way("reverse", "against")
    'with'
    """
    if mode != "reverse" or seen not in ("with", "against"):
        return seen
    return "with" if seen == "against" else "against"


def understand(body: DirectionEntry, limits: Limits, traits: SetTraits, modes: list[str]) -> Proof:
    """What was seen, and what cannot be: a phase pair on a single-phase motor, two words for one exchange."""
    out = Proof(body, limits, traits, modes)
    read, out.problems = read_fields(body)
    out.heads = {n: r.value for n, r in read.items()}
    at, what = body.exchanged_at, body.exchanged
    own = {"start_winding": "start winding", "parameter": "parameter"}
    if at and what and own.get(at, "") != (what if what in own.values() else ""):
        out.problems.append(
            Problem(
                code="exchange_unlike",
                field="exchanged",
                value=what,
                message="What was exchanged and where do not belong together.",
                right=own.get(at, "L1-L2, L2-L3 or L3-L1"),
            )
        )
    if traits.displacement and body.proof == "shut_off":
        out.problems.append(
            Problem(
                code="proof_displacement",
                field="proof",
                value="shut_off",
                message="A displacement pump is never run against a shut valve: see its shaft on a bump.",
                right="bump, uncoupled",
            )
        )
    if traits.phases == 1 and what in ("L1-L2", "L2-L3", "L3-L1"):
        out.problems.append(
            Problem(
                code="exchange_single",
                field="exchanged",
                value=what,
                message=write(phrase("direction.single")),
                right="start winding",
            )
        )
    return out


def _answer(verdict: Verdict, reason: Phrase, *notes: Phrase, question: str = "direction") -> Finding:
    part = "pump" if question in ("direction_unscrewed", "turning_back") else "motor"
    return Finding(
        question=question,
        part=part,
        verdict=verdict,
        by=RULES[question].by.get(verdict),
        unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
        rule=question,
        reason=reason,
        notes=list(notes),
    )


def words_of(modes: list[str]) -> str:
    """The modes as they are said, one after another."""
    return ", ".join(write(phrase(f"direction.mode_{m}")) for m in modes)


def direction_finding(p: Proof) -> Finding | None:
    """With the arrow in every mode? Worst state in which good is still said: leads exchanged after it was
    seen, and nobody entered it.
    """
    if not p.said:
        return None
    notes = _notes(p)
    proof = p.body.proof
    if proof in _NONE:
        return _answer(Verdict.UNKNOWN, phrase("direction.no_proof", proof=_NONE[proof]), *notes)
    if proof == "meters":
        return _by_meters(p, notes)
    if proof == "shut_off" and not p.traits.displacement:
        return _by_heads(p, notes)
    if p.wrong:
        return _answer(Verdict.ACT, _against(p), *notes)
    if proof in (None, "bump") and not p.body.bumped:
        return _answer(Verdict.UNKNOWN, phrase("direction.unbumped"), *notes)
    if (p.body.exchanged and not p.body.exchanged_at) or (p.body.exchanged_at and not p.body.exchanged):
        return _answer(Verdict.UNKNOWN, phrase("direction.again", place=_place(p)), *notes)
    unlike = _unlike(p)
    if unlike is not None:
        return _answer(Verdict.UNKNOWN, unlike, *notes)
    if p.unseen:
        if p.body.exchanged_at:
            return _answer(Verdict.UNKNOWN, phrase("direction.again", place=_place(p)), *notes)
        return _answer(Verdict.UNKNOWN, phrase("direction.unseen", modes=words_of(p.unseen)), *notes)
    return _answer(Verdict.GOOD, phrase("direction.with", modes=words_of(p.modes)), *notes)


def _notes(p: Proof) -> list[Phrase]:
    out = []
    if p.traits.phases == 1:
        out.append(phrase("direction.single"))
    if p.body.exchanged and p.body.exchanged_at:
        out.append(phrase("direction.left", what=p.body.exchanged, place=_place(p)))
    if p.body.exchanged_at == "drive_in":
        out.append(phrase("direction.input"))
    if p.body.after == "supply":
        out.append(phrase("direction.supply_all"))
    return out


def _place(p: Proof) -> str:
    return PLACES[p.body.exchanged_at].title if p.body.exchanged_at else "somewhere"


def fitting(p: Proof) -> list[str]:
    """Where does one exchange turn round just the modes that are wrong?"""
    wrong = set(p.wrong)
    single = p.traits.phases == 1
    return [
        k
        for k in PLACES
        if wrong
        and turned_round(k, p.modes) == wrong
        and (k == "start_winding") is single
        and (k not in ("drive_out", "parameter", "drive_in") or "drive" in p.modes)
        and (k != "bypass" or "bypass" in p.modes)
    ]


def _against(p: Proof) -> Phrase:
    modes = words_of(p.wrong)
    if p.body.others == "yes":
        return phrase("direction.against", modes=modes, remedy=phrase("direction.upstream"))
    if p.traits.phases == 1:
        return phrase("direction.against", modes=modes, remedy=phrase("direction.single"))
    places = [PLACES[k].title for k in fitting(p) if k != "supply"]
    if not places:
        return phrase("direction.against", modes=modes, remedy=phrase("direction.where_none"))
    where = phrase("direction.where", places=" or ".join(places))
    return phrase("direction.against", modes=modes, remedy=where)


def _unlike(p: Proof) -> Phrase | None:
    """An exchange that cannot have done what was seen."""
    if not p.body.exchanged_at:
        return None
    both = [m for m in p.modes if p.before(m) in ("with", "against") and p.now(m) in ("with", "against")]
    seen = {m for m in both if p.before(m) != p.now(m)}
    ought = turned_round(p.body.exchanged_at, both)
    if seen == ought:
        return None
    return phrase(
        "direction.cannot",
        place=_place(p),
        turned=words_of([m for m in both if m in ought]) or "nothing",
        seen=words_of([m for m in both if m in seen]) or "nothing",
    )


def _by_meters(p: Proof, notes: list[Phrase]) -> Finding:
    """The line's order and the motor's, on a dead motor turned by hand: alike, it turns with the arrow."""
    line, motor = p.body.line_order, p.body.motor_order
    if line is None or motor is None:
        return _answer(Verdict.UNKNOWN, phrase("direction.meters_ask"), *notes)
    figures = {"line": "-".join(line), "motor": "-".join(motor)}
    if line != motor:
        return _answer(Verdict.ACT, phrase("direction.meters_against", **figures), *notes)
    # A drive makes an order of its own, a second contactor turns it round, star and delta join six leads
    # in two ways: those are seen.
    rest = [m for m in p.modes if m not in ("in", "bypass") and p.now(m) in ("", "not_seen")]
    if rest:
        return _answer(Verdict.UNKNOWN, phrase("direction.unseen", modes=words_of(rest)), *notes)
    if p.wrong:
        return _answer(Verdict.ACT, _against(p), *notes)
    return _answer(Verdict.GOOD, phrase("direction.meters_with", **figures), *notes)


def _by_heads(p: Proof, notes: list[Phrase]) -> Finding:
    """Shut-off pressure both ways: the last resort, never a good."""
    now, other = p.heads.get("head_now"), p.heads.get("head_other")
    if now is None or other is None or not max(now, other):
        return _answer(Verdict.UNKNOWN, phrase("direction.shut_ask"), *notes)
    figures = {"now": amount(now, "kPa"), "other": amount(other, "kPa")}
    if exceeds(100 * min(now, other) / max(now, other), p.limits.value("direction.shut_off")):
        return _answer(Verdict.UNKNOWN, phrase("direction.shut_weak", **figures), *notes)
    if now < other:
        return _answer(Verdict.ACT, phrase("direction.shut_against", **figures), *notes)
    return _answer(Verdict.WATCH, phrase("direction.shut_with", **figures), *notes)


def bump_finding(p: Proof) -> Finding | None:
    """Was it bumped with everything that stands before a bump?"""
    if not p.body.bumped:
        return None
    lacks = [f.title for f in firsts(p.traits) if not done(p.traits, f)]
    if not lacks:
        return None
    reason = phrase("direction.bump_less", what="; ".join(lacks))
    return _answer(Verdict.ACT, reason, question="direction_bump")


def unscrewed_finding(p: Proof) -> Finding | None:
    """Did a threaded impeller turn backwards without its lock?"""
    backwards = any(x == right_way(m, "against") for m in p.modes for x in (p.before(m), p.now(m)))
    loose = p.body.threaded == "yes" and p.traits.coupled and not p.body.locked
    if not (p.body.bumped and loose and backwards):
        return None
    return _answer(Verdict.STOP, phrase("direction.unscrewed"), question="direction_unscrewed")


def turning_back_finding(p: Proof) -> Finding | None:
    """Does water turn it?"""
    if p.body.turns_back != "yes":
        return None
    return _answer(Verdict.STOP, phrase("direction.turns_back"), question="turning_back")
