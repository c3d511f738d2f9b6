"""Sites, services, sets, parts. Thin: parse, call, return."""

from __future__ import annotations

from zoneinfo import available_timezones

from django.db import transaction
from django.http import HttpRequest
from ninja import Query, Status

from hurbin_core.plant import EVENT_KINDS, KINDS, PARTS, SERVES, plate_model
from hurbin_server.base.door import DoorRouter
from hurbin_server.base.errors import ERRORS
from hurbin_server.base.prefs import prefs_of

from . import querysets as q, searching
from .access import component_for, site_for
from .models import Fitting, Membership
from .schemas import (
    ComponentIn,
    ComponentOut,
    EventAdded,
    EventIn,
    FitIn,
    FoundOut,
    KindsOut,
    PairIn,
    PersonEdit,
    PersonIn,
    PersonOut,
    PlateIn,
    PlateOut,
    RegisterOut,
    ServiceEdit,
    ServiceIn,
    ServiceOut,
    SetEdit,
    SetIn,
    SetOut,
    SiteEdit,
    SiteIn,
    SiteOut,
    TakeOffIn,
)
from .services import events, parts, people, places
from .services.accounts import sessions_of

router = DoorRouter(tags=["plant"])


@router.get("/kinds", response={200: KindsOut, **ERRORS}, operation_id="kinds")
def kinds(request: HttpRequest) -> KindsOut:
    return KindsOut(
        kinds=list(KINDS.values()),
        parts=list(PARTS.values()),
        events=list(EVENT_KINDS.values()),
        serves=list(SERVES.values()),
        time_zones=sorted(available_timezones()),
    )


@router.get("/sites/{site_id}/found", response={200: list[FoundOut], **ERRORS}, operation_id="find")
def find(
    request: HttpRequest, site_id: int, words: str = Query(min_length=3, max_length=60)
) -> list[FoundOut]:
    return searching.find(request.user, site_id, words)


@router.get("/plates/{kind}/schema", response={200: dict, **ERRORS}, operation_id="plate_schema")
def plate_schema(request: HttpRequest, kind: str) -> dict:
    return plate_model(kind).model_json_schema()


@router.get("/sites", response={200: list[SiteOut], **ERRORS}, operation_id="sites")
def sites(request: HttpRequest) -> list[SiteOut]:
    return q.sites_of(request.user)


@router.post("/sites", response={201: SiteOut, **ERRORS}, operation_id="make_site")
def make_site(request: HttpRequest, body: SiteIn) -> Status:
    return Status(201, q.site_out(places.make_site(request.user, body.model_dump()), "admin"))


@router.put("/sites/{site_id}", response={200: SiteOut, **ERRORS}, operation_id="edit_site")
def edit_site(request: HttpRequest, site_id: int, body: SiteEdit) -> SiteOut:
    data = body.model_dump()
    return q.site_out(places.edit_site(request.user, site_id, data.pop("version"), data), "admin")


@router.get("/sites/{site_id}/register", response={200: RegisterOut, **ERRORS}, operation_id="register")
def register(request: HttpRequest, site_id: int) -> RegisterOut:
    return q.register_out(request.user, site_id, prefs_of(request.user))


@router.post("/sites/{site_id}/services", response={201: ServiceOut, **ERRORS}, operation_id="make_service")
def make_service(request: HttpRequest, site_id: int, body: ServiceIn) -> Status:
    return Status(201, q.service_out(places.make_service(request.user, site_id, body.model_dump())))


@router.put("/services/{service_id}", response={200: ServiceOut, **ERRORS}, operation_id="edit_service")
def edit_service(request: HttpRequest, service_id: int, body: ServiceEdit) -> ServiceOut:
    data = body.model_dump()
    return q.service_out(places.edit_service(request.user, service_id, data.pop("version"), data))


@router.post("/services/{service_id}/sets", response={201: SetOut, **ERRORS}, operation_id="make_set")
def make_set(request: HttpRequest, service_id: int, body: SetIn) -> Status:
    data = body.model_dump()
    row = places.make_set(request.user, service_id, data, data.pop("control"))
    return Status(201, q.set_out(request.user, row.pk, prefs_of(request.user)))


@router.post("/services/{service_id}/pairs", response={201: list[SetOut], **ERRORS}, operation_id="make_pair")
def make_pair(request: HttpRequest, service_id: int, body: PairIn) -> Status:
    shared = {"name": body.name, "place": body.place, "kind": body.kind, "pair": body.duty_tag}
    with transaction.atomic():
        made = [
            places.make_set(request.user, service_id, {**shared, "tag": tag, "role": role}, body.control)
            for tag, role in ((body.duty_tag, "duty"), (body.standby_tag, "standby"))
        ]
    return Status(201, [q.set_out(request.user, row.pk, prefs_of(request.user)) for row in made])


@router.get("/sets/{set_id}", response={200: SetOut, **ERRORS}, operation_id="pump_set")
def pump_set(request: HttpRequest, set_id: int) -> SetOut:
    return q.set_out(request.user, set_id, prefs_of(request.user))


@router.put("/sets/{set_id}", response={200: SetOut, **ERRORS}, operation_id="edit_set")
def edit_set(request: HttpRequest, set_id: int, body: SetEdit) -> SetOut:
    data = body.model_dump()
    places.edit_set(request.user, set_id, data.pop("version"), data)
    return q.set_out(request.user, set_id, prefs_of(request.user))


@router.post("/sets/{set_id}/events", response={201: EventAdded, **ERRORS}, operation_id="add_event")
def add_event(request: HttpRequest, set_id: int, body: EventIn) -> Status:
    return Status(
        201, EventAdded(id=events.add_event(request.user, set_id, body.kind, body.at, body.note).pk)
    )


@router.post("/sets/{set_id}/fittings", response={201: SetOut, **ERRORS}, operation_id="fit")
def fit(request: HttpRequest, set_id: int, body: FitIn) -> Status:
    parts.fit(request.user, set_id, body.slot, body.component_id, body.from_at, body.note, body.although)
    return Status(201, q.set_out(request.user, set_id, prefs_of(request.user)))


@router.post("/sets/{set_id}/take-off", response={200: SetOut, **ERRORS}, operation_id="take_off")
def take_off(request: HttpRequest, set_id: int, body: TakeOffIn) -> SetOut:
    parts.take_off(request.user, set_id, body.slot, body.at)
    return q.set_out(request.user, set_id, prefs_of(request.user))


@router.post(
    "/sites/{site_id}/components", response={201: ComponentOut, **ERRORS}, operation_id="make_component"
)
def make_component(request: HttpRequest, site_id: int, body: ComponentIn) -> Status:
    made = parts.make_component(request.user, site_id, body.kind, body.label)
    return Status(201, q.component_out(made, None, prefs_of(request.user)))


@router.get("/components/{component_id}", response={200: ComponentOut, **ERRORS}, operation_id="component")
def component(request: HttpRequest, component_id: int) -> ComponentOut:
    found = component_for(request.user, component_id)
    fitting = Fitting.objects.filter(component=found, to_at=None).select_related("pump_set").first()
    return q.component_out(found, fitting, prefs_of(request.user))


@router.get(
    "/components/{component_id}/plates",
    response={200: list[PlateOut], **ERRORS},
    operation_id="plate_versions",
)
def plate_versions(request: HttpRequest, component_id: int) -> list[PlateOut]:
    rows = component_for(request.user, component_id).plates.select_related("by")
    return [
        PlateOut(
            version=r.version, plate=r.plate, reason=r.reason, by=r.by.full_name if r.by else "", at=r.at
        )
        for r in rows
    ]


@router.post(
    "/components/{component_id}/plates", response={201: ComponentOut, **ERRORS}, operation_id="new_plate"
)
def new_plate(request: HttpRequest, component_id: int, body: PlateIn) -> Status:
    parts.new_plate(request.user, component_id, body.expected_version, body.plate, body.reason)
    return Status(201, component(request, component_id))


@router.get("/sites/{site_id}/people", response={200: list[PersonOut], **ERRORS}, operation_id="people")
def people_list(request: HttpRequest, site_id: int) -> list[PersonOut]:
    site = site_for(request.user, site_id, "admin")
    rows = list(site.memberships.select_related("user").order_by("user__username"))
    standing = sessions_of([m.user for m in rows])
    return [_person(m, standing.get(m.user_id, 0)) for m in rows]


def _person(m: Membership, sessions: int = 0, word: str = "") -> PersonOut:
    return PersonOut(
        username=m.user.username,
        full_name=m.user.full_name,
        role=m.role,
        active=m.active,
        password=word,
        may_sign_in=m.user.is_active,
        sessions=sessions,
        must_change=m.user.must_change,
    )


@router.post("/sites/{site_id}/people", response={201: PersonOut, **ERRORS}, operation_id="add_person")
def add_person(request: HttpRequest, site_id: int, body: PersonIn) -> Status:
    row, word = people.add_person(request.user, site_id, **body.model_dump())
    return Status(201, _person(row, word=word))


@router.patch(
    "/sites/{site_id}/people/{username}", response={200: PersonOut, **ERRORS}, operation_id="change_person"
)
def change_person(request: HttpRequest, site_id: int, username: str, body: PersonEdit) -> PersonOut:
    row = people.change_person(request.user, site_id, username, body.model_dump())
    return _person(row)
