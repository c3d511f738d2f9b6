"""What a parameter ought to be, and from what that is known: nameplate, fuse, pump, pipe, or entered."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from ...base import Limits, Phrase, amount, exceeds, phrase
from ...plant import MotorFacts
from .parameters import PARAMETERS, Parameter, Set, known_rules


@dataclass(slots=True)
class Facts:
    """What is known besides the settings. figures: typed on the sheet, in the core's own units. settings: as
    they stand, for those that hang on one another.
    """

    motor: MotorFacts
    limits: Limits
    fuse_amps: float | None = None
    rated_amps: float | None = None
    figures: dict[str, float] = field(default_factory=dict)
    restart_allowed: str = ""
    settings: dict[str, Set] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Should:
    """What it ought to be. low, high: in the core's own unit, both ends pass; words: the choices that pass.
    why: from what it is known. unknown: what is wanting to know it; then nothing passes.
    """

    low: float | None = None
    high: float | None = None
    words: tuple[str, ...] = ()
    why: str = ""
    unknown: str = ""

    def passes(self, said: Set) -> bool:
        """Is it as it ought to be? The ends pass."""
        if self.unknown:
            return False
        if self.words:
            return said.word in self.words
        if self.low is not None and exceeds(self.low, said.value):
            return False
        return self.high is None or not exceeds(said.value, self.high)


def _near(value: float, share: float, why: str) -> Should:
    return Should(value * (1 - share / 100), value * (1 + share / 100), why=why)


def _plate(name: str, unknown: str) -> Callable[[Facts], Should]:
    def should(f: Facts) -> Should:
        value = getattr(f.motor, name)
        if value is None:
            return Should(unknown=unknown)
        return _near(value, f.limits.value("drive.plate"), "nameplate")

    return should


def _rpm(f: Facts) -> Should:
    """Full-load speed, never the synchronous one."""
    rpm, hz = f.motor.speed_rpm, f.motor.frequency_hz
    if rpm is None:
        return Should(unknown="nameplate speed")
    near = _near(rpm, f.limits.value("drive.speed"), "nameplate full-load speed")
    pairs = int(60 * hz / rpm + 1e-9) if hz and rpm else 0
    if not hz or not pairs or near.high is None:
        return near
    below = 60 * hz / pairs * (1 - 1e-6)
    return Should(near.low, min(near.high, below) if below > rpm else near.high, why=near.why)


def _poles(f: Facts) -> Should:
    """120 × frequency ÷ speed, next even number below: arithmetic.

    >>> from hurbin_core.plant import MotorFacts
    >>> _poles(Facts(MotorFacts(speed_rpm=1465, frequency_hz=50), Limits())).low
    4.0
    """
    hz, rpm = f.motor.frequency_hz, f.motor.speed_rpm
    if not hz or not rpm:
        return Should(unknown="nameplate frequency and speed")
    poles = float(2 * int(60 * hz / rpm + 1e-9))
    return Should(poles, poles, why="nameplate frequency and speed")


def _overload(f: Facts) -> Should:
    amps = f.motor.sf_amps_a if f.motor.sf_on_drive and f.motor.sf_amps_a else f.motor.amps_a
    if amps is None:
        return Should(unknown="nameplate current")
    share = f.limits.value("drive.plate")
    return Should(amps * (1 - share / 100), amps * (1 + share / 100), why="nameplate current")


def _limit(f: Facts) -> Should:
    """At least nameplate current, at most the fuse and the drive's own rating."""
    if f.motor.amps_a is None:
        return Should(unknown="nameplate current")
    ends = [x for x in (f.fuse_amps, f.rated_amps) if x]
    if not f.fuse_amps:
        return Should(unknown="fuse in front of the drive")
    return Should(
        f.motor.amps_a * (1 - f.limits.value("drive.plate") / 100), min(ends), why="nameplate to fuse"
    )


def _least_hz(f: Facts) -> Should:
    """What lifts the head, and what cools the motor."""
    lifts = f.figures.get("least_hz")
    if lifts is None:
        return Should(unknown="lowest frequency that lifts the head")
    cools = f.limits.value("drive.least_hz") if f.motor.cooling in ("", "own_fan") else 0.0
    return Should(max(lifts, cools), None, why="lifts the head, cools the motor")


def _most_hz(f: Facts) -> Should:
    hz = f.motor.frequency_hz
    return Should(0.0, hz, why="nameplate frequency") if hz else Should(unknown="nameplate frequency")


def _ramp(f: Facts) -> Should:
    """Long against water hammer: twice the time a pressure wave takes, times a margin."""
    pipe = f.figures.get("pipe")
    if pipe is None:
        return Should(unknown="length of the pipe")
    wave = 2 * pipe / f.limits.value("drive.wave")
    return Should(max(f.limits.value("drive.ramp"), wave), None, why="water hammer")


def _stall(f: Facts) -> Should:
    ramp = f.settings.get("accel")
    if ramp is None:
        return Should(unknown="acceleration")
    return Should(0.0, ramp.value * f.limits.value("drive.stall"), why="well inside the ramp")


def _carrier(f: Facts) -> Should:
    cable = f.figures.get("cable")
    if cable is None:
        return Should(unknown="length of the motor cable")
    if not exceeds(cable, f.limits.value("drive.cable")):
        return Should(0.0, None, why="short cable")
    return Should(f.limits.value("drive.carrier_low"), f.limits.value("drive.carrier"), why="long cable")


def _restart(f: Facts) -> Should:
    if not f.restart_allowed:
        return Should(unknown="whether it may start by itself")
    return Should(words=("off",) if f.restart_allowed == "no" else ("off", "on"), why="by hazard")


def _words(*words: str, why: str) -> Callable[[Facts], Should]:
    return lambda _: Should(words=words, why=why)


_RULES: dict[str, Callable[[Facts], Should]] = {
    "plate_volts": _plate("volts_v", "nameplate voltage"),
    "plate_hz": _plate("frequency_hz", "nameplate frequency"),
    "plate_amps": _plate("amps_a", "nameplate current"),
    "plate_power": _plate("power_kw", "nameplate power"),
    "plate_rpm": _rpm,
    "plate_poles": _poles,
    "overload": _overload,
    "limit": _limit,
    "least_hz": _least_hz,
    "most_hz": _most_hz,
    "accel": _ramp,
    "stall": _stall,
    "carrier": _carrier,
    "restart": _restart,
    "resets": lambda f: Should(0.0, f.limits.value("drive.resets"), why="no more than that"),
    "on": _words("trip", why="protects motor and drive"),
    "forward": _words("forward", why="direction is proved by the shaft, not turned here"),
    "no_reverse": _words("no", why="a pump never turns backwards"),
    "defined": _words("hold", "preset", "stop", "trip", why="defined, and proved by pulling the wire"),
    "stated": lambda _: Should(unknown="what it should be: it is this plant's own"),
}


def should_of(parameter: Parameter, facts: Facts, said: Set | None, why: str) -> Should | None:
    """What this parameter ought to be; None where it is kept and compared only. said: what was entered as
    such, which goes before any rule but not above what nameplate and fuse allow.
    """
    own = _RULES[parameter.should](facts) if parameter.should else None
    if said is None:
        return own
    entered = why.strip() or "entered"
    if own is not None and not own.unknown and not own.passes(said):
        return own
    if said.word:
        return Should(words=(said.word,), why=entered)
    return _near(said.value, facts.limits.value("drive.plate"), entered)


def shown(parameter: Parameter, should: Should) -> Phrase:
    """What it ought to be, as one says it."""
    if should.unknown:
        return phrase("drive.should_unknown", what=should.unknown)
    if should.words:
        return phrase("drive.should_words", words=" or ".join(should.words))
    unit = parameter.unit
    low, high = should.low, should.high
    if low is not None and high is not None and low > 0 and high / low < 1.2:
        return phrase("drive.should_near", value=_said((low + high) / 2, unit))
    if high is None:
        return phrase("drive.should_least", value=_said(low or 0.0, unit))
    if not low:
        return phrase("drive.should_most", value=_said(high, unit))
    return phrase("drive.should_between", low=_said(low, unit), high=_said(high, unit))


def _said(value: float, unit: str) -> Phrase:
    """A figure of any dimension within a sentence; a count is a word."""
    if unit == "1":
        return phrase("drive.word", word=f"{value:g}")
    return phrase(f"drive.fig_{_DIMENSION[unit]}", x=amount(value, unit))


_DIMENSION = {p.unit: p.dimension for p in PARAMETERS.values() if p.unit}


def shown_set(parameter: Parameter, said: Set) -> Phrase:
    """What it stands at, as one says it."""
    if said.word:
        return phrase("drive.word", word=said.word)
    return _said(said.value, parameter.unit)


known_rules(_RULES)
