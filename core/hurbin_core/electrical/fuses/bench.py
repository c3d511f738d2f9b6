"""The bench for fuses: three of them as they are, beside what the drawing wants."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    Evaluation,
    Finding,
    Limits,
    Missing,
    Needs,
    Phrase,
    amount,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...plant import motor_facts
from ...safety import guarded, live_evidence
from ..circuit import CIRCUIT
from ..circuit.bench import kept_circuit
from .classes import FUSE_CLASSES
from .entry import FusesEntry
from .judging import (
    Fuses,
    blown_finding,
    cause_finding,
    clip_finding,
    covers_finding,
    leg_word,
    load_of,
    odd_marks,
    same_finding,
    sheets_before,
    sum_finding,
    understand,
    unlike,
    wanted_of,
    without_cause,
)
from .view import FusesView, FuseView


def replay(entries: Sequence[Entry[FusesEntry]], case: AnyCase) -> Fuses:
    """The newest word on these fuses, read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else FusesEntry()
    return understand(body, Limits(case.context.overrides), kept_circuit(case).circuit.conductors)


def judge(f: Fuses, case: AnyCase) -> Evaluation[FusesView]:
    """Which fuses blew, are they what the drawing wants, do they carry what hangs on them, and why did they
    blow?

    Ω, A, V, kA. Every field may be missing. Looks prove nothing: only a fuse that was taken out and read is
    sound.
    """
    context, circuit = case.context, kept_circuit(case).circuit
    own, wanted = motor_facts(context.motor).amps_a, wanted_of(context.control, context.fuses)
    before = sheets_before(f, context.earlier)
    times = without_cause(f, before)
    blew = bool(f.blown) or (f.body.when == "fitted" and bool(before) and bool(before[-1].blown))
    said = (
        blown_finding(f),
        cause_finding(f, times, blew),
        same_finding(f, wanted),
        clip_finding(f),
        sum_finding(f, own, circuit.shared_by),
        covers_finding(f),
    )
    raw = [x for x in said if x is not None]
    found, verdict, beside = concluded(raw, _lacking(f, case), f.problems)
    want = wanted.of
    load = load_of(f, own, circuit.shared_by)
    return Evaluation[FusesView](
        bench="fuses",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        cautions=[] if raw else [phrase("fuses.caution"), phrase("safety.codes")],
        waiting=_waiting(f, raw),
        problems=f.problems,
        missing=[] if raw else [Missing(field="ohms_1", message="Take each fuse out and read it by ohms.")],
        view=FusesView(
            fuses=[
                FuseView(
                    leg=n,
                    name=leg_word(n),
                    state="blown" if n in f.blown else "" if n in f.unread else "sound",
                    clip=getattr(f.body, f"clip_{n}") or "",
                    unlike=list(dict.fromkeys([*unlike(f, n, want), *odd_marks(f, n)])),
                )
                for n in f.legs
            ],
            wanted=_wanted_words(want),
            classes={k: c.title for k, c in FUSE_CLASSES.items()},
            load=amount(load[0], "A") if load is not None else None,
            signs=times >= f.limits.count("fuses.second") or f.signed,
        ),
    )


def _lacking(f: Fuses, case: AnyCase) -> dict[str, Phrase | None]:
    isolation = case.state.isolation
    wanting = {
        "fuses.out": not f.body.out,
        "fuses.proved": isolation is None or isolation.state != "proved",
    }
    return {g: None for g, lacks in wanting.items() if lacks}


def _wanted_words(want: dict[str, str | float]) -> str:
    """What the drawing wants, as one says it over a counter: "J, time-delay, 40 A, 600 V"."""
    named = {"delay": "time-delay", "fast": "fast-acting"}
    words = [
        FUSE_CLASSES[str(want["class"])].title if want.get("class") in FUSE_CLASSES else "",
        named.get(str(want.get("delay", "")), ""),
        f"{want['amps']:g} A" if "amps" in want else "",
        f"{want['volts']:g} V" if "volts" in want else "",
    ]
    return ", ".join(w for w in words if w)


def _waiting(f: Fuses, raw: list[Finding]) -> list[Phrase]:
    out: list[Phrase] = []
    if f.blown and f.body.when != "fitted":
        out.append(phrase("fuses.before_power"))
        fast = any(getattr(f.body, f"delay_{n}") == "fast" for n in f.legs)
        if fast:
            out.append(phrase("fuses.fast"))
    if f.blown and len(f.blown) < len(f.legs):
        out.append(phrase("fuses.all_new"))
    return out if raw else []


FUSES = Bench(
    name="fuses",
    title="Fuses",
    records="Fuse checks",
    one="a fuse check",
    offer="Check the fuses",
    gated="Fuses out",
    seen="Enter what was found already",
    key="u",
    does="check its fuses",
    place=85,
    part="supply",
    act="dead_test",
    read_with=("low_resistance",),
    routine=False,
    entry=FusesEntry,
    view=FusesView,
    needs=Needs(plates=("motor", "control", "supply"), earlier=12, extras=(CIRCUIT,)),
    replay=replay,
    judge=guarded(judge, dead_test=True),
    effects=live_evidence(judge),
    facts=newest_body,
)
