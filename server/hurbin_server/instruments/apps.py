"""Instruments say what they are, and whether their readings count."""

from django.apps import AppConfig


class InstrumentsConfig(AppConfig):
    name = "hurbin_server.instruments"
