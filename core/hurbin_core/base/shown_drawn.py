"""Figures, shafts, passes and shim plans as one reader sees them. Judges nothing."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel

from .drawn import FootView, PassView, PlanChoice, PlanView, ShaftView
from .evaluation import write
from .quantity import Bound, Quantity
from .show import Beside, Prefs, figure, show, symbol
from .verdict import Verdict


class ShownQuantity(BaseModel):
    value: float
    unit: str
    bound: Bound
    shown: str
    figure: str
    symbol: str


class ShownShaftPoint(BaseModel):
    name: str
    x: float
    y: float
    shown: str


class ShownShaft(BaseModel):
    view: str
    known: bool
    times: int
    target: float
    points: list[ShownShaftPoint]


class ShownPass(BaseModel):
    uuid: str
    title: str
    taken: str
    at: datetime
    values: dict[str, ShownQuantity]
    verdict: Verdict | None
    says: list[str]
    shafts: list[ShownShaft]


class ShownPiece(BaseModel):
    mm: float
    shown: str
    state: str


class ShownFoot(BaseModel):
    foot: str
    title: str
    asks: str
    pieces: list[ShownPiece]
    take_out: list[str]
    put_in: list[str]
    total: str
    pack: str


class ShownChoice(BaseModel):
    feet: list[ShownFoot]
    leaves_offset: str
    leaves_angle: str
    words: list[str]


class ShownBolts(BaseModel):
    order: list[int]
    steps: list[str]


class ShownPlan(BaseModel):
    choice: ShownChoice | None
    others: list[ShownChoice]
    edited: ShownChoice | None
    push_front: ShownQuantity | None
    push_rear: ShownQuantity | None
    van: str
    says: list[str]
    waits: list[str]


def show_quantity(q: Quantity, prefs: Prefs, beside: Beside = None) -> ShownQuantity:
    digits, sign = figure(q, prefs, beside), symbol(q, prefs)
    return ShownQuantity.model_construct(
        value=q.value, unit=q.unit, bound=q.bound, figure=digits, symbol=sign,
        shown=f"{digits}\u00a0{sign}" if sign else digits,
    )  # fmt: skip


def show_shaft(v: ShaftView, prefs: Prefs) -> ShownShaft:
    points = [ShownShaftPoint(name=p.name, x=p.x, y=p.y, shown=show(p.says, prefs) if p.says is not None else "") for p in v.points]
    return ShownShaft(view=v.view, known=v.known, times=v.times, target=v.target, points=points)


def show_pass(v: PassView, prefs: Prefs) -> ShownPass:
    values = {k: show_quantity(q, prefs) for k, q in v.values.items()}
    return ShownPass(uuid=v.uuid, title=v.title, taken=v.taken, at=v.at, values=values, verdict=v.verdict, says=[write(p, prefs) for p in v.says],
                     shafts=[show_shaft(s, prefs) for s in v.shafts])  # fmt: skip


def _size(q: Quantity, prefs: Prefs) -> str:
    """A shim's size as people call it: 0.25, 10; the third decimal only where it says something."""
    digits = figure(q, prefs)
    head, point, tail = digits.partition(prefs.decimal)
    least = 2 if symbol(q, prefs) == "mm" else 0
    while len(tail) > least and tail.endswith("0"):
        tail = tail[:-1]
    return f"{head}{point}{tail}" if tail else head


def _choice(c: PlanChoice, prefs: Prefs) -> ShownChoice:
    def foot(f: FootView) -> ShownFoot:
        return ShownFoot(
            foot=f.foot, title=f.title, asks=show(f.asks, prefs), pieces=[ShownPiece(mm=p.size.value, shown=_size(p.size, prefs), state=p.state) for p in f.pieces],
            take_out=[_size(q, prefs) for q in f.take_out], put_in=[_size(q, prefs) for q in f.put_in], total=show(f.total, prefs), pack=f.pack,
        )  # fmt: skip

    return ShownChoice(feet=[foot(f) for f in c.feet], leaves_offset=show(c.leaves_offset, prefs), leaves_angle=show(c.leaves_angle, prefs), words=[write(p, prefs) for p in c.words])


def show_plan(p: PlanView, prefs: Prefs) -> ShownPlan:
    return ShownPlan(
        choice=_choice(p.choice, prefs) if p.choice is not None else None, others=[_choice(c, prefs) for c in p.others], edited=_choice(p.edited, prefs) if p.edited is not None else None,
        push_front=show_quantity(p.push_front, prefs) if p.push_front is not None else None, push_rear=show_quantity(p.push_rear, prefs) if p.push_rear is not None else None,
        van=p.van, says=[write(x, prefs) for x in p.says], waits=[write(x, prefs) for x in p.waits],
    )  # fmt: skip
