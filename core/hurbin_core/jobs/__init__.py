"""Overhauls: procedures compiled for one set, parts as they come apart, fits, proof."""

from .bearing import BEARING
from .bolts import BOLTS
from .fits import FITS
from .job import JOB_BENCH
from .lifting import LIFTING
from .rings import RINGS
from .rotor import ROTOR
from .seal import SEAL

BENCHES = (JOB_BENCH, FITS, RINGS, SEAL, BEARING, BOLTS, LIFTING, ROTOR)

__all__ = ["BEARING", "BENCHES", "BOLTS", "FITS", "JOB_BENCH", "LIFTING", "RINGS", "ROTOR", "SEAL"]
