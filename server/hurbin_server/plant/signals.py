"""What others may want to know of the plant, or keep in its register, without the plant knowing them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from django.dispatch import Signal

if TYPE_CHECKING:
    from hurbin_server.base.models import User

    from .models import Component, PumpSet

plate_changed = Signal()  # component
fitting_changed = Signal()  # pump_set
event_added = Signal()  # pump_set


@dataclass(frozen=True)
class RegisterColumn:
    """A column of the register file that another room keeps. check: what of a cell is kept, or HurbinError.
    read: the cells of these sets, where they say something. write: what the cell of a set says from now on.
    """

    check: Callable[[str], str]
    read: Callable[[list[PumpSet]], dict[int, str]]
    write: Callable[[User, PumpSet, str], None]


# What speaks against this part at this place, as a sentence; empty: nothing is known to.
AGAINST_FITTING: list[Callable[[PumpSet, Component], str]] = []
COLUMNS: dict[str, RegisterColumn] = {}
