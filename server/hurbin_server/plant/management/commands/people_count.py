"""How many people can sign in."""

from typing import Any

from django.core.management.base import BaseCommand

from hurbin_server.base.models import User


class Command(BaseCommand):
    help = "Print how many people can sign in."

    def handle(self, *args: Any, **options: Any) -> None:
        self.stdout.write(str(User.objects.filter(is_active=True).count()))
