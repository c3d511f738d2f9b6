"""What a drive is set to, how drives of several families answer, and how a value is read from that."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from ...base import RULEBOOK, Entered, FieldRule, HurbinError, Model, Problem, by_id, known, metric_of, read


class Group(Model):
    """Parameters that answer one question; without one they are kept and compared only."""

    id: str
    title: str
    question: str = ""


class Parameter(Model):
    """One thing a drive is set to. dimension, low, high: of a figure, in the core's own unit; choices: of a
    word. should: how what it ought to be is known. wrong: what a wrong one looks like.
    """

    id: str
    group: str
    title: str
    dimension: str = ""
    low: float = 0.0
    high: float = 0.0
    choices: list[str] = []
    should: str = ""
    wrong: str

    @property
    def unit(self) -> str:
        return metric_of(self.dimension).code if self.dimension else ""

    @property
    def rule(self) -> FieldRule:
        """How a figure of it is read as it was typed."""
        return FieldRule(self.id, self.title, self.dimension, self.low, self.high)


class Register(Model):
    """One parameter in a family's registers. value = number × scale, or a choice by its number."""

    parameter: str
    address: int
    scale: float = 1.0
    signed: bool = False
    choices: dict[str, str] = {}
    default: int


class RegisterMap(Model):
    """A family of drives. words: registers a value, the higher first."""

    id: str
    title: str
    words: int
    note: str
    registers: list[Register]


class _Parameters(Model):
    group: list[Group]
    parameter: list[Parameter]


class _Maps(Model):
    map: list[RegisterMap]


_told = RULEBOOK.section("electrical/drive_sheet/parameters.toml", _Parameters)
GROUPS: dict[str, Group] = by_id(_told.group)
PARAMETERS: dict[str, Parameter] = by_id(_told.parameter)
MAPS: dict[str, RegisterMap] = by_id(RULEBOOK.section("electrical/drive_sheet/maps.toml", _Maps).map)


@dataclass(frozen=True, slots=True)
class Set:
    """What a parameter stands at: a figure in the core's own unit, or a word."""

    parameter: Parameter
    value: float = 0.0
    word: str = ""


def read_setting(parameter: Parameter, text: str) -> Set | None:
    """A setting as it was typed: "400", "0.4 kV", "off". None where nothing was. Raises HurbinError for what
    it cannot be.
    """
    said = text.strip()
    if not said:
        return None
    if parameter.choices:
        word = said.lower()
        if word not in parameter.choices:
            raise HurbinError(
                "setting_word",
                f"{parameter.title}: “{said[:40]}” is none of what it can be set to.",
                field=parameter.id,
                value=said[:40],
                right=", ".join(parameter.choices),
            )
        return Set(parameter, word=word)
    got = read(Entered(text=said[:40]), parameter.rule)
    return Set(parameter, value=got.value) if got is not None else None


def typed(parameter: Parameter, value: float) -> str:
    """A figure as a person would type it, in the core's own unit."""
    return f"{value:.6g}"


@dataclass(frozen=True, slots=True)
class Decoded:
    """What a drive answered: settings as they would be typed, and each register that says something else."""

    settings: dict[str, str]
    problems: list[Problem]


def decode(family: RegisterMap, registers: dict[int, int], plate_volts: float | None = None) -> Decoded:
    """What do these registers say? Each number 0 to 65535 by its address.

    One that is missing, that no choice has, or that no drive can be set to is named and not taken. Motor
    voltage ten times or a tenth of the nameplate's is a wrong scale: then no figure of the answer counts.
    """
    settings: dict[str, str] = {}
    problems: list[Problem] = []
    for r in family.registers:
        p = PARAMETERS[r.parameter]
        words = [registers.get(r.address + n) for n in range(family.words)]
        if any(w is None for w in words):
            problems.append(_wrong(p, "", "register_missing", f"{p.title}: the drive did not answer it."))
            continue
        number = 0
        for w in words:
            number = number * 65536 + int(w or 0)
        if r.choices:
            word = r.choices.get(str(number))
            if word is None:
                said = f"{p.title}: {number} is none of its choices."
                problems.append(_wrong(p, str(number), "register_choice", said))
            else:
                settings[p.id] = word
            continue
        if r.signed and number >= 1 << (16 * family.words - 1):
            number -= 1 << (16 * family.words)
        value = number * r.scale
        if not p.low <= value <= p.high and value != 0:
            said = f"{p.title}: {typed(p, value)} {p.unit} is out of range: another family, or scaled wrong."
            problems.append(_wrong(p, str(number), "register_range", said))
            continue
        settings[p.id] = typed(p, value)
    volts = settings.get("motor_volts")
    if volts and plate_volts and _tenfold(float(volts) / plate_volts):
        said = (
            f"Motor voltage reads {volts} V on a nameplate of {typed(PARAMETERS['motor_volts'], plate_volts)}"
            " V: scaled wrong. Choose the drive's own family; nothing of this answer is taken."
        )
        wrong = _wrong(PARAMETERS["motor_volts"], volts, "register_scale", said)
        return Decoded({}, [wrong])
    return Decoded(settings, problems)


def _tenfold(ratio: float) -> bool:
    return any(abs(ratio / f - 1) < 0.15 for f in (0.01, 0.1, 10, 100))


def _wrong(p: Parameter, value: str, code: str, message: str) -> Problem:
    return Problem(code=code, field=p.id, value=value, message=message, right=p.title)


def defaults(family: RegisterMap) -> dict[str, str]:
    """Each parameter as it leaves the factory, as it would be typed."""
    return {
        r.parameter: r.choices[str(r.default)]
        if r.choices
        else typed(PARAMETERS[r.parameter], r.default * r.scale)
        for r in family.registers
    }


def known_rules(rules: Collection[str]) -> None:
    """Is every way to know what a parameter ought to be one that there is, every group and choice as well?"""
    known([p.should for p in PARAMETERS.values() if p.should], rules, "drive_sheet", "rule")
    known([p.group for p in PARAMETERS.values()], GROUPS, "drive_sheet", "group")
    for family in MAPS.values():
        known([r.parameter for r in family.registers], PARAMETERS, family.id, "parameter")
        for r in family.registers:
            known(r.choices.values(), PARAMETERS[r.parameter].choices, r.parameter, "choice")
