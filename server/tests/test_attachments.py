"""Photos on a set, a part or an entry; documents on a set: re-encoded, once, for whoever may see them."""

from __future__ import annotations

import io
import tempfile
import uuid
import zlib
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from conftest import SAVE, Api, sheet
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from pypdf import PdfReader, PdfWriter
from pypdf.generic import DictionaryObject, NameObject, TextStringObject

from hurbin_server.base import reencoding
from hurbin_server.base.errors import Refused
from hurbin_server.base.reencoding import jpeg_of
from hurbin_server.logbook.models import Attachment
from hurbin_server.plant.models import PumpSet

Door = Callable[[str], Api]


def photo(width: int = 900, height: int = 600, colour: int = 90) -> bytes:
    out, exif = io.BytesIO(), Image.Exif()
    exif[0x010F] = "a camera of ours"
    Image.new("RGB", (width, height), (colour, 60, 30)).save(out, "JPEG", exif=exif)
    return out.getvalue()


def paper(pages: int = 2) -> bytes:
    writer, out = PdfWriter(), io.BytesIO()
    for _ in range(pages):
        writer.add_blank_page(200, 100)
    script = DictionaryObject({NameObject("/S"): NameObject("/JavaScript")})
    script[NameObject("/JS")] = TextStringObject("app.alert('hello')")
    writer._root_object[NameObject("/OpenAction")] = script
    writer.add_attachment("inside.txt", b"hidden")
    writer.write(out)
    return out.getvalue()


def attach(
    api: Api, row: PumpSet, raw: bytes, key: str = "", head: str = "", **words: str
) -> tuple[int, Any]:
    sent = {"uuid": key or str(uuid.uuid4()), "file": SimpleUploadedFile("x", raw), **words}
    more = {"headers": {"Idempotency-Key": head}} if head else {}
    got = api.client.post(f"/api/v1/sets/{row.pk}/attachments", sent, **more)
    return got.status_code, got.json()


def test_a_photo_is_kept_small_without_its_data_and_once(api: Door, pump_set: PumpSet) -> None:
    tia, key, head = api("tia"), str(uuid.uuid4()), str(uuid.uuid4())
    raw = photo(4000, 3000)
    first = attach(tia, pump_set, raw, key, head, title="wet gland", part="seal")
    assert first[0] == 201, first
    assert attach(tia, pump_set, raw, key, head, title="wet gland", part="seal") == first
    assert attach(tia, pump_set, raw, key, title="wet gland", part="seal")[1]["uuid"] == key
    assert attach(tia, pump_set, photo(colour=200), key, title="wet gland", part="seal")[0] == 409
    assert attach(tia, pump_set, raw, key, title="another", part="seal")[1]["code"] == "attachment_differs"
    assert Attachment.objects.count() == 1
    kept = tia.client.get(f"/api/v1/attachments/{key}.jpg")
    opened = Image.open(io.BytesIO(kept.content))
    assert (kept["Content-Type"], max(opened.size), len(opened.getexif())) == ("image/jpeg", 1600, 0)
    shown = tia("GET", f"/sets/{pump_set.pk}/attachments")[1]["items"]
    assert [(a["title"], a["part"]) for a in shown] == [("wet gland", "C-1 seal")]


def test_a_photo_of_24_megapixels_is_taken_and_one_of_more_is_not(api: Door, pump_set: PumpSet) -> None:
    assert attach(api("tia"), pump_set, photo(6000, 4000))[1]["width"] == 1600
    status, told = attach(api("tia"), pump_set, photo(6001, 4000))
    assert (status, told["code"], told["problems"][0]["right"]) == (
        422,
        "picture_too_large",
        "24 million or fewer",
    )


def claims(width: int, height: int) -> bytes:
    """A PNG of a few bytes whose header says that it is vast."""
    raw = bytearray(drawn("PNG", 4, 4))
    raw[16:24] = width.to_bytes(4, "big") + height.to_bytes(4, "big")
    raw[29:33] = zlib.crc32(raw[12:29]).to_bytes(4, "big")
    return bytes(raw)


def drawn(form: str, width: int, height: int) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (width, height), (5, 60, 30)).save(out, form)
    return out.getvalue()


@pytest.mark.parametrize(
    ("raw", "code"),
    [
        (claims(100_000, 100_000), "picture_too_large"),
        (claims(6000, 4000), "not_a_picture"),
        (drawn("GIF", 40, 40), "not_a_picture"),
        (drawn("BMP", 40, 40), "not_a_picture"),
        (drawn("TIFF", 40, 40), "not_a_picture"),
        (drawn("PNG", 40, 40)[:-30], "not_a_picture"),
    ],
)
def test_what_only_claims_to_be_a_photo_is_refused_by_its_content(raw: bytes, code: str) -> None:
    with pytest.raises(Refused) as caught:
        jpeg_of(raw)
    assert caught.value.code == code


@pytest.mark.parametrize("form", ["JPEG", "PNG", "WEBP"])
def test_what_phones_make_is_taken(form: str) -> None:
    assert (jpeg_of(drawn(form, 40, 30)).width, jpeg_of(drawn(form, 40, 30)).height) == (40, 30)


def test_one_is_decoded_at_a_time_and_the_next_is_told_to_come_again(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(reencoding, "TURN_S", 0.2)
    with reencoding._turn(), pytest.raises(Refused) as caught:
        jpeg_of(drawn("PNG", 40, 30))
    assert (caught.value.status, caught.value.code, caught.value.retry_after) == (503, "reading_files", 2)
    assert jpeg_of(drawn("PNG", 40, 30)).width == 40


def test_a_file_that_takes_too_much_ends_its_own_process_alone(monkeypatch: pytest.MonkeyPatch) -> None:
    greedy = "import resource\nresource.setrlimit(resource.RLIMIT_AS, (9**8, 9**8))\nb'x' * 9**9\n"
    place = Path(tempfile.mkdtemp()) / "greedy.py"
    place.write_text(greedy)
    monkeypatch.setattr(reencoding.decoding, "__file__", str(place))
    with pytest.raises(Refused, match="not a readable photo"):
        jpeg_of(drawn("PNG", 40, 30))


def test_a_photo_goes_with_an_entry_before_or_after_it(api: Door, pump_set: PumpSet, twin: PumpSet) -> None:
    tia, sent = api("tia"), sheet(pump_set)
    entry = sent["entries"][0]["uuid"]
    assert attach(tia, pump_set, photo(), entry=entry)[0] == 201
    saved = tia("POST", SAVE, sent)[1]
    assert tia("GET", f"/records/{saved['record']}")[1]["entries"] == [entry]
    assert attach(tia, pump_set, photo(colour=20), entry=entry)[0] == 201
    assert attach(tia, twin, photo(), entry=entry)[1]["code"] == "entry_of_another_set"


def test_a_document_is_its_pages_and_nothing_that_acts(api: Door, pump_set: PumpSet) -> None:
    tia, key = api("tia"), str(uuid.uuid4())
    status, told = attach(tia, pump_set, paper(3), key, title="maker's sheet")
    assert (status, told["kind"], told["pages"]) == (201, "document", 3)
    kept = tia.client.get(f"/api/v1/attachments/{key}.pdf")
    assert kept["Content-Type"] == "application/pdf"
    assert kept["Content-Disposition"].startswith("attachment")
    root = PdfReader(io.BytesIO(kept.content)).trailer["/Root"]
    assert b"hello" not in kept.content
    assert "/OpenAction" not in root
    assert "/Names" not in root
    assert tia.client.get(f"/api/v1/attachments/{key}.jpg").status_code == 404


@pytest.mark.parametrize(
    ("raw", "status", "code"),
    [
        (b"%PDF-1.7 nothing of the kind", 422, "not_a_document"),
        (b"GIF89a\x00\x00", 422, "not_a_picture"),
        (b"", 422, "not_a_picture"),
        (b"x" * (8 * 1024 * 1024 + 5), 413, "picture_too_large"),
    ],
)
def test_what_is_neither_is_refused(api: Door, pump_set: PumpSet, raw: bytes, status: int, code: str) -> None:
    got = attach(api("tia"), pump_set, raw)
    assert got[0] == status
    assert got[1]["code"] == code or got[1]["problems"], got
    assert not Attachment.objects.exists()


def test_who_may_attach_and_see_and_how_it_goes(api: Door, pump_set: PumpSet) -> None:
    assert attach(api("vic"), pump_set, photo())[0] == 403
    assert attach(api("stranger"), pump_set, photo())[0] == 404
    assert attach(api("tia"), pump_set, paper(), entry="x" * 12)[1]["code"] == "document_on_entry"
    assert attach(api("tia"), pump_set, photo(), part="wings")[1]["code"] == "nothing_fitted"
    key = attach(api("tia"), pump_set, photo())[1]["uuid"]
    assert api("vic").client.get(f"/api/v1/attachments/{key}.jpg").status_code == 200
    assert api("stranger").client.get(f"/api/v1/attachments/{key}.jpg").status_code == 404
    path = f"/attachments/{key}/aside"
    assert api("vic")("POST", path, {"why": "x"})[0] == 403
    assert api("tia")("POST", path, {"why": " "})[0] == 422
    assert api("tia")("POST", path, {"why": "another set's"})[0] == 200
    assert api("tia")("POST", path, {"why": "another set's"})[0] == 200
    assert api("tia")("GET", f"/sets/{pump_set.pk}/attachments")[1]["items"] == []
    assert Attachment.objects.get().aside_why == "another set's"
