"""`hurbin calc`: a bench from the command line, straight through the core's registry: what it says, in
sentences.
"""

from __future__ import annotations

import json
import sys
from typing import Any

from pydantic import BaseModel, ValidationError, create_model

from hurbin_core.base import SI, HurbinError, place_of, present
from hurbin_core.catalogue import bench, benches
from hurbin_core.logbook import Case, Entry


def _sheet(name: str) -> type[BaseModel]:
    b = bench(name)
    entry: Any = Entry[b.entry]  # type: ignore[name-defined]
    case: Any = Case[b.entry]  # type: ignore[name-defined]
    return create_model(f"{name}_sheet", entries=(list[entry], ...), case=(case, ...))


def said(shown: Any) -> str:
    """The whole answer as a person reads it."""
    out = [shown.verdict.value.upper() + (f", and {shown.beside.value}" if shown.beside else "")]
    for f in shown.findings:
        out.append(f"  {f.verdict.value:<8} {f.title}: {f.reason}")
        out += [f"           {words}" for words in (*f.working, *f.notes)]
        out += [f"           {u.title}: {u.shown} ({u.source})" for u in f.limits]
    for name, lines in (("asked", shown.questions), ("waiting", shown.waiting), ("caution", shown.cautions)):
        out += [f"  {name:<8} {words}" for words in lines]
    out += [f"  missing  {m.field}: {m.message}" for m in shown.missing]
    if shown.due is not None:
        out.append(f"  next     {shown.due.at:%Y-%m-%d}: {shown.due.reason}")
    return "\n".join(out)


def main(words: list[str]) -> int:
    if "--list" in words:
        for b in benches():
            print(f"{b.name}\t{b.title}")
        return 0
    names = [w for w in words if not w.startswith("--")]
    if not names:
        print("hurbin calc: give the name of a bench, or --list", file=sys.stderr)
        return 2
    try:
        model = _sheet(names[0])
    except HurbinError as error:
        print(f"hurbin calc: {error.message} Available: {error.right}", file=sys.stderr)
        return 2
    if "--schema" in words:
        print(json.dumps(model.model_json_schema(), indent=1, ensure_ascii=False))
        return 0
    if sys.stdin.isatty():
        print(
            f"hurbin calc: give it a sheet, ./hurbin calc {names[0]} < sheet.json; --schema says what one"
            " is.",
            file=sys.stderr,
        )
        return 2
    try:
        sheet: Any = model.model_validate_json(sys.stdin.read())
    except ValidationError as error:
        for e in error.errors():
            print(f"{place_of(e['loc']) or 'sheet'}: {e['msg']}", file=sys.stderr)
        return 2
    answer = bench(names[0]).evaluate(sheet.case, sheet.entries)
    print(answer.model_dump_json(indent=1) if "--json" in words else said(present(answer, SI)))
    for p in answer.problems:
        print(f"{p.field}: {p.message}", file=sys.stderr)
    return 2 if answer.problems else 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
