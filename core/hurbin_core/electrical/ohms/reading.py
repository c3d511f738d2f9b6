"""A sheet of ohms once understood: figures, what reads open, the finest step that the meter showed."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field

from ...base import UNITS, Bound, Entered, Limits, Problem, Read, read_fields, to_metric
from .entry import OhmsEntry


@dataclass(slots=True)
class Measured:
    """What was measured. `got`: figures in Ω, V, A, µF, °C; a path that is open has none, it is in `open`."""

    body: OhmsEntry
    limits: Limits
    got: dict[str, float] = field(default_factory=dict)
    open: set[str] = field(default_factory=set)
    problems: list[Problem] = field(default_factory=list)

    @property
    def lead(self) -> float | None:
        """What is subtracted for the test leads; None where nobody said how they were dealt with."""
        if self.body.lead_way in ("zeroed", "four_wire"):
            return 0.0
        return self.got.get("leads") if self.body.lead_way == "subtract" else None

    def net(self, name: str) -> float | None:
        """A reading less the test leads (as read while nobody said anything of them)."""
        value = self.got.get(name)
        return None if value is None else value - (self.lead or 0.0)

    def nets(self, names: Sequence[str]) -> list[float] | None:
        """All of these readings less the leads; None where one is missing or open."""
        got = [x for n in names if (x := self.net(n)) is not None]
        return got if len(got) == len(names) else None

    def step(self, names: Sequence[str]) -> float:
        """The finest last digit with which these were typed, in Ω: what the meter could show."""
        steps = [step_of(t) for n in names if (t := getattr(self.body, n)) is not None and n in self.got]
        return min(steps, default=0.0)

    def read_any(self, names: Sequence[str]) -> bool:
        """Was anything read of these?"""
        return any(n in self.got or n in self.open for n in names)


def step_of(typed: Entered) -> float:
    """The worth of the last digit of a figure as typed, in Ω.

    >>> step_of(Entered(text="0.62", unit="ohm"))
    0.01
    """
    digits = re.sub(r"[^\d.,]", "", typed.text).replace(",", ".")
    places = len(digits.rpartition(".")[2]) if "." in digits else 0
    named = re.search(r"[a-zA-ZµμΩω].*$", typed.text)
    code = typed.unit if typed.unit in UNITS else "ohm"
    if named is not None:
        said = named.group().strip().lower()
        symbols = {u.symbol.lower(): u.code for u in UNITS.values() if u.dimension == "low_resistance"}
        code = symbols.get(said, code)
    return float(round(10.0**-places * to_metric(1.0, code), 9))


def understand(body: OhmsEntry, limits: Limits) -> Measured:
    """What was read, what is open, and what cannot be."""
    out = Measured(body, limits)
    read, out.problems = read_fields(body)
    for name, r in read.items():
        if r.word:
            out.open.add(name)
        elif r.bound is Bound.EXACT:
            out.got[name] = r.value
    if body.lead_way == "subtract":
        _less_than_leads(out, read)
    return out


def _less_than_leads(out: Measured, read: dict[str, Read]) -> None:
    """No path is less than the leads it was read through."""
    lead = out.got.get("leads")
    if lead is None:
        return
    for name, r in read.items():
        if name == "leads" or r.unit != "ohm" or name in out.open or name not in out.got or r.value >= lead:
            continue
        typed = getattr(out.body, name)
        out.problems.append(
            Problem(
                code="less_than_leads",
                field=name,
                value=typed.text,
                message=f"{typed.text} is less than the test leads alone ({out.body.leads.text})."
                if out.body.leads
                else "",
                right="at least the reading of the leads",
            )
        )
        del out.got[name]
