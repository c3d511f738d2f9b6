"""A lift pump and its well."""

from .bench import DRAWDOWN

__all__ = ["DRAWDOWN"]
