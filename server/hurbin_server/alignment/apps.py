"""Alignment draws its own view on a certificate."""

from django.apps import AppConfig


class AlignmentConfig(AppConfig):
    name = "hurbin_server.alignment"

    def ready(self) -> None:
        from hurbin_core.alignment import ALIGNMENT
        from hurbin_server.logbook.certificate import DRAWINGS

        from .shafts_pdf import draw_passes

        DRAWINGS[ALIGNMENT.name] = draw_passes
