"""Every procedure on every kind of set, under every mark: compiled, and held against a general graph
library.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator

import networkx as nx
import pytest

from hurbin_core.base import HurbinError, Limits
from hurbin_core.jobs.anatomy import LOOKS, TREES, Mark, tree_for, tree_of
from hurbin_core.jobs.compiling import Compiled, compile_job
from hurbin_core.jobs.procedure import PROCEDURES, Procedure, check_procedure, procedure_of
from hurbin_core.plant import KINDS

_BOTH = (True, False)
_MARKS = ("hot", "loop", "twin", "drive", "electronics", "outside", "pit", "roof", "header")


def _every(kind: str) -> Iterator[dict[str, Mark | None]]:
    for phases, *rest in itertools.product((1, 3), *[_BOTH] * len(_MARKS)):
        told = dict(zip(_MARKS, rest, strict=True))
        yield {
            "kind": kind,
            "coupled": KINDS[kind].coupled,
            "phases": phases,
            "starter": not told["drive"],
            "submerged": kind == "submersible",
            **told,
        }


def _walk(c: Compiled) -> nx.DiGraph:
    """The job as a graph of its own: a step leads to the next, a part's refit to its removal and to the refit
    of what lies beneath it.
    """
    g = nx.DiGraph()
    for a, b in itertools.pairwise(c.steps):
        g.add_edge(a.id, b.id)
    return g


def _order(c: Compiled, marks: dict[str, Mark | None]) -> nx.DiGraph:
    """What must come before what, by the tree alone: events in the order in which the steps make them."""
    tree = tree_for(TREES[c.tree], marks)
    swapped = {tuple(p) for p in tree.swap}
    g = nx.DiGraph()
    taken = {x for s in c.steps for x in s.off}
    back = {x for s in c.steps for x in s.on}
    for p in tree.part:
        for need in p.needs:
            if p.id in taken:
                g.add_edge(("off", need), ("off", p.id))
            if p.id in back and need in back:
                first, then = (need, p.id) if (need, p.id) in swapped else (p.id, need)
                g.add_edge(("on", first), ("on", then))
    at: list[tuple[str, str]] = []
    for s in c.steps:
        at += [("off", x) for x in s.off] + [("on", x) for x in s.on]
    g.add_edges_from(itertools.pairwise(at))
    return g


@pytest.mark.parametrize("p", PROCEDURES.values(), ids=lambda p: p.id)
def test_every_kind_and_mark_compiles_without_contradiction(
    p: Procedure, record_property: Callable[[str, object], None]
) -> None:
    limits, count = Limits(), 0
    for kind in p.kinds:
        for marks in _every(kind):
            c = compile_job(p, marks, limits)
            assert not c.contradictions, (kind, marks, c.contradictions)
            assert not c.asks
            count += 1
    record_property("compiled", count)
    assert count == len(p.kinds) * 2 ** (len(_MARKS) + 1)


@pytest.mark.parametrize("p", PROCEDURES.values(), ids=lambda p: p.id)
def test_a_graph_library_finds_no_circle_and_every_hold(p: Procedure) -> None:
    for kind in p.kinds:
        for marks in itertools.islice(_every(kind), 0, None, 37):
            c = compile_job(p, marks, Limits())
            walk, order = _walk(c), _order(c, marks)
            assert nx.is_directed_acyclic_graph(walk)
            assert nx.is_directed_acyclic_graph(order), (p.id, kind, nx.find_cycle(order))
            first = c.steps[0].id
            reached = nx.descendants(walk, first) | {first}
            assert {s.id for s in c.steps if s.hold} <= reached
            off = {x for s in c.steps for x in s.off}
            back = {x for s in c.steps for x in (*s.on, *s.gone)}
            temporary = {x.id for x in TREES[c.tree].part if x.temporary}
            assert off - temporary <= back, "a part taken off is put back, renewed or gone"
            hung = {k for s in c.steps for k, _ in s.hang}
            assert hung <= {k for s in c.steps for k in s.restore}


def test_the_four_procedures_of_the_same_seal_differ_by_their_set() -> None:
    three, one = (
        compile_job(PROCEDURES["J05"], {**next(_every("close_coupled")), "phases": n}, Limits())
        for n in (3, 1)
    )
    assert {s.id for s in three.steps} ^ {s.id for s in one.steps} >= {"J05.7", "J05.12", "J05.12s", "P3"}
    assert three.kit["anti_rotation"] == 1
    assert "anti_rotation" not in one.kit
    why = {x.id: x.why for x in one.left_out}
    assert why["J05.7"] == "Single phase: it does not reverse, no washer is needed."


def test_a_wet_procedure_isolates_the_wet_side_and_a_dry_one_does_not() -> None:
    for p in PROCEDURES.values():
        marks = next(_every(p.kinds[0]))
        ids = {s.id for s in compile_job(p, marks, Limits()).steps}
        assert ("I3" in ids) or p.id in ("J18",), p.id
        if "wet" in p.touches and p.kinds[0] not in ("wet_rotor", "submersible", "condensate_return"):
            assert {"W2", "W3"} <= ids, p.id
        if "wet_end" not in p.scopes:
            assert not {"W2", "W3"} & ids, p.id


def test_what_nobody_knows_is_asked_and_leaves_its_step_in() -> None:
    marks: dict[str, Mark | None] = {**next(_every("close_coupled")), "phases": None, "pit": None}
    c = compile_job(PROCEDURES["J05"], marks, Limits())
    assert {"phases", "pit"} <= c.asks.keys()
    assert {"X1", "J05.7", "J05.12s"} <= {s.id for s in c.steps}


def test_a_procedure_of_another_kind_or_without_a_drive_is_refused() -> None:
    marks = next(_every("wet_rotor"))
    assert compile_job(PROCEDURES["J11"], marks, Limits()).refuses == ["J11 is for another kind of set."]
    no_drive = {**next(_every("base_mounted")), "drive": False, "starter": True}
    assert compile_job(PROCEDURES["J15"], no_drive, Limits()).refuses == ["This set has no drive."]


def _raw(**more: object) -> dict[str, object]:
    step = {"id": "1", "title": "Cover off", "do": "Take it off.", "off": ["cover"]}
    base = {"id": "S1", "title": "Own", "kinds": ["base_mounted"], "part": "control", "tree": "drive"}
    return {**base, "scopes": ["drive_box"], "step": [step], **more}


@pytest.mark.parametrize(
    ("step", "code"),
    [
        ({"off": ["cover"]}, "part_stays_off"),
        ({"on": ["cover"]}, "part_never_off"),
        ({"hang": [["cover_off", "door"]]}, "change_stays"),
        ({"hold": "Confirm it", "meets": "record"}, "hold_unmet"),
        ({"hold": "Confirm it", "meets": "figure"}, "hold_unmet"),
        ({"opens": "nonsense"}, "procedure_name"),
        ({"off": ["nonsense"]}, "procedure_name"),
        ({"title": " "}, "step_empty"),
    ],
)
def test_a_procedure_that_does_not_close_says_where(step: dict[str, object], code: str) -> None:
    told = {"id": "1", "title": "A step", "do": "Do it."} | step
    problems = check_procedure(procedure_of(_raw(step=[told])))
    assert code in {p.code for p in problems}


def test_a_procedure_that_closes_is_taken_and_a_broken_one_named() -> None:
    on = {"id": "2", "title": "Cover on", "do": "Put it back.", "on": ["cover"]}
    raw = _raw()
    assert check_procedure(procedure_of({**raw, "step": [*raw["step"], on]})) == []  # type: ignore[misc]
    with pytest.raises(HurbinError) as told:
        procedure_of(_raw(kinds=[]))
    assert told.value.field == "kinds"


def test_every_kind_has_its_own_anatomy_and_every_part_says_what_it_does() -> None:
    drawn = {}
    for kind in KINDS:
        tree = tree_of(kind)
        assert tree is not None, kind
        drawn[kind] = tuple((p.id, p.drawn.shape) for p in tree.part)
        assert all(p.does for p in tree.part)
    assert len(set(drawn.values())) == len(KINDS), "each kind its own drawing"
    whole = tree_of("base_mounted")
    assert whole is not None
    chain = ["guard", "spacer", "hub", "caps", "shaft", "bearings"]
    for a, b in itertools.pairwise(chain):
        assert a in whole.before(b), (a, b)
    assert {"casing_nuts", "bracket_foot", "unit", "nut", "wheel"} <= whole.before("cover")


def test_every_look_is_used_and_says_when_a_part_is_not_used_again() -> None:
    used = {p.judged for t in TREES.values() for p in t.part if p.judged}
    asked = {x for p in PROCEDURES.values() for s in p.step for x in s.inspects}
    assert used | asked == set(LOOKS)
    for look in LOOKS.values():
        assert look.mend or look.send, look.id
        assert bool(look.never) is not bool(look.reuse), look.id
