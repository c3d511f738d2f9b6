"""From where a request comes: the socket's other end, or what our own front end says of it."""

from __future__ import annotations

import ipaddress

from django.conf import settings
from django.http import HttpRequest


def address_of(request: HttpRequest) -> str:
    """The sender's address. Behind a front end it is the last that this one put into X-Forwarded-For: what
    stands before it the sender may have written himself. Without one the header is nobody's word.
    """
    said = ""
    if settings.BEHIND:
        said = request.META.get("HTTP_X_FORWARDED_FOR", "").rpartition(",")[2].strip()
    said = said or request.META.get("REMOTE_ADDR", "")
    try:
        return str(ipaddress.ip_address(said))
    except ValueError:
        return "0.0.0.0"
