"""Two shafts on paper: as found and as left, side and top, and the passes between them as a table."""

from __future__ import annotations

from itertools import pairwise
from typing import Any
from zoneinfo import ZoneInfo

from hurbin_server.logbook.paper import HAIR, INK, LEFT, LINE, MUTE, RIGHT, Page

_HIGH = 92.0
_COLUMNS = (
    ("offset_v", "vertical offset"),
    ("angle_v", "vertical angularity"),
    ("offset_h", "horizontal offset"),
    ("angle_h", "horizontal angularity"),
)


def draw_passes(page: Page, view: Any, zone: ZoneInfo) -> None:
    """The first and the last pass drawn, all of them as figures."""
    passes = view.passes
    if not passes:
        return
    drawn = passes[:1] if len(passes) == 1 else [passes[0], passes[-1]]
    for p in drawn:
        page.room(_HIGH + 40)
        page.text(f"{p.title}, {p.at.astimezone(zone):%d %b %Y, %H:%M}", 9, bold=True)
        wide = (RIGHT - LEFT - 16) / 2
        for i, shaft in enumerate(p.shafts):
            _shaft(page, shaft, LEFT + i * (wide + 16), wide)
        page.y -= _HIGH + 14
    if len(passes) > 1:
        _table(page, passes, zone)
    page.rule()


def _shaft(page: Page, shaft: Any, x0: float, wide: float) -> None:
    """One plane: the pump stands still, the motor's axis as it was read, exaggerated; what each foot asked
    for.
    """
    c, top = page.c, page.y
    mid = top - _HIGH / 2
    c.setFont(page.plain, 7)
    c.setFillColor(MUTE)
    c.drawString(x0, top - 6, "Side view" if shaft.view == "side" else "Top view")
    c.drawRightString(x0 + wide, top - 6, f"misalignment drawn ×{shaft.times}" if shaft.known else "not read")
    c.setStrokeColor(LINE)
    c.setLineWidth(0.5)
    c.setDash(8, 2)
    c.line(x0, mid, x0 + wide, mid)
    c.setDash()
    c.setStrokeColor(INK)
    c.setLineWidth(1)
    c.rect(x0 + 4, mid - 16, 44, 32)
    c.drawCentredString(x0 + 26, mid - 2, "pump")
    c.rect(x0 + 60, mid - 12, 8, 24)
    if not shaft.known:
        return
    at = {p.name: (x0 + 76 + p.x * (wide - 130), mid + (p.y - 0.5) * (_HIGH - 24)) for p in shaft.points}
    (cx, cy), (fx, fy), (rx, ry) = at["coupling"], at["front"], at["rear"]
    slope = (ry - fy) / (rx - fx)
    c.line(cx - 3, cy - 12, cx - 3, cy + 12)
    body = [(fx - 12, 16), (rx + 14, 16), (rx + 14, -16), (fx - 12, -16), (fx - 12, 16)]
    for (x1, h1), (x2, h2) in pairwise(body):
        c.line(x1, fy + slope * (x1 - fx) + h1, x2, fy + slope * (x2 - fx) + h2)
    c.setDash(8, 2)
    c.line(cx, cy, rx + 26, fy + slope * (rx + 26 - fx))
    c.setDash()
    if shaft.target != 0.5:
        c.setStrokeColor(HAIR)
        c.line(
            cx, mid + (shaft.target - 0.5) * (_HIGH - 24), rx + 26, mid + (shaft.target - 0.5) * (_HIGH - 24)
        )
    c.setFillColor(INK)
    for p in shaft.points:
        x, _ = at[p.name]
        c.drawCentredString(
            x, top - _HIGH + 2 if p.name != "coupling" else top - 16, p.says.shown if p.says else ""
        )


def _table(page: Page, passes: list[Any], zone: ZoneInfo) -> None:
    page.room(14 * (len(passes) + 1) + 8)
    places = [LEFT, LEFT + 150, LEFT + 240, LEFT + 330, LEFT + 420]
    page.c.setFont(page.plain, 7.5)
    page.c.setFillColor(MUTE)
    for x, (_, label) in zip(places[1:], _COLUMNS, strict=True):
        page.c.drawString(x, page.y, label)
    page.y -= 12
    for p in passes:
        page.c.setFillColor(INK)
        page.c.setFont(page.plain, 8.5)
        page.c.drawString(
            places[0],
            page.y,
            f"{p.title}, {p.at.astimezone(zone):%H:%M} [{p.verdict.value if p.verdict else 'unknown'}]",
        )
        for x, (name, _) in zip(places[1:], _COLUMNS, strict=True):
            page.c.drawString(x, page.y, p.values[name].shown if name in p.values else "not read")
        page.y -= 13
