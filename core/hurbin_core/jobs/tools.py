"""The small benches of this room by name: each stands on its own, and opens at a step."""

TOOL_NAMES = ("fits", "rings", "seal", "bearing", "bolts", "lifting", "rotor")
