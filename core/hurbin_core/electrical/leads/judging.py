"""Is this box right for this motor on this supply, and what would happen if it were started so?"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from ...base import (
    By,
    Finding,
    Limits,
    Phrase,
    Problem,
    Quantity,
    Unknown,
    Verdict,
    amount,
    exceeds,
    phrase,
    read_fields,
)
from ...logbook import AnyCase
from ...plant import MotorPlate, motor_facts
from .checking import ALIKE, Fit, Repair, fit_of, half_of, repairs
from .entry import LeadsEntry, Marks, Parsed, name_of, parsed
from .rolled import ROLLED
from .solving import Driven, driven
from .windings import LINES, Box, Use, Winding, windings_of

# The two voltages of a plate are rounded: 230 and 400, 400 and 690.
_APART = 1 + Limits().value("leads.apart") / 100


@dataclass(slots=True)
class Looked:
    """A box as it was read: its nuts, what the winding may be, the plate's voltages by list, and the supply.

    may: the windings that it may be, after what was said and found by continuity. single: a motor for one
    phase, of which these lists say nothing.
    """

    body: LeadsEntry
    limits: Limits
    supply: float | None
    plate: dict[Use, float]
    nuts: Parsed
    own: Parsed
    single: bool = False
    amps: dict[str, float] = field(default_factory=dict)
    plate_amps: float | None = None
    test_volts: float | None = None
    may: list[Winding] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)

    @property
    def marks(self) -> Marks:
        return self.body.marks or ("iec" if self.count in (3, 6) else "t")

    @property
    def count(self) -> int:
        return int(self.body.leads or 0)

    @property
    def part(self) -> str:
        """What one coil of it is called."""
        return "half winding" if self.count > 6 else "winding"

    @property
    def whole(self) -> bool:
        """Is every lead and every line in a nut?"""
        return bool(self.nuts.box) and not (self.nuts.loose or self.nuts.bare or self.problems)

    @property
    def use(self) -> Use | None:
        """Which of the plate's voltages is this supply?"""
        off = self.limits.value("leads.supply_off")
        near = [
            u
            for u, v in self.plate.items()
            if self.supply and not exceeds(100 * abs(self.supply / v - 1), off)
        ]
        return near[0] if len(near) == 1 else None


def understand(body: LeadsEntry, limits: Limits, case: AnyCase) -> Looked:
    """What was read of this box, once."""
    read, problems = read_fields(body)
    count = int(body.leads or 0)
    marks: Marks = body.marks or ("iec" if count in (3, 6) else "t")
    nuts, own = (
        parsed(text, count, marks, n) for n, text in (("box", body.box), ("plate_box", body.plate_box))
    )
    supply = read["supply"].value if "supply" in read else None
    looked = Looked(body, limits, supply, _plate(body, case), nuts, own)
    looked.test_volts = read["test_volts"].value if "test_volts" in read else None
    if count:
        problems += [*nuts.problems, *own.problems]
    looked.problems = problems
    looked.amps = {n: read[n].value for n in ROLLED if n in read}
    part = case.context.parts.get("motor")
    if part is not None and isinstance(part.plate, MotorPlate):
        looked.plate_amps = motor_facts(part.plate).amps_a
    looked.single = part is not None and isinstance(part.plate, MotorPlate) and part.plate.phases == 1
    looked.may = [w for w in windings_of(count) if _may_be(w, body)]
    return looked


def _may_be(w: Winding, body: LeadsEntry) -> bool:
    said = body.winding is None or w.leads in (3, 6) or w.kind == body.winding
    return said and (body.continuity is None or w.continuity == body.continuity)


def _plate(body: LeadsEntry, case: AnyCase) -> dict[Use, float]:
    """The plate's voltages by the list that they are for. A single one has to say which."""
    part = case.context.parts.get("motor")
    plate = part.plate if part is not None else None
    if not isinstance(plate, MotorPlate):
        return {}
    if plate.connection != "single":
        low = motor_facts(plate.model_copy(update={"connection": "low"})).volts_v
        high = motor_facts(plate.model_copy(update={"connection": "high"})).volts_v
        both: list[tuple[Use, float | None]] = [("low", low), ("high", high)]
        return {use: v for use, v in both if v}
    only = motor_facts(plate).volts_v
    use: Use | None = "low" if body.leads == "3" else body.plate_for
    return {use: only} if only and use else {}


@dataclass(slots=True)
class Answer:
    """What a box comes to. winding: by which it is drawn and put right; got: its halves; fits: the windings
    that it is right for; made: volts of a half by the plate; use: the list that belongs on this supply.
    """

    winding: Winding
    got: Driven
    fits: dict[str, Fit]
    made: float | None
    use: Use
    repairs: list[Repair]


def answered(looked: Looked) -> Answer | None:
    """Solve the box for each winding that it may be. None while a lead or a line is in no nut, or two lines
    share one.
    """
    if not looked.whole or lines_joined(looked.nuts.box) or not looked.may:
        return None
    box = looked.nuts.box
    got = {w.id: driven(w, box) for w in looked.may}
    fits = {w.id: fit for w in looked.may if (fit := fit_of(w, got[w.id])) is not None}
    use = looked.use
    ways = [(w, u, repairs(w, u, box)) for w in looked.may for u in ([use] if use else _uses(w))]
    winding, aim, best = min(ways, key=lambda x: (x[0].id not in fits, _cost(x[2])))
    return Answer(winding, got[winding.id], fits, _made(winding, looked.plate), aim, best)


def _uses(w: Winding) -> list[Use]:
    return [x.use for x in w.list_]


def _cost(ways: list[Repair]) -> int:
    return min((len(r.moves) for r in ways), default=0)


def _made(winding: Winding, plate: dict[Use, float]) -> float | None:
    """The voltage that a half winding is made for, by the plate; None where its two voltages say two of them:
    they are not of this winding.
    """
    known = [v * half for use, v in plate.items() if (half := half_of(winding, use)) is not None]
    apart = max(known) / min(known) if known else math.inf
    return known[0] if apart < _APART else None


def lines_joined(box: Box) -> list[str]:
    """The lines that share a nut; none where each has its own."""
    return next((sorted(n & set(LINES)) for n in box if len(n & set(LINES)) > 1), [])


def finding(looked: Looked, answer: Answer | None) -> Finding | None:
    """Is the box right? None while nothing is in it.

    The worst state in which it would still be called good: leads marked wrongly by the last winder. Marks are
    believed; resistance and rolled leads tell otherwise.
    """
    if not looked.nuts.box or not looked.count:
        return None
    verdict, reason, notes = _said(looked, answer)
    unknown = None
    if verdict is Verdict.UNKNOWN:
        unknown = Unknown.INCONCLUSIVE if looked.whole else Unknown.INCOMPLETE
    return Finding(
        question="lead_list",
        part="motor",
        verdict=verdict,
        by=By.NOW if verdict is Verdict.STOP else By.THIS_SHIFT if verdict is Verdict.UNKNOWN else None,
        unknown=unknown,
        rule="lead_list",
        reason=reason,
        notes=notes,
    )


Said = tuple[Verdict, Phrase, list[Phrase]]


def _said(looked: Looked, answer: Answer | None) -> Said:
    if looked.single:
        return Verdict.UNKNOWN, phrase("leads.single_phase"), []
    joined = lines_joined(looked.nuts.box)
    if joined:
        return Verdict.STOP, phrase("leads.lines_joined", one=joined[0], two=joined[1]), []
    if not looked.may:
        return Verdict.UNKNOWN, phrase("leads.no_winding"), []
    if answer is None:
        return Verdict.UNKNOWN, phrase("leads.incomplete", leads=_names(looked)), []
    if looked.own.box and not looked.own.problems:
        plate = _against_plate(looked, answer)
        if plate is not None:
            return plate
    if answer.got.shorted:
        a, b, _ = answer.winding.coils[min(answer.got.shorted)]
        names = {"one": name_of(a, looked.marks), "two": name_of(b, looked.marks), "part": looked.part}
        return Verdict.STOP, phrase("leads.shorted", **names), moves_said(looked, answer)
    if not answer.fits:
        return Verdict.STOP, _wrong(looked, answer), moves_said(looked, answer)
    if len(looked.may) > 1 and not _alike(looked, answer):
        only = phrase(f"leads.kind_{answer.winding.kind}")
        told = "leads.only_for" if looked.count == 9 else "leads.only_run"
        return Verdict.UNKNOWN, phrase(told, winding=only), []
    return _volts(looked, answer)


def _alike(looked: Looked, answer: Answer) -> bool:
    """Is the list right for each winding that this may be, and a half made for as much in each?"""
    shares = []
    for w in looked.may:
        fit, made = answer.fits.get(w.id), _made(w, looked.plate)
        if fit is None:
            return False
        shares.append(fit.half / made if made else 0.0)
    return max(shares) - min(shares) < 0.01 * max(shares) if max(shares) > 0 else True


def _names(looked: Looked) -> str:
    return ", ".join([name_of(x, looked.marks) for x in (*looked.nuts.bare, *looked.nuts.loose)])


def _against_plate(looked: Looked, answer: Answer) -> Said | None:
    """The plate's own diagram wins; which line is which is a matter of direction."""

    def without(box: Box) -> set[frozenset[str]]:
        return {
            frozenset(x for x in n if x not in LINES) | ({"line"} if n & set(LINES) else set()) for n in box
        }

    if answer.got.shorted:
        return None
    if without(looked.own.box) == without(looked.nuts.box):
        return _as_plate(looked) if not answer.fits else None
    return Verdict.STOP, phrase("leads.not_as_plate"), []


def _as_plate(looked: Looked) -> Said:
    """As its own diagram has it: only on the supply that the diagram is for."""
    if looked.supply is not None and looked.plate and looked.use is None:
        return Verdict.STOP, phrase("leads.plate_supply", supply=amount(looked.supply, "V")), []
    if len(looked.plate) > 1 and looked.body.plate_for != looked.use:
        return Verdict.UNKNOWN, phrase("leads.plate_which"), []
    return Verdict.GOOD, phrase("leads.as_plate"), []


def _wrong(looked: Looked, answer: Answer) -> Phrase:
    if answer.got.open_:
        a, b, _ = answer.winding.coils[min(answer.got.open_)]
        names = {"one": name_of(a, looked.marks), "two": name_of(b, looked.marks), "part": looked.part}
        return phrase("leads.open", **names)
    sizes = [abs(v) for v in answer.got.volts]
    alike = max(sizes) - min(sizes) < ALIKE * max(sizes)
    return phrase("leads.angle", part=looked.part) if alike else phrase("leads.wrong")


def moves_said(looked: Looked, answer: Answer) -> list[Phrase]:
    """Each of the shortest ways to a right list, in words; none where the list is right for another voltage:
    then the list for this one is shown whole.
    """
    out: list[Phrase] = []
    if answer.fits and len(answer.repairs[0].moves if answer.repairs else ()) > looked.limits.count(
        "leads.moves"
    ):
        return out
    for r in answer.repairs:
        if r.swap:
            one, two = (name_of(m.lead, looked.marks) for m in r.moves)
            out.append(phrase("leads.exchange", one=one, two=two))
        elif len(r.moves) <= looked.limits.count("leads.moves"):
            parts = [_move(looked, m.lead, m.to) for m in r.moves]
            first = parts[0]
            for more in parts[1:]:
                first = phrase("leads.and_then", first=first, then=more)
            out.append(first)
    return out or ([phrase("leads.begin_anew")] if answer.repairs else [])


def _move(looked: Looked, lead: str, to: frozenset[str]) -> Phrase:
    others = sorted(to - {lead}, key=lambda x: (x not in LINES, int(x) if x.isdigit() else 0))
    names = " ".join(name_of(x, looked.marks) for x in others)
    return phrase("leads.move", lead=name_of(lead, looked.marks), to=names)


def _volts(looked: Looked, answer: Answer) -> Said:
    fit = answer.fits[answer.winding.id]
    title = next(
        (x.title for x in answer.winding.list_ if _same(half_of(answer.winding, x.use), fit.half)), ""
    )
    notes = [phrase("leads.reversed")] if fit.turns < 0 else []
    if looked.supply is None or answer.made is None:
        return Verdict.UNKNOWN, phrase("leads.pattern", title=title), notes
    percent = 100 * fit.half * looked.supply / answer.made
    figures: dict[str, Phrase | Quantity | str] = {
        "pct": amount(percent, "%"),
        "supply": amount(looked.supply, "V"),
        "part": looked.part,
    }
    if exceeds(abs(percent - 100), looked.limits.value("leads.supply_off")):
        if looked.use is None:
            return Verdict.STOP, phrase("leads.neither", **figures), notes
        how = "high" if percent > 100 else "low"
        return Verdict.STOP, phrase(f"leads.volts_{how}", title=title, **figures), notes
    return Verdict.GOOD, phrase("leads.right", title=title, **figures), notes


def _same(a: float | None, b: float) -> bool:
    return a is not None and abs(a - b) < 0.01 * b
