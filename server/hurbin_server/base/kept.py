"""Reads that are kept for a while in this process, and may be thrown away at any time.

What is kept carries the numbers of everything it was read from (`versions`), the rules and the reader; it is
good while none has grown and no date of its own has passed. Nothing here is the truth of anything.
"""

from __future__ import annotations

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from typing import Any, Generic, TypeVar

from django.http import HttpRequest, HttpResponse, HttpResponseNotModified
from django.middleware.gzip import GZipMiddleware, re_accepts_gzip
from django.utils.text import compress_string

from hurbin_core.base import rules_version

from .clock import now
from .door import one_moment

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Held(Generic[T]):
    stamp: str
    until: datetime | None
    what: T


class Kept(Generic[T]):
    """The last `most` things read under this name, and no more than `room` of them as they are weighed; the
    least used are thrown out first.
    """

    def __init__(self, most: int, room: int = 0, weigh: Callable[[T], int] = lambda _: 0) -> None:
        self._most, self._room, self._weigh = most, room, weigh
        self._taken = 0
        self._held: OrderedDict[Hashable, Held[T]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable) -> Held[T] | None:
        with self._lock:
            found = self._held.get(key)
            if found is not None:
                self._held.move_to_end(key)
            return found

    def good(self, key: Hashable, stamp: str) -> T | None:
        """What is kept under this key, if it was read in this state and no date of it has passed."""
        found = self.get(key)
        if found is None or found.stamp != stamp or (found.until is not None and now() >= found.until):
            return None
        return found.what

    def put(self, key: Hashable, stamp: str, until: datetime | None, what: T) -> None:
        with self._lock:
            old = self._held.pop(key, None)
            self._held[key] = Held(stamp, until, what)
            self._taken += self._weigh(what) - (self._weigh(old.what) if old is not None else 0)
            while len(self._held) > self._most or (self._taken > self._room and len(self._held) > 1):
                gone = self._held.popitem(last=False)[1]
                self._taken -= self._weigh(gone.what)

    def clear(self) -> None:
        with self._lock:
            self._held.clear()
            self._taken = 0


@dataclass(frozen=True)
class Page:
    """A page as it goes out."""

    body: bytes
    tag: str

    @cached_property
    def deflated(self) -> bytes:
        """As browsers take it, deflated once. Its padding of random length is Django's own, against guessing
        what is inside from how long it is.
        """
        return compress_string(self.body, max_random_bytes=GZipMiddleware.max_random_bytes)


pages: Kept[Page] = Kept(512, room=64_000_000, weigh=lambda p: len(p.body))


def page(
    request: HttpRequest, key: Hashable, stamp: str, make: Callable[[], tuple[Any, datetime | None]]
) -> HttpResponse:
    """A page as JSON: as it was kept, or made now. 304 when the reader has it already.

    `stamp`: the state of everything it is read from, taken before it is read. `make` gives the page's model
    and the first moment at which it says something else by itself.
    """
    stamp = f"{rules_version()}·{stamp}"
    found = pages.good(key, stamp)
    if found is None:
        # The state was taken before: what moves in between is newer than it says, and is read again.
        with one_moment():
            model, until = make()
        body = model.model_dump_json().encode()
        found = Page(body, f'W/"{hashlib.sha256(body).hexdigest()[:32]}"')
        pages.put(key, stamp, until, found)
    if found.tag[2:] in request.headers.get("If-None-Match", ""):
        answer: HttpResponse = HttpResponseNotModified()
    elif re_accepts_gzip.search(request.headers.get("Accept-Encoding", "")):
        answer = HttpResponse(found.deflated, content_type="application/json")
        answer["Content-Encoding"] = "gzip"
    else:
        answer = HttpResponse(found.body, content_type="application/json")
    answer["Vary"] = "Accept-Encoding"
    answer["ETag"] = found.tag
    answer["Cache-Control"] = "private, no-cache"
    return answer
