"""What can make a set dangerous, the list a set keeps of it, and what a scope of work needs shut."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal

from pydantic import Field

from ..base import (
    RULEBOOK,
    HurbinError,
    Limits,
    Model,
    Offer,
    Phrase,
    Quantity,
    by_id,
    known,
    nominal,
    phrase,
)
from ..instruments import Instrument
from ..logbook import AnyCase
from ..plant import KINDS, PARTS, motor_facts

ScopeId = Literal["motor_leads", "coupling", "wet_end", "drive_box"]
When = Literal["always", "drive", "pair", "coupled", "single_phase"]


class Means(Model):
    """A way of shutting a source. `families`: where it counts at all. `hazard`: enough for hot, hazardous or
    sewage water too. `change`: the temporary change that it makes by itself.
    """

    id: str
    title: str
    families: list[str]
    hazard: bool = False
    change: str = ""


class SourceKind(Model):
    """A kind of energy or start. `release`: what is let out after shutting; `read`: the release is a figure
    in volts. part: where it comes in on the drawing of a set. usual: how it is mostly isolated.
    """

    id: str
    title: str
    family: str
    part: str
    usual: str
    release: str = ""
    read: bool = False
    when: When


class Scope(Model):
    """What is going to be opened or turned, what must be shut for it, and why the rest need not be."""

    id: ScopeId
    title: str
    does: str
    part: str
    must: list[str]
    spared: dict[str, str]


class StepKind(Model):
    """One step of making safe and giving back. under: what stands beneath it.
    offers: what can be said at it. opens: what stands open at it,
    the three readings of a proof or the bench that a set is most often opened for; empty: nothing.
    """

    id: str
    title: str
    caution: str = ""
    under: str = ""
    offers: list[Offer] = []
    opens: Literal["", "proof", "leading"] = ""


class AtSourceKind(Model):
    """What the hand does next at one source, by the act that its entry is."""

    id: Literal["shut", "lock", "release", "unlock", "open"]
    word: str


class ActField(Model):
    """What is read or said at an act of a proof, into the entry's field `name`. label: what it is; beside:
    what stands beside it instead. unit: of a figure; empty: it is words. choices: words to choose from.
    """

    name: str
    label: str
    beside: str = ""
    unit: str = ""
    optional: bool = False
    choices: list[str] = []


class ActKind(Model):
    """One of the three acts of a proof. wants: what the step waits for; word: what the button says; says:
    what stands over its fields. conductors: a figure is read on each of the set's as well.
    """

    id: str
    title: str
    wants: str
    word: str
    says: str = ""
    conductors: bool = False
    fields: list[ActField] = []


class _File(Model):
    means: list[Means]
    source: list[SourceKind]
    scope: list[Scope]
    step: list[StepKind]
    at_source: list[AtSourceKind]
    act: list[ActKind]


_data = RULEBOOK.section("safety/sources.toml", _File)
MEANS: dict[str, Means] = by_id(_data.means)
SOURCES: dict[str, SourceKind] = by_id(_data.source)
SCOPES: dict[str, Scope] = by_id(_data.scope)
STEPS: dict[str, StepKind] = by_id(_data.step)
ACTS: dict[str, ActKind] = by_id(_data.act)
AT_SOURCE: dict[str, AtSourceKind] = by_id(_data.at_source)


def check_sources(means: Iterable[Means], scopes: Iterable[Scope]) -> None:
    """Does every means isolate a family that there is, and every scope ask for sources that there are?"""
    for m in means:
        known(m.families, {s.family for s in SOURCES.values()}, m.id, "family")
    for kind in SOURCES.values():
        known([kind.part], PARTS, kind.id, "part")
        known([kind.usual], MEANS, kind.id, "means")
    for scope in scopes:
        known([*scope.must, *scope.spared], SOURCES, scope.id, "source")
        known([scope.part], PARTS, scope.id, "part")


check_sources(MEANS.values(), SCOPES.values())


class IsolationSource(Model):
    """One line of a set's isolation list. `absent`: somebody looked, and this set has none of it."""

    id: str = Field(min_length=1, max_length=40)
    kind: str = Field(max_length=30, title="Source")
    absent: bool = Field(default=False, title="None here")
    device: str = Field(default="", max_length=80, title="Device")
    place: str = Field(default="", max_length=80, title="Location")
    means: str = Field(default="", max_length=30, title="Isolated by")
    lock: str = Field(default="", max_length=80, title="Lock")
    try_out: str = Field(default="", max_length=120, title="How to verify")
    sister: str = Field(default="", max_length=30, title="Paired set")
    hazard: bool = Field(default=False, title="Hot, hazardous or sewage")
    feeds: str = Field(default="", max_length=120, title="Also feeds")
    tell: str = Field(default="", max_length=120, title="Inform first")


# Under which name a case is told of the instruments that measure voltage.
TESTERS = "testers"


class SetFacts(Model):
    """What of a set decides which sources it can have, and how it is proved dead. testers: what the register
    holds for measuring voltage. volts: of the motor's supply; None: not known.
    """

    drive: bool = False
    single_phase: bool = False
    coupled: bool = True
    partner: str = ""
    testers: list[Instrument] = []
    volts: float | None = None

    @classmethod
    def of(cls, case: AnyCase) -> SetFacts:
        context = case.context
        drive = context.control_kind in ("drive", "soft_starter")
        kind, motor = KINDS.get(context.kind), motor_facts(context.motor)
        return cls(
            drive=drive,
            single_phase=motor.phases == 1,
            volts=motor.volts_v,
            testers=case.extra(TESTERS, Instrument),
            coupled=kind is not None and kind.coupled,
            partner=case.state.partner,
        )

    def has(self, kind: SourceKind) -> bool:
        """Can a set like this have such a source?"""
        return {
            "always": True,
            "drive": self.drive,
            "pair": bool(self.partner),
            "coupled": self.coupled,
            "single_phase": self.single_phase,
        }[kind.when]


class Proposed(Model):
    """A source that a set like this can have and its list does not speak of yet: how it is mostly isolated.
    Nothing is confirmed by it: which device it is, or that there is none, is for somebody at the set to say.
    """

    kind: str
    part: str
    means: str
    sister: str = ""


def proposed(sources: Sequence[IsolationSource], facts: SetFacts) -> list[Proposed]:
    """Which sources can this set have by its kind, starter and neighbours, of which its list says nothing?"""
    said = {s.kind for s in sources}
    return [
        Proposed(
            kind=k.id,
            part=k.part,
            means=k.usual,
            sister=facts.partner if k.when == "pair" else "",
        )
        for k in SOURCES.values()
        if k.id not in said and facts.has(k)
    ]


def check_list(sources: Sequence[IsolationSource]) -> None:
    """Can this list be kept? Raises for an unknown source or means, a line without a device, two lines of one
    id.
    """
    seen: set[str] = set()
    for s in sources:
        if s.kind not in SOURCES:
            raise HurbinError(
                "source_unknown",
                f"“{s.kind}” is not a source.",
                field="kind",
                value=s.kind,
                right=", ".join(SOURCES),
            )
        if s.id in seen:
            raise HurbinError("source_twice", f"Two lines have the id {s.id}.", field="id", value=s.id)
        seen.add(s.id)
        if s.absent:
            continue
        title = SOURCES[s.kind].title
        if not s.device.strip():
            raise HurbinError(
                "device_missing",
                f"{title}: enter which device isolates it.",
                field=f"{s.id}.device",
                right="isolator Q7, valve V12",
            )
        if s.means not in MEANS:
            raise HurbinError(
                "means_unknown",
                f"{title}: enter how it is isolated.",
                field=f"{s.id}.means",
                value=s.means,
                right=", ".join(MEANS),
            )


def _hot() -> Quantity:
    limit = Limits().get("safety.hot_media")
    return nominal(limit.value, limit.unit, 0)


def hazard_words() -> Phrase:
    """What is said to hold when a line of the list is marked as hazardous."""
    return phrase("safety.hazard", hot=_hot())


def why_not(source: IsolationSource) -> Phrase | None:
    """Why shutting this source by its means is no isolation. None: it is one.

    A check valve alone never is one. Hot, hazardous or sewage water needs two valves and a bleed, a blank, or
    a written permit. Common practice, no source.
    """
    kind, means = SOURCES[source.kind], MEANS.get(source.means)
    if means is None:
        return phrase("safety.no_means", what=kind.title)
    if source.means == "check_valve":
        return phrase("safety.check_valve", what=kind.title)
    if kind.family not in means.families:
        return phrase("safety.wrong_means", what=kind.title, means=means.title)
    if source.hazard and kind.family in ("wet", "heat") and not means.hazard:
        return phrase("safety.hazard_means", what=kind.title, hot=_hot())
    return None


class NeededSource(Model):
    """One source of the list under a scope: must it be shut, and why (or why not)?"""

    source: IsolationSource
    title: str
    must: bool
    why: str
    complaint: Phrase | None = None


def needed(sources: Sequence[IsolationSource], scopes: Sequence[str]) -> list[NeededSource]:
    """Which lines of this list must be shut for these scopes, and why need the rest not be? In the list's
    order of kinds.
    """
    out: list[NeededSource] = []
    for s in sorted((x for x in sources if not x.absent), key=lambda x: list(SOURCES).index(x.kind)):
        asking = [SCOPES[n] for n in scopes if s.kind in SCOPES[n].must]
        why = "; ".join(x.does for x in asking) or "; ".join(
            dict.fromkeys(SCOPES[n].spared[s.kind] for n in scopes)
        )
        out.append(
            NeededSource(
                source=s,
                title=SOURCES[s.kind].title,
                must=bool(asking),
                why=why,
                complaint=why_not(s) if asking else None,
            )
        )
    return out


def unsaid(sources: Sequence[IsolationSource], scopes: Sequence[str], facts: SetFacts) -> list[str]:
    """Kinds of source that these scopes ask about and that the list neither holds nor says to be absent."""
    said = {s.kind for s in sources}
    asked = [k for k in SOURCES if any(k in SCOPES[n].must for n in scopes)]
    return [k for k in asked if k not in said and facts.has(SOURCES[k])]
