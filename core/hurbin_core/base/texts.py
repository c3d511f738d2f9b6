"""A sentence as a room writes it: each figure in it says what it is, `{share:percent}`; words say nothing."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, field
from string import Formatter

from .errors import HurbinError

WORDS, SENTENCE = "words", "sentence"


@dataclass(frozen=True, slots=True)
class Text:
    """`form` is the sentence with bare names; `takes`: what must be given for each, words, a sentence, or a
    figure of one of these dimensions."""

    id: str
    form: str
    takes: dict[str, tuple[str, ...]] = field(default_factory=dict)


def text_of(text_id: str, says: str, dimensions: Collection[str]) -> Text:
    """The text of a data file. Raises `argument_unknown` for an argument of a kind that nobody knows.

    >>> text_of("t", "Off by {pct:percent} on {leg}.", ("percent",)).takes
    {'pct': ('percent',), 'leg': ('words',)}
    """
    form, takes = "", {}
    for literal, name, kind, _ in Formatter().parse(says):
        form += literal.replace("{", "{{").replace("}", "}}")
        if name is None:
            continue
        kinds = tuple((kind or WORDS).split("|"))
        strange = [k for k in kinds if k not in (WORDS, SENTENCE) and k not in dimensions]
        if strange or not name.isidentifier():
            said = f"{text_id}: {{{name}}} is {kind or 'nothing'}, no kind of figure known here."
            raise HurbinError("argument_unknown", said, field=text_id, value=kind)
        takes[name] = kinds
        form += f"{{{name}}}"
    return Text(text_id, form, takes)
