"""Stores add the vans' shims to what the alignment bench knows."""

from django.apps import AppConfig


class StoresConfig(AppConfig):
    name = "hurbin_server.stores"

    def ready(self) -> None:
        from . import listeners  # noqa: F401
