"""Every topic's benches, registered by importing them. The way in for server, command line and tests."""

from . import alignment as alignment, electrical as electrical, safety as safety, stores as stores
from .base import bench, benches, rules_version

__all__ = ["bench", "benches", "rules_version"]
