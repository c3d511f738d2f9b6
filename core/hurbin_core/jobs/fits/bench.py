"""Does this seat fit its ring, is it round, does the shaft run true?"""

from __future__ import annotations

from collections.abc import Sequence

from ...base import Evaluation, Finding, Model, Phrase, Quantity, Verdict, amount, exceeds, phrase
from ...hydraulics import answer
from ...logbook import AnyCase, Entry
from ..tooling import Tool, judge_tool, lacks, small_bench, told, tool_of
from .entry import FitsEntry
from .formulas import band_of, interference_um, letter_of, ring_of

READ = ("d1", "d2", "d3", "d4")


class FitsView(Model):
    """The seat drawn: its band and every reading on one line of µm from nominal, 0 to 1."""

    letter: str = ""
    lower: Quantity | None = None
    upper: Quantity | None = None
    lower_at: float | None = None
    upper_at: float | None = None
    readings: list[Quantity] = []
    readings_at: list[float] = []
    least: Quantity | None = None
    most: Quantity | None = None


def replay(entries: Sequence[Entry[FitsEntry]], case: AnyCase) -> Tool[FitsEntry]:
    return tool_of(entries, FitsEntry, case)


def judge(f: Tool[FitsEntry], case: AnyCase) -> Evaluation[FitsView]:
    """Is the seat inside its fit, round enough, not spun; do run-out, float and hub slack pass? µm, mm."""
    _possible(f)
    raw = [*_seat(f), _runout(f), _float(f), _slack(f)]
    missing = []
    if f.readings(*READ) and f.body.what is None:
        missing.append(("what", "Choose seat or housing bore: each has its own fit."))
    if f.readings(*READ) and f.get("nominal") is None:
        missing.append(("nominal", "Enter the nominal diameter: the fit is counted from it."))
    if f.get("runout") is not None and f.body.place is None:
        missing.append(("place", "Choose where run-out was read: each place has its own limit."))
    return told("fits", f, raw, _lacking(f), _drawn(f), missing=missing)


def _possible(f: Tool[FitsEntry]) -> None:
    """A reading far off its nominal is another part's, or another unit."""
    nominal = f.get("nominal")
    if nominal is None:
        return
    for name in READ:
        d = f.get(name)
        if d is not None and _another(f, d, nominal):
            words = "This reading is not of that diameter. Check which part it is, and the unit."
            f.t.refuse(name, words, f"near {nominal:g} mm", "other_part")


def _another(f: Tool[FitsEntry], one: float, two: float) -> bool:
    """Are these two never of one part?"""
    return exceeds(100 * abs(one - two), f.limits.value("fits.same_part") * two)


def _band(f: Tool[FitsEntry]) -> tuple[str, float, tuple[float, float]] | None:
    nominal = f.get("nominal")
    if f.body.what is None or nominal is None:
        return None
    letter = letter_of(f.body.what, nominal, f.body.load == "heavy", f.limits)
    band = band_of(letter, nominal)
    return None if band is None else (letter, nominal, band)


def _seat(f: Tool[FitsEntry]) -> list[Finding]:
    read, known = f.readings(*READ), _band(f)
    rules = ("seat_short", "seat_over") if f.body.what == "shaft" else ("bore_short", "bore_over")
    if not read:
        return []
    if known is None:
        if f.body.what is None or f.get("nominal") is None:
            return []
        return [answer(rules[0], Verdict.UNKNOWN, phrase("fits.no_band"), part="bearings")]
    letter, nominal, (low, high) = known
    small, large = (min(read) - nominal) * 1000, (max(read) - nominal) * 1000
    u = f.get("off") or 0.0
    band: dict[str, Quantity | str | Phrase] = {
        "letter": letter,
        "low": amount(low, "um"),
        "high": amount(high, "um"),
    }
    if f.body.spun == "yes":
        worst = rules[0] if f.body.what == "shaft" else rules[1]
        return [answer(worst, Verdict.ACT, phrase("fits.spun_said"), part="bearings")]
    short, over = low - small, large - high
    out = [
        _off(f, rules[0], short, u, phrase("fits.short", by=amount(max(0.0, short), "um"), **band)),
        _off(f, rules[1], over, u, phrase("fits.over", by=amount(max(0.0, over), "um"), **band)),
    ]
    if len(read) > 1:
        share = amount(100 * (large - small) / (high - low), "%")
        reason = phrase("fits.oval", by=amount(large - small, "um"), of=amount(high - low, "um"))
        out.append(judge_tool(f, "seat_oval", share, reason, part="bearings"))
    return out


def _off(f: Tool[FitsEntry], rule: str, by: float, u: float, off: Phrase) -> Finding:
    """How far outside on this side; inside is nothing at all, however far in."""
    inside = by <= 0
    figure = amount(by, "um", u=u)
    reason = phrase("fits.inside", band=_written(off)) if inside else off
    return judge_tool(f, rule, figure, reason, part="bearings")


def _written(off: Phrase) -> Phrase:
    args = {k: v for k, v in off.args.items() if k != "by"}
    return phrase("fits.band", **args)


def _runout(f: Tool[FitsEntry]) -> Finding | None:
    r, place = f.get("runout"), f.body.place
    if r is None or place is None:
        return None
    limit = f.limits.get(f"runout.{place}")
    part = "motor" if place.startswith(("motor", "face")) else "coupling" if place == "hub" else "pump"
    reason = phrase("fits.runout", read=amount(r, "mm"), limit=amount(limit.value, "mm"))
    return judge_tool(f, "runout", amount(r, "mm"), reason, part=part, instead={"runout.seal": limit})


def _float(f: Tool[FitsEntry]) -> Finding | None:
    x = f.get("end_float")
    if x is None:
        return None
    own = f.get("float_limit")
    limit = f.limits.get("fits.float")
    used = (
        limit.model_copy(update={"value": own, "title": "End float, manufacturer's limit"}) if own else limit
    )
    reason = phrase("fits.float", read=amount(x, "mm"), limit=amount(used.value, "mm"))
    return judge_tool(f, "end_float", amount(x, "mm"), reason, instead={"fits.float": used})


def _slack(f: Tool[FitsEntry]) -> Finding | None:
    bore, shaft = f.get("hub_bore"), f.get("hub_shaft")
    if bore is None or shaft is None:
        return None
    if _another(f, bore, shaft):
        words = "Hub bore and shaft are not of one diameter. Check which parts they are, and the unit."
        f.t.refuse("hub_bore", words, "the bore on this shaft", "other_part")
        return None
    slack = amount(bore - shaft, "mm")
    return judge_tool(f, "bore_slack", slack, phrase("fits.slack", read=slack), part="coupling")


def _lacking(f: Tool[FitsEntry]) -> dict[str, Phrase | None]:
    return lacks(
        fits__angles=len(f.readings("d1", "d2")) < 2 and len(f.readings("d3", "d4")) < 2,
        fits__spun=f.body.spun is None,
        fits__cold=f.body.cold != "yes",
        fits__turn=f.body.whole_turn != "yes",
    )


def _drawn(f: Tool[FitsEntry]) -> FitsView:
    known = _band(f)
    if known is None:
        return FitsView()
    letter, nominal, (low, high) = known
    offs = [(d - nominal) * 1000 for d in f.readings(*READ)]
    side = "outside" if f.body.what == "housing" else "bore"
    ring = ring_of(side, nominal)
    view = FitsView(
        letter=letter,
        lower=amount(low, "um"),
        upper=amount(high, "um"),
        readings=[amount(x, "um") for x in offs],
    )
    bottom, top = min([low, 0.0, *offs]), max([high, 0.0, *offs])
    places = [(x - bottom) / (top - bottom) * 0.9 + 0.05 for x in (low, high, *offs)]
    view.lower_at, view.upper_at, *view.readings_at = places
    if ring is not None and f.body.what == "shaft":
        least, most = interference_um((low, high), ring)
        view.least, view.most = amount(least, "um"), amount(most, "um")
    return view


FITS = small_bench(
    "fits",
    "'",
    "Fits and run-out",
    "Fits",
    "a fit",
    "Measure seats, run-out, float",
    "measure a seat, a bore, run-out or float",
    60,
    "bearings",
    FitsEntry,
    FitsView,
    replay,
    judge,
)
