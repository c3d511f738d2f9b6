"""A drive's sheet once understood: each parameter found, left, as it was last time, as it ought to be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime

from ...base import HurbinError, Limits, Problem, exceeds, read_fields
from ...logbook import AnyCase, PastSheet
from ...plant import motor_facts
from .entry import DriveRow, DriveSheetEntry
from .parameters import MAPS, PARAMETERS, Parameter, RegisterMap, Set, read_setting
from .shoulds import Facts, Should, should_of

# Two figures that differ by no more than this share are one setting, as a display rounds it.
_ROUNDED = Limits().value("drive.rounded") / 100


@dataclass(slots=True)
class Row:
    """One parameter of the sheet. before: as it was left last time. should: what it ought to be; None where
    it is kept and compared only.
    """

    parameter: Parameter
    typed: DriveRow
    found: Set | None = None
    left: Set | None = None
    before: Set | None = None
    before_text: str = ""
    should: Should | None = None
    own: bool = False

    @property
    def now(self) -> Set | None:
        return self.left or self.found

    @property
    def state(self) -> str:
        """right, wrong, reasoned, unread, unsure, or empty where nothing is asked of it."""
        if self.should is None:
            return ""
        if self.now is None:
            return "unread"
        if self.should.unknown:
            return "unsure"
        if self.should.passes(self.now):
            return "right"
        return "reasoned" if self.left is not None and self.typed.reason.strip() else "wrong"

    @property
    def moved(self) -> bool:
        """Was it found otherwise than it was left?"""
        return self.before is not None and self.found is not None and not alike(self.before, self.found)


def alike(a: Set, b: Set) -> bool:
    """The same setting: the same word, or the same figure but for what a display rounds off."""
    if a.word or b.word:
        return a.word == b.word
    return not exceeds(abs(a.value - b.value), _ROUNDED * max(abs(a.value), abs(b.value)))


@dataclass(slots=True)
class Sheet:
    """The whole sheet. rows: every parameter there is, in their order."""

    body: DriveSheetEntry
    limits: Limits
    facts: Facts
    rows: dict[str, Row] = field(default_factory=dict)
    family: RegisterMap | None = None
    before_at: datetime | None = None
    other_drive: bool = False
    problems: list[Problem] = field(default_factory=list)

    @property
    def read(self) -> list[Row]:
        return [r for r in self.rows.values() if r.now is not None]

    @property
    def moved(self) -> list[Row]:
        return [r for r in self.rows.values() if r.moved]


def understand(body: DriveSheetEntry, case: AnyCase) -> Sheet:
    """What was found and left, beside nameplate, fuse and last visit."""
    context = case.context
    limits, motor = Limits(context.overrides), motor_facts(context.motor)
    got, problems = read_fields(body)
    figures = {n: r.value for n, r in got.items()}
    facts = Facts(motor, limits, figures=figures, restart_allowed=body.restart_allowed or "")
    facts.fuse_amps = figures.get("fuse")
    if facts.fuse_amps is None and context.fuses is not None:
        plate, _ = read_fields(context.fuses)
        facts.fuse_amps = plate["fuse_amps"].value if "fuse_amps" in plate else None
    if context.control is not None:
        plate, _ = read_fields(context.control)
        facts.rated_amps = plate["rated_amps"].value if "rated_amps" in plate else None
    out = Sheet(body, limits, facts, family=MAPS.get(body.family or ""), problems=problems)
    _read_rows(out)
    _before(out, context.earlier)
    control = [c.at for c in context.cuts if c.kind == "control_change"]
    out.other_drive = out.before_at is not None and any(at > out.before_at for at in control)
    facts.settings = {k: r.now for k, r in out.rows.items() if r.now is not None}
    for row in out.rows.values():
        entered = _setting(out, row.parameter, row.typed.should, "should")
        row.own = entered is not None
        row.should = should_of(row.parameter, facts, entered, row.typed.why)
    return out


def _read_rows(out: Sheet) -> None:
    typed = {}
    for row in out.body.rows:
        if row.id not in PARAMETERS:
            message = f"{row.id[:40] or 'A row'} is no parameter known here."
            out.problems.append(
                Problem(code="parameter_unknown", field="rows", value=row.id[:40], message=message)
            )
        elif row.id in typed:
            message = f"{PARAMETERS[row.id].title} is on the sheet twice."
            out.problems.append(Problem(code="parameter_twice", field=row.id, value=row.id, message=message))
        else:
            typed[row.id] = row
    for k, p in PARAMETERS.items():
        said = typed.get(k, DriveRow(id=k))
        out.rows[k] = Row(
            p, said, found=_setting(out, p, said.found, "found"), left=_setting(out, p, said.left, "left")
        )


def _setting(out: Sheet, parameter: Parameter, text: str, where: str) -> Set | None:
    try:
        return read_setting(parameter, text)
    except HurbinError as error:
        problem = Problem.of(error)
        out.problems.append(problem.model_copy(update={"field": f"{where}.{parameter.id}"}))
        return None


def _before(out: Sheet, earlier: Sequence[PastSheet]) -> None:
    """As each stood at the end of the last visit that read it at all."""
    for past in sorted(earlier, key=lambda p: p.taken_at):
        out.before_at = past.taken_at
        _left(out, past)


def _left(out: Sheet, past: PastSheet) -> None:
    for row in DriveSheetEntry.model_validate(past.body).rows:
        p = PARAMETERS.get(row.id)
        text = row.left or row.found
        if p is None or not text:
            continue
        try:
            out.rows[p.id].before, out.rows[p.id].before_text = read_setting(p, text), text
        except HurbinError:
            continue
