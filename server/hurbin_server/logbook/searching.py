"""Records by what was noted on them, events, photos and documents: added to what is found on a site."""

from __future__ import annotations

from hurbin_core.catalogue import bench
from hurbin_core.logbook import title_of_event
from hurbin_server.base.asking import ask
from hurbin_server.plant.schemas import FoundOut
from hurbin_server.plant.searching import MOST, SEARCHES, found

_RECORDS = """SELECT r.pump_set_id, p.tag, r.bench, CONCAT_WS('; ', NULLIF(r.note, ''), NULLIF(r.reason, '')),
r.taken_at, r.id FROM logbook_record r JOIN plant_pumpset p ON p.id = r.pump_set_id
WHERE p.site_id = %s AND (r.note LIKE %s OR r.reason LIKE %s) ORDER BY r.taken_at DESC LIMIT %s"""
_EVENTS = """SELECT e.pump_set_id, p.tag, e.kind, e.note, e.at, e.id FROM plant_event e
JOIN plant_pumpset p ON p.id = e.pump_set_id WHERE e.site_id = %s AND e.note LIKE %s
ORDER BY e.at DESC LIMIT %s"""
_DOCUMENTS = """SELECT a.pump_set_id, p.tag, a.kind, a.title, a.at, a.uuid FROM logbook_attachment a
JOIN plant_pumpset p ON p.id = a.pump_set_id
WHERE p.site_id = %s AND a.aside_at IS NULL AND a.title LIKE %s ORDER BY a.at DESC LIMIT %s"""


def _records(site_id: int, like: str) -> list[FoundOut]:
    rows = ask(_RECORDS, [site_id, like, like, MOST])
    return found("record", rows, "/records/{id}", lambda name: bench(name).title)


def _documents(site_id: int, like: str) -> list[FoundOut]:
    rows = ask(_DOCUMENTS, [site_id, like, MOST])
    return found("document", rows, "/sets/{set}", lambda kind: "Document" if kind == "document" else "Photo")


def _events(site_id: int, like: str) -> list[FoundOut]:
    return found("event", ask(_EVENTS, [site_id, like, MOST]), "/sets/{set}", title_of_event)


SEARCHES += [_records, _events, _documents]
