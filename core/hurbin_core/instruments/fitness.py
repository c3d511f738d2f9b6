"""Could this instrument have read this, then, on this circuit? And how does it stand today?"""

from __future__ import annotations

from datetime import datetime

from ..base import Limits, Model, Phrase, Verdict, amount, exceeds, phrase
from .register import INSTRUMENT_KINDS, READS, Instrument

# What is read on parts that may be live.
LIVE = ("voltage", "current", "voltage_drop", "power")
_DAY_S = 86400.0
# A figure on a scale of steps is a whole number of them, but for the decimals that it was typed with.
_STEP_SLACK = 1e-6


class Shown(Model):
    """One figure that was typed: its dimension, as typed, and metric; None: words, or a bound. steps: the
    number that is held against the resolution: metric, or as typed where the zero of its unit is another.
    """

    reads: str
    typed: str
    value: float | None = None
    steps: float | None = None


def unfit(tool: Instrument, shown: Shown, at: datetime, volts: float | None, limits: Limits) -> Phrase | None:
    """Why may this reading of this instrument not stand for good? None: nothing is known against it.

    at: when it was read. volts: the highest voltage known of the circuit, V; None: not known. The kind, the
    service, the calibration of that day (and what the next one found), the category, the range and the
    resolution are asked in this order.
    """
    span = tool.span(shown.reads)
    if span is None:
        return phrase("instrument.other", instrument=tool.name, what=READS.get(shown.reads, shown.reads))
    return (
        _service(tool, at)
        or _calibrated(tool, at)
        or (_category(tool, volts, limits) if shown.reads in LIVE else None)
        or _scale(tool, span.top, span.step, shown)
    )


def _service(tool: Instrument, at: datetime) -> Phrase | None:
    if at < tool.since:
        return phrase("instrument.not_yet", instrument=tool.name)
    if tool.until is not None and at >= tool.until:
        return phrase("instrument.retired", instrument=tool.name)
    return None


def _calibrated(tool: Instrument, at: datetime) -> Phrase | None:
    if not INSTRUMENT_KINDS[tool.kind].calibrated:
        return None
    held = tool.calibration(at)
    if held is None:
        return phrase("instrument.uncalibrated", instrument=tool.name)
    if held.due_at is None:
        return phrase("instrument.no_due", instrument=tool.name)
    if at >= held.due_at:
        over = amount(max(1.0, (at - held.due_at).total_seconds() / _DAY_S), "d")
        return phrase("instrument.expired", instrument=tool.name, over=over)
    after = tool.after(at)
    if after is not None and after.found == "out":
        return phrase("instrument.found_out", instrument=tool.name)
    return None


def _category(tool: Instrument, volts: float | None, limits: Limits) -> Phrase | None:
    said = f"CAT {tool.category}" if tool.category else "without a measurement category"
    if tool.rank < limits.value("instrument.category"):
        return phrase("instrument.category", instrument=tool.name, category=said)
    if tool.category_volts is None:
        return phrase("instrument.category", instrument=tool.name, category=f"{said} without its voltage")
    if volts is None and exceeds(limits.value("instrument.unsaid_volts"), tool.category_volts):
        rated = amount(tool.category_volts, "V")
        return phrase("instrument.unsaid_volts", instrument=tool.name, category=said, rated=rated)
    if volts is not None and exceeds(volts, tool.category_volts):
        return phrase(
            "instrument.category_volts",
            instrument=tool.name,
            category=said,
            rated=amount(tool.category_volts, "V"),
            volts=amount(volts, "V"),
        )
    return None


def _scale(tool: Instrument, top: float, step: float, shown: Shown) -> Phrase | None:
    if shown.value is None or shown.steps is None:
        return None
    if exceeds(abs(shown.value), top):
        return phrase("instrument.over_range", instrument=tool.name, typed=shown.typed)
    steps = shown.steps / step
    if abs(steps - round(steps)) > _STEP_SLACK * max(1.0, abs(steps)):
        return phrase("instrument.finer", instrument=tool.name, typed=shown.typed)
    return None


class Stands(Model):
    """How an instrument stands today: in date, due soon, or not to be read with. left: days until its
    calibration is due; below zero: overdue by so many; None: there is none.
    """

    verdict: Verdict
    says: Phrase
    left: float | None = None
    low: bool = False


def stands(tool: Instrument, at: datetime, limits: Limits) -> Stands:
    """How does this instrument stand at this moment? Never good where a reading of it would not be.

    low: its category does not allow it on live parts.
    """
    kind = INSTRUMENT_KINDS[tool.kind]
    # Of the instrument alone: at which voltage it is used nobody asks here.
    low = _category(tool, 0.0, limits) if kind.live else None
    held = tool.calibration(at)
    due = held.due_at if held is not None else None
    left = (due - at).total_seconds() / _DAY_S if due is not None else None
    wrong = _service(tool, at)
    if wrong is not None:
        return Stands(verdict=Verdict.UNKNOWN, says=phrase("instrument.gone"), left=left, low=low is not None)
    if low is not None:
        category = f"CAT {tool.category}" if tool.category else "No measurement category"
        says = phrase("instrument.low", category=category)
        return Stands(verdict=Verdict.ACT, says=says, left=left, low=True)
    if not kind.calibrated:
        return Stands(verdict=Verdict.GOOD, says=phrase("instrument.proved"), left=left)
    if left is None:
        return Stands(verdict=Verdict.UNKNOWN, says=phrase("instrument.none"))
    if left <= 0:
        return Stands(
            verdict=Verdict.ACT, says=phrase("instrument.over", over=amount(max(1.0, -left), "d")), left=left
        )
    if exceeds(left, limits.value("instrument.soon")):
        return Stands(
            verdict=Verdict.GOOD, says=phrase("instrument.in_date", left=amount(left, "d")), left=left
        )
    soon = phrase("instrument.soon", left=amount(left, "d")) if left >= 1 else phrase("instrument.today")
    return Stands(verdict=Verdict.WATCH, says=soon, left=left)
