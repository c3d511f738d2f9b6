"""What a walk says: what is open, what contradicts, what cannot be told."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime

from ...base import (
    By,
    Finding,
    Phrase,
    Unknown,
    Verdict,
    amount,
    exceeds,
    phrase,
)
from .entry import Taken, Walk
from .evidence import clashes, climbs, evidence
from .kinds import KeptCircuit
from .naming import WEIGHING, Left, Reading
from .neutral import Shifted, shifted
from .output import compared_below, output_finding
from .parts import Position
from .points import leg_of, run_rungs, rung_of, rungs
from .suspects import SOUND
from .words import leg_word, pair_title, rung_title, suspect_short


@dataclass(slots=True)
class Found:
    """What the readings come to: those that count for the search, what they leave, and what contradicts."""

    walk: Walk
    counted: list[tuple[int, Reading]]
    left: Left
    clashes: list[tuple[tuple[int, ...], Phrase]]
    unused: set[int] = field(default_factory=set)
    neutral: Shifted | None = None

    @property
    def fit(self) -> list[str]:
        """What is left: the suspects that fit everything that is used; before anything was read, all."""
        if not self.used:
            return [s.id for s in self.walk.ladder.suspects]
        return self.left.fit

    @property
    def used(self) -> list[int]:
        """The readings, by their place among those taken, that say something and contradict nothing."""
        return [i for i, _ in self.counted if i not in self.unused]

    @property
    def lost(self) -> set[int]:
        """The leg, or the legs of which one is missing; nothing where none is known to be."""
        suspects = {s.id: s for s in self.walk.ladder.suspects}
        single = [suspects[k].leg for k in self.fit]
        if not self.used or not single or None in single or self.walk.circuit.conductors == 2:
            return set()
        return {leg for leg in single if leg is not None}


def found_in(walk: Walk) -> Found:
    """What do the readings of this walk leave? What contradicts by itself is not used."""
    told = [*clashes(walk), *climbs(walk)]
    unused = {i for places, _ in told for i in places}
    neutral = shifted(walk)
    # Against a neutral that has moved no reading says anything of the legs.
    moved = [
        i for i, t in enumerate(walk.taken) if neutral and not all(map(leg_of, (t.pair.one, t.pair.two)))
    ]
    counted = [(i, r) for i, r in evidence(walk) if i not in moved or walk.taken[i].what != "volts"]
    used = [(i, r) for i, r in counted if i not in unused]
    left = walk.ladder.left([r for _, r in used])
    for a, b in left.against:
        i, j = used[a][0], used[b][0]
        unused |= {i, j}
        told.append(((i, j), _apart(walk.taken[i], walk.taken[j], walk)))
    return Found(walk, counted, left, told, unused, neutral)


def _apart(a: Taken, b: Taken, walk: Walk) -> Phrase:
    one, two = (pair_title(walk.circuit, t.pair) for t in (a, b))
    first, second = (figure_words(t) for t in (a, b))
    if a.pair == b.pair and a.state == b.state:
        return phrase("circuit.two_same", one=one, first=first, second=second)
    volts = a.what == b.what == "volts"
    template = "circuit.two_apart" if volts else "circuit.two_kinds"
    return phrase(template, one=one, two=two, first=first, second=second)


def figure_words(t: Taken) -> Phrase:
    """A reading's figure in its unit."""
    return phrase(f"circuit.f_{t.what}", v=t.figure)


def findings(found: Found) -> list[Finding]:
    """The answers of a walk: what is open, and whether its readings can all be true."""
    if not found.walk.taken:
        return []
    output = output_finding(found.walk)
    out = [_open(found), *([output] if output is not None else [])]
    if found.clashes:
        out.append(
            Finding(
                question="circuit_readings",
                part="supply",
                verdict=Verdict.UNKNOWN,
                unknown=Unknown.INCONCLUSIVE,
                by=By.NOW,
                rule="circuit_readings",
                reason=phrase("circuit.contradiction", why=found.clashes[0][1]),
                notes=[why for _, why in found.clashes[1:4]],
            )
        )
    return out


def _open(found: Found) -> Finding:
    verdict, by, reason = _said(found)
    return Finding(
        question="circuit_open",
        part="supply",
        verdict=verdict,
        by=by,
        unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
        rule="circuit_open",
        reason=reason,
    )


def counts(found: Found) -> dict[str, str]:
    """How many are left of how many, as figures of a sentence. Nothing open is no fault."""
    total = len(found.walk.ladder.suspects) - 1
    left = len([k for k in found.fit if k != SOUND])
    return {"left": str(left), "total": str(total)}


def _said(found: Found) -> tuple[Verdict, By | None, Phrase]:
    walk, left = found.walk, found.left
    n = counts(found)
    if left.pairs:
        return _two(found)
    if found.neutral is not None and not found.lost:
        return Verdict.ACT, By.NOW, _neutral(found.neutral, walk)
    if left.unexplained:
        return Verdict.UNKNOWN, By.NOW, phrase("circuit.unexplained")
    if not found.used:
        below = any(compared_below(walk, t) for t in walk.taken)
        return Verdict.UNKNOWN, By.NOW, phrase("circuit.only_below" if below else "circuit.none_used")
    lost = found.lost
    if lost:
        return Verdict.STOP, By.NOW, _missing(found, lost)
    if left.named == SOUND:
        return _sound(found)
    if SOUND not in found.fit:
        if left.named:
            return Verdict.ACT, By.NOW, phrase("circuit.named", what=suspect_short(walk.ladder, left.named))
        template = "circuit.all_left" if walk.circuit.conductors == 3 else "circuit.dead_leg"
        return Verdict.ACT, By.NOW, phrase(template, **n)
    return Verdict.UNKNOWN, None, phrase("circuit.searching", **n)


def _neutral(shift: Shifted, walk: Walk) -> Phrase:
    place = rung_title(walk.circuit, shift.rung)
    low, high = amount(shift.low, "V"), amount(shift.high, "V")
    template = "circuit.neutral" if walk.circuit.conductors == 3 else "circuit.neutral_two"
    return phrase(template, low=low, high=high, place=place)


def _two(found: Found) -> tuple[Verdict, By | None, Phrase]:
    first, second = found.left.pairs[0]
    search = found.walk.ladder
    told = phrase(
        "circuit.open_two",
        first=suspect_short(search, first),
        second=suspect_short(search, second),
        more=str(len(found.left.pairs) - 1),
    )
    return Verdict.STOP, By.NOW, told


def _missing(found: Found, lost: set[int]) -> Phrase:
    walk, named = found.walk, found.left.named
    n = counts(found)
    if _in_ring(found):
        what = suspect_short(walk.ladder, named) if named else None
        return phrase("circuit.ring", **n) if what is None else phrase("circuit.ring_named", what=what)
    if len(lost) > 1:
        return phrase("circuit.missing_some", **n)
    leg = leg_word(walk.circuit, next(iter(lost)))
    if named.startswith("supply"):
        return phrase("circuit.supply_out", leg=leg)
    if named:
        return phrase("circuit.named_leg", leg=leg, what=suspect_short(walk.ladder, named))
    return phrase("circuit.missing", leg=leg, **n)


def _in_ring(found: Found) -> bool:
    """Does everything that is left lie in a ring of windings: a winding, a lead of it, or what ties the ends
    together?
    """
    circuit = found.walk.circuit
    motor = circuit.motor
    if not circuit.six_leads or motor is None:
        return False
    ends = run_rungs(circuit.elements)
    below = set(ends[ends.index(f"{motor.id}.in") :])
    beside = {e.id for p in circuit.paths for e in p.elements}
    of = {s.id: s for s in found.walk.ladder.suspects}
    left = [of[k] for k in found.fit if k != SOUND]
    return all(rung_of(s.lower) in below or rung_of(s.lower).split(".")[0] in beside for s in left)


def _sound(found: Found) -> tuple[Verdict, By | None, Phrase]:
    """Nothing open is good only where the motor's terminals, at both ends of its windings, were read between
    all legs, on low impedance, with the motor running on its own supply; of six leads, in delta: everything
    else tells of one state.

    The worst state in which it would still be said: a joint that is bad under full load and not at this one.
    Its drop in voltage decides, not this walk. Where a drive stands beside a bypass no voltage clears what
    lies beneath the drive, so that this is not said before it was read dead.
    """
    walk, circuit = found.walk, found.walk.circuit
    motor = circuit.motor
    ends = (
        [f"{motor.id}.{side}" for side in (("in", "out") if circuit.six_leads else ("in",))] if motor else []
    )
    places = rungs(circuit)
    between = {
        "upper": rung_title(circuit, places[0]),
        "lower": rung_title(circuit, ends[-1] if ends else places[-1]),
    }
    legs = circuit.conductors
    wanted = {(rung, a, b) for rung in ends for a in range(1, legs + 1) for b in range(a + 1, legs + 1)}
    read: dict[Position, set[tuple[str, int, int]]] = {}
    times: list[datetime] = []
    for i in found.used:
        t = walk.taken[i]
        rung = rung_of(t.pair.one)
        firm = t.what == "volts" and t.state.motor == "turning" and t.state.meter == "low"
        if firm and rung == rung_of(t.pair.two) and rung in ends and t.state.contactor != "star":
            a, b = sorted((leg_of(t.pair.one), leg_of(t.pair.two)))
            read.setdefault(t.state.contactor, set()).add((rung, a, b))
            times.append(t.entry.taken_at)
    together = bool(times) and not _apart_by(times, "circuit.together", walk)
    if together and wanted and any(wanted <= pairs for pairs in read.values()):
        return Verdict.GOOD, None, phrase("circuit.sound", **between)
    return Verdict.UNKNOWN, None, phrase("circuit.sound_state", **between)


def lacking(found: Found, kept: KeptCircuit) -> dict[str, Phrase | None]:
    """Which grounds are wanting?"""
    wanting = {
        "circuit.confirmed": kept.version == 0,
        "circuit.meter_proved": found.walk.proved != "both",
        "circuit.one_visit": _apart_by(
            [t.entry.taken_at for t in found.walk.taken], "circuit.visit", found.walk
        ),
    }
    return {ground: None for ground, lacks in wanting.items() if lacks}


def _apart_by(times: Sequence[datetime], limit: str, walk: Walk) -> bool:
    """Do these readings lie further apart than this limit lets them?"""
    seconds = (max(times) - min(times)).total_seconds() if times else 0.0
    return exceeds(seconds, walk.limits.value(limit))


def share_of(found: Found, id_: str) -> float:
    """Of what is left, how much of the suspicion holds this one?"""
    return found.left.shares.get(id_, 0.0)


def leftovers(found: Found) -> list[str]:
    """What is left, the likeliest first, without what holds next to nothing."""
    held = [k for k in found.fit if share_of(found, k) >= WEIGHING.held]
    return sorted(held, key=lambda k: -share_of(found, k))


__all__ = ["Found", "counts", "findings", "found_in", "lacking", "leftovers", "share_of"]
