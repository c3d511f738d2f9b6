"""`hurbin db rebuild`: the part states again from the judgements."""

from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from hurbin_server.logbook.services.judging import write_part_states
from hurbin_server.plant.models import PumpSet


class Command(BaseCommand):
    help = "Make every part state again from the judgements on file."

    def handle(self, *args: Any, **options: Any) -> None:
        rows = PumpSet.objects.select_related("service")
        for row in rows:
            with transaction.atomic():
                write_part_states(row)
        self.stdout.write(f"{len(rows)} sets rebuilt.")
