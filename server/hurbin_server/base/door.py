"""The one door through which anything is changed, and the one view in which a page is read.

An *act* is everything one request changes: it is kept whole or not at all, done once for its parcel, tried
again when the database broke it off, and says what it moved, so that whoever had read that reads again.
"""

from __future__ import annotations

import functools
import random
import re
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import Any, TypeVar

from django.db import OperationalError, connection, transaction
from django.http import HttpRequest, HttpResponse
from ninja import Router

from . import parcels, versions
from .clock import device_off
from .room import room

T = TypeVar("T")
TRIES = 6
CLOCK = "Device-Clock-Offset"
# Deadlock; a lock that was waited for too long; a row that another host of a cluster changed first.
BROKEN_OFF = (1213, 1205, 1020)
_WRITES = re.compile(r"\s*(?:INSERT|UPDATE|DELETE|REPLACE)\b[^`]*`(\w+)`", re.IGNORECASE)
_OURS = (
    "plant_",
    "instruments_",
    "logbook_",
    "safety_",
    "stores_",
    "electrical_",
    "hydraulics_",
    "jobs_",
)
# A picture means nothing until something speaks of it; a file on its way is told of beside the work on it.
_APART = ("safety_picture", "logbook_readingsimport", "logbook_importrow")


@dataclass(slots=True)
class Underway:
    """What is being changed. moved: which sets, sites and vans are not as they were; site: on which rights
    were asked for.
    """

    moved: set[versions.Key] = field(default_factory=set)
    site: int | None = None
    wrote: set[str] = field(default_factory=set)

    def watch(self, execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
        found = _WRITES.match(sql)
        if found is not None and found[1].startswith(_OURS) and found[1] not in _APART:
            self.wrote.add(found[1])
        return execute(sql, params, many, context)


_acting: ContextVar[Underway | None] = ContextVar("acting", default=None)


def moved(kind: versions.Kind, ref: int, site: int) -> None:
    """Say in the middle of an act that this set, site or van is no longer as it was."""
    act = _acting.get()
    if act is not None:
        act.moved.add(versions.Key(kind, ref, site))
    else:
        versions.bump({versions.Key(kind, ref, site)})


def rights_on(site: int) -> None:
    """Say in the middle of an act on which site its sender's rights were asked for."""
    act = _acting.get()
    if act is not None:
        act.site = site


def act(do: Callable[[], T]) -> T:
    """Do it in one transaction, whole or not at all; again from the start when the database broke it off, at
    whichever statement or at the commit. Inside of another act it is a part of that one.

    Raises what `do` raises; OperationalError when it was broken off every time; RuntimeError when something
    of a set or site was written and nothing said to have moved.
    """
    if _acting.get() is not None:
        return do()
    for left in reversed(range(TRIES)):
        this = Underway()
        token = _acting.set(this)
        try:
            with transaction.atomic(), connection.execute_wrapper(this.watch):
                out = do()
                if this.wrote and not this.moved:
                    raise RuntimeError(f"Written, and nothing said to have moved: {sorted(this.wrote)}")
                versions.bump(this.moved)
            return out
        except OperationalError as error:
            if not broken_off(error) or left == 0:
                raise
        finally:
            _acting.reset(token)
        time.sleep(random.uniform(0.01, 0.05) * (TRIES - left))
    raise AssertionError


def broken_off(error: OperationalError) -> bool:
    return bool(error.args) and error.args[0] in BROKEN_OFF


@contextmanager
def snapshot() -> Iterator[None]:
    """Everything read inside is of one moment, whoever saves meanwhile. Inside of an act: the act's own."""
    if connection.in_atomic_block:
        yield
        return
    with connection.cursor() as cursor:
        cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
    with transaction.atomic():
        yield


def _no_writing(execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
    found = _WRITES.match(sql)
    if found is not None and found[1].startswith(_OURS):
        raise RuntimeError(f"A read writes {found[1]}.")
    return execute(sql, params, many, context)


# What one read has looked up already.
_looked_up: ContextVar[dict[Any, Any] | None] = ContextVar("looked_up", default=None)


def once(key: tuple[Any, ...], ask: Callable[[], T]) -> T:
    """Asked once in a read, which is of one moment; every time in an act."""
    held = _looked_up.get()
    if held is None:
        return ask()
    if key not in held:
        held[key] = ask()
    return held[key]  # type: ignore[no-any-return]


def asked_already(key: tuple[Any, ...]) -> Any:
    """What this read has asked under this key; None: nothing yet, or this is an act."""
    return (_looked_up.get() or {}).get(key)


@contextmanager
def one_moment() -> Iterator[None]:
    """A snapshot in which what is asked `once` is. Inside of another: a part of that one."""
    if _looked_up.get() is not None:
        yield
        return
    token = _looked_up.set({})
    try:
        with snapshot():
            yield
    finally:
        _looked_up.reset(token)


def _read(view: Callable[..., Any]) -> Callable[..., Any]:
    @functools.wraps(view)
    def read(request: HttpRequest, *args: Any, **kwargs: Any) -> Any:
        with one_moment(), connection.execute_wrapper(_no_writing):
            return view(request, *args, **kwargs)

    return read


def _measured(request: HttpRequest) -> int | None:
    """The offset of the sender's clock as it measured it; one that is no figure was not measured."""
    said = request.headers.get(CLOCK, "").strip()
    return int(said) if re.fullmatch(r"-?\d{1,14}", said) else None


# Who has asked once may not be told again when his access has ended since: asked of whoever knows.
STILL_MAY: list[Callable[[Any, int], object]] = []


def _still_may(user: Any, site: int) -> None:
    for ask in STILL_MAY:
        ask(user, site)


def _site() -> int | None:
    """The site on which this act has moved something, or on which its sender had to have rights."""
    act = _acting.get()
    return next((k.site for k in act.moved), act.site) if act is not None else None


def _write(view: Callable[..., Any]) -> Callable[..., Any]:
    @functools.wraps(view)
    def write(request: HttpRequest, *args: Any, **kwargs: Any) -> Any:
        parcel = parcels.of(request)
        device_off.set(_measured(request))
        room()

        def do() -> Any:
            if parcel is None:
                return view(request, *args, **kwargs)
            told = parcels.answered(parcel)
            if told is not None:
                if told.site is not None:
                    _still_may(request.user, told.site)
                return HttpResponse(told.body, status=told.status, content_type="application/json")
            answer = view(request, *args, **kwargs)
            parcels.keep(parcel, answer, _site())
            return answer

        return act(do)

    return write


def judges_only(view: Callable[..., Any]) -> Callable[..., Any]:
    """Mark a POST that changes nothing, or a page that is mostly kept: what it reads anew it reads in one
    moment of its own, and what is kept costs none.
    """
    view.judges_only = True  # type: ignore[attr-defined]
    return view


def _through(view: Callable[..., Any]) -> Callable[..., Any]:
    read, write = _read(view), _write(view)

    @functools.wraps(view)
    def through(request: HttpRequest, *args: Any, **kwargs: Any) -> Any:
        if getattr(view, "judges_only", False):
            with connection.execute_wrapper(_no_writing):
                return view(request, *args, **kwargs)
        return (read if request.method in ("GET", "HEAD") else write)(request, *args, **kwargs)

    return through


class DoorRouter(Router):
    """A router whose reads are of one moment and whose writes are acts."""

    def __init__(self, **kwargs: Any) -> None:
        super().__init__(**kwargs)
        self.add_decorator(_through, mode="operation")
