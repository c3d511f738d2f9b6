"""One visit to a coupling folded from its entries: the set's measures, what was looked at, passes and moves
in their order.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any

from ..base import HurbinError, Kept, Limits, Override, Problem, StockBooked, kept_fields
from ..logbook import Entry, SheetState, replay
from ..stores import VanShelf, take_and_return
from .entry import AlignmentEntry, PassKind, PassRead
from .packs import parse_pack
from .reading import Typed, check_reading, position_of, take
from .shaft_position import ShaftPosition
from .shims import FEET, Pack

Sheet = Sequence[Entry[Any]]


@dataclass(slots=True)
class Pass:
    """One set of readings: as typed, read, and the position that it gives; after how many moves and
    tightenings it was taken.
    """

    entry: Entry[Any]
    body: PassRead
    typed: Typed
    position: ShaftPosition | None
    moves: int
    tightened: bool

    @property
    def title(self) -> str:
        if self.body.taken == "as_found":
            return "As found"
        if self.body.taken == "as_left":
            return "As left"
        what = "tightening" if self.tightened else "move"
        return f"After {what} {self.moves}" if self.moves else f"After a {what}"


@dataclass(slots=True)
class FootShims:
    """What lies under one foot: the measured pieces and how many were not measured. None: nobody said."""

    pack: Pack = ()
    unmeasured: int = 0


@dataclass(slots=True)
class Move:
    """What was done between two passes."""

    entry: Entry[Any]
    before: dict[str, FootShims | None]
    after: dict[str, FootShims | None]
    front: float
    rear: float


@dataclass(slots=True)
class Visit(SheetState):
    """The sheet as it stands (see `SheetState`): passes and moves in their order, what lies under the feet.

    typed: the kept figures, read. trying: packs in pencil. tight: drawn up since the last move.
    """

    limits: Limits = field(default_factory=Limits)
    passes: list[Pass] = field(default_factory=list)
    moves: list[Move] = field(default_factory=list)
    lying: dict[str, FootShims | None] = field(default_factory=lambda: dict.fromkeys(FEET))
    tight: bool = False
    trying: dict[str, FootShims | None] | None = None
    typed: Typed = field(default_factory=Typed)

    @property
    def kept(self) -> dict[str, Any]:
        """The newest word on everything that is kept with the set or the visit."""
        return {name: word.value for name, word in self.words.items()}

    @property
    def next_taken(self) -> PassKind:
        """What the next pass is when nobody says otherwise: as left once it is drawn up, as found at the
        beginning.
        """
        if self.tight:
            return "as_left"
        return "after_move" if self.moves or any(p.position is not None for p in self.passes) else "as_found"

    @property
    def last(self) -> Pass | None:
        return self.passes[-1] if self.passes else None


def fold(entries: Sheet, overrides: Iterable[Override] = ()) -> Visit:
    """What do these entries say together? In any order, from any device: they count by (taken_at, uuid).

    A pass is read with the newest measures of the set, whichever entry brought them. A figure that cannot be
    is a problem under its field where it stands in the newest entry, under its entry's id where it stands
    further back.
    """
    visit = Visit(limits=Limits(overrides))
    return replay(entries, visit, _HANDLERS, entry=AlignmentEntry, pencil=("try",), begun=_begun)


def _begun(visit: Visit) -> None:
    """The kept figures are read: what is wrong with one of them is said where it was written."""
    visit.typed = Typed(dict(visit.read), list(visit.problems))
    last = _last(visit)
    visit.problems = [_placed(p, visit.words[p.field].entry.uuid, last) for p in visit.problems]


def _last(visit: Visit) -> str:
    return visit.entries[-1].uuid if visit.entries else ""


def _placed(p: Problem, entry: str, last: str) -> Problem:
    """A problem under its field where it stands in the newest entry, under its entry's id where it stands
    further back.
    """
    return p if entry == last else p.model_copy(update={"field": entry})


def _lying(visit: Visit, e: Entry[Any]) -> dict[str, FootShims | None]:
    """What lies under the feet after this entry: what it says of a pack, else what lay there."""
    out = dict(visit.lying)
    for foot in FEET:
        name = f"pack_{foot}"
        try:
            got = parse_pack(getattr(e.body, name), name)
        except HurbinError as error:
            visit.problems.append(Problem.of(error))
            continue
        if got is not None:
            out[foot] = FootShims(*got)
    return out


def _told(visit: Visit, e: Entry[Any]) -> None:
    if not visit.moves:
        visit.lying = _lying(visit, e)


def _try(visit: Visit, e: Entry[Any]) -> None:
    visit.trying = _lying(visit, e)


def _tightened(visit: Visit, e: Entry[Any]) -> None:
    visit.tight = True


def _move(visit: Visit, e: Entry[Any]) -> None:
    before = visit.lying
    visit.lying = _lying(visit, e)
    r = take(e.body)
    told = {(p.field, p.code) for p in visit.typed.problems}
    visit.problems += [p for p in r.problems if (p.field, p.code) not in told]
    front, rear = r.value("pushed_front") or 0.0, r.value("pushed_rear") or 0.0
    visit.moves.append(Move(e, before, visit.lying, front, rear))
    visit.tight = False


def _pass(visit: Visit, e: Entry[Any]) -> None:
    _told(visit, e)
    kept = kept_fields(AlignmentEntry)
    of_the_set = {n: v for n, v in visit.kept.items() if kept[n].kept is Kept.SET}
    body = e.body.model_copy(update={**of_the_set, "taken": e.body.taken or visit.next_taken})
    r = take(body)
    # What is wrong with a figure of the set is said once, with the set's.
    r.problems = [p for p in r.problems if p.field not in kept]
    check_reading(body, r, visit.limits)
    hard = any(p.code == "diameter_zero" for p in r.problems)
    position = None if hard else position_of(body, r, visit.limits)
    if body.taken == "as_left" and (
        body.tight is False or (visit.moves and not visit.tight and body.tight is not True)
    ):
        r.refuse(
            "not_tight",
            "tight",
            "Take as-left readings after the last tightening: tightening moves the motor.",
            "tighten in a cross pattern, then read again",
        )
    visit.passes.append(Pass(e, body, r, position, len(visit.moves), visit.tight))
    told, last = {(p.field, p.code) for p in visit.problems}, _last(visit)
    visit.problems += [
        p if p.field in kept and kept[p.field].kept is Kept.SET else _placed(p, e.uuid, last)
        for p in r.problems
        if (p.field, p.code) not in told
    ]


_HANDLERS = {"moved": _move, "tightened": _tightened, "try": _try, "pass": _pass, "measures": _told}


def bookings(visit: Visit, vans: Sequence[VanShelf]) -> list[StockBooked]:
    """Which shims did the moves of this visit take from which van, and which did they bring back? Only
    measured pieces count.
    """
    out: list[StockBooked] = []
    first = vans[0].name if vans else ""
    for move in visit.moves:
        pairs = [
            (old, new)
            for f in FEET
            if (new := move.after[f]) is not None
            for old in [move.before[f] or FootShims()]
        ]
        booking = take_and_return(
            [t for old, _ in pairs for t in old.pack], [t for _, new in pairs for t in new.pack]
        )
        van = move.entry.body.van or str(visit.said("van") or "") or first
        change = {size: n for size, n in booking.change.items() if n}
        if van and change:
            out.append(StockBooked(key=move.entry.uuid, store=van, change=change))
    return out
