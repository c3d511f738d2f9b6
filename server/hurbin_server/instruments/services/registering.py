"""Enter an instrument, change it, calibrate it, put it out of service; take it in hand."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta
from typing import Literal
from zoneinfo import ZoneInfo

from django.db import transaction

from hurbin_core.instruments import READS, InstrumentSaid, instrument_of, read_register
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused, not_found
from hurbin_server.base.models import User
from hurbin_server.plant.access import hold_site, require, site_for
from hurbin_server.plant.models import Site

from ..known import tool_of
from ..models import Calibration, InHand, Instrument
from ..signals import worth_changed

MOST = 200


def day_start(day: date, site: Site) -> datetime:
    """When a day of the site's calendar begins."""
    return datetime.combine(day, time.min, tzinfo=ZoneInfo(site.time_zone)).astimezone(UTC)


def instrument_for(user: User, pk: int, at_least: str = "viewer") -> Instrument:
    row = Instrument.objects.select_related("site").filter(pk=pk).first()
    if row is None:
        raise not_found("Instrument")
    require(user, row.site_id, at_least)
    return row


def add(user: User, site_id: int, said: InstrumentSaid, since: date | None) -> Instrument:
    """A new instrument. Refused: one that is none (422), a label that is taken (409), in service from the
    future on (422).
    """
    site = site_for(user, site_id, "lead")
    begins = day_start(since, site) if since is not None else now()
    if begins > now():
        raise Refused(422, "since_wrong", "In service since: the date is in the future.", field="since")
    with transaction.atomic():
        hold_site(site.pk)
        return _add(user, site, said, begins)


def _add(user: User, site: Site, said: InstrumentSaid, begins: datetime) -> Instrument:
    made = instrument_of(said, id="new", since=begins)
    _free(site, made.name)
    if Instrument.objects.filter(site=site).count() >= MOST:
        raise Refused(409, "instruments_full", f"Limit reached: {MOST} instruments per site.")
    row = Instrument.objects.create(site=site, name=made.name, said=_kept(said), since=begins)
    audit.note(user, "instrument_added", made.name, site_id=site.pk, after=row.said)
    return row


def _kept(said: InstrumentSaid) -> dict[str, object]:
    told = InstrumentSaid.model_validate(said.model_dump(include=set(InstrumentSaid.model_fields)))
    return told.model_dump(mode="json", exclude_defaults=True)


def _free(site: Site, name: str, but: int | None = None) -> None:
    if Instrument.objects.filter(site=site, name=name).exclude(pk=but).exists():
        raise Refused(409, "name_taken", f"{name} is already in the register.", field="name", value=name)


def change(user: User, pk: int, version: int, said: InstrumentSaid) -> Instrument:
    """What was entered wrong is set right, and all that it ever read is evaluated anew. Refused: one that is
    none (422), a label that is taken or an older version (409), another kind than it was (422).
    """
    site_id = instrument_for(user, pk, "lead").site_id
    with transaction.atomic():
        hold_site(site_id)
        row = Instrument.objects.select_related("site").get(pk=pk)
        _not_stale(row, version)
        made = instrument_of(said, id=str(pk), since=row.since)
        if made.kind != row.said["kind"]:
            raise Refused(
                422, "kind_other", "An instrument keeps its kind. Enter another as a new one.", field="kind"
            )
        _free(row.site, made.name, pk)
        _set_right(user, row, said, made.name)
    return row


def _set_right(user: User, row: Instrument, said: InstrumentSaid, name: str) -> None:
    before, row.said, row.name = row.said, _kept(said), name
    row.version += 1
    row.save(update_fields=["said", "name", "version"])
    audit.note(user, "instrument_changed", row.name, site_id=row.site_id, before=before, after=row.said)
    worth_changed.send(sender=Instrument, instrument=row, since=row.since, until=now())


def _not_stale(row: Instrument, version: int) -> None:
    if row.version != version:
        raise Refused(
            409,
            "stale",
            "Changed by someone else while you had it open. Both versions are shown: choose one.",
            current={**row.said, "version": row.version},
        )


def calibrate(
    user: User,
    pk: int,
    done: date,
    due: date | None,
    found: Literal["", "within", "out"] = "",
    note: str = "",
) -> Calibration:
    """A calibration on record. What it read since the one before is evaluated anew: one that found it out of
    tolerance takes the ground from all of that. Refused: a day ahead, a due date that does not come after it
    (422), a second one of a day (409).
    """
    row = instrument_for(user, pk, "lead")
    if day_start(done, row.site) > now():
        raise Refused(422, "done_wrong", "The calibration is in the future.", field="done")
    if due is not None and due <= done:
        raise Refused(
            422,
            "due_wrong",
            "Next due: the date must come after the calibration.",
            field="due",
            value=str(due),
        )
    with transaction.atomic():
        hold_site(row.site_id)
        return _calibrate(user, row, done, due, found, note)


def _calibrate(
    user: User, row: Instrument, done: date, due: date | None, found: str = "", note: str = ""
) -> Calibration:
    at = day_start(done, row.site)
    if row.calibrations.filter(done_at=at).exists():
        raise Refused(
            409, "calibrated_already", "A calibration of that day is already on record.", field="done"
        )
    # It counts through the whole of its last day.
    until = day_start(due + timedelta(days=1), row.site) if due is not None else None
    before = row.calibrations.filter(done_at__lt=at).order_by("done_at").last()
    made = Calibration.objects.create(
        instrument=row, done_at=at, due_at=until, found=found, note=note.strip(), by=user, at=now()
    )
    after = {"done": done.isoformat(), "due": due.isoformat() if due else "", "found": found}
    audit.note(user, "instrument_calibrated", row.name, site_id=row.site_id, after=after)
    since = before.done_at if before is not None else row.since
    worth_changed.send(sender=Instrument, instrument=row, since=since, until=until or now())
    return made


def retire(user: User, pk: int, because: str) -> Instrument:
    """Out of service from now on. What it read before stays what it was."""
    site_id = instrument_for(user, pk, "lead").site_id
    if not because.strip():
        raise Refused(
            422, "reason_missing", "Enter why it goes out of service.", field="because", right="broken, lost"
        )
    with transaction.atomic():
        hold_site(site_id)
        row = Instrument.objects.get(pk=pk)
        if row.until is None:
            row.until, row.until_because = now(), because.strip()
            row.version += 1
            row.save(update_fields=["until", "until_because", "version"])
            InHand.objects.filter(instrument=row).delete()
            audit.note(user, "instrument_retired", row.name, site_id=site_id, after={"because": because})
    return row


def reinstate(user: User, pk: int, version: int) -> Instrument:
    """Back in service, as if it had never been out of it: for one that was taken out by mistake, or found.
    Refused: an older version (409).
    """
    site_id = instrument_for(user, pk, "lead").site_id
    with transaction.atomic():
        hold_site(site_id)
        row = Instrument.objects.get(pk=pk)
        _not_stale(row, version)
        if row.until is not None:
            since = row.until
            before = {"until": since.isoformat(), "because": row.until_because}
            row.until, row.until_because = None, ""
            row.version += 1
            row.save(update_fields=["until", "until_because", "version"])
            audit.note(user, "instrument_reinstated", row.name, site_id=site_id, before=before)
            worth_changed.send(sender=Instrument, instrument=row, since=since, until=now())
    return row


def take_in_hand(user: User, site_id: int, reads: dict[str, int | None]) -> None:
    """What a person reads with from now on, by dimension; None: nothing. Refused: what the instrument does
    not measure, one of another site or out of service (422).
    """
    require(user, site_id, "technician")
    rows = {r.pk: r for r in Instrument.objects.filter(site_id=site_id, until=None)}
    with transaction.atomic():
        hold_site(site_id)
        for dimension, pk in reads.items():
            held = InHand.objects.filter(user=user, site_id=site_id, reads=dimension[:24])
            if pk is None:
                held.delete()
                continue
            row = rows.get(pk)
            if row is None or tool_of(row, []).span(dimension) is None:
                what = READS.get(dimension, dimension[:24])
                message = f"No instrument in service with this number measures {what}."
                raise Refused(422, "instrument_other", message, field="reads", value=dimension[:24])
            InHand.objects.update_or_create(
                user=user, site_id=site_id, reads=dimension, defaults={"instrument": row}
            )
        audit.note(user, "instruments_in_hand", user.username, site_id=site_id, after=reads)


def bring_in(user: User, site_id: int, text: str) -> int:
    """A register file, all or nothing: a new label is entered, one that is there is set to what the file
    says; a later calibration is added. Refused with every line that is wrong (422).
    """
    site = site_for(user, site_id, "lead")
    rows, problems = read_register(text)
    if problems:
        raise Refused(
            422,
            "rows_refused",
            f"{len(problems)} lines are refused; nothing was changed. {problems[0].field}:"
            f" {problems[0].message}",
            problems=problems[:50],
        )
    if not rows:
        raise Refused(422, "file_empty", "The file is empty.", field="file")
    with transaction.atomic():
        hold_site(site.pk)
        held = {r.name: r for r in Instrument.objects.select_related("site").filter(site=site)}
        for row in rows:
            mine = held.get(row.said.name)
            if mine is None:
                begins = day_start(row.calibrated, site) if row.calibrated is not None else now()
                mine = _add(user, site, row.said, min(begins, now()))
            elif mine.said["kind"] != row.said.kind:
                message = f"{mine.name} is on file as another kind of instrument."
                raise Refused(409, "kind_other", message, field=f"line {row.line}")
            elif mine.said != _kept(row.said):
                _set_right(user, mine, row.said, mine.name)
            done = row.calibrated
            if done is not None and not mine.calibrations.filter(done_at__gte=day_start(done, site)).exists():
                if day_start(done, site) > now():
                    raise Refused(
                        422, "done_wrong", "The calibration is in the future.", field=f"line {row.line}"
                    )
                _calibrate(user, mine, done, row.due)
        audit.note(user, "instruments_brought_in", f"{len(rows)} instruments", site_id=site.pk)
    return len(rows)
