"""What a job's drawing is given: the rail, the parts, the lists at its edge. Geometry and words, no
judging.
"""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

from ...base import Model, Phrase, Quantity, Verdict
from ..anatomy import Drawn

StepState = Literal["done", "now", "open", "later", "skipped"]


class SignView(Model):
    id: str
    says: str
    fate: Literal["reuse", "mend", "send"]


class LookView(Model):
    """One thing to look at, with its signs; fate: what they say so far."""

    look: str
    title: str
    signs: list[SignView]
    seen: list[str] = []
    fate: str = ""
    pair: str = ""
    never: str = ""


class FigureView(Model):
    """The field of a step: its label, units in order, bounds left to the core."""

    label: str
    units: list[str]
    read: Quantity | None = None
    verdict: Verdict | None = None


class JobStepView(Model):
    """One step on the rail. n: its place; waits: what it still waits for; mean: minutes it takes here."""

    id: str
    n: int
    title: str
    do: str
    why: str
    mistake: str
    caution: str
    record: str
    found: str
    way: str
    state: StepState
    hold: str
    meets: str
    second: bool
    opens: str
    proves: str
    shop: str
    cause: bool
    twin_asked: bool
    waits: list[Phrase] = []
    by: str = ""
    at: datetime | None = None
    said: str = ""
    skipped: str = ""
    figure: FigureView | None = None
    looks: list[LookView] = []
    off: list[str] = []
    on: list[str] = []
    renew: list[str] = []
    mean: str = ""
    may_skip: bool = True
    record_verdict: Verdict | None = None
    record_says: str = ""
    entry: str = ""


class PartView(Model):
    """One part of the drawing. state: on, off (laid out), back, renewed, gone. hand: it is in the hand
    now.
    """

    id: str
    title: str
    does: str
    wears: str
    drawn: Drawn
    state: Literal["on", "off", "back", "renewed", "gone"]
    hand: bool = False
    at_step: str = ""
    laid: int | None = None
    fate: str = ""


class BackView(Model):
    """One line of the list of what has to be as it was."""

    what: str
    how: str
    by: str = ""
    back: bool = False


class ChangeView(Model):
    title: str
    place: str
    since: datetime
    by: str
    key: str


class LotView(Model):
    """One place of a part. reserved, used: what this job said of it."""

    code: str
    title: str
    place: str
    free: int
    emergency: bool = False
    reserved: int = 0
    used: int = 0


class TakeView(Model):
    """What reserving says of one place."""

    code: str
    place: str
    reserved: int
    used: int


class KitView(Model):
    """One line of the pick list. short: how many are missing here; takes: what there is still to reserve."""

    kind: str
    title: str
    wanted: int
    lots: list[LotView] = []
    reserved: int = 0
    used: int = 0
    short: int = 0
    takes: list[TakeView] = []


class WeatherView(Model):
    """What the job needs of the weather, and whether the forecast has it."""

    wants: str
    verdict: Verdict
    says: Phrase


class PickView(Model):
    kit: list[KitView] = []
    kit_title: str = ""
    tools: list[str] = []
    sizes: str = ""
    consumables: list[str] = []
    lifting: bool = False
    weather: WeatherView | None = None
    people: int = 1
    time: str = ""
    time_from: str = ""
    scopes: list[str] = []
    due: list[str] = []


class ProofView(Model):
    """One row of the page of before and after."""

    step: str
    title: str
    verdict: Verdict | None = None
    says: Phrase | None = None
    done: bool = False


class ShopView(Model):
    what: str
    shop: str
    sent: datetime
    promised: date | None = None
    price: str = ""
    asked: list[str] = []
    wrote: list[str] = []
    reported: list[str] = []
    accepted: bool | None = None
    overdue: bool = False


class CostView(Model):
    hours: Quantity | None = None
    labour: Quantity | None = None
    parts: Quantity | None = None
    travel: Quantity | None = None
    whole: Quantity | None = None
    unpriced: list[str] = []


class PairView(Model):
    """The other set of a pair of like age. said: now, later, none; again, parts: in the site's money."""

    tag: str
    said: str
    again: Quantity
    time: str
    people: int
    parts: Quantity
    unpriced: list[str] = []


class AskView(Model):
    field: str
    says: str


class LeftOutView(Model):
    id: str
    title: str
    why: str


class JobView(Model):
    """The whole job. now: the step that is next; state: in a few words, for whoever asks when it is back."""

    procedure: str = ""
    version: int = 0
    title: str = ""
    reason: str = ""
    opened: bool = False
    refuses: list[str] = []
    asks: list[AskView] = []
    steps: list[JobStepView] = []
    now: str = ""
    left_out: list[LeftOutView] = []
    tree: str = ""
    posture: str = "flat"
    parts: list[PartView] = []
    reconnect: list[BackView] = []
    leads: list[BackView] = []
    changes: list[ChangeView] = []
    others: list[str] = []
    pick: PickView | None = None
    proof: list[ProofView] = []
    shop: ShopView | None = None
    cost: CostView | None = None
    done: int = 0
    count: int = 0
    left: str = ""
    state: str = ""
    owner: str = ""
    waits: str = ""
    expected: date | None = None
    cause: str = ""
    root: str = ""
    pair: PairView | None = None
    restarts: str = ""
    offered: list[LeftOutView] = []
