"""The usual circuits, as data, and which one a set has while nobody has said."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ...base import RULEBOOK, HurbinError, Model, by_id
from ...plant import KINDS as SET_KINDS, MotorPlate, motor_facts
from .parts import Element, Path, Supply
from .whole import Circuit

# Under what name the server adds the circuit that is kept with a set.
CIRCUIT = "circuit"


class CircuitKind(Model):
    """One usual circuit: what stands in it, and what of it no walk by voltage reaches."""

    id: str
    title: str
    conductors: Literal[2, 3]
    below: str = ""
    elements: list[Element]
    paths: list[Path] = []


class _File(Model):
    kind: list[CircuitKind]


CIRCUIT_KINDS: dict[str, CircuitKind] = by_id(RULEBOOK.section("electrical/circuit/kinds.toml", _File).kind)
_OF_CONTROL = {"starter": "direct", "soft_starter": "soft_starter", "drive": "drive"}
# What a plate does not say: the usual low-voltage supply, to be confirmed before anything is judged by it.
_USUAL_VOLTS = {2: 230.0, 3: 400.0}


class KeptCircuit(Model):
    """The circuit of a set as it is kept. version 0: nobody has confirmed it, it is the usual one for its
    starter. at, by: when it was last changed and by whom.
    """

    circuit: Circuit
    version: int = 0
    at: datetime | None = None
    by: str = ""


def circuit_of(kind: str, volts: float | None = None) -> Circuit:
    """The usual circuit of this kind. Its earthing and what hangs beneath are not known. Raises
    `circuit_kind_unknown`.
    """
    found = CIRCUIT_KINDS.get(kind)
    if found is None:
        raise HurbinError(
            "circuit_kind_unknown",
            f"Unknown type of circuit: “{kind}”.",
            field="kind",
            value=kind,
            right=", ".join(CIRCUIT_KINDS),
        )
    return Circuit(
        kind=kind,
        supply=Supply(volts=volts or _USUAL_VOLTS[found.conductors]),
        conductors=found.conductors,
        elements=found.elements,
        paths=found.paths,
    )


def usual_kind(set_kind: str, control: str, motor: MotorPlate | None) -> str:
    """Which kind of circuit has a set of this kind with this starter and motor, usually?"""
    found = SET_KINDS.get(set_kind)
    if found is not None and found.built_in_electronics:
        return "electronic"
    if motor_facts(motor).phases == 1:
        return "single_phase"
    return _OF_CONTROL.get(control, "direct")


def usual_circuit(set_kind: str, control: str, motor: MotorPlate | None) -> KeptCircuit:
    """What a set has until somebody confirms it: the usual circuit at the nameplate's voltage."""
    kind = usual_kind(set_kind, control, motor)
    return KeptCircuit(circuit=circuit_of(kind, motor_facts(motor).volts_v))
