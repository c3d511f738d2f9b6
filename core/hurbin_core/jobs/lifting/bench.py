"""May this be lifted: load, legs, reach, and the plan that has to stand before it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from ...base import (
    Entered,
    Evaluation,
    Finding,
    Kept,
    Model,
    Phrase,
    Quantity,
    Unknown,
    Verdict,
    amount,
    entered_field,
    exceeds,
    phrase,
    said_field,
)
from ...hydraulics import answer
from ...logbook import AnyCase, Entry
from ..tooling import Tool, judge_tool, lacks, small_bench, told, tool_of


def _mass(label: str, most: float = 100000, kept: Kept = Kept.ENTRY) -> Entered | None:
    field: Entered | None = entered_field(label, "mass", low=0, high=most, kept=kept, printed=True)
    return field


class LiftingEntry(Model):
    """A load on its hook, and the plan. Every field may be missing."""

    weight: Entered | None = _mass("Weight, nameplate or load cell", kept=Kept.SET)
    rigging: Entered | None = _mass("Rigging")
    water: Entered | None = _mass("Water and rag in it")
    hoist: Entered | None = _mass("Hoist rating", kept=Kept.SET)
    sling: Entered | None = _mass("Sling rating, one leg")
    shackle: Entered | None = _mass("Shackle rating, each")
    eye: Entered | None = _mass("Eye rating, straight pull")
    eye_kind: Literal["plain", "shouldered", "bail", "motor"] | None = said_field("Eye")
    legs: Literal["1", "2", "3", "4"] | None = said_field("Sling legs")
    angle: Entered | None = entered_field("Leg angle from horizontal", "angle", low=1, high=90)
    reach: Entered | None = entered_field("Hook from the hoist's post", "height", low=0.1, high=60)
    reach_rated: Entered | None = entered_field(
        "Reach of the hoist rating", "height", low=0.1, high=60, kept=Kept.SET, printed=True
    )
    whole_set: Literal["yes", "no"] | None = said_field("What is lifted")
    rated: Literal["yes", "no"] | None = said_field("All of it rated and in date")
    trial: Literal["level", "slipped"] | None = said_field("Trial lift 50 mm, 10 s")
    outside: Literal["yes", "no"] | None = said_field("Outside or on a roof")
    wind: Entered | None = entered_field("Wind at the hook", "velocity", low=0, high=60)
    name_1: str = said_field("Lift led by", "", max_length=80)
    name_2: str = said_field("With", "", max_length=80)
    area: Literal["yes", "no"] | None = said_field("Area below closed")
    route: str = said_field("Route and obstacles", "", max_length=300)
    note: str = said_field("Note", "", free=True, max_length=500)


class LiftLink(Model):
    """One link of the chain from hook to load: what it carries, what it is rated for, the share; at: the same
    as a length, its rating 1.
    """

    name: str
    carries: Quantity
    rated: Quantity
    share: Quantity
    at: float
    weakest: bool = False


class LiftingView(Model):
    """The hook, its legs and the load. angle: of a leg, degrees from horizontal."""

    load: Quantity | None = None
    leg: Quantity | None = None
    angle: float | None = None
    legs: int = 1
    links: list[LiftLink] = []
    wants: list[str] = []


def leg_load(load: float, legs: int, angle_deg: float, counted: int = 2) -> float:
    """What one leg carries: load / (n·sin θ), θ from horizontal, n at most two: the others may hang slack.
    Same unit as the load. Trigonometry.

    >>> round(leg_load(310, 2, 60)), round(leg_load(310, 4, 30))
    (179, 310)
    """
    return load / (min(legs, counted) * math.sin(math.radians(angle_deg)))


def replay(entries: Sequence[Entry[LiftingEntry]], case: AnyCase) -> Tool[LiftingEntry]:
    return tool_of(entries, LiftingEntry, case)


def judge(f: Tool[LiftingEntry], case: AnyCase) -> Evaluation[LiftingView]:
    """Does the weakest link carry it, is the sling steep enough, does the plan stand? kg, degrees, m/s.

    A weight nobody knows is a stop. Without two names, a closed area, a route, and the wind where it is
    outside, there is no plan. It never says that a lift is safe.
    """
    view = _drawn(f)
    raw = [_load(f, view), _angle(f), _wind(f), _plan(f, view)] if f.t.got or view.wants != _ALL else []
    lacking = lacks(
        lift__rated=f.body.rated != "yes",
        lift__eye=f.body.eye_kind is None or f.body.whole_set is None,
    )
    return told("lifting", f, raw, lacking, view, cautions=[phrase("lift.caution")])


def _total(f: Tool[LiftingEntry]) -> float | None:
    parts = [f.get(n) for n in ("weight", "rigging", "water")]
    return None if any(p is None for p in parts) else sum(p for p in parts if p is not None)


def _legs(f: Tool[LiftingEntry]) -> int:
    return int(f.body.legs or 1)


def _leg(f: Tool[LiftingEntry], load: float) -> float | None:
    if _legs(f) == 1:
        return load
    angle = f.get("angle")
    return None if angle is None else leg_load(load, _legs(f), angle, f.limits.count("lift.legs"))


def _links(f: Tool[LiftingEntry], load: float) -> list[LiftLink]:
    leg = _leg(f, load)
    hoist, reach, rated_at = f.get("hoist"), f.get("reach"), f.get("reach_rated")
    if hoist is not None and reach is not None and rated_at is not None and exceeds(reach, rated_at):
        # A jib turns over by its moment: what it holds falls with the reach.
        hoist = hoist * rated_at / reach
    carried = [("hoist", load, hoist), ("sling, one leg", leg, f.get("sling"))]
    carried += [("shackle", leg, f.get("shackle")), ("eye", leg, f.get("eye"))]
    rows = [(n, c, r) for n, c, r in carried if c is not None and r]
    worst = max((c / r for _, c, r in rows), default=0.0)
    return [
        LiftLink(
            name=n,
            carries=amount(c, "kg"),
            rated=amount(r, "kg"),
            share=amount(100 * c / r, "%"),
            at=min(1.2, c / r),
            weakest=c / r == worst,
        )
        for n, c, r in rows
    ]


def _load(f: Tool[LiftingEntry], view: LiftingView) -> Finding | None:
    load = _total(f)
    if load is None:
        return answer("lift_load", Verdict.STOP, phrase("lift.no_weight"))
    if f.body.eye_kind == "motor" and f.body.whole_set == "yes":
        return answer("lift_load", Verdict.STOP, phrase("lift.motor_eye"))
    if f.body.eye_kind == "plain" and _legs(f) > 1:
        return answer("lift_load", Verdict.STOP, phrase("lift.plain_eye"))
    if f.body.trial == "slipped":
        return answer("lift_load", Verdict.STOP, phrase("lift.slipped"))
    lacking = [n for n in ("hoist", "sling", "shackle", "eye") if not f.get(n)]
    if lacking or (_legs(f) > 1 and f.get("angle") is None):
        what = ", ".join([*lacking, *(["leg angle"] if _legs(f) > 1 and f.get("angle") is None else [])])
        return answer("lift_load", Verdict.STOP, phrase("lift.no_rating", what=what))
    weakest = next(k for k in view.links if k.weakest)
    reason = phrase("lift.weakest", name=weakest.name, carries=weakest.carries, rated=weakest.rated)
    return judge_tool(f, "lift_load", weakest.share, reason)


def _angle(f: Tool[LiftingEntry]) -> Finding | None:
    angle = f.get("angle")
    if angle is None or _legs(f) == 1:
        return None
    return judge_tool(f, "lift_angle", amount(angle, "deg"), phrase("lift.angle", angle=amount(angle, "deg")))


def _wind(f: Tool[LiftingEntry]) -> Finding | None:
    wind = f.get("wind")
    if wind is None:
        return None
    return judge_tool(f, "lift_wind", amount(wind, "m/s"), phrase("lift.wind", wind=amount(wind, "m/s")))


_ALL = ["two names", "area below closed", "route", "inside or outside"]


def _wants(f: Tool[LiftingEntry]) -> list[str]:
    b = f.body
    one, two = b.name_1.strip().casefold(), b.name_2.strip().casefold()
    told_ = [
        (not one or not two or one == two, "two names"),
        (b.area != "yes", "area below closed"),
        (not b.route.strip(), "route"),
        (b.outside is None, "inside or outside"),
        (b.outside == "yes" and f.get("wind") is None, "wind"),
    ]
    return [words for lacking, words in told_ if lacking]


def _plan(f: Tool[LiftingEntry], view: LiftingView) -> Finding:
    if view.wants:
        reason: Phrase = phrase("lift.no_plan", what=", ".join(view.wants))
        return answer("lift_plan", Verdict.UNKNOWN, reason, unknown=Unknown.INCOMPLETE)
    return answer("lift_plan", Verdict.GOOD, phrase("lift.plan"))


def _drawn(f: Tool[LiftingEntry]) -> LiftingView:
    load = _total(f)
    view = LiftingView(legs=_legs(f), angle=f.get("angle"), wants=_wants(f))
    if load is None:
        return view
    leg = _leg(f, load)
    view.load = amount(load, "kg")
    view.leg = amount(leg, "kg") if leg is not None else None
    view.links = _links(f, load)
    return view


LIFTING = small_bench(
    "lifting",
    "\\",
    "Lift",
    "Lift plans",
    "a lift plan",
    "Plan a lift",
    "hold a load against its weakest link",
    65,
    "pump",
    LiftingEntry,
    LiftingView,
    replay,
    judge,
)
