"""What the places of a circuit, and what can be open in it, are called."""

from __future__ import annotations

from ...base import Phrase, phrase
from .naming import Search
from .parts import ENDS, Element, Position
from .points import leg_of, run_rungs, rung_of
from .suspects import SOUND, Probe
from .whole import Circuit
from .wired import State

LEG_WORDS = {2: ("L", "N"), 3: ("L1", "L2", "L3")}


def leg_word(circuit: Circuit, leg: int) -> str:
    """What this leg is called: of two hot legs both are L."""
    if circuit.conductors == 2 and circuit.supply.earthing == "midpoint":
        return f"L{leg}"
    return LEG_WORDS[circuit.conductors][leg - 1]


# The ends of the windings of a motor with six leads, as they are marked (IEC 60034-8, from memory).
_ENDS = ("U2", "V2", "W2")


def point_word(circuit: Circuit, rung: str, leg: int) -> str:
    """What this point of a rung is called: its leg; beneath the windings of a motor with six leads, the end
    of the winding that it is tied to.
    """
    motor = circuit.motor
    if circuit.six_leads and motor is not None:
        order = run_rungs(circuit.elements)
        if rung in order and order.index(rung) >= order.index(f"{motor.id}.out"):
            return _ENDS[leg - 1]
    return leg_word(circuit, leg)


def element_of(circuit: Circuit, id_: str) -> Element:
    return next(e for e in circuit.every if e.id == id_)


def name_of(e: Element) -> str:
    return e.name or e.id


def rung_title(circuit: Circuit, rung: str) -> Phrase:
    """Where this rung is: at the source, at the line or load side of an element, at the end."""
    id_, _, side = rung.rpartition(".")
    e = element_of(circuit, id_)
    if e.kind == "source":
        return phrase("place.at_source", name=name_of(e))
    if e.kind == "motor" and circuit.six_leads:
        return phrase("place.at_starts" if side == "in" else "place.at_ends", name=name_of(e))
    if e.kind in ENDS:
        last = any(e is run[-1] for run in circuit.runs)
        template = "place.at_end" if last else "place.at_input" if side == "in" else "place.at_output"
        return phrase(template, name=name_of(e))
    if e.joins and side == "out":
        return phrase("place.at_star", name=name_of(e))
    return phrase("place.line_side" if side == "in" else "place.load_side", name=name_of(e))


def suspect_title(search: Search, id_: str) -> Phrase:
    """What it would be that is open."""
    circuit = search.circuit
    if id_ == SOUND:
        return phrase("place.s_sound")
    if id_ == "supply":
        return phrase("place.s_supply")
    if id_.startswith("supply."):
        return phrase("place.s_supply_leg", leg=leg_word(circuit, int(id_[-1])))
    s = next(x for x in search.suspects if x.id == id_)
    if s.leg is None:
        return phrase("place.s_all", name=name_of(element_of(circuit, id_)))
    leg = point_word(circuit, rung_of(s.upper), s.leg)
    within = rung_of(s.upper).rpartition(".")[0]
    if within == rung_of(s.lower).rpartition(".")[0]:
        if circuit.six_leads and circuit.motor is not None and within == circuit.motor.id:
            return phrase("place.s_winding", winding=f"{'UVW'[s.leg - 1]}1-{_ENDS[s.leg - 1]}")
        return phrase("place.s_element", name=name_of(element_of(circuit, within)), leg=leg)
    return phrase("place.s_wire", leg=leg)


def suspect_short(search: Search, id_: str) -> Phrase:
    """The same in few words: a wire by the places that it lies between."""
    where = suspect_where(search, id_) if "-" in id_ else None
    return where or suspect_title(search, id_)


def suspect_where(search: Search, id_: str) -> Phrase | None:
    """Between which places it lies; None for what lies nowhere on the ladder."""
    s = next((x for x in search.suspects if x.id == id_), None)
    if s is None or not s.lower:
        return None
    circuit = search.circuit
    one, two = (x if s.leg is None else rung_of(x) for x in (s.upper, s.lower))
    between = {"upper": rung_title(circuit, one), "lower": rung_title(circuit, two)}
    if s.leg is None:
        return phrase("circuit.between_all", **between)
    return phrase("circuit.between", leg=point_word(circuit, one, s.leg), **between)


def pair_title(circuit: Circuit, p: Probe) -> Phrase:
    """Two probe points as a place: legs at one rung, a leg to ground, or across what lies between."""
    one, two = leg_of(p.one), leg_of(p.two)
    if p.one == p.two:
        return phrase(
            "place.p_leg",
            rung=rung_title(circuit, rung_of(p.one)),
            leg=point_word(circuit, rung_of(p.one), one),
        )
    if not one or not two:
        point = p.one if one else p.two
        leg = point_word(circuit, rung_of(point), one or two)
        return phrase("place.p_ground", rung=rung_title(circuit, rung_of(point)), leg=leg)
    if rung_of(p.one) == rung_of(p.two):
        legs = "-".join(point_word(circuit, rung_of(p.one), leg) for leg in (one, two))
        return phrase("place.p_legs", rung=rung_title(circuit, rung_of(p.one)), legs=legs)
    ids = [rung_of(x).rpartition(".")[0] for x in (p.one, p.two)]
    if ids[0] == ids[1] and one == two:
        name = name_of(element_of(circuit, ids[0]))
        return phrase("place.p_across", name=name, leg=leg_word(circuit, one))
    return phrase(
        "place.p_points",
        one=rung_title(circuit, rung_of(p.one)),
        leg_one=point_word(circuit, rung_of(p.one), one),
        two=rung_title(circuit, rung_of(p.two)),
        leg_two=point_word(circuit, rung_of(p.two), two),
    )


def state_words(circuit: Circuit, state: State) -> Phrase:
    """The state of a reading in words."""
    parts: list[Phrase] = []
    if circuit.has_contactor:
        parts.append(position_words(circuit, state.contactor))
    if circuit.has_motor:
        parts.append(phrase(f"circuit.m_{state.motor}"))
    parts.append(phrase(f"circuit.meter_{state.meter}"))
    return joined(parts)


def position_words(circuit: Circuit, position: Position) -> Phrase:
    """How the contactors of this starter stand in that position."""
    if position == "in" and circuit.six_leads:
        return phrase("circuit.k_main")
    if position == "in" and "bypass" in circuit.positions:
        return phrase("circuit.k_line")
    if position == "bypass" and "in" in circuit.positions:
        return phrase("circuit.k_past")
    return phrase(f"circuit.k_{position}")


def joined(parts: list[Phrase]) -> Phrase:
    """Several phrases as a list with commas."""
    if len(parts) == 1:
        return parts[0]
    head = parts[0]
    for p in parts[1:]:
        head = phrase("circuit.and_then", first=head, then=p)
    return head


def state_key(circuit: Circuit, state: State) -> str:
    """The same as a key: two readings of one state carry the same."""
    return ":".join([state.contactor if circuit.has_contactor else "in", state.motor, state.meter])
