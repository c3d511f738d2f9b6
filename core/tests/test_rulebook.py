"""One book holds every data file: what is unknown in it is refused when it is read, and all of it is
hashed.
"""

from __future__ import annotations

import ast
import importlib
import pathlib
import re
import subprocess
import sys
from collections.abc import Callable
from datetime import UTC, datetime
from itertools import pairwise
from typing import Any

import pytest

from hurbin_core.base import (
    RULEBOOK,
    RULES,
    UNITS,
    Certainty,
    Does,
    HurbinError,
    Limits,
    Override,
    Phrase,
    Rulebook,
    amount,
    by_id,
    check_override,
    phrase,
    write,
)
from hurbin_core.catalogue import benches, rule_topics
from hurbin_core.plant.kinds import check_parts
from hurbin_core.safety.gates import GATES, check_gates
from hurbin_core.safety.matters import CHANGES, check_changes
from hurbin_core.safety.sources import MEANS, SCOPES, check_sources

HERE = pathlib.Path(importlib.import_module("hurbin_core").__file__ or "").parent
LIMIT = """[[limit]]
id = "a.low"
of = "A figure"
does = "good up to"
value = 1.0
unit = "mm"
source = "common practice, no source"
certainty = "practice"
"""
RULE = """[[rule]]
id = "a"
title = "A"
formula = "a"
why = "b"
source = "common practice, no source"
certainty = "practice"
"""
TABLE = """[[table]]
id = "t"
title = "T"
source = "common practice, no source"
certainty = "practice"
"""


def book(tmp_path: pathlib.Path, *files: str) -> Rulebook:
    (tmp_path / "scratch").mkdir()
    for n, text in enumerate(files):
        (tmp_path / "scratch" / f"{n}.toml").write_text(text)
    return Rulebook.load(tmp_path)


@pytest.mark.parametrize(
    ("files", "code"),
    [
        ([LIMIT, LIMIT], "defined_twice"),
        ([LIMIT.replace('"mm"', '"furlong"')], "unit_unknown"),
        ([LIMIT.replace("good up to", "goes on until")], "data_wrong"),
        ([LIMIT + "guess = 3\n"], "data_wrong"),
        ([RULE + 'steps = [{ limit = "a.low", verdict = "good" }]'], "limit_unknown"),
        ([LIMIT, RULE + 'steps = [{ limit = "a.low", times = "b", verdict = "good" }]'], "limit_unknown"),
        ([LIMIT, RULE + 'steps = [{ limit = "a.low", times = "a.low", verdict = "good" }]'], "not_a_factor"),
        ([LIMIT, RULE + 'steps = [{ limit = "a.low", verdict = "fine" }]'], "data_wrong"),
        ([LIMIT, RULE + 'instead = { "a.low" = ["a.low"] }'], "step_unknown"),
        ([RULE + 'ground = ["a.said"]'], "ground_unknown"),
        (['[text]\n"a" = "Off by {x:furlongs}."'], "argument_unknown"),
        (['[text]\n"a" = "Off."', '[text]\n"a" = "On."'], "defined_twice"),
        (['[text]\n"a" = "Off."\n[renamed]\n"b" = "c"'], "text_unknown"),
        (['[text]\n"a" = "Off."\n[renamed]\n"a" = "a"'], "defined_twice"),
        ([TABLE + 'axes = [{ name = "x" }]\ncolumns = []\nrows = [["a", 1]]'], "data_wrong"),
        ([TABLE + 'axes = [{ name = "x", unit = "mm" }]\ncolumns = []\nrows = [["a"]]'], "cell_wrong"),
        (
            [
                TABLE
                + 'axes = [{ name = "x", unit = "mm", read = "straight" }]\ncolumns = []\nrows = [[2], [1]]'
            ],
            "rows_out_of_order",
        ),
    ],
)
def test_what_nobody_knows_is_refused_when_the_book_is_read(
    tmp_path: pathlib.Path, files: list[str], code: str
) -> None:
    with pytest.raises(HurbinError) as told:
        book(tmp_path, *files)
    assert told.value.code == code


def but(row: Any, **more: object) -> list[Any]:
    """The same row but for this."""
    return [row.model_copy(update=more)]


LOAD, GATE, CHANGE = RULES["load"], GATES["prove_dead"], CHANGES["guard_off"]


@pytest.mark.parametrize(
    ("check", "code"),
    [
        (lambda: check_gates(but(GATE, needs="luck"), []), "check_unknown"),
        (lambda: check_gates([], but(LOAD, bars=["dance"])), "act_unknown"),
        (lambda: check_changes(but(CHANGE, part="sail"), []), "part_unknown"),
        (lambda: check_changes([], but(MEANS["contacts_parted"], change="x")), "change_unknown"),
        (lambda: check_sources(but(MEANS["valve"], families=["wind"]), []), "family_unknown"),
        (lambda: check_sources([], but(SCOPES["coupling"], must=["x"])), "source_unknown"),
        (lambda: check_parts(Rulebook(rules={"load": but(LOAD, concerns=["sail"])[0]})), "part_unknown"),
        (lambda: by_id([GATE, GATE]), "defined_twice"),
    ],
)
def test_what_a_rooms_own_list_names_is_there(check: Callable[[], None], code: str) -> None:
    """A gate whose check nobody knows would never say no."""
    with pytest.raises(HurbinError) as told:
        check()
    assert told.value.code == code


def test_the_version_hashes_every_data_file_whatever_was_imported() -> None:
    """By another way: the files on disk, and a process that imports no room but the lowest."""
    on_disk = {str(p.relative_to(HERE)) for p in HERE.rglob("*.toml")}
    assert set(RULEBOOK.files) == on_disk
    said = "from hurbin_core.base import rules_version; print(rules_version())"
    alone = subprocess.run(
        [sys.executable, "-c", said],
        capture_output=True,
        text=True,
        check=True,
        env={"PYTHONPATH": str(HERE.parent)},
    )
    assert alone.stdout.strip() == RULEBOOK.version


def test_one_letter_in_one_file_makes_another_version(tmp_path: pathlib.Path) -> None:
    (tmp_path / "one").mkdir()
    (tmp_path / "two").mkdir()
    one, two = book(tmp_path / "one", LIMIT), book(tmp_path / "two", LIMIT.replace("A figure", "B figure"))
    assert one.version != two.version


def test_no_section_of_a_data_file_lies_there_unread() -> None:
    benches()
    assert RULEBOOK.unasked() == []


def test_every_limit_is_titled_by_its_figure_and_what_it_does_to_it() -> None:
    titles = [x.title for x in RULEBOOK.limits.values()]
    assert len(set(titles)) == len(titles), "two limits are called the same"
    for limit in RULEBOOK.limits.values():
        assert limit.of[0].isupper() or limit.of[0].isdigit()
        assert limit.title == f"{limit.of}, {limit.does.value}"
        assert limit.does in Does


def test_data_files_say_where_they_are_from() -> None:
    for row in (*RULEBOOK.limits.values(), *RULEBOOK.tables.values()):
        assert row.source
        if row.certainty is Certainty.PRACTICE:
            assert "practice" in row.source.lower()
        if row.certainty is Certainty.STANDARD:
            assert row.from_memory
    for rule in RULES.values():
        assert rule.formula
        assert rule.why
    named = (*RULEBOOK.limits.values(), *RULEBOOK.tables.values(), *RULES.values())
    assert [r.id for r in named if not r.source or r.source.endswith(".")] == []


def _over(limit: str, value: float) -> Override:
    return Override(limit=limit, value=value, reason="r", by="b", at=datetime(2026, 1, 1, tzinfo=UTC))


def test_overrides_keep_their_order() -> None:
    check_override("voltage_unbalance.watch", 3.0, "", [])
    for value, code in (
        (0.5, "limits_out_of_order"),
        (9.0, "limits_out_of_order"),
        (0.0, "limit_not_positive"),
        (None, "limit_not_positive"),
    ):
        with pytest.raises(HurbinError) as told:
            check_override("voltage_unbalance.watch", value, "", [])
        assert told.value.code == code
    with pytest.raises(HurbinError):
        check_override("voltage_unbalance.watch", 3.0, "", [_over("voltage_unbalance.act", 2.5)])
    with pytest.raises(HurbinError):
        check_override("school.voltage_unbalance", None, "third", [])
    with pytest.raises(HurbinError) as told:
        check_override("trend.few", 2.0, "", [])
    assert told.value.code == "limit_fixed"


@pytest.mark.parametrize(
    ("limit", "value"),
    [
        ("insulation.near_times", 0.5),
        ("insulation.near_times", 1.0),
        ("load.stop", 90.0),
        ("polarisation.act", 1.6),
    ],
)
def test_an_override_is_tried_against_every_step_that_uses_it(limit: str, value: float) -> None:
    """Half the minimum would call 3 MΩ good where 5 MΩ is the least; 1.6 stands above the index of class
    A.
    """
    with pytest.raises(HurbinError) as told:
        check_override(limit, value, "", [])
    assert told.value.code == "limits_out_of_order"


def test_a_figure_that_no_site_reaches_is_no_sites_to_change() -> None:
    """What the code reads without the site's own limits is fixed: an override of it would change nothing."""
    found = 0
    for path in HERE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if not isinstance(node, ast.Call) or not isinstance(node.func, ast.Attribute) or not node.args:
                continue
            if ast.unparse(node.func.value) in ("_LIMITS", "Limits()"):
                named = ast.unparse(node.args[0]).lstrip("f").strip("\"'")
                of = re.compile(re.sub(r"\{.*?\}", "[a-z]+", named).replace(".", r"\.") + "$")
                ids = [i for i in RULEBOOK.limits if of.match(i)]
                assert ids, (path.name, named)
                assert all(RULEBOOK.limits[i].fixed for i in ids), (path.name, named)
                found += 1
    assert found > 10


def test_a_step_times_a_limit_follows_both() -> None:
    mine = Limits([_over("insulation.minimum_low_volt", 10.0), _over("insulation.near_times", 2.0)])
    (near, _), (least, _) = mine.steps("insulation")
    assert (near.value, least.value, near.override is not None) == (20.0, 10.0, True)
    assert Limits().steps("insulation")[0][0].value == 15.0


def test_a_sentence_wants_every_figure_it_names_and_no_name_nobody_wrote() -> None:
    for call, code in (
        (lambda: phrase("no.such"), "text_unknown"),
        (lambda: phrase("vu.rise"), "argument_missing"),
    ):
        with pytest.raises(HurbinError) as told:
            call()
        assert told.value.code == code


def test_a_sentence_of_an_earlier_book_is_said_as_it_was_written() -> None:
    old = Phrase(template="gone.since", args={"x": amount(3.0, "mm")}, written="It moved by 3 mm.")
    assert write(old) == "It moved by 3 mm."
    renamed = Phrase(template="wander.root")
    assert write(renamed).startswith("Check anchor bolts")
    shorter = Phrase(template="vu.rise", args={}, written="The winding runs hotter.")
    assert write(shorter) == "The winding runs hotter."


def _said() -> list[tuple[str, str, set[str] | None]]:
    """Every sentence the code says by its own name: where, which, and with what, where that stands there."""
    out: list[tuple[str, str, set[str] | None]] = []
    for path in HERE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if not isinstance(node, ast.Call) or getattr(node.func, "id", "") != "phrase" or not node.args:
                continue
            named = {k.arg for k in node.keywords if k.arg}
            whole = all(k.arg for k in node.keywords)
            branches = (
                [node.args[0].body, node.args[0].orelse]
                if isinstance(node.args[0], ast.IfExp)
                else node.args[:1]
            )
            for b in branches:
                if isinstance(b, ast.Constant):
                    out.append((f"{path.name}:{node.lineno}", str(b.value), named if whole else None))
    return out


def test_every_sentence_in_the_code_is_in_the_book_with_its_figures() -> None:
    said = _said()
    assert len(said) > 200
    for where, text, given in said:
        assert text in RULEBOOK.texts, (where, text)
        if given is not None:
            assert RULEBOOK.texts[text].takes.keys() <= given, (where, text)


def test_every_figure_of_a_sentence_says_what_it_is() -> None:
    dimensions = {u.dimension for u in UNITS.values()}
    for text in RULEBOOK.texts.values():
        for kinds in text.takes.values():
            assert set(kinds) <= dimensions | {"words", "sentence"}


def test_every_template_is_used_somewhere() -> None:
    """A sentence nobody says is dead data; one that is said and not there fails when it is written."""
    code = "\n".join(p.read_text() for p in HERE.rglob("*.py"))
    made = {"load.good", "load.watch", "load.act", "load.stop"} | {
        f"ins.{v}" for v in ("good", "watch", "act", "stop", "unknown")
    }
    made |= {"ins.blocked_dew", "ins.blocked_leads", "ins.minute_curve", "ins.minute_near", "dar.good"}
    made |= {f"tag.{v}" for v in ("isolating", "isolated", "proved", "giving_back", "live")}
    made |= {f"story.{v}" for v in ("list", "stopped", "shut", "opened", "lock", "released", "work", "undo")}
    families = (
        "cause.",
        "differs.",
        "ground.",
        "state.",
        "trend.",
        "value.",
        "circuit.by_",
        "circuit.done_",
        "circuit.w_",
        "circuit.e_",
        "circuit.f_",
        "circuit.k_",
        "circuit.m_",
        "circuit.meter_",
        "circuit.r_",
        "circuit.reads_",
        "circuit.t_",
        "safety.caution_",
        "fuses.says_",
        "leads.kind_",
        "leads.volts_",
        "leads.unmarked_",
        "drive.fig_",
        "drive.flux_",
        "direction.mode_",
        "protection.guards_",
        "protection.reset_",
        "protection.type_",
        "drawdown.sign_",
        "duty.floor_",
        "duty.way_",
        "loop.half_",
        "loop.has_",
        "loop.law_",
        "loop.pipe_",
        "suction.part_",
        "survey.at_",
        "survey.how_",
        "throttle.is_",
        "vacuum.caution_",
        "wear.never_",
        "control.prove_",
        "ready.field_",
        "fuses.clip_",
        "joints.seen_",
        "ohms.as_",
        "ohms.cap_",
        "ohms.diode_",
        "ohms.earth_",
        "ohms.rails_",
        "ohms.single_",
        "shaft.binds_",
        "shaft.motor_",
        "shaft.pump_",
        "shaft.whole_",
        "safety.stands_",
    )  # named by data files
    unused = [
        t for t in RULEBOOK.texts if f'"{t}"' not in code and t not in made and not t.startswith(families)
    ]
    assert unused == []


def test_whatever_is_told_of_the_rules_stands_under_one_topic_with_a_name_of_its_own() -> None:
    told = rule_topics()
    assert len({t.key for t in told}) == len(told) == len({t.title for t in told})
    under = {RULEBOOK.topic(kind, key) for kind, key in RULEBOOK.rooms if kind not in ("ground", "measurand")}
    assert under == {t.key for t in told}
    # A bench's rules go by the bench's name, never by its folder's; a room with nothing else is a topic.
    named = {t.key: (t.room, t.title) for t in told}
    assert named["electrical/drive_sheet"] == ("Electrical", "Drive settings")
    assert named["electrical"] == ("Electrical", "Electrical in general")
    assert named["safety"] == ("Safety", "Safety")
    assert not [t.title for t in told if "_" in t.title]
    # What holds for a whole room stands before its benches', and no room is cut in two.
    rooms = [t.room for t in told]
    assert len([1 for a, b in pairwise(rooms) if a != b]) + 1 == len(set(rooms))
