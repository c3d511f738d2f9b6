"""A sheet of protection once understood: figures, what the dial stands for in the line, its image."""

from __future__ import annotations

from dataclasses import dataclass, field

from ...base import (
    RULEBOOK,
    RULES,
    Finding,
    Limits,
    Model,
    Phrase,
    Problem,
    Quantity,
    Unknown,
    Verdict,
    amount,
    exceeds,
    read_fields,
)
from ...plant import ControlPlate, MotorFacts
from .entry import ProtectionEntry
from .formulas import line_amps, time_constant_s


class _Classes(Model):
    times: dict[str, tuple[float, float]]


class _Sizes(Model):
    amps: list[float]
    fuses: list[float]


_sizes = RULEBOOK.section("electrical/protection/sizes.toml", _Sizes)
_classes = RULEBOOK.section("electrical/protection/classes.toml", _Classes)
FUSES: tuple[float, ...] = tuple(sorted([*_sizes.amps, *_sizes.fuses]))
BREAKERS: tuple[float, ...] = tuple(_sizes.amps)
CLASS_S: dict[str, tuple[float, float]] = _classes.times


@dataclass(slots=True)
class Guard:
    """The sheet once read. got: A, s, kA, kg·m², by field."""

    body: ProtectionEntry
    motor: MotorFacts
    limits: Limits
    control_kind: str = ""
    got: dict[str, float] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    @property
    def device(self) -> str:
        """A drive protects its motor by itself where nobody said otherwise."""
        return self.body.overload or ("drive" if self.control_kind == "drive" else "")

    @property
    def said(self) -> bool:
        """Does the sheet speak of an overload at all?"""
        return bool(self.body.overload) or "dial" in self.got

    @property
    def ratio(self) -> float | None:
        """Of the current transformer; 1 where there is none; None where nobody said, or it is not whole."""
        if self.body.transformer == "none" or self.device == "drive":
            return 1.0
        one, two = self.got.get("ct_primary"), self.got.get("ct_secondary")
        return one / two if one and two else None

    @property
    def loops(self) -> float | None:
        return 1.0 if self.device == "drive" else self.got.get("loops")

    @property
    def path_known(self) -> bool:
        return self.ratio is not None and self.loops is not None

    @property
    def multiplier(self) -> float | None:
        return 1.0 if self.device == "drive" else self.got.get("multiplier")

    def in_line(self, setting: float) -> float:
        """What a setting stands for in the line; a lead passes once, through nothing, where nobody said."""
        return line_amps(setting, self.ratio or 1.0, self.loops or 1.0, bool(self.body.inside_delta))

    @property
    def dial_amps(self) -> float | None:
        """The dial in amps of the line; None where how current reaches it is not known."""
        dial = self.got.get("dial")
        return self.in_line(dial) if dial and self.path_known else None

    @property
    def high_ceiling(self) -> bool | None:
        """Does the nameplate grant the higher trip? None where it does not say."""
        if self.body.rise_40:
            return True
        if self.motor.sf is None:
            return None
        return not exceeds(self.limits.value("overload.sf_plate"), self.motor.sf)

    @property
    def seconds(self) -> tuple[float, float] | None:
        """The shortest and the longest time to trip at 7.2 × the dial, from cold."""
        if "seconds" in self.got:
            return self.got["seconds"], self.got["seconds"]
        return CLASS_S.get(self.body.trip_class or "")

    @property
    def images(self) -> tuple[float, float] | None:
        """The time constants of the quickest and the slowest image that fits the class, in s."""
        times, edge = self.seconds, self.limits.value("overload.edge")
        return (time_constant_s(times[0], edge), time_constant_s(times[1], edge)) if times else None


def understand(
    body: ProtectionEntry, motor: MotorFacts, control: ControlPlate | None, kind: str, limits: Limits
) -> Guard:
    """What was typed, and from the starter's nameplate what was not."""
    out = Guard(body, motor, limits, kind)
    read, out.problems = read_fields(body)
    out.got = {n: r.value for n, r in read.items()}
    if control is not None:
        plate, _ = read_fields(control)
        if "overload_multiplier" in plate:
            out.got.setdefault("multiplier", plate["overload_multiplier"].value)
        if body.trip_class is None and control.trip_class and "seconds" not in out.got:
            out.body = body.model_copy(update={"trip_class": control.trip_class})
    _refuse(out)
    return out


def _refuse(out: Guard) -> None:
    """What cannot be: a conductor that never passes, half of one, a transformer without a side."""
    loops = out.got.get("loops")
    if loops is not None and (loops < 1 or loops != int(loops)):
        words = "A lead that goes through once counts as one pass: it is never 0, nor part of one."
        _wrong(out, "loops", words, "1 or more, whole")
    for name, words in _NOT_ZERO.items():
        if out.got.get(name) == 0:
            _wrong(out, name, words, "above 0")
    one, two = out.got.get("ct_primary"), out.got.get("ct_secondary")
    if out.body.transformer == "none" and (one or two):
        words = "Current transformers are entered as none, and with a ratio. Correct one of the two."
        _wrong(out, "ct_primary", words, "one of the two")
    elif one and two and exceeds(two, one):
        words = "A current transformer brings current down: its primary is the larger one."
        _wrong(out, "ct_primary", words, "150 to 5")


_NOT_ZERO = {
    "dial": "A dial at 0 is no setting.",
    "ct_primary": "A current transformer without a primary current is none.",
    "ct_secondary": "A current transformer without a secondary current is none.",
    "seconds": "No overload trips in no time.",
    "start_seconds": "No motor starts in no time.",
    "stall_seconds": "A locked-rotor time of nothing protects nothing.",
    "start_amps": "No motor starts without current.",
    "table_amps": "A table current of 0 is no motor's.",
    "short_amps": "A rating of 0 A carries nothing.",
}


def _wrong(out: Guard, name: str, message: str, right: str) -> None:
    typed = getattr(out.body, name)
    out.got.pop(name, None)
    out.problems.append(
        Problem(
            code="protection_wrong",
            field=name,
            value=typed.text if typed is not None else "",
            message=message,
            right=right,
        )
    )


def answer(
    question: str,
    verdict: Verdict,
    reason: Phrase,
    *notes: Phrase,
    part: str = "control",
    unknown: Unknown = Unknown.INCOMPLETE,
) -> Finding:
    """One answer of this sheet."""
    return Finding(
        question=question,
        part=part,
        verdict=verdict,
        by=RULES[question].by.get(verdict),
        unknown=unknown if verdict is Verdict.UNKNOWN else None,
        rule=question,
        reason=reason,
        notes=list(notes),
    )


def lasting(seconds: float) -> Quantity:
    """A time as one says it: in seconds, from two minutes on in minutes."""
    return amount(seconds / 60, "min") if seconds >= 120 else amount(seconds, "s")
