"""One walk shows any model: figures with their unit, phrases as sentences, however deep they lie."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest

from hurbin_core.base import Model, Phrase, Prefs, Quantity, amount, phrase, present, render, shown_type
from hurbin_core.base.shown import ShownQuantity
from hurbin_core.catalogue import benches


class Leaf(Model):
    name: str
    length: Quantity | None = None


class Tree(Model):
    says: Phrase
    best: Leaf
    rows: list[Leaf] = []
    by_leg: dict[str, list[Quantity]] = {}
    pair: tuple[Quantity, Quantity] | None = None
    either: Quantity | str = ""
    at: datetime
    count: int = 0


AT = datetime(2026, 5, 1, tzinfo=UTC)
INCH = Prefs(units={"length": "mil"}, decimal=",")


def tree() -> Tree:
    return Tree(
        says=phrase("sheet.two_words", what="Tank", first="A", second="B"),
        best=Leaf(name="one", length=amount(0.254, "mm")),
        rows=[Leaf(name="two", length=amount(1.0, "mm")), Leaf(name="three")],
        by_leg={"L1": [amount(2.0, "mm"), amount(3.0, "mm")], "L2": []},
        either=amount(4.0, "mm"),
        at=AT,
        count=3,
    )


def test_every_figure_and_sentence_is_shown_however_deep_it_lies() -> None:
    shown = render(tree(), Prefs())
    assert "Tank" in shown.says
    assert isinstance(shown.says, str)
    assert shown.rows[0].length.shown == "1.00\u00a0mm"
    assert shown.rows[1].length is None
    assert [q.shown for q in shown.by_leg["L1"]] == ["2.00\u00a0mm", "3.00\u00a0mm"]
    assert shown.by_leg["L2"] == []
    assert shown.either.shown == "4.00\u00a0mm"
    assert (shown.at, shown.count, shown.best.name) == (AT, 3, "one")


def test_each_reader_has_his_own_units_and_decimal_mark() -> None:
    q = render(tree(), INCH).best.length
    assert (q.figure, q.symbol, q.value, q.unit) == ("10,0", "mil", 0.254, "mm")
    assert render(Leaf(name="x", length=amount(1.5, "mm")), Prefs(decimal=",")).length.shown == "1,50\u00a0mm"


def test_the_model_that_is_sent_says_what_it_holds() -> None:
    sent = shown_type(Tree)
    fields = {n: f.annotation for n, f in sent.model_fields.items()}
    assert fields["says"] is str
    assert fields["count"] is int
    assert fields["by_leg"] == dict[str, list[ShownQuantity]]
    assert fields["either"] == ShownQuantity | str
    assert sent.model_validate(render(tree(), Prefs()).model_dump()).rows[0].length.figure == "1.00"


def test_a_model_without_figures_is_sent_as_it_stands() -> None:
    class Plain(Model):
        name: str
        rows: list[int] = []

    plain = Plain(name="a")
    assert shown_type(Plain) is Plain
    assert render(plain, Prefs()) is plain


@pytest.mark.parametrize("bench", benches(), ids=lambda b: b.name)
def test_no_bench_sends_a_figure_that_is_not_shown(bench: object) -> None:
    """By the description of what is sent: nowhere in it is a bare figure or a sentence's template."""
    schema = shown_type(bench.view).model_json_schema()  # type: ignore[attr-defined]
    for name, part in schema.get("$defs", {}).items():
        keys = set(part.get("properties", {}))
        assert "template" not in keys, name
        assert not {"value", "unit", "bound"} <= keys or "shown" in keys, name


def test_a_value_is_never_rounded_across_the_limit_it_stands_with() -> None:
    from conftest import entry, judge_check

    answer = judge_check(entry(volts=(400, 400, 393.96), amps=(15, 15, 15)))
    for f in present(answer, Prefs()).findings:
        if f.line is not None:
            assert f.line.value.figure != f.line.ticks[0].shown.split("\u00a0")[0]
