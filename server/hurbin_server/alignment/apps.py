"""Alignment listens to the logbook: shims laid come out of the van."""

from django.apps import AppConfig


class AlignmentConfig(AppConfig):
    name = "hurbin_server.alignment"

    def ready(self) -> None:
        from . import listeners  # noqa: F401
