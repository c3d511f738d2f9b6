"""The bench for a direction of rotation: what stands before a bump, the bump, what two leads turned round."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    Evaluation,
    Limits,
    Missing,
    Needs,
    Phrase,
    concluded,
    phrase,
    rules_version,
    write,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...plant import motor_facts
from ...safety import guarded
from ..circuit import CIRCUIT
from ..circuit.bench import kept_circuit
from ..lasting import again
from .before import PLACES, SetTraits, done, firsts, turned_round
from .entry import MODES, DirectionEntry
from .judging import (
    Proof,
    bump_finding,
    direction_finding,
    fitting,
    turning_back_finding,
    understand,
    unscrewed_finding,
    words_of,
)
from .view import DirectionView, FirstView, ModeView, PlaceView


def modes_of(case: AnyCase) -> list[str]:
    """In which ways is this set run: started, reversed, in star and in delta, on its drive, on its bypass?"""
    circuit = kept_circuit(case).circuit
    modes: list[str] = [m for m in MODES if m in circuit.positions]
    if "delta" in modes:
        # Its main contactor alone in turns nothing.
        modes.remove("in")
    if case.context.control_kind == "drive" and "drive" not in modes:
        return ["drive", *(m for m in modes if m == "bypass")]
    if "bypass" in modes and case.context.control_kind == "soft_starter":
        # A soft starter hands over to its bypass in one start: the same order of phases.
        return ["in"]
    return modes or ["in"]


def replay(entries: Sequence[Entry[DirectionEntry]], case: AnyCase) -> Proof:
    """The newest word on this direction, read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else DirectionEntry()
    traits = SetTraits(kind=case.context.kind, phases=motor_facts(case.context.motor).phases, body=body)
    return understand(body, Limits(case.context.overrides), traits, modes_of(case))


def judge(p: Proof, case: AnyCase) -> Evaluation[DirectionView]:
    """Does the shaft turn with the arrow in every mode, was it proved by what proves it, was it bumped with
    everything that stands before a bump?
    """
    asked = (turning_back_finding(p), unscrewed_finding(p), direction_finding(p), bump_finding(p))
    raw = [f for f in asked if f is not None]
    found, verdict, beside = concluded(raw, _lacking(p), p.problems)
    settled = ["turning_back"] if p.body.turns_back == "no" else []
    if p.body.bumped and not any(f.question == "direction_bump" for f in raw):
        settled.append("direction_bump")
    if any(f.question == "direction" and f.verdict.value == "good" for f in found) and p.body.locked:
        settled.append("direction_unscrewed")
    return Evaluation[DirectionView](
        bench="direction",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        settled=settled,
        cautions=[] if raw else [phrase("direction.caution"), phrase("safety.codes")],
        due=again(case, "lasting.joined"),
        problems=p.problems,
        missing=[] if raw else [Missing(field="proof", message="Enter how the direction was proved.")],
        view=_drawn(p),
    )


def _lacking(p: Proof) -> dict[str, Phrase | None]:
    body = p.body
    wanting = {
        "direction.arrow": body.arrow in (None, "none") or body.seen_from is None,
        "direction.traits": body.threaded is None or body.one_way is None,
        "direction.hand_auto": "drive" in p.modes and not body.hand_auto,
        "direction.stands": body.turns_back is None,
    }
    return {g: None for g, lacks in wanting.items() if lacks}


def _drawn(p: Proof) -> DirectionView:
    body, asked = p.body, firsts(p.traits)
    fits = fitting(p)
    arrow = body.arrow if body.arrow in ("cw", "ccw") else ""
    single = p.traits.phases == 1
    return DirectionView(
        arrow=arrow,
        seen_from=body.seen_from or "",
        modes=[
            ModeView(
                id=m,
                title=write(phrase(f"direction.mode_{m}")),
                before=p.before(m),
                now=p.now(m),
            )
            for m in p.modes
        ],
        firsts=[
            FirstView(
                id=f.id,
                title=f.title,
                why=f.why,
                done=done(p.traits, f),
                field="" if f.id == "uncoupled" else f.id,
            )
            for f in asked
        ],
        waits=sum(not done(p.traits, f) for f in asked),
        places=[
            PlaceView(
                id=k,
                title=x.title,
                turns=words_of([m for m in p.modes if m in turned_round(k, p.modes)]),
                fits=k in fits,
            )
            for k, x in PLACES.items()
            if _there(k, p.modes, single)
        ],
        single=single,
        one_body=p.traits.one_body,
    )


def _there(place: str, modes: list[str], single: bool) -> bool:
    """Is there such a place on this set?"""
    if single or place == "start_winding":
        return single and place == "start_winding"
    if place in ("drive_out", "parameter", "drive_in"):
        return "drive" in modes
    if place == "bypass":
        return "bypass" in modes
    return place != "starter" or "in" in modes


DIRECTION = Bench(
    name="direction",
    title="Direction",
    records="Directions proved",
    one="a direction",
    offer="Prove the direction",
    gated="Bump",
    seen="Enter a direction already seen",
    key="3",
    does="prove which way it turns",
    place=47,
    part="motor",
    act="bump",
    entry=DirectionEntry,
    view=DirectionView,
    needs=Needs(plates=("motor", "control"), extras=(CIRCUIT,)),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
