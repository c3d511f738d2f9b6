"""The steps of filling a loop in their order, and which valve stands open or shut while each is done."""

from collections.abc import Sequence
from typing import Self

from pydantic import model_validator

from ...base import RULEBOOK, Model


class Valve(Model):
    """A valve of the loop as it is drawn."""

    id: str
    title: str


class FillStep(Model):
    """One step. open, shut: valves that stand so while it is done; the others stay as found."""

    id: str
    title: str
    why: str
    caution: str = ""
    open: list[str] = []
    shut: list[str] = []


class _Steps(Model):
    valve: list[Valve]
    step: list[FillStep]

    @model_validator(mode="after")
    def _told_once(self) -> Self:
        known = {v.id for v in self.valve}
        for s in self.step:
            told = [*s.open, *s.shut]
            if len(told) != len(set(told)) or not known.issuperset(told):
                raise ValueError(f"Step {s.id}: a valve is named twice, or is none of the drawing.")
        return self


_READ = RULEBOOK.section("hydraulics/fill/steps.toml", _Steps)
STEPS, VALVES = _READ.step, _READ.valve


class FillStepView(Model):
    """One step. state: done, next, later."""

    id: str
    title: str
    why: str
    caution: str
    state: str


class ValveView(Model):
    """One valve at the step that is next. state: open, shut, or found: as it was found."""

    id: str
    title: str
    state: str


def next_step(done: Sequence[str]) -> FillStep | None:
    """The first step that is not ticked; None when all are."""
    return next((s for s in STEPS if s.id not in done), None)


def steps_told(done: Sequence[str]) -> list[FillStepView]:
    """Every step with its state."""
    at = next_step(done)
    return [
        FillStepView(
            id=s.id,
            title=s.title,
            why=s.why,
            caution=s.caution,
            state="done" if s.id in done else "next" if s is at else "later",
        )
        for s in STEPS
    ]


def valves_at(done: Sequence[str]) -> list[ValveView]:
    """How every valve stands at the step that is next; after the last one as that one left it."""
    at = next_step(done) or STEPS[-1]
    return [
        ValveView(
            id=v.id,
            title=v.title,
            state="open" if v.id in at.open else "shut" if v.id in at.shut else "found",
        )
        for v in VALVES
    ]
