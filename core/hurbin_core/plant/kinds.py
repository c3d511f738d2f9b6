"""The kinds of pump set and the parts of a train, as data."""

from typing import Literal

from ..base import RULEBOOK, HurbinError, Model, Rulebook, by_id, known


class Part(Model):
    """One place on a train and the kinds of component that fit there (none: it cannot be swapped).
    from_start: a new set has one. closes: exchanging it ends what was found at its place; new fuses mend
    nothing.
    """

    id: str
    title: str
    holds: list[str]
    from_start: bool = True
    closes: bool = True


class Kind(Model):
    """A kind of set. tempered: what it pumps is never near ambient. positive: it displaces what it pumps, and
    is never run against a shut valve.
    """

    id: str
    title: str
    posture: Literal["flat", "upright", "one_body"]
    slots: list[str]
    built_in_electronics: bool = False
    positive: bool = False
    tempered: bool = False

    @property
    def coupled(self) -> bool:
        return "coupling" in self.slots


class EventKind(Model):
    """Something that happens to a part (or, without one, to the whole set) and after which it is another
    machine. `repair`: something was put right: it ends an act, and a stop may be tried out under watch.
    `anew`: what comes after is a first start.
    """

    id: str
    title: str
    part: str = ""
    repair: bool = False
    anew: bool = False


class Serves(Model):
    """What a service is for, what its failing threatens, and who is told. tempered: its water is not near
    ambient.
    """

    id: str
    title: str
    threat: str
    tell: str
    tempered: bool = False


class _File(Model):
    part: list[Part]
    kind: list[Kind]
    event: list[EventKind]
    serves: list[Serves]


_data = RULEBOOK.section("plant/kinds.toml", _File)
PARTS: dict[str, Part] = by_id(_data.part)
KINDS: dict[str, Kind] = by_id(_data.kind)
EVENT_KINDS: dict[str, EventKind] = by_id(_data.event)
SERVES: dict[str, Serves] = by_id(_data.serves)
COMPONENT_KINDS: dict[str, str] = {held: p.id for p in _data.part for held in p.holds}


def check_parts(book: Rulebook) -> None:
    """Is every part that the rulebook names one of a train? Raises `part_unknown`."""
    for kind in KINDS.values():
        known(kind.slots, PARTS, kind.id, "part")
    for event in EVENT_KINDS.values():
        known([event.part] if event.part else [], PARTS, event.id, "part")
    for rule in book.rules.values():
        known([*rule.concerns, *([rule.goes_with] if rule.goes_with else [])], PARTS, rule.id, "part")
    for measurand in book.measurands.values():
        known([measurand.part], PARTS, measurand.id, "part")


check_parts(RULEBOOK)


def kind(kind_id: str) -> Kind:
    """Which kind of set is this? Raises `kind_unknown` with the kinds that are."""
    found = KINDS.get(kind_id)
    if found is None:
        raise HurbinError(
            "kind_unknown",
            f"Unknown type of pump set: “{kind_id}”.",
            field="kind",
            value=kind_id,
            right=", ".join(KINDS),
        )
    return found


def slot_for(kind_id: str, slot: str, component: str) -> str:
    """May a component of this kind be fitted at this place on this kind of set?"""
    if slot not in kind(kind_id).slots:
        right = ", ".join(s for s in kind(kind_id).slots if PARTS[s].holds)
        raise HurbinError(
            "slot_unknown", f"A {kind(kind_id).title.lower()} set has no {slot}.", field="slot", right=right
        )
    if component not in PARTS[slot].holds:
        raise HurbinError(
            "does_not_fit",
            f"A {component.replace('_', ' ')} cannot be fitted as {PARTS[slot].title.lower()}.",
            field="kind",
            value=component,
            right=", ".join(PARTS[slot].holds),
        )
    return slot
