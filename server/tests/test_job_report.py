"""A job on paper: its parts as the screen draws them, its photos with what was drawn on them."""

from __future__ import annotations

import io
import uuid
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from conftest import SAVE, sheet
from pypdf import PdfReader
from reportlab.pdfgen.canvas import Canvas
from safe_sheets import Door
from test_attachments import attach, photo
from test_jobs import Job

from hurbin_core.base import Prefs, present
from hurbin_server.jobs import report
from hurbin_server.jobs.reads import job_of
from hurbin_server.logbook.certificate import MOST_PHOTOS
from hurbin_server.logbook.models import Sheet
from hurbin_server.logbook.paper import Page
from hurbin_server.plant.models import PumpSet


def drawn_of(job: Job, monkeypatch: pytest.MonkeyPatch) -> tuple[Any, list[Any], str]:
    """The view, every path that was drawn, and the words."""
    paths: list[Any] = []
    own = Canvas.drawPath

    def drawn(self: Canvas, path: Any, *a: Any, **k: Any) -> Any:
        paths.append(path)
        return own(self, path, *a, **k)

    monkeypatch.setattr(Canvas, "drawPath", drawn)
    view = present(job_of(Sheet.objects.get(pk=job.sheet)), Prefs()).view
    out = io.BytesIO()
    canvas = Canvas(out)
    report.draw(Page(canvas, "foot"), view, ZoneInfo("UTC"))
    canvas.save()
    return view, paths, " ".join(p.extract_text() for p in PdfReader(io.BytesIO(out.getvalue())).pages)


def test_every_part_is_drawn_by_its_own_strokes(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    job = Job(api("tia"), pump_set).opened()
    view, paths, words = drawn_of(job, monkeypatch)
    assert len(paths) == sum(len(p.drawn.strokes) for p in view.parts) > len(view.parts) > 3
    points = [p.getCode().count(" l") for p in paths]
    assert max(points) > 4, "a box has four lines"
    assert "Renewed (drawn heavy): nothing" in words
    assert "Sent or scrapped" not in words


def test_photos_stand_in_the_report_and_one_put_aside_does_not(api: Door, pump_set: PumpSet) -> None:
    tia, body = api("tia"), sheet(pump_set)
    status, saved = tia("POST", SAVE, body)
    assert status == 201, saved
    entry = body["entries"][0]["uuid"]
    keys = [str(uuid.uuid4()) for _ in range(2)]
    for key, title in zip(keys, ("drawn on", "blurred"), strict=True):
        assert attach(tia, pump_set, photo(colour=len(title) * 9), key, entry=entry, title=title)[0] == 201

    def pages() -> tuple[str, int]:
        got = tia.client.get(f"/api/v1/records/{saved['record']}/certificate.pdf")
        read = PdfReader(io.BytesIO(got.content)).pages
        return " ".join(p.extract_text() for p in read), sum(len(p.images) for p in read)

    words, images = pages()
    assert images == 2
    assert "drawn on, Tia" in words
    aside = tia("POST", f"/attachments/{keys[1]}/aside", {"why": "too dark to read"})
    assert aside[0] == 200, aside
    words, images = pages()
    assert (images, "blurred" in words) == (1, False)


def test_more_photos_than_a_report_shows_are_counted(api: Door, pump_set: PumpSet) -> None:
    tia, body = api("tia"), sheet(pump_set)
    saved = tia("POST", SAVE, body)[1]
    entry = body["entries"][0]["uuid"]
    for i in range(MOST_PHOTOS + 2):
        assert attach(tia, pump_set, photo(90, 60, i * 17), entry=entry)[0] == 201
    got = tia.client.get(f"/api/v1/records/{saved['record']}/certificate.pdf")
    read = PdfReader(io.BytesIO(got.content)).pages
    assert sum(len(p.images) for p in read) == MOST_PHOTOS
    assert "2 more are kept with the record" in " ".join(p.extract_text() for p in read)
