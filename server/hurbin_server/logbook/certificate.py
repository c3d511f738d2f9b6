"""One test as a sheet of paper: figures, curve, verdicts with limits and sources, who, when, by which
rules.
"""

from __future__ import annotations

import io
from collections.abc import Callable
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from hurbin_core.base import (
    RULEBOOK,
    UNITS,
    AnyBench,
    Certainty,
    Entered,
    Prefs,
    ShownFinding,
    members,
    present,
)
from hurbin_core.catalogue import bench as find_bench
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for

from .models import Attachment, Record
from .paper import Page
from .querysets import story_of
from .schemas import StoryLineOut
from .services.judging import evaluation_of

# How a bench draws its own view on paper: each room says it for its own.
DRAWINGS: dict[str, Callable[[Page, Any, ZoneInfo], None]] = {}
# As many photos as one report shows; the others are named by their number.
MOST_PHOTOS = 12


def certificate(user: User, record_id: int, prefs: Prefs) -> tuple[str, bytes]:
    """The PDF of one record as this reader sees it, and its name."""
    r = (
        Record.objects.select_related("by", "pump_set__site", "pump_set__service")
        .filter(pk=record_id)
        .first()
    )
    if r is None:
        raise not_found("Record")
    set_for(user, r.pump_set_id)
    judgement = r.judgements.get(newest=True)
    shown = present(evaluation_of(r.bench, judgement.evaluation), prefs)
    zone = ZoneInfo(r.pump_set.site.time_zone)
    b = find_bench(r.bench)
    foot = (
        f"Evaluated with rules {judgement.rules_version} on {_when(judgement.made_at, zone)}. Limits marked"
        " “quoted from memory” were not checked against the standard: compare with your own copy. This report"
        " states what was measured and how it was evaluated. Local codes and licensed practice come first."
    )
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, pageCompression=1, invariant=1)
    canvas.setTitle(f"{r.pump_set.tag} {b.title}")
    page = Page(canvas, foot)
    _head(page, r, b.title, zone, shown)
    told = story_of(r, prefs)
    if told:
        _story(page, told, zone)
    else:
        _facts(page, b, r.body)
        _figures(page, shown)
    draw = DRAWINGS.get(r.bench)
    if draw is not None:
        draw(page, shown.view, zone)
    _findings(page, shown)
    _photos(page, r, zone)
    canvas.save()
    return f"{r.pump_set.tag}-{r.bench}-{r.taken_at:%Y-%m-%d}.pdf", out.getvalue()


def _photos(page: Page, r: Record, zone: ZoneInfo) -> None:
    """What was photographed with the entries of this record, as it was kept, strokes and all, two in a
    row.
    """
    entries = r.sheet.entries.values_list("uuid", flat=True)
    rows = Attachment.objects.filter(entry__in=list(entries), kind="photo", aside_at=None)
    found = list(rows.select_related("by").order_by("at", "uuid"))
    if not found:
        return
    page.text("Photos", 10.5, bold=True)
    for at in range(0, min(len(found), MOST_PHOTOS), 2):
        page.photos(
            [
                (bytes(x.content), f"{x.title or 'Photo'}, {x.by.full_name}, {_when(x.at, zone)}")
                for x in found[at : min(at + 2, MOST_PHOTOS)]
            ]
        )
    if len(found) > MOST_PHOTOS:
        page.text(f"{len(found) - MOST_PHOTOS} more are kept with the record.", 8.5, mute=True)


def _when(at: datetime, zone: ZoneInfo) -> str:
    return at.astimezone(zone).strftime("%d %b %Y, %H:%M")


def _head(page: Page, r: Record, title: str, zone: ZoneInfo, shown: Any) -> None:
    page.text(f"{r.pump_set.tag}   {title}", 17, bold=True)
    page.text(
        f"{r.pump_set.name}, {r.pump_set.service.name},"
        f" {r.pump_set.site.name}{', ' + r.pump_set.place if r.pump_set.place else ''}",
        10,
        mute=True,
    )
    page.text(
        f"Taken {_when(r.taken_at, zone)} ({zone.key}) by {r.by.full_name}. Record"
        f" {r.pk}{'' if r.live else ', corrected later: see the current record'}.",
        10,
    )
    page.y -= 5
    page.text(
        f"Verdict: {shown.verdict.value}{' (and ' + shown.beside.value + ')' if shown.beside else ''}",
        13,
        bold=True,
    )
    page.rule()


def _story(page: Page, told: list[StoryLineOut], zone: ZoneInfo) -> None:
    page.text("Work log", 8, mute=True)
    for line in told:
        page.text(f"{_when(line.at, zone)}   {line.by}   {line.says}", 9)
    page.rule()


def _typed(value: object) -> str:
    if isinstance(value, dict):
        e = Entered.model_validate(value)
        return f"{e.text} {UNITS[e.unit].symbol if e.unit in UNITS else e.unit}".strip()
    if isinstance(value, bool):
        return "yes" if value else "no"
    return str(value).replace("_", " ")


def _titles(b: AnyBench) -> dict[str, str]:
    """What each field of a bench's entries is called."""
    fields = [(n, i.title) for m in members(b.entry) for n, i in m.model_fields.items()]
    return {n: title for n, title in reversed(fields) if title}


def _facts(page: Page, b: AnyBench, body: dict[str, Any]) -> None:
    """What was typed, under the names of the bench's own fields; timed readings in one line."""
    timed, titles = b.files.timed if b.files else None, _titles(b)
    said: dict[str, Any] = body.get(timed.setup, {}) if timed else body
    page.text("As entered", 8, mute=True)
    told = [(titles.get(k, k.replace("_", " ")), _typed(v)) for k, v in said.items() if v not in (None, "")]
    page.pairs(told, 4)
    rows = body.get(timed.readings, []) if timed else []
    if timed and rows:
        usual = next(iter(timed.places.values()))
        read = [
            f"{'' if r[timed.place] == usual else str(r[timed.place]) + ' '}{r[timed.second]:g} s "
            f" {_typed(r[timed.value])}"
            for r in rows
        ]
        page.text("Readings:  " + "   ·   ".join(read), 9)
    page.rule()


def _figures(page: Page, shown: Any) -> None:
    """The figures that have a name on paper, a leg's with its leg."""
    rows = []
    for key, q in shown.values.items():
        base, _, leg = key.rpartition("_L")
        name = _called(key) or (f"{_called(base)}, L{leg}" if _called(base) else "")
        if name:
            rows.append((name, q.shown))
    page.text("Calculated", 8, mute=True)
    page.pairs(rows, 4)


def _called(value: str) -> str:
    text = RULEBOOK.texts.get(f"value.{value}")
    return text.form if text is not None else ""


def _findings(page: Page, shown: Any) -> None:
    page.rule()
    for f in shown.findings:
        _finding(page, f)
    for words in (*shown.questions, *shown.waiting):
        page.text(words, 8.5, mute=True)
    if shown.due is not None:
        page.text(f"Next due: {shown.due.reason}", 9.5, bold=True)


def _finding(page: Page, f: ShownFinding) -> None:
    page.room(40)
    page.text(
        f"{f.title}:"
        f" {f.verdict.value}{', ' + f.unknown.value if f.unknown else ''}"
        f"{', ' + f.by.value.replace('_', ' ') if f.by else ''}",
        10.5,
        bold=True,
    )
    page.text(f.reason, 9.5)
    for words in (*f.working, *f.notes):
        page.text(words, 8, mute=True, indent=10)
    for u in f.limits:
        over = (
            f"; site limit {u.shown} instead of {u.published}, set by {u.override.by}: “{u.override.reason}”"
            if u.override
            else ""
        )
        sure = "" if u.certainty is Certainty.PRACTICE else f", {u.certainty.value}"
        memory = ", quoted from memory" if u.from_memory else ""
        page.text(f"{u.title}: {u.shown}  ({u.source}{sure}{memory}{over})", 8, mute=True, indent=10)
    page.text(
        f"Rule: {f.formula}. {f.source}{', quoted from memory' if f.from_memory else ''}.",
        8,
        mute=True,
        indent=10,
    )
    page.y -= 5
