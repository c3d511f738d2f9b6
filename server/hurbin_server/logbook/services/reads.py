"""What a set's pages and cases are read from, and in which state it is: one short word that changes whenever
any of it did.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import timedelta

from hurbin_core.base import AnyBench
from hurbin_core.logbook import AnyCase
from hurbin_server.base import versions
from hurbin_server.base.asking import ask
from hurbin_server.base.clock import now
from hurbin_server.base.kept import Kept
from hurbin_server.base.versions import Key
from hurbin_server.plant.models import PumpSet

from .casing import case_for

# By themselves things change with time as well: gates set aside run out, checks become due. Whatever is kept
# is read again after so long, even when nobody changed anything.
FRESH = timedelta(seconds=60)


@dataclass(frozen=True, slots=True)
class Built:
    case: AnyCase
    keys: tuple[Key, ...]


cases: Kept[Built] = Kept(512)


_READ_WITH = """SELECT id FROM plant_pumpset WHERE service_id = %s
UNION SELECT stood.pump_set_id FROM plant_fitting here
JOIN plant_fitting stood ON stood.component_id = here.component_id
WHERE here.pump_set_id = %s AND here.to_at IS NULL"""


def keys_of(pump_set: PumpSet) -> tuple[Key, ...]:
    """Everything a set is read from: itself, its mates on the header (its twin is one of them), wherever the
    parts that stand here stood before, the site with its limits, its vans.
    """
    near = ask(_READ_WITH, [pump_set.service_id, pump_set.pk])
    ids = {pump_set.pk, *(pk for (pk,) in near)}
    site = pump_set.site_id
    return (Key("site", site, site), *(Key("set", pk, site) for pk in sorted(ids)))


def stamp_of(keys: Iterable[Key]) -> str:
    """The state of all of these, the site's vans with them."""
    rows = sorted(keys)
    return versions.stamp(rows, rows[0].site)


def state_of(pump_set: PumpSet) -> str:
    return stamp_of(keys_of(pump_set))


def kept_case(pump_set_id: int, b: AnyBench) -> AnyCase | None:
    """The case of a set for a bench as it was built, with today's time; None: something has changed since."""
    held = cases.get((pump_set_id, b.name))
    if held is None or (held.until is not None and now() >= held.until):
        return None
    if held.stamp != stamp_of(held.what.keys):
        return None
    return _today(held.what.case)


def case_now(pump_set: PumpSet, b: AnyBench) -> AnyCase:
    """The case of a set for a bench as of now, kept for the next keystroke."""
    keys = keys_of(pump_set)
    stamp, at = stamp_of(keys), now()
    case = case_for(pump_set, b, at)[0]
    cases.put((pump_set.pk, b.name), stamp, at + FRESH, Built(case, keys))
    return _today(case)


def _today(case: AnyCase) -> AnyCase:
    """A copy that its reader may add to; what lies in it is shared and not written to."""
    return case.model_copy(update={"context": case.context.model_copy(update={"as_of": now()})})
