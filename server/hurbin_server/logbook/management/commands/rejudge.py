"""`hurbin db rejudge`: judge every live record again by the rules, plates and limits of now."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from hurbin_core.base import rules_version
from hurbin_server.logbook.services.judging import rejudge_all
from hurbin_server.plant.models import PumpSet


class Command(BaseCommand):
    help = "Re-evaluate every record; adds evaluations and lists what changed."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--tag", action="append", default=[], help="only this set; may be said again")

    def handle(self, *args: Any, **options: Any) -> None:
        tags = options["tag"]
        if missing := set(tags) - set(PumpSet.objects.filter(tag__in=tags).values_list("tag", flat=True)):
            raise CommandError(f"There is no set {', '.join(sorted(missing))}. Nothing was evaluated.")
        n, changed = rejudge_all(tags)
        for c in changed:
            said = f"{c.old} -> {c.new}" if c.old != c.new else f"{c.new}, reason or figure changed"
            self.stdout.write(f"{c.taken_at[:10]}  {c.tag:12} {said}")
        self.stdout.write(
            f"{n} {'record' if n == 1 else 'records'} evaluated with rules {rules_version()}:"
            f" {len(changed)} changed, {n - len(changed)} unchanged."
        )
