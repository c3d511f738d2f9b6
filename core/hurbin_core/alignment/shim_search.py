"""The search behind the shim plan: best first over both sides, levels first."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Callable, Iterator
from functools import cached_property
from heapq import heapify, heappop, heappush
from itertools import product

from .shims import FREE, MOST, STEP, Pack, Plan, Question, check, steps_over

_LANE = 8
_FARTHEST, _BESIDE = (
    5000,
    25,
)  # levels: how far one looks, and how much worse than the plan the next best may be


def plans(q: Question, best: int = 3, within: int = _FARTHEST) -> list[Plan]:
    """The best plans in their order, the first one the plan: exact over four feet at once.

    Order: steps over (see `steps_over`), pieces over three a foot, feet disturbed, new pieces, pieces,
    smallest list of thicknesses. Common practice, no source. `within`: how many steps over one looks for at
    most; the next best are at most 25 steps worse than the plan. Raises HurbinError for what is no question.
    """
    check(q)
    return _Search(q).run(best, within)


# One side's two feet: their packs, the pieces used (one lane a size), how much higher the rear stands over
# than the front.
_Pair = tuple[tuple[Pack, Pack], int, int]
_Rank = tuple[int, int, int]


class _Foot:
    """The packs that one foot may get within a level, by (disturbed, new pieces at least, pieces), each by
    its sum.
    """

    def __init__(self) -> None:
        self.groups: dict[_Rank, list[tuple[int, Pack, int]]] = {}
        self.sums: dict[_Rank, list[int]] = {}

    def close(self) -> None:
        for rank, rows in self.groups.items():
            rows.sort()
            self.sums[rank] = [r[0] for r in rows]


class _Search:
    """Best first over both sides: what a pair of packs takes at least is known before the pair is made."""

    def __init__(self, q: Question) -> None:
        self.q = q
        self.found = Counter(x for p in q.packs for x in p)
        held = Counter({t: n for t, n in q.stock.items() if n > 0})
        self.sizes = sorted(self.found | held)
        self.cap = {t: min(self.found[t] + held[t], 4 * MOST) for t in self.sizes}
        lane = {t: _LANE * i for i, t in enumerate(self.sizes)}
        self.one = {t: 1 << lane[t] for t in self.sizes}
        self.high = sum(128 << lane[t] for t in self.sizes)
        self.room = self.high + sum(self.cap[t] << lane[t] for t in self.sizes)
        self.free = sum(min(self.found[t], 4 * MOST) << lane[t] for t in self.sizes)
        self.goal = [sum(old) + want for old, want in zip(q.packs, q.wanted, strict=True)]
        self.old = [tuple(sorted(p)) for p in q.packs]
        self.span = q.rear - q.front
        self.best: list[Plan] = []
        self.feet: dict[tuple[int, int, int], _Foot] = {}
        self.made: dict[tuple[int, int, int, _Rank], dict[int, list[_Pair]]] = {}

    def run(self, best: int, within: int) -> list[Plan]:
        level = 0 if self._reach(0) else self._next(self._reach, 0, within)
        while level <= within and not (self.best and level > self.best[0].key[0] + _BESIDE):
            for over in range(4 * (MOST - FREE) + 1):
                self._at(level, over, best)
                if len(self.best) >= best:
                    return self.best
            # Sizes that have run out stand in the way: what holds at one level holds at every higher one.
            level = level + 1 if self.best else self._next(self._feasible, level, within)
        return self.best

    @staticmethod
    def _next(holds: Callable[[int], bool], low: int, within: int) -> int:
        """The first level over `low` at which this holds, if there is one up to `within`; beyond it
        otherwise.
        """
        stride = 1
        while not holds(low + stride):
            if low + stride > within:
                return within + 1
            low, stride = low + stride, 2 * stride
        high = low + stride
        while high - low > 1:
            mid = (low + high) // 2
            low, high = (low, mid) if holds(mid) else (mid, high)
        return high

    def _feasible(self, level: int) -> bool:
        """Is there any plan within this level, whatever it takes? Only sizes that can run out part the two
        sides.
        """
        scarce = sum(255 << (_LANE * i) for i, t in enumerate(self.sizes) if self.cap[t] < 4 * MOST)
        rock, room, top = self.q.rock + STEP * level, self.room, self.high
        sides: list[list[tuple[int, int]]] = []
        for side in (0, 1):
            held: set[tuple[int, int]] = set()
            feet = [
                [self._foot(level, f, n) for n in range(MOST - FREE + 1)] for f in (2 * side, 2 * side + 1)
            ]
            for front, rear in product(*feet):
                for k1, k2 in product(front.groups, rear.groups):
                    for pairs in self._pairs(
                        level, front.groups[k1], rear.groups[k2], rear.sums[k2]
                    ).values():
                        held |= {(used & scarce, lean) for _, used, lean in pairs}
            if not held:
                return False
            sides.append(sorted(held))
        for used, lean in sides[0]:
            for used2, lean2 in sides[1]:
                if -rock <= lean - lean2 <= rock and (room - used - used2) & top == top:
                    return True
        return False

    # Packs

    @cached_property
    def by_count(self) -> list[list[tuple[int, Pack]]]:
        """Every pack up to three pieces by its sum; the larger ones are sought where they are needed."""
        return [sorted((sum(p), p) for p in self._grow(n)) for n in range(FREE + 1)]

    def _grow(self, n: int, start: int = 0) -> Iterator[Pack]:
        if n == 0:
            yield ()
            return
        for i in range(start, len(self.sizes)):
            t = self.sizes[i]
            for rest in self._grow(n - 1, i):
                if self.cap[t] > rest.count(t):
                    yield (t, *rest)

    def _packs(self, n: int, low: int, high: int) -> list[tuple[int, Pack]]:
        """Every pack of exactly n pieces whose sum lies between these two."""
        if n <= FREE:
            rows = self.by_count[n]
            return rows[bisect_left(rows, (low,)) : bisect_left(rows, (high + 1,))]
        out: list[tuple[int, Pack]] = []
        more, rows = n - FREE, self.by_count[FREE]
        for s, p in rows[bisect_left(rows, (low - more * self.sizes[-1],)) :] if rows else []:
            if s > high:
                break
            if s + more * p[-1] <= high:
                self._more(p, s, more, low, high, out)
        return out

    def _more(self, p: Pack, s: int, n: int, low: int, high: int, out: list[tuple[int, Pack]]) -> None:
        # Pieces are added from the thickest already there upwards, so that every pack is made once.
        first = bisect_left(self.sizes, max(p[-1], low - s - (n - 1) * self.sizes[-1]))
        for t in self.sizes[first:]:
            if s + n * t > high:
                break
            if p.count(t) < self.cap[t]:
                if n == 1:
                    out.append((s + t, (*p, t)))
                else:
                    self._more((*p, t), s + t, n - 1, low, high, out)

    # Levels

    def _window(self, level: int, foot: int) -> tuple[int, int]:
        """Between which sums a foot's pack has to lie for this level, whatever the other foot does."""
        x = self.q.front if foot % 2 == 0 else self.q.rear
        wide = self.q.offset + STEP * level + (self.q.rim + STEP * level) * x // self.q.diameter + 1
        return self.goal[foot] - wide, self.goal[foot] + wide

    @cached_property
    def _small(self) -> list[int]:
        return sorted({s for rows in self.by_count for s, _ in rows})

    @cached_property
    def _all(self) -> list[int]:
        four = {s + t for s in {s for s, _ in self.by_count[FREE]} for t in self.sizes}
        return sorted({*self._small, *four, *(s + t for s in four for t in self.sizes)})

    def _rear_between(self, level: int, x: int) -> tuple[int, int]:
        """Between which heights the rear foot has to stand when the front one stands x too high."""
        q = self.q
        a, b = (q.offset + STEP * level) * self.span, (q.rim + STEP * level) * self.span // q.diameter
        return max(-((a - x * q.rear) // q.front), x - b), min((x * q.rear + a) // q.front, x + b)

    def _reach(self, level: int) -> bool:
        """Are there packs for both sides within this level at all? Counts are not looked at."""
        return all(
            any(self._side_reach(level, side, sums) for sums in (self._small, self._all)) for side in (0, 1)
        )

    def _side_reach(self, level: int, side: int, sums: list[int]) -> bool:
        front, rear = self.goal[2 * side], self.goal[2 * side + 1]
        low, high = self._window(level, 2 * side)
        for s in sums[bisect_left(sums, low) : bisect_right(sums, high)]:
            first, last = self._rear_between(level, s - front)
            if bisect_left(sums, first + rear) < bisect_right(sums, last + rear):
                return True
        return False

    # One level

    def _new(self, used: int) -> int:
        """How many pieces are used beyond those found? Lane by lane at once."""
        gap = (used | self.high) - self.free
        return ((gap & ~self.high) & (((gap & self.high) >> 7) * 127)) % 255

    def _foot(self, level: int, foot: int, over: int) -> _Foot:
        held = self.feet.get((level, foot, over))
        if held is not None:
            return held
        low, high = self._window(level, foot)
        out = self.feet[level, foot, over] = _Foot()
        for n in range(FREE + 1) if over == 0 else (FREE + over,):
            for s, p in self._packs(n, low, high):
                used = sum(self.one[t] for t in p)
                rank = (int(p != self.old[foot]), self._new(used), n)
                out.groups.setdefault(rank, []).append((s - self.goal[foot], p, used))
        out.close()
        return out

    def _pairs(
        self,
        level: int,
        fronts: list[tuple[int, Pack, int]],
        rears: list[tuple[int, Pack, int]],
        sums: list[int],
    ) -> dict[int, list[_Pair]]:
        """The pairs of one side within this level, by the new pieces that they take."""
        room, top, free, high = self.room, self.high, self.free, ~self.high
        out: dict[int, list[_Pair]] = {}
        for x, p, u in fronts:
            low, most = self._rear_between(level, x)
            for y, p2, u2 in rears[bisect_left(sums, low) : bisect_right(sums, most)]:
                used = u + u2
                if (room - used) & top == top:
                    gap = (used | top) - free
                    new = ((gap & high) & (((gap & top) >> 7) * 127)) % 255
                    out.setdefault(new, []).append(((p, p2), used, y - x))
        for pairs in out.values():
            pairs.sort()
        return out

    def _at(self, level: int, over: int, best: int) -> None:
        """Join the two sides at this level with so many pieces over three in all."""
        most = MOST - FREE
        feet: dict[tuple[int, int], _Foot] = {}
        for foot in range(4):
            for n in range(min(most, over) + 1):
                feet[foot, n] = self._foot(level, foot, n)
        sides: list[dict[tuple[int, _Rank], list[tuple[_Foot, _Foot, _Rank, _Rank]]]] = [{}, {}]
        for side, split in product((0, 1), product(range(min(most, over) + 1), repeat=2)):
            front, rear = feet[2 * side, split[0]], feet[2 * side + 1, split[1]]
            for k1, k2 in product(front.groups, rear.groups):
                key = (split[0] + split[1], (k1[0] + k2[0], k1[1] + k2[1], k1[2] + k2[2]))
                sides[side].setdefault(key, []).append((front, rear, k1, k2))
        coarse = [
            ((k1[0] + k2[0], k1[1] + k2[1], k1[2] + k2[2]), 0, (o1, k1), (o2, k2))
            for (o1, k1), (o2, k2) in product(*sides)
            if o1 + o2 == over
        ]
        heapify(coarse)
        while coarse:
            bound, fine, one, two = heappop(coarse)
            if len(self.best) >= best and (level, over, *bound) > self.best[-1].key:
                return
            halves = [self._made(level, side, key, sides[side]) for side, key in ((0, one), (1, two))]
            if fine:
                n1, n2 = fine // 64 - 1, fine % 64
                self._join(level, over, bound, halves[0][n1], halves[1][n2], best)
                continue
            for n1, n2 in product(*halves):
                heappush(coarse, ((bound[0], n1 + n2, bound[2]), (n1 + 1) * 64 + n2, one, two))

    def _made(
        self,
        level: int,
        side: int,
        key: tuple[int, _Rank],
        groups: dict[tuple[int, _Rank], list[tuple[_Foot, _Foot, _Rank, _Rank]]],
    ) -> dict[int, list[_Pair]]:
        """The pairs of one bucket, made when they are first looked at."""
        held = self.made.get((level, side, *key))
        if held is None:
            held = {}
            for front, rear, k1, k2 in groups[key]:
                for new, pairs in self._pairs(
                    level, front.groups[k1], rear.groups[k2], rear.sums[k2]
                ).items():
                    held.setdefault(new, []).extend(pairs)
            for pairs in held.values():
                pairs.sort()
            self.made[level, side, *key] = held
        return held

    def _join(
        self, level: int, over: int, bound: _Rank, lefts: list[_Pair], rights: list[_Pair], best: int
    ) -> None:
        rock, room, top, free, high = self.q.rock + STEP * level, self.room, self.high, self.free, ~self.high
        most = self._most(level, over, bound, best)
        for p, u, lean in lefts:
            if len(self.best) >= best and ((level, over, *bound), p) > (
                self.best[-1].key,
                self.best[-1].packs[:2],
            ):
                return
            for p2, u2, lean2 in rights:
                used = u + u2
                if not -rock <= lean - lean2 <= rock or (room - used) & top != top:
                    continue
                gap = (used | top) - free
                new = ((gap & high) & (((gap & top) >> 7) * 127)) % 255
                if new > most:
                    continue
                plan = Plan((*p, *p2), (level, over, bound[0], new, bound[2]))
                if (len(self.best) < best or plan.order < self.best[-1].order) and steps_over(
                    self.q, plan.packs
                ) == level:
                    self.best = sorted([*self.best, plan], key=lambda x: x.order)[:best]
                    most = self._most(level, over, bound, best)

    def _most(self, level: int, over: int, bound: _Rank, best: int) -> int:
        """How many new pieces a pair of these may take and still be among the best."""
        if len(self.best) < best:
            return 4 * MOST
        worst = self.best[-1].key
        if (level, over, bound[0]) != worst[:3]:
            return 4 * MOST if (level, over, bound[0]) < worst[:3] else -1
        return worst[3] if bound[2] <= worst[4] else worst[3] - 1
