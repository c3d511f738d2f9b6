"""Trend arithmetic for a series of figures and bounds.

Level and slope by Theil–Sen; with bounds by the Akritas–Theil–Sen form; whether there is a trend at all by
Mann–Kendall, where a pair counts only when the two intervals do not overlap. Standard library only.
"""

import math
from bisect import bisect_left, bisect_right, insort
from collections import Counter
from collections.abc import Sequence
from enum import StrEnum
from functools import lru_cache
from itertools import combinations

from ..base import Bound, HurbinError, Limits, Model

_LIMITS = Limits()
TOO_FEW, THIN = _LIMITS.count("trend.few"), _LIMITS.count("trend.enough")
STEP_FEW = _LIMITS.count("trend.step")
CHANCE, CONFIDENCE = (_LIMITS.value(f"trend.{n}") / 100 for n in ("chance", "confidence"))


class Datum(Model):
    """One point for a trend: `t` in days, `value` on the scale on which the slope is wanted."""

    t: float
    value: float
    bound: Bound = Bound.EXACT


class Direction(StrEnum):
    RISING = "rising"
    FALLING = "falling"
    NO_TREND = "no_trend"
    INCONCLUSIVE = "inconclusive"
    TOO_FEW = "too_few"


def _interval(d: Datum) -> tuple[float, float]:
    if d.bound is Bound.AT_LEAST:
        return d.value, math.inf
    if d.bound is Bound.AT_MOST:
        return -math.inf, d.value
    return d.value, d.value


def pair_sign(a: Datum, b: Datum) -> int:
    """Did it rise (+1) or fall (−1) from `a` to `b`? 0 when equal, or when the intervals overlap: a bound is
    no value.

    >>> pair_sign(Datum(t=0, value=10, bound=Bound.AT_LEAST), Datum(t=1, value=20))
    0
    """
    (a_low, a_high), (b_low, b_high) = _interval(a), _interval(b)
    if b_low > a_high:
        return 1
    if b_high < a_low:
        return -1
    return 0


def median(data: Sequence[Datum]) -> tuple[float, Bound]:
    """The middle of figures and bounds; where the middle falls on a bound the answer is a bound.

    Lower and upper ends are ordered apart: equal medians of both are a figure, a finite one alone is a bound.
    Raises `no_points` for an empty series, and for one of which nothing can be said.
    """
    return median_of([(d.value, d.bound) for d in data])


def median_of(points: Sequence[tuple[float, Bound]]) -> tuple[float, Bound]:
    """`median` of bare (value, bound) pairs."""
    if not points:
        raise HurbinError("no_points", "No points for a median.", field="points")
    if all(b is Bound.EXACT for _, b in points):
        return _middle(sorted(v for v, _ in points)), Bound.EXACT
    low = _middle(sorted(-math.inf if b is Bound.AT_MOST else v for v, b in points))
    high = _middle(sorted(math.inf if b is Bound.AT_LEAST else v for v, b in points))
    if math.isfinite(low) and math.isclose(low, high, rel_tol=1e-12, abs_tol=1e-15):
        return low, Bound.EXACT
    if math.isfinite(low):
        return low, Bound.AT_LEAST
    if math.isfinite(high):
        return high, Bound.AT_MOST
    raise HurbinError("no_points", "Out-of-range readings on both sides: no median.", field="points")


def _middle(ordered: Sequence[float]) -> float:
    n = len(ordered)
    a, b = ordered[(n - 1) // 2], ordered[n // 2]
    return a if a == b else (a + b) / 2


class Kendall(Model):
    """Mann–Kendall: S, its variance with ties, Z, and the one-sided chance of such an S without a trend."""

    n: int
    s: int
    variance: float
    z: float
    p: float


class _Scan:
    """Every pair of a series looked at once: S, the slopes of exact pairs, and the slopes at which a pair
    stops rising (`plus`) or begins to fall (`minus`) when a line is taken off. Points by time.
    """

    __slots__ = ("data", "minus", "n", "plus", "s", "slopes", "ties")

    def __init__(self, data: Sequence[Datum]) -> None:
        self.data = ordered = sorted(data, key=lambda d: d.t)
        self.n, self.s, self.ties = len(ordered), 0, _ties(ordered)
        if all(d.bound is Bound.EXACT for d in ordered):
            self._exact([d.t for d in ordered], [d.value for d in ordered])
        else:
            self._bounded(ordered)

    def _exact(self, t: list[float], v: list[float]) -> None:
        slopes: list[float] = []
        lower: list[float] = []  # what came before, by size: how many are below and above is two looks
        for i, (at, now) in enumerate(zip(t, v, strict=True)):
            self.s += bisect_left(lower, now) - (i - bisect_right(lower, now))
            insort(lower, now)
            slopes += [(now - b) / (at - a) for a, b in zip(t[:i], v[:i], strict=True) if at != a]
        slopes.sort()
        self.slopes = self.plus = self.minus = slopes

    def _bounded(self, ordered: list[Datum]) -> None:
        self.slopes, self.plus, self.minus = [], [], []
        for a, b in combinations(ordered, 2):
            self.s += pair_sign(a, b)
            if a.t == b.t:
                continue
            slope = (b.value - a.value) / (b.t - a.t)
            # It can rise only from something with a top to something with a bottom, and fall the other way.
            if a.bound is not Bound.AT_LEAST and b.bound is not Bound.AT_MOST:
                self.plus.append(slope)
            if a.bound is not Bound.AT_MOST and b.bound is not Bound.AT_LEAST:
                self.minus.append(slope)
            if a.bound is b.bound is Bound.EXACT:
                self.slopes.append(slope)
        for found in (self.slopes, self.plus, self.minus):
            found.sort()

    def kendall(self) -> Kendall:
        n, s = self.n, self.s
        variance = (n * (n - 1) * (2 * n + 5) - sum(t * (t - 1) * (2 * t + 5) for t in self.ties)) / 18
        z = 0.0 if s == 0 or variance <= 0 else (s - math.copysign(1, s)) / math.sqrt(variance)
        plain = self.slopes is self.plus and not self.ties
        p = _exact_p(n, abs(s)) if plain and n <= 10 else 0.5 * math.erfc(abs(z) / math.sqrt(2))
        return Kendall.model_construct(n=n, s=s, variance=variance, z=z, p=p)

    def sen(self, confidence: float) -> tuple[float, float, float]:
        exact = [d for d in self.data if d.bound is Bound.EXACT]
        n, m, slopes = len(exact), len(self.slopes), self.slopes
        tied = self.ties if n == self.n else _ties(exact)
        spread = _quantile(0.5 + confidence / 2) * math.sqrt(
            (n * (n - 1) * (2 * n + 5) - sum(t * (t - 1) * (2 * t + 5) for t in tied)) / 18
        )
        upper, lower = min(m - 1, round((m + spread) / 2)), max(0, round((m - spread) / 2) - 1)
        return _middle(slopes), slopes[lower], slopes[upper]

    def akritas(self) -> float:
        """The middle of the stretch on which S of what remains is nought; S only falls as the slope grows."""
        places = sorted({*self.plus, *self.minus})

        def last(least: int) -> float:
            """The largest slope that still leaves S ≥ least."""
            low, high = 0, len(places) - 1
            while low < high:
                mid = (low + high) // 2
                right = (
                    len(self.plus)
                    - bisect_right(self.plus, places[mid])
                    - bisect_right(self.minus, places[mid])
                )
                low, high = (low, mid) if right < least else (mid + 1, high)
            return places[low]

        return (last(1) + last(0)) / 2


def mann_kendall(data: Sequence[Datum]) -> Kendall:
    """Is there a trend? Exact one-sided p for up to ten figures without ties, else the normal approximation
    with the tie-corrected variance (Kendall 1975, as in Gilbert 1987 chapter 16; from memory).

    >>> mann_kendall([Datum(t=i, value=v) for i, v in enumerate((10, 15, 14, 20))]).s
    4
    """
    return _Scan(data).kendall()


def _ties(data: Sequence[Datum]) -> list[int]:
    counts = Counter((d.value, d.bound) for d in data)
    return [c for c in counts.values() if c > 1] if len(counts) < len(data) else []


def _exact_p(n: int, s: int) -> float:
    """P(S ≥ s) over all orders of n different figures, by counting inversions."""
    ways = [1]
    for i in range(2, n + 1):
        fresh = [0] * (len(ways) + i - 1)
        for k, w in enumerate(ways):
            for j in range(i):
                fresh[k + j] += w
        ways = fresh
    most = n * (n - 1) // 2
    return sum(w for inv, w in enumerate(ways) if most - 2 * inv >= s) / math.factorial(n)


def theil_sen(data: Sequence[Datum], confidence: float = CONFIDENCE) -> tuple[float, float, float]:
    """Slope per day with its rank-based interval (Sen 1968): (slope, low, high). Exact points only.

    Raises `too_few_points` when no two exact points stand at different times.
    """
    return _with_slopes(data).sen(confidence)


def _with_slopes(data: Sequence[Datum]) -> _Scan:
    scan = _Scan(data)
    if not scan.slopes:
        raise HurbinError("too_few_points", "A slope needs two readings at different times.", field="points")
    return scan


@lru_cache(maxsize=8)
def _quantile(p: float) -> float:
    from statistics import NormalDist

    return NormalDist().inv_cdf(p)


def akritas_slope(data: Sequence[Datum]) -> float:
    """The slope that leaves no rank trend in what remains, bounds taken along as bounds (Akritas, Murphy and
    LaValley 1995; from memory). Equal to Theil–Sen where all points are exact. Per day."""
    return _with_slopes(data).akritas()


class Trend(Model):
    """What the series does. Slope and its band are per day, on the scale given; None where not to be had."""

    direction: Direction
    n: int
    slope: float | None = None
    low: float | None = None
    high: float | None = None
    level: float | None = None
    level_bound: Bound = Bound.EXACT
    p: float | None = None


def assess(data: Sequence[Datum], alpha: float = CHANCE) -> Trend:
    """Does the series rise or fall? Under four points “too few”; no trend among fewer than eight is
    “inconclusive”.
    """
    n = len(data)
    if n == 0:
        return Trend(direction=Direction.TOO_FEW, n=0)
    level, bound = median(data)
    if n < TOO_FEW:
        return Trend(direction=Direction.TOO_FEW, n=n, level=level, level_bound=bound)
    scan = _Scan(data)
    kendall = scan.kendall()
    slope = low = high = None
    if scan.slopes:
        slope, low, high = scan.sen(CONFIDENCE)
        if scan.slopes is not scan.plus:
            slope = scan.akritas()
    if kendall.p < alpha and kendall.s:
        direction = Direction.RISING if kendall.s > 0 else Direction.FALLING
    else:
        direction = Direction.NO_TREND if n >= THIN else Direction.INCONCLUSIVE
    return Trend.model_construct(
        direction=direction, n=n, slope=slope, low=low, high=high, level=level, level_bound=bound, p=kendall.p
    )


class Crossing(Model):
    """Days from the newest point until the limit is met; None where it is not met within the record's own
    span.
    """

    state: Direction
    earliest: float | None = None
    likely: float | None = None
    latest: float | None = None


def crossing(data: Sequence[Datum], limit: float) -> Crossing:
    """When does the trend meet the limit? Looks ahead no further than the record looks back."""
    return _crossing(data, assess(data), limit)


def _level(data: Sequence[Datum], slope: float, end: float) -> float:
    return _middle(sorted(d.value - slope * (d.t - end) for d in data if d.bound is Bound.EXACT))


def _crossing(data: Sequence[Datum], trend: Trend, limit: float) -> Crossing:
    if trend.direction not in (Direction.RISING, Direction.FALLING) or trend.slope is None:
        return Crossing.model_construct(state=trend.direction, earliest=None, likely=None, latest=None)
    times = [d.t for d in data]
    end, span = max(times), max(times) - min(times)
    middle = trend.slope
    level = _level(data, middle, end)

    def days(slope: float | None) -> float | None:
        if not slope:
            return None
        ahead = (limit - level) / slope
        passed = (limit - level) * middle >= 0 > ahead
        return None if ahead > span or passed else max(ahead, 0.0)

    steep, flat = (trend.high, trend.low) if trend.slope > 0 else (trend.low, trend.high)
    return Crossing(state=trend.direction, earliest=days(steep), likely=days(trend.slope), latest=days(flat))


class PathPoint(Model):
    """The forecast at `t` days: likely and its band, on the scale of the data."""

    t: float
    likely: float
    low: float
    high: float


class Forecast(Model):
    """What a series does and where it is heading: the trend, when it meets the limit, the path until then."""

    trend: Trend
    crossing: Crossing
    span_days: float
    path: list[PathPoint] = []


def forecast(data: Sequence[Datum], limit: float | None) -> Forecast:
    """Where is this series heading? `data` and `limit` on the scale of the slope (log10 for resistance);
    days.

    Looks ahead no further than the record looks back, and stops at the limit. A series of bounds alone has no
    path.
    """
    trend = assess(data)
    times = [d.t for d in data]
    span = max(times) - min(times) if times else 0.0
    found = _crossing(data, trend, limit) if limit is not None else Crossing(state=trend.direction)
    if trend.direction not in (Direction.RISING, Direction.FALLING) or trend.slope is None:
        return Forecast.model_construct(trend=trend, crossing=found, span_days=span, path=[])
    end = max(times)
    level = _level(data, trend.slope, end)
    ahead = min(span, found.likely) if found.likely is not None else span
    ends = sorted(
        (
            trend.low if trend.low is not None else trend.slope,
            trend.high if trend.high is not None else trend.slope,
        )
    )
    path = [
        PathPoint.model_construct(
            t=end + d, likely=level + trend.slope * d, low=level + ends[0] * d, high=level + ends[1] * d
        )
        for d in (ahead * k / 4 for k in range(5))
    ]
    return Forecast.model_construct(trend=trend, crossing=found, span_days=span, path=path)


def change_point(values: Sequence[float]) -> tuple[int, float]:
    """Where is the step, if there is one? (index of the last value before it, two-sided p) by Pettitt's test
    (Pettitt 1979; from memory). Raises `too_few_points` under five values."""
    n = len(values)
    if n < STEP_FEW:
        raise HurbinError(
            "too_few_points", "A step change needs five readings or more.", field="points", value=n
        )
    ordered = sorted(values)
    rank = {
        v: (bisect_left(ordered, v) + bisect_left(ordered, math.nextafter(v, math.inf)) + 1) / 2
        for v in set(values)
    }
    best, where, total = 0.0, 0, 0.0
    for i, v in enumerate(values[:-1]):
        total += rank[v]
        u = abs(2 * total - (i + 1) * (n + 1))
        if u > best:
            best, where = u, i
    return where, min(1.0, 2 * math.exp(-6 * best**2 / (n**3 + n**2)))
