"""What is kept for the work: the van's shims by measured size, what runs low, and the shelf as a file."""

from .kits import KitPart, KitState, kit_state
from .levels import Levels, PartFigures, least_level, levels_of, order_lot, stock_words, to_order
from .parts_csv import PartRow, read_parts, write_parts
from .shelf import MOST, VANS, Booking, ShimLot, VanShelf, lot_words, size_of, take_and_return, vans_of
from .shims_csv import ShelfRow, read_shelf, write_shelf

__all__ = [
    "MOST",
    "VANS",
    "Booking",
    "KitPart",
    "KitState",
    "Levels",
    "PartFigures",
    "PartRow",
    "ShelfRow",
    "ShimLot",
    "VanShelf",
    "kit_state",
    "least_level",
    "levels_of",
    "lot_words",
    "order_lot",
    "read_parts",
    "read_shelf",
    "size_of",
    "stock_words",
    "take_and_return",
    "to_order",
    "vans_of",
    "write_parts",
    "write_shelf",
]
