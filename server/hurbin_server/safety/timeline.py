"""Everything that happened to a set on one line: records, calls, parts, what hung on it and until when."""

from __future__ import annotations

from hurbin_core.base import write
from hurbin_core.catalogue import bench as find_bench
from hurbin_core.logbook import part_of_event
from hurbin_core.safety import CHANGES, COMPLAINTS, deferral_title
from hurbin_server.base.asking import ask
from hurbin_server.base.models import User
from hurbin_server.logbook.querysets import event_out
from hurbin_server.plant.access import set_for
from hurbin_server.plant.known import events_of
from hurbin_server.plant.models import PumpSet

from .schemas import Moment, TimelineOut
from .services import hanging

# As many records as one line has room for: ten years of monthly checks, and the tests between them. Common
# practice, no source.
MOST = 160
_RECORDS = """SELECT r.id, r.bench, r.taken_at, j.verdict FROM (SELECT id, bench, taken_at FROM logbook_record
WHERE pump_set_id = %s AND live = 1 ORDER BY taken_at DESC, id DESC LIMIT %s) r
JOIN logbook_judgement j ON j.record_id = r.id AND j.newest = 1 ORDER BY r.taken_at, r.id"""


def timeline(user: User, set_id: int) -> TimelineOut:
    """What happened to this set, oldest first; of its records the newest `MOST`."""
    row = set_for(user, set_id)
    found = ask(_RECORDS, [row.pk, MOST + 1])
    records = [
        Moment(
            kind="record",
            at=at,
            until=None,
            title=find_bench(name).title,
            says="",
            part=find_bench(name).part,
            verdict=verdict,
            record=pk,
        )
        for pk, name, at, verdict in found[-MOST:]
    ]
    every = [*records, *_events(row), *_calls(row), *_hung(row)]
    return TimelineOut(moments=sorted(every, key=lambda m: m.at), older=len(found) > MOST)


def _events(row: PumpSet) -> list[Moment]:
    return [
        Moment(
            kind="part",
            at=e.at,
            until=None,
            title=event_out(e).title,
            says=e.note,
            part=part_of_event(e.kind),
            verdict=None,
            record=None,
        )
        for e in events_of(row)
    ]


def _calls(row: PumpSet) -> list[Moment]:
    return [
        Moment(
            kind="call",
            at=m.opened_at,
            until=m.ended_at,
            title=", ".join(dict.fromkeys(COMPLAINTS[c.complaint].title for c in m.calls.all())),
            says=" ".join(x for x in (m.found, m.done) if x),
            part="pump",
            verdict=None,
            record=None,
        )
        for m in hanging.matters_near(row)
        if m.pump_set_id == row.pk
    ]


def _hung(row: PumpSet) -> list[Moment]:
    changes = [
        Moment(
            kind="open",
            at=c.put_at,
            until=c.off_at,
            title=CHANGES[c.kind].title,
            says=" ".join(x for x in (c.place, c.note) if x),
            part=CHANGES[c.kind].part,
            verdict=None,
            record=None,
        )
        for c in hanging.changes_near(row)
        if c.pump_set_id == row.pk
    ]
    deferred = [
        Moment(
            kind="open",
            at=d.at,
            until=d.ended_at,
            title=write(deferral_title(d.what)),
            says=d.reason,
            part=d.part,
            verdict=None,
            record=None,
        )
        for d in hanging.deferrals_near(row)
        if d.pump_set_id == row.pk
    ]
    return [*changes, *deferred]
