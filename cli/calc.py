"""`hurbin calc`: a bench from the command line, straight through the core's registry."""

from __future__ import annotations

import json
import sys
from typing import Any

from pydantic import BaseModel, ValidationError, create_model

from hurbin_core.base import HurbinError
from hurbin_core.catalogue import bench, benches
from hurbin_core.logbook import Entry


def _sheet(name: str) -> type[BaseModel]:
    b = bench(name)
    return create_model(f"{name}_sheet", entries=(list[Entry[b.entry]], ...), context=(b.context, ...))  # type: ignore[name-defined]


def main(words: list[str]) -> int:
    if "--list" in words:
        for b in benches():
            print(f"{b.name}\t{b.title}")
        return 0
    if not words:
        print("hurbin calc: name a bench, or --list", file=sys.stderr)
        return 2
    try:
        model = _sheet(words[0])
    except HurbinError as error:
        print(f"hurbin calc: {error.message} There are: {error.right}", file=sys.stderr)
        return 2
    if "--schema" in words:
        print(json.dumps(model.model_json_schema(), indent=1, ensure_ascii=False))
        return 0
    try:
        sheet: Any = model.model_validate_json(sys.stdin.read())
    except ValidationError as error:
        for e in error.errors():
            print(f"{'.'.join(str(x) for x in e['loc']) or 'sheet'}: {e['msg']}", file=sys.stderr)
        return 2
    answer = bench(words[0]).evaluate(sheet.entries, sheet.context)
    print(answer.model_dump_json(indent=1))
    for p in answer.problems:
        print(f"{p.field}: {p.message}", file=sys.stderr)
    return 2 if answer.problems else 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
