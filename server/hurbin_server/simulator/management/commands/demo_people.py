"""Print how the demo's people sign in."""

from typing import Any

from django.core.management.base import BaseCommand

from hurbin_server.simulator.people import PASSWORD, PEOPLE, PINS


class Command(BaseCommand):
    help = "Print the demo sign-ins."

    def handle(self, *args: Any, **options: Any) -> None:
        for name, full, role in PEOPLE:
            pin = f"PIN {PINS[name]}" if name in PINS else ""
            self.stdout.write(f"  {name:8} {PASSWORD}   {pin:10} {role:10} {full}")
