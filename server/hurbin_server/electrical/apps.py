"""Electrical keeps the circuit of each set, and draws its own view on a certificate."""

from django.apps import AppConfig


class ElectricalConfig(AppConfig):
    name = "hurbin_server.electrical"

    def ready(self) -> None:
        from hurbin_core.electrical import INSULATION
        from hurbin_server.logbook.certificate import DRAWINGS

        from . import listeners  # noqa: F401
        from .curve_pdf import draw_curves

        DRAWINGS[INSULATION.name] = draw_curves
