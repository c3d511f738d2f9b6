"""From a procedure to the job of one set: what applies, what is left out and why, what is still asked."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ..base import SCHOOLS, HurbinError, Limits, Model
from .anatomy import TREES, Tree, applies, tree_for, wrong_order
from .marks import ASKED, Marks
from .procedure import BLOCKS, Procedure, StepSpec

# Steps that wait for power stand behind the last of these that is there.
_POWER = ("P2", "P3", "P4", "P4e", "P5")


class JobStep(StepSpec):
    """A step of one set's job. of: the block or procedure it is from; way: the site's way where people
    differ.
    """

    of: str = ""
    way: str = ""


class LeftOut(Model):
    id: str
    title: str
    why: str


class Compiled(Model):
    """The job of one set. refuses: why this procedure is not for it. asks: marks and figures still wanted."""

    procedure: str
    title: str
    tree: str
    steps: list[JobStep] = []
    left_out: list[LeftOut] = []
    refuses: list[str] = []
    asks: dict[str, str] = {}
    contradictions: list[str] = []
    people: int = 1
    kit: dict[str, int] = {}


def compile_job(p: Procedure, marks: Marks, limits: Limits, weight_kg: float | None = None) -> Compiled:
    """Which steps does this procedure have on this set, in which order, and what is left out?

    A mark that nobody knows leaves a step in: a caution too many is no harm. Contradictions are named and
    never repaired silently: a part put back before its turn, a hold without a way to meet it.
    """
    tree = tree_for(TREES[p.trees.get(str(marks.get("kind")), p.tree)], marks)
    out = Compiled(procedure=p.id, title=p.title, tree=tree.id, refuses=_refused(p, marks, tree))
    for mark in p.needs:
        if marks.get(mark) is None:
            out.asks[mark] = ASKED.get(mark, f"Enter {mark}.")
    for of, spec in _rows(p):
        _take(out, p, of, spec, marks, tree, limits)
    out.steps = _powered(out.steps)
    # What is not known yet leaves both of two ways in: it is asked for before it is held against the order.
    out.contradictions = [] if out.asks else _against(out.steps, tree)
    out.people = people_of(p, marks, weight_kg)
    for part, n, *when in p.kit:
        if not when or applies(when[0], marks) is not False:
            out.kit[part] = out.kit.get(part, 0) + n
    return out


def _refused(p: Procedure, marks: Marks, tree: Tree) -> list[str]:
    out = []
    if marks.get("kind") not in p.kinds:
        out.append(f"{p.id} is for another kind of set.")
    names = {"drive": "no drive", "starter": "no starter", "phases": "not three phases"}
    out += [f"This set has {names.get(k, k)}." for k, v in p.needs.items() if marks.get(k) not in (None, v)]
    return out


def _rows(p: Procedure) -> Iterable[tuple[str, StepSpec]]:
    """Where it stands, the blocks before, its own with the blocks among them, the blocks after."""
    for name in ("X", *p.blocks):
        yield from ((name, s) for s in BLOCKS[name].step)
    for s in p.step:
        if s.block:
            yield from ((s.block, x) for x in BLOCKS[s.block].step)
        else:
            yield p.id, s
    for name in p.ends:
        yield from ((name, s) for s in BLOCKS[name].step)


def _take(
    out: Compiled, p: Procedure, of: str, spec: StepSpec, marks: Marks, tree: Tree, limits: Limits
) -> None:
    name = spec.id if of != p.id else f"{p.id}.{spec.id}"
    if spec.touched and not set(spec.touched) & set(p.touches):
        out.left_out.append(
            LeftOut(id=name, title=spec.title, why="This job touches nothing that it proves.")
        )
        return
    told = applies(spec.when, marks)
    if told is False:
        out.left_out.append(LeftOut(id=name, title=spec.title, why=spec.otherwise or "Not for this set."))
        return
    if told is None:
        for mark in spec.when:
            if marks.get(mark) is None:
                out.asks[mark] = ASKED.get(mark, f"Enter {mark}.")
    way = ""
    if spec.school:
        school = SCHOOLS[f"job.{spec.school}"]
        way = school.options[limits.school(school.id)]
    parts = tree.by_part
    more = {"id": name, "of": of, "way": way}
    listed = {n: [x for x in getattr(spec, n) if x in parts] for n in ("off", "on", "renew", "gone")}
    out.steps.append(JobStep.made(spec.__dict__ | more | listed))


def _powered(steps: list[JobStep]) -> list[JobStep]:
    """Steps that want power stand behind the first run."""
    late = [s for s in steps if s.after_power]
    rest = [s for s in steps if not s.after_power]
    at = max((i for i, s in enumerate(rest) if s.id in _POWER), default=len(rest) - 1)
    return [*rest[: at + 1], *late, *rest[at + 1 :]]


def _against(steps: Sequence[JobStep], tree: Tree) -> list[str]:
    moved = [(s.id, s.off, s.on, s.gone) for s in steps]
    out = wrong_order(tree, moved)
    off: set[str] = set()
    hung: dict[str, str] = {}
    temporary = {p.id for p in tree.part if p.temporary}
    for s in steps:
        off |= set(s.off)
        out += [
            f"{s.id}: {x} goes back and was never off" for x in s.on if x not in off and x not in temporary
        ]
        off -= {*s.on, *s.gone}
        hung |= {kind: s.id for kind, _ in s.hang}
        for kind in s.restore:
            hung.pop(kind, None)
    out += [f"{x} comes off and never goes back" for x in sorted(off - temporary)]
    out += [f"{at}: {kind} is put on and never taken off" for kind, at in hung.items()]
    return out


def people_of(p: Procedure, marks: Marks, weight_kg: float | None) -> int:
    """How many people? More where the part is heavy, or its weight is not known, or it stands in a pit."""
    out = p.people
    if p.people_heavy and (weight_kg is None or weight_kg > p.heavy_kg):
        out = max(out, p.people_heavy)
    if p.people_pit and marks.get("pit") is not False:
        out = max(out, p.people_pit)
    return out


def refuse_contradictions(c: Compiled) -> None:
    """Raises `job_contradicts` where the steps of this job cannot be done in this order."""
    if c.contradictions:
        raise HurbinError("job_contradicts", f"{c.title}: {c.contradictions[0]}.", field="procedure")
