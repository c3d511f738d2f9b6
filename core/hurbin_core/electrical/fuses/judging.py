"""What a set of fuses says: how many blew, same for same, clips, what hangs on them, and the second one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from ...base import (
    RULES,
    Finding,
    Limits,
    Model,
    Phrase,
    Problem,
    Unknown,
    Verdict,
    amount,
    exceeds,
    phrase,
    read_fields,
)
from ...logbook import PastSheet
from ...plant import ControlPlate, FusesPlate
from .classes import FUSE_CLASSES
from .entry import LEGS, FusesEntry


@dataclass(slots=True)
class Fuses:
    """The sheet once read. `got`: figures in Ω, A, V, kA. `open`: the legs whose fuse reads open."""

    body: FusesEntry
    limits: Limits
    legs: tuple[int, ...] = LEGS
    got: dict[str, float] = field(default_factory=dict)
    open: set[int] = field(default_factory=set)
    problems: list[Problem] = field(default_factory=list)

    @property
    def blown(self) -> list[int]:
        """The legs whose fuse reads open, or more ohms than any fuse has."""
        most = self.limits.value("fuses.sound")
        return [n for n in self.legs if n in self.open or exceeds(self.got.get(f"ohms_{n}", 0.0), most)]

    @property
    def unread(self) -> list[int]:
        """The legs whose fuse was not read."""
        return [n for n in self.legs if n not in self.open and f"ohms_{n}" not in self.got]

    @property
    def cause_known(self) -> bool:
        """Was a cause found, and said?"""
        return self.body.cause == "found" and bool(self.body.cause_words.strip())

    @property
    def signed(self) -> bool:
        """Did somebody who may sign that no cause was found and the tests passed?"""
        return bool(self.body.signed.strip()) and self.body.signed_as is not None


def understand(body: FusesEntry, limits: Limits, conductors: int) -> Fuses:
    """What was read of which leg."""
    out = Fuses(body, limits, legs=LEGS[:conductors] if conductors == 3 else (1,))
    read, out.problems = read_fields(body)
    for name, r in read.items():
        if r.word and name.startswith("ohms_"):
            out.open.add(int(name[-1]))
        elif not r.word:
            out.got[name] = r.value
    return out


def leg_word(n: int) -> str:
    return f"L{n}"


def _answer(
    question: str,
    verdict: Verdict,
    reason: Phrase,
    notes: Sequence[Phrase] = (),
    unknown: Unknown | None = Unknown.INCOMPLETE,
) -> Finding:
    return Finding(
        question=question,
        part="supply",
        verdict=verdict,
        by=RULES[question].by.get(verdict),
        unknown=unknown if verdict is Verdict.UNKNOWN else None,
        rule=question,
        reason=reason,
        notes=list(notes),
    )


def blown_finding(f: Fuses) -> Finding | None:
    """Which blew? Worst state in which good is still said: one that is cracked and opens when it is warm."""
    blown = f.blown
    if not blown and len(f.unread) == len(f.legs):
        return None
    if blown:
        legs = ", ".join(leg_word(n) for n in blown)
        n = "one" if len(blown) == 1 else "two" if len(blown) == 2 else "three"
        notes = [phrase(f"fuses.says_{n}")] if len(f.legs) == 3 else []
        return _answer("fuse_blown", Verdict.STOP, phrase("fuses.blown", legs=legs), notes)
    if f.unread:
        legs = ", ".join(leg_word(n) for n in f.unread)
        return _answer("fuse_blown", Verdict.UNKNOWN, phrase("fuses.unread", legs=legs))
    return _answer("fuse_blown", Verdict.GOOD, phrase("fuses.none_blown"))


def clip_finding(f: Fuses) -> Finding | None:
    """Do the clips hold?"""
    clips = {n: getattr(f.body, f"clip_{n}") for n in f.legs}
    burnt, weak = ([n for n in f.legs if clips[n] == word] for word in ("burnt", "weak"))
    if burnt or weak:
        legs = ", ".join(leg_word(n) for n in burnt or weak)
        return _answer(
            "fuse_clip", Verdict.ACT, phrase(f"fuses.clip_{'burnt' if burnt else 'weak'}", legs=legs)
        )
    if not any(clips.values()):
        return None
    if not all(clips.values()):
        return _answer("fuse_clip", Verdict.UNKNOWN, phrase("fuses.clip_unread"))
    return _answer("fuse_clip", Verdict.GOOD, phrase("fuses.clip_tight"))


_PLATE_WORDS = {"class": "class", "delay": "delay", "amps": "rating", "volts": "voltage"}


class Wanted(Model):
    """What belongs into these holders, and what the drawing and the fuses' own nameplate say differently."""

    of: dict[str, str | float] = {}
    apart: list[str] = []


def wanted_of(drawing: ControlPlate | None, own: FusesPlate | None) -> Wanted:
    """What the drawing wants of these fuses, as the starter's nameplate holds it; what it does not say, the
    fuses' own nameplate does.
    """
    first, second = _said_by(drawing), _said_by(own)
    apart = [n for n in first if n in second and first[n] != second[n]]
    return Wanted(of=second | first, apart=apart)


def _said_by(plate: ControlPlate | FusesPlate | None) -> dict[str, str | float]:
    if plate is None:
        return {}
    read, _ = read_fields(plate)
    out: dict[str, str | float] = {
        n: read[f"fuse_{n}"].value for n in ("amps", "volts") if f"fuse_{n}" in read
    }
    for n in ("class", "delay"):
        value = getattr(plate, f"fuse_{n}")
        if value:
            out[n] = value
    return out


def unlike(f: Fuses, n: int, want: dict[str, str | float]) -> list[str]:
    """What of this leg's fuse is not as the drawing wants it?"""
    out: list[str] = []
    for what in ("class", "delay"):
        has = getattr(f.body, f"{what}_{n}")
        if has is not None and what in want and has != want[what]:
            out.append(what)
    amps = f.got.get(f"amps_{n}")
    if amps is not None and "amps" in want and amps != want["amps"]:
        out.append("rating")
    volts = f.got.get(f"volts_{n}")
    if volts is not None and "volts" in want and exceeds(float(want["volts"]), volts):
        out.append("voltage")
    fault = f.got.get("fault_ka")
    has_class = getattr(f.body, f"class_{n}")
    ka = f.got.get(f"ka_{n}", FUSE_CLASSES[has_class].ka if has_class else None)
    if fault is not None and ka is not None and exceeds(fault, ka):
        out.append("interrupting rating")
    return out


_MARKS = ("class", "delay", "rating", "voltage")


def odd_marks(f: Fuses, n: int) -> list[str]:
    """What of this leg's fuse is unlike both others, which are alike?"""
    said = {m: _said_of(f, m) for m in f.legs}
    others = [said[m] for m in f.legs if m != n]
    if len(others) < 2:
        return []
    return [
        word
        for word, mine, a, b in zip(_MARKS, said[n], *others, strict=True)
        if None not in (mine, a, b) and a == b != mine
    ]


def _said_of(f: Fuses, n: int) -> tuple[object, ...]:
    return (
        getattr(f.body, f"class_{n}"),
        getattr(f.body, f"delay_{n}"),
        f.got.get(f"amps_{n}"),
        f.got.get(f"volts_{n}"),
    )


def same_finding(f: Fuses, wanted: Wanted) -> Finding | None:
    """Same for same: class, rating, delay, voltage, what it interrupts; the three alike. Worst state in which
    good is still said: another manufacturer's series where a drive names one.
    """
    said = {n: _said_of(f, n) for n in f.legs}
    if not any(x is not None for row in said.values() for x in row):
        return None
    want = wanted.of
    wrong = {n: words for n in f.legs if (words := unlike(f, n, want))}
    traps = _traps(f)
    if wrong:
        words = next(iter(wrong.values()))
        legs = ", ".join(leg_word(x) for x in wrong)
        reason = phrase("fuses.not_same", legs=legs, what=", ".join(words))
        return _answer("fuse_same", Verdict.ACT, reason, traps)
    known = [row for row in said.values() if all(x is not None for x in row)]
    if any(a is not None and b is not None and a != b for a, b in _pairs(said)):
        return _answer("fuse_same", Verdict.ACT, phrase("fuses.not_alike"), traps)
    if len(known) < len(f.legs):
        return _answer("fuse_same", Verdict.UNKNOWN, phrase("fuses.marks_unread"), traps)
    if wanted.apart:
        what = ", ".join(_PLATE_WORDS[n] for n in wanted.apart)
        return _answer("fuse_same", Verdict.UNKNOWN, phrase("fuses.plates_apart", what=what), traps)
    if {"class", "delay", "amps", "volts"} - want.keys():
        return _answer("fuse_same", Verdict.UNKNOWN, phrase("fuses.no_drawing"), traps)
    if "fault_ka" not in f.got:
        return _answer("fuse_same", Verdict.UNKNOWN, phrase("fuses.no_fault_ka"), traps)
    if any(f.got.get(f"ka_{n}") is None and FUSE_CLASSES[str(said[n][0])].ka is None for n in f.legs):
        return _answer("fuse_same", Verdict.UNKNOWN, phrase("fuses.no_ka"), traps)
    return _answer("fuse_same", Verdict.GOOD, phrase("fuses.same"), traps)


def _pairs(said: dict[int, tuple[object, ...]]) -> list[tuple[object, object]]:
    """Each mark of a leg beside the same mark of another."""
    rows = list(said.values())
    return [(a, b) for i, x in enumerate(rows) for y in rows[i + 1 :] for a, b in zip(x, y, strict=True)]


def _traps(f: Fuses) -> list[Phrase]:
    """What else fits the clip of these classes."""
    classes = dict.fromkeys(c for n in f.legs if (c := getattr(f.body, f"class_{n}")))
    return [
        phrase("fuses.trap", cls=FUSE_CLASSES[c].title, said=x)
        for c in classes
        for x in (FUSE_CLASSES[c].trap, FUSE_CLASSES[c].alone)
        if x
    ]


def load_of(f: Fuses, own: float | None, shared_by: int) -> tuple[float, float] | None:
    """The sum of what hangs on these fuses, the largest a quarter more, and the plain sum, in A; None where
    not all of it is known.
    """
    others = [x for n in (1, 2, 3) if (x := f.got.get(f"others_{n}")) is not None]
    if own is None or (not others and not f.body.alone) or len(others) < shared_by - 1:
        return None
    amps = [own, *others]
    return sum(amps) + (f.limits.value("fuses.largest") - 1) * max(amps), sum(amps)


def sum_finding(f: Fuses, own: float | None, shared_by: int) -> Finding | None:
    """Does it carry what hangs on it?"""
    ratings = [x for n in f.legs if (x := f.got.get(f"amps_{n}")) is not None]
    load = load_of(f, own, shared_by)
    if not ratings:
        return None
    if load is None:
        return _answer("fuse_sum", Verdict.UNKNOWN, phrase("fuses.load_unknown"))
    total, plain = load
    figures = {"total": amount(total, "A"), "rating": amount(min(ratings), "A"), "plain": amount(plain, "A")}
    if exceeds(total, min(ratings)):
        return _answer("fuse_sum", Verdict.ACT, phrase("fuses.sum_over", **figures))
    return _answer("fuse_sum", Verdict.GOOD, phrase("fuses.sum_within", **figures))


def sheets_before(f: Fuses, earlier: Sequence[PastSheet]) -> list[Fuses]:
    """The earlier sheets of this set's fuses, the oldest first."""
    return [
        understand(FusesEntry.model_validate(past.body), f.limits, len(f.legs))
        for past in sorted(earlier, key=lambda p: p.taken_at)
    ]


def without_cause(f: Fuses, before: Sequence[Fuses]) -> int:
    """How many times did fuses of this set blow without a cause found, since one was found or signed for?"""
    n = 0
    for then in before:
        if then.cause_known or then.signed:
            n = 0
        elif then.blown:
            n += 1
    if f.cause_known or f.signed:
        return 0
    return n + (1 if f.blown else 0)


def cause_finding(f: Fuses, times: int, blew: bool) -> Finding | None:
    """Why did they blow? A second time without a cause is a stop that only a signature ends."""
    if f.signed:
        title = "a licensed person" if f.body.signed_as == "licensed" else "the manufacturer"
        reason = phrase("fuses.signed", who=f.body.signed.strip(), word=title)
        return _answer("fuse_cause", Verdict.WATCH, reason)
    if f.cause_known:
        return _answer("fuse_cause", Verdict.GOOD, phrase("fuses.cause", said=f.body.cause_words.strip()))
    if times >= f.limits.count("fuses.second"):
        return _answer("fuse_cause", Verdict.STOP, phrase("fuses.second_time", n=str(times)))
    if not blew:
        return None
    template = "fuses.cause_unsaid" if f.body.cause == "found" else "fuses.no_cause"
    return _answer("fuse_cause", Verdict.UNKNOWN, phrase(template))


def covers_finding(f: Fuses) -> Finding | None:
    """Is it closed for the first power-up?"""
    if f.body.covers is None:
        return None
    verdict = Verdict.GOOD if f.body.covers else Verdict.STOP
    return _answer("fuse_covers", verdict, phrase("fuses.covers_on" if f.body.covers else "fuses.covers_off"))
