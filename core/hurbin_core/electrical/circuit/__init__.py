"""The circuit of a set: what it is made of, what each pair of points reads when something in it is open, what
readings leave, and where to measure next.
"""

from .machine import sequences, three_legs
from .naming import Left, Next, Reading, Search, fits
from .network import GROUND, Machine, Network, Solved, solve
from .parts import Circuit, Element, Span, Supply, Tap, known_point, rungs, spans
from .suspects import SOUND, Outcome, Probe, State, Suspect, probes, solved_with, suspects, table

__all__ = [
    "GROUND",
    "SOUND",
    "Circuit",
    "Element",
    "Left",
    "Machine",
    "Network",
    "Next",
    "Outcome",
    "Probe",
    "Reading",
    "Search",
    "Solved",
    "Span",
    "State",
    "Supply",
    "Suspect",
    "Tap",
    "fits",
    "known_point",
    "probes",
    "rungs",
    "sequences",
    "solve",
    "solved_with",
    "spans",
    "suspects",
    "table",
    "three_legs",
]
