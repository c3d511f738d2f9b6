"""Days of a long series in one row each: a plot of years reads those, and no point of a day that it cannot
show.

A series is rolled up once it is long (`roll_long`, by the worker); from then on every act that writes a point
of it makes that day's row again (`roll`). Rows can be made again at any time from the points.
"""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, date, datetime, time, timedelta

from django.db import transaction
from django.db.models import Count

from ..models import DayRoll, Point, Series

# As many points as a plot can be read from directly, in a few hundredths of a second.
LONG = 5000
EVERY = 20_000
Shown = tuple[float, float, str, int]
_FIELDS = ("n", "low", "low_at", "low_bound", "low_record", "high", "high_at", "high_bound", "high_record")


def _start(day: date) -> datetime:
    return datetime.combine(day, time.min, UTC)


def roll(touched: Iterable[tuple[int, datetime]]) -> None:
    """Make the rows of these days again, of those series that are rolled up: in the act that wrote them."""
    pairs = {(s, at.astimezone(UTC).date()) for s, at in touched}
    rolled = set(
        Series.objects.filter(pk__in={s for s, _ in pairs}, rolled=True).values_list("pk", flat=True)
    )
    for series in rolled:
        for day in {d for s, d in pairs if s == series}:
            _renew(series, day, day + timedelta(days=1))


def _renew(series: int, first: date, end: date) -> None:
    """The rows of one series over these days, from its live points."""
    rows = (
        Point.objects.filter(
            series_id=series, live=True, taken_at__gte=_start(first), taken_at__lt=_start(end)
        )
        .order_by("taken_at")
        .values_list("taken_at", "value", "bound", "record_id")
    )
    days: dict[date, DayRoll] = {}
    for at, value, bound, record in rows.iterator(chunk_size=5000):
        day = at.date()
        held = days.get(day)
        if held is None:
            held = days[day] = DayRoll(series_id=series, day=day, n=0)
        held.n += 1
        if held.n == 1 or value < held.low:
            held.low, held.low_at, held.low_bound, held.low_record = value, at, bound, record
        if held.n == 1 or value > held.high:
            held.high, held.high_at, held.high_bound, held.high_record = value, at, bound, record
    DayRoll.objects.filter(series_id=series, day__gte=first, day__lt=end).exclude(day__in=days).delete()
    DayRoll.objects.bulk_create(
        days.values(), batch_size=1000, update_conflicts=True, update_fields=list(_FIELDS)
    )


def roll_long(most: int = LONG) -> int:
    """Roll up every series that has grown long; how many. The worker asks now and then."""
    grown = (
        Series.objects.filter(rolled=False)
        .annotate(many=Count("points"))
        .filter(many__gt=most)
        .values_list("pk", flat=True)
    )
    found = list(grown)
    for pk in found:
        with transaction.atomic():
            # From here on whoever writes a point of it waits, and then makes its day again himself.
            Series.objects.select_for_update().get(pk=pk)
            ends = Point.objects.filter(series_id=pk, live=True).order_by("taken_at")
            first, last = ends.first(), ends.last()
            if first is not None and last is not None:
                _renew(pk, first.taken_at.date(), last.taken_at.date() + timedelta(days=1))
            Series.objects.filter(pk=pk).update(rolled=True)
    return len(found)


def days_of(series: int, before: datetime) -> tuple[list[Shown], int]:
    """The lowest and the highest point of each whole day before this one, by time; how many there were."""
    rows = DayRoll.objects.filter(series_id=series, day__lt=before.astimezone(UTC).date()).order_by("day")
    out: list[Shown] = []
    total = 0
    for n, *ends in rows.values_list(*_FIELDS):
        low = (ends[1].timestamp(), ends[0], ends[2], ends[3])
        high = (ends[5].timestamp(), ends[4], ends[6], ends[7])
        out += [low] if low[0] == high[0] else sorted((low, high))
        total += n
    return out, total
