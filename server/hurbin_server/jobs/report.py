"""The report of a job on paper: found, done, proved, left; its parts drawn; and as a table."""

from __future__ import annotations

from typing import Any
from zoneinfo import ZoneInfo

from hurbin_core.base import table
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.logbook.certificate import DRAWINGS
from hurbin_server.logbook.models import Record
from hurbin_server.logbook.paper import HAIR, INK, LEFT, LINE, RIGHT, Page
from hurbin_server.plant.access import set_for

from .known import BENCH

COLUMNS = ("at", "by", "kind", "step", "what", "figure", "words")


def draw(page: Page, view: Any, zone: ZoneInfo) -> None:
    """The pages between the log and the verdicts: the drawing, found, done, proved, cost, photos."""
    page.text(f"{view.procedure}  {view.title}", 12, bold=True)
    page.text(view.reason, 9.5, mute=True)
    _parts(page, view)
    _found(page, view)
    _done(page, view, zone)
    _proved(page, view)
    _left(page, view)
    page.rule()


def _parts(page: Page, view: Any) -> None:
    """Every part in its place on the shaft line, as the screen draws it: renewed ones heavy, those that went
    to the shop crossed, their names beneath.
    """
    page.room(190)
    base, c = page.y - 70, page.c
    c.setStrokeColor(LINE)
    c.setLineWidth(0.5)
    c.setDash(6, 3)
    c.line(LEFT, base, RIGHT, base)
    c.setDash()
    for p in sorted(view.parts, key=lambda p: -p.drawn.w):
        _strokes(page, p, base)
    page.y = base - 74
    new = ", ".join(p.title for p in view.parts if p.state == "renewed")
    page.text(f"Renewed (drawn heavy): {new or 'nothing'}", 8.5, mute=True)
    sent = ", ".join(p.title for p in view.parts if p.fate == "send")
    if sent:
        page.text(f"Sent or scrapped (crossed): {sent}", 8.5, mute=True)


def _strokes(page: Page, part: Any, base: float) -> None:
    d, c, wide = part.drawn, page.c, RIGHT - LEFT
    w, h = wide * d.w / 100, d.h * 1.5
    x, y = LEFT + wide * d.x / 100 - w / 2, base - d.y * 1.5
    c.setStrokeColor(INK if part.state in ("renewed", "back") else HAIR)
    c.setLineWidth(1.6 if part.state == "renewed" else 0.8)
    for points in d.strokes:
        path = c.beginPath()
        path.moveTo(x + points[0] * w, y - points[1] * h)
        for i in range(2, len(points), 2):
            path.lineTo(x + points[i] * w, y - points[i + 1] * h)
        c.drawPath(path)
    if part.fate == "send":
        c.line(x, y - h, x + w, y + h)


def _found(page: Page, view: Any) -> None:
    page.text("Found", 10.5, bold=True)
    for b in view.reconnect:
        page.text(f"{b.what}: {b.how}{f' ({b.by})' if b.by else ''}", 9, indent=10)
    for s in view.steps:
        for look in s.looks:
            seen = [x.says for x in look.signs if x.id in look.seen]
            if seen:
                page.text(f"{look.title}: {look.fate}. {'; '.join(seen)}", 9, indent=10)
        if s.figure is not None and s.figure.read is not None:
            page.text(f"{s.figure.label}: {s.figure.read.shown}", 9, indent=10)


def _done(page: Page, view: Any, zone: ZoneInfo) -> None:
    page.text("Done", 10.5, bold=True)
    for s in view.steps:
        if s.state not in ("done", "skipped"):
            continue
        at = s.at.astimezone(zone).strftime("%d %b, %H:%M") if s.at else ""
        how = f"skipped: {s.skipped}" if s.state == "skipped" else s.said
        page.text(f"{s.n}. {s.title}   {s.by}, {at}{f'   {how}' if how else ''}", 8.5, indent=10)
    for x in view.left_out:
        page.text(f"Left out: {x.title}. {x.why}", 8, mute=True, indent=10)
    used = [f"{k.used} × {k.title}" for k in (view.pick.kit if view.pick else []) if k.used]
    page.text(f"Parts: {', '.join(used) or 'none'}", 9, indent=10)
    if view.cost is not None and view.cost.whole is not None:
        without = f", without {', '.join(view.cost.unpriced)}: no price" if view.cost.unpriced else ""
        words = f"Cost: {view.cost.hours.shown} of work, {view.cost.whole.shown} in all{without}"
        page.text(words, 9, indent=10)


def _proved(page: Page, view: Any) -> None:
    page.text("Proved", 10.5, bold=True)
    for p in view.proof:
        verdict = p.verdict.value if p.verdict is not None else "not read"
        page.text(f"{p.title}: {verdict}. {p.says or ''}", 9, indent=10)


def _left(page: Page, view: Any) -> None:
    page.text("Left", 10.5, bold=True)
    page.text(f"Cause: {view.cause or 'not entered'}. Root: {view.root or 'not found'}.", 9, indent=10)
    page.text("Looked at again after an hour, a day, a week and a month.", 9, indent=10)
    for x in view.others:
        page.text(f"Still on the set, of other work: {x}", 9, indent=10)


DRAWINGS[BENCH] = draw


def as_csv(user: User, record_id: int) -> tuple[str, str]:
    """The tag, and everything that was said and done in a job, a line each."""
    r = Record.objects.select_related("pump_set").filter(pk=record_id, bench=BENCH).first()
    if r is None:
        raise not_found("Record")
    set_for(user, r.pump_set_id)
    rows = [_line(e) for e in r.body.get("entries", [])]
    return r.pump_set.tag, table(COLUMNS, rows)


def _line(e: dict[str, Any]) -> list[object]:
    figure = e.get("figure") or {}
    what = e.get("look") or e.get("code") or e.get("lead") or e.get("what") or e.get("procedure") or ""
    signs = "; ".join(e.get("signs", []))
    words = e.get("said") or e.get("why") or e.get("how") or e.get("cause") or e.get("conductor") or signs
    kind = e.get("kind", "open")
    typed = f"{figure.get('text', '')} {figure.get('unit', '')}".strip()
    return [e.get("at", ""), e.get("by", ""), kind, e.get("step", ""), what, typed, words or ""]


__all__ = ["as_csv", "draw"]
