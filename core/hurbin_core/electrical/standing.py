"""What a running check stands on: which grounds of its rules are wanting, from what was entered and what is
known of the set."""

from __future__ import annotations

from ..base import Limits, Phrase, reaches
from ..plant import MotorFacts
from .entry import Taken

_UNSAID = {
    "read_at": "running.read_at",
    "valve": "running.valve",
    "coupled": "running.coupled",
    "speed": "running.speed",
}


def lacking(taken: Taken, motor: MotorFacts, limits: Limits) -> dict[str, Phrase | None]:
    """Which grounds are wanting? An input that was not entered, or a state that stands against the
    reading."""
    out: dict[str, Phrase | None] = {ground: None for name, ground in _UNSAID.items() if name in taken.unsaid}
    wanting = {
        "running.plate_frequency": _behind_drive(taken) and motor.frequency_hz is None,
        "running.over_frequency": _over_frequency(taken, motor, limits),
        "running.no_drive": not taken.on_drive and taken.read_at in ("drive_output", "drive_input"),
        "running.third_leg": taken.phases == 1 and any(a for a in taken.amps[1:]),
        "running.plate_amps": motor.amps_a is None,
        "running.plausible": _too_little(taken, motor, limits),
        "running.uncoupled": uncoupled_too_much(taken, motor, limits),
        "running.no_volts": _current_without_volts(taken),
        "running.slow_cooling": slow(taken, motor, limits) and not motor.cooling,
    }
    return {**out, **{ground: None for ground, lacks in wanting.items() if lacks}}


def _behind_drive(taken: Taken) -> bool:
    return taken.on_drive and not taken.ahead_of_drive


def share_of_plate(taken: Taken, motor: MotorFacts) -> float | None:
    """The worst leg in percent of nameplate current; None where either is not known."""
    return 100 * taken.top[0] / motor.amps_a if taken.top is not None and motor.amps_a else None


def _too_little(taken: Taken, motor: MotorFacts, limits: Limits) -> bool:
    """Current that is there, and less than any running motor draws. Ahead of a drive it may be."""
    pct = share_of_plate(taken, motor)
    return (
        pct is not None and pct > 0 and not taken.ahead_of_drive and reaches(limits.value("load.least"), pct)
    )


def uncoupled_too_much(taken: Taken, motor: MotorFacts, limits: Limits) -> bool:
    """Said to be uncoupled, and drawing what only a load asks for."""
    pct = share_of_plate(taken, motor)
    return taken.coupled is False and pct is not None and reaches(pct, limits.value("load.uncoupled"))


def _current_without_volts(taken: Taken) -> bool:
    volts = [v for v in taken.volts[: taken.wanted] if v is not None]
    return bool(volts) and max(volts) == 0 and taken.top is not None and taken.top[0] > 0


def _share_of_frequency(taken: Taken, motor: MotorFacts) -> float | None:
    """The drive's frequency in percent of the nameplate's; None where there is no drive or either is not
    known."""
    if not taken.on_drive or taken.speed_hz is None or not motor.frequency_hz:
        return None
    return 100 * taken.speed_hz / motor.frequency_hz


def _over_frequency(taken: Taken, motor: MotorFacts, limits: Limits) -> bool:
    share = _share_of_frequency(taken, motor)
    return share is not None and reaches(share, limits.value("drive.over_share"))


def slow(taken: Taken, motor: MotorFacts, limits: Limits) -> bool:
    """On a drive, below the share of the nameplate frequency at which a shaft-driven fan still cools."""
    share = _share_of_frequency(taken, motor)
    return share is not None and reaches(limits.value("cooling.slow_share"), share)
