"""Which state a set, a site or a van is in: a number that grows with every act that changed it.

Whoever read something keeps the numbers of what he read, and reads again when one has grown. The numbers are
raised at the end of an act, under the lock that it holds, so that no state has two numbers and none lags.
"""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from typing import Any, Literal, NamedTuple

from django.db import IntegrityError, transaction
from django.db.models import F

from .asking import ask
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


# Each number only grows, so their sum changes with every act that moved one.
OF_SITE = "SELECT CONCAT(COUNT(*), '.', COALESCE(SUM(n), 0)) FROM base_version WHERE site = %s"


def stamp(keys: Iterable[Key], site: int) -> str:
    """The state of these and of the site's vans, in one short word."""
    by_kind: dict[str, list[int]] = {}
    for k in keys:
        by_kind.setdefault(k.kind, []).append(k.ref)
    parts: list[str] = ["kind = 'van'"]
    params: list[Any] = [site]
    for kind, refs in by_kind.items():
        parts.append("(kind = %s AND ref IN %s)")
        params += [kind, tuple(refs)]
    return str(ask(f"{OF_SITE} AND ({' OR '.join(parts)})", params)[0][0])


def since(sites: Iterable[int], at: datetime) -> list[Version]:
    """What moved on these sites since then."""
    return list(Version.objects.filter(site__in=list(sites), at__gte=at).order_by("at"))
