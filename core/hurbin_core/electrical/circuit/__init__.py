"""The circuit of a set: what it is made of, what each pair of points reads when something in it is open, what
readings leave, and where to measure next.
"""

from .ahead import Next, next_probe
from .bench import CIRCUIT_BENCH, kept_circuit, search_of
from .entry import CircuitEntry, circuit_entry
from .evidence import six_misfit_pct
from .kinds import CIRCUIT, CIRCUIT_KINDS, KeptCircuit, circuit_of, usual_circuit, usual_kind
from .machine import sequences, three_legs
from .naming import Left, Reading, Search, fits
from .network import GROUND, Machine, Network, Solved, solve
from .parts import Element, Path, Supply, Tap
from .points import Span, known_point, rungs, spans
from .suspects import SOUND, Outcome, Probe, Suspect, probes, suspects, table
from .whole import Circuit
from .wired import State, carrying, solved_with, untold

__all__ = [
    "CIRCUIT",
    "CIRCUIT_BENCH",
    "CIRCUIT_KINDS",
    "GROUND",
    "SOUND",
    "Circuit",
    "CircuitEntry",
    "Element",
    "KeptCircuit",
    "Left",
    "Machine",
    "Network",
    "Next",
    "Outcome",
    "Path",
    "Probe",
    "Reading",
    "Search",
    "Solved",
    "Span",
    "State",
    "Supply",
    "Suspect",
    "Tap",
    "carrying",
    "circuit_entry",
    "circuit_of",
    "fits",
    "kept_circuit",
    "known_point",
    "next_probe",
    "probes",
    "rungs",
    "search_of",
    "sequences",
    "six_misfit_pct",
    "solve",
    "solved_with",
    "spans",
    "suspects",
    "table",
    "three_legs",
    "untold",
    "usual_circuit",
    "usual_kind",
]
