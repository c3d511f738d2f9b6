"""How parts are drawn: by strokes that a screen and a sheet of paper draw alike."""

from __future__ import annotations

import itertools
import math

import pytest

from hurbin_core.base import HurbinError
from hurbin_core.jobs import anatomy
from hurbin_core.jobs.anatomy import SHAPES, TREES

DRAWN = [(t, p) for t in TREES.values() for p in t.part]


@pytest.mark.parametrize("shape", sorted(SHAPES))
def test_a_stroke_is_points_that_lie_by_its_box(shape: str) -> None:
    strokes = SHAPES[shape]
    assert strokes
    for points in strokes:
        assert len(points) >= 4, "a stroke has two ends"
        assert len(points) % 2 == 0, "x and y"
        assert all(math.isfinite(v) for v in points)
        xs, ys = points[::2], points[1::2]
        assert -0.6 <= min(xs) <= max(xs) <= 2.4, shape
        assert -2.0 <= min(ys) <= max(ys) <= 2.0, shape
        assert len(set(zip(xs, ys, strict=True))) > 1, "no stroke is a dot"


def test_no_two_shapes_are_the_same_but_bars_and_boxes() -> None:
    same = {(a, b) for (a, one), (b, two) in itertools.combinations(SHAPES.items(), 2) if one == two}
    assert same == {("shaft", "key"), ("washer", "unit")}, "plain bars and plain boxes"


def test_every_shape_is_drawn_somewhere_and_every_part_by_its_shape() -> None:
    assert {p.drawn.shape for _, p in DRAWN} <= set(SHAPES)
    for tree, part in DRAWN:
        assert part.drawn.strokes == SHAPES[part.drawn.shape], (tree.id, part.id)
        assert part.drawn.w > 0, (tree.id, part.id)
        assert part.drawn.h > 0, (tree.id, part.id)
        assert part.drawn.x - part.drawn.w / 2 >= -5, (tree.id, part.id)
        assert part.drawn.x + part.drawn.w / 2 <= 112, (tree.id, part.id)


def test_a_part_whose_shape_nobody_drew_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(anatomy, "SHAPES", {k: v for k, v in SHAPES.items() if k != "tank"})
    with pytest.raises(HurbinError, match="there is no shape tank"):
        anatomy._tree("condensate_return")


def test_the_parts_of_one_tree_do_not_all_lie_on_one_heap() -> None:
    for tree in TREES.values():
        places = {(p.drawn.x, p.drawn.y) for p in tree.part}
        assert len(places) >= 0.7 * len(tree.part), tree.id
