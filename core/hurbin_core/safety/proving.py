"""Dead, proved in three acts: which one is next for this person, and what is read at it."""

from __future__ import annotations

from typing import Any, Literal

from ..base import Model, field_rules
from .entry import SINGLE_PHASE, THREE_PHASE, MakeSafeEntry
from .isolation import Isolation
from .sources import ACTS, ActField, ActKind, SetFacts

_LABELS = {name: rule.label for name, rule in field_rules(MakeSafeEntry).items()}
# After which state of the proof which act comes; after every other it begins anew.
_NEXT = {"begun": "dead", "read": "live_after"}


class ProofStep(Model):
    """One act of a proof. entry: what saying it puts on the sheet, with what its fields are given; both of
    the act that is next alone.
    """

    id: str
    title: str
    state: Literal["done", "now", "later"]
    word: str = ""
    says: str = ""
    entry: dict[str, Any] = {}
    fields: list[ActField] = []


def next_act(iso: Isolation) -> ActKind:
    """Which act of the proof comes now? One that is void, or was never begun, begins with the first."""
    return ACTS[_NEXT.get(iso.proof.state, "live_before")]


def acts(iso: Isolation, facts: SetFacts, who: str) -> list[ProofStep]:
    """How far has the proof come, and what does `who` (a sign-in) read at the act that is next?

    All three are made with one tester (NFPA 70E 2015 120.1, from memory): whoever began goes on with the one
    that was named; anybody else names the one in hand, and another than the first makes the proof void.
    """
    now, out = next_act(iso), []
    came: Literal["done", "now", "later"] = "done"
    for kind in ACTS.values():
        if kind.id == now.id:
            out.append(_now(kind, iso, facts, who))
            came = "later"
        else:
            out.append(ProofStep(id=kind.id, title=kind.title, state=came))
    return out


def _now(kind: ActKind, iso: Isolation, facts: SetFacts, who: str) -> ProofStep:
    entry: dict[str, Any] = {"kind": "proof", "act": kind.id}
    known = [t.name for t in facts.testers if t.until is None]
    fields = [
        f.model_copy(
            update={
                "beside": f.beside.format(tester=iso.proof.tester),
                "choices": known if f.name == "tester" else [],
            }
        )
        for f in kind.fields
    ]
    begun = kind.id != "live_before"
    if begun and who == iso.proof.who:
        entry["tester"] = iso.proof.tester
    elif begun:
        fields.insert(0, ActField(name="tester", label="voltage tester", choices=known))
    if kind.conductors:
        names = SINGLE_PHASE if facts.single_phase else THREE_PHASE
        fields += [ActField(name=n, label=_LABELS[n], unit="V") for n in names]
    return ProofStep(
        id=kind.id,
        title=kind.title,
        state="now",
        word=kind.word,
        says=kind.says.format(tester=iso.proof.tester),
        entry=entry,
        fields=fields,
    )
