"""The parts of an assembly: what each does, what wears it, how it is judged, and what must be off before
it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Literal

from ..base import RULEBOOK, HurbinError, Model, by_id, known
from ..plant import KINDS

Mark = str | int | bool


class Drawn(Model):
    """Where a part stands in its drawing: x along the shaft line, 0 to 100; w, h its size; y off the line.

    strokes: of its shape, as points in a box one wide and one above and below the line, x before y.
    """

    shape: str
    x: float
    w: float
    h: float
    y: float = 0.0
    strokes: list[list[float]] = []


class TreePart(Model):
    """One part. needs: what must be off before it comes off; judged: the look that says whether it is used
    again. when: only on a set like this. temporary: it is put in and taken out again by the job.
    """

    id: str
    title: str
    does: str
    wears: str = ""
    judged: str = ""
    needs: list[str] = []
    drawn: Drawn
    when: dict[str, Mark] = {}
    temporary: bool = False


class Tree(Model):
    """An assembly as it comes apart. kinds: the kinds of set that are this one as a whole; none: a part of
    several. swap: pairs that go back in the order in which they came off.
    """

    id: str
    title: str
    kinds: list[str] = []
    posture: Literal["flat", "upright"] = "flat"
    swap: list[tuple[str, str]] = []
    part: list[TreePart] = []

    @property
    def by_part(self) -> dict[str, TreePart]:
        return {p.id: p for p in self.part}

    def before(self, part: str) -> set[str]:
        """Everything that must be off before this part comes off."""
        parts, out, todo = self.by_part, set[str](), [part]
        while todo:
            for need in parts[todo.pop()].needs:
                if need not in out:
                    out.add(need)
                    todo.append(need)
        return out


class Look(Model):
    """How a part is judged by signs. reuse: every one of them has to be confirmed; mend: renewed or mended
    here; send: to the shop, or scrap. never: why a used one never goes back. figures: the bench that judges
    its figures.
    """

    id: str
    title: str
    reuse: list[str] = []
    mend: list[str] = []
    send: list[str] = []
    pair: str = ""
    never: str = ""
    figures: str = ""
    source: str = "common practice, no source"


class _TreeFile(Model):
    tree: Tree
    part: list[TreePart]


class _Shapes(Model):
    shape: dict[str, list[list[float]]]


class _Looks(Model):
    look: list[Look]


_NAMES = (
    "inline_spring",
    "wet_rotor",
    "close_coupled",
    "base_mounted",
    "bracket_multistage",
    "submersible",
    "condensate_return",
    "vacuum",
    "positive_displacement",
    "motor",
    "coupling",
    "flange",
    "whole",
    "drive",
    "starter",
    "leads",
)


def _tree(name: str) -> Tree:
    file = RULEBOOK.section(f"jobs/anatomy/{name}.toml", _TreeFile)
    known([p.drawn.shape for p in file.part], SHAPES, name, "shape")
    return file.tree.model_copy(update={"part": [_stroked(p) for p in file.part]})


def _stroked(part: TreePart) -> TreePart:
    drawn = part.drawn.model_copy(update={"strokes": SHAPES[part.drawn.shape]})
    return part.model_copy(update={"drawn": drawn})


SHAPES = RULEBOOK.section("jobs/anatomy/shapes.toml", _Shapes).shape
LOOKS: dict[str, Look] = by_id(RULEBOOK.section("jobs/inspections.toml", _Looks).look)
TREES: dict[str, Tree] = by_id(_tree(n) for n in _NAMES)


def check_tree(tree: Tree) -> None:
    """Can it come apart at all? Raises for a part twice, one that needs an unknown one, and a circle."""
    parts = by_id(tree.part)
    for p in tree.part:
        known(p.needs, parts, f"{tree.id}/{p.id}", "part")
        known([p.judged] if p.judged else [], LOOKS, f"{tree.id}/{p.id}", "look")
        if p.id in tree.before(p.id):
            raise HurbinError("order_circle", f"{tree.id}: {p.title} would have to be off before itself.")
    for pair in tree.swap:
        known(pair, parts, tree.id, "part")
    known(tree.kinds, KINDS, tree.id, "kind")


def tree_of(kind: str) -> Tree | None:
    """The whole anatomy of a kind of set; None for a kind that nobody knows."""
    return next((t for t in TREES.values() if kind in t.kinds), None)


def tree_for(tree: Tree, marks: Mapping[str, Mark | None]) -> Tree:
    """The assembly as this set has it: without the parts that are on others alone."""
    here = [p for p in tree.part if applies(p.when, marks) is not False]
    names = {p.id for p in here}
    kept = [p.model_copy(update={"needs": [n for n in p.needs if n in names]}) for p in here]
    return tree.model_copy(update={"part": kept})


Moved = tuple[str, Iterable[str], Iterable[str], Iterable[str]]


def wrong_order(tree: Tree, steps: Iterable[Moved]) -> list[str]:
    """Where do these steps take a part off, or put one back, before its turn? Each step: its name, what comes
    off, what goes on, what is gone for good. Parts go back in the order opposite to their coming off, but for
    the tree's own pairs.
    """
    parts, off = tree.by_part, set[str]()
    out: list[str] = []
    for name, taken, back, gone in steps:
        for p in taken:
            lacking = [n for n in parts[p].needs if n not in off] if p in parts else []
            out += [f"{name}: {parts[n].title} must be off before {parts[p].title}" for n in lacking]
            off.add(p)
        for p in back:
            out += [
                f"{name}: {parts[b].title} goes back before {parts[p].title}"
                for b in _still_off(tree, p, off)
            ]
            off.discard(p)
        off -= set(gone)
    return out


def _still_off(tree: Tree, part: str, off: set[str]) -> list[str]:
    """What lies beneath this part and is off still: it has to be back before it."""
    if part not in tree.by_part:
        return []
    out = []
    for other in off:
        swapped = (part, other) in tree.swap
        beneath = other in tree.by_part and part in tree.by_part[other].needs
        if beneath and not swapped:
            out.append(other)
    return sorted(out)


def applies(when: Mapping[str, Mark], marks: Mapping[str, Mark | None]) -> bool | None:
    """Is this for a set with these marks? None where a mark that decides it is not known."""
    told = [None if marks.get(k) is None else marks[k] == v for k, v in when.items()]
    if any(t is False for t in told):
        return False
    return None if any(t is None for t in told) else True


for _t in TREES.values():
    check_tree(_t)
