"""A pump-down once understood: volumes by the well's shape, inflow before and after, its pump between."""

from __future__ import annotations

import itertools
import math
import re
from dataclasses import dataclass, field

from ...base import HurbinError, Limits, Phrase, Problem, amount, exceeds, phrase, read_fields
from ...logbook import AnyCase, since_cut
from ...plant import MotorFacts, motor_facts
from ..curve import Line
from ..reading import Typed, typed_of
from .entry import DrawdownEntry, DrawRun


@dataclass(frozen=True, slots=True)
class Run:
    """l/s: what flows in before and after (None: not read), what leaves the well, what the pump moves."""

    before: float
    after: float | None
    draw: float
    start: float | None

    @property
    def inflow(self) -> float:
        return self.before if self.after is None else (self.before + self.after) / 2

    @property
    def pump(self) -> float:
        return self.draw + self.inflow


@dataclass(slots=True)
class Draw:
    """flow: l/s, the mean of its runs; spread: their largest difference, percent. best: its own best, with
    the current that was read then. area: m², None for a well by table.
    """

    body: DrawdownEntry
    t: Typed
    limits: Limits
    motor: MotorFacts
    area: float | None = None
    table: Line | None = None
    runs: list[Run] = field(default_factory=list)
    amps: float | None = None
    best: float | None = None
    best_amps: float | None = None

    @property
    def flow(self) -> float | None:
        return sum(r.pump for r in self.runs) / len(self.runs) if self.runs else None

    @property
    def spread(self) -> float | None:
        """Between the runs, percent of their mean; None for one."""
        if len(self.runs) < 2 or not self.flow:
            return None
        flows = [r.pump for r in self.runs]
        return 100 * (max(flows) - min(flows)) / self.flow

    @property
    def one_start(self) -> bool:
        """Did every run begin at the same level?"""
        starts = [r.start for r in self.runs]
        if any(s is None for s in starts):
            return False
        known = [s for s in starts if s is not None]
        return not known or not exceeds(max(known) - min(known), self.limits.value("drawdown.start"))

    @property
    def wanting(self) -> dict[str, bool]:
        """What a flow by drawdown stands on, by its ground, and whether it is wanting."""
        return {
            "drawdown.sister": self.body.sister is None,
            "drawdown.rain": self.body.rain != "no",
            "drawdown.two_runs": len(self.runs) < 2,
            "drawdown.start": len(self.runs) > 1 and not self.one_start,
            "drawdown.after": any(r.after is None for r in self.runs),
            "drawdown.stands_in": self.body.shape == "round" and not self.t.has("bodies", "body_diameter"),
        }

    @property
    def doubt(self) -> Phrase | None:
        """Why the flow that was measured is not this pump's, where it is not."""
        if self.body.sister == "on":
            return phrase("drawdown.sister")
        if self.spread is not None and exceeds(self.spread, self.limits.value("drawdown.spread")):
            return phrase("drawdown.spread", spread=amount(self.spread, "%"))
        return None

    @property
    def sure_flow(self) -> float | None:
        """The flow that was measured, where it may stand for others to rest on."""
        return None if self.doubt or any(self.wanting.values()) else self.flow


def understand(body: DrawdownEntry, case: AnyCase) -> Draw:
    """What was typed, by the well's shape; nothing is judged here."""
    limits = Limits(case.context.overrides)
    d = Draw(body, typed_of(body, limits), limits, motor_facts(case.context.motor))
    _well(d)
    for row in body.runs:
        run = _run(d, row)
        if run is not None:
            d.runs.append(run)
    legs = [d.t.got[n] for n in ("amps_1", "amps_2", "amps_3")[: d.motor.phases] if n in d.t.got]
    if len(legs) == (3 if d.motor.phases == 3 else 1):
        d.amps = sum(legs) / len(legs)
    _own_best(d, case)
    return d


def _well(d: Draw) -> None:
    t = d.t
    if d.body.shape == "table":
        try:
            d.table = levels_of(d.body.levels)
        except HurbinError as error:
            t.problems.append(Problem.of(error))
        return
    if d.body.shape != "round" or not t.got.get("diameter"):
        return
    whole = math.pi * t.got["diameter"] ** 2 / 4
    stands = t.got.get("bodies", 0.0) * math.pi * t.got.get("body_diameter", 0.0) ** 2 / 4
    if stands >= whole:
        t.refuse("body_diameter", "The pump bodies are larger than the well.", "smaller than the well")
        return
    d.area = whole - stands


def levels_of(text: str) -> Line | None:
    """A level table: level m; volume m³ a line, both rising. Raises `levels_wrong` naming the line.

    >>> levels_of("0; 0\\n1; 4.2\\n2; 8.9").at(0.5) is not None
    True
    """
    rows = []
    for line in (x.strip() for x in text.splitlines() if x.strip()):
        cells = [c for c in re.split(r"[;\t ]+", line) if c]
        plain = [c.replace(",", ".") for c in cells]
        if len(cells) != 2 or not all(re.fullmatch(r"-?\d{1,6}(\.\d{1,4})?", c) for c in plain):
            raise HurbinError(
                "levels_wrong",
                f"Levels: “{line[:30]}” is not a level and a volume.",
                field="levels",
                value=line[:40],
                right="0.5; 2.1",
            )
        rows.append((float(plain[0]), float(plain[1])))
    if len(rows) < 2:
        return None
    if any(b[0] <= a[0] or b[1] <= a[1] for a, b in itertools.pairwise(rows)):
        message = "Levels: level and volume both rise from line to line."
        raise HurbinError("levels_wrong", message, field="levels", value="", right="0; 0 then 0.5; 2.1")
    return Line.through([a for a, _ in rows], [b for _, b in rows])


def _litres(d: Draw, low: float, high: float) -> float | None:
    """What the well holds between two levels, l."""
    if d.area is not None:
        return d.area * (high - low) * 1000
    if d.table is None:
        return None
    one, two = d.table.at(low), d.table.at(high)
    return (two - one) * 1000 if one is not None and two is not None else None


def _run(d: Draw, row: DrawRun) -> Run | None:
    read, problems = read_fields(row)
    d.t.problems += problems
    got = {n: r.value for n, r in read.items()}
    if not {"rise", "rise_s", "fall", "fall_s"} <= got.keys() or not got["rise_s"] or not got["fall_s"]:
        return None
    start = got.get("start", 0.0)
    if d.table is not None and "start" not in got:
        return None
    into = _litres(d, start - got["rise"], start)
    out = _litres(d, start - got["fall"], start)
    if into is None or out is None:
        return None
    after = None
    if got.get("after_s") and "after" in got:
        low = start - got["fall"]
        more = _litres(d, low, low + got["after"])
        after = more / got["after_s"] if more is not None else None
    return Run(into / got["rise_s"], after, out / got["fall_s"], got.get("start"))


def _own_best(d: Draw, case: AnyCase) -> None:
    context = case.context
    rows = [p for p in context.history if p.measurand == "drawdown_flow" and p.taken_at < context.as_of]
    rows = since_cut(rows, context.cuts, ("pump",))
    if not rows:
        return
    best = max(rows, key=lambda p: p.value)
    d.best = best.value / 3.6
    amps = [p for p in context.history if p.measurand == "drawdown_amps" and p.record == best.record]
    d.best_amps = amps[0].value if amps else None


def starts_an_hour(band_l: float, pump_l_s: float, inflow_l_s: float) -> float:
    """How often does it start, an hour? One cycle is V/q + V/(Q − q).

    >>> round(starts_an_hour(1600, 11, 5.5), 1)
    6.2
    """
    if not 0 < inflow_l_s < pump_l_s:
        return 0.0
    return 3600 / (band_l / inflow_l_s + band_l / (pump_l_s - inflow_l_s))


def band_for(starts: float, pump_l_s: float) -> float:
    """Which band, l, keeps the worst inflow to so many starts an hour? V = T·Q/4.

    >>> round(band_for(10, 11))
    990
    """
    return 3600 / starts * pump_l_s / 4
