"""The API as it is described: each answer under its own media type."""

from __future__ import annotations

import json
import math
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.parser import Parser
from ninja.renderers import BaseRenderer
from pydantic_core import to_json

from .errors import PROBLEM

CSV, PDF, JPEG = "text/csv", "application/pdf", "image/jpeg"
_MEDIA = "x-media"


def media(kind: str) -> dict[str, Any]:
    """For `openapi_extra` of an operation whose good answer is a file of this kind."""
    return {_MEDIA: kind}


class Json(BaseRenderer):
    """Answers as pydantic writes them: the same bytes whether an answer is new or was kept."""

    media_type = "application/json"

    def render(self, request: HttpRequest, data: Any, *, response_status: int) -> bytes:
        return to_json(data)


class Plain(Parser):
    """JSON as its standard has it (RFC 8259): every number is one, NaN and the infinite are none."""

    def parse_body(self, request: HttpRequest) -> Any:
        return json.loads(request.body, parse_constant=_none, parse_float=_finite)


def _none(said: str) -> float:
    raise ValueError(f"{said} is no number")


def _finite(said: str) -> float:
    value = float(said)
    return value if math.isfinite(value) else _none(said[:20])


class DescribedAPI(NinjaAPI):
    def get_openapi_schema(self, **kwargs: Any) -> OpenAPISchema:
        schema = super().get_openapi_schema(**kwargs)
        for operations in schema["paths"].values():
            for operation in operations.values():
                kind = operation.pop(_MEDIA, None)
                for status, answer in operation["responses"].items():
                    if "content" not in answer:
                        continue
                    if int(status) >= 400:
                        answer["content"] = {PROBLEM: next(iter(answer["content"].values()))}
                    elif kind is not None:
                        text = {"type": "string"} if kind == CSV else {"type": "string", "format": "binary"}
                        answer["content"] = {kind: {"schema": text}}
        return schema


def csv_file(text: str, name: str) -> HttpResponse:
    """A table as a file that every spreadsheet opens in its own letters."""
    return HttpResponse(
        "\ufeff" + text,
        content_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )
