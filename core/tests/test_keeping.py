"""Every sentence of an answer is written down with it, wherever it lies."""

from __future__ import annotations

from typing import Any

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
