"""`hurbin user WORD NAME`: what can be done to a sign-in, by whoever runs the machine."""

from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction

from hurbin_server.base import accounts
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.plant.services.accounts import by_name, sessions_of


class Command(BaseCommand):
    help = "Reset a password, take a sign-in away or give it back, end sessions, lift a lock-out, list."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("what", choices=("list", "password", "disable", "enable", "sign-out", "unlock"))
        parser.add_argument("name", nargs="?", default="")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["what"] == "list":
            self._list()
            return
        name = options["name"]
        try:
            with transaction.atomic():
                said = by_name(name, _DOES[options["what"]])
        except Refused as error:
            self.stderr.write(str(error))
            raise SystemExit(1) from None
        self.stdout.write(f"{name} {said}")

    def _list(self) -> None:
        people = list(User.objects.order_by("username"))
        standing = sessions_of(people)
        for p in people:
            told = [
                "may sign in" if p.is_active else "disabled",
                f"{standing.get(p.pk, 0)} sessions",
                *(["password to change"] if p.must_change else []),
            ]
            self.stdout.write(f"{p.username:20} {p.full_name:30} {', '.join(told)}")


def _password(person: User) -> str:
    word = accounts.one_time_password(None, person)
    return f"signs in once with {word} and then chooses a password."


def _disable(person: User) -> str:
    accounts.set_active(None, person, False)
    return "can no longer sign in; all sessions ended."


def _enable(person: User) -> str:
    accounts.set_active(None, person, True)
    return "can sign in again."


def _sign_out(person: User) -> str:
    return f"is signed out: {accounts.end_sessions(None, person)} sessions ended."


def _unlock(person: User) -> str:
    return f"is locked out no more ({accounts.lift_lock_out(None, person)} attempts forgotten)."


_DOES = {
    "password": _password,
    "disable": _disable,
    "enable": _enable,
    "sign-out": _sign_out,
    "unlock": _unlock,
}
