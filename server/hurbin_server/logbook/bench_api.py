"""One typed operation per bench, made from the registry: context, evaluate, save."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Status
from pydantic import BaseModel, Field, create_model

from hurbin_core.base import AnyBench, Evaluation, Verdict, adapter, present, shown_type
from hurbin_core.catalogue import benches, topics
from hurbin_core.logbook import AnyCase, Case, Entry
from hurbin_server.base.door import DoorRouter, judges_only, one_moment
from hurbin_server.base.errors import ERRORS, Refused
from hurbin_server.base.limiting import EVALUATE
from hurbin_server.base.models import User
from hurbin_server.base.prefs import prefs_of
from hurbin_server.plant.access import may_see_set, set_for

from .querysets import sheet_out
from .schemas import BenchOut, LeaveIn, RunningOut, SaveOut, SheetOut
from .services import sheets
from .services.casing import case_for
from .services.reads import case_now, kept_case
from .services.saving import save_record
from .signals import OFFERS

router = DoorRouter(tags=["benches"])


def _pascal(b: AnyBench) -> str:
    return "".join(w.capitalize() for w in b.name.split("_"))


def _shapes(b: AnyBench) -> tuple[type[BaseModel], type[BaseModel], type[BaseModel]]:
    pascal = _pascal(b)
    entry = create_model(f"{pascal}EntryIn", __base__=Entry[b.entry])  # type: ignore[name-defined]
    common: dict[str, Any] = {
        "set_id": (int, ...),
        "entries": (list[entry], Field(max_length=500)),
        "corrects": (int | None, None),
    }
    evaluate = create_model(f"{pascal}EvaluateIn", **common)
    save = create_model(
        f"{pascal}SaveIn",
        sheet=(str, Field(min_length=8, max_length=64)),
        seen=(Verdict | None, None),
        reason=(str, Field(default="", max_length=300)),
        **common,
    )
    case = create_model(f"{pascal}Case", __base__=Case[Any], filed=(list[entry], []))
    return evaluate, save, case


def _add(b: AnyBench) -> None:
    evaluate_in, save_in, case_out = _shapes(b)
    shown = shown_type(Evaluation[b.view])  # type: ignore[name-defined]
    save_out = create_model(f"{_pascal(b)}SaveOut", __base__=SaveOut, evaluation=(shown, ...))

    @router.get(f"/benches/{b.name}/schema", response={200: dict, **ERRORS}, operation_id=f"{b.name}_schema")
    def schema(request: HttpRequest) -> dict[str, Any]:
        return adapter(b.entry).json_schema()

    @router.get(
        f"/benches/{b.name}/case/{{set_id}}",
        response={200: case_out, **ERRORS},
        operation_id=f"{b.name}_case",
    )
    def case(request: HttpRequest, set_id: int) -> HttpResponse:
        pump_set = set_for(request.user, set_id)
        found = case_now(pump_set, b)
        found.filed = sheets.filed_now(pump_set, b)
        acts = [b.act] if b.act else []
        found.offers = {k: v for ask in OFFERS for k, v in ask(pump_set, request.user, acts).items()}
        return HttpResponse(found.model_dump_json(), content_type="application/json")

    @router.post(
        f"/benches/{b.name}/evaluate",
        response={200: shown, **ERRORS},
        operation_id=f"{b.name}_evaluate",
        throttle=EVALUATE,
    )
    @judges_only
    def evaluate(request: HttpRequest, body: evaluate_in) -> HttpResponse:  # type: ignore[valid-type]
        found = _case_of(request.user, body.set_id, b, body.corrects)  # type: ignore[attr-defined]
        entries = sheets.with_authors(request.user, b, list(body.entries))  # type: ignore[attr-defined]
        answer = present(b.evaluate(found, entries), prefs_of(request.user))
        return HttpResponse(answer.model_dump_json(), content_type="application/json")

    @router.post(
        f"/benches/{b.name}/records",
        response={200: save_out, 201: save_out, **ERRORS},
        operation_id=f"{b.name}_save",
    )
    def save(request: HttpRequest, body: save_in) -> Status:  # type: ignore[valid-type]
        raw = [e.model_dump() for e in body.entries]  # type: ignore[attr-defined]
        saved = save_record(
            request.user,
            body.set_id,
            b.name,
            body.sheet,
            raw,
            corrects=body.corrects,
            reason=body.reason,  # type: ignore[attr-defined]
        )
        told = present(saved.evaluation, prefs_of(request.user))
        seen = body.seen  # type: ignore[attr-defined]
        out = save_out(
            record=saved.record.pk,
            again=saved.again,
            by=saved.record.by.full_name,
            late=saved.late,
            differs=seen is not None and seen != told.verdict,
            evaluation=told,
        )
        return Status(200 if saved.again else 201, out)


def _case_of(user: User, set_id: int, b: AnyBench, corrects: int | None) -> AnyCase:
    """The case that a keystroke is judged in: the one that is kept, or one made now."""
    if corrects is None:
        may_see_set(user, set_id)
        held = kept_case(set_id, b)
        if held is not None:
            return held
    with one_moment():
        pump_set = set_for(user, set_id)
        old = pump_set.records.filter(pk=corrects, bench=b.name).first() if corrects else None
        if old is not None:
            return case_for(pump_set, b, old.taken_at, without=old)[0]
        return case_now(pump_set, b)


def _add_open(b: AnyBench) -> None:
    """Benches whose sheet stays open: entries one by one, from any device."""
    entry = create_model(f"{_pascal(b)}OpenEntryIn", __base__=Entry[b.entry])  # type: ignore[name-defined]
    append_in = create_model(
        f"{_pascal(b)}AppendIn", set_id=(int, ...), entries=(list[entry], Field(min_length=1, max_length=200))
    )

    @router.post(
        f"/benches/{b.name}/sheets/{{uuid}}/entries",
        response={200: SheetOut, **ERRORS},
        operation_id=f"{b.name}_append",
    )
    def append(request: HttpRequest, uuid: str, body: append_in) -> SheetOut:  # type: ignore[valid-type]
        if not 8 <= len(uuid) <= 64:
            raise Refused(
                422, "sheet_id_wrong", "A sheet's id has 8 to 64 characters.", field="uuid", value=uuid[:64]
            )
        raw = [e.model_dump() for e in body.entries]  # type: ignore[attr-defined]
        return sheet_out(sheets.append_entries(request.user, body.set_id, b, uuid, raw))  # type: ignore[attr-defined]

    @router.get(
        f"/benches/{b.name}/sheets",
        response={200: list[SheetOut], **ERRORS},
        operation_id=f"{b.name}_open_sheets",
    )
    def open_sheets(request: HttpRequest, set_id: int) -> list[SheetOut]:
        return [sheet_out(s) for s in sheets.open_sheets(request.user, set_id, b.name)]


@router.get("/benches", response={200: list[BenchOut], **ERRORS}, operation_id="benches")
def manifest(request: HttpRequest) -> list[BenchOut]:
    rooms = topics()
    return [
        BenchOut(
            name=b.name,
            title=b.title,
            topic=rooms[b.name],
            part=b.part,
            act=b.act,
            read_with=list(b.read_with),
            many=b.many,
            single=b.single,
            files=b.files is not None,
            correctable=not b.single,
            records=b.records or b.title,
            offer=b.offer or b.title,
            key=b.key,
            does=b.does,
            slot=b.slot,
            kinds=list(b.kinds),
            sets=list(b.sets),
            leads=b.leads,
            one=b.one,
            gated=b.gated,
            seen=b.seen,
        )
        for b in sorted(benches(), key=lambda b: b.place)
    ]


@router.get("/sheets/running", response={200: list[RunningOut], **ERRORS}, operation_id="running_sheets")
def running(request: HttpRequest) -> list[RunningOut]:
    return [
        RunningOut(
            sheet=s.uuid,
            set_id=s.pump_set_id,
            tag=s.pump_set.tag,
            bench=s.bench,
            by=s.opened_by.full_name,
            clocks=clocks,
        )
        for s, clocks in sheets.running(request.user)
    ]


@router.get("/sheets/{uuid}", response={200: SheetOut, **ERRORS}, operation_id="sheet")
def sheet(request: HttpRequest, uuid: str) -> SheetOut:
    return sheet_out(sheets.sheet_for(request.user, uuid))


@router.post("/sheets/{uuid}/leave", response={200: SheetOut, **ERRORS}, operation_id="leave_sheet")
def leave(request: HttpRequest, uuid: str, body: LeaveIn) -> SheetOut:
    return sheet_out(sheets.leave(request.user, uuid, body.reason))


for _bench in benches():
    _add(_bench)
    if _bench.many:
        _add_open(_bench)
