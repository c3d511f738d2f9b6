"""`hurbin demo`: fill an empty database with the aquarium."""

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from hurbin_server.base.clock import now
from hurbin_server.plant.models import Site
from hurbin_server.simulator.loading import DAYS, Loader


class Command(BaseCommand):
    help = "Load the demo plant with its history."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--days", type=int, default=DAYS)
        parser.add_argument("--tags", default="", help="only these sets get a history (comma between)")

    def handle(self, *args: Any, **options: Any) -> None:
        if Site.objects.exists():
            self.stderr.write(
                "There is a site in this database already; an interrupted load? ./hurbin db reset --demo"
                " --yes, then again."
            )
            raise SystemExit(1)
        tags = tuple(t for t in options["tags"].split(",") if t)
        Loader(now(), days=options["days"], tags=tags, say=lambda text: print(text, flush=True)).load()
