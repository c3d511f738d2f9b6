"""Volts between the points of a circuit at one frequency: nodes, what joins them, what holds them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

GROUND = "ground"
# Of all admittances of a network the smallest that still ties a point to something, S: a hundred times less
# than a meter of 10 MΩ.
_NOTHING = 1e-9


@dataclass(frozen=True, slots=True)
class Machine:
    """Something between several points that is no single branch: its admittances, S, row by row."""

    points: tuple[str, ...]
    admittances: tuple[tuple[complex, ...], ...]


@dataclass(slots=True)
class Network:
    """What is joined without any resistance to speak of, what lies between points (S), and which points are
    held at which potential (V, phasors of one frequency). Ground is held at nothing. `points`: those that
    are asked for, whether anything holds them or not.
    """

    held: dict[str, complex]
    joined: list[tuple[str, str]] = field(default_factory=list)
    between: list[tuple[str, str, complex]] = field(default_factory=list)
    machines: list[Machine] = field(default_factory=list)
    points: list[str] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Solved:
    """A network solved: the node of each point, the potentials of those that are tied to something held, and
    what lies between them for whoever measures there.
    """

    node: Mapping[str, int]
    volts: Sequence[complex | None]
    behind: Mapping[tuple[int, int], complex]

    def potential(self, point: str) -> complex | None:
        """The potential of this point, V; none: it floats, nothing holds it. Raises KeyError for a point that
        the network has not.
        """
        return self.volts[self.node[point]]

    def across(self, one: str, two: str, meter_s: complex = 0j) -> complex | None:
        """What a meter of this admittance reads between two points, V; none: one of them floats.

        The two points are a source behind an impedance (Thévenin), which the meter loads.
        """
        a, b = self.node[one], self.node[two]
        va, vb = self.volts[a], self.volts[b]
        if va is None or vb is None:
            return None
        z = self._z(a, a) + self._z(b, b) - self._z(a, b) - self._z(b, a)
        return (va - vb) / (1 + z * meter_s)

    def _z(self, a: int, b: int) -> complex:
        return self.behind.get((a, b), 0j)


def nodes(network: Network) -> dict[str, int]:
    """The node of each point: joined ones are one."""
    parent: dict[str, str] = {}

    def root(p: str) -> str:
        parent.setdefault(p, p)
        while parent[p] != p:
            parent[p] = parent[parent[p]]
            p = parent[p]
        return p

    for p in (GROUND, *network.points, *network.held):
        root(p)
    for a, b in network.joined:
        parent[root(a)] = root(b)
    for a, b, _ in network.between:
        root(a), root(b)
    for m in network.machines:
        for p in m.points:
            root(p)
    number: dict[str, int] = {}
    return {p: number.setdefault(root(p), len(number)) for p in parent}


def _admittances(network: Network, node: Mapping[str, int], size: int) -> list[list[complex]]:
    y = [[0j] * size for _ in range(size)]
    for one, two, s in network.between:
        a, b = node[one], node[two]
        if a != b:
            y[a][a] += s
            y[b][b] += s
            y[a][b] -= s
            y[b][a] -= s
    for m in network.machines:
        at = [node[p] for p in m.points]
        for i, row in zip(at, m.admittances, strict=True):
            for j, s in zip(at, row, strict=True):
                y[i][j] += s
    return y


def _tied(y: Sequence[Sequence[complex]], held: Iterable[int]) -> set[int]:
    """The nodes that something held can be reached from."""
    found, ahead = set(held), list(held)
    while ahead:
        a = ahead.pop()
        for b, s in enumerate(y[a]):
            if b not in found and (abs(s) > _NOTHING or abs(y[b][a]) > _NOTHING):
                found.add(b)
                ahead.append(b)
    return found


def inverse(m: list[list[complex]]) -> list[list[complex]]:
    """The inverse of a square matrix: Gauss and Jordan, the largest of each column first."""
    n = len(m)
    rows = [[*row, *(1 + 0j if i == j else 0j for j in range(n))] for i, row in enumerate(m)]
    for k in range(n):
        best = max(range(k, n), key=lambda i: abs(rows[i][k]))
        rows[k], rows[best] = rows[best], rows[k]
        top = rows[k][k]
        rows[k] = [x / top for x in rows[k]]
        for i in range(n):
            if i != k and rows[i][k]:
                f = rows[i][k]
                rows[i] = [x - f * t for x, t in zip(rows[i], rows[k], strict=True)]
    return [row[n:] for row in rows]


def solve(network: Network) -> Solved:
    """Which potential has each point? Nodal analysis; points that nothing held reaches float.

    Raises ValueError where two held points are joined at different potentials: a short circuit, of which no
    voltage can be told.
    """
    node = nodes(network)
    size = max(node.values()) + 1
    held: dict[int, complex] = {node[GROUND]: 0j}
    for point, v in network.held.items():
        if abs(held.setdefault(node[point], v) - v) > 1e-9 * max(1.0, abs(v)):
            raise ValueError(f"{point} is joined to another potential")
    y = _admittances(network, node, size)
    tied = _tied(y, held)
    free = sorted(tied - held.keys())
    z = inverse([[y[i][j] for j in free] for i in free])
    pushed = [-sum(y[i][j] * v for j, v in held.items()) for i in free]
    volts: list[complex | None] = [held.get(i) for i in range(size)]
    for row, i in zip(z, free, strict=True):
        volts[i] = sum((a * b for a, b in zip(row, pushed, strict=True)), 0j)
    behind = {(i, j): x for row, i in zip(z, free, strict=True) for x, j in zip(row, free, strict=True)}
    return Solved(node, volts, behind)
