"""The curves of an insulation test on paper, over the ghosts of those before."""

from __future__ import annotations

from itertools import pairwise
from typing import Any
from zoneinfo import ZoneInfo

from hurbin_server.logbook.paper import HAIR, INK, LEFT, LINE, MUTE, RIGHT, Page


def draw_curves(page: Page, view: Any, zone: ZoneInfo) -> None:
    """The curve paper, where there is one."""
    if view.paper is not None:
        _curve(page, view.paper)


def _curve(page: Page, paper: Any) -> None:
    wide, high = RIGHT - LEFT - 60, 150.0
    page.room(high + 40)
    c, x0, y0 = page.c, LEFT + 48, page.y - high - 6

    def at(x: float, y: float) -> tuple[float, float]:
        return x0 + x * wide, y0 + y * high

    c.setFont(page.plain, 7)
    c.setLineWidth(0.5)
    c.setStrokeColor(HAIR)
    c.setFillColor(MUTE)
    for t in paper.x_ticks:
        c.line(*at(t.at, 0), *at(t.at, 1))
        c.drawCentredString(at(t.at, 0)[0], y0 - 10, t.value.shown)
    for t in paper.y_ticks:
        c.line(*at(0, t.at), *at(1, t.at))
        c.drawRightString(x0 - 5, at(0, t.at)[1] - 2, t.value.shown)
    if paper.floor is not None:
        c.setStrokeColor(INK)
        c.setLineWidth(1.4)
        c.line(*at(0, paper.floor), *at(1, paper.floor))
        c.drawRightString(at(1, 0)[0] - 3, at(0, paper.floor)[1] + 3, "minimum at this temperature")
    for curve in paper.curves:
        now = curve.before == 0
        c.setStrokeColor(INK if now else LINE)
        c.setLineWidth(1.6 if now else 0.7)
        c.setDash(*((), 0) if not curve.differs else ((2, 3), 0))
        places = [at(p.x, p.y) for p in curve.points]
        for a, b in pairwise(places):
            c.line(*a, *b)
        c.setDash()
        for p, (x, y) in zip(curve.points, places, strict=True):
            if p.value.bound.value == "exact":
                if now:
                    c.circle(x, y, 2, fill=1)
            else:
                up = 9 if p.value.bound.value == "at_least" else -9
                c.line(x, y, x, y + up)
                c.line(x - 2.5, y + up * 0.6, x, y + up)
                c.line(x + 2.5, y + up * 0.6, x, y + up)
    page.y = y0 - 26
