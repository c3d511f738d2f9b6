"""A file's rows shared out among the processes that judge them: what hangs together stays together."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field

from hurbin_core.logbook import FileRow
from hurbin_server.plant.models import Fitting, PumpSet


@dataclass(slots=True)
class Share:
    """One of so many. Sets that a judgement of one looks at from another, twins and those that one part was
    fitted to after another, are of one share; the groups go round in the order in which the file names them.
    A row that is of no set is the first one's.
    """

    mine: int
    of: int
    groups: dict[str, int]
    dealt: dict[int, int] = field(default_factory=dict)

    def takes(self, row: FileRow) -> bool:
        group = self.groups.get(row.tag)
        if group is None:
            return self.mine == 0
        return self.dealt.setdefault(group, len(self.dealt) % self.of) == self.mine


def shared_out(site_id: int, mine: int, of: int) -> Share:
    """This process's share of a site's rows."""
    sets = list(
        PumpSet.objects.filter(site_id=site_id).order_by("tag").values_list("pk", "tag", "service_id", "pair")
    )
    fitted = Fitting.objects.filter(pump_set__site_id=site_id).values_list("component_id", "pump_set_id")
    bonds: dict[tuple[object, ...], list[int]] = defaultdict(list)
    for pk, _, service, pair in sets:
        if pair:
            bonds[("pair", service, pair)].append(pk)
    for component, pk in fitted:
        bonds[("part", component)].append(pk)
    group = _joined((pk for pk, *_ in sets), bonds.values())
    return Share(mine, of, {tag: group[pk] for pk, tag, *_ in sets})


def _joined(things: Iterable[int], bonds: Iterable[list[int]]) -> dict[int, int]:
    """For each thing the first of those it hangs together with, directly or by others."""
    first = {x: x for x in things}

    def root(x: int) -> int:
        while first[x] != x:
            x = first[x]
        return x

    for bond in bonds:
        held = [x for x in bond if x in first]
        for other in held[1:]:
            a, b = sorted((root(held[0]), root(other)))
            first[b] = a
    return {x: root(x) for x in first}
