"""The ladder as it is drawn after a walk, and where the probes go next."""

from __future__ import annotations

import math
from typing import Literal

from ...base import Phrase, amount, nominal, phrase
from .ahead import Branch, Next, next_probe
from .entry import Taken, Walk
from .evidence import between_open_and_closed, contactor_between, told
from .judging import Found, counts, leftovers, share_of
from .kinds import CIRCUIT_KINDS, KeptCircuit
from .output import compared_below
from .parts import ENDS, Element, Position
from .points import leg_of, rung_of, rungs, runs_of, spans
from .suspects import FIGURES, SIGNS, SOUND, to_ground
from .view import (
    BranchView,
    ElementView,
    LadderView,
    Leftover,
    NextView,
    PathView,
    ReadingView,
    RungView,
    SpanView,
    TapView,
)
from .whole import Circuit
from .wired import State
from .words import (
    leg_word,
    name_of,
    pair_title,
    point_word,
    position_words,
    rung_title,
    state_key,
    state_words,
    suspect_short,
    suspect_where,
)

# So many of what is left are listed; the others are on the drawing.
_LISTED = 5


def drawn(found: Found, kept: KeptCircuit) -> LadderView:
    """Everything that is drawn of this walk."""
    walk, circuit = found.walk, found.walk.circuit
    now = standing(walk)
    kind = CIRCUIT_KINDS.get(circuit.kind)
    left = leftovers(found) if found.used else []
    n = counts(found)
    ahead = _ahead(found, now)
    return LadderView(
        title=kind.title if kind is not None else "",
        supply=phrase(
            "circuit.supply",
            volts=nominal(circuit.supply.volts, "V"),
            earthing=phrase(f"circuit.e_{circuit.supply.earthing}"),
        ),
        below=kind.below if kind is not None else "",
        legs=[leg_word(circuit, leg) for leg in circuit.legs],
        elements=drawn_elements(circuit, now),
        rungs=[drawn_rung(circuit, r) for r in rungs(circuit)],
        spans=_spans(found),
        paths=drawn_paths(circuit),
        positions=list(circuit.positions) if circuit.has_contactor else [],
        readings=[_reading(found, i, t, kept) for i, t in enumerate(walk.taken)],
        confirmed=kept.version > 0,
        contactor=circuit.has_contactor,
        motor=circuit.has_motor,
        ground=to_ground(circuit),
        left=len([k for k in found.fit if k != SOUND]),
        total=len(walk.ladder.suspects) - 1,
        headline=_headline(found),
        leftovers=[_leftover(found, k) for k in left[:_LISTED]],
        more=max(0, len(left) - _LISTED),
        others=phrase("circuit.left_line", **n) if found.used else None,
        cannot=_cannot(found, now, ahead),
        signs=_signs(found),
        next=_next(found, now, ahead) if ahead is not None else None,
        stands=_stands(now, circuit),
        proved=walk.proved,
    )


def standing(walk: Walk) -> State:
    """The state of the next reading while nobody says otherwise: that of the last one; before any, the one
    that puts nothing at risk.
    """
    if walk.taken:
        return walk.taken[-1].state
    circuit = walk.circuit
    return State(
        contactor="out" if circuit.has_contactor else "in",
        motor="standing" if circuit.has_motor else "off",
        meter="low",
    )


def _stands(now: State, circuit: Circuit) -> dict[str, str]:
    return {
        "contactor": now.contactor if circuit.has_contactor else "in",
        "motor": "running" if now.motor == "turning" else "standing",
        "leads": "off" if now.motor == "off" and circuit.has_motor else "on",
        "meter": now.meter,
    }


def drawn_elements(circuit: Circuit, now: State) -> list[ElementView]:
    """Every element as it stands in this state, of the ladder and of the paths beside it."""
    return [_element(circuit, e, now) for e in circuit.every]


def drawn_paths(circuit: Circuit) -> list[PathView]:
    """Where the paths beside the ladder leave it and come back."""
    return [
        PathView(
            leaves=p.leaves,
            lands=p.lands,
            begins=rung_title(circuit, p.leaves),
            ends=rung_title(circuit, p.lands) if p.lands else None,
            onto=[point_word(circuit, p.lands, leg) for leg in p.onto] if p.lands else [],
        )
        for p in circuit.paths
    ]


def _element(circuit: Circuit, e: Element, now: State) -> ElementView:
    return ElementView(
        id=e.id,
        kind=e.kind,
        name=name_of(e),
        legs=list(e.legs or circuit.legs),
        closed=e.is_in(now.contactor) if e.switched else None,
        crossed=e.crossing and now.contactor == "reverse",
        joins=e.joins,
        taps=[
            TapView(id=t.id, what=t.what, title=phrase(f"circuit.t_{t.what}"), legs=list(t.legs))
            for t in e.taps
        ],
    )


def drawn_rung(circuit: Circuit, rung: str) -> RungView:
    id_, _, side = rung.rpartition(".")
    e = next(x for x in circuit.every if x.id == id_)
    ends = e.kind in ENDS and any(e is run[-1] for run in circuit.runs)
    place = "only" if e.kind == "source" or ends else "line" if side == "in" else "load"
    title = rung_title(circuit, rung)
    return RungView(id=rung, element=id_, side=place, title=title, run=runs_of(circuit)[rung])


def _spans(found: Found) -> list[SpanView]:
    """Each span with the share of whatever has it open, once something was read."""
    shares: dict[str, float] = {}
    if found.used:
        for s in found.walk.ladder.suspects:
            for span in s.open:
                shares[span] = max(shares.get(span, 0.0), share_of(found, s.id))
    return [
        SpanView(
            id=s.id,
            leg=s.leg,
            upper=s.upper,
            lower=s.lower,
            within=s.within,
            through=s.kind == "through",
            share=round(shares.get(s.id, 0.0), 4),
            named=found.left.named == s.id,
        )
        for s in spans(found.walk.circuit)
    ]


def _reading(found: Found, i: int, t: Taken, kept: KeptCircuit) -> ReadingView:
    walk = found.walk
    reads, word, notes = _reads(found, t)
    if i in found.unused:
        notes.append(phrase("circuit.n_contradicts"))
    if kept.at is not None and t.entry.taken_at < kept.at:
        notes.append(phrase("circuit.n_edited"))
    return ReadingView(
        uuid=t.entry.uuid,
        one=t.pair.one,
        two=t.pair.two,
        title=pair_title(walk.circuit, t.pair),
        what=t.what,
        figure=t.figure,
        reads=reads,
        word=word,
        state=state_words(walk.circuit, t.state),
        key=state_key(walk.circuit, t.state),
        at=t.entry.taken_at,
        by=t.entry.by,
        used=i in found.used or compared_below(walk, t),
        notes=notes,
    )


def _reads(found: Found, t: Taken) -> tuple[str, Phrase, list[Phrase]]:
    """What a reading is called, and what is to be known of it."""
    walk = found.walk
    if compared_below(walk, t):
        return "full", phrase("circuit.r_below"), []
    if t.what != "ohms" and not told(walk, t):
        return "unused", phrase("circuit.r_unused"), [phrase("circuit.n_untold")]
    if t.what == "volts":
        percent = 100 * t.figure.value / walk.scale / walk.ladder.right[t.pair.one, t.pair.two]
        notes: list[Phrase] = []
        if t.state.meter != "low" and percent <= FIGURES.full:
            notes.append(phrase("circuit.n_ghost"))
        reads = "full" if percent > FIGURES.full else "zero" if percent < FIGURES.zero else "part"
        word = phrase("circuit.r_part", share=amount(percent, "%")) if reads == "part" else None
        return reads, word or phrase(f"circuit.r_{reads}"), notes
    if t.what == "amps":
        counted = dict(found.counted).get(walk.taken.index(t))
        if counted is None:
            return "unused", phrase("circuit.r_unused"), [phrase("circuit.n_one_leg")]
        return (
            ("full", phrase("circuit.r_carries"), [])
            if counted.volts
            else ("zero", phrase("circuit.r_carries_none"), [])
        )
    if contactor_between(walk, t):
        return "unused", phrase("circuit.r_unused"), [phrase("circuit.n_contactor")]
    if between_open_and_closed(t, walk.limits):
        return "part", phrase("circuit.r_between"), [phrase("circuit.n_other_path")]
    counted = dict(found.counted).get(walk.taken.index(t))
    closed = counted is not None and bool(counted.volts)
    return ("full", phrase("circuit.r_closed"), []) if closed else ("zero", phrase("circuit.r_open"), [])


def _headline(found: Found) -> Phrase | None:
    named = found.left.named
    return suspect_where(found.walk.ladder, named) if named and named != SOUND else None


def _leftover(found: Found, id_: str) -> Leftover:
    search = found.walk.ladder
    share = share_of(found, id_)
    leg = next((s.leg for s in search.suspects if s.id == id_), None)
    return Leftover(
        id=id_,
        title=suspect_short(search, id_),
        share=nominal(round(100 * share), "%"),
        weight=round(math.sqrt(share), 4),
        leg=leg or 0,
    )


def _cannot(found: Found, now: State, ahead: Next | None) -> list[Phrase]:
    """What no probe in this state parts, and in which it could be parted."""
    of = [k for k in leftovers(found) if found.used]
    if len(of) < 2 or found.left.unexplained or found.left.pairs:
        return []
    n = str(len(of))
    if ahead is None:
        elsewhere = _elsewhere(found, now)
        if elsewhere is None:
            return [phrase("circuit.cannot", n=n)]
        stands = position_words(found.walk.circuit, elsewhere.contactor)
        return [phrase("circuit.cannot_led", n=n, stands=stands)]
    here = next_probe(found.walk.ladder, found.left, [now])
    if here is not None and here.bits >= _LEAST_BITS:
        return []
    if ahead.state.contactor == now.contactor:
        how = phrase("circuit.by_low")
    else:
        how = phrase("circuit.by_state", stands=position_words(found.walk.circuit, ahead.state.contactor))
    return [phrase("circuit.cannot_state", how=how, n=n)]


def _elsewhere(found: Found, now: State) -> State | None:
    """A state that nobody is sent to, in which something would still be told: a starter passes through star
    by itself. Not while a leg is missing.
    """
    if found.lost:
        return None
    motor: Literal["standing", "turning", "off"] = "off" if now.motor == "off" else "turning"
    for position in found.walk.circuit.positions:
        if position in _PASSED and position != now.contactor:
            state = State(contactor=position, motor=motor, load=SIGNS.load)
            best = next_probe(found.walk.ladder, found.left, [state])
            if best is not None and best.bits >= _LEAST_BITS:
                return state
    return None


def _signs(found: Found) -> list[Phrase]:
    """What the readings look like, by the names that such patterns have."""
    walk, circuit = found.walk, found.walk.circuit
    out: list[Phrase] = []
    earthing = {
        "corner": "circuit.sign_corner",
        "high_leg": "circuit.sign_high_leg",
        "ungrounded": "circuit.sign_ungrounded",
    }.get(circuit.supply.earthing)
    if earthing is not None:
        out.append(phrase(earthing))
    at: dict[tuple[State, str], dict[tuple[int, int], float]] = {}
    for i in found.used:
        t = walk.taken[i]
        if (t.what == "volts" and rung_of(t.pair.one) == rung_of(t.pair.two)) or not leg_of(t.pair.two):
            a, b = sorted((leg_of(t.pair.one), leg_of(t.pair.two)))
            share = (
                100 * t.figure.value / walk.scale / walk.ladder.right.get((t.pair.one, t.pair.two), math.inf)
            )
            at.setdefault((t.state, rung_of(t.pair.one)), {})[a, b] = share
    for (state, rung), read in at.items():
        out += _pattern(circuit, state, rung, read)
    if 100 * abs(walk.scale - 1) > SIGNS.supply:
        stands = amount(100 * walk.scale, "%")
        out.append(phrase("circuit.sign_supply", share=stands))
    double = _double(found)
    return [*out, *([double] if double is not None else [])]


def _pattern(circuit: Circuit, state: State, rung: str, read: dict[tuple[int, int], float]) -> list[Phrase]:
    full, zero = FIGURES.full, FIGURES.zero
    out: list[Phrase] = []
    lines = {p: v for p, v in read.items() if p[0]}
    for (a, b), v in lines.items():
        if v < zero and read.get((0, a), 0.0) > full and read.get((0, b), 0.0) > full:
            legs = f"{leg_word(circuit, a)}-{leg_word(circuit, b)}"
            out.append(phrase("circuit.sign_backfed", legs=legs))
    parts = [v for v in lines.values() if zero <= v <= full]
    if len(lines) == 3 and len(parts) == 2 and max(lines.values()) > full:
        if state.motor == "turning":
            out.append(phrase("circuit.sign_propped"))
        elif all(abs(v - 50) < SIGNS.half for v in parts):
            out.append(phrase("circuit.sign_half", rung=rung_title(circuit, rung)))
    return out


def _double(found: Found) -> Phrase | None:
    """One to two to one in the three legs."""
    amps: dict[State, dict[int, float]] = {}
    for t in found.walk.taken:
        if t.what == "amps":
            amps.setdefault(t.state, {})[leg_of(t.pair.one)] = t.figure.value
    for legs in amps.values():
        if len(legs) == 3:
            low, middle, high = sorted(legs.values())
            alike = low > 0 and middle / low < SIGNS.even
            if alike and SIGNS.double_least <= high / middle <= SIGNS.double_most:
                return phrase("circuit.sign_double")
    return None


def _states(found: Found, now: State) -> list[State]:
    """The states that may be brought about, the present one first. Once a leg is missing none has the
    contactor in with the motor connected; a meter of low impedance wherever there is one. Nobody is sent to a
    position that the starter passes through with the motor on it.
    """
    circuit = found.walk.circuit
    low = now.model_copy(update={"meter": "low"})
    if not circuit.has_contactor:
        return [low]
    out = [low]
    standing = low if low.motor == "off" else low.model_copy(update={"motor": "standing"})
    # Which way a reversing pair goes in stays as it is.
    here = "in" if now.contactor == "reverse" else "reverse"
    led = [p for p in circuit.positions if p not in (*_PASSED, here)]
    out += [standing.model_copy(update={"contactor": p}) for p in led]
    if found.lost or found.left.pairs:
        out = [s for s in out if not s.closed or s.motor == "off"]
    return list(dict.fromkeys(out))


# Star and delta: a motor that stands in either takes its starting current.
_PASSED: tuple[Position, ...] = ("star", "delta")
# The lower doors and the motor's box take longer to open than the panel.
_SLOW = 2.0


# A probe that tells less is not worth its walk, bits.
_LEAST_BITS = 0.02


def _ahead(found: Found, now: State) -> Next | None:
    """The probe that tells most among those that the gates allow; None once none tells anything."""
    circuit, left = found.walk.circuit, found.left
    if left.named or left.unexplained or left.pairs:
        return None
    motor = circuit.motor
    slow = {f"{motor.id}.{side}": _SLOW for side in ("in", "out")} if motor is not None else {}
    done = {(t.state, t.pair.one, t.pair.two) for t in found.walk.taken}
    best = next_probe(found.walk.ladder, left, _states(found, now), minutes=slow, done=done)
    return best if best is not None and best.bits >= _LEAST_BITS else None


def _next(found: Found, now: State, best: Next) -> NextView:
    walk = found.walk
    circuit, search = walk.circuit, walk.ladder
    after = str(max(1, round(best.left)))
    waits, confirm = _waits(now, best.state, circuit)
    why = phrase("circuit.why_first", after=after)
    if found.used:
        why = phrase("circuit.why", after=after, left=str(len(found.fit)))
    return NextView(
        one=best.probe.one,
        two=best.probe.two,
        title=pair_title(circuit, best.probe),
        why=why,
        waits=waits,
        confirm=confirm,
        minutes=nominal(best.minutes, "min"),
        branches=[
            _branch(found, b, walk.scale * search.right[best.probe.one, best.probe.two])
            for b in best.branches[:4]
        ],
        **_stands(best.state, circuit),
    )


def _waits(now: State, then: State, circuit: Circuit) -> tuple[Phrase, Phrase] | tuple[None, None]:
    """What has to be done before the state is another, and the word that it is."""
    if circuit.has_contactor and now.contactor != then.contactor:
        simple = then.contactor == "out" or len(circuit.positions) == 2
        if simple:
            way = "out" if then.contactor == "out" else "in"
            return phrase(f"circuit.w_{way}"), phrase(f"circuit.done_{way}")
        stands = position_words(circuit, then.contactor)
        return phrase("circuit.w_state", stands=stands), phrase("circuit.done_state", stands=stands)
    if now.meter != "low" and then.meter == "low":
        return phrase("circuit.w_low"), phrase("circuit.done_low")
    return None, None


def _branch(found: Found, b: Branch, right: float) -> BranchView:
    volts = amount(round(b.percent / 100 * right), "V")
    reads = (
        phrase("circuit.reads_zero") if b.reads == "zero" else phrase(f"circuit.reads_{b.reads}", volts=volts)
    )
    titles = [suspect_short(found.walk.ladder, k) for k in b.leaves]
    if len(titles) == 1:
        leaves: Phrase = titles[0]
    elif len(titles) == 2:
        leaves = phrase("place.leaves_two", first=titles[0], second=titles[1])
    else:
        more = str(len(titles) - 2)
        leaves = phrase("place.leaves_more", first=titles[0], second=titles[1], more=more)
    top = max((share_of(found, k) for k in b.leaves), default=0.0)
    return BranchView(reads=reads, leaves=leaves, weight=round(math.sqrt(top), 4))


__all__ = ["drawn", "standing"]
