"""The logbook listens to the plant: a corrected plate judges the newest record again."""

from django.apps import AppConfig


class LogbookConfig(AppConfig):
    name = "hurbin_server.logbook"

    def ready(self) -> None:
        from . import listeners, searching  # noqa: F401
