"""The first place where the voltage stops: between the last full reading and the first zero below it."""

from __future__ import annotations

from dataclasses import dataclass, field

from ...base import HurbinError, Limits, Problem, exceeds, read_fields
from ..circuit.control import Control, ControlElement
from .entry import ControlEntry, ControlSpot
from .parts import WEIGHTS, known_element, path


@dataclass(slots=True)
class Ladder:
    """The sheet once read. volts, across, values: by element ("source" for its source). scale: what full is,
    the source as it was read, else the voltage of the ladder.
    """

    body: ControlEntry
    control: Control
    confirmed: bool
    limits: Limits
    volts: dict[str, float] = field(default_factory=dict)
    across: dict[str, float] = field(default_factory=dict)
    values: dict[str, float] = field(default_factory=dict)
    figures: dict[str, float] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)

    @property
    def path(self) -> list[ControlElement]:
        return path(self.control, self.body.selector)

    @property
    def scale(self) -> float:
        return self.volts.get("source") or self.control.volts

    def reads(self, at: str) -> str:
        """What a reading there is: full, part or zero of the source; empty: not read."""
        volts = self.volts.get(at)
        if volts is None:
            return ""
        if at == "source":
            off = self.limits.value("control.source_off")
            return (
                "full"
                if not exceeds(self.control.volts * (1 - off / 100), volts)
                else "part"
                if volts
                else "zero"
            )
        share = 100 * volts / self.scale
        if not exceeds(self.limits.value("control.full"), share):
            return "full"
        return "part" if exceeds(share, self.limits.value("control.zero")) else "zero"


@dataclass(slots=True)
class Left:
    """What is left: the elements that may be open, each with its share. named: the one that is. against: two
    readings that cannot both be true. part: the first place at which only a part of the voltage is left.
    """

    shares: dict[str, float]
    named: str = ""
    against: tuple[str, str] | None = None
    part: str = ""
    dead: bool = False


def understand(body: ControlEntry, control: Control, confirmed: bool, limits: Limits) -> Ladder:
    """What was read where; what cannot be is a problem at its place."""
    out = Ladder(body, control, confirmed, limits)
    read, out.problems = read_fields(body)
    out.figures = {n: r.value for n, r in read.items()}
    for spot in body.spots:
        _spot(out, spot)
    return out


def _spot(out: Ladder, spot: ControlSpot) -> None:
    read, problems = read_fields(spot)
    out.problems += [p.model_copy(update={"field": f"{p.field}:{spot.at}"}) for p in problems]
    try:
        at = known_element(out.control, spot.at)
    except HurbinError as error:
        out.problems.append(Problem.of(error).model_copy(update={"field": f"volts:{spot.at}"}))
        return
    most = out.limits.value("control.volts_most") / 100 * out.control.volts
    for name, found in (("volts", out.volts), ("across", out.across), ("value", out.values)):
        if name not in read:
            continue
        value = read[name].value
        if name != "value" and exceeds(value, most):
            message = f"{value:g} V is not possible on a {out.control.volts:g} V control circuit."
            out.problems.append(
                Problem(
                    code="volts_beyond",
                    field=f"{name}:{spot.at}",
                    value=f"{value:g}",
                    message=message,
                    right=f"up to {most:g} V",
                )
            )
            continue
        found[at] = value


def search(ladder: Ladder) -> Left:
    """What may be open, by what was read? A full voltage across one element names it in one step. Else it
    lies below the last full reading and above the first zero; a zero above a full one cannot be.
    """
    line = ladder.path
    places = [(i, ladder.reads(e.id)) for i, e in enumerate(line)]
    full = [i for i, r in places if r == "full"]
    zero = [i for i, r in places if r == "zero"]
    part = [i for i, r in places if r == "part"]
    source = ladder.reads("source")
    if source in ("zero", "part"):
        if full:
            return Left({}, against=("source", line[full[0]].id))
        return Left({"source": 1.0}, named="source", dead=source == "zero")
    if full and zero and zero[0] < full[-1]:
        return Left({}, against=(line[zero[0]].id, line[full[-1]].id))
    least = ladder.limits.value("control.full")
    across = {e.id: 100 * ladder.across.get(e.id, 0.0) / ladder.scale for e in line if e.kind != "coil"}
    open_ones = [e for e in line if e.id in across and exceeds(across[e.id], least)]
    if open_ones:
        return Left(
            {e.id: 1 / len(open_ones) for e in open_ones},
            named=open_ones[0].id if len(open_ones) == 1 else "",
        )
    low, high = (full[-1] if full else -1), (zero[0] if zero else len(line) - 1)
    between = line[low + 1 : high + 1]
    weights = {e.id: WEIGHTS[e.kind] for e in between}
    total = sum(weights.values()) or 1.0
    shares = {k: w / total for k, w in weights.items()}
    # Full at all of the way down to the coil: the coil has its voltage, whatever lies below it reads.
    named = between[0].id if len(between) == 1 and (zero or between[0].kind == "coil") else ""
    first_part = next((line[i].id for i in part), "")
    return Left(shares, named=named, part=first_part)


def next_place(ladder: Ladder, left: Left) -> str:
    """Where is measured next? At the source first, then where what is left falls in two halves."""
    if not ladder.reads("source"):
        return "source"
    if left.named or left.against or len(left.shares) < 2:
        return ""
    run, best, found = 0.0, 1.0, ""
    for name, share in list(left.shares.items())[:-1]:
        run += share
        if abs(run - 0.5) < best and not ladder.reads(name):
            best, found = abs(run - 0.5), name
    last = list(left.shares)[-1]
    return found or ("" if ladder.reads(last) else last)


def stands(ladder: Ladder, e: ControlElement) -> str:
    """By its process value, is this interlock right to be open, or closed? Within its band: either."""
    value = ladder.values.get(e.id)
    if value is None or e.set_point is None or not e.opens:
        return ""
    if abs(value - e.set_point) <= e.band:
        return "either"
    above = value > e.set_point
    return "open" if above is (e.opens == "above") else "closed"
