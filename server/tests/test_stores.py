"""Vans and their shims: counted, brought in and out as a file, booked by what was laid."""

from __future__ import annotations

import io
import json
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from conftest import Api
from django.core.files.uploadedfile import SimpleUploadedFile
from pypdf import PdfReader

from hurbin_server.base.clock import now
from hurbin_server.logbook.models import Record
from hurbin_server.logbook.services import importing
from hurbin_server.plant.models import PumpSet, Site
from hurbin_server.stores.models import ShimLot, ShimMove, Van

Door = Callable[[str], Api]


def mm(text: str) -> dict[str, str]:
    return {"text": text, "unit": "mm"}


def count(api: Api, van: int, size: str, n: int, least: int = 0, unit: str = "mm") -> tuple[int, Any]:
    return api(
        "PUT", f"/vans/{van}/shims", {"size": {"text": size, "unit": unit}, "count": n, "least": least}
    )


def a_van(api: Api, site: Site, name: str = "Van 1") -> int:
    status, shelf = api("POST", f"/sites/{site.pk}/vans", {"name": name})
    assert status == 201, shelf
    return next(int(v["id"]) for v in shelf["vans"] if v["name"] == name)


def test_a_count_that_comes_twice_undoes_nothing_that_came_between(api: Door, site: Site) -> None:
    tia = api("tia")
    van = a_van(tia, site)

    def counted(n: int, key: str) -> tuple[int, Any]:
        said = json.dumps({"size": {"text": "0.25", "unit": "mm"}, "count": n, "least": 2})
        got = tia.client.put(
            f"/api/v1/vans/{van}/shims",
            said,
            content_type="application/json",
            headers={"Idempotency-Key": key},
        )
        return got.status_code, json.loads(got.content)

    first, second = str(uuid.uuid4()), str(uuid.uuid4())
    told = counted(6, first)
    assert (told[0], counted(4, second)[0]) == (200, 200)
    assert counted(6, first) == told
    assert ShimLot.objects.get(tenths=2500).count == 4
    assert counted(5, first)[1]["code"] == "parcel_differs"


def test_counted_by_measured_size(api: Door, site: Site) -> None:
    tia = api("tia")
    van = a_van(tia, site)
    assert count(tia, van, "0.25", 6, 4)[0] == 200
    status, shelf = count(tia, van, "10", 2, 4, "mil")
    assert status == 200
    lots = {x["tenths"]: x for x in shelf["vans"][0]["lots"]}
    assert (lots[2500]["count"], lots[2500]["verdict"], lots[2540]["verdict"], lots[2540]["says"]) == (
        6,
        "good",
        "watch",
        "2 left, minimum 4: reorder.",
    )
    assert [m["change"] for m in shelf["vans"][0]["moves"]] == [2, 6]
    status, said = count(tia, van, "0", 2)
    assert (status, said["problems"][0]["code"]) == (422, "thickness_zero")
    assert "colour is not a size" in said["detail"]
    assert count(tia, van, "red", 2)[1]["problems"][0]["field"] == "size"
    assert count(api("vic"), van, "0.25", 1)[0] == 403
    assert count(api("stranger"), van, "0.25", 1)[0] == 404
    assert api("vic")("GET", f"/sites/{site.pk}/vans")[1]["may"] is False
    assert api("tia")("POST", f"/sites/{site.pk}/vans", {"name": "  "})[0] == 422
    assert count(tia, 99999, "0.25", 1)[0] == 404


def test_stock_as_a_file_all_or_nothing(api: Door, site: Site) -> None:
    tia = api("tia")

    def send(text: str) -> tuple[int, Any]:
        answer = tia.client.post(
            f"/api/v1/sites/{site.pk}/vans/file", {"file": SimpleUploadedFile("van.csv", text.encode())}
        )
        return answer.status_code, answer.json()

    assert send("van;thickness;unit;count;least\nVan 2;0,25;mm;6;2\nVan 2;10;mil;3;0\n") == (
        200,
        {"lines": 2},
    )
    status, said = send("van,thickness,unit,count\nVan 2,0.5,mm,4\nVan 2,thick,mm,4\nVan 2,0.1,mm,-1\n")
    assert status == 422
    assert [p["field"] for p in said["problems"]] == ["line 3", "line 4"]
    assert not ShimLot.objects.filter(tenths=5000).exists()
    assert send("van,thickness\nVan 2,0.5\n")[1]["problems"][0]["code"] == "header_wrong"
    assert (
        send("van,thickness,unit,count\nV,0.5,mm,1\nV,0.50,mm,2\n")[1]["problems"][0]["code"] == "size_twice"
    )
    text = tia.client.get(f"/api/v1/sites/{site.pk}/vans.csv").content.decode("utf-8-sig")
    assert "Van 2,0.25,mm,6,2" in text
    before = sorted(ShimLot.objects.values_list("tenths", "count", "least"))
    assert send(text)[0] == 200
    assert sorted(ShimLot.objects.values_list("tenths", "count", "least")) == before


def entry(kind: str, minutes: float, **body: Any) -> dict[str, Any]:
    at = now() - timedelta(hours=3) + timedelta(minutes=minutes)
    return {
        "uuid": str(uuid.uuid4()),
        "taken_at": at.isoformat(),
        "device": "test",
        "body": {"kind": kind, **body},
    }


MEASURES = {
    "speed": {"text": "1475", "unit": "rpm"},
    "face_diameter": mm("150"),
    "x_front": mm("200"),
    "x_rear": mm("500"),
}


def read(minutes: float, up: str, open_: str, taken: str = "as_found") -> dict[str, Any]:
    mean = f"{(float(open_) + 3) / 2:.2f}"
    steps = {f"step_{k}": mm(t) for k, t in ((12, up), (6, f"-{up}"), (3, "0"), (9, "0"))}
    return entry(
        "pass",
        minutes,
        taken=taken,
        **MEASURES,
        **steps,
        gap_12=mm(open_),
        gap_6=mm("3.00"),
        gap_3=mm(mean),
        gap_9=mm(mean),
    )


def laid(api: Api, row: PumpSet, sheet: str, *entries: dict[str, Any]) -> tuple[int, Any]:
    return api(
        "POST", f"/benches/alignment/sheets/{sheet}/entries", {"set_id": row.pk, "entries": list(entries)}
    )


def test_shims_laid_come_out_of_the_van_and_go_back_when_taken_back(
    api: Door, site: Site, pump_set: PumpSet
) -> None:
    tia, ben = api("tia"), api("leo")
    van = a_van(tia, site)
    for size, n in (("0.25", 6), ("0.1", 6), ("0.5", 4)):
        count(tia, van, size, n)
    sheet = str(uuid.uuid4())
    found = {f"pack_{f}": "0.5 + 0.1 mm" for f in ("front_left", "front_right", "rear_left", "rear_right")}
    status, _ = laid(
        tia, pump_set, sheet, entry("measures", 0, **found, van="Van 1"), read(1, "0.20", "3.30")
    )
    assert status == 200
    plan = tia(
        "POST",
        "/benches/alignment/evaluate",
        {"set_id": pump_set.pk, "entries": [entry("measures", 0, **found), read(1, "0.20", "3.30")]},
    )[1]["view"]["plan"]
    assert plan["van"] == "Van 1"
    packs = {f"pack_{f['foot']}": f["pack"] for f in plan["choice"]["feet"]}
    move = entry("moved", 20, **packs, van="Van 1")
    assert laid(ben, pump_set, sheet, move)[0] == 200
    assert laid(ben, pump_set, sheet, move)[0] == 200  # sent twice, booked once
    left = dict(ShimLot.objects.values_list("tenths", "count"))
    laid_out = sum(
        sum(x["value"] for x in f["put_in"]) - sum(x["value"] for x in f["take_out"])
        for f in plan["choice"]["feet"]
    )
    assert round(sum(t * n for t, n in left.items()) / 10000, 3) == round(
        6 * 0.25 + 6 * 0.1 + 4 * 0.5 - laid_out, 3
    )
    assert set(ShimMove.objects.exclude(entry="").values_list("why", flat=True)) == {"C-1, alignment"}
    assert laid(tia, pump_set, sheet, entry("undo", 21, undoes=move["uuid"]))[0] == 200
    assert dict(ShimLot.objects.values_list("tenths", "count")) == {2500: 6, 1000: 6, 5000: 4}
    again = entry("moved", 22, **packs, van="Van 1")
    laid(tia, pump_set, sheet, again)
    status, said = tia(
        "POST",
        "/benches/alignment/records",
        {"set_id": pump_set.pk, "sheet": sheet, "entries": [read(30, "0.02", "3.02", "as_left")]},
    )
    assert (status, said["problems"][0]["code"]) == (422, "not_tight")
    closing = [entry("tightened", 25), read(31, "0.02", "3.02", "as_left")]
    status, saved = tia(
        "POST", "/benches/alignment/records", {"set_id": pump_set.pk, "sheet": sheet, "entries": closing}
    )
    assert status == 201, saved
    assert [p["title"] for p in saved["evaluation"]["view"]["passes"]] == ["As found", "As left"]
    assert dict(ShimLot.objects.values_list("tenths", "count")) == left
    assert Van.objects.get().moves.filter(entry=again["uuid"]).exists()
    pdf = tia.client.get(f"/api/v1/records/{saved['record']}/certificate.pdf").content
    text = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)
    for words in (
        "As found",
        "As left",
        "Side view",
        "Top view",
        "vertical offset",
        "Motor moved: front left",
    ):
        assert words in text
    story = tia("GET", f"/records/{saved['record']}")[1]["story"]
    assert [x["says"].split(":")[0] for x in story] == [
        "Set dimensions and data entered.",
        "As found",
        "Motor moved",
        "Tightened in a cross pattern.",
        "As left",
    ]


def test_a_visit_goes_out_as_json_and_comes_in_again(api: Door, site: Site, pump_set: PumpSet) -> None:
    tia = api("tia")
    body = [
        read(1, "0.20", "3.30"),
        entry("moved", 5, pack_front_left="0.2 mm"),
        entry("tightened", 8),
        read(9, "0.02", "3.02", "as_left"),
    ]
    status, saved = tia(
        "POST",
        "/benches/alignment/records",
        {"set_id": pump_set.pk, "sheet": str(uuid.uuid4()), "entries": body},
    )
    assert status == 201, saved
    facts = Record.objects.get().body
    raw = tia.client.get(f"/api/v1/sets/{pump_set.pk}/readings/alignment.json").content
    rows = (
        tia.client.get(f"/api/v1/sets/{pump_set.pk}/readings/alignment.csv")
        .content.decode("utf-8-sig")
        .splitlines()
    )
    assert len(rows) == 3  # a header, and a line a pass

    def bring(content: bytes) -> dict[str, Any]:
        sent = tia.client.post(
            f"/api/v1/sites/{site.pk}/readings/imports",
            {"bench": "alignment", "file": SimpleUploadedFile("a.json", content)},
        )
        assert sent.status_code == 201, sent.content
        job = sent.json()["id"]
        importing.run(job)
        return {
            **tia("GET", f"/readings/imports/{job}")[1],
            "rows": tia("GET", f"/readings/imports/{job}/rows")[1]["rows"],
            "id": job,
        }

    assert bring(raw)["there"] == 1
    Record.objects.all().update(live=False)
    Record.objects.all().update(body={})
    back = bring(raw)
    assert back["taken"] + back["questioned"] == 1, back
    tia("POST", f"/readings/imports/{back['id']}/write")
    importing.run(back["id"])
    assert Record.objects.get(live=True).body == facts
    wrong = json.dumps(
        [
            {"tag": "C-1", "taken_at": "2026-01-01", "facts": {"method": "tape"}},
            {"tag": "Z-9", "taken_at": "2026-01-01", "facts": {"step_12": mm("0.1")}},
            7,
        ]
    )
    refused = bring(wrong.encode())
    assert refused["refused"] == 3
    said = " ".join(r["says"] for r in refused["rows"])
    assert "cannot be read: error at method" in said
    assert "No pump set Z-9" in said
    sent = tia.client.post(
        f"/api/v1/sites/{site.pk}/readings/imports",
        {"bench": "alignment", "file": SimpleUploadedFile("a.json", b"[{")},
    )
    assert (sent.status_code, sent.json()["code"]) == (422, "json_wrong")
