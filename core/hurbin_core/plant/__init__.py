"""Sites, services, positions, components and their plates: what stands in the plant."""

from .kinds import COMPONENT_KINDS, EVENT_KINDS, KINDS, PARTS, SERVES, EventKind, Kind, Part, Serves, kind, slot_for
from .plates import (
    ControlPlate, MotorFacts, MotorPlate, PartPlate, Plate, PumpPlate, check_plate, motor_facts, plate_model,
)  # fmt: skip
from .register_csv import ROLES, RegisterRow, RowRefused, columns, parse_register, plate_cells, write_register

__all__ = [
    "COMPONENT_KINDS", "EVENT_KINDS", "KINDS", "PARTS", "ROLES", "SERVES", "ControlPlate", "EventKind", "Kind", "MotorFacts", "MotorPlate", "Part",
    "PartPlate", "Plate", "PumpPlate", "RegisterRow", "RowRefused", "Serves", "check_plate", "columns", "kind", "motor_facts",
    "parse_register", "plate_cells", "plate_model", "slot_for", "write_register",
]  # fmt: skip
