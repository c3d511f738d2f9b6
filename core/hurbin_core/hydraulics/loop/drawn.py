"""What is drawn of a hold test: the vessel, the pressures, the band of a tight loop, what is to come."""

from __future__ import annotations

from ...base import Phrase, Quantity, amount, phrase
from ..cushion import gas_l
from ..paper import PaperAxis, PaperTick, axis
from .judging import glycol_after
from .sheet import Hold, at_last_temperature, laws, tight
from .view import LawView, LoopView, Pressed


def drawn(h: Hold, leaking: bool) -> LoopView:
    """The loop and its pressures on one paper."""
    known = h.loop.known
    view = LoopView(
        name=known.name if known else "",
        tags=known.tags if known else [],
        plate=_plate(h),
        high_point=_metres(h, "high_point"),
        least=amount(h.least, "kPa") if h.least is not None else None,
        expected=amount(h.expected, "kPa", u=h.u_expected) if h.expected is not None else None,
        lost=amount(h.lost, "l", u=h.u_lost) if h.lost is not None else None,
        rate=amount(h.rate, "l/d", u=h.u_rate) if h.rate is not None else None,
        wait=amount(h.wait_h, "h") if h.wait_h is not None else None,
        waited=amount(h.hours, "h") if len(h.used) > 1 else None,
        left_out=h.left_out,
    )
    _vessel(h, view)
    if h.used:
        _paper(h, view, leaking)
    return view


def _metres(h: Hold, name: str) -> Quantity | None:
    return amount(h.loop.got[name], "m_head") if name in h.loop.got else None


def _plate(h: Hold) -> list[Phrase]:
    """The register's words of it, for the state sentence."""
    got, plate = h.loop.got, h.loop.plate
    out = []
    if "volume" in got:
        out.append(phrase("loop.has_volume", volume=amount(got["volume"], "l")))
    if plate.fluid:
        out.append(phrase(f"loop.has_{plate.fluid}"))
    if plate.pipe:
        out.append(phrase(f"loop.pipe_{plate.pipe}"))
    if h.loop.rigid:
        out.append(phrase("loop.no_vessel"))
    elif {"vessel", "precharge"} <= got.keys():
        size = amount(got["vessel"], "l")
        out.append(phrase("loop.has_vessel", vessel=size, precharge=amount(got["precharge"], "kPa")))
    after = glycol_after(h)
    if after is not None:
        out.append(phrase("loop.has_left", pct=amount(100 * after[0], "%")))
    return out


def _vessel(h: Hold, view: LoopView) -> None:
    got = h.loop.got
    if not h.used or h.loop.rigid is not False or "precharge" not in got:
        return
    gas = min(gas_l(h.used[-1].kpa, got["precharge"], got["vessel"], h.loop.air), got["vessel"])
    view.gas, view.held = amount(gas, "l"), amount(got["vessel"] - gas, "l")
    view.water = 1 - gas / got["vessel"]


def _paper(h: Hold, view: LoopView, leaking: bool) -> None:
    first = h.used[0].at
    hours = [(r.at - first).total_seconds() / 3600 for r in h.used]
    bands = [tight(h, h.used[0], r.temp) if _can(h) else None for r in h.used]
    # Below the least already: there is nothing to come.
    above = h.least is not None and h.used[-1].kpa > h.least
    told = laws(at_last_temperature(h), h.least) if leaking and above and h.least and _can(h) else []
    ends = [x.hours for x in told if x.hours is not None and x.hours > hours[-1]]
    # What is to come is drawn as far as twice what was watched.
    end = min(max([*ends, hours[-1]]), max(3 * hours[-1], 1e-9)) or 1.0
    every = [r.kpa for r in h.used] + [b for b in bands if b is not None] + ([h.least] if h.least else [])
    low, high = min(every), max(every)
    room = max(high - low, 5.0) * 0.12
    view.low, top = low - room, high + room
    span = top - view.low

    def y(kpa: float) -> float:
        return round((kpa - view.low) / span, 5)

    view.up = _axis(view.low, top)
    view.floor = y(h.least) if h.least is not None else None
    view.span = amount(end, "h")
    for r, t, band in zip(h.used, hours, bands, strict=True):
        u = h.u_expected if t > 0 else 0.0
        view.pressed.append(
            Pressed(
                x=round(t / end, 5),
                y=y(r.kpa),
                low=y(band - u) if band is not None else None,
                high=y(band + u) if band is not None else None,
                at=r.at.isoformat(),
                temp=amount(r.temp, "degC"),
                kpa=amount(r.kpa, "kPa"),
                past=r.past,
            )
        )
    for law in told:
        path = [(round(t / end, 5), y(p)) for t, p in law.path if t <= end * 1.0001]
        left = amount(law.hours - hours[-1], "h") if law.hours is not None else None
        view.laws.append(LawView(id=law.id, says=phrase(f"loop.law_{law.id}"), hours=left, path=path))


def _can(h: Hold) -> bool:
    return h.loop.whole and not h.loop.problems and len(h.used) > 1


def _axis(low: float, top: float) -> PaperAxis:
    """Round pressures between two ends."""
    whole = axis(top - low, "kPa")
    step = whole.ticks[1].value.value if len(whole.ticks) > 1 else top - low
    first = int(low // step) + 1
    marks = [step * n for n in range(first, int(top // step) + 1)]
    return PaperAxis(
        end=top,
        ticks=[PaperTick(at=round((m - low) / (top - low), 5), value=amount(m, "kPa")) for m in marks],
    )
