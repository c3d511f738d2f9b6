"""A procedure as data: its steps, what each wants, and whether it can be what it says."""

from __future__ import annotations

from collections.abc import Collection
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints, ValidationError

from ..alignment import BENCHES as ALIGNMENT
from ..base import DIMENSIONS, RULEBOOK, RULES, SCHOOLS, HurbinError, Model, Problem, by_id
from ..electrical import BENCHES as ELECTRICAL
from ..hydraulics import BENCHES as HYDRAULICS
from ..plant import KINDS, PARTS
from ..safety import CHANGES, SCOPES
from .anatomy import LOOKS, TREES, Mark
from .tools import TOOL_NAMES

# What lets a hold through. confirm: a person's word. isolated, proved, given_back: how the set stands on its
# isolation sheet. record: a record of the bench that it opens, after what it proves; before: one from before
# the work. figure: the figure read at this step. leads: the lead map. proof, service: the proof it names.
# sent, accepted: the shop. cause: a named cause.
Meets = Literal[
    "confirm",
    "isolated",
    "proved",
    "given_back",
    "record",
    "before",
    "figure",
    "leads",
    "proof",
    "service",
    "sent",
    "accepted",
    "cause",
]
Proves = Literal["", "direction", "amps", "watts", "volts", "head", "seal", "heat", "vibration", "service"]
Found = Literal["", "turns", "leads", "side", "marks", "shims", "gasket", "fuses", "settings", "picture"]
Id = Annotated[str, StringConstraints(max_length=40)]
Line = Annotated[str, StringConstraints(max_length=400)]

BENCH_NAMES = {b.name for b in (*ELECTRICAL, *ALIGNMENT, *HYDRAULICS)} | {"make_safe"} | set(TOOL_NAMES)


class StepFigure(Model):
    """One figure that is read at a step, and the rule that judges it; without a rule it is kept."""

    name: Id
    label: Line
    dimension: Id
    rule: Id = ""
    low: float | None = None
    high: float | None = None


class StepSpec(Model):
    """One step as written. Either steps of its own, or a block that stands here.

    off, on: parts taken off and put back; renew: those put back new; gone: those that never come back. hang,
    restore: temporary changes by kind (and place). after_power: it comes once the set has run. second: by
    another person than did the step before.
    """

    block: Id = ""
    id: Id = ""
    title: Line = ""
    do: Line = ""
    why: Line = ""
    mistake: Line = ""
    caution: Line = ""
    record: Line = ""
    found: Found = ""
    off: list[Id] = Field(default=[], max_length=20)
    on: list[Id] = Field(default=[], max_length=20)
    renew: list[Id] = Field(default=[], max_length=20)
    gone: list[Id] = Field(default=[], max_length=20)
    keeps: Id = ""
    hang: list[tuple[Id, Line]] = Field(default=[], max_length=10)
    restore: list[Id] = Field(default=[], max_length=10)
    inspects: list[Id] = Field(default=[], max_length=8)
    figure: StepFigure | None = None
    opens: Id = ""
    hold: Line = ""
    meets: Meets = "confirm"
    second: bool = False
    proves: Proves = ""
    touched: list[Id] = Field(default=[], max_length=10)
    when: dict[Id, Mark] = Field(default={}, max_length=6)
    otherwise: Line = Field(default="", alias="else")
    school: Id = ""
    after_power: bool = False
    twin_asked: bool = False
    cause: bool = False
    shop: Literal["", "send", "back"] = ""
    minutes: float = Field(default=5, ge=0, le=10080)


Count = Annotated[int, Field(ge=1, le=99)]
KitLine = tuple[Id, Count] | tuple[Id, Count, dict[Id, Mark]]


class Procedure(Model):
    """A procedure: for which kinds of set, what it touches, what it takes, its steps.

    blocks, ends: the shared steps before and after its own. touches: what the proof is compiled from. kit:
    parts by their kind, and how many. needs: marks without which there is nothing to do. asks: what the set
    has to be known by. minutes: hands on, least and most.
    """

    id: Id
    title: Line
    reason: Line = ""
    kinds: list[Id] = Field(min_length=1, max_length=20)
    part: Id
    tree: Id
    trees: dict[Id, Id] = {}
    touches: list[Id] = Field(default=[], max_length=12)
    scopes: list[Id] = Field(min_length=1, max_length=4)
    blocks: list[Id] = []
    ends: list[Id] = []
    needs: dict[Id, Mark] = {}
    people: int = Field(default=1, ge=1, le=12)
    people_heavy: int = Field(default=0, ge=0, le=12)
    people_pit: int = Field(default=0, ge=0, le=12)
    heavy_kg: float = Field(default=25, ge=0)
    minutes: tuple[float, float] = (60, 120)
    tools: list[Line] = Field(default=[], max_length=30)
    kit: list[KitLine] = Field(default=[], max_length=30)
    consumables: list[Line] = Field(default=[], max_length=30)
    asks: list[Id] = []
    lift: bool = False
    weather: bool = False
    step: list[StepSpec] = Field(default=[], max_length=80)


class Block(Model):
    id: Id
    title: Line
    step: list[StepSpec]


class _Blocks(Model):
    block: list[Block]


class _File(Model):
    procedure: dict[str, Any]
    step: list[dict[str, Any]]


BLOCKS: dict[str, Block] = by_id(RULEBOOK.section("jobs/blocks.toml", _Blocks).block)
_NAMES = tuple(f"j{n:02d}" for n in range(1, 19))


def procedure_of(raw: dict[str, Any]) -> Procedure:
    """A procedure from its data. Raises `procedure_wrong` with the first thing that cannot be read."""
    try:
        return Procedure.model_validate(raw)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(x) for x in first["loc"])
        message = f"{where}: {first['msg']}."
        raise HurbinError(
            "procedure_wrong", message, field=where, value=str(first.get("input"))[:80]
        ) from None


def _load(name: str) -> Procedure:
    file = RULEBOOK.section(f"jobs/procedures/{name}.toml", _File)
    return procedure_of({**file.procedure, "step": file.step})


def check_procedure(p: Procedure) -> list[Problem]:
    """What in this procedure cannot be: a name that nobody knows, a step twice, a hold that nothing can meet,
    a part put back that was never off, one off that never comes back, a change that nothing takes away.
    """
    out = [*_names(p), *_steps(p)]
    return out or _closes(p)


def _wrong(code: str, where: str, message: str, right: str = "") -> Problem:
    return Problem(code=code, field=where, value="", message=message, right=right)


def _unknown(names: Collection[str], table: Collection[str], where: str, what: str) -> list[Problem]:
    return [
        _wrong("procedure_name", where, f"There is no {what} “{n}”.", ", ".join(sorted(table))[:200])
        for n in names
        if n not in table
    ]


def _names(p: Procedure) -> list[Problem]:
    trees = [p.tree, *p.trees.values()]
    blocks = [*p.blocks, *p.ends, *(s.block for s in p.step if s.block)]
    return [
        *_unknown(p.kinds, KINDS, "kinds", "kind of set"),
        *_unknown([p.part], PARTS, "part", "part"),
        *_unknown(trees, TREES, "tree", "assembly"),
        *_unknown(p.scopes, SCOPES, "scopes", "scope"),
        *_unknown(blocks, BLOCKS, "blocks", "block of steps"),
    ]


def _steps(p: Procedure) -> list[Problem]:
    out: list[Problem] = []
    seen: set[str] = set()
    parts = {x for t in (p.tree, *p.trees.values()) for x in TREES[t].by_part} if p.tree in TREES else set()
    for s in p.step:
        if s.block:
            continue
        at = s.id or s.title or "a step"
        if not s.id or s.id in seen:
            out.append(_wrong("step_twice", at, f"Step “{at}” has no name of its own.", "each id once"))
        seen.add(s.id)
        if not s.title.strip() or not s.do.strip():
            out.append(_wrong("step_empty", at, f"Step {at} does not say what to do.", "title and do"))
        out += _unknown([*s.off, *s.on, *s.renew, *s.gone], parts, at, "part of this assembly")
        out += _unknown([k for k, _ in s.hang] + s.restore, CHANGES, at, "temporary change")
        out += _unknown(s.inspects, LOOKS, at, "inspection")
        out += _unknown([s.opens] if s.opens else [], BENCH_NAMES, at, "bench")
        out += _unknown([f"job.{s.school}"] if s.school else [], SCHOOLS, at, "school")
        out += _figure(s, at)
        out += _hold(s, at)
    return out


def _figure(s: StepSpec, at: str) -> list[Problem]:
    if s.figure is None:
        return []
    return [
        *_unknown([s.figure.dimension], DIMENSIONS, at, "dimension"),
        *_unknown([s.figure.rule] if s.figure.rule else [], RULES, at, "rule"),
    ]


def _hold(s: StepSpec, at: str) -> list[Problem]:
    """A hold that nothing can meet stops a job for good."""
    if not s.hold:
        return []
    wants = {
        "record": (bool(s.opens), "it opens no bench"),
        "before": (bool(s.opens), "it opens no bench"),
        "figure": (s.figure is not None, "it reads no figure"),
        "leads": (s.found == "leads", "it maps no leads"),
        "proof": (bool(s.proves), "it names no proof"),
        "sent": (s.shop == "send", "nothing is sent here"),
        "accepted": (s.shop == "back", "nothing comes back here"),
    }
    there, why = wants.get(s.meets, (True, ""))
    message = f"The hold of step {at} cannot be met: {why}."
    return [] if there else [_wrong("hold_unmet", at, message, "a way to meet it")]


def _closes(p: Procedure) -> list[Problem]:
    rows = [x for r in _all_rows(p) for x in r]
    hung = [k for s in rows for k, _ in s.hang]
    back = {k for s in rows for k in s.restore}
    on = {x for s in rows for x in (*s.on, *s.gone)}
    off = {x for s in rows for x in s.off}
    temporary = {x.id for t in (p.tree, *p.trees.values()) for x in TREES[t].part if x.temporary}
    out = [
        _wrong(
            "change_stays",
            p.id,
            f"“{CHANGES[k].title}” is put on and never taken off.",
            "a step that restores it",
        )
        for k in dict.fromkeys(hung)
        if k not in back
    ]
    out += [
        _wrong("part_stays_off", p.id, f"“{x}” comes off and never goes back.", "a step that puts it back")
        for x in sorted(off - on)
    ]
    out += [
        _wrong("part_never_off", p.id, f"“{x}” goes back and was never off.", "a step that takes it off")
        for x in sorted(on - off - temporary)
    ]
    return out


def _all_rows(p: Procedure) -> list[list[StepSpec]]:
    """Its steps with those of its blocks, whatever set it is for."""
    own: list[StepSpec] = []
    for s in p.step:
        own += BLOCKS[s.block].step if s.block else [s]
    before = [x for b in p.blocks for x in BLOCKS[b].step]
    after = [x for b in p.ends for x in BLOCKS[b].step]
    return [before, own, after]


PROCEDURES: dict[str, Procedure] = by_id(_load(n) for n in _NAMES)
for _p in PROCEDURES.values():
    for _problem in check_procedure(_p):
        raise HurbinError(_problem.code, f"{_p.id}: {_problem.message}", field=_problem.field)
