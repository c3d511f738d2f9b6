"""When is which check of a set due again?"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from ..base import AnyBench


@dataclass(frozen=True, slots=True)
class Due:
    """One kind of check of a set. at: when the first of its answers runs out; None: no record of it is on
    file.
    """

    bench: AnyBench
    at: datetime | None
    overdue: bool


def due_next(
    benches: Sequence[AnyBench],
    slots: Iterable[str],
    answers: Iterable[tuple[str, datetime]],
    as_of: datetime,
) -> list[Due]:
    """Which check is due when, the longest overdue first, those never done last? `answers`: the bench that
    gave one, and until when it stands. An isolation and a
    search are work, not checks: they are never due.
    """
    first: dict[str, datetime] = {}
    for name, until in answers:
        first[name] = min(until, first.get(name, until))
    has = set(slots)
    out = [
        Due(bench=b, at=first.get(b.name), overdue=b.name in first and first[b.name] < as_of)
        for b in sorted(benches, key=lambda b: b.place)
        if b.routine and not b.single and (not b.slot or b.slot in has)
    ]
    known = sorted((d for d in out if d.at is not None), key=lambda d: d.at or as_of)
    return known + [d for d in out if d.at is None]
