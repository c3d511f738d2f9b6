"""A case in few words, for the tests: plates, state and extras by name."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from hurbin_core.electrical.circuit import CIRCUIT
from hurbin_core.hydraulics import LOOP
from hurbin_core.jobs.known import JOB
from hurbin_core.logbook import AnyCase, Case, Context, SetState
from hurbin_core.plant import FittedPart

_STATE = set(SetState.model_fields)


def case(as_of: datetime, **given: Any) -> AnyCase:
    """The case of a set at a time. motor, control, control_kind, fuses: its plates; the fields of its state
    by their names; vans: what they hold; circuit: the one kept with it; everything else is its context's.
    """
    parts: dict[str, FittedPart] = {}
    if given.get("motor") is not None:
        parts["motor"] = FittedPart(kind="motor", plate=given["motor"])
    if given.get("control") is not None or given.get("control_kind"):
        kind = given.get("control_kind") or "starter"
        parts["control"] = FittedPart(kind=kind, plate=given.get("control"))
    if given.get("fuses") is not None:
        parts["supply"] = FittedPart(kind="fuses", plate=given["fuses"])
    state = SetState(**{k: v for k, v in given.items() if k in _STATE})
    extras = {"vans": given["vans"]} if "vans" in given else {}
    if "circuit" in given:
        extras[CIRCUIT] = [given["circuit"]]
    if given.get("pump") is not None:
        parts["pump"] = FittedPart(kind="wet_end", plate=given["pump"])
    if "loop" in given:
        extras[LOOP] = [given["loop"]]
    if "job" in given:
        extras[JOB] = [given["job"]]
    other = {"job", "loop", "motor", "pump", "control", "control_kind", "fuses", "vans", "circuit", *_STATE}
    context = Context(as_of=as_of, parts=parts, **{k: v for k, v in given.items() if k not in other})
    return Case[Any](context=context, state=state, extras=extras)
