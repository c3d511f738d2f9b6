"""The figures in force for one set: the published limits, with the site's overrides laid over."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import UTC, datetime
from functools import lru_cache
from itertools import pairwise

from .errors import HurbinError
from .model import Model
from .rulebook import RULEBOOK
from .units import metric_of, to_metric, unit
from .verdict import Verdict
from .written_rules import Certainty, Rule

LIMITS, RULES, SCHOOLS = RULEBOOK.limits, RULEBOOK.rules, RULEBOOK.schools
MEASURANDS, GROUNDS, TABLES = RULEBOOK.measurands, RULEBOOK.grounds, RULEBOOK.tables


class Override(Model):
    """A site's own figure for a limit (or its choice of school), with who, when and why."""

    limit: str
    value: float | None = None
    unit: str = ""
    choice: str = ""
    reason: str
    by: str
    at: datetime


class UsedLimit(Model):
    """A limit as it was used: metric value, and the override if there is one."""

    id: str
    title: str
    label: str
    value: float
    unit: str
    override: Override | None = None
    standard_value: float
    source: str
    certainty: Certainty
    from_memory: bool = False

    def times(self, factor: UsedLimit) -> UsedLimit:
        """This limit taken so many times. Whoever overrode the factor overrode what comes of it."""
        return self.model_copy(
            update={
                "id": factor.id,
                "title": f"{factor.value:g} × {self.title[:1].lower()}{self.title[1:]}",
                "label": f"{factor.value:g} × {self.label or self.title}",
                "value": factor.value * self.value,
                "standard_value": factor.standard_value * self.standard_value,
                "override": factor.override or self.override,
                "source": factor.source,
                "certainty": factor.certainty,
                "from_memory": factor.from_memory,
            }
        )


Steps = list[tuple[UsedLimit, Verdict]]


@lru_cache(maxsize=512)
def _published(limit_id: str) -> UsedLimit:
    """The limit as its source has it, metric. Never changed by who uses it."""
    base = LIMITS.get(limit_id)
    if base is None:
        message = f"There is no limit {limit_id}."
        raise HurbinError("limit_unknown", message, field="limit", value=limit_id)
    standard = to_metric(base.value, base.unit)
    return UsedLimit(
        id=base.id,
        title=base.title,
        label=base.label,
        value=standard,
        unit=metric_of(unit(base.unit).dimension).code,
        standard_value=standard,
        source=base.source,
        certainty=base.certainty,
        from_memory=base.from_memory,
    )


class Limits:
    """The limits in force for one set: the published ones, with the site's overrides laid over."""

    def __init__(self, overrides: Iterable[Override] = ()) -> None:
        self._over = {o.limit: o for o in overrides}
        self._got: dict[str, UsedLimit] = {}

    def get(self, limit_id: str) -> UsedLimit:
        """The limit as it is used here. Raises `limit_unknown`."""
        over = self._over.get(limit_id)
        if over is None:
            return _published(limit_id)
        found = self._got.get(limit_id)
        if found is None:
            used, own = _published(limit_id), over.value
            value = used.value if own is None else to_metric(own, over.unit or LIMITS[limit_id].unit)
            found = self._got[limit_id] = used.model_copy(update={"value": value, "override": over})
        return found

    def value(self, limit_id: str) -> float:
        return self.get(limit_id).value

    def count(self, limit_id: str) -> int:
        """A limit that counts something: checks, pieces, tests."""
        return round(self.get(limit_id).value)

    def steps(self, rule_id: str, instead: Mapping[str, UsedLimit] | None = None) -> Steps:
        """The steps of a rule as they hold here; `instead`: what stands in the place of a limit on this
        machine.
        """
        out: Steps = []
        for s in RULES[rule_id].steps:
            used = (instead or {}).get(s.limit) or self.get(s.limit)
            out.append((used.times(self.get(s.times)) if s.times else used, s.verdict))
        return out

    def school(self, school_id: str) -> str:
        over = self._over.get(school_id)
        return over.choice if over is not None and over.choice else SCHOOLS[school_id].default

    def override_of(self, limit_id: str) -> Override | None:
        return self._over.get(limit_id)


def check_override(limit_id: str, value: float | None, choice: str, others: Iterable[Override]) -> None:
    """May a site use this figure? Raises when the limit is unknown, is no site's to change, or when a
    step that uses it, as it stands or times another, would fall out of order.
    """
    if limit_id in SCHOOLS:
        if choice not in SCHOOLS[limit_id].options:
            right = ", ".join(SCHOOLS[limit_id].options)
            message = f"“{choice}” is not one of {right}."
            raise HurbinError("choice_unknown", message, field="choice", right=right)
        return
    if limit_id not in LIMITS:
        raise HurbinError("limit_unknown", f"There is no limit {limit_id}.", field="limit", value=limit_id)
    if LIMITS[limit_id].fixed:
        message = f"{LIMITS[limit_id].title}: this figure is the same everywhere; it is not overridden."
        raise HurbinError("limit_fixed", message, field="value", value=value)
    if value is None or value <= 0:
        raise HurbinError("limit_not_positive", "A limit must be above zero.", field="value", value=value)
    trial = Override(limit=limit_id, value=value, reason="-", by="-", at=datetime(2000, 1, 1, tzinfo=UTC))
    limits = Limits([*(o for o in others if o.limit != limit_id), trial])
    for rule in RULES.values():
        for instead in _machines(rule, limits):
            _in_order(rule, limit_id, value, limits.steps(rule.id, instead), instead)


def _machines(rule: Rule, limits: Limits) -> list[dict[str, UsedLimit]]:
    """The rule's own limits, and each one that stands in the place of one of them on another machine."""
    return [{}, *({stands: limits.get(o)} for stands, others in rule.instead.items() for o in others)]


def _in_order(
    rule: Rule, limit_id: str, value: float, steps: Steps, instead: Mapping[str, UsedLimit]
) -> None:
    named = {n for s in rule.steps for n in (s.limit, s.times)} | {u.id for u in instead.values()}
    if limit_id not in named:
        return
    for (lower, _), (upper, _) in pairwise(reversed(steps) if rule.floor else steps):
        if lower.value >= upper.value:
            raise HurbinError(
                "limits_out_of_order",
                f"“{lower.title}” ({lower.value:g}) must stay below"
                f" “{upper.title.lower()}” ({upper.value:g}).",
                field="value",
                value=value,
                right=f"between its neighbours in “{rule.title}”",
            )
