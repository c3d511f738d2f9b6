"""`hurbin user add`: a sign-in from the command line."""

import os
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction

from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.plant.models import Membership, Site
from hurbin_server.plant.services.people import make_user


class Command(BaseCommand):
    help = "Add a person who can sign in."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("--full-name", default="")
        parser.add_argument("--admin", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:
        name = options["name"]
        if User.objects.filter(username=name).exists():
            self.stderr.write(f"User {name} already exists.")
            raise SystemExit(1)
        given = os.environ.get("HURBIN_NEW_PASSWORD", "")
        try:
            with transaction.atomic():
                user, word = make_user(name, options["full_name"], given)
                user.may_make_sites = options["admin"]
                user.save()
                if options["admin"]:
                    Membership.objects.bulk_create(
                        Membership(user=user, site=s, role="admin") for s in Site.objects.all()
                    )
        except Refused as error:
            self.stderr.write(error)
            raise SystemExit(1) from None
        self.stdout.write(f"{name} can sign in." + ("" if given else f" Password: {word}"))
