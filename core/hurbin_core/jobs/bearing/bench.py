"""To what temperature is this bearing heated, how long is it wide enough, how much grease?"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ...base import (
    Entered,
    Evaluation,
    Finding,
    Model,
    Phrase,
    Quantity,
    Verdict,
    amount,
    entered_field,
    exceeds,
    phrase,
    said_field,
)
from ...hydraulics import answer
from ...logbook import AnyCase, Entry
from ..fits.formulas import band_of, interference_um, letter_of, ring_of
from ..tooling import Tool, judge_tool, lacks, small_bench, told, tool_of
from .formulas import grease_g, heat_k, seconds_left, slip_um


class BearingEntry(Model):
    """A bearing and its seat. Every field may be missing."""

    bore: Entered | None = entered_field("Bearing bore", "length", low=3, high=300, printed=True)
    outside: Entered | None = entered_field("Bearing outside", "length", low=5, high=600, printed=True)
    width: Entered | None = entered_field("Bearing width", "length", low=2, high=200, printed=True)
    kind: Literal["open", "sealed"] | None = said_field("Open, or sealed and greased")
    interference: Entered | None = entered_field("Interference, measured", "deviation", low=-50, high=200)
    ambient: Entered | None = entered_field("Ambient", "temperature", low=-20, high=60)
    way: Literal["induction", "oil", "plate", "press", "flame"] | None = said_field("Way")
    reached: Entered | None = entered_field("Inner ring now", "temperature", low=-20, high=400)
    demagnetised: Literal["yes", "no"] | None = said_field("Demagnetised")
    purged: Literal["yes", "no"] | None = said_field("Old grease purged")
    note: str = said_field("Note", "", free=True, max_length=500)


class BearingView(Model):
    """Ring over shaft: how wide it has to be, how hot, how long it stays so. at: on a line from ambient to
    130 °C.
    """

    interference: Quantity | None = None
    measured: bool = False
    slip: Quantity | None = None
    heat: Quantity | None = None
    temperature: Quantity | None = None
    temperature_at: float | None = None
    ceiling: Quantity | None = None
    ceiling_at: float | None = None
    reached_at: float | None = None
    seconds: Quantity | None = None
    grease: Quantity | None = None
    pressed: bool = False


def replay(entries: Sequence[Entry[BearingEntry]], case: AnyCase) -> Tool[BearingEntry]:
    return tool_of(entries, BearingEntry, case)


def judge(b: Tool[BearingEntry], case: AnyCase) -> Evaluation[BearingView]:
    """May it be heated so far? mm, µm, °C, s, g. Without a measured interference the band's largest is
    taken.
    """
    view = _drawn(b)
    raw = [_way(b), _needed(b, view), _reached(b)]
    missing = []
    if b.get("bore") is not None and b.get("ambient") is None:
        missing.append(("ambient", "Enter the ambient temperature."))
    if b.get("bore") is not None and b.body.kind is None:
        missing.append(("kind", "Choose open or sealed: each has its own ceiling."))
    if b.body.way == "induction" and b.get("reached") is not None and b.body.demagnetised != "yes":
        missing.append(("demagnetised", "Demagnetise it: a magnetic ring collects chips."))
    return told("bearing", b, raw, lacks(bearing__way=b.body.way is None), view, missing=missing)


def _interference(b: Tool[BearingEntry]) -> tuple[float, bool] | None:
    """Measured, or the most that fit and ring allow."""
    own, bore = b.get("interference"), b.get("bore")
    if own is not None:
        return own, True
    if bore is None:
        return None
    band, ring = band_of(letter_of("shaft", bore, False, b.limits), bore), ring_of("bore", bore)
    return None if band is None or ring is None else (interference_um(band, ring)[1], False)


def _rise(b: Tool[BearingEntry]) -> tuple[float, float] | None:
    """Kelvins over ambient, and those of them that are slip."""
    bore, tight = b.get("bore"), _interference(b)
    if bore is None or tight is None:
        return None
    slip = slip_um(bore, b.limits.value("bearing.slip_mm"), b.limits.value("bearing.slip_least"))
    alpha = b.limits.value("bearing.alpha") * 1e-6
    return heat_k(tight[0], slip, bore, alpha), heat_k(0.0, slip, bore, alpha)


def _pressed(b: Tool[BearingEntry]) -> bool:
    bore = b.get("bore")
    if b.body.way is not None or bore is None:
        return b.body.way == "press"
    way = b.limits.school("job.bearing_on")
    small = exceeds(b.limits.value("bearing.press"), bore)
    return way == "press" or (way == "heat_from_30" and small)


def _way(b: Tool[BearingEntry]) -> Finding | None:
    """A flame is never a way."""
    if b.body.way != "flame":
        return None
    return answer("bearing_reached", Verdict.STOP, phrase("bearing.flame"), part="bearings")


def _rule(b: Tool[BearingEntry], name: str) -> str:
    return f"{name}_sealed" if b.body.kind == "sealed" else name


def _needed(b: Tool[BearingEntry], view: BearingView) -> Finding | None:
    if view.temperature is None or b.body.kind is None or b.body.way in ("press", "flame"):
        return None
    args: dict[str, Quantity | str | Phrase] = {
        "temp": view.temperature,
        "rise": view.heat or amount(0, "K"),
    }
    reason = phrase("bearing.heat" if view.measured else "bearing.heat_most", **args)
    notes = [phrase("bearing.else")] if exceeds(view.temperature.value, _ceiling(b)) else []
    return judge_tool(b, _rule(b, "bearing_heat"), view.temperature, reason, *notes, part="bearings")


def _ceiling(b: Tool[BearingEntry]) -> float:
    return b.limits.value("bearing.sealed" if b.body.kind == "sealed" else "bearing.good")


def _reached(b: Tool[BearingEntry]) -> Finding | None:
    now = b.get("reached")
    if now is None or b.body.kind is None or b.body.way == "flame":
        return None
    figure = amount(now, "degC")
    rise = _rise(b)
    ambient = b.get("ambient")
    rule = _rule(b, "bearing_reached")
    if rise is not None and ambient is not None and exceeds(ambient + rise[0], now) and b.body.way != "press":
        short = phrase("bearing.cold", temp=figure, wanted=amount(ambient + rise[0], "degC"))
        return answer(rule, Verdict.ACT, short, part="bearings")
    return judge_tool(b, rule, figure, phrase("bearing.reached", temp=figure), part="bearings")


def _drawn(b: Tool[BearingEntry]) -> BearingView:
    view, tight, rise = BearingView(pressed=_pressed(b)), _interference(b), _rise(b)
    bore, outside, width, ambient = (b.get(n) for n in ("bore", "outside", "width", "ambient"))
    if tight is not None:
        view.interference, view.measured = amount(tight[0], "um"), tight[1]
    if rise is not None and bore is not None:
        per, least = b.limits.value("bearing.slip_mm"), b.limits.value("bearing.slip_least")
        view.slip, view.heat = amount(slip_um(bore, per, least), "um"), amount(rise[0], "K")
        if ambient is not None:
            view.temperature = amount(ambient + rise[0], "degC")
        if outside and width and outside > bore:
            film = b.limits.value("bearing.film")
            view.seconds = amount(seconds_left(bore, outside, width, rise[0], rise[1], film), "s")
    if outside and width:
        grease = grease_g(outside, width, b.limits.value("bearing.factor"))
        view.grease = amount(grease / (1 if b.body.purged == "yes" else 2), "g")
    if b.body.kind is not None and ambient is not None:
        view.ceiling = amount(_ceiling(b), "degC")
        top = b.limits.value("bearing.most") * 1.15
        places = (view.ceiling.value, view.temperature.value if view.temperature else None)
        view.ceiling_at, view.temperature_at = (_along(t, ambient, top) for t in places)
        view.reached_at = _along(b.get("reached"), ambient, top)
    return view


def _along(t: float | None, low: float, high: float) -> float | None:
    """Where a temperature stands between two others, 0 to 1."""
    return None if t is None else min(1.0, max(0.0, (t - low) / (high - low)))


BEARING = small_bench(
    "bearing",
    "=",
    "Bearing on its seat",
    "Bearings fitted",
    "a bearing",
    "Fit a bearing",
    "reckon heat, seconds and grease of a bearing",
    63,
    "bearings",
    BearingEntry,
    BearingView,
    replay,
    judge,
)
