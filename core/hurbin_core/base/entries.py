"""What one entry of a sheet may be: a union told apart by `kind`; each field says with what it is kept."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from typing import Annotated, Any, Union, get_args, get_origin

from pydantic import BaseModel, Discriminator, Field, Tag, TypeAdapter
from pydantic_core import PydanticUndefined


class Kept(StrEnum):
    """set: from one visit to the next, the newest word counts. visit: for this sheet, the newest word
    counts. entry: what was said or read then, and only then.
    """

    SET = "set"
    VISIT = "visit"
    ENTRY = "entry"


@dataclass(frozen=True, slots=True)
class KeptField:
    """A field whose newest word counts: with what it is kept, its title, and whether two different words
    on it are a difference between devices (`free`: they are not).
    """

    name: str
    kept: Kept
    title: str
    free: bool


def said_field(
    title: str,
    default: Any = None,
    *,
    kept: Kept = Kept.ENTRY,
    free: bool = False,
    said_in: str = "",
    reads: str = "",
    **more: Any,
) -> Any:
    """A pydantic field for something said: a choice, yes or no, words. said_in: the kind of entry that it is
    said in by itself, where the bench has several; empty: the one for what is kept like this. reads: the
    dimension of what an instrument read into it, where it is no typed figure.
    """
    extra: dict[str, Any] = {"x-kept": kept.value, "x-free": free}
    if reads:
        extra["x-reads"] = reads
    if said_in:
        extra["x-said-in"] = said_in
    return Field(default=default, title=title, json_schema_extra=extra, **more)


_TAGS: set[str] = set()


def place_of(loc: Sequence[str | int]) -> str:
    """Where in what was sent something is wrong, by its own names: the kind of an entry is no place.

    >>> place_of(("entries", 0, "body", "pass", "method"))
    'entries.0.body.method'
    """
    kept = [x for i, x in enumerate(loc) if not (x in _TAGS and (i == 0 or loc[i - 1] == "body"))]
    return ".".join(str(x) for x in kept)


def entry_union(*models: type[BaseModel]) -> Any:
    """The entry of a bench that takes several kinds; the first is meant where none is said."""
    tags = {kind: kinds_of(m)[0] for m in models for kind in kinds_of(m)}
    first = kinds_of(models[0])[0]

    def told(raw: Any) -> str:
        kind = raw.get("kind", first) if isinstance(raw, Mapping) else getattr(raw, "kind", first)
        return tags.get(kind, kind) if isinstance(kind, str) else ""

    _TAGS.update(tags.values())
    tagged = tuple(Annotated[m, Tag(kinds_of(m)[0])] for m in models)
    return Annotated[Union[tagged], Discriminator(told)]  # noqa: UP007


def kinds_of(model: type[BaseModel]) -> tuple[str, ...]:
    """The kinds of entry that this model describes."""
    return tuple(str(k) for k in get_args(model.model_fields["kind"].annotation))


@lru_cache(maxsize=64)
def members(entry: Any) -> tuple[type[BaseModel], ...]:
    """The models of an entry: the one, or those of its union, the first first."""
    if isinstance(entry, type):
        return (entry,)
    inner = get_args(entry)[0] if get_origin(entry) is Annotated else entry
    return tuple(
        m for a in get_args(inner) for m in members(get_args(a)[0] if get_origin(a) is Annotated else a)
    )


@lru_cache(maxsize=64)
def kept_fields(entry: Any) -> dict[str, KeptField]:
    """The fields whose newest word counts, in the order in which they stand."""
    out: dict[str, KeptField] = {}
    for model in members(entry):
        for name, info in model.model_fields.items():
            extra = info.json_schema_extra
            kept = str(extra.get("x-kept", Kept.ENTRY)) if isinstance(extra, dict) else Kept.ENTRY
            if kept != Kept.ENTRY and isinstance(extra, dict):
                out.setdefault(
                    name, KeptField(name, Kept(kept), info.title or name, bool(extra.get("x-free")))
                )
    return out


@lru_cache(maxsize=64)
def adapter(entry: Any) -> TypeAdapter[Any]:
    return TypeAdapter(entry)


def entry_of(entry: Any, body: Mapping[str, Any]) -> Any:
    """One entry's body by the bench's own models. Raises pydantic's error for what none of them takes."""
    return adapter(entry).validate_python(body)


def body_of(typed: BaseModel) -> dict[str, Any]:
    """A body as it is kept: what was said, no defaults; its kind unless it is the one meant anyway."""
    return dict(typed.model_dump(mode="json", exclude_defaults=True))


def is_said(value: Any) -> bool:
    """Was anything said here? An empty figure, an empty list, no word: no."""
    if value is None or value is PydanticUndefined or value == "" or value == []:
        return False
    text = getattr(value, "text", None)
    return not (isinstance(text, str) and not text.strip())
