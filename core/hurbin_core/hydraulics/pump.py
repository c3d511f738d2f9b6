"""The pump of a set as its nameplate has it: kind, curve, rings; and what of it cannot be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise

from ..base import HurbinError, Limits, Missing, Phrase, Problem, amount, exceeds, phrase, read_fields
from ..logbook import Context
from ..plant import KINDS, PLATE_CHECKS, Plate, PumpPlate, motor_facts
from .curve import Curve, Line, Parabola, by_plate, parabola
from .curve_text import Points, read_points
from .fluid import G

_COLD_WATER = 998.2


@dataclass(slots=True)
class Pump:
    """curve: for the impeller that is fitted, at its own speed; None where there is none, or it was refused.
    got: metric figures of the nameplate. type: radial, …; empty where nobody said.
    """

    plate: PumpPlate
    type: str
    curve: Curve | None = None
    got: dict[str, float] = field(default_factory=dict)
    problems: list[Problem] = field(default_factory=list)
    notes: list[Phrase] = field(default_factory=list)
    trim: float = 1.0

    @property
    def indicative(self) -> bool:
        """A curve by one point: no verdict may rest on it."""
        return self.curve is not None and self.curve.how == "plate"

    @property
    def displaces(self) -> bool:
        return self.type == "displacement"


def pump_of(context: Context, limits: Limits) -> Pump:
    """Which pump is this, and which curve holds for it?"""
    plate = context.pump or PumpPlate()
    kind = KINDS.get(context.kind)
    said = plate.type or ("displacement" if kind is not None and kind.positive else "")
    out = Pump(plate, said)
    read, out.problems = read_fields(plate)
    out.got = {n: r.value for n, r in read.items()}
    try:
        points = read_points(plate.curve)
    except HurbinError as error:
        out.problems.append(Problem.of(error))
        return out
    rpm = out.got.get("curve_speed") or motor_facts(context.motor).speed_rpm
    curve = _through(points, out) if points.rows else _by_plate(out, limits)
    if curve is not None:
        curve = replace(
            curve,
            rpm=rpm,
            rho=out.got.get("curve_density") or _COLD_WATER,
            stated_bep=out.got.get("bep_flow") or curve.stated_bep,
        )
        if points.rows and "curve_speed" not in out.got and rpm:
            out.notes.append(phrase("pump.speed_taken", rpm=amount(rpm, "rpm")))
        out.curve = _trimmed(curve, out, limits)
    return out


def _refused(out: Pump, code: str, message: str, right: str) -> None:
    out.problems.append(Problem(code=code, field="curve", value="", message=message, right=right))


def _through(points: Points, out: Pump) -> Curve | None:
    rows = points.column("head")
    rise = next(((a, b) for a, b in pairwise(rows) if exceeds(b[1], a[1])), None)
    if rise is not None:
        (q0, h0), (q1, h1) = rise
        _refused(
            out,
            "curve_rises",
            f"Curve: head rises from {h0:g} m at {q0:g} m³/h to {h1:g} m at {q1:g} m³/h. Points are "
            f"mistyped, or"
            " this pump has a hump: two flows at one head. Check the manufacturer's sheet.",
            "head that falls with flow",
        )
        return None
    if len(rows) < 3:
        _refused(out, "curve_short", "Curve: it takes three points or more.", "three points")
        return None
    x, y = [q for q, _ in rows], [h for _, h in rows]
    head: Line | Parabola = Line.through(x, y)
    how = "points"
    if len(rows) == 3 and x[0] == 0:
        bent = parabola(rows)
        if bent is None:
            _refused(
                out,
                "curve_bent",
                "Curve: these three points do not bend down as a pump's curve does. Points are "
                "mistyped, or this"
                " pump has a hump: enter more points.",
                "three points that bend down",
            )
            return None
        head, how = bent, "three"
    return Curve(
        how=how,  # type: ignore[arg-type]
        head=head,
        power=_line(_power(points, out)),
        npshr=_line(points.column("npshr")),
        low=x[0],
    )


def _power(points: Points, out: Pump) -> list[tuple[float, float]]:
    """Shaft power by row: as given, else from efficiency."""
    given = points.column("power")
    if given:
        return given
    rho = out.got.get("curve_density") or _COLD_WATER
    return [
        (r["flow"], rho * G * r["flow"] / 3600 * r["head"] / 1000 / (r["efficiency"] / 100))
        for r in points.rows
        if r.get("efficiency") and r["flow"] > 0
    ]


def _line(rows: Sequence[tuple[float, float]]) -> Line | None:
    return Line.through([q for q, _ in rows], [v for _, v in rows]) if len(rows) >= 2 else None


def _by_plate(out: Pump, limits: Limits) -> Curve | None:
    flow, pressure = out.got.get("flow"), out.got.get("head")
    if not flow or not pressure or out.displaces:
        return None
    out.notes.append(phrase("pump.plate_only"))
    head = pressure * 1000 / (_COLD_WATER * G)
    return by_plate(flow, head, limits.value("pump.shut_off"))


def _trimmed(curve: Curve, out: Pump, limits: Limits) -> Curve | None:
    fitted, drawn = out.got.get("impeller"), out.got.get("curve_impeller")
    if not fitted or not drawn or fitted == drawn:
        return curve
    ratio = fitted / drawn
    if exceeds(100 * abs(1 - ratio), limits.value("pump.trim_most")):
        _refused(
            out,
            "curve_other_impeller",
            f"Curve: it is for an impeller of {drawn:g} mm, {fitted:g} mm is fitted: too far for the "
            f"affinity laws."
            " Enter the curve of this impeller.",
            f"the curve for {fitted:g} mm",
        )
        return None
    out.trim = ratio
    out.notes.append(phrase("pump.trimmed", fitted=amount(fitted, "mm"), drawn=amount(drawn, "mm")))
    return curve.at(ratio)


def of_plate(pump: Pump) -> list[Missing]:
    """What is wrong on the nameplate: mended there, it refuses nothing that is typed here."""
    return [Missing(field="curve", message=f"Nameplate of the wet end: {p.message}") for p in pump.problems]


def curve_problems(plate: Plate) -> list[Problem]:
    """What of a curve cannot be, said where it is typed."""
    if not isinstance(plate, PumpPlate) or not plate.curve.strip():
        return []
    out = Pump(plate, plate.type)
    read, _ = read_fields(plate)
    out.got = {n: r.value for n, r in read.items()}
    try:
        curve = _through(read_points(plate.curve), out)
    except HurbinError as error:
        return [Problem.of(error)]
    if curve is not None:
        _trimmed(curve, out, Limits())
    return out.problems


PLATE_CHECKS.append(curve_problems)
