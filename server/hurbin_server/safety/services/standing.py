"""How a set stands: folded from its making-safe sheet, now or at any moment of the past."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from hurbin_core.base import write
from hurbin_core.catalogue import benches
from hurbin_core.instruments import INSTRUMENT_KINDS, Instrument
from hurbin_core.logbook import Context, InterimLimit, SetState, Standing, case_of
from hurbin_core.safety import TESTERS, Isolation, SetFacts, fold
from hurbin_server.base.asking import ask, row
from hurbin_server.base.clock import now
from hurbin_server.instruments.known import register_of
from hurbin_server.logbook.models import Entry, Sheet
from hurbin_server.logbook.services.casing import part_of
from hurbin_server.logbook.services.judging import entries_of, raw_of
from hurbin_server.logbook.signals import Over
from hurbin_server.plant.known import fitted_at, pair_of
from hurbin_server.plant.models import PumpSet

from ..models import Deferral, IsolationState

BENCH = "make_safe"


def partner_of(pump_set: PumpSet) -> str:
    return next((other.tag for other in pair_of(pump_set)), "")


def facts_of(pump_set: PumpSet, at: datetime, partner: str | None = None) -> SetFacts:
    """What of the set decides which sources it can have; `partner`: the one it had, where that is not
    today's.
    """
    parts = fitted_at(pump_set, at, ("motor", "control"))
    stood = {slot: part_of(slot, c) for slot, c in parts.items()}
    state = SetState(partner=partner_of(pump_set) if partner is None else partner)
    context = Context(as_of=at, kind=pump_set.kind, parts=stood)
    return SetFacts.of(case_of(context, state=state, extras={TESTERS: testers_of(pump_set)}))


def testers_of(pump_set: PumpSet) -> list[Instrument]:
    """What the site's register holds for measuring voltage on live parts."""
    every = register_of(pump_set.site_id)
    return [t for t in every if t.span("voltage") is not None and INSTRUMENT_KINDS[t.kind].live]


def entries_on(sheet: Sheet, *, before: datetime | None = None) -> list[Any]:
    """What is on this sheet, late entries included: a lock that came in afterwards is still a lock."""
    rows = Entry.objects.filter(sheet=sheet).select_related("by")
    if before is not None:
        rows = rows.filter(taken_at__lt=before)
    return entries_of(BENCH, [raw_of(e) for e in rows])


def sheet_now(pump_set: PumpSet) -> Sheet | None:
    """The open sheet; else the last one that was ended while entries for it were still on somebody's
    device.
    """
    return row(Sheet, _NOW, [pump_set.pk, BENCH])


_NOW = """SELECT * FROM logbook_sheet s WHERE pump_set_id = %s AND bench = %s AND (closed_at IS NULL
OR EXISTS (SELECT 1 FROM logbook_entry e WHERE e.sheet_id = s.uuid AND e.late = 1))
ORDER BY closed_at IS NULL DESC, closed_at DESC, opened_at LIMIT 1"""
_THEN = """SELECT * FROM logbook_sheet WHERE pump_set_id = %s AND bench = %s AND opened_at < %s
AND (closed_at IS NULL OR closed_at > %s) ORDER BY opened_at DESC LIMIT 1"""


def isolation_now(pump_set: PumpSet, at: datetime) -> tuple[Sheet | None, Isolation]:
    sheet = sheet_now(pump_set)
    if sheet is None:
        return None, Isolation()
    iso = fold(entries_on(sheet), facts_of(pump_set, at))
    if sheet.closed_at is not None and not iso.workers:
        return None, Isolation()
    return sheet, iso


def standing_at(pump_set: PumpSet, at: datetime, partner: str | None = None) -> Standing | None:
    """How the set stood just before this moment: for the record that is judged then, now or years later."""
    sheet = row(Sheet, _THEN, [pump_set.pk, BENCH, at, at])
    if sheet is None:
        return None
    iso = fold(entries_on(sheet, before=at), facts_of(pump_set, at, partner))
    if iso.since is None:
        return None
    proved = iso.proof.acts.get("live_after") if iso.state == "proved" else None
    return Standing(
        state=iso.state,
        sheet=sheet.uuid,
        since=iso.since,
        scopes=sorted(iso.scopes),
        workers=[w.name for w in iso.workers],
        proved_at=proved,
    )


def refresh(pump_set: PumpSet, at: datetime) -> Isolation:
    """Write down how the set stands, for Plant and for every device that looks at it."""
    sheet, iso = isolation_now(pump_set, at)
    if sheet is None or iso.since is None:
        IsolationState.objects.filter(pump_set=pump_set).delete()
        return iso
    says = (
        write(iso.conflicts[-1])
        if iso.conflicts
        else write(iso.proof.why)
        if iso.proof.why is not None
        else ""
    )
    IsolationState.objects.update_or_create(
        pump_set=pump_set,
        defaults={
            "state": iso.state,
            "sheet": sheet.uuid,
            "since": iso.since,
            "scopes": iso.scopes,
            "says": says[:300],
            "workers": [w.model_dump(mode="json") for w in iso.workers],
            "proved_at": iso.proof.acts.get("live_after") if iso.state == "proved" else None,
        },
    )
    return iso


def closed_answers(pump_set: PumpSet) -> list[Over]:
    """Volts on an isolated set are answered by a proof after them, or by giving the set back; a limit of a
    repair put off ends with it. That a set was made safe once is history from the start.
    """
    at = now()
    _, iso = isolation_now(pump_set, at)
    out = [Over("made_safe", at)]
    if iso.volts_seen is None:
        out.append(
            Over("live_on_isolated", iso.proof.acts.get("live_after", at) if iso.state == "proved" else at)
        )
    live = Deferral.objects.filter(pump_set=pump_set, ended_at=None)
    # A judgement from before limits had ids of their own stands for whatever is still agreed on.
    out.append(
        Over("interim_limit", at, {x.subject for d in live for x in limits_of(d)} | ({""} if live else set()))
    )
    return out


def limits_of(d: Deferral) -> list[InterimLimit]:
    """The limits of a decision, each with its own id: two of them never answer for one another."""
    return [InterimLimit.model_validate({**x, "id": f"{d.uuid}/{i}"}) for i, x in enumerate(d.limits)]


def last_check(pump_set: PumpSet, known_at: datetime) -> datetime | None:
    """The newest record that proves a restart and was on record then: it may be younger than the last word on
    the sheet.
    """
    proves = tuple(b.name for b in benches() if "restart" in b.evidence)
    found = ask(_CHECKED, [pump_set.pk, proves, known_at])
    return found[0][0] if found else None


def last_turned(pump_set: PumpSet) -> datetime | None:
    """When was its shaft last turned by hand, with nothing on that record unknown or against it? A record
    that answers nothing is no turn.
    """
    proves = tuple(b.name for b in benches() if "turn" in b.evidence)
    found = ask(_TURNED, [pump_set.pk, proves]) if proves else []
    return found[0][0] if found else None


_CHECKED = """SELECT taken_at FROM logbook_record WHERE pump_set_id = %s AND bench IN %s AND live = 1
AND saved_at <= %s ORDER BY taken_at DESC LIMIT 1"""
_TURNED = """SELECT r.taken_at FROM logbook_record r
JOIN logbook_finding f ON f.record_id = r.id AND f.live = 1
WHERE r.pump_set_id = %s AND r.bench IN %s AND r.live = 1 GROUP BY r.id, r.taken_at
HAVING SUM(f.verdict NOT IN ('good', 'watch')) = 0 ORDER BY r.taken_at DESC LIMIT 1"""
