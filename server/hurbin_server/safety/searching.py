"""Calls and what hung on sets by their words: added to what is found on a site."""

from __future__ import annotations

from hurbin_core.base import write
from hurbin_core.safety import CHANGES, COMPLAINTS, deferral_title
from hurbin_server.base.asking import ask
from hurbin_server.plant.schemas import FoundOut
from hurbin_server.plant.searching import MOST, SEARCHES, found

_CALLS = """SELECT m.pump_set_id, p.tag, MIN(c.complaint), CONCAT_WS('; ', NULLIF(MIN(c.note), ''),
NULLIF(m.found, ''), NULLIF(m.done, '')), m.opened_at, m.id FROM safety_matter m
JOIN safety_call c ON c.matter_id = m.id LEFT JOIN plant_pumpset p ON p.id = m.pump_set_id
WHERE m.site_id = %s AND (c.note LIKE %s OR m.found LIKE %s OR m.done LIKE %s OR m.room LIKE %s)
GROUP BY m.id ORDER BY m.opened_at DESC LIMIT %s"""
_CHANGES = """SELECT t.pump_set_id, p.tag, t.kind, CONCAT_WS(', ', NULLIF(t.place, ''), NULLIF(t.note, '')),
t.put_at, t.uuid FROM safety_temporarychange t JOIN plant_pumpset p ON p.id = t.pump_set_id
WHERE p.site_id = %s AND (t.place LIKE %s OR t.note LIKE %s) ORDER BY t.put_at DESC LIMIT %s"""
_DEFERRED = """SELECT d.pump_set_id, p.tag, d.what, d.reason, d.at, d.uuid FROM safety_deferral d
JOIN plant_pumpset p ON p.id = d.pump_set_id
WHERE p.site_id = %s AND (d.what LIKE %s OR d.reason LIKE %s) ORDER BY d.at DESC LIMIT %s"""


def _calls(site_id: int, like: str) -> list[FoundOut]:
    rows = ask(_CALLS, [site_id, like, like, like, like, MOST])
    of_sets = [r for r in rows if r[0] is not None]
    elsewhere = [r for r in rows if r[0] is None]
    out = found("call", of_sets, "/sets/{set}", lambda c: COMPLAINTS[c].title)
    return out + found("call", elsewhere, "/hand-over", lambda c: COMPLAINTS[c].title)


def _changes(site_id: int, like: str) -> list[FoundOut]:
    rows = ask(_CHANGES, [site_id, like, like, MOST])
    return found("open", rows, "/sets/{set}", lambda kind: CHANGES[kind].title)


def _deferred(site_id: int, like: str) -> list[FoundOut]:
    rows = ask(_DEFERRED, [site_id, like, like, MOST])
    return found("open", rows, "/sets/{set}", lambda what: write(deferral_title(what)))


SEARCHES += [_calls, _changes, _deferred]
