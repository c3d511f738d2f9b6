"""What a drive gives, read below it: does each leg carry current, and are the voltages alike?"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from ...base import RULES, Finding, Limits, Phrase, Unknown, Verdict, amount, exceeds, phrase
from .entry import Taken, Walk
from .evidence import told
from .parts import Position
from .points import leg_of, rung_of
from .words import leg_word, rung_title

Place = tuple[str, Position]


def output_finding(walk: Walk) -> Finding | None:
    """Does every leg carry what the drive gives? None where nothing was read below one that is on.

    Amperes of three legs at one place, while the motor runs; voltages only on a low-pass meter, for any other
    reads the switching as well. Alike is good for this load alone; the worst state in which it is said of a
    bad path is a joint that still carries. Voltages alone never are: a leg without current has them too.
    """
    below = [t for t in walk.taken if compared_below(walk, t)]
    amps, volts = _amps(below), _volts(below)
    places = [*dict.fromkeys((*amps, *volts))]
    if not places:
        return None
    said = [_said(walk, place, amps.get(place, {}), volts.get(place, [])) for place in places]
    verdict, reason = max(said, key=lambda x: x[0].rank)
    return Finding(
        question="below_drive",
        part="control",
        verdict=verdict,
        by=RULES["below_drive"].by.get(verdict),
        unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
        rule="below_drive",
        reason=reason,
    )


def compared_below(walk: Walk, t: Taken) -> bool:
    """Is this reading one of a running drive's output, to be compared with the other legs there?"""
    read = t.what == "amps" or (t.what == "volts" and t.state.meter == "low_pass")
    return read and t.state.motor == "turning" and not told(walk, t)


def _amps(below: Sequence[Taken]) -> dict[Place, dict[int, float]]:
    out: dict[Place, dict[int, float]] = {}
    for t in below:
        if t.what == "amps":
            out.setdefault((rung_of(t.pair.one), t.state.contactor), {})[leg_of(t.pair.one)] = t.figure.value
    return out


def _volts(below: Sequence[Taken]) -> dict[Place, list[float]]:
    """Three voltages between legs at one place, on a low-pass meter."""
    read: dict[Place, dict[tuple[int, ...], float]] = {}
    for t in below:
        legs = tuple(sorted((leg_of(t.pair.one), leg_of(t.pair.two))))
        same = rung_of(t.pair.one) == rung_of(t.pair.two) and 0 not in legs
        if t.what == "volts" and same:
            read.setdefault((rung_of(t.pair.one), t.state.contactor), {})[legs] = t.figure.value
    return {place: [*by.values()] for place, by in read.items() if len(by) == 3}


def _said(
    walk: Walk, place: Place, amps: Mapping[int, float], volts: Sequence[float]
) -> tuple[Verdict, Phrase]:
    where = rung_title(walk.circuit, place[0])
    limits = walk.limits
    worst = min(amps, key=lambda leg: amps[leg], default=0)
    top = max(amps.values(), default=0.0)
    runs = len(amps) > 1 and exceeds(top, limits.value("safety.dead_amps"))
    if runs and exceeds(limits.value("single_phasing.share"), 100 * amps[worst] / top):
        figures = {"v": amount(amps[worst], "A"), "top": amount(top, "A")}
        leg = leg_word(walk.circuit, worst)
        return Verdict.STOP, phrase("circuit.output_leg", leg=leg, place=where, **figures)
    if volts and not _alike(volts, limits):
        low, high = amount(min(volts), "V"), amount(max(volts), "V")
        return Verdict.ACT, phrase("circuit.output_volts", place=where, low=low, high=high)
    whole = len(amps) == walk.circuit.conductors and _together(walk, place)
    if runs and whole and _alike([*amps.values()], limits):
        low, high = amount(amps[worst], "A"), amount(top, "A")
        return Verdict.GOOD, phrase("circuit.output_alike", place=where, low=low, high=high)
    return Verdict.UNKNOWN, phrase("circuit.output_few", place=where)


def _together(walk: Walk, place: Place) -> bool:
    """Were the currents at this place read as one? A load that moved in between is no likeness."""
    here = [
        t.entry.taken_at
        for t in walk.taken
        if t.what == "amps" and (rung_of(t.pair.one), t.state.contactor) == place and compared_below(walk, t)
    ]
    apart = (max(here) - min(here)).total_seconds() if here else 0.0
    return not exceeds(apart, walk.limits.value("circuit.together"))


def _alike(figures: Sequence[float], limits: Limits) -> bool:
    """Is the lowest near the highest?"""
    share = 100 * min(figures) / max(figures) if max(figures) > 0 else 0.0
    return not exceeds(limits.value("circuit.output_alike"), share)
