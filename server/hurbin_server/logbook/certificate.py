"""One test as a sheet of paper: figures, curve, verdicts with limits and sources, who, when, by which rules."""

from __future__ import annotations

import io
from datetime import datetime
from itertools import pairwise
from zoneinfo import ZoneInfo

from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from hurbin_core.base import Certainty, Entered, Evaluation, Prefs, ShownEvaluation, ShownFinding, ShownPaper, present
from hurbin_core.catalogue import bench as find_bench
from hurbin_server.base.errors import not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import set_for

from .models import Record
from .paper import HAIR, INK, LEFT, LINE, MUTE, RIGHT, Page
from .querysets import story_of
from .schemas import StoryLineOut
from .shafts_pdf import draw_passes

_SAID = {
    "test_point": "Measured", "links": "Links", "phases": "Phases", "test_volts": "Test volts dc", "winding": "Winding", "ambient": "Room", "humidity": "Humidity",
    "ceiling": "Tester reads up to", "tester": "Tester", "drive_off": "Drive disconnected", "arresters_off": "Arresters off", "note": "Note",
}  # fmt: skip


def certificate(user: User, record_id: int, prefs: Prefs) -> tuple[str, bytes]:
    """The PDF of one record as this reader sees it, and its name."""
    r = Record.objects.select_related("by", "pump_set__site", "pump_set__service").filter(pk=record_id).first()
    if r is None:
        raise not_found("That record")
    set_for(user, r.pump_set_id)
    judgement = r.judgements.get(newest=True)
    shown = present(Evaluation.model_validate(judgement.evaluation), prefs)
    zone = ZoneInfo(r.pump_set.site.time_zone)
    title = find_bench(r.bench).title
    foot = (
        f"Judged by rules {judgement.rules_version} on {_when(judgement.made_at, zone)}. Figures marked “from memory” should be held against your own copy of the "
        "standard. This sheet says what was measured and how it was judged; local codes and licensed practice come first."
    )
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4, pageCompression=1, invariant=1)
    canvas.setTitle(f"{r.pump_set.tag} {title}")
    page = Page(canvas, foot)
    _head(page, r, title, zone, shown)
    told = story_of(r, prefs)
    if told:
        _story(page, told, zone)
    else:
        _facts(page, r.body)
        _figures(page, shown)
    if shown.paper is not None:
        _curve(page, shown.paper)
    if shown.passes:
        draw_passes(page, shown.passes, zone)
    _findings(page, shown)
    canvas.save()
    return f"{r.pump_set.tag}-{r.bench}-{r.taken_at:%Y-%m-%d}.pdf", out.getvalue()


def _when(at: datetime, zone: ZoneInfo) -> str:
    return at.astimezone(zone).strftime("%d %b %Y, %H:%M")


def _head(page: Page, r: Record, title: str, zone: ZoneInfo, shown: ShownEvaluation) -> None:
    page.text(f"{r.pump_set.tag}   {title}", 17, bold=True)
    page.text(f"{r.pump_set.name}, {r.pump_set.service.name}, {r.pump_set.site.name}{', ' + r.pump_set.place if r.pump_set.place else ''}", 10, mute=True)
    page.text(f"Taken {_when(r.taken_at, zone)} ({zone.key}) by {r.by.full_name}. Record {r.pk}{'' if r.live else ', corrected since: see the record that stands now'}.", 10)
    page.y -= 5
    page.text(f"Verdict: {shown.verdict.value}{' (and ' + shown.beside.value + ')' if shown.beside else ''}", 13, bold=True)
    page.rule()


def _story(page: Page, told: list[StoryLineOut], zone: ZoneInfo) -> None:
    page.text("What was done", 8, mute=True)
    for line in told:
        page.text(f"{_when(line.at, zone)}   {line.by}   {line.says}", 9)
    page.rule()


def _typed(value: object) -> str:
    if isinstance(value, dict):
        e = Entered.model_validate(value)
        from hurbin_core.base import UNITS

        return f"{e.text} {UNITS[e.unit].symbol if e.unit in UNITS else e.unit}".strip()
    return {True: "yes", False: "no"}.get(value, str(value)) if isinstance(value, bool) else str(value).replace("_", " ")


def _facts(page: Page, body: dict[str, object]) -> None:
    setup = body.get("setup", body)
    rows = [(_SAID.get(k, k.replace("_", " ")), _typed(v)) for k, v in setup.items() if v not in (None, "")]  # type: ignore[attr-defined]
    page.text("As typed", 8, mute=True)
    page.pairs(rows, 4)
    readings: list[dict[str, object]] = body.get("readings", [])  # type: ignore[assignment]
    if readings:
        said = [f"{'' if x['leg'] == 'all' else str(x['leg']) + ' '}{x['seconds']:g} s  {_typed(x['ohms'])}" for x in readings]
        page.text("Readings:  " + "   ·   ".join(said), 9)
    page.rule()


_NAMES = {
    "minute": "At one minute", "at40": "At 40 °C", "factor": "Correction", "absorption": "Absorption ratio", "polarisation": "Polarisation index",
    "minimum": "Minimum at 40 °C", "dew_point": "Dew point", "voltage_unbalance": "Voltage unbalance", "voltage_unbalance_true": "Negative sequence",
    "current_unbalance": "Current unbalance", "offset_v": "Offset, up", "offset_h": "Offset, right", "angle_v": "Angle, up", "angle_h": "Angle, right",
    "front_v": "Front feet, up", "rear_v": "Rear feet, up", "front_h": "Front, push right", "rear_h": "Rear, push right", "target": "Cold target", "raise": "Raise the support", "lower": "Lower the support", "turns": "Turns of the nut", "load_worst": "Worst leg of plate", "load_mean": "Mean of plate", "load_adjusted": "At plate volts",
}  # fmt: skip


def _figures(page: Page, shown: ShownEvaluation) -> None:
    rows = []
    for key, q in shown.values.items():
        base, _, leg = key.rpartition("_L")
        name = _NAMES.get(key) or (f"{_NAMES[base]}, L{leg}" if base in _NAMES else "")
        if name:
            rows.append((name, q.shown))
    page.text("Worked out", 8, mute=True)
    page.pairs(rows, 4)


def _curve(page: Page, paper: ShownPaper) -> None:
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
        c.drawCentredString(at(t.at, 0)[0], y0 - 10, t.shown)
    for t in paper.y_ticks:
        c.line(*at(0, t.at), *at(1, t.at))
        c.drawRightString(x0 - 5, at(0, t.at)[1] - 2, t.shown)
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
            if p.bound.value == "exact":
                if now:
                    c.circle(x, y, 2, fill=1)
            else:
                up = 9 if p.bound.value == "at_least" else -9
                c.line(x, y, x, y + up)
                c.line(x - 2.5, y + up * 0.6, x, y + up)
                c.line(x + 2.5, y + up * 0.6, x, y + up)
    page.y = y0 - 26


def _findings(page: Page, shown: ShownEvaluation) -> None:
    page.rule()
    for f in shown.findings:
        _finding(page, f)
    for words in (*shown.questions, *shown.waiting):
        page.text(words, 8.5, mute=True)
    if shown.due is not None:
        page.text(f"Next: {shown.due.reason}", 9.5, bold=True)


def _finding(page: Page, f: ShownFinding) -> None:
    page.room(40)
    page.text(f"{f.title}: {f.verdict.value}{', ' + f.unknown.value if f.unknown else ''}{', ' + f.by.value.replace('_', ' ') if f.by else ''}", 10.5, bold=True)
    page.text(f.reason, 9.5)
    for words in (*f.working, *f.notes):
        page.text(words, 8, mute=True, indent=10)
    for u in f.limits:
        over = f"; this site: {u.shown} instead of {u.published}, {u.override.by}: “{u.override.reason}”" if u.override else ""
        sure = "" if u.certainty is Certainty.PRACTICE else f", {u.certainty.value}"
        memory = ", from memory" if u.from_memory else ""
        page.text(f"{u.title}: {u.shown}  ({u.source}{sure}{memory}{over})", 8, mute=True, indent=10)
    page.text(f"Rule: {f.formula}. {f.source}{', from memory' if f.from_memory else ''}.", 8, mute=True, indent=10)
    page.y -= 5
