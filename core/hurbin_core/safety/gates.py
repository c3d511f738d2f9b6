"""May this step be offered now, and if not, what is wanting? Gates block offers and advice, never the record
of what was seen.
"""

from collections.abc import Callable, Iterable, Sequence
from datetime import datetime
from typing import Literal, get_args

from ..base import RULEBOOK, RULES, HurbinError, Limits, Model, Rule, by_id, exceeds, known
from ..plant import KINDS
from .isolation import Isolation
from .qualified import acts_of
from .ready import ReadyLine
from .sources import SCOPES, ScopeId
from .stops import StandingStop, TrialRun, released

Act = Literal[
    "dead_test",
    "insulation_test",
    "live_test",
    "running_test",
    "open_leads",
    "open_drive_box",
    "hands_on_coupling",
    "open_wet_end",
    "turn_by_hand",
    "energise",
    "run",
    "bump",
    "reset_overload",
    "replace_fuse",
    "enter_well",
    "close",
]


class Gate(Model):
    """One gate as its data says it. `life`: never overridden."""

    id: str
    title: str
    life: bool
    acts: list[Act]
    needs: str
    asks: str


class _File(Model):
    """`scope`: what an act opens or turns; without an entry any scope of the motor's circuit does."""

    gate: list[Gate]
    scope: dict[str, ScopeId]
    offers: list[Act]


_data = RULEBOOK.section("safety/gates.toml", _File)
GATES: dict[str, Gate] = by_id(_data.gate)
_SCOPE = _data.scope
OFFERS: Sequence[Act] = tuple(_data.offers)


class Waiver(Model):
    """A lead's word that one gate is set aside, why and until when."""

    gate: str
    reason: str
    by: str
    until: datetime


class SafetyFacts(Model):
    """What is on record of a set, as far as gates ask for it. What is not known blocks.

    stops: the stops that stand. trials: what a lead has released. worker: who asks, by sign-in. qualified:
    for what he or she is, today. resets: of the overload since it tripped; not known counts as one.
    stood_too_long: it was last seen running longer ago than a shaft may stand unturned, and nobody has turned
    it by hand since (`stood_too_long`). ready:
    what must be on record after a fault.
    """

    isolation: Isolation = Isolation()
    kind: str = ""
    electronics: bool = False
    changes: list[str] = []
    stops: list[StandingStop] = []
    trials: list[TrialRun] = []
    worker: str = ""
    qualified: list[str] = []
    resets: int | None = None
    looked_at_since_reset: bool = False
    checked_below_fuse: bool = False
    waivers: list[Waiver] = []
    stood_too_long: bool = False
    ready: list[ReadyLine] = []
    as_of: datetime | None = None


class Shut(Model):
    """A gate that blocks this step, and what opens it."""

    gate: str
    title: str
    asks: str
    life: bool


class Answer(Model):
    """May it be offered? `shut`: the gates that say no. `waived`: those that a lead has set aside."""

    act: Act
    offered: bool
    shut: list[Shut]
    waived: list[Waiver] = []
    trial: TrialRun | None = None


def ask(act: Act, facts: SafetyFacts) -> Answer:
    """May this step be offered on a set that stands like this? Every gate that names the step is asked; a
    step that no gate knows is not offered.
    """
    if act not in get_args(Act) or not any(act in gate.acts for gate in GATES.values()):
        return Answer.model_construct(act=act, offered=False, shut=[UNKNOWN_ACT], waived=[], trial=None)
    shut, waived = [], []
    for gate in GATES.values():
        if act not in gate.acts or _CHECKS[gate.needs](act, facts):
            continue
        waiver = next(
            (
                w
                for w in facts.waivers
                if w.gate == gate.id and facts.as_of is not None and facts.as_of < w.until
            ),
            None,
        )
        if waiver is not None and not gate.life:
            waived.append(waiver)
            continue
        shut.append(Shut(gate=gate.id, title=gate.title, asks=gate.asks, life=gate.life))
    trials = [t for s in facts.stops if (t := released(s, facts.trials, facts.as_of)) is not None]
    trial = trials[0] if trials and act in ("run", "energise", "bump", "live_test", "running_test") else None
    return Answer(act=act, offered=not shut, shut=shut, waived=waived, trial=trial)


UNKNOWN_ACT = Shut(
    gate="unknown",
    title="A step nobody knows here",
    asks="This step is not known here: nothing says that it may be done.",
    life=True,
)


def stood_too_long(
    ran_at: datetime | None, turned_at: datetime | None, as_of: datetime, limits: Limits
) -> bool:
    """Has this shaft stood longer than it may without being turned by hand? Where it was never seen running
    nobody knows for how long: that is for the first start's own steps.
    """
    most = limits.value("safety.idle")
    seen = [at for at in (ran_at, turned_at) if at is not None]
    if ran_at is None:
        return False
    return exceeds((as_of - max(seen)).total_seconds() / 86400, most)


def check_waiver(gate_id: str, reason: str, until: datetime, as_of: datetime) -> None:
    """May this gate be set aside? Raises for a life-safety gate, without a reason, or without an end within
    thirty days.
    """
    gate = GATES.get(gate_id)
    if gate is None:
        raise HurbinError(
            "gate_unknown",
            f"Unknown hold point “{gate_id}”.",
            field="gate",
            value=gate_id,
            right=", ".join(GATES),
        )
    if gate.life:
        raise HurbinError(
            "gate_is_life",
            f"{gate.title}: a life depends on it. Nobody can waive it, not even a lead.",
            field="gate",
            value=gate_id,
        )
    if not reason.strip():
        raise HurbinError("reason_missing", "Enter why it is waived.", field="reason")
    if not as_of < until or (until - as_of).days > Limits().value("safety.waiver_days"):
        raise HurbinError(
            "until_wrong",
            "Enter until when: a time in the future, within thirty days.",
            field="until",
            value=until.isoformat(),
        )


def _proved(act: str, f: SafetyFacts) -> bool:
    scopes = (_SCOPE[act],) if act in _SCOPE else ("motor_leads", "drive_box")
    return f.isolation.proves(*scopes)


def _own_lock(act: str, f: SafetyFacts) -> bool:
    return f.isolation.locked_by(f.worker)


def _scope(act: str, f: SafetyFacts) -> bool:
    return f.isolation.state in ("isolated", "proved") and f.isolation.covers(_SCOPE[act])


def _no_stop(act: str, f: SafetyFacts) -> bool:
    """Does nothing stand against it? A start is stopped by every stop that no trial run was released for."""
    if act in ("run", "energise", "bump"):
        return all(released(s, f.trials, f.as_of) is not None for s in f.stops)
    return not any(act in RULES[s.question].bars for s in f.stops if s.question in RULES)


def _reset_looked_at(act: str, f: SafetyFacts) -> bool:
    return f.resets == 0 or f.looked_at_since_reset


def _free(act: str, f: SafetyFacts) -> bool:
    return f.isolation.state in ("nothing", "given_back")


def _let_out(act: str, f: SafetyFacts) -> bool:
    stored = [s for s in f.isolation.sources if s.read]
    return all(s.released is not None for s in stored) and not {"drive_bus", "capacitors"} & set(
        f.isolation.unsaid
    )


def _bled(act: str, f: SafetyFacts) -> bool:
    wet = [s for s in f.isolation.sources if s.source.kind in SCOPES["wet_end"].must and s.release]
    return f.isolation.covers("wet_end") and all(s.counts for s in wet)


def _first_start(act: str, f: SafetyFacts) -> bool:
    """Is everything on record? A bump is what proves the direction: it waits for the rest alone."""
    own = [x for x in f.ready if x.list == "first_start" and x.blocks]
    return all(x.done for x in own if not (act == "bump" and x.id == "direction"))


def _valves_open(act: str, f: SafetyFacts) -> bool:
    kind = KINDS.get(f.kind)
    return kind is None or not kind.positive or not {"valve_shut", "valve_throttled"} & set(f.changes)


_CHECKS: dict[str, Callable[[str, SafetyFacts], bool]] = {
    "proved": _proved,
    "scope": _scope,
    "free": _free,
    "let_out": _let_out,
    "bled": _bled,
    "valves_open": _valves_open,
    "no_electronics": lambda _, f: not f.electronics,
    "guard_on": lambda _, f: "guard_off" not in f.changes,
    "no_stop": _no_stop,
    "own_lock": _own_lock,
    "never": lambda _, f: False,
    "reset_looked_at": _reset_looked_at,
    "checked_below": lambda _, f: f.checked_below_fuse,
    "no_changes": lambda _, f: not f.changes,
    "turned": lambda _, f: not f.stood_too_long,
    "qualified": lambda act, f: act in acts_of(f.qualified),
    "ready": lambda _, f: all(x.done for x in f.ready if x.list != "first_start"),
    "first_start": _first_start,
}


def check_gates(gates: Iterable[Gate], rules: Iterable[Rule]) -> None:
    """Does every gate ask for a check that there is, and every stop bar acts that there are?"""
    for gate in gates:
        known([gate.needs], _CHECKS, gate.id, "check")
    for rule in rules:
        known(rule.bars, get_args(Act), rule.id, "act")


check_gates(GATES.values(), RULES.values())
