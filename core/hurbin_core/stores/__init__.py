"""What is kept for the work: the van's shims by measured size, what runs low, and the shelf as a file."""

from ..base import load_data

load_data(__name__, "texts.toml")

from .shelf import MOST, Booking, lot_words, size_of, take_and_return
from .shims_csv import ShelfRow, read_shelf, write_shelf

__all__ = ["MOST", "Booking", "ShelfRow", "lot_words", "read_shelf", "size_of", "take_and_return", "write_shelf"]
