"""All routers, and the one shape in which anything is refused."""

from __future__ import annotations

import logging
import math

from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError, InterfaceError
from django.http import HttpRequest, HttpResponse
from ninja.errors import AuthenticationError, AuthorizationError, HttpError, Throttled, ValidationError

from hurbin_core import __version__
from hurbin_core.base import HurbinError, Problem, place_of
from hurbin_server.base.api import router as base_router
from hurbin_server.base.described import DescribedAPI, Json, Plain
from hurbin_server.base.entrance import Entrance
from hurbin_server.base.errors import Refused, answer, refusal, trouble
from hurbin_server.electrical.api import router as electrical_router
from hurbin_server.hydraulics.api import router as hydraulics_router
from hurbin_server.instruments.api import router as instruments_router
from hurbin_server.jobs.api import router as jobs_router
from hurbin_server.logbook.api import router as logbook_router
from hurbin_server.logbook.attachments_api import router as attachments_router
from hurbin_server.logbook.bench_api import router as bench_router
from hurbin_server.logbook.readings_api import router as readings_router
from hurbin_server.plant.accounts_api import router as accounts_router
from hurbin_server.plant.api import router as plant_router
from hurbin_server.plant.changes_api import router as changes_router
from hurbin_server.plant.register_api import router as register_router
from hurbin_server.plant.tablets_api import by_pin as by_pin_router, router as tablets_router
from hurbin_server.safety.api import router as safety_router
from hurbin_server.safety.page_api import router as page_router
from hurbin_server.safety.qualified_api import router as qualified_router
from hurbin_server.stores.api import router as stores_router
from hurbin_server.stores.parts_api import router as parts_router

api = DescribedAPI(
    title="Hurbin",
    version=__version__,
    auth=Entrance(csrf=True),
    renderer=Json(),
    parser=Plain(),
    urls_namespace="api",
    docs_url=None,
    openapi_url=None,
)
# An address is looked for from the first to the last: what is asked most stands first.
for _router in (
    base_router,
    changes_router,
    page_router,
    logbook_router,
    bench_router,
    plant_router,
    accounts_router,
    by_pin_router,
    tablets_router,
    register_router,
    attachments_router,
    readings_router,
    safety_router,
    stores_router,
    instruments_router,
    qualified_router,
    electrical_router,
    hydraulics_router,
    parts_router,
    jobs_router,
):
    api.add_router("", _router)


@api.exception_handler(Refused)
def _refused(request: HttpRequest, error: Refused) -> HttpResponse:
    return refusal(error)


@api.exception_handler(HurbinError)
def _core(request: HttpRequest, error: HurbinError) -> HttpResponse:
    return answer(422, error.code, error.message, problems=[Problem.of(error)])


@api.exception_handler(ValidationError)
def _shape(request: HttpRequest, error: ValidationError) -> HttpResponse:
    problems = [
        Problem(
            code="input_wrong",
            field=place_of(e["loc"][2:]) or place_of(e["loc"]),
            value=str(e.get("input", ""))[:80],
            message=e["msg"].removeprefix("Value error, "),
        )
        for e in error.errors
    ]
    first = problems[0].message if problems else "The request could not be read."
    return answer(422, "input_wrong", first, problems=problems)


@api.exception_handler(AuthenticationError)
@api.exception_handler(AuthorizationError)
def _signed_out(request: HttpRequest, error: Exception) -> HttpResponse:
    return answer(401, "signed_out", "You are signed out. Sign in to continue. Nothing you entered is lost.")


@api.exception_handler(Throttled)
def _too_often(request: HttpRequest, error: Throttled) -> HttpResponse:
    wait = math.ceil(error.wait or 1)
    return answer(429, "too_often", f"Too many requests. Try again in {wait} s.", retry_after=wait)


@api.exception_handler(HttpError)
def _http(request: HttpRequest, error: HttpError) -> HttpResponse:
    if error.status_code == 403 and "CSRF" in str(error):
        stale = "This page has expired. Reload it. Nothing you entered is lost."
        return answer(403, "csrf", stale)
    return answer(error.status_code, f"http_{error.status_code}", str(error))


@api.exception_handler(RequestDataTooBig)
def _too_large(request: HttpRequest, error: Exception) -> HttpResponse:
    return answer(413, "too_large", "Larger than 8 MB: split it.")


@api.exception_handler(DatabaseError)
@api.exception_handler(InterfaceError)
@api.exception_handler(OSError)
def _database(request: HttpRequest, error: Exception) -> HttpResponse:
    found = trouble(error)
    if found is None:
        raise error
    logging.getLogger(__name__).warning("%s: %s", found.status_code, error)
    return found
