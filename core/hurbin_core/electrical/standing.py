"""What a running check stands on: which grounds of its rules are wanting, from what was entered and what is
known of the set."""

from __future__ import annotations

from ..base import Limits, Phrase, exceeds
from ..plant import MotorFacts
from .entry import RunningReadings

_UNSAID = {
    "read_at": "running.read_at",
    "valve": "running.valve",
    "coupled": "running.coupled",
    "speed": "running.speed",
}


def lacking(readings: RunningReadings, motor: MotorFacts, limits: Limits) -> dict[str, Phrase | None]:
    """Which grounds are wanting? An input that was not entered, or a state that stands against the
    reading."""
    out: dict[str, Phrase | None] = {
        ground: None for name, ground in _UNSAID.items() if name in readings.unsaid
    }
    wanting = {
        "running.plate_frequency": _behind_drive(readings) and motor.frequency_hz is None,
        "running.over_frequency": _over_frequency(readings, motor, limits),
        "running.no_drive": not readings.on_drive and readings.read_at in ("drive_output", "drive_input"),
        "running.third_leg": readings.phases == 1 and any(a for a in readings.amps[1:]),
        "running.plate_amps": motor.amps_a is None,
        "running.plausible": _too_little(readings, motor, limits),
        "running.uncoupled": uncoupled_too_much(readings, motor, limits),
        "running.no_volts": _current_without_volts(readings),
        "running.slow_cooling": slow(readings, motor, limits) and not motor.cooling,
    }
    return {**out, **{ground: None for ground, lacks in wanting.items() if lacks}}


def _behind_drive(readings: RunningReadings) -> bool:
    return readings.on_drive and not readings.ahead_of_drive


def share_of_plate(readings: RunningReadings, motor: MotorFacts) -> float | None:
    """The worst leg in percent of nameplate current; None where either is not known."""
    return 100 * readings.top[0] / motor.amps_a if readings.top is not None and motor.amps_a else None


def _too_little(readings: RunningReadings, motor: MotorFacts, limits: Limits) -> bool:
    """Current that is there, and less than any running motor draws. Ahead of a drive it may be."""
    pct = share_of_plate(readings, motor)
    return (
        pct is not None
        and pct > 0
        and not readings.ahead_of_drive
        and exceeds(limits.value("load.least"), pct)
    )


def uncoupled_too_much(readings: RunningReadings, motor: MotorFacts, limits: Limits) -> bool:
    """Said to be uncoupled, and drawing what only a load asks for."""
    pct = share_of_plate(readings, motor)
    return readings.coupled is False and pct is not None and exceeds(pct, limits.value("load.uncoupled"))


def _current_without_volts(readings: RunningReadings) -> bool:
    volts = [v for v in readings.volts[: readings.wanted] if v is not None]
    return bool(volts) and max(volts) == 0 and readings.top is not None and readings.top[0] > 0


def _share_of_frequency(readings: RunningReadings, motor: MotorFacts) -> float | None:
    """The drive's frequency in percent of the nameplate's; None where there is no drive or either is not
    known."""
    if not readings.on_drive or readings.speed_hz is None or not motor.frequency_hz:
        return None
    return 100 * readings.speed_hz / motor.frequency_hz


def _over_frequency(readings: RunningReadings, motor: MotorFacts, limits: Limits) -> bool:
    share = _share_of_frequency(readings, motor)
    return share is not None and exceeds(share, limits.value("drive.over_share"))


def slow(readings: RunningReadings, motor: MotorFacts, limits: Limits) -> bool:
    """On a drive, below the share of the nameplate frequency at which a shaft-driven fan still cools."""
    share = _share_of_frequency(readings, motor)
    return share is not None and exceeds(limits.value("cooling.slow_share"), share)
