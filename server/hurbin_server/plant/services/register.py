"""The register as a file: what it would do, do it whole or not at all, and write it out again."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from django.db import transaction
from pydantic import BaseModel

from hurbin_core.base import Problem
from hurbin_core.plant import (
    KINDS,
    PARTS,
    RegisterRow,
    RowRefused,
    parse_register,
    plate_cells,
    write_register,
)
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User

from ..access import site_for
from ..models import Component, Fitting, PumpSet, Service
from ..signals import COLUMNS
from .parts import new_plate, plate_of
from .places import edit_set, make_service, make_set


class RowOut(BaseModel):
    line: int
    tag: str
    does: Literal["new", "changes", "same", "refused"]
    says: str


class ImportOut(BaseModel):
    rows: list[RowOut]
    new: int
    changes: int
    same: int
    refused: int
    written: bool


_SLOTS = {"motor": "motor", "control": "control_plate", "pump": "pump"}


def import_register(
    user: User, site_id: int, text: str, write: bool, fitted_from: datetime | None = None
) -> ImportOut:
    """Row by row: new, changes, same, refused. With `write`, all rows or none. `fitted_from`: since when the
    parts stand there (default: now).
    """
    site = site_for(user, site_id, "admin")
    good, refused = parse_register(text, {n: c.check for n, c in COLUMNS.items()})
    out = [_refused(r) for r in refused]
    if write and refused:
        raise Refused(
            422,
            "rows_refused",
            f"{len(refused)} rows rejected. Nothing was imported.",
            problems=[p for r in refused for p in r.problems],
        )
    with transaction.atomic():
        sets = {s.tag: s for s in PumpSet.objects.filter(site=site).select_related("service")}
        fitted, held = _fitted(list(sets.values())), _held(list(sets.values()))
        for row in good:
            out.append(_apply(user, site.pk, row, sets.get(row.tag), fitted, held, write, fitted_from))
        refused_here = [r for r in out if r.does == "refused"]
        if write and refused_here:
            # Inside of the transaction: a row that is refused keeps its neighbours out as well.
            raise Refused(
                422,
                "rows_refused",
                f"{len(refused_here)} rows rejected. Nothing was imported.",
                problems=[
                    Problem(code="row_refused", field=f"line {r.line}", value=r.tag, message=r.says)
                    for r in refused_here
                ],
            )
    out.sort(key=lambda r: r.line)
    count = {d: sum(r.does == d for r in out) for d in ("new", "changes", "same", "refused")}
    return ImportOut(rows=out, written=write, **count)


def _refused(r: RowRefused) -> RowOut:
    return RowOut(line=r.line, tag=r.tag, does="refused", says=" ".join(p.message for p in r.problems))


def _fitted(sets: list[PumpSet]) -> dict[tuple[int, str], Component]:
    rows = Fitting.objects.filter(pump_set__in=sets, to_at=None).select_related("component")
    return {(f.pump_set_id, f.slot): f.component for f in rows}


def _apply(
    user: User,
    site_id: int,
    row: RegisterRow,
    found: PumpSet | None,
    fitted: dict[tuple[int, str], Component],
    held: dict[str, dict[int, str]],
    write: bool,
    fitted_from: datetime | None,
) -> RowOut:
    if found is None:
        if write:
            _make(user, site_id, row, fitted_from)
        return RowOut(
            line=row.line, tag=row.tag, does="new", says=f"{row.name}, {KINDS[row.kind].title.lower()}"
        )
    if found.kind != row.kind:
        return RowOut(
            line=row.line,
            tag=row.tag,
            does="refused",
            says=f"{row.tag} is a {KINDS[found.kind].title.lower()}."
            " The type of an existing set cannot be changed.",
        )
    changed = [
        f for f in ("name", "place", "nickname", "role", "pair") if getattr(found, f) != getattr(row, f)
    ]
    plates = []
    for slot, attribute in _SLOTS.items():
        component = fitted.get((found.pk, slot))
        wanted = getattr(row, attribute)
        if component is not None and wanted != type(wanted)() and plate_of(component) != wanted:
            plates.append((slot, component, wanted))
    others = {n: said for n, said in row.more.items() if said != held[n].get(found.pk, "")}
    if not changed and not plates and not others:
        return RowOut(line=row.line, tag=row.tag, does="same", says="")
    if write:
        if changed:
            edit_set(user, found.pk, found.version, {f: getattr(row, f) for f in changed})
        for _, component, wanted in plates:
            new_plate(
                user, component.pk, component.plate_version, wanted.model_dump(mode="json"), "register import"
            )
        _keep(user, found, others)
    says = ", ".join(
        [*changed, *others, *(f"{PARTS[slot].title.lower()} nameplate" for slot, _, _ in plates)]
    )
    return RowOut(line=row.line, tag=row.tag, does="changes", says=says)


def _held(sets: list[PumpSet]) -> dict[str, dict[int, str]]:
    """What other rooms' columns say of these sets."""
    return {n: c.read(sets) for n, c in COLUMNS.items()}


def _keep(user: User, row: PumpSet, said: dict[str, str]) -> None:
    for name, cell in said.items():
        COLUMNS[name].write(user, row, cell)


def _make(user: User, site_id: int, row: RegisterRow, fitted_from: datetime | None) -> None:
    service = Service.objects.filter(site_id=site_id, code=row.service).first()
    if service is None:
        order = Service.objects.filter(site_id=site_id).count()
        service = make_service(
            user, site_id, {"code": row.service, "name": row.service_name, "place_in_order": order}
        )
    data = {f: getattr(row, f) for f in ("tag", "name", "place", "nickname", "kind", "role", "pair")}
    made = make_set(user, service.pk, data, row.control or "starter", fitted_from)
    fitted = _fitted([made])
    for slot, attribute in _SLOTS.items():
        component, wanted = fitted.get((made.pk, slot)), getattr(row, attribute)
        if component is not None and wanted != type(wanted)():
            new_plate(user, component.pk, 0, wanted.model_dump(mode="json"), "register import")
    _keep(user, made, row.more)


def export_register(user: User, site_id: int) -> str:
    site = site_for(user, site_id)
    sets = list(
        PumpSet.objects.filter(site=site).select_related("service").order_by("service__place_in_order", "tag")
    )
    fitted, held = _fitted(sets), _held(sets)
    rows = []
    for s in sets:
        cells = {f: str(getattr(s, f)) for f in ("tag", "name", "place", "nickname", "kind", "role", "pair")}
        cells |= {"service": s.service.code, "service_name": s.service.name}
        cells |= {n: of[s.pk] for n, of in held.items() if s.pk in of}
        for slot in _SLOTS:
            component = fitted.get((s.pk, slot))
            if component is not None:
                cells |= plate_cells(slot, plate_of(component))
                if slot == "control":
                    cells["control"] = component.kind
        rows.append(cells)
    return write_register(rows, COLUMNS)
