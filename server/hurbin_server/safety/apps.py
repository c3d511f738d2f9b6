"""Safety listens to the logbook: volts on an isolated set revoke its proof, entries change how a set
stands.
"""

from django.apps import AppConfig


class SafetyConfig(AppConfig):
    name = "hurbin_server.safety"

    def ready(self) -> None:
        from . import listeners, searching  # noqa: F401
