"""What a drive is set to: found, should be and why, left; families of registers, read only."""

from .bench import DRIVE_SHEET
from .entry import DriveRow, DriveSheetEntry
from .file import read_settings, write_settings
from .parameters import MAPS, PARAMETERS, Decoded, RegisterMap, decode, defaults

__all__ = [
    "DRIVE_SHEET",
    "MAPS",
    "PARAMETERS",
    "Decoded",
    "DriveRow",
    "DriveSheetEntry",
    "RegisterMap",
    "decode",
    "defaults",
    "read_settings",
    "write_settings",
]
