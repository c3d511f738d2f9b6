"""Which services of a site are served, and by which of their sets."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from datetime import datetime, timedelta

from hurbin_core.base import Prefs, write
from hurbin_core.catalogue import benches
from hurbin_core.safety import Carrier, served
from hurbin_server.base.asking import ask
from hurbin_server.base.clock import now

from .schemas import ServedOut

Against = Callable[[int], tuple[str, datetime] | None]
# Of each set when it was last read running: the newest live record of the benches that prove it.
_SETS = """SELECT p.id, p.service_id, v.check_every_days, p.tag, p.role, p.pair,
(SELECT MAX(r.taken_at) FROM logbook_record r
 WHERE r.pump_set_id = p.id AND r.bench IN %s AND r.live = 1)
FROM plant_pumpset p JOIN plant_service v ON v.id = p.service_id WHERE p.site_id = %s ORDER BY p.tag"""


def services_served(site_id: int, against: Against, prefs: Prefs) -> list[ServedOut]:
    """How each service of this site stands. `against`: what speaks against a set's being run."""
    proving = tuple(b.name for b in benches() if "restart" in b.evidence)
    carriers: dict[int, list[Carrier]] = defaultdict(list)
    within: dict[int, timedelta] = {}
    for pk, service, days, tag, role, pair, seen in ask(_SETS, [proving, site_id]):
        told = against(pk)
        within[service] = timedelta(days=days)
        carriers[service].append(
            Carrier(tag=tag, standby=role == "standby", pair=pair, out=told[0] if told else "", seen=seen)
        )
    out = []
    for service, rows in carriers.items():
        found = served(rows, within[service], now())
        if found is not None:
            says = [write(w, prefs) for w in found.says]
            out.append(ServedOut(service=service, verdict=found.verdict, says=says))
    return out
