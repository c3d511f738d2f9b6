"""`hurbin calc` by the sheet that docs/formats.md shows: sentences, data, and what it refuses."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from typing import Any

import pytest

from cli.state import ROOT

TEXT = (ROOT / "docs" / "formats.md").read_text()
SHEET: dict[str, Any] = json.loads(re.findall(r"```json\n(.*?)```", TEXT, re.S)[0])


def calc(*words: str, sheet: Any = SHEET, **more: Any) -> subprocess.CompletedProcess[str]:
    env = {**os.environ, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT}"}
    argv = [sys.executable, "-m", "cli.calc", *words]
    given = {} if more else {"input": sheet if isinstance(sheet, str) else json.dumps(sheet)}
    return subprocess.run(argv, env=env, capture_output=True, text=True, check=False, **given, **more)


def changed(**body: Any) -> dict[str, Any]:
    first = SHEET["entries"][0]
    return {**SHEET, "entries": [{**first, "body": {**first["body"], **body}}]}


def test_the_sheet_of_the_description_is_answered_in_sentences() -> None:
    told = calc("running_check")
    assert (told.returncode, told.stderr) == (0, "")
    lines = told.stdout.replace("\u00a0", " ").splitlines()
    assert lines[0] == "GOOD"
    assert "  good     Load, worst leg: 15.1 A on L1 is 75.5 % of nameplate current." in lines
    assert any(x.strip() == "Voltage unbalance, good up to: 1 % (NEMA MG 1 14.36)" for x in lines)
    assert "{" not in told.stdout


def test_an_overload_is_said_with_its_reason_and_no_sheet_is_good_without_its_state() -> None:
    over = calc("running_check", sheet=changed(amps_1={"text": "26", "unit": "A"})).stdout
    assert over.startswith("STOP")
    assert "26.0\u00a0A on L1 is 130\u00a0% of nameplate current." in over
    unsaid = calc("running_check", sheet=changed(valve=None)).stdout
    assert unsaid.startswith("UNKNOWN")
    assert "valve: Enter the valve position" in unsaid


def test_the_answer_as_data_is_the_same_answer() -> None:
    told = json.loads(calc("running_check", "--json").stdout)
    assert (told["bench"], told["verdict"]) == ("running_check", "good")
    assert told["values"]["current_mean"]["value"] == pytest.approx(15.0)


@pytest.mark.parametrize(
    ("words", "sheet", "says"),
    [
        (["running_check"], "", "sheet: "),
        (["running_check"], {"entries": []}, "case: "),
        (["running_check"], {**SHEET, "case": {}}, "case.context: "),
        (["running_check"], changed(valve="ajar"), "entries.0.body.valve: "),
        (["running_check"], changed(volts_12={"text": "40O", "unit": "V"}), "volts_12: "),
        (["running_chek"], SHEET, "running_check"),
        ([], SHEET, "give the name of a bench"),
    ],
)
def test_what_cannot_be_is_named_and_ends_with_two(words: list[str], sheet: Any, says: str) -> None:
    told = calc(*words, sheet=sheet)
    assert told.returncode == 2
    assert says in told.stderr


def test_a_terminal_is_told_what_to_give_and_never_waited_for() -> None:
    ours, theirs = os.openpty()
    try:
        told = calc("running_check", stdin=theirs, timeout=20)
    finally:
        os.close(ours)
        os.close(theirs)
    assert told.returncode == 2
    assert "sheet.json" in told.stderr
