"""What the gates know of a set, what they answer, and setting one aside."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction

from hurbin_core.base import Limits
from hurbin_core.logbook import Offered
from hurbin_core.plant import KINDS
from hurbin_core.safety import Act, Isolation, SafetyFacts, Waiver, ask, check_waiver, stood_too_long
from hurbin_server.base import audit
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import User
from hurbin_server.logbook.services.casing import overrides_for
from hurbin_server.plant.access import hold_set, set_for
from hurbin_server.plant.known import fitted_now
from hurbin_server.plant.models import PumpSet
from hurbin_server.plant.services.parts import plate_of

from ..models import GateWaiver
from . import hanging
from .qualifying import qualified_now
from .readying import ready_of
from .standing import isolation_now, last_check, last_turned
from .trying import released_on, stops_on


def facts_for(pump_set: PumpSet, iso: Isolation | None = None, worker: str = "") -> SafetyFacts:
    """Everything on record that gates ask for. `worker`: who asks, by sign-in; nobody has no lock."""
    motor = fitted_now(pump_set).get("motor")
    electronics = KINDS[pump_set.kind].built_in_electronics or bool(
        motor and getattr(plate_of(motor), "built_in_electronics", False)
    )
    return SafetyFacts(
        isolation=iso if iso is not None else isolation_now(pump_set, now())[1],
        kind=pump_set.kind,
        electronics=electronics,
        changes=[c.kind for c in hanging.changes_of(pump_set) if c.off_at is None],
        stops=stops_on(pump_set),
        trials=released_on(pump_set),
        worker=worker,
        qualified=qualified_now(worker, pump_set.site_id) if worker else [],
        waivers=[
            Waiver(gate=w.gate, reason=w.reason, by=w.by.full_name, until=w.until)
            for w in hanging.waivers_on(pump_set)
        ],
        stood_too_long=_stood(pump_set),
        ready=ready_of(pump_set),
        as_of=now(),
    )


def _stood(pump_set: PumpSet) -> bool:
    at = now()
    ran, turned = last_check(pump_set, at), last_turned(pump_set)
    return stood_too_long(ran, turned, at, Limits(overrides_for(pump_set)))


def offers_of(pump_set: PumpSet, user: User, acts: list[str]) -> dict[str, Offered]:
    """What the gates say of these acts, for this person, on a set as it stands now."""
    facts = facts_for(pump_set, worker=user.username) if acts else SafetyFacts()
    told = {a: ask(a, facts) for a in acts}  # type: ignore[arg-type]
    return {a: Offered(act=a, offered=t.offered, wants=[s.asks for s in t.shut]) for a, t in told.items()}


def require_act(pump_set: PumpSet, act: Act) -> None:
    """Refuse (409) what a gate does not offer, with what is wanting."""
    answer = ask(act, facts_for(pump_set))
    if not answer.offered:
        first = answer.shut[0]
        raise Refused(409, f"gate_{first.gate}", first.asks, field=first.gate, right=first.title)


def set_aside(user: User, set_id: int, gate: str, reason: str, until: datetime) -> GateWaiver:
    """A lead sets one gate aside on one set until a time; a life-safety gate never (422)."""
    row = set_for(user, set_id, "lead")
    check_waiver(gate, reason, until, now())
    with transaction.atomic():
        hold_set(row.pk)
        made = GateWaiver.objects.create(
            pump_set=row, gate=gate, reason=reason.strip()[:300], by=user, at=now(), until=until
        )
        audit.note(
            user,
            "gate_set_aside",
            f"{row.tag}: {gate}",
            pump_set=row,
            after={"reason": reason, "until": until.isoformat()},
        )
    return made
