"""Every sheet of the table is answered as it must be: no good without ground. See docs/decisions/0019."""

from __future__ import annotations

import os
import subprocess
import sys
from collections import Counter
from pathlib import Path
from typing import Any

import pytest
from sheet_table import Sheet, evaluate, sheets

from hurbin_core.base import Evaluation, Verdict, write
from hurbin_core.catalogue import bench, benches

TABLE = sheets()


def told(e: Evaluation[Any]) -> dict[str, str]:
    return {f"{f.question}/{f.subject}" if f.subject else f.question: f.verdict.value for f in e.findings}


def sentences(e: Evaluation[Any]) -> str:
    phrases = [
        *e.questions,
        *e.waiting,
        *(p for f in e.findings for p in (f.reason, *f.notes)),
        *(a.says for a in getattr(e.view, "advice", [])),
    ]
    plan = getattr(e.view, "plan", None)
    if plan is not None:
        phrases += [*plan.says, *plan.waits]
    return " ".join(write(p) for p in phrases).replace("\u00a0", " ")


@pytest.mark.parametrize("sheet", TABLE, ids=lambda s: s.name)
def test_sheet(sheet: Sheet) -> None:
    e, want = evaluate(sheet), sheet.expect
    assert type(e) is Evaluation[bench(sheet.raw["bench"]).view], "it cannot be sent as this bench's answer"
    said = told(e)
    if "verdict" in want:
        assert e.verdict.value == want["verdict"], said
    for question, verdict in want.get("questions", {}).items():
        assert said.get(question, "-") == verdict, (question, said)
    lacks = {g for f in e.findings for g in f.lacks}
    assert set(want.get("lacks", [])) <= lacks
    if e.verdict is Verdict.GOOD:
        assert not lacks
    assert set(want.get("missing", [])) <= {m.field for m in e.missing}
    assert set(want.get("problems", [])) == {p.code for p in e.problems}
    assert set(want.get("settled", [])) <= set(e.settled)
    assert not set(want.get("unsettled", [])) & set(e.settled)
    for name, (value, tolerance) in want.get("figures", {}).items():
        assert e.values[name].value == pytest.approx(value, abs=tolerance)
    for words in want.get("says", []):
        assert words in sentences(e)
    for words in want.get("silent", []):
        assert words not in sentences(e)


def test_the_table_is_large_and_covers_every_bench() -> None:
    count = Counter(s.raw["bench"] for s in TABLE)
    assert sum(count.values()) >= 300
    assert set(count) == {b.name for b in benches()}
    assert all(n >= 15 for n in count.values()), count
    assert len({s.says for s in TABLE}) == len(TABLE), "two sheets say the same of themselves"


_ALL = """import hashlib, json
from sheet_table import evaluate, sheets
told = hashlib.sha256()
for s in sheets():
    told.update(json.dumps(evaluate(s).model_dump(mode="json"), sort_keys=True).encode())
print(told.hexdigest())"""


def test_no_answer_hangs_on_the_order_of_a_set() -> None:
    """The same sheets in two processes that order their sets differently: the same answers, to the letter."""
    here = Path(__file__).parent
    paths = os.pathsep.join([str(here), str(here.parent)])
    runs = [
        subprocess.Popen(
            [sys.executable, "-c", _ALL],
            env={**os.environ, "PYTHONHASHSEED": seed, "PYTHONPATH": paths},
            stdout=subprocess.PIPE,
        )
        for seed in ("1", "2")
    ]
    first, second = (run.communicate()[0] for run in runs)
    assert [run.returncode for run in runs] == [0, 0]
    assert first == second
