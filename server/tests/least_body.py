"""The least that a described operation takes for a body: made from the API's own description."""

from __future__ import annotations

import json
import uuid
from pathlib import Path
from typing import Any

from hurbin_server.base.clock import now

DESCRIBED = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text())
# What no shape says, by the name of the field.
_NAMED = {
    "uuid": lambda: str(uuid.uuid4()),
    "sheet": lambda: str(uuid.uuid4()),
    "key": lambda: uuid.uuid4().hex,
}
_WORDS = {"code": "X-1", "tag": "X-1", "duty_tag": "X-1", "standby_tag": "X-2", "username": "noor"}


def made(schema: dict[str, Any], name: str = "") -> Any:
    """Something of this shape: what is wanted in it and nothing else."""
    if "$ref" in schema:
        return made(DESCRIBED["components"]["schemas"][schema["$ref"].split("/")[-1]], name)
    for key in ("const", "default"):
        if key in schema:
            return schema[key]
    if "enum" in schema:
        return schema["enum"][0]
    for key in ("anyOf", "oneOf", "allOf"):
        if key in schema:
            return made(schema[key][0], name)
    if schema.get("type") == "object":
        fields = schema.get("properties", {})
        return {n: made(fields[n], n) for n in schema.get("required", []) if n in fields}
    if schema.get("type") == "array":
        return [made(schema["items"], name)] * max(schema.get("minItems", 0), name == "entries")
    if schema.get("type") in ("integer", "number"):
        return schema.get("minimum", schema.get("exclusiveMinimum", 0) + 1)
    if schema.get("type") == "boolean":
        return True
    if schema.get("format") == "date-time":
        return now().isoformat()
    if schema.get("format") == "date":
        return now().date().isoformat()
    if name in _NAMED:
        return _NAMED[name]()
    return _WORDS.get(name, "x" * max(1, schema.get("minLength", 1)))


def body_of(operation: dict[str, Any]) -> tuple[str, Any]:
    """Its media type and the least body; ("", None) for one that takes none."""
    content = operation.get("requestBody", {}).get("content", {})
    for kind in ("application/json", "multipart/form-data"):
        if kind in content:
            return kind, made(content[kind]["schema"])
    return "", None
