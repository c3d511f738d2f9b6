"""How often one person, and one address, may ask for what costs much. Counted in each web process."""

from __future__ import annotations

import threading
import time
from collections import OrderedDict

from django.conf import settings
from django.http import HttpRequest
from ninja.throttling import BaseThrottle

from .address import address_of

# More senders than this are not told apart: the longest quiet ones begin anew.
MOST_SENDERS = 4096


class Limit(BaseThrottle):
    """So many a minute of one person, and so many of one address; what was not used is kept up to a minute's.

    The framework's own throttle keeps its count on itself between two statements, where another thread finds
    it; this one counts under a lock.
    """

    def __init__(self, person: int, address: int) -> None:
        self._rates = {"person": person, "address": address}
        self._left: OrderedDict[tuple[str, object], tuple[float, float]] = OrderedDict()
        self._lock = threading.Lock()
        self._told = threading.local()

    def allow_request(self, request: HttpRequest) -> bool:
        keys: list[tuple[str, object]] = [("address", address_of(request))]
        if request.user.is_authenticated:
            keys.append(("person", request.user.pk))
        with self._lock:
            waits = [self._take(key, time.monotonic()) for key in keys]
        self._told.wait = max(waits)
        return self._told.wait <= 0

    def _take(self, key: tuple[str, object], now: float) -> float:
        """Take one; how many seconds until there is one."""
        most = float(self._rates[key[0]] * settings.LIMIT_TIMES)
        left, at = self._left.pop(key, (most, now))
        left = min(most, left + (now - at) * most / 60)
        taken = left >= 1
        self._left[key] = (left - taken, now)
        while len(self._left) > MOST_SENDERS:
            self._left.popitem(last=False)
        return 0.0 if taken else (1 - left) * 60 / most

    def wait(self) -> float | None:
        return max(1.0, getattr(self._told, "wait", 1.0))

    def clear(self) -> None:
        with self._lock:
            self._left.clear()


# Somebody who types asks three or four times a second; a whole site may stand behind one address.
EVALUATE = Limit(person=900, address=6000)
UPLOAD = Limit(person=60, address=300)
SIGN_IN = Limit(person=60, address=60)
