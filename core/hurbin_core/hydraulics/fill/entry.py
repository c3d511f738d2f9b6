"""Filling a loop as it is done: pipe, hose, branches, the drum of the air test, what is done and how it
stands.
"""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import Field

from ...base import Entered, Model, entered_field, said_field
from ..fields import kept_figure


class PipeRun(Model):
    """A length of pipe that counts into the volume."""

    bore: Entered | None = entered_field("Inside diameter", "length", low=3, high=2000)
    length: Entered | None = entered_field("Length", "head", high=50000)


class PurgeBranch(Model):
    """One branch purged alone. bore: of its largest pipe."""

    name: str = said_field("PurgeBranch", "", free=True, max_length=40)
    bore: Entered | None = entered_field("Largest inside diameter", "length", low=3, high=2000)
    length: Entered | None = entered_field("Length", "head", high=50000)
    flow: Entered | None = entered_field("Purge flow", "flow", unit="l/min", high=5000)
    minutes: Entered | None = entered_field("For", "duration", unit="min", high=86400)
    both: bool | None = said_field("Both ways")


class FillEntry(Model):
    """One filling. Every field may be missing."""

    pipes: list[PipeRun] = Field(default=[], max_length=60, title="Pipe")
    more: Entered | None = entered_field("Water in exchangers and others", "volume", high=1e6)
    hose: Entered | None = entered_field("Hose", "flow", unit="l/min", high=5000)
    temperature: Entered | None = entered_field("Fill temperature", "temperature", low=-10, high=120)
    precharge_found: Entered | None = entered_field("Precharge set", "pressure", unit="bar", high=2000)
    branches: list[PurgeBranch] = Field(default=[], max_length=40, title="Branches")
    drum: Entered | None = kept_figure("Drum, diameter", "head", 5, unit="m_head")
    drop: Entered | None = entered_field("Drum fell by", "length", high=2000)
    air_low: Entered | None = entered_field("Air test, from", "pressure", unit="bar", low=-90, high=4000)
    air_high: Entered | None = entered_field("Air test, to", "pressure", unit="bar", low=-90, high=4000)
    standing: Entered | None = entered_field(
        "Standing pressure now", "pressure", unit="bar", low=-110, high=4000
    )
    hose_on: Literal["off", "on"] | None = said_field("Hose")
    vented: bool | None = said_field("Suction vented, water without spit")
    turned: date | None = said_field("Shaft last turned by hand, or last ran")
    done: list[str] = Field(default=[], max_length=20, title="Done")
    note: str = said_field("Note", "", free=True, max_length=500)
