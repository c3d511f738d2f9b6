"""Finding again: by a part's label, a note, an event, a call, what hung on a set; labels that open a set."""

from __future__ import annotations

import io
from datetime import timedelta
from typing import Any

import pytest
from conftest import SAVE, sheet
from pypdf import PdfReader
from safe_sheets import Door, call, change
from test_attachments import attach, paper, photo

from hurbin_server.base.clock import now
from hurbin_server.logbook import labels
from hurbin_server.plant.models import PumpSet, Site


def hits(who: Any, site: Site, words: str) -> list[tuple[str, str, str]]:
    status, found = who("GET", f"/sites/{site.pk}/found?words={words}")
    assert status == 200, found
    return [(h["kind"], h["tag"], h["says"]) for h in found]


def test_everything_with_words_is_found_by_them(
    api: Door, site: Site, pump_set: PumpSet, twin: PumpSet
) -> None:
    tia = api("tia")
    noted = sheet(pump_set, days_ago=2)
    noted["entries"][0]["body"]["note"] = "Strainer half full of kelp"
    record = tia("POST", SAVE, noted)[1]["record"]
    event = {
        "kind": "overhaul",
        "at": (now() - timedelta(days=9)).isoformat(),
        "note": "kelp in the wear ring",
    }
    assert tia("POST", f"/sets/{pump_set.pk}/events", event)[0] == 201
    assert call(tia, site, set_id=twin.pk, note="smells of kelp")[0] == 201
    assert change(tia, twin, place="kelp bay, panel B")[0] == 201
    assert hits(tia, site, "kELp") == [
        ("record", pump_set.tag, "Strainer half full of kelp"),
        ("event", pump_set.tag, "kelp in the wear ring"),
        ("call", twin.tag, "smells of kelp"),
        ("open", twin.tag, "kelp bay, panel B"),
    ]
    [one] = tia("GET", f"/sites/{site.pk}/found?words=half full")[1]
    assert one["to"] == f"/records/{record}"
    assert hits(api("vic"), site, "strainer")[0][0] == "record"


def test_a_part_is_found_by_its_label_where_it_is_fitted(api: Door, site: Site, pump_set: PumpSet) -> None:
    motor = pump_set.fittings.get(slot="motor", to_at=None).component
    [one] = [
        h
        for h in api("tia")("GET", f"/sites/{site.pk}/found?words={motor.label[:8]}")[1]
        if h["to"].endswith("part=motor")
    ]
    assert (one["kind"], one["title"], one["set_id"]) == ("part", "Motor", pump_set.pk)


@pytest.mark.parametrize("words", ["%25%25%25", "___", "%5C%25_", "'; DROP TABLE x; --"])
def test_no_sign_means_more_than_itself(api: Door, site: Site, pump_set: PumpSet, words: str) -> None:
    tia = api("tia")
    noted = sheet(pump_set)
    noted["entries"][0]["body"]["note"] = "plain words"
    assert tia("POST", SAVE, noted)[0] == 201
    assert hits(tia, site, words) == []


def test_two_letters_are_too_few_and_strangers_find_nothing(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert tia("GET", f"/sites/{site.pk}/found?words=ab")[0] == 422
    assert tia("GET", f"/sites/{site.pk}/found?words={'a' * 61}")[0] == 422
    assert hits(tia, site, "a   ") == []
    assert api("stranger")("GET", f"/sites/{site.pk}/found?words=motor")[0] == 404


def test_a_label_says_what_it_is_on_and_only_to_who_may_see_it(
    api: Door, site: Site, pump_set: PumpSet, twin: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    tia = api("tia")
    codes: list[str] = []

    class Code(labels.QrCodeWidget):  # type: ignore[misc]
        def __init__(self, value: str, **more: Any) -> None:
            codes.append(value)
            super().__init__(value, **more)

    monkeypatch.setattr(labels, "QrCodeWidget", Code)

    def text(query: str = "") -> str:
        got = tia.client.get(f"/api/v1/sites/{site.pk}/labels.pdf{query}")
        assert (got.status_code, got["Content-Type"]) == (200, "application/pdf")
        return " ".join(p.extract_text() for p in PdfReader(io.BytesIO(got.content)).pages)

    whole = text()
    assert pump_set.tag in whole
    assert twin.tag in whole
    assert codes[::2] == [f"http://testserver/sets/{row.pk}" for row in (pump_set, twin)]
    back = [tia("GET", c.removeprefix("http://testserver"))[1]["tag"] for c in codes[1::2]]
    assert back == [pump_set.tag, twin.tag], "the second code asks of the same set when it is back"
    one = text(f"?set_id={pump_set.pk}")
    assert pump_set.tag in one
    assert twin.tag not in one
    assert tia("GET", f"/sites/{site.pk}/labels.pdf?set_id=999999")[0] == 404
    assert api("stranger")("GET", f"/sites/{site.pk}/labels.pdf")[0] == 404


def test_photos_and_documents_are_found_as_what_they_are(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    assert attach(tia, pump_set, photo(), title="gland seen from above")[0] == 201
    assert attach(tia, pump_set, paper(), title="gland drawing")[0] == 201
    found = tia("GET", f"/sites/{site.pk}/found?words=gland")[1]
    assert {(h["title"], h["says"]) for h in found} == {
        ("Photo", "gland seen from above"),
        ("Document", "gland drawing"),
    }
