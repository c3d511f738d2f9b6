"""Leads without marks: groups by ohmmeter, low-voltage tests one after another, marks at the end.

Done at a bench, motor guarded, shaft free, for seconds, at a low three-phase voltage. Common practice, no
source.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from ...base import (
    RULES,
    Entered,
    Finding,
    HurbinError,
    Limits,
    Model,
    Phrase,
    Problem,
    Unknown,
    Verdict,
    entered_field,
    exceeds,
    field_rules,
    phrase,
    read,
    said_field,
)


class LeadTest(Model):
    """One test of unmarked leads. tied, to: the two leads joined for it, by their tapes; one, two: volts from
    the free end to the two other leads in use, or from the corner to T1; kicks: of the two other pairs, with
    the battery on `tied` and `to`.
    """

    tied: str = said_field("Tied", "", max_length=4)
    to: str = said_field("To", "", max_length=4)
    one: Entered | None = entered_field("First reading", "voltage", high=2000)
    two: Entered | None = entered_field("Second reading", "voltage", high=2000)
    kicks: str = said_field("Kicks of the two others", "", max_length=10)


@dataclass(slots=True)
class Asked:
    """The next test: what is tied to what, and what is read."""

    tied: str
    to: str
    reads: list[str]
    kicks: bool = False


@dataclass(slots=True)
class Marked:
    """How far it is: groups as found, which winding they say, marks by tape, the next test; why it ends."""

    groups: list[list[str]] = field(default_factory=list)
    kind: str = ""
    marks: dict[str, str] = field(default_factory=dict)
    asked: Asked | None = None
    says: Phrase | None = None
    done: bool = False
    problems: list[Problem] = field(default_factory=list)


def grouped(text: str, leads: int) -> tuple[list[list[str]], list[Problem]]:
    """The groups as they were typed: tapes of a group by blanks, groups by slashes. Each tape once."""
    groups: list[list[str]] = []
    problems: list[Problem] = []
    seen: set[str] = set()
    for part in re.split(r"[\n/;]+", text):
        tapes = [w.upper() for w in re.split(r"[\s,+]+", part.strip()) if w]
        for t in tapes:
            if t in seen:
                problems.append(_wrong("groups", t, f"Tape {t} is in two groups: a lead is in one only."))
            seen.add(t)
        if tapes:
            groups.append(tapes)
    if leads and len(seen) > leads:
        problems.append(_wrong("groups", text[:40], f"{len(seen)} tapes on {leads} leads."))
    return groups, problems


def _wrong(name: str, value: str, message: str) -> Problem:
    return Problem(code="tape_wrong", field=name, value=value[:40], message=message, right="A B / C D / E F")


def kind_of(groups: list[list[str]]) -> str:
    """Which winding do these groups say? By how many leads are in each.

    >>> kind_of([["A", "B"], ["C", "D"], ["E", "F"], ["G", "H", "J"]])
    'wye9'
    """
    sizes = tuple(sorted(len(g) for g in groups))
    return {
        (3,): "three",
        (2, 2, 2): "six",
        (3, 3): "part_winding",
        (6,): "two_speed",
        (2, 2, 2, 3): "wye9",
        (3, 3, 3): "delta9",
        (2, 2, 2, 2, 2, 2): "twelve",
    }.get(sizes, "")


def marked(text: str, leads: int, tests: list[LeadTest], volts: float | None, limits: Limits) -> Marked:
    """What is known by now, and what is tested next? volts: between the lines of the test supply, V.

    Worst state in which it still calls marks found: two tapes exchanged between the tests.
    """
    out = Marked()
    out.groups, out.problems = grouped(text, leads)
    if not out.groups or out.problems:
        return out
    if leads and sum(len(g) for g in out.groups) < leads:
        out.says = phrase("leads.unmarked_missing", n=str(sum(len(g) for g in out.groups)), of=str(leads))
        return out
    out.kind = kind_of(out.groups)
    if not out.kind:
        out.says = phrase("leads.unmarked_odd")
    elif out.kind in ("part_winding", "two_speed", "twelve", "three"):
        out.says = phrase(f"leads.unmarked_{out.kind}")
        out.done = out.kind == "three"
    elif out.kind == "six":
        _six(out, tests)
    elif not volts:
        out.says = phrase("leads.unmarked_volts")
    else:
        (_wye if out.kind == "wye9" else _delta)(out, tests, volts, limits)
    if out.done and not out.says:
        out.says = phrase("leads.unmarked_done")
    return out


def _test(tests: list[LeadTest], tied: str, to: str) -> LeadTest | None:
    return next((t for t in tests if (t.tied.upper(), t.to.upper()) == (tied, to)), None)


def _six(out: Marked, tests: list[LeadTest]) -> None:
    """Three pairs: with a battery on one, the two others kick alike where they are named the same end."""
    one, two, three = out.groups
    signs = {0: 1, 1: 0, 2: 0}
    relation = 1
    for on, others in ((0, (1, 2)), (1, (0, 2))):
        pair = out.groups[on]
        got = _test(tests, pair[0], pair[1])
        if got is None or got.kicks not in ("alike", "opposite"):
            reads = [f"{out.groups[k][0]} to {out.groups[k][1]}" for k in others]
            out.asked = Asked(pair[0], pair[1], reads, kicks=True)
            out.says = phrase("leads.unmarked_kick", plus=pair[0], minus=pair[1], reads=", ".join(reads))
            return
        same = 1 if got.kicks == "alike" else -1
        if on == 0:
            relation = same
        else:
            signs[2] = signs[0] * same
            signs[1] = signs[2] * relation
    for k, pair in enumerate((one, two, three)):
        first, last = pair if signs[k] > 0 else pair[::-1]
        out.marks |= {first: f"T{k + 1}", last: f"T{k + 4}"}
    out.done = True


def _figures(out: Marked, test: LeadTest, names: tuple[str, ...]) -> list[float] | None:
    """The readings of a test in V; None while one is missing or cannot be."""
    rules = field_rules(LeadTest)
    got = []
    for name in names:
        try:
            told = read(getattr(test, name), rules[name])
        except HurbinError as error:
            out.problems.append(
                Problem.of(error).model_copy(update={"field": f"{name}.{test.tied}.{test.to}"})
            )
            return None
        if told is None:
            return None
        got.append(told.value)
    return got


def _possible(share: float, figure: str, limits: Limits) -> bool:
    """Is this share of the test voltage the one that belongs there, within what a meter is off by?"""
    aim = limits.value(figure)
    return not exceeds(abs(share / aim - 1), limits.value("leads.reading") / 100)


def _wye(out: Marked, tests: list[LeadTest], volts: float, limits: Limits) -> None:
    """The triple runs on the test supply; an end of a pair is tied to one of it, its other end read to the
    two others: equal and high is the right pair, equal and low the right pair the other way round.
    """
    triple = next(g for g in out.groups if len(g) == 3)
    out.marks = {t: f"T{7 + k}" for k, t in enumerate(triple)}
    free = [0, 1, 2]
    for pair in (g for g in out.groups if len(g) == 2):
        for k in list(free):
            test = _test(tests, pair[0], triple[k])
            got = _figures(out, test, ("one", "two")) if test is not None else None
            others = [t for j, t in enumerate(triple) if j != k]
            if got is None:
                reads = [f"{pair[1]} to {t}" for t in others]
                out.asked = Asked(pair[0], triple[k], reads)
                out.says = phrase(
                    "leads.unmarked_wye",
                    triple=", ".join(triple),
                    tied=pair[0],
                    to=triple[k],
                    reads=", ".join(reads),
                )
                return
            if exceeds(abs(got[0] - got[1]), limits.value("leads.equal") / 100 * max(got)):
                continue
            share = sum(got) / 2 / volts
            if not _possible(share, "leads.equal_low", limits) and not _possible(
                share, "leads.equal_high", limits
            ):
                out.says = phrase("leads.unmarked_none", pair=" ".join(pair))
                return
            high = exceeds(share, 1.0)
            near, far = pair if high else pair[::-1]
            out.marks |= {near: f"T{4 + k}", far: f"T{1 + k}"}
            free.remove(k)
            break
        else:
            out.says = phrase("leads.unmarked_none", pair=" ".join(pair))
            return
    out.done = True


def _delta(out: Marked, tests: list[LeadTest], volts: float, limits: Limits) -> None:
    """Each triple with its corner first. The first one runs on the test supply; its ends are tied to the ends
    of the others in turn: twice the volts from corner to corner is the end that belongs beside it.
    """
    (t1, t4, t9), *rest = out.groups
    out.marks = {t1: "T1", t4: "T4", t9: "T9"}
    for tied, mark, corner in ((t4, "T7", "T2"), (t9, "T6", "T3")):
        found = None
        for group in rest:
            for end in group[1:]:
                test = _test(tests, tied, end)
                got = _figures(out, test, ("one",)) if test is not None else None
                if got is None:
                    reads = [f"{group[0]} to {t1}"]
                    out.asked = Asked(tied, end, reads)
                    out.says = phrase(
                        "leads.unmarked_delta",
                        triple=", ".join((t1, t4, t9)),
                        tied=tied,
                        to=end,
                        reads=reads[0],
                    )
                    return
                if _possible(got[0] / volts, "leads.twice", limits):
                    found = (group, end)
                    break
            if found:
                break
        if found is None:
            out.says = phrase("leads.unmarked_none", pair=tied)
            return
        group, end = found
        other = next(x for x in group[1:] if x != end)
        out.marks |= {end: mark, group[0]: corner, other: "T5" if corner == "T2" else "T8"}
        rest = [g for g in rest if g is not group]
    out.done = True


def marks_finding(found: Marked) -> Finding | None:
    """Are the leads marked by now?"""
    if not found.groups or found.says is None:
        return None
    good = found.done and not found.problems
    verdict = Verdict.GOOD if good else Verdict.UNKNOWN
    return Finding(
        question="lead_marks",
        part="motor",
        verdict=verdict,
        by=RULES["lead_marks"].by.get(verdict),
        unknown=None if good else Unknown.INCOMPLETE,
        rule="lead_marks",
        reason=found.says,
        notes=[] if good else [phrase("leads.unmarked_caution")],
    )
