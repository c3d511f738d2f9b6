"""The demo's instruments through the years: entered, calibrated when it was time, in somebody's hand; and who
is qualified for what.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from hurbin_core.base import Entered
from hurbin_core.instruments import InstrumentSaid, SpanSaid
from hurbin_server.base.models import User
from hurbin_server.instruments.services.registering import add, calibrate, take_in_hand
from hurbin_server.plant.models import Site
from hurbin_server.safety.services.qualifying import qualify

_DATA = tomllib.loads((Path(__file__).parent / "demo" / "instruments.toml").read_text())
_EVERY = 360


def _entered(text: str) -> Entered:
    figure, unit = text.split(" ")
    return Entered(text=figure, unit=unit)


@dataclass(slots=True)
class InstrumentLife:
    """The register as it stands by `as_of`. `in_hand`: what each person reads with; `testers`: the insulation
    tester that reaches so far, in MΩ; `numbers`: each by its label.
    """

    as_of: datetime
    users: dict[str, User]
    site: Site
    days: int
    in_hand: dict[str, dict[str, str]] = field(default_factory=dict)
    testers: dict[int, str] = field(default_factory=dict)
    numbers: dict[str, str] = field(default_factory=dict)

    def happen(self) -> None:
        lead = self.users["teodor"]
        for x in _DATA["instrument"]:
            self.numbers[x["name"]] = str(self._entered(lead, x))
            if "ceiling" in x:
                self.testers[x["ceiling"]] = self.numbers[x["name"]]
        for who, reads in _DATA["hand"].items():
            self.in_hand[who] = {r: self.numbers[name] for r, name in reads.items()}
            chosen = {r: int(number) for r, number in self.in_hand[who].items()}
            take_in_hand(self.users[who], self.site.pk, chosen)
        today = self.as_of.date()
        for x in _DATA["qualified"]:
            since, until = today - timedelta(days=x["since_days"]), today + timedelta(days=x["until_days"])
            admin = self.users["ines"]
            qualify(admin, self.site.pk, x["who"], x["kind"], since, until, x["number"])

    def _entered(self, lead: User, x: dict[str, Any]) -> int:
        spans = [
            SpanSaid(reads=s["reads"], top=_entered(s["top"]), step=_entered(s["step"])) for s in x["spans"]
        ]
        volts = Entered(text=x["volts"], unit="V") if "volts" in x else None
        said = InstrumentSaid(
            name=x["name"],
            kind=x["kind"],
            spans=spans,
            category=x.get("category", ""),
            category_volts=volts,
        )
        begins = (self.as_of - timedelta(days=self.days + 400)).date()
        row = add(lead, self.site.pk, said, begins)
        if "last" in x:
            done = self.as_of.date() - timedelta(days=x["last"])
            made = [done - timedelta(days=_EVERY * n) for n in range((self.days + 400) // _EVERY + 1)]
            for on in sorted(d for d in made if d >= begins):
                calibrate(lead, row.pk, on, on + timedelta(days=364), "within")
        return row.pk
