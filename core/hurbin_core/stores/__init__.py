"""What is kept for the work: the van's shims by measured size, what runs low, and the shelf as a file."""

from .shelf import MOST, VANS, Booking, ShimLot, VanShelf, lot_words, size_of, take_and_return, vans_of
from .shims_csv import ShelfRow, read_shelf, write_shelf

__all__ = [
    "MOST",
    "VANS",
    "Booking",
    "ShelfRow",
    "ShimLot",
    "VanShelf",
    "lot_words",
    "read_shelf",
    "size_of",
    "take_and_return",
    "vans_of",
    "write_shelf",
]
