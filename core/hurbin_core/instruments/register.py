"""The register of instruments: what each measures, how far and how finely, for which circuits it is built,
and until when its calibration counts.
"""

from __future__ import annotations

import re
from datetime import datetime
from typing import Literal

from pydantic import Field

from ..base import (
    DIMENSIONS,
    RULEBOOK,
    Entered,
    FieldRule,
    HurbinError,
    Model,
    by_id,
    known,
    read,
)

Category = Literal["", "II", "III", "IV"]
# By rank: an instrument without a category is built for no circuit of an installation.
_RANKS: dict[str, int] = {"": 0, "II": 2, "III": 3, "IV": 4}


# In files labels stand in lists: what parts these stands in no label.
_LABEL = re.compile(r"[^;=\x00-\x1f\x7f]+")


class InstrumentKind(Model):
    """What instruments of one kind measure. live: put on live parts. calibrated: a reading counts while the
    calibration is in date.
    """

    id: str
    title: str
    reads: list[str]
    live: bool = False
    calibrated: bool = True


class _File(Model):
    kind: list[InstrumentKind]
    words: dict[str, str]


_data = RULEBOOK.section("instruments/kinds.toml", _File)
INSTRUMENT_KINDS: dict[str, InstrumentKind] = by_id(_data.kind)
# What a dimension is called where its instrument is chosen.
READS: dict[str, str] = _data.words
for _kind in _data.kind:
    known(_kind.reads, DIMENSIONS, _kind.id, "unit")
    known(_kind.reads, READS, _kind.id, "word")


class SpanSaid(Model):
    """One thing an instrument measures, as it was entered: the top of its range, the finest step it shows."""

    reads: str = Field(max_length=40)
    top: Entered
    step: Entered


class InstrumentSaid(Model):
    """An instrument as it was entered. name: what stands on its label. category, category_volts: as printed
    at its sockets.
    """

    name: str = Field(max_length=60)
    kind: str = Field(max_length=40)
    spans: list[SpanSaid] = Field(max_length=12)
    category: Category = ""
    category_volts: Entered | None = None
    note: str = Field(default="", max_length=200)


class Span(Model):
    """One thing an instrument measures, metric: up to top, in steps of step."""

    reads: str
    top: float
    step: float


class Calibration(Model):
    """One calibration. due_at: from when on it no longer counts; none: nobody said. found: what the
    instrument showed before anything was set right.
    """

    done_at: datetime
    due_at: datetime | None = None
    found: Literal["", "within", "out"] = ""


class Instrument(Model):
    """An instrument of a site's register. since, until: when it was in service. category_volts: V."""

    id: str
    name: str
    kind: str
    category: Category = ""
    category_volts: float | None = None
    spans: list[Span] = []
    since: datetime
    until: datetime | None = None
    calibrations: list[Calibration] = []

    def span(self, dimension: str) -> Span | None:
        """What it measures of a dimension; None: nothing of it."""
        return next((s for s in self.spans if s.reads == dimension), None)

    @property
    def rank(self) -> int:
        """Its measurement category as a number; 0: it has none."""
        return _RANKS[self.category]

    def calibration(self, at: datetime) -> Calibration | None:
        """The calibration that counted then."""
        return max((c for c in self.calibrations if c.done_at <= at), key=lambda c: c.done_at, default=None)

    def after(self, at: datetime) -> Calibration | None:
        """The calibration that came next."""
        return min((c for c in self.calibrations if c.done_at > at), key=lambda c: c.done_at, default=None)


def kind_of(kind_id: str) -> InstrumentKind:
    """The kind by its id. Raises `kind_unknown` with those that are."""
    found = INSTRUMENT_KINDS.get(kind_id)
    if found is None:
        raise HurbinError(
            "kind_unknown",
            f"“{kind_id}” is not a kind of instrument.",
            field="kind",
            value=kind_id,
            right=", ".join(INSTRUMENT_KINDS),
        )
    return found


def instrument_of(said: InstrumentSaid, **more: object) -> Instrument:
    """The instrument that was entered here, metric; `more`: its id, since when and until when it is in
    service, its calibrations.

    Raises HurbinError for a name that is none, a kind nobody knows, a range or step that is missing, twice or
    not possible, and for an instrument put on live parts without the volts of its category.
    """
    if not said.name.strip():
        raise HurbinError("name_missing", "Enter what stands on its label.", field="name", right="Meter 3")
    if not _LABEL.fullmatch(said.name.strip()):
        raise HurbinError(
            "name_wrong",
            "A label is one line, without “;” and “=”.",
            field="name",
            value=said.name[:60],
            right="Meter 3",
        )
    kind = kind_of(said.kind)
    spans = [_span(kind, s) for s in said.spans]
    if not spans:
        raise HurbinError(
            "spans_missing",
            "Enter what it measures: range and resolution of one at least.",
            field="spans",
            right=", ".join(READS[d] for d in kind.reads),
        )
    twice = next((s.reads for i, s in enumerate(spans) if s.reads in [x.reads for x in spans[:i]]), None)
    if twice is not None:
        raise HurbinError("span_twice", f"{READS[twice].capitalize()} is entered twice.", field="spans")
    rule = FieldRule("category_volts", "Rated voltage of the category", "voltage", 1.0, 20000.0)
    rated = read(said.category_volts, rule)
    if kind.live and said.category and rated is None:
        raise HurbinError(
            "category_volts_missing",
            "Enter the voltage of its category, as printed at its sockets.",
            field="category_volts",
            right="600 V",
        )
    return Instrument.model_validate(
        {
            "name": said.name.strip(),
            "kind": kind.id,
            "category": said.category if kind.live else "",
            "category_volts": rated.value if rated is not None and kind.live else None,
            "spans": spans,
            **more,
        }
    )


def _span(kind: InstrumentKind, said: SpanSaid) -> Span:
    if said.reads not in kind.reads:
        raise HurbinError(
            "span_other",
            f"{kind.title}: does not measure “{said.reads}”.",
            field="spans",
            value=said.reads,
            right=", ".join(kind.reads),
        )
    word = READS[said.reads]
    top = read(said.top, FieldRule(f"{said.reads}.top", f"Range, {word}", said.reads, 0.0))
    step = read(said.step, FieldRule(f"{said.reads}.step", f"Resolution, {word}", said.reads, 0.0))
    if top is None or step is None or top.value <= 0 or step.value <= 0:
        raise HurbinError(
            "span_missing",
            f"Enter the top of its range and its resolution for {word}, both over zero.",
            field=f"{said.reads}.top" if top is None or top.value <= 0 else f"{said.reads}.step",
        )
    if step.value > top.value / 10:
        raise HurbinError(
            "span_coarse",
            f"{word.capitalize()}: steps of {said.step.text} on a range of {said.top.text}: check both.",
            field=f"{said.reads}.step",
            value=said.step.text,
        )
    return Span(reads=said.reads, top=top.value, step=step.value)
