"""What a job cost, and what its pair would cost: now, while everything is open, or on coming back."""

from __future__ import annotations

from ...base import amount, read_fields
from ..procedure import BLOCKS
from . import view as v
from .picking import kit_lines
from .sheet import Job
from .times import in_words, own, step_minutes


def cost_of(job: Job) -> v.CostView | None:
    """Hours, parts and travel, in the site's money; None where nothing was booked. unpriced: used parts whose
    price nobody entered: the sum is without them.
    """
    hours = travel = 0.0
    for x in job.of("hours"):
        got, _ = read_fields(x.body)
        hours += got["hours"].value if "hours" in got else 0.0
        travel += got["travel"].value if "travel" in got else 0.0
    price = {(x.code, x.place): x.price for x in job.known.lots}
    newest = {(x.body.code, x.body.place): x.body.used for x in job.of("part")}
    parts = sum(n * (price.get(k) or 0.0) for k, n in newest.items())
    if not (hours or travel or any(newest.values())):
        return None
    unpriced = sorted({code for (code, place), n in newest.items() if n and price.get((code, place)) is None})
    view = v.CostView(hours=amount(hours, "h"), unpriced=unpriced)
    labour = hours * job.limits.value("job.rate")
    view.labour = amount(labour, "1")
    view.parts, view.travel = amount(parts, "1"), amount(travel, "1")
    view.whole = amount(labour + parts + travel, "1")
    return view


def pair_of(job: Job) -> v.PairView | None:
    """Of two of like age one failed: what does it cost to come back for the other? None where there is none.

    again: what both jobs have in common and the second one repeats: isolating, draining, lifting, proving, at
    the times of this shop and the rate of the site. parts: the kit once more; unpriced: what of it has no
    price on the shelf, so that the sum is not whole. Source: common practice, no source.
    """
    c, p = job.compiled, job.procedure
    if c is None or p is None or not job.known.pair:
        return None
    past = own(job.known.past, p.id, str(job.marks.get("kind")))
    common = sum(step_minutes(past, s.id, s.minutes)[0] for s in job.steps if s.of in BLOCKS)
    again = common / 60 * c.people * job.limits.value("job.rate")
    unpriced: list[str] = []
    # One part that fills two lines is bought once for both.
    bought: dict[str, tuple[int, float]] = {}
    for _, title, wanted, lots in kit_lines(job):
        prices = [(x.price, x.code) for x in lots if not x.emergency and x.price is not None]
        if prices:
            price, code = min(prices)
            bought[code] = (max(wanted, bought[code][0] if code in bought else 0), price)
        else:
            unpriced.append(title)
    return v.PairView(
        tag=job.known.pair,
        said=str(job.said("twin") or ""),
        again=amount(again, "1"),
        time=in_words(common),
        people=c.people,
        parts=amount(sum(n * price for n, price in bought.values()), "1"),
        unpriced=unpriced,
    )
