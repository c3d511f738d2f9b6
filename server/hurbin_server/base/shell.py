"""The one page: the built front end's shell, for every address that is not the API."""

from __future__ import annotations

from functools import lru_cache

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe


@lru_cache(maxsize=1)
def _shell() -> str:
    return (settings.WEB_DIST / "index.html").read_text()


@require_safe
@never_cache
def page(request: HttpRequest) -> HttpResponse:
    try:
        return HttpResponse(_shell())
    except FileNotFoundError:
        return HttpResponse(
            "The web app is not built. Run ./hurbin demo to build it.", status=503, content_type="text/plain"
        )
