"""Hot joints: a scan under load, leg against leg, with what the current explains and what the joint does."""

from .bench import JOINTS
from .entry import JointsEntry
from .grid import Grid, Picture, read_grid

__all__ = ["JOINTS", "Grid", "JointsEntry", "Picture", "read_grid"]
