"""The rulebook as a site reads it: each figure with its source, the site's own beside."""

from __future__ import annotations

from hurbin_core.base import (
    LIMITS,
    RULEBOOK,
    RULES,
    SCHOOLS,
    TABLES,
    UNITS,
    DrawnStep,
    Limit,
    Limits,
    Prefs,
    Quantity,
    Rule,
    Table,
    drawn_rule,
    rules_version,
    show_limit,
    to_metric,
)
from hurbin_core.catalogue import rule_topics
from hurbin_server.base.models import User
from hurbin_server.base.prefs import prefs_of
from hurbin_server.plant.access import require

from .models import LimitOverride
from .rules_schemas import LimitRow, OverrideRow, RuleRow, RulesOut, RuleTick, SchoolRow, TableRow, TopicRow
from .services.casing import override_of


def _table(table: Table, prefs: Prefs) -> TableRow:
    parts = [(f"{a.name} up to" if a.read == "upto" else a.name, a.unit) for a in table.axes]
    parts += [(c.name, c.unit) for c in table.columns]
    heads = [", ".join(x for x in (n.replace("_", " "), UNITS[u].symbol if u else "") if x) for n, u in parts]

    def cell(value: float | str) -> str:
        if isinstance(value, str):
            return value.replace("_", " ")
        return "any" if value >= 1e9 else f"{value:g}".replace("-", "−").replace(".", prefs.decimal)

    return TableRow(
        id=table.id,
        title=table.title,
        topic=RULEBOOK.topic("table", table.id),
        columns=heads,
        rows=[[cell(c) for c in r] for r in table.rows],
        source=table.source,
        certainty=table.certainty,
        from_memory=table.from_memory,
        why=table.why,
    )


def _tick(step: DrawnStep, prefs: Prefs) -> RuleTick:
    return RuleTick(
        limit=step.limit,
        at=step.at,
        shown=show_limit(step.value, prefs),
        site_at=step.site_at,
        site=show_limit(step.site, prefs) if step.site is not None else "",
    )


def _limit(found: Limit, published: Limits, standing: dict[str, list[OverrideRow]], prefs: Prefs) -> LimitRow:
    used = published.get(found.id)
    return LimitRow(
        id=found.id,
        title=found.title,
        topic=RULEBOOK.topic("limit", found.id),
        shown=show_limit(Quantity(value=used.value, unit=used.unit), prefs),
        unit=found.unit,
        symbol=UNITS[found.unit].symbol,
        source=found.source,
        certainty=found.certainty,
        from_memory=found.from_memory,
        why=found.why,
        fixed=found.fixed,
        overrides=standing.get(found.id, []),
    )


def _rule(rule: Rule, own: Limits, prefs: Prefs) -> RuleRow:
    drawn = drawn_rule(rule, own)
    ticks = [_tick(s, prefs) for s in drawn.steps] if drawn else []
    return RuleRow(
        id=rule.id,
        title=rule.title,
        topic=RULEBOOK.topic("rule", rule.id),
        ticks=ticks,
        zones=drawn.zones if drawn else [],
        formula=rule.formula,
        why=rule.why,
        source=rule.source,
        certainty=rule.certainty,
        from_memory=rule.from_memory,
        limits=list(dict.fromkeys([*(s.limit for s in rule.steps), *(t.limit for t in ticks)])),
    )


def _standing(site_id: int, prefs: Prefs) -> dict[str, list[OverrideRow]]:
    standing: dict[str, list[OverrideRow]] = {}
    for r in LimitOverride.objects.filter(site_id=site_id, ended_at=None).select_related("by", "pump_set"):
        shown = SCHOOLS[r.limit].options[r.choice] if r.limit in SCHOOLS else ""
        if r.limit in LIMITS and r.value is not None:
            code = LIMITS[r.limit].unit
            shown = show_limit(
                Quantity(value=to_metric(r.value, r.unit or code), unit=Limits().get(r.limit).unit), prefs
            )
        row = OverrideRow(
            id=r.pk, set_tag=r.pump_set.tag if r.pump_set else "", override=override_of(r), shown=shown
        )
        standing.setdefault(r.limit, []).append(row)
    return standing


def rules(user: User, site_id: int) -> RulesOut:
    """Every rule, limit, table and school as this site reads them. Raises for a site that is not theirs."""
    role = require(user, site_id)
    prefs = prefs_of(user)
    standing = _standing(site_id, prefs)
    published = Limits()
    everywhere = [o.override for rows in standing.values() for o in rows if not o.set_tag]
    own = Limits(everywhere)
    return RulesOut(
        rules_version=rules_version(),
        role=role,
        topics=[TopicRow(key=t.key, room=t.room, title=t.title) for t in rule_topics()],
        limits=[_limit(x, published, standing, prefs) for x in LIMITS.values()],
        tables=[_table(t, prefs) for t in TABLES.values()],
        rules=[_rule(r, own, prefs) for r in RULES.values()],
        schools=[
            SchoolRow(
                id=s.id,
                title=s.title,
                topic=RULEBOOK.topic("school", s.id),
                options=s.options,
                default=s.default,
                why=s.why,
                overrides=standing.get(s.id, []),
            )
            for s in SCHOOLS.values()
        ],
    )
