"""Every sentence of an answer is written down with it, wherever it lies."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel
from sheet_table import evaluate, sheets

from hurbin_core.base import amount, kept, phrase
from hurbin_core.base.model import Model
from hurbin_core.base.phrases import Phrase
from hurbin_core.base.rulebook import RULEBOOK


class Inner(Model):
    says: Phrase
    others: list[Phrase] = []
    by_name: dict[str, Phrase | str] = {}


class Outer(Model):
    first: Phrase | None = None
    pairs: list[tuple[str, Inner]] = []
    whatever: Any = None


def _plain() -> Phrase:
    """Some sentence that takes no figures."""
    return phrase(next(name for name, text in RULEBOOK.texts.items() if not text.takes))


def test_sentences_are_found_wherever_they_lie() -> None:
    says = [_plain() for _ in range(6)]
    inner = Inner(says=says[0], others=[says[1], says[2]], by_name={"a": says[3], "b": "no sentence"})
    whole = Outer(
        first=says[4], pairs=[("x", inner)], whatever={"deep": [says[5], 7, amount(1.0, "A"), None]}
    )
    assert kept(whole) is whole
    assert isinstance(whole.whatever, dict)
    found = [
        inner.says,
        *inner.others,
        inner.by_name["a"],
        whole.first,
        whole.whatever["deep"][0],
    ]
    wanted = RULEBOOK.texts[says[0].template].form.format()
    assert [p.written for p in found if isinstance(p, Phrase)] == [wanted] * 6


class Branch(Model):
    says: Phrase | None = None
    on: list[Branch] = []


def test_a_thing_within_a_thing_of_its_own_kind_is_found_too() -> None:
    tree = kept(Branch(on=[Branch(says=_plain(), on=[Branch(says=_plain())])]))
    assert tree.on[0].says is not None
    assert tree.on[0].on[0].says is not None
    assert tree.on[0].says.written
    assert tree.on[0].on[0].says.written


def _sentences(thing: Any) -> Iterator[Phrase]:
    """Every sentence in it, by a walk that leaves nothing out but what a sentence itself takes."""
    if isinstance(thing, Phrase):
        yield thing
        return
    if isinstance(thing, BaseModel):
        thing = list(vars(thing).values())
    elif isinstance(thing, dict):
        thing = list(thing.values())
    if isinstance(thing, list | tuple):
        for part in thing:
            yield from _sentences(part)


def test_no_sentence_of_any_sheet_is_left_unwritten() -> None:
    found = [p for sheet in sheets() for p in _sentences(kept(evaluate(sheet)))]
    assert len(found) > 5000
    assert [p.template for p in found if not p.written] == []
