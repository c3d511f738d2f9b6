"""Files of readings: checked, refused, written whole, cancelled, taken up again; out again without loss; a
certificate.
"""

from __future__ import annotations

import io
from collections.abc import Callable
from datetime import timedelta
from typing import Any
from urllib.parse import quote

import pytest
from conftest import SAVE, Api, sheet
from django.core.files.uploadedfile import SimpleUploadedFile
from django_tasks_db.models import DBTaskResult
from pypdf import PdfReader

from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import Judgement, PartState, Point, ReadingsImport, Record
from hurbin_server.logbook.services import importing
from hurbin_server.logbook.services.judging import rejudge_all
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.plant.services.places import make_set

Door = Callable[[str], Api]
HEAD = (
    "tag,taken_at,test_point,links,phases,test_volts|V,arresters_off,"
    "winding|degC,ambient|degC,humidity|%,ceiling|GOhm,R_30s|MOhm,R_60s|MOhm\r\n"
)


def line(ohms: str, days: int, tag: str = "C-1", half: str = "", winding: str = "21") -> str:
    at = (now() - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ")
    return f"{tag},{at},motor,in,together,500,yes,{winding},20,50,10,{half},{ohms}\r\n"


def upload(
    api: Api, site: Site, text: str | bytes, bench: str = "insulation", name: str = "old.csv", **more: Any
) -> tuple[int, Any]:
    raw = text.encode() if isinstance(text, str) else text
    answer = api.client.post(
        f"/api/v1/sites/{site.pk}/readings/imports",
        {"bench": bench, "file": SimpleUploadedFile(name, raw), **more},
    )
    return answer.status_code, answer.json()


def checked(api: Api, site: Site, text: str, **more: Any) -> dict[str, Any]:
    status, job = upload(api, site, text, **more)
    assert status == 201, job
    assert DBTaskResult.objects.count() >= 1
    importing.run(job["id"])
    return api("GET", f"/readings/imports/{job['id']}")[1]


def written(api: Api, job: dict[str, Any]) -> dict[str, Any]:
    status, body = api("POST", f"/readings/imports/{job['id']}/write")
    assert status == 200, (body, api("GET", f"/readings/imports/{job['id']}/rows")[1])
    importing.run(job["id"])
    return api("GET", f"/readings/imports/{job['id']}")[1]


def test_every_file_is_found_again_page_by_page(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia, names = api("tia"), [f"file {i}.csv" for i in range(14)]
    for name in names:
        assert upload(tia, site, HEAD + line("600", 3), name=name)[0] == 201
    where = f"/sites/{site.pk}/readings/imports"
    first = tia("GET", where)[1]
    assert [j["name"] for j in first["items"]] == names[:1:-1]
    rest = tia("GET", f"{where}?before={quote(first['next'])}")[1]
    assert ([j["name"] for j in rest["items"]], rest["next"]) == (names[1::-1], "")
    assert tia("GET", f"{where}?before=yesterday")[1]["code"] == "cursor_wrong"
    assert api("vic")("GET", where)[0] == 403


def test_rows_are_taken_questioned_there_or_refused_and_the_rest_goes_on(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    text = (
        HEAD
        + line("900", 400)
        + line("OL", 300)
        + line("900", 200).replace(",500,yes", ",1000,yes")
        + line("-3", 100)
        + line("5", 50, "Z-9")
        + line("800", 1, winding="400")
    )
    text += line("900", 400)
    job = checked(tia, site, text)
    assert (job["state"], job["taken"], job["questioned"], job["refused"], job["there"]) == (
        "checked",
        2,
        1,
        3,
        1,
    )
    rows = {r["line"]: r for r in tia("GET", f"/readings/imports/{job['id']}/rows")[1]["rows"]}
    assert "separate series" in rows[4]["says"]
    assert "cannot be negative" in rows[5]["says"]
    assert "No pump set Z-9" in rows[6]["says"]
    assert "400" in rows[7]["says"]
    assert rows[8]["says"] == "Duplicate of line 2."
    assert Record.objects.count() == 0
    assert tia("POST", f"/readings/imports/{job['id']}/write")[0] == 200
    assert importing.run(job["id"]) == "written"
    assert Record.objects.count() == 3


def test_written_whole_and_judged_as_if_saved_one_by_one(
    api: Door, people: dict[str, User], site: Site, pump_set: PumpSet
) -> None:
    tia, twin = (
        api("tia"),
        make_set(
            people["ada"],
            pump_set.service_id,
            {"tag": "C-2", "name": "Cold 2", "kind": "base_mounted", "pair": "P"},
        ),
    )
    PumpSet.objects.filter(pk=pump_set.pk).update(pair="P")
    figures = (">10|GOhm", "6000", "3000", "1400", "700", "300", "140")
    text = (
        HEAD
        + "".join(line(f, 360 - 50 * n, half="200") for n, f in enumerate(figures))
        + line("2000", 90, twin.tag)
    )
    job = written(tia, checked(tia, site, text))
    assert (job["state"], job["done"]) == ("written", 8)
    assert Record.objects.count() == Judgement.objects.count() == 8
    assert rejudge_all()[1] == [], "the file's contexts are those of the records"
    trend = next(t for t in tia("GET", f"/sets/{pump_set.pk}/trends")[1] if t["measurand"] == "insulation_40")
    assert trend["total"] == 7
    assert trend["points"][0]["bound"] == "at_least"
    assert trend["twin"]["tag"] == "C-2"
    assert PartState.objects.filter(pump_set=pump_set, part="motor").exists()
    again = checked(tia, site, text)
    assert (again["there"], again["taken"]) == (8, 0)
    assert tia("POST", f"/readings/imports/{again['id']}/write")[1]["code"] == "nothing_new"


def test_out_and_in_again_is_the_same(
    api: Door, people: dict[str, User], site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    tia("POST", SAVE, sheet(pump_set, days_ago=3))
    written(tia, checked(tia, site, HEAD + line(">10|GOhm", 30, half="OL") + line("0.9|GOhm", 20)))
    before = {
        b: [(r.taken_at, r.body) for r in Record.objects.filter(bench=b).order_by("taken_at")]
        for b in ("insulation", "running_check")
    }
    files = {b: tia("GET", f"/sites/{site.pk}/readings/{b}.csv")[1] for b in before}
    told = tia("GET", f"/sets/{pump_set.pk}/readings/insulation.json")[1]
    assert told[0]["facts"]["readings"][1]["ohms"] == {"text": ">10", "unit": "GOhm"}
    for b, text in files.items():
        assert checked(tia, site, text, bench=b)["there"] == len(before[b])
    other = make_set(people["ada"], pump_set.service_id, {"tag": "D-1", "name": "x", "kind": "base_mounted"})
    for b, text in files.items():
        written(tia, checked(tia, site, text.replace("C-1", "D-1"), bench=b))
        assert [
            (r.taken_at, r.body) for r in Record.objects.filter(pump_set=other, bench=b).order_by("taken_at")
        ] == before[b]


@pytest.mark.parametrize(
    ("raw", "code"),
    [
        (b"", "file_empty"),
        (b"\x89PNG\r\n\x1a\n....", "file_wrong_kind"),
        (b"PK\x03\x04..", "file_wrong_kind"),
        (b"colour,size\n1,2\n", "header_wrong"),
    ],
)
def test_what_is_no_file_is_said_at_once(api: Door, site: Site, raw: bytes, code: str) -> None:
    status, body = upload(api("tia"), site, raw)
    assert (status, body["code"]) == (422, code)


def test_who_may(api: Door, site: Site, pump_set: PumpSet) -> None:
    assert upload(api("vic"), site, HEAD)[0] == 403
    assert upload(api("stranger"), site, HEAD)[0] == 404
    job = checked(api("tia"), site, HEAD + line("900", 3))
    assert api("stranger")("GET", f"/readings/imports/{job['id']}")[0] == 404
    assert api("vic")("POST", f"/readings/imports/{job['id']}/write")[0] == 403
    assert api("vic")("GET", f"/sites/{site.pk}/readings/insulation.csv")[0] == 200


def test_cancelling_leaves_nothing(
    api: Door, site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    tia = api("tia")
    monkeypatch.setattr(importing, "EVERY", 2)
    job = checked(tia, site, HEAD + "".join(line(str(900 + n), 300 - n) for n in range(9)))
    tia("POST", f"/readings/imports/{job['id']}/write")
    ReadingsImport.objects.filter(pk=job["id"]).update(cancel_asked=True)
    importing.run(job["id"])
    assert tia("GET", f"/readings/imports/{job['id']}")[1]["state"] == "cancelled"
    assert Record.objects.count() == Point.objects.count() == 0
    other = checked(tia, site, HEAD + line("900", 3))
    assert tia("POST", f"/readings/imports/{other['id']}/cancel")[1]["state"] == "cancelled"


def test_a_killed_workers_file_is_taken_up_again_eight_times_at_most(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    job = upload(tia, site, HEAD + line("900", 3))[1]
    queued = DBTaskResult.objects.count()
    for n in range(1, 9):
        ReadingsImport.objects.filter(pk=job["id"]).update(lease_until=now() - timedelta(seconds=1))
        importing.reap_all()
        assert DBTaskResult.objects.count() == queued + min(n, 7)
    said = tia("GET", f"/readings/imports/{job['id']}")[1]
    assert said["state"] == "failed"
    assert "failed eight times" in said["error"]


def test_a_database_that_breaks_in_the_middle_writes_nothing(
    api: Door, site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    from django.db import OperationalError, transaction

    tia = api("tia")
    job = checked(tia, site, HEAD + line("900", 3))
    tia("POST", f"/readings/imports/{job['id']}/write")
    monkeypatch.setattr(
        importing, "rejudge_newest", lambda _: (_ for _ in ()).throw(OperationalError("gone"))
    )
    with pytest.raises(OperationalError), transaction.atomic():
        importing.run(job["id"])
    assert Record.objects.count() == 0


def test_certificate_says_what_was_read_judged_by_what_and_from_where(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia = api("tia")
    written(tia, checked(tia, site, HEAD + line("900", 3, half="700")))
    record = Record.objects.get()
    answer = tia.client.get(f"/api/v1/records/{record.pk}/certificate.pdf")
    assert answer["Content-Type"] == "application/pdf"
    text = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(answer.content)).pages)
    for words in (
        "C-1",
        "Insulation test",
        "900 MΩ",
        "IEEE 43-2013",
        "from memory",
        "Evaluated with rules",
        "Tia",
        "minimum",
        "Local codes",
    ):
        assert words.replace("\u00a0", " ") in text.replace("\u00a0", " "), words
    assert api("stranger").client.get(f"/api/v1/records/{record.pk}/certificate.pdf").status_code == 404
    tia("POST", SAVE, sheet(pump_set))
    check = Record.objects.get(bench="running_check")
    assert tia.client.get(f"/api/v1/records/{check.pk}/certificate.pdf").content.startswith(b"%PDF")


def test_the_template_comes_back(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    text = tia("GET", "/readings/insulation/template.csv")[1]
    assert checked(tia, site, text)["total"] == 0
    assert tia("GET", "/readings/nothing/template.csv")[0] == 422


def test_a_long_file_is_looked_at_by_its_head_and_read_by_the_worker(
    api: Door, site: Site, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    opened: list[int] = []
    real = importing.open_file
    monkeypatch.setattr(
        importing, "open_file", lambda text, *more: opened.append(len(text)) or real(text, *more)
    )
    row = "C-1,2024-02-03T10:00:00Z,motor,in,together,500,yes,21,20,50,10,,600\r\n"
    n = 2 * importing.HEAD // len(row)
    status, job = upload(api("tia"), site, HEAD + row * n)
    assert (status, job["total"]) == (201, n + 1)
    assert 0 < opened[0] <= importing.HEAD
    assert upload(api("tia"), site, "tag," + "," * 1_000_000)[1]["code"] == "header_too_long"
    assert upload(api("tia"), site, "nothing of ours\n" + row * n)[1]["code"] == "header_wrong"
