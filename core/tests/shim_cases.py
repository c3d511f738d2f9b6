"""Seeded shim questions, and the same objective put to a general integer solver and to plain enumeration:
what the plan is held against.
"""

from __future__ import annotations

import random
from collections import Counter
from itertools import combinations_with_replacement
from typing import Any

from hurbin_core.alignment import Question, key_of

# Sizes that are sold, in tenths of a micrometre: mm, then mil.
SOLD = sorted(
    {
        *(round(x * 10000) for x in (0.05, 0.10, 0.25, 0.40, 0.50, 0.70, 1.00, 2.00)),
        *(254 * m for m in (1, 2, 3, 5, 10, 15, 20, 25, 50, 75, 100, 125)),
    }
)
GRADES = ((2286, 0.0015), (1524, 0.001), (1016, 0.0008), (762, 0.0005), (381, 0.0003))


def large_case(seed: int) -> Question:
    """Up to eight pieces under each foot and not over 6 mm of them, 14 sizes of 20 in the van, a motor up to
    2 mm out at its feet.
    """
    r = random.Random(seed)
    sizes = r.sample(SOLD, 14)
    packs = []
    for _ in range(4):
        pack: list[int] = []
        for _ in range(r.randint(0, 8)):
            t = r.choice(sizes)
            if sum(pack) + t <= 60000:
                pack.append(t)
        packs.append(tuple(sorted(pack)))
    front = r.randint(1_200_000, 4_000_000)
    offset, angle = r.choice(GRADES)
    diameter = r.randint(800_000, 2_500_000)
    ends = [r.randint(-8000, 20000) for _ in range(2)]
    a, b, c, d = (max(ends[i % 2], -sum(packs[i])) for i in range(4))
    return Question(
        (a, b, c, d),
        (packs[0], packs[1], packs[2], packs[3]),
        dict.fromkeys(sizes, 20),
        front,
        front + r.randint(2_000_000, 6_000_000),
        diameter,
        offset // 2,
        int(angle * diameter / 2),
        500,
    )


def small_case(seed: int) -> Question:
    """Few pieces, so that every way of laying them can be tried."""
    r = random.Random(seed)
    sizes = r.sample([500, 1000, 2500, 254, 762, 4000], r.randint(1, 3))
    packs: list[list[int]] = [[], [], [], []]
    for _ in range(r.randint(0, 4)):
        packs[r.randrange(4)].append(r.choice(sizes))
    if seed % 5 == 0:
        packs[0] += [sizes[0]] * 3
    stock = {t: r.randint(0, 1) for t in sizes}
    ends = [r.choice([0, 500, 1000, -500, 2500, r.randint(-1000, 3000)]) for _ in range(2)]
    a, b, c, d = (max(ends[i % 2], -sum(packs[i])) for i in range(4))
    w, x, y, z = (tuple(sorted(p)) for p in packs)
    front, rear = r.randint(1_000_000, 3_000_000), r.randint(3_100_000, 8_000_000)
    return Question(
        (a, b, c, d),
        (w, x, y, z),
        stock,
        front,
        rear,
        r.randint(900_000, 2_000_000),
        r.choice([508, 254, 1100]),
        r.choice([300, 600, 900]),
        500,
    )


def every_way(q: Question) -> list[tuple[Any, Any]]:
    """Every way of laying the pieces, each with its key, the best three first."""
    total = Counter(x for p in q.packs for x in p) + Counter(q.stock)
    packs = [
        p
        for n in range(6)
        for p in combinations_with_replacement(sorted(total), n)
        if all(p.count(t) <= total[t] for t in set(p))
    ]
    ways: list[tuple[tuple[tuple[int, ...], ...], Counter[int]]] = [((), Counter())]
    for _ in range(4):
        ways = [
            ((*w, p), used + Counter(p))
            for w, used in ways
            for p in packs
            if all((used[t] + p.count(t)) <= total[t] for t in set(p))
        ]
    return sorted((key_of(q, w), w) for w, _ in ways)[:3]


Key = tuple[int, int, int, int, int]


def worth(level: Any, over: Any, touched: Any, fresh: Any, pieces: Any) -> Any:
    """The parts of a key as one figure, in their order of weight; of figures or of rows of a model."""
    return (((level * 9 + over) * 5 + touched) * 21 + fresh) * 21 + pieces


def solver_key(q: Question, ceiling: Key | None = None) -> Key:
    """The best key by OR-Tools CP-SAT, from the same objective written down once more as linear rows.

    With a ceiling it looks for nothing worse: where no plan is as good as that, it finds none at all.
    """
    from ortools.sat.python import cp_model

    m = cp_model.CpModel()
    found = Counter(x for p in q.packs for x in p)
    sizes = sorted(set(found) | {t for t, n in q.stock.items() if n})
    count = [[m.new_int_var(0, 5, "") for _ in sizes] for _ in range(4)]
    level, span = m.new_int_var(0, 6000, ""), q.rear - q.front
    fresh, over, touched, high = [], [], [], []
    for i, t in enumerate(sizes):
        used = sum(count[f][i] for f in range(4))
        m.add(used <= found[t] + q.stock.get(t, 0))
        fresh.append(m.new_int_var(0, 20, ""))
        m.add(fresh[-1] >= used - found[t])
    for f in range(4):
        pieces, now = sum(count[f]), Counter(q.packs[f])
        m.add(pieces <= 5)
        over.append(m.new_int_var(0, 2, ""))
        m.add(over[-1] >= pieces - 3)
        touched.append(m.new_bool_var(""))
        for i, t in enumerate(sizes):
            m.add(count[f][i] == now[t]).only_enforce_if(touched[-1].negated())
        high.append(sum(count[f][i] * t for i, t in enumerate(sizes)) - sum(q.packs[f]) - q.wanted[f])
    for sign in (1, -1):
        for front, rear in ((high[0], high[1]), (high[2], high[3])):
            m.add(sign * (front * q.rear - rear * q.front) <= (q.offset + 200 * level) * span)
            m.add(sign * (rear - front) * q.diameter <= (q.rim + 200 * level) * span)
        m.add(sign * (high[1] - high[0] - high[3] + high[2]) <= 500 + 200 * level)
    worst = worth(level, sum(over), sum(touched), sum(fresh), sum(sum(c) for c in count))
    m.minimize(worst)
    if ceiling is not None:
        m.add(worst <= worth(*ceiling))
    solver = cp_model.CpSolver()
    solver.parameters.num_workers, solver.parameters.random_seed = 1, 1
    assert solver.solve(m) == cp_model.OPTIMAL
    total = sum(solver.value(v) for c in count for v in c)
    return (
        solver.value(level),
        sum(map(solver.value, over)),
        sum(map(solver.value, touched)),
        sum(map(solver.value, fresh)),
        total,
    )
