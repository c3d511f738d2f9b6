"""Fuse classes, as data: what each interrupts, and what else fits its clip."""

from __future__ import annotations

from ...base import RULEBOOK, Model, by_id


class FuseClass(Model):
    """One class. ka: what it interrupts, where the class says it. trap: what fits the same clip and is not
    the same. alone: what it does not clear by itself.
    """

    id: str
    title: str
    ka: float | None = None
    trap: str = ""
    alone: str = ""


class _File(Model):
    fuse_class: list[FuseClass]


FUSE_CLASSES: dict[str, FuseClass] = by_id(
    RULEBOOK.section("electrical/fuses/classes.toml", _File).fuse_class
)
