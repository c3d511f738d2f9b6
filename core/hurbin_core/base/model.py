"""What every shape of the core is made from."""

from __future__ import annotations

from typing import Any, Self

from pydantic import BaseModel, ConfigDict

_put = object.__setattr__


class Model(BaseModel):
    """A pydantic model that is built when it is first used: who imports the core waits for none of the
    rest.
    """

    model_config = ConfigDict(defer_build=True)

    @classmethod
    def made(cls, parts: dict[str, Any]) -> Self:
        """One with every field given, each what it must be already: nothing is read, checked or filled in.
        For figures and sentences the core made itself, a hundred at a time."""
        made = cls.__new__(cls)
        _put(made, "__dict__", parts)
        _put(made, "__pydantic_fields_set__", set(parts))
        _put(made, "__pydantic_extra__", None)
        _put(made, "__pydantic_private__", None)
        return made
