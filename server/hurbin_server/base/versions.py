"""Which state a set, a site or a van is in: a number that grows with every act that changed it.

Whoever read something keeps the numbers of what he read, and reads again when one has grown. The numbers are
raised at the end of an act, under the lock that it holds, so that no state has two numbers and none lags.
"""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from typing import Literal, NamedTuple

from django.db import IntegrityError, transaction
from django.db.models import Count, F, Q, Sum

from .clock import now
from .models import Version

Kind = Literal["set", "site", "van"]


class Key(NamedTuple):
    kind: Kind
    ref: int
    site: int


def bump(keys: Iterable[Key]) -> None:
    """Raise the numbers, in one order, so that two acts never wait for each other."""
    for kind, ref, site in sorted(keys):
        rows = Version.objects.filter(kind=kind, ref=ref)
        if rows.update(n=F("n") + 1, at=now(), site=site):
            continue
        try:
            with transaction.atomic():
                Version.objects.create(kind=kind, ref=ref, site=site, n=1, at=now())
        except IntegrityError:
            rows.update(n=F("n") + 1, at=now())


def of_site(site: int) -> str:
    """The state of everything on a site in one short word."""
    found = Version.objects.filter(site=site).aggregate(many=Count("id"), total=Sum("n"))
    return f"{found['many']}.{found['total'] or 0}"


def stamp(keys: Iterable[Key], site: int) -> str:
    """The state of these and of the site's vans, in one short word: each number only grows, so their sum
    changes with every act that moved one of them.
    """
    wanted = Q(kind="van")
    by_kind: dict[str, list[int]] = {}
    for k in keys:
        by_kind.setdefault(k.kind, []).append(k.ref)
    for kind, refs in by_kind.items():
        wanted |= Q(kind=kind, ref__in=refs)
    found = Version.objects.filter(wanted, site=site).aggregate(many=Count("id"), total=Sum("n"))
    return f"{found['many']}.{found['total'] or 0}"


def since(sites: Iterable[int], at: datetime) -> list[Version]:
    """What moved on these sites since then."""
    return list(Version.objects.filter(site__in=list(sites), at__gte=at).order_by("at"))
