"""Calls, making safe, temporary changes, repairs put off, handing over: thin."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Status, UploadedFile

from hurbin_core.base import DIMENSIONS, MEASURANDS, write
from hurbin_core.plant import SERVES
from hurbin_core.safety import (
    CHANGES,
    COMPLAINTS,
    GATES,
    MEANS,
    SCOPES,
    SOURCES,
    WATCHED,
    DeferralIn,
    hazard_words,
    read_out,
)
from hurbin_server.base.clock import now
from hurbin_server.base.described import JPEG, PDF, media
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.limiting import UPLOAD
from hurbin_server.base.prefs import prefs_of
from hurbin_server.base.reencoding import MOST
from hurbin_server.plant.access import site_for

from . import querysets as q, schemas as s
from .hand_over import hand_over_pdf
from .isolation_out import CODES
from .services import calling, changing, gating, pictures, trying

router = DoorRouter(tags=["safety"])


@router.get("/safety/words", response={200: s.SafetyWordsOut, **ERRORS}, operation_id="safety_words")
def words(request: HttpRequest) -> s.SafetyWordsOut:
    return s.SafetyWordsOut(
        complaints=[s.WordIdOut(id=c.id, title=c.title, more=c.first) for c in COMPLAINTS.values()],
        changes=[s.WordIdOut(id=c.id, title=c.title, more=c.part) for c in CHANGES.values()],
        scopes=[s.ScopeOut(id=x.id, title=x.title, does=x.does, part=x.part) for x in SCOPES.values()],
        sources=[
            s.SourceKindOut(
                id=x.id,
                title=x.title,
                family=x.family,
                part=x.part,
                means=[
                    m.id
                    for m in MEANS.values()
                    if x.family in m.families
                    or (m.id == "check_valve" and x.family in ("wet", "heat", "turning"))
                ],
            )
            for x in SOURCES.values()
        ],
        means=[s.WordIdOut(id=m.id, title=m.title) for m in MEANS.values()],
        figures=[
            s.FigureOut(
                id=m, title=MEASURANDS[m].title, units=[u.code for u in DIMENSIONS[d]], legs=m == "current"
            )
            for m, d in WATCHED.items()
        ],
        gates=[s.WordIdOut(id=g.id, title=g.title, more=g.asks) for g in GATES.values() if not g.life],
        serves=list(SERVES.values()),
        hazard=write(hazard_words(), prefs_of(request.user)),
        codes=write(CODES),
    )


@router.get("/sites/{site_id}/safety", response={200: s.SiteSafetyOut, **ERRORS}, operation_id="site_safety")
def site_safety(request: HttpRequest, site_id: int) -> s.SiteSafetyOut:
    return q.site_safety(request.user, site_id, prefs_of(request.user))


@router.get("/sets/{set_id}/safety", response={200: s.SetSafetyOut, **ERRORS}, operation_id="set_safety")
def set_safety(request: HttpRequest, set_id: int) -> s.SetSafetyOut:
    return q.set_safety(request.user, set_id, prefs_of(request.user))


@router.post("/sites/{site_id}/calls", response={201: s.MatterOut, **ERRORS}, operation_id="report_call")
def report(request: HttpRequest, site_id: int, body: s.CallIn) -> Status:
    call = calling.report(request.user, site_id, **body.model_dump())
    return Status(201, q.matter_out(request.user, call.matter, prefs_of(request.user)))


@router.post("/calls/{uuid}/more", response={200: s.MatterOut, **ERRORS}, operation_id="add_to_call")
def more(request: HttpRequest, uuid: str, body: s.CallMore) -> s.MatterOut:
    call = calling.add_to_call(request.user, uuid, body.note, body.picture)
    return q.matter_out(request.user, call.matter, prefs_of(request.user))


@router.post("/matters/{matter_id}/end", response={200: s.MatterOut, **ERRORS}, operation_id="end_matter")
def end(request: HttpRequest, matter_id: int, body: s.MatterEnd) -> s.MatterOut:
    return q.matter_out(
        request.user,
        calling.end_matter(request.user, matter_id, body.found, body.done),
        prefs_of(request.user),
    )


@router.put(
    "/sets/{set_id}/isolation-list",
    response={200: s.SetSafetyOut, **ERRORS},
    operation_id="keep_isolation_list",
)
def keep_list(request: HttpRequest, set_id: int, body: s.ListIn) -> s.SetSafetyOut:
    changing.keep_list(request.user, set_id, body.version, body.lines)
    return q.set_safety(request.user, set_id, prefs_of(request.user))


@router.post("/sets/{set_id}/changes", response={201: s.Made, **ERRORS}, operation_id="put_change_on")
def put_on(request: HttpRequest, set_id: int, body: s.ChangeIn) -> Status:
    return Status(201, s.Made(id=changing.put_on(request.user, set_id, **body.model_dump()).uuid))


@router.post("/changes/{uuid}/off", response={200: s.Made, **ERRORS}, operation_id="take_change_off")
def take_off(request: HttpRequest, uuid: str, body: s.NoteIn) -> s.Made:
    return s.Made(id=changing.take_off(request.user, uuid, body.note).uuid)


@router.post(
    "/sets/{set_id}/deferrals/{uuid}", response={201: s.DeferralOut, **ERRORS}, operation_id="put_repair_off"
)
def put_off(request: HttpRequest, set_id: int, uuid: str, body: DeferralIn) -> Status:
    return Status(
        201, q.deferral_out(changing.put_off(request.user, set_id, uuid[:64], body), prefs_of(request.user))
    )


@router.post("/deferrals/{uuid}/end", response={200: s.Made, **ERRORS}, operation_id="end_deferral")
def end_deferral(request: HttpRequest, uuid: str, body: s.SaidIn) -> s.Made:
    return s.Made(id=changing.end_deferral(request.user, uuid, body.said).uuid)


@router.post("/check-backs/{check_id}/read", response={200: s.Made, **ERRORS}, operation_id="read_check_back")
def read_back(request: HttpRequest, check_id: int, body: s.SaidIn) -> s.Made:
    return s.Made(id=str(changing.read_check_back(request.user, check_id, body.said).pk))


@router.post("/sets/{set_id}/waivers", response={201: s.Made, **ERRORS}, operation_id="set_gate_aside")
def set_aside(request: HttpRequest, set_id: int, body: s.WaiverIn) -> Status:
    return Status(
        201, s.Made(id=str(gating.set_aside(request.user, set_id, body.gate, body.reason, body.until).pk))
    )


@router.post(
    "/sets/{set_id}/trials/{uuid}", response={201: s.Made, **ERRORS}, operation_id="release_trial_run"
)
def release_trial(request: HttpRequest, set_id: int, uuid: str, body: s.TrialIn) -> Status:
    return Status(
        201, s.Made(id=trying.release(request.user, set_id, uuid[:64], body.limits, body.minutes).uuid)
    )


@router.post(
    "/sites/{site_id}/pictures",
    response={201: s.Made, **ERRORS},
    operation_id="keep_picture",
    throttle=UPLOAD,
)
def keep_picture(request: HttpRequest, site_id: int, uuid: Form[str], file: File[UploadedFile]) -> Status:
    return Status(
        201,
        s.Made(id=pictures.keep_picture(request.user, site_id, uuid[:64], file.read(MOST + 1)).uuid),
    )


@router.get(
    "/pictures/{uuid}.jpg", response={200: bytes, **ERRORS}, openapi_extra=media(JPEG), operation_id="picture"
)
def picture(request: HttpRequest, uuid: str) -> HttpResponse:
    found = pictures.picture_for(request.user, uuid)
    answer = HttpResponse(bytes(found.content), content_type="image/jpeg")
    answer["Cache-Control"] = "private, max-age=86400, immutable"
    return answer


def _page(request: HttpRequest, site_id: int) -> s.HandOverOut:
    site = site_for(request.user, site_id)
    prefs = prefs_of(request.user)
    found = q.site_safety(request.user, site_id, prefs)
    return s.HandOverOut(
        site=site.name,
        time_zone=site.time_zone,
        as_of=now(),
        by=request.user.full_name,
        chapters=read_out(found.tags, now()),
        codes=write(CODES, prefs),
    )


@router.get("/sites/{site_id}/hand-over", response={200: s.HandOverOut, **ERRORS}, operation_id="hand_over")
def hand_over(request: HttpRequest, site_id: int) -> s.HandOverOut:
    return _page(request, site_id)


@router.get(
    "/sites/{site_id}/hand-over.pdf",
    response={200: bytes, **ERRORS},
    openapi_extra=media(PDF),
    operation_id="hand_over_pdf",
)
def hand_over_as_pdf(request: HttpRequest, site_id: int) -> HttpResponse:
    page = _page(request, site_id)
    answer = HttpResponse(hand_over_pdf(page), content_type="application/pdf")
    answer["Content-Disposition"] = f'attachment; filename="hand-over-{page.as_of:%Y-%m-%d-%H%M}.pdf"'
    return answer
