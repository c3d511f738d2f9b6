"""A file judged by several processes says what it says judged by one: what hangs together stays together."""

from __future__ import annotations

from dataclasses import fields
from datetime import timedelta
from typing import Any

import pytest

from hurbin_core.logbook import FileRow
from hurbin_server.base.clock import now
from hurbin_server.base.models import User
from hurbin_server.logbook.models import ReadingsImport
from hurbin_server.logbook.services import importing
from hurbin_server.logbook.services.finished import Finished, finish_rows
from hurbin_server.logbook.services.shares import Share, shared_out
from hurbin_server.plant.models import Fitting, PumpSet, Site
from hurbin_server.plant.services.places import make_service, make_set

HEAD = "tag,taken_at,read_at,valve,coupled,volts_12|V,volts_23|V,volts_31|V,amps_1|A,amps_2|A,amps_3|A"


@pytest.fixture
def sets(site: Site, people: dict[str, User]) -> list[PumpSet]:
    """Two twins, and three alone; the motor of the first lone one was once in the second."""
    service = make_service(people["ada"], site.pk, {"code": "SH", "name": "Shared"})
    made = []
    for n, pair in enumerate(("one", "one", "", "", "")):
        body = {"tag": f"SH-{n}", "name": f"Set {n}", "kind": "base_mounted", "pair": pair}
        made.append(make_set(people["ada"], service.pk, body))
    motor = made[2].fittings.get(slot="motor")
    then = motor.from_at - timedelta(days=900)
    Fitting.objects.create(
        pump_set=made[3], component=motor.component, slot="motor", from_at=then, to_at=motor.from_at
    )
    return made


def _job(site: Site, by: User, sets: list[PumpSet], rows: int) -> ReadingsImport:
    start = now() - timedelta(days=400)
    lines = [HEAD]
    for n in range(rows):
        amps = 15 + n % 7 * 0.2
        at = (start + timedelta(hours=7 * n)).isoformat()
        lines.append(f"{sets[n % len(sets)].tag},{at},motor_leads,open,yes,400,402,399,{amps:.1f},15.0,14.9")
    lines.append(f"Z-9,{start.isoformat()},motor_leads,open,yes,400,402,399,15,15,15")
    return importing.start_import(by, site.pk, "running_check", "old.csv", "\n".join(lines).encode(), None)


def _plain(row: Finished) -> dict[str, Any]:
    """All of it but the case it was judged in, which numbers the rows as they came."""
    return {f.name: getattr(row, f.name) for f in fields(row) if f.name != "context"}


def _groups(share: Share, sets: list[PumpSet]) -> list[int]:
    return [share.groups[s.tag] for s in sets]


def test_twins_and_whoever_had_one_part_are_of_one_share(site: Site, sets: list[PumpSet]) -> None:
    share = shared_out(site.pk, 0, 2)
    one, other, third, fourth, alone = _groups(share, sets)
    assert one == other
    assert third == fourth
    assert len({one, third, alone}) == 3


def test_every_row_is_of_one_share_and_a_row_of_no_set_is_the_firsts(site: Site, sets: list[PumpSet]) -> None:
    shares = [shared_out(site.pk, n, 3) for n in range(3)]
    tags = [s.tag for s in sets] + ["Z-9", ""]
    taken = [[s.mine for s in shares if s.takes(FileRow(line=1, tag=tag))] for tag in tags]
    assert [len(x) for x in taken] == [1] * len(tags)
    assert taken[-2:] == [[0], [0]]
    assert {x[0] for x in taken} == {0, 1, 2}


def test_judged_in_shares_it_is_what_it_is_judged_whole(
    site: Site, people: dict[str, User], sets: list[PumpSet]
) -> None:
    job = _job(site, people["tia"], sets, 60)
    importing.run(job.pk)
    whole = {f.sheet: _plain(f) for f in finish_rows(job)}
    parts = [[_plain(f) for f in finish_rows(job, shared_out(site.pk, n, 2))] for n in range(2)]
    assert all(len(part) > 10 for part in parts)
    assert {f["sheet"]: f for part in parts for f in part} == whole
    assert len(whole) == 60
    assert any(f["question"] == "own_past" for x in whole.values() for f in x["findings"])
