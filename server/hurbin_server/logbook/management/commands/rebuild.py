"""`hurbin db rebuild`: the answers and part states again from the judgements."""

from functools import partial
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db.models import Exists, OuterRef

from hurbin_server.base.door import act
from hurbin_server.logbook.models import Answer, Finding
from hurbin_server.logbook.services.answers import answer
from hurbin_server.plant.models import PumpSet


class Command(BaseCommand):
    help = "Make every answer and part state again from the judgements on file."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument(
            "--missing", action="store_true", help="only sets that have findings and no answer yet"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        rows = PumpSet.objects.select_related("service")
        if options["missing"]:
            judged = Finding.objects.filter(pump_set=OuterRef("pk"), live=True)
            rows = rows.filter(Exists(judged), ~Exists(Answer.objects.filter(pump_set=OuterRef("pk"))))
        for row in rows:
            act(partial(answer, row))
        self.stdout.write(f"{len(rows)} sets rebuilt.")
