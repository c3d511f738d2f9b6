"""Stores say what the vans hold, and book what is taken from them."""

from django.apps import AppConfig


class StoresConfig(AppConfig):
    name = "hurbin_server.stores"

    def ready(self) -> None:
        from . import listeners  # noqa: F401
