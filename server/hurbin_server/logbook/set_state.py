"""How each part of a set stands: its answers with their margins, its last figures, and what is due."""

from __future__ import annotations

import json
from collections import defaultdict
from datetime import datetime
from typing import Any

from hurbin_core.base import (
    MEASURANDS,
    RULES,
    Bound,
    MarginLine,
    Prefs,
    Quantity,
    figure_and_symbol,
    show_line,
    worst,
)
from hurbin_core.catalogue import benches
from hurbin_core.logbook import PartVerdict, due_next, never_checked, said_first, worst_part_first
from hurbin_core.plant import PARTS, kind
from hurbin_server.base.asking import ask
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for
from hurbin_server.plant.models import PumpSet

from .part_states import STATE_OF_PART, part_verdict, say
from .schemas import AnswerOut, DueOut, LastFigure, PartOut, SetStateOut
from .services.casing import overrides_for


def set_state(user: User, set_id: int, prefs: Prefs) -> SetStateOut:
    """What every part shows and why, what was read last, what is due when."""
    row = set_for(user, set_id)
    as_of = now()
    held = [part_verdict(r[:-1], as_of, json.loads(r[-1])) for r in ask(_PARTS, [row.pk])]
    parts = held or [never_checked(as_of)]
    answers, until = _answers(row, prefs, as_of)
    return SetStateOut(
        verdict=worst(p.verdict for p in parts)[0],
        parts=[_part(p, answers[p.part], prefs) for p in sorted(parts, key=worst_part_first)],
        figures=_figures(row.pk, prefs),
        due=[
            DueOut(bench=d.bench.name, title=d.bench.title, part=d.bench.part, at=d.at, overdue=d.overdue)
            for d in due_next(benches(), kind(row.kind).slots, until, as_of)
        ],
    )


def _part(p: PartVerdict, answers: list[AnswerOut], prefs: Prefs) -> PartOut:
    return PartOut(
        part=p.part,
        title=PARTS[p.part].title if p.part in PARTS else "",
        verdict=p.verdict,
        beside=p.beside,
        by=p.by,
        reason=say(p.reason, prefs),
        answers=answers,
    )


_PARTS = f"""SELECT {", ".join(f"`{x}`" for x in STATE_OF_PART)}, reason FROM logbook_partstate
WHERE pump_set_id = %s ORDER BY id"""
_ANSWERS = """SELECT a.pump_set_id, a.part, a.verdict, a.beside, a.`by`, a.question, a.due, a.subject,
a.reason, a.line, a.taken_at, r.id, r.bench FROM logbook_answer a
JOIN logbook_finding f ON f.id = a.finding_id JOIN logbook_record r ON r.id = f.record_id
WHERE a.pump_set_id = %s ORDER BY a.id"""


def _answers(
    row: PumpSet, prefs: Prefs, as_of: datetime
) -> tuple[dict[str, list[AnswerOut]], list[tuple[str, datetime]]]:
    """The answers that stand, by part, and which bench's stands until when."""
    found: dict[str, list[AnswerOut]] = defaultdict(list)
    until = []
    marked = frozenset(o.limit for o in overrides_for(row))
    for *state, subject, reason, line, taken_at, record, bench in ask(_ANSWERS, [row.pk]):
        told = part_verdict(tuple(state), as_of, json.loads(reason))
        question, due = state[5], state[6]
        over = told.verdict.value != state[2]
        until.append((bench, due))
        found[told.part].append(
            AnswerOut(
                question=question,
                subject=subject,
                title=RULES[question].title if question in RULES else question.replace("_", " "),
                verdict=told.verdict,
                beside=told.beside,
                by=told.by,
                reason=say(told.reason, prefs),
                was=say(json.loads(reason), prefs) if over else "",
                line=show_line(MarginLine.model_validate_json(line), prefs, marked)
                if line and line != "null"
                else None,
                taken_at=taken_at,
                due=due,
                record=record,
            )
        )
    for group in found.values():
        group.sort(key=lambda a: said_first(a.verdict, a.by, a.question))
    return found, until


_LAST = "SELECT bench, MAX(taken_at) FROM logbook_record WHERE pump_set_id = %s AND live = 1 GROUP BY bench"
_FIGURES = """SELECT s.id, s.measurand, s.unit, p.value, p.bound, p.taken_at FROM logbook_record r
JOIN logbook_point p ON p.record_id = r.id JOIN logbook_series s ON s.id = p.series_id
WHERE r.pump_set_id = %s AND r.live = 1 AND p.live = 1 AND s.leg = '' AND ({last})
ORDER BY r.bench, p.id"""


def _newest_figures(set_id: int) -> list[tuple[Any, ...]]:
    """What the newest record of each bench read, of the set as a whole."""
    last = ask(_LAST, [set_id])
    if not last:
        return []
    of_last = " OR ".join(["(r.bench = %s AND r.taken_at = %s)"] * len(last))
    return ask(_FIGURES.format(last=of_last), [set_id, *(x for r in last for x in r)])


def _figures(set_id: int, prefs: Prefs) -> list[LastFigure]:
    """One of each kind, in the order in which the rulebook has them: a visit that read one twice is said by
    its last reading.
    """
    out: dict[str, LastFigure] = {}
    for series, measurand, unit, value, bound, at in _newest_figures(set_id):
        told = MEASURANDS[measurand]
        if told.plot:
            shown = Quantity(value=value, unit=unit, bound=Bound(bound))
            digits, symbol = figure_and_symbol(shown, prefs)
            out[measurand] = LastFigure(
                part=told.part,
                measurand=measurand,
                series=series,
                label=told.label,
                figure=digits,
                unit=symbol,
                taken_at=at,
            )
    order = {m: i for i, m in enumerate(MEASURANDS)}
    return sorted(out.values(), key=lambda f: order[f.measurand])
