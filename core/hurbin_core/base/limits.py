"""Limits, rules, grounds, schools and texts: the data files, and the figures in force for one set."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from datetime import UTC, datetime
from enum import StrEnum
from importlib.resources import files
from itertools import pairwise

from pydantic import BaseModel, ConfigDict

from .errors import HurbinError
from .units import metric_of, to_metric, unit
from .verdict import By, Verdict


class Certainty(StrEnum):
    STANDARD = "standard"
    HANDBOOK = "handbook"
    PRACTICE = "practice"
    MAKER = "maker"


class Source(BaseModel):
    """Where a figure is from and how sure it is."""

    model_config = ConfigDict(frozen=True)
    source: str
    certainty: Certainty
    from_memory: bool = False


class Limit(Source):
    """One limit as its source states it, in its source's own unit. `fixed`: a life hangs on it, no site overrides it."""

    id: str
    title: str
    value: float
    unit: str
    why: str = ""
    label: str = ""
    fixed: bool = False


class School(BaseModel):
    """Where practitioners differ: the ways on offer, and the one taken unless a site says otherwise."""

    id: str
    title: str
    options: dict[str, str]
    default: str
    why: str


class Step(BaseModel):
    limit: str
    verdict: Verdict


class Ground(BaseModel):
    """An input, a state or a condition without which a rule may not say good (or watch). `says`: the instruction with its
    reason. `contradicts`: it is not missing but stands against the reading, so that the test cannot tell."""

    id: str
    says: str
    contradicts: bool = False


class Rule(Source):
    """One question the core answers: its formula, its steps, its source, how soon to act.

    ground: what good stands on, by the ids of the grounds. concerns: the parts whose exchange or event closes the answer
    (none: the part the finding hangs on). goes_with: the part that takes the answer along when it is fitted elsewhere.
    """

    id: str
    title: str
    formula: str
    why: str
    steps: list[Step] = []
    beyond: Verdict = Verdict.ACT
    floor: bool = False
    leads: bool = False
    by: dict[Verdict, By] = {}
    ground: list[str] = []
    concerns: list[str] = []
    goes_with: str = ""


class Override(BaseModel):
    """A site's own figure for a limit (or its choice of school), with who, when and why."""

    limit: str
    value: float | None = None
    unit: str = ""
    choice: str = ""
    reason: str
    by: str
    at: datetime


class UsedLimit(Source):
    """A limit as it was used: metric value, and the override if there is one."""

    id: str
    title: str
    label: str
    value: float
    unit: str
    override: Override | None = None
    standard_value: float


class Measurand(BaseModel):
    """One kind of figure that is trended: its words, the part it is shown at, its axis, the limits drawn with it."""

    id: str
    title: str
    label: str
    part: str
    log: bool = False
    floor: bool = False
    limits: list[str] = []
    plot: bool = True


class Data(BaseModel):
    """One topic's data files, checked when they are loaded."""

    limit: list[Limit] = []
    rule: list[Rule] = []
    school: list[School] = []
    measurand: list[Measurand] = []
    ground: list[Ground] = []
    text: dict[str, str] = {}


LIMITS: dict[str, Limit] = {}
RULES: dict[str, Rule] = {}
SCHOOLS: dict[str, School] = {}
MEASURANDS: dict[str, Measurand] = {}
GROUNDS: dict[str, Ground] = {}
TEXTS: dict[str, str] = {}
_HASHED: dict[str, bytes] = {}


def load_data(package: str, *names: str) -> None:
    """Read a topic's limits, rules and texts once, at import. A name used twice is refused."""
    for name in names:
        raw = files(package).joinpath(name).read_bytes()
        data = Data.model_validate(tomllib.loads(raw.decode()))
        _HASHED[f"{package}/{name}"] = raw
        for limit in data.limit:
            unit(limit.unit)
            _once(LIMITS, limit.id)
            LIMITS[limit.id] = limit
        for rule in data.rule:
            _once(RULES, rule.id)
            RULES[rule.id] = rule
        for school in data.school:
            _once(SCHOOLS, school.id)
            SCHOOLS[school.id] = school
        for measurand in data.measurand:
            _once(MEASURANDS, measurand.id)
            MEASURANDS[measurand.id] = measurand
        for ground in data.ground:
            _once(GROUNDS, ground.id)
            GROUNDS[ground.id] = ground
            TEXTS[f"ground.{ground.id}"] = ground.says
        for key, text in data.text.items():
            _once(TEXTS, key)
            TEXTS[key] = text
    for rule in RULES.values():
        for name in rule.ground:
            if name not in GROUNDS:
                raise HurbinError("ground_unknown", f"{rule.id} stands on {name}, which no data file says.", field=rule.id, value=name)


def _once(table: Mapping[str, object], key: str) -> None:
    if key in table:
        raise HurbinError("defined_twice", f"{key} is defined twice in the data files.", field=key)


def data_files() -> dict[str, bytes]:
    return dict(_HASHED)


class Limits:
    """The limits in force for one set: the published ones, with the site's overrides laid over."""

    def __init__(self, overrides: Iterable[Override] = ()) -> None:
        self._over = {o.limit: o for o in overrides}

    def get(self, limit_id: str) -> UsedLimit:
        base = LIMITS.get(limit_id)
        if base is None:
            raise HurbinError("limit_unknown", f"There is no limit {limit_id}.", field="limit", value=limit_id)
        metric = metric_of(unit(base.unit).dimension).code
        standard = to_metric(base.value, base.unit)
        over = self._over.get(limit_id)
        value = standard
        if over is not None and over.value is not None:
            value = to_metric(over.value, over.unit or base.unit)
        return UsedLimit(
            id=base.id,
            title=base.title,
            label=base.label,
            value=value,
            unit=metric,
            override=over,
            standard_value=standard,
            source=base.source,
            certainty=base.certainty,
            from_memory=base.from_memory,
        )

    def value(self, limit_id: str) -> float:
        return self.get(limit_id).value

    def school(self, school_id: str) -> str:
        over = self._over.get(school_id)
        return over.choice if over is not None and over.choice else SCHOOLS[school_id].default

    def override_of(self, limit_id: str) -> Override | None:
        return self._over.get(limit_id)


def check_override(limit_id: str, value: float | None, choice: str, others: Iterable[Override]) -> None:
    """May a site use this figure? Raises when the limit is unknown, or its steps would fall out of order."""
    if limit_id in SCHOOLS:
        if choice not in SCHOOLS[limit_id].options:
            right = ", ".join(SCHOOLS[limit_id].options)
            raise HurbinError("choice_unknown", f"“{choice}” is not one of {right}.", field="choice", right=right)
        return
    if limit_id not in LIMITS:
        raise HurbinError("limit_unknown", f"There is no limit {limit_id}.", field="limit", value=limit_id)
    if LIMITS[limit_id].fixed:
        raise HurbinError("limit_fixed", f"{LIMITS[limit_id].title}: a life hangs on this figure; it is not overridden.", field="value", value=value)
    if value is None or value <= 0:
        raise HurbinError("limit_not_positive", "A limit is a figure above zero.", field="value", value=value)
    trial = Override(limit=limit_id, value=value, reason="-", by="-", at=datetime(2000, 1, 1, tzinfo=UTC))
    limits = Limits([*(o for o in others if o.limit != limit_id), trial])
    for rule in RULES.values():
        steps = [limits.get(s.limit) for s in rule.steps]
        if limit_id not in [s.id for s in steps]:
            continue
        for lower, upper in pairwise(reversed(steps) if rule.floor else steps):
            if lower.value >= upper.value:
                raise HurbinError(
                    "limits_out_of_order",
                    f"{lower.title} ({lower.value:g}) must stay below {upper.title.lower()} ({upper.value:g}).",
                    field="value",
                    value=value,
                    right=f"between its neighbours in “{rule.title}”",
                )
