"""Hydraulics keeps the loops of a site, and tells a bench of the one that its set is on."""

from django.apps import AppConfig


class HydraulicsConfig(AppConfig):
    name = "hurbin_server.hydraulics"

    def ready(self) -> None:
        from . import listeners  # noqa: F401
