"""The core answers on Python 3.14 as it does here: every twentieth sheet. `./hurbin test` runs it."""

from __future__ import annotations

import json
import math
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

from sheet_table import case_and_entries, evaluate, sheets

SHEETS = sheets()[::20]


def sent(sheet: Any) -> dict[str, Any]:
    """A sheet as it travels: its case and its entries, as data."""
    case, entries = case_and_entries(sheet)
    return {
        "bench": sheet.raw["bench"],
        "case": case.model_dump(mode="json"),
        "entries": [e.model_dump(mode="json") for e in entries],
    }


def alike(a: Any, b: Any) -> bool:
    """The same answer; the last digits of a logarithm are the machine's."""
    if isinstance(a, float) and isinstance(b, float | int):
        return math.isclose(a, b, rel_tol=1e-9, abs_tol=1e-12)
    if isinstance(a, dict) and isinstance(b, dict):
        return a.keys() == b.keys() and all(alike(v, b[k]) for k, v in a.items())
    if isinstance(a, list) and isinstance(b, list):
        return len(a) == len(b) and all(alike(x, y) for x, y in zip(a, b, strict=True))
    return bool(a == b)


def main(node: str, script: str, runtime: str, wheels: str, core: str) -> int:
    with tempfile.TemporaryDirectory() as place:
        given = Path(place) / "sheets.json"
        given.write_text(json.dumps([sent(s) for s in SHEETS]))
        words = [node, script, runtime, wheels, core, str(given)]
        told = subprocess.run(words, capture_output=True, text=True, check=False)
    if told.returncode != 0:
        print(told.stderr[-3000:], file=sys.stderr)
        return 1
    said = json.loads(told.stdout)
    assert said["python"].startswith("3.14"), said["python"]
    for sheet, theirs in zip(SHEETS, said["answers"], strict=True):
        ours = evaluate(sheet).model_dump(mode="json")
        assert alike(ours, theirs), sheet.name
    print(f"{len(SHEETS)} sheets answered alike on Python {said['python']} and {sys.version.split()[0]}.")
    return 0


if __name__ == "__main__":
    raise SystemExit(main(*sys.argv[1:]))
