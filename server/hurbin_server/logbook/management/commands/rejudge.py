"""`hurbin db rejudge`: judge every live record again by the rules, plates and limits of now."""

from typing import Any

from django.core.management.base import BaseCommand

from hurbin_core.base import rules_version
from hurbin_server.logbook.services.judging import rejudge_all


class Command(BaseCommand):
    help = "Re-evaluate every record; adds evaluations and lists what changed."

    def handle(self, *args: Any, **options: Any) -> None:
        n, changed = rejudge_all()
        for c in changed:
            said = f"{c.old} -> {c.new}" if c.old != c.new else f"{c.new}, reason or figure changed"
            self.stdout.write(f"{c.taken_at[:10]}  {c.tag:12} {said}")
        self.stdout.write(
            f"{n} records evaluated with rules {rules_version()}: {len(changed)} changed,"
            f" {n - len(changed)} unchanged."
        )
