"""The loop bench: is it leaking or only cooling, and what else its gauge, vessel and vents say."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    Effect,
    Evaluation,
    Missing,
    Needs,
    Phrase,
    Quantity,
    SeriesPoint,
    TemporaryChange,
    Verdict,
    amount,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Conditions, Entry, newest, newest_body
from ...safety import guarded
from ..lasting import again
from ..loops import LOOP, of_register
from .drawn import drawn
from .entry import LoopEntry
from .judging import findings, forecast_words
from .sheet import Hold, understand
from .view import LoopView

CHANGE = "make_up_open"


def replay(entries: Sequence[Entry[LoopEntry]], case: AnyCase) -> Hold:
    """The newest word on this loop, read once, with its pressures on record."""
    entry = newest(list(entries))
    return understand(entry.body if entry is not None else LoopEntry(), case)


def judge(h: Hold, case: AnyCase) -> Evaluation[LoopView]:
    """Is it leaking or only cooling; is its highest point filled; how long does it last?

    kPa gauge, l, l a day, °C. Only standing pressures with their temperature count, hose off, make-up shut or
    metered; anything else is left out and says why.
    """
    raw = findings(h)
    found, verdict, beside = concluded(raw, _lacking(h), h.t.problems)
    loss = next((f for f in found if f.question == "loop_loss"), None)
    told = loss is not None and loss.verdict is not Verdict.UNKNOWN
    leaking = told and loss is not None and loss.verdict is not Verdict.GOOD
    return Evaluation[LoopView](
        bench="loop",
        rules_version=rules_version(),
        conditions=Conditions.of(pump="standing").key,
        verdict=verdict,
        beside=beside,
        values=_values(h),
        findings=found,
        waiting=forecast_words(h, leaking),
        cautions=[phrase("loop.caution")],
        points=_points(h, told),
        due=again(case, "water.stands_short"),
        problems=h.t.problems,
        missing=[*of_register(h.loop), *_missing(h)],
        view=drawn(h, leaking),
    )


def _lacking(h: Hold) -> dict[str, Phrase | None]:
    short = h.wait_h is not None and h.hours < h.wait_h
    wanting = {
        "loop.step": "gauge_step" not in h.loop.got,
        "loop.wait": short,
        "loop.fresh": h.body.fresh != "no",
        "loop.pipe": h.loop.plate.pipe is None,
        "loop.altitude": not h.loop.air_known,
        "loop.left_out": h.unwarm,
        "loop.twin": h.body.twin not in ("off", "none"),
        "loop.let_in": h.open_make_up and not h.t.has("meter_start", "meter_end"),
    }
    words: dict[str, Phrase | None] = {}
    if short and h.wait_h is not None:
        words["loop.wait"] = phrase("loop.wait_more", wait=amount(h.wait_h, "h"), waited=amount(h.hours, "h"))
    return {n: words.get(n) for n, lacks in wanting.items() if lacks}


def _values(h: Hold) -> dict[str, Quantity]:
    out: dict[str, Quantity] = {}
    if h.lost is not None:
        out["lost"] = amount(h.lost, "l", u=h.u_lost)
    if h.rate is not None:
        out["rate"] = amount(h.rate, "l/d", u=h.u_rate)
    if h.wait_h is not None:
        out["wait"] = amount(h.wait_h, "h")
    if h.made_up:
        out["made_up"] = amount(h.made_up, "l")
    return out


def _points(h: Hold, told: bool) -> list[SeriesPoint]:
    """The last standing pressure typed here, with its temperature; and the loss, where it could be told."""
    mine = [r for r in h.used if not r.past]
    key = Conditions.of(pump="standing").key
    out = []
    if mine:
        out.append(("loop_pressure", key, mine[-1].kpa, "kPa"))
        out.append(("loop_temperature", key, mine[-1].temp, "degC"))
    if told and h.rate is not None:
        out.append(("loop_loss", "", max(0.0, h.rate), "l/d"))
    return [SeriesPoint(measurand=m, part="", conditions=c, value=v, unit=u) for m, c, v, u in out]


def _missing(h: Hold) -> list[Missing]:
    if h.loop.known is None:
        words = "This set is on no loop of the register. Add the loop there: volume, vessel, highest point."
        return [Missing(field="loop", message=words)]
    out = [
        Missing(field="loop", message=f"{label} of this loop is not entered in the register.")
        for name, label in _WANTED.items()
        if name not in h.loop.got and not (name == "precharge" and h.loop.rigid)
    ]
    if h.loop.plate.fluid is None:
        out.append(Missing(field="loop", message="The liquid of this loop is not entered in the register."))
    if not h.body.readings:
        words = "Enter two standing pressures or more, each with the loop's temperature."
        out.append(Missing(field="readings", message=words))
    return out


_WANTED = {
    "volume": "The volume",
    "vessel": "The vessel (0 where there is none)",
    "precharge": "The precharge",
    "high_point": "The highest point",
    "gauge_step": "The smallest step of the gauge",
}


def effects(h: Hold, case: AnyCase, recorded: bool) -> list[Effect]:
    """Make-up left open is a temporary change, with its meter and its end; shut again it is over."""
    if not recorded or h.body.make_up is None:
        return []
    until = f", until {h.body.make_up_until.isoformat()}" if h.body.make_up_until is not None else ""
    meter = f"meter at {h.t.got['meter_end']:g} l" if "meter_end" in h.t.got else "no meter read"
    return [
        TemporaryChange(
            key=CHANGE,
            change=CHANGE,
            place="make-up valve",
            note=f"{meter}{until}",
            on=h.body.make_up == "open",
            at=case.context.as_of,
            of="set",
        )
    ]


LOOP_BENCH = Bench(
    name="loop",
    title="Loop",
    records="Loop checks",
    one="a loop check",
    offer="Leak or only cooling?",
    key="9",
    does="tell a leak from cooling",
    place=34,
    part="pump",
    slot="pump",
    entry=LoopEntry,
    view=LoopView,
    needs=Needs(extras=(LOOP,)),
    replay=replay,
    judge=guarded(judge),
    effects=effects,
    facts=newest_body,
    routine=False,
)
