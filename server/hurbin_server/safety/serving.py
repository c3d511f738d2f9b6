"""Which services of a site are served, and by which of their sets."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from datetime import datetime, timedelta

from hurbin_core.base import MEASURANDS, Bound, Prefs, write
from hurbin_core.catalogue import benches
from hurbin_core.safety import Carrier, ran, served
from hurbin_server.base.asking import ask
from hurbin_server.base.clock import now

from .schemas import ServedOut

Against = Callable[[int], tuple[str, datetime] | None]
# Of each set the newest live record of the benches that prove a restart.
_SETS = """SELECT p.id, p.service_id, v.check_every_days, p.tag, p.role, p.pair,
(SELECT r.id FROM logbook_record r WHERE r.pump_set_id = p.id AND r.bench IN %s AND r.live = 1
 ORDER BY r.taken_at DESC LIMIT 1)
FROM plant_pumpset p JOIN plant_service v ON v.id = p.service_id WHERE p.site_id = %s ORDER BY p.tag"""
_READ = """SELECT o.record_id, o.taken_at, s.measurand, s.unit, o.value, o.bound FROM logbook_point o
JOIN logbook_series s ON s.id = o.series_id WHERE o.record_id IN %s AND o.live = 1 AND s.measurand IN %s"""


def _seen_running(records: list[int]) -> dict[int, datetime]:
    """Which of these checks read their set running, and when."""
    if not records:
        return {}
    live = tuple(m for m, kind in MEASURANDS.items() if kind.live)
    read: dict[int, list[tuple[str, str, float, Bound]]] = defaultdict(list)
    at: dict[int, datetime] = {}
    for record, taken_at, measurand, unit, value, bound in ask(_READ, [tuple(records), live]):
        at[record] = taken_at
        read[record].append((measurand, unit, value, Bound(bound)))
    return {record: at[record] for record, points in read.items() if ran(points)}


def services_served(site_id: int, against: Against, prefs: Prefs) -> list[ServedOut]:
    """How each service of this site stands. `against`: what speaks against a set's being run."""
    proving = tuple(b.name for b in benches() if "restart" in b.evidence)
    carriers: dict[int, list[Carrier]] = defaultdict(list)
    within: dict[int, timedelta] = {}
    rows = ask(_SETS, [proving, site_id])
    seen = _seen_running([r[-1] for r in rows if r[-1] is not None])
    for pk, service, days, tag, role, pair, record in rows:
        told = against(pk)
        within[service] = timedelta(days=days)
        carriers[service].append(
            Carrier(
                tag=tag,
                standby=role == "standby",
                pair=pair,
                out=told[0] if told else "",
                seen=seen.get(record),
            )
        )
    out = []
    for service, sets in carriers.items():
        found = served(sets, within[service], now())
        if found is not None:
            says = [write(w, prefs) for w in found.says]
            out.append(ServedOut(service=service, verdict=found.verdict, says=says))
    return out
