"""Reads of the plant."""

from __future__ import annotations

from hurbin_core.base import UNITS, Entered, Prefs, field_rules, read, show
from hurbin_core.plant import PARTS, Plate, check_plate, kind
from hurbin_server.base.models import User

from . import access
from .access import role_on, set_for, site_for
from .known import fittings_of, pair_of
from .models import Component, Fitting, PumpSet, Service, Site
from .schemas import ComponentOut, RegisterOut, ServiceIn, ServiceOut, SetBrief, SetOut, SiteOut
from .services.parts import plate_of


def sites_of(user: User) -> list[SiteOut]:
    return [site_out(m.site, role_on(user, m.site_id) or m.role) for m in access.sites_of(user)]


def site_out(site: Site, role: str) -> SiteOut:
    return SiteOut(
        id=site.pk,
        code=site.code,
        name=site.name,
        time_zone=site.time_zone,
        altitude_m=site.altitude_m,
        version=site.version,
        role=role,
    )


def service_out(s: Service) -> ServiceOut:
    return ServiceOut(id=s.pk, version=s.version, **{f: getattr(s, f) for f in ServiceIn.model_fields})


def plate_lines(plate: Plate, prefs: Prefs) -> list[str]:
    """The plate as short lines for reading: figures in the reader's units, as typed where the unit is
    theirs.
    """
    out = []
    rules = field_rules(type(plate))
    for name, info in type(plate).model_fields.items():
        value = getattr(plate, name)
        if name in rules:
            if value is not None and value.text.strip():
                out.append(f"{rules[name].label}: {_as_shown(value, rules[name], prefs)}")
        elif value not in ("", None, False) and not (name == "connection" and value == "single"):
            out.append(f"{info.title}: {'yes' if value is True else value}")
    return out


def _as_shown(value: Entered, rule: object, prefs: Prefs) -> str:
    got = read(value, rule)  # type: ignore[arg-type]
    if got is None:
        return ""
    dimension = UNITS[got.unit].dimension
    wanted = prefs.units.get(dimension)
    if wanted is None or wanted == value.unit:
        return f"{value.text}\u00a0{UNITS[value.unit].symbol}".rstrip("\u00a0") if value.unit else value.text
    return show(got.quantity, prefs)


def component_out(c: Component, fitting: Fitting | None, prefs: Prefs) -> ComponentOut:
    plate = plate_of(c)
    slot = fitting.slot if fitting else ""
    return ComponentOut(
        id=c.pk,
        kind=c.kind,
        label=c.label,
        slot=slot,
        slot_title=PARTS[slot].title if slot else "spare",
        fitted_from=fitting.from_at if fitting else None,
        at_tag=fitting.pump_set.tag if fitting else "",
        plate=plate.model_dump(mode="json"),
        plate_version=c.plate_version,
        lines=plate_lines(plate, prefs),
        missing=check_plate(plate)[1],
    )


def set_out(user: User, set_id: int, prefs: Prefs) -> SetOut:
    row = set_for(user, set_id)
    by_slot = {f.slot: f for f in fittings_of(row) if f.to_at is None}
    k = kind(row.kind)
    return SetOut(
        id=row.pk,
        site_id=row.site_id,
        service_id=row.service_id,
        service=row.service.name,
        tag=row.tag,
        name=row.name,
        place=row.place,
        nickname=row.nickname,
        kind=row.kind,
        kind_title=k.title,
        posture=k.posture,
        slots=k.slots,
        role=row.role,
        pair=row.pair,
        version=row.version,
        may=role_on(user, row.site_id) or "",
        partners=[brief(p) for p in pair_of(row)],
        components=[component_out(by_slot[s].component, by_slot[s], prefs) for s in k.slots if s in by_slot],
    )


def brief(s: PumpSet, control: str = "") -> SetBrief:
    return SetBrief(
        id=s.pk, service_id=s.service_id, tag=s.tag, name=s.name, role=s.role, kind=s.kind, control=control
    )


def register_out(user: User, site_id: int, prefs: Prefs) -> RegisterOut:
    site = site_for(user, site_id)
    controls = dict(
        Fitting.objects.filter(pump_set__site=site, slot="control", to_at=None).values_list(
            "pump_set_id", "component__kind"
        )
    )
    spares = (
        Component.objects.filter(site=site).exclude(fittings__to_at=None, fittings__isnull=False).distinct()
    )
    return RegisterOut(
        site=site_out(site, role_on(user, site_id) or ""),
        services=[service_out(s) for s in Service.objects.filter(site=site)],
        sets=[brief(s, controls.get(s.pk, "")) for s in PumpSet.objects.filter(site=site)],
        spares=[component_out(c, None, prefs) for c in spares],
    )
