"""What went wrong, for a person and for a program."""

from __future__ import annotations

from .model import Model


class HurbinError(ValueError):
    """A refusal with a stable code.

    `field` names the input, `value` what was given, `right` what would have been right,
    all in the user's words. Every error the core raises is one of these and a ValueError.
    """

    def __init__(
        self, code: str, message: str, *, field: str = "", value: object = None, right: str = ""
    ) -> None:
        super().__init__(message)
        self.code, self.message, self.field = code, message, field
        self.value, self.right = value, right


class Problem(Model):
    """One impossible field: it refuses a save, never an evaluation."""

    code: str
    field: str
    value: str
    message: str
    right: str = ""

    @classmethod
    def of(cls, error: HurbinError) -> Problem:
        return cls(
            code=error.code,
            field=error.field,
            value="" if error.value is None else str(error.value),
            message=error.message,
            right=error.right,
        )


class Missing(Model):
    """One input that is not there, and what cannot be said without it."""

    field: str
    message: str
