"""What follows in safety when something is written in the logbook, and what safety says of how a set
stands.
"""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from datetime import datetime
from typing import Any

from django.dispatch import receiver

from hurbin_core.base import AnyBench, Evaluation, Quantity, TemporaryChange as Seen
from hurbin_core.logbook import Context, InterimLimit, case_of
from hurbin_core.safety import CHANGES, TESTERS, asks_again, fold
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.base.pruning import PRUNERS
from hurbin_server.logbook.models import Entry, Finding, Record, Sheet
from hurbin_server.logbook.services.answers import answer
from hurbin_server.logbook.services.judging import entries_of
from hurbin_server.logbook.signals import (
    CLOSED,
    EXTRAS,
    OFFERS,
    PERFORM,
    STATE,
    Day,
    Doing,
    Stands,
    entries_coming,
    entries_written,
    record_saved,
    sheet_leaving,
)
from hurbin_server.plant.access import require
from hurbin_server.plant.models import PumpSet

from .models import CheckBack, Deferral, TemporaryChange
from .services import hanging
from .services.gating import offers_of
from .services.pictures import drop_unspoken
from .services.standing import (
    BENCH,
    closed_answers,
    entries_on,
    facts_of,
    last_check,
    limits_of,
    partner_of,
    refresh,
    sheet_now,
    standing_at,
    testers_of,
)
from .services.trying import use_trials

_NAMESPACE = uuid.UUID("b0b5c7c2-52a5-4e7c-8a0e-2f0b6f2f3c10")


def _state(pump_set: PumpSet, bench: AnyBench, as_of: datetime, day: Day) -> dict[str, Any]:
    changes = _changes_then(pump_set, as_of if bench.name != BENCH else day.known_at)
    if bench.name == BENCH:
        return {
            "partner": partner_of(pump_set) if day.partner is None else day.partner,
            "changes": [f"{CHANGES[c.kind].title}, {c.place}" for c in changes if c.put_at <= as_of],
            "checked_at": last_check(pump_set, day.known_at),
        }
    return {
        "isolation": standing_at(pump_set, as_of, day.partner),
        "interim": _interim(pump_set, as_of),
        "change_kinds": [c.kind for c in changes],
    }


def _changes_then(pump_set: PumpSet, at: datetime) -> list[TemporaryChange]:
    """The temporary changes that stood then, whether they were taken off since or not."""
    rows = hanging.changes_of(pump_set)
    return [c for c in rows if c.put_at <= at and (c.off_at is None or c.off_at > at)]


def _interim(pump_set: PumpSet, as_of: datetime) -> list[InterimLimit]:
    rows = [d for d in hanging.deferrals_of(pump_set) if d.at <= as_of]
    return [x for d in rows if d.ended_at is None or d.ended_at > as_of for x in limits_of(d)]


def _touched(ids: list[int]) -> set[int]:
    sheets = Sheet.objects.filter(pump_set_id__in=ids, bench=BENCH).values_list("pump_set_id", flat=True)
    changes = TemporaryChange.objects.filter(pump_set_id__in=ids).values_list("pump_set_id", flat=True)
    return {
        *sheets,
        *changes,
        *Deferral.objects.filter(pump_set_id__in=ids).values_list("pump_set_id", flat=True),
    }


STATE.append(Stands(fields=_state, touched=_touched))
CLOSED.append(closed_answers)


PRUNERS["pictures"] = drop_unspoken


@receiver(entries_coming)
def _check_entries(
    sender: Any, user: User, pump_set: PumpSet, bench: AnyBench, typed: list[Any], **_: Any
) -> None:
    """A lock left behind is taken off by a lead; a figure that is none is refused before it is on the
    sheet.
    """
    if bench.name != BENCH:
        return
    if user.by_token:
        raise Refused(
            403, "not_by_token", "A set is made safe by hand: no script hangs a lock or proves it dead."
        )
    if user.shared:
        _own_hand(user, typed)
    if any(e.body.kind == "unlock" and e.body.forgotten for e in typed):
        require(user, pump_set.site_id, "lead")
        if any(e.body.kind == "unlock" and e.body.forgotten and not e.body.followed.strip() for e in typed):
            raise Refused(
                422,
                "steps_missing",
                "Enter the lock-removal steps taken before this lock came off.",
                field="followed",
                right="not on site, called, manager informed",
            )
    problems = bench.evaluate(case_of(Context(as_of=now())), typed).problems
    if problems:
        raise Refused(422, "figures_refused", problems[0].message, problems=problems)


def _own_hand(user: User, typed: list[Any]) -> None:
    """On a tablet of several people. What is on file is not written again, and so not asked for again."""
    filed = set(Entry.objects.filter(uuid__in=[e.uuid for e in typed]).values_list("uuid", flat=True))
    if asks_again([e.body.kind for e in typed if e.uuid not in filed], True, user.known_at, now()):
        said = "This tablet is shared: a lock is its owner's, on and off. Show that it is you."
        raise Refused(403, "ask_again", said)


@receiver(sheet_leaving)
def _leaving(sender: Any, sheet: Sheet, **_: Any) -> None:
    """A set on which something is shut or somebody is locked is given back, never left."""
    if sheet.bench != BENCH:
        return
    iso = fold(entries_on(sheet), facts_of(sheet.pump_set, now()))
    if iso.workers:
        raise Refused(
            409,
            "locks_on",
            f"Still locked on: {', '.join(w.name for w in iso.workers)}. All locks must come off first.",
        )
    if any(s.shut for s in iso.sources):
        raise Refused(409, "still_shut", "A source is still isolated. Follow the return-to-service steps.")


@receiver(entries_written)
def _stands(sender: Any, user: User, pump_set: PumpSet, bench: AnyBench, sheet: Sheet, **_: Any) -> None:
    if bench.name == BENCH:
        refresh(pump_set, now())
        if Finding.objects.filter(pump_set=pump_set, live=True, question="live_on_isolated").exists():
            answer(pump_set, ["live_on_isolated"])


def _hang(doing: Doing) -> None:
    """A step that lifts a wire hangs its tag by itself, and takes it off when the source is as found
    again.
    """
    for e in doing.effects:
        if e.of == "set":
            _seen(doing, e)
            continue
        uuid_ = _step_uuid(doing.sheet, e.key)
        mine = TemporaryChange.objects.filter(uuid__startswith=uuid_)
        on = mine.filter(off_at=None).first()
        if e.on and on is None:
            _put_on(doing, e, f"{uuid_}-{mine.count()}")
        elif not e.on and on is not None:
            on.off_at, on.off_by, on.off_note = now(), doing.user, "restored as found"
            on.save(update_fields=["off_at", "off_by", "off_note"])


def _seen(doing: Doing, e: Seen) -> None:
    """What was seen to stand on the set, or not to: one of a kind is open at most, whoever opened it. An
    older look says nothing of today once a later one said how it stands; one that said nothing is no look.
    """
    if doing.record is None or any(_looks(doing, e, taken_at__gt=e.at)):
        return
    open_ones = TemporaryChange.objects.filter(pump_set=doing.pump_set, kind=e.change, off_at=None)
    first = _first(doing, e)
    if e.on and not open_ones.exists():
        _put_on(doing, e.model_copy(update={"at": first}), _step_uuid(doing.sheet, e.key))
    if not e.on:
        for on in open_ones.filter(put_at__lte=e.at):
            on.off_at = first if on.put_at <= first else e.at
            on.off_by, on.off_note = doing.user, "automatic seen on the running check"
            on.save(update_fields=["off_at", "off_by", "off_note"])


def _first(doing: Doing, e: Seen) -> datetime:
    """Since when it has stood as it was seen: the first of the looks that came with it, unless something on
    record saw it otherwise in between.
    """
    if e.since is None or e.since == e.at:
        return e.at
    between = _looks(doing, e, taken_at__gt=e.since, taken_at__lt=e.at)
    return e.at if any(x.on != e.on for x in between) else e.since


def _looks(doing: Doing, e: Seen, **when: datetime) -> Iterator[Seen]:
    """How the same change was seen to stand by other records of this bench at that time: only it knows."""
    for r in Record.objects.filter(pump_set=doing.pump_set, bench=doing.bench.name, live=True, **when):
        raw = {"uuid": str(r.sheet_id).zfill(8), "taken_at": r.taken_at, "device": "record", "body": r.body}
        declared = doing.bench.performs(
            case_of(Context(as_of=r.taken_at)), entries_of(doing.bench.name, [raw]), True
        )
        yield from (d for d in declared if isinstance(d, Seen) and d.change == e.change)


def _put_on(doing: Doing, e: Seen, uuid_: str) -> None:
    TemporaryChange.objects.create(
        uuid=uuid_,
        pump_set=doing.pump_set,
        kind=e.change,
        place=e.place[:120],
        note=e.note,
        sheet=doing.sheet.pk if e.of == "sheet" else "",
        put_at=e.at,
        put_by=doing.user,
    )


def _check_back(doing: Doing) -> None:
    """What is to be looked at again, and when. What is waited for while the work goes on stands as the sheet
    says it by now, and no longer.
    """
    waited = {e.key: e for e in doing.effects if e.waited}
    gone = CheckBack.objects.filter(sheet=doing.sheet.pk, waited=True, read_at=None).exclude(key__in=waited)
    gone.delete()
    for e in waited.values():
        told = {"pump_set": doing.pump_set, "due": e.at, "why": e.why, "waited": True}
        made = {**told, "at": now()}
        CheckBack.objects.update_or_create(
            sheet=doing.sheet.pk, key=e.key, defaults=told, create_defaults=made
        )
    for e in doing.effects:
        if doing.record is not None and not e.waited:
            CheckBack.objects.get_or_create(
                sheet=doing.sheet.pk,
                key=e.key,
                defaults={
                    "pump_set": doing.pump_set,
                    "at": doing.record.taken_at,
                    "due": e.at,
                    "why": e.why,
                },
            )


def _step_uuid(sheet: Sheet, source: str) -> str:
    return str(uuid.uuid5(_NAMESPACE, f"change/{sheet.pk}/{source}"))


@receiver(record_saved)
def _after_record(sender: Any, user: User, record: Record, evaluation: Evaluation[Any], **_: Any) -> None:
    use_trials(record, {f.question for f in evaluation.findings})
    if record.bench == BENCH:
        refresh(record.pump_set, now())
        answer(record.pump_set)


def _evidence(doing: Doing) -> None:
    """What a gate has to know of a record: energy on a set recorded as isolated revokes its proof. Evidence
    of which nobody takes note is an error: nothing declared is lost.
    """
    for e in doing.effects:
        if (e.to, e.of) != ("gate", "prove_dead") or e.value is None:
            raise RuntimeError(f"Nobody takes note of evidence for {e.to} {e.of}.")
        if doing.record is not None:
            _revoke(doing.user, doing.record, e.value)


EXTRAS[TESTERS] = lambda pump_set, as_of, day: testers_of(pump_set)
PERFORM.update(change=_hang, due=_check_back, evidence=_evidence)
OFFERS.append(offers_of)


def _revoke(user: User, record: Record, seen: Quantity) -> None:
    """Volts on a set recorded as isolated: written on the making-safe sheet as well, where they revoke the
    proof.
    """
    sheet = sheet_now(record.pump_set)
    if sheet is None:
        return
    figure = {"live_volts": {"text": f"{seen.value:g}", "unit": "V"}} if seen.unit == "V" else {}
    note = f"record {record.pk}" if figure else f"record {record.pk}: {seen.value:g} {seen.unit}"
    body = {"kind": "volts_seen", **figure, "note": note}
    Entry.objects.get_or_create(
        uuid=str(uuid.uuid5(_NAMESPACE, f"volts/{record.sheet_id}")),
        defaults={
            "sheet": sheet,
            "by": user,
            "device": "record",
            "taken_at": record.taken_at,
            "received_at": now(),
            "body": body,
            "late": sheet.closed_at is not None,
        },
    )
    audit.note(
        user,
        "proof_revoked",
        f"{record.pump_set.tag}: voltage or current seen",
        pump_set=record.pump_set,
        after={"record": record.pk},
    )
    refresh(record.pump_set, now())
    answer(record.pump_set, ["live_on_isolated"])  # until now nothing on the sheet said that it is live
