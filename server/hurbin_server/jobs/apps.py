"""Jobs tell a bench of a set what it may stand on, and keep the procedures of a site."""

from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "hurbin_server.jobs"

    def ready(self) -> None:
        from . import listeners, report  # noqa: F401
