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
        parser.add_argument("--tags", default="", help="load a history for these tags only, comma-separated")

    def handle(self, *args: Any, **options: Any) -> None:
        if Site.objects.exists():
            self.stderr.write(
                "This database already contains a site (interrupted load?). Run ./hurbin db reset --demo"
                " --yes, then try again."
            )
            raise SystemExit(1)
        tags = tuple(t for t in options["tags"].split(",") if t)
        Loader(now(), days=options["days"], tags=tags, say=lambda text: print(text, flush=True)).load()
