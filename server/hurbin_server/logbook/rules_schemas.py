"""Shapes of the rulebook as a site reads it, and of a site's own figures."""

from __future__ import annotations

from pydantic import BaseModel, Field

from hurbin_core.base import Certainty, Override, Verdict


class OverrideIn(BaseModel):
    limit: str = Field(max_length=60)
    value: float | None = None
    unit: str = Field(default="", max_length=12)
    choice: str = Field(default="", max_length=30)
    reason: str = Field(max_length=300)
    set_id: int | None = None


class OverrideRow(BaseModel):
    id: int
    set_tag: str
    override: Override
    shown: str


class LimitRow(BaseModel):
    id: str
    title: str
    topic: str
    shown: str
    unit: str
    symbol: str
    source: str
    certainty: Certainty
    from_memory: bool
    why: str
    fixed: bool
    overrides: list[OverrideRow]


class TopicRow(BaseModel):
    """What some rules are about: key as the rows below name it, room and title in words."""

    key: str
    room: str
    title: str


class TableRow(BaseModel):
    """A table of the rulebook as its source gives it: a heading a column, each with its unit."""

    id: str
    title: str
    topic: str
    columns: list[str]
    rows: list[list[str]]
    source: str
    certainty: Certainty
    from_memory: bool
    why: str


class SchoolRow(BaseModel):
    id: str
    title: str
    topic: str
    options: dict[str, str]
    default: str
    why: str
    overrides: list[OverrideRow]


class RuleTick(BaseModel):
    """A limit on the line of its rule, from 0 at its left to 1; `site_at`, `site`: what the site has set."""

    limit: str
    at: float
    shown: str
    site_at: float | None
    site: str


class RuleRow(BaseModel):
    """`zones`: what the line says from its left end to the first tick, between them, and beyond the last."""

    id: str
    title: str
    topic: str
    ticks: list[RuleTick]
    zones: list[Verdict]
    formula: str
    why: str
    source: str
    certainty: Certainty
    from_memory: bool
    limits: list[str]


class RulesOut(BaseModel):
    rules_version: str
    role: str
    topics: list[TopicRow]
    rules: list[RuleRow]
    limits: list[LimitRow]
    tables: list[TableRow]
    schools: list[SchoolRow]
