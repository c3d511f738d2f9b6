"""From a position to the shim plan of this visit: what each foot asks for, the best packs, what they leave,
what to buy, the push sideways.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import replace

from ..base import TABLES, Limits, Phrase, Quantity, amount, exceeds, nominal, phrase
from ..logbook import AnyCase, Context
from ..plant import motor_facts
from ..stores import VanShelf, vans_of
from .judging import GoverningTolerance
from .moves import shifting
from .packs import write_pack
from .reading import PER_100
from .shaft_position import STEP_U, Plane, ShaftPosition
from .shim_search import plans
from .shims import (
    FEET,
    MOST,
    STEP,
    UNIT_MM,
    Pack,
    Plan,
    Question,
    key_of,
    leaves,
    left_over,
    shortfall,
    tenths,
)
from .tolerance import by_speed
from .view import FootView, PackPiece, PlanChoice, PlanView
from .visit import FootShims, Visit

TITLES = {
    "front_left": "front left",
    "rear_left": "rear left",
    "front_right": "front right",
    "rear_right": "rear right",
}
# Sizes that are sold, by what the drawer is measured in.
SOLD = {
    system: tuple(tenths(float(mm)) for of, mm in TABLES["shims.sold"].rows if of == system)
    for system in ("mm", "mil")
}


def mm(t: float) -> Quantity:
    return amount(t / 10000, "mm")


def size(t: float) -> Quantity:
    """A shim's size as people call it: 0.50, 10."""
    return nominal(t / 10000, "mm", 2)


def choose_van(visit: Visit, case: AnyCase) -> VanShelf | None:
    """The van said on the sheet; the first one where none is said."""
    named = str(visit.said("van") or "")
    vans = vans_of(case)
    return next((v for v in vans if v.name == named), vans[0] if vans and not named else None)


def question_of(
    visit: Visit,
    plane: Plane,
    target: float,
    held: GoverningTolerance,
    stock: Mapping[int, int],
    context: Context,
) -> Question | list[Phrase]:
    """What the plan is asked, or what is still wanting before it can be asked."""
    front, rear = visit.typed.value("x_front"), visit.typed.value("x_rear")
    diameter = visit.typed.value("coupling_diameter") or visit.typed.value("face_diameter")
    waits: list[Phrase] = []
    if plane.offset is None or plane.slope is None:
        waits.append(phrase("plan.plane"))
    if front is None or rear is None or not 0 < tenths(front) < tenths(rear):
        waits.append(phrase("plan.feet"))
    if not diameter or tenths(diameter) <= 0:
        waits.append(phrase("plan.diameter"))
    offset, angle = held.acceptable("offset"), held.acceptable("angle")
    length = visit.typed.value("plane_distance")
    if offset is None and angle is not None and visit.said("coupling") == "spacer" and length:
        offset = angle / PER_100 * length / 2
    rpm = visit.typed.value("speed") or motor_facts(context.motor).speed_rpm
    if offset is None or angle is None or rpm is None or by_speed(rpm) is None:
        waits.append(phrase("plan.speed"))
    unmeasured = [TITLES[f] for f in FEET if (x := visit.lying[f]) is not None and x.unmeasured]
    if unmeasured:
        waits.append(phrase("plan.measure", feet=", ".join(unmeasured)))
    if (
        waits
        or plane.offset is None
        or plane.slope is None
        or front is None
        or rear is None
        or not diameter
        or offset is None
        or angle is None
    ):
        return waits
    wanted = [
        tenths(target - (plane.offset + plane.slope * (front if f.startswith("front") else rear)))
        for f in FEET
    ]
    limits = Limits(context.overrides)
    far = limits.value("alignment.plan_far")
    if max(abs(w) for w in wanted) > tenths(far):
        return [phrase("plan.far", most=amount(far, "mm"))]
    packs = [x.pack if (x := visit.lying[f]) is not None else () for f in FEET]
    untold = [
        TITLES[f]
        for f, w in zip(FEET, wanted, strict=True)
        if visit.lying[f] is None and w < -tenths(offset / 2)
    ]
    if untold:
        return [phrase("plan.untold", feet=", ".join(untold))]
    a, b, c, d = wanted
    p, q, r, s = packs
    return Question(
        (a, b, c, d),
        (p, q, r, s),
        stock,
        tenths(front),
        tenths(rear),
        tenths(diameter),
        tenths(offset) // 2,
        int(tenths(diameter) * angle / PER_100 / 2),
        tenths(limits.value("alignment.soft_foot")),
    )


def stacked(pack: Sequence[int]) -> list[int]:
    """A pack from the base up: the thickest below and above, thin ones between them."""
    down = sorted(pack, reverse=True)
    return [down[0], *down[2:], down[1]] if len(down) > 2 else down


def foot_view(foot: str, wanted: int, old: Pack, new: Pack) -> FootView:
    stays, out, come = Counter(old) & Counter(new), Counter(old) - Counter(new), Counter(new) - Counter(old)
    pieces: list[PackPiece] = []
    left = Counter(stays)
    for t in stacked(new):
        stays_here = left[t] > 0
        left[t] -= 1
        pieces.append(PackPiece(size=size(t), drawn=t / 10000, state="stays" if stays_here else "in"))
    pieces += [
        PackPiece(size=size(t), drawn=t / 10000, state="out") for t in sorted(out.elements(), reverse=True)
    ]
    return FootView(
        foot=foot,
        title=TITLES[foot],
        asks=mm(wanted),
        pieces=pieces,
        take_out=[size(t) for t in sorted(out.elements(), reverse=True)],
        put_in=[size(t) for t in sorted(come.elements(), reverse=True)],
        total=mm(sum(new)),
        pack=write_pack(new),
    )


def choice_of(q: Question, plan: Plan, feeler: bool) -> PlanChoice:
    """A plan as it is read from the floor, what it leaves at the coupling (the worse side), and why it stands
    where it stands.
    """
    fl, rl, fr, rr = left_over(q, plan.packs)
    sides = [leaves(q, fl, rl), leaves(q, fr, rr)]
    offset, rim = max((s[0] for s in sides), key=abs), max((s[1] for s in sides), key=abs)
    angle = rim / q.diameter * PER_100
    steps, over, feet, new, pieces = plan.key
    words = [
        phrase(
            "plan.leaves",
            way="high" if offset > 0 else "low",
            offset=mm(abs(offset)),
            angle=amount(abs(angle), "mm/100mm"),
        )
    ]
    if feeler and abs(offset) <= tenths(STEP_U):
        words.append(phrase("plan.feeler"))
    step = nominal(STEP * UNIT_MM, "mm", 2)
    within = phrase("plan.why_within") if steps == 0 else phrase("plan.why_steps", n=str(steps), step=step)
    words.append(within)
    words.append(
        phrase(
            "plan.why",
            feet=_many(feet, "foot", "feet"),
            new=_many(new, "new shim", "new shims"),
            pieces=_many(pieces, "shim", "shims"),
        )
    )
    if over:
        words.append(phrase("plan.why_over", n=_many(over, "shim", "shims")))
    if any(abs(a - b) > STEP for a, b in ((fl, fr), (rl, rr))):
        words.append(phrase("plan.unlike"))
    views = [
        foot_view(f, w, old, new_)
        for f, w, old, new_ in zip(FEET, q.wanted, q.packs, plan.packs, strict=True)
    ]
    return PlanChoice(
        feet=views, leaves_offset=mm(offset), leaves_angle=amount(angle, "mm/100mm"), words=words
    )


def _many(n: int, one: str, more: str) -> str:
    return f"{n} {one if n == 1 else more}"


def to_buy(q: Question) -> Counter[int]:
    """Which common pieces more would bring it within half the tolerance? Empty when none would."""
    inch = sum(1 for t in q.stock if t % 254 == 0) > sum(1 for t in q.stock if t % 500 == 0)
    more = Counter(dict.fromkeys(SOLD["mil" if inch else "mm"], 8))
    best = next(iter(plans(replace(q, stock=Counter(q.stock) + more), 1, 0)), None)
    if best is None:
        return Counter()
    used = Counter(t for p in best.packs for t in p)
    return used - Counter(t for p in q.packs for t in p) - Counter(q.stock)


def _short(q: Question, best: Plan) -> list[Phrase]:
    """The closest there is, and what would make it work."""
    off = [(TITLES[f], r) for f, r in zip(FEET, left_over(q, best.packs), strict=True) if abs(r) > 200]
    out = [phrase("plan.closest")] if off else []
    out += [phrase("plan.off", foot=f, off=mm(abs(r)), way="short" if r < 0 else "too high") for f, r in off]
    return out + _buy(q)


def _buy(q: Question) -> list[Phrase]:
    buy = to_buy(q)
    return [phrase("plan.buy"), *_pieces(buy)] if buy else []


def _pieces(lots: Counter[int]) -> list[Phrase]:
    return [phrase("plan.piece", n=str(n), size=mm(t)) for t, n in sorted(lots.items())]


def _base_bound(q: Question) -> tuple[Question, list[Phrase]]:
    """A foot needs less than nothing: the pump goes up by the shortfall, and the plan is made anew from
    there.
    """
    short = max(shortfall(q))
    feet = ", ".join(TITLES[f] for f, s in zip(FEET, shortfall(q), strict=True) if s)
    a, b, c, d = (w + short for w in q.wanted)
    return replace(q, wanted=(a, b, c, d)), [phrase("plan.base_bound", feet=feet, short=mm(short))]


def push_of(visit: Visit, plane: Plane) -> tuple[float, float] | None:
    """How far the motor is pushed right at the front and at the rear bolts to bring the sideways plane in
    line.
    """
    front, rear = visit.typed.value("x_front"), visit.typed.value("x_rear")
    if plane.offset is None or plane.slope is None or front is None or rear is None:
        return None
    return -(plane.offset + plane.slope * front), -(plane.offset + plane.slope * rear)


def within_play(
    push: tuple[float, float], play: float, front: float, rear: float, held: GoverningTolerance
) -> tuple[float, float]:
    """The push that the bolt holes allow and that leaves the least at the coupling, like with like: both at
    their stops, or one, the other chosen for it.
    """

    def cost(f: float, r: float) -> float:
        ef, er = f - push[0], r - push[1]
        slope = (er - ef) / (rear - front)
        return max(
            abs(ef - slope * front) / (held.acceptable("offset") or 1.0),
            abs(slope) * PER_100 / (held.acceptable("angle") or 1.0),
        )

    def clip(x: float) -> float:
        return max(-play, min(play, x))

    f, r = clip(push[0]), clip(push[1])
    # One at its stop: the other where the offset, or where the angle, comes out nothing.
    others = [
        (f, clip(push[1] + (f - push[0]) * rear / front)),
        (f, clip(push[1] + f - push[0])),
        (clip(push[0] + (r - push[1]) * front / rear), r),
        (clip(push[0] + r - push[1]), r),
    ]
    return min([(f, r), *others], key=lambda x: cost(*x))


def _sideways(
    visit: Visit, position: ShaftPosition, held: GoverningTolerance
) -> tuple[Quantity | None, Quantity | None, list[Phrase]]:
    push = push_of(visit, position.horizontal)
    front, rear, play = visit.typed.value("x_front"), visit.typed.value("x_rear"), visit.typed.value("play")
    if push is None or front is None or rear is None:
        return None, None, []
    if play is None or not exceeds(max(abs(push[0]), abs(push[1])), play):
        return amount(push[0], "mm"), amount(push[1], "mm"), []
    f, r = within_play(push, play, front, rear, held)
    slope = ((r - push[1]) - (f - push[0])) / (rear - front)
    offset = (f - push[0]) - slope * front
    says = phrase(
        "plan.bolt_bound",
        front=shifting(push[0]),
        rear=shifting(push[1]),
        play=amount(play, "mm"),
        fits_front=shifting(f),
        fits_rear=shifting(r),
        offset=amount(offset, "mm"),
        angle=amount(slope * PER_100, "mm/100mm"),
    )
    return amount(f, "mm"), amount(r, "mm"), [says]


def worth_it(q: Question, best: Plan) -> bool:
    """Does this plan end better than leaving the packs as they lie? A plan that keeps every pack is no
    worse.
    """
    return best.packs == q.packs or best.key[0] == 0 or best.key[0] < key_of(q, q.packs)[0]


def plan_view(
    visit: Visit, position: ShaftPosition, target: float, held: GoverningTolerance, case: AnyCase
) -> PlanView:
    """The whole plan of this visit as it stands after its last pass."""
    context = case.context
    van = choose_van(visit, case)
    stock = {p.tenths: p.count for p in van.pieces} if van is not None else {}
    push_front, push_rear, says = _sideways(visit, position, held)
    view = PlanView(
        push_front=push_front,
        push_rear=push_rear,
        front_move=None if push_front is None else shifting(push_front.value),
        rear_move=None if push_rear is None else shifting(push_rear.value),
        says=says,
        van=van.name if van is not None else "",
    )
    q = question_of(visit, position.vertical, target, held, stock, context)
    if isinstance(q, list):
        return view.model_copy(update={"waits": q})
    if van is None:
        view.says.append(phrase("plan.no_van"))
    feeler = visit.last is not None and visit.last.body.method == "straightedge"
    found = plans(q, within=0)
    if not found and any(shortfall(q)):
        q, more = _base_bound(q)
        view.says += more
        found = plans(q, within=0)
    found = found or plans(q, 1, Limits(context.overrides).count("alignment.plan_near"))
    if any(visit.lying[f] is None for f in FEET):
        view.says.append(phrase("plan.not_told"))
    if not found:
        view.says += _buy(q)
        return view.model_copy(update={"waits": [phrase("plan.none", most=str(MOST))]})
    if not worth_it(q, found[0]):
        view.says += _buy(q)
        return view.model_copy(update={"waits": [phrase("plan.leave")]})
    if found[0].key[0] > 0:
        view.says += _short(q, found[0])
    view.choice = choice_of(q, found[0], feeler)
    view.others = [choice_of(q, p, feeler) for p in found[1:]]
    if visit.trying is not None:
        view.edited = _edited(visit, visit.trying, q, feeler)
    return view


def _edited(visit: Visit, trying: dict[str, FootShims | None], q: Question, feeler: bool) -> PlanChoice:
    """A pack changed by hand, in pencil: its effect, and what the van has not got for it."""
    a, b, c, d = (tuple(sorted(x.pack)) if (x := trying[f]) is not None else () for f in FEET)
    packs = (a, b, c, d)
    choice = choice_of(q, Plan(packs, key_of(q, packs)), feeler)
    used = Counter(t for p in packs for t in p)
    lacking = used - Counter(t for p in q.packs for t in p) - Counter(q.stock)
    if lacking:
        choice.words[:0] = [phrase("plan.lacking"), *_pieces(lacking)]
    return choice
