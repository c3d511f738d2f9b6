"""A first survey: the places in their order, what was read there, and what follows for later readings."""

from __future__ import annotations

from dataclasses import dataclass, field

from ...base import Finding, Phrase, SeriesPoint, Unknown, Verdict, amount, exceeds, phrase, read_fields
from ..answering import answer
from .entry import SurveyRow
from .state import Duty

ORDER = ("standing", "shut_off", "normal", "step_1", "step_2", "repeat", "uncoupled")
# What every survey takes; a shut-off point only where it is allowed, no-load current when there is a chance.
MUST = ("standing", "normal", "step_1", "step_2", "repeat")


@dataclass(slots=True)
class Place:
    """One place as read: rise in kPa between the gauges, suction pressure, mean current, turns."""

    at: str
    suction: float | None = None
    rise: float | None = None
    amps: float | None = None
    turns: float | None = None
    whole: bool = False


@dataclass(slots=True)
class Survey:
    places: dict[str, Place] = field(default_factory=dict)
    twice: list[str] = field(default_factory=list)

    @property
    def next(self) -> str:
        """The place that comes next; empty when all that must be is there."""
        return next((p for p in ORDER if p in MUST and not self.done(p)), "")

    def done(self, at: str) -> bool:
        place = self.places.get(at)
        return place is not None and place.whole


def survey_of(d: Duty) -> Survey:
    """What was read where. A place that is there twice counts as contradicted."""
    out = Survey()
    for row in d.body.survey:
        if row.at in out.places:
            out.twice.append(row.at)
        out.places[row.at] = _place(d, row)
    return out


def _place(d: Duty, row: SurveyRow) -> Place:
    read, problems = read_fields(row)
    d.t.problems += problems
    got = {n: r.value for n, r in read.items()}
    legs = [got[n] for n in ("amps_1", "amps_2", "amps_3")[: d.motor.phases] if n in got]
    place = Place(row.at, suction=got.get("suction"), turns=got.get("turns"))
    if {"suction", "discharge"} <= got.keys():
        place.rise = got["discharge"] - got["suction"]
    if len(legs) == (3 if d.motor.phases == 3 else 1):
        place.amps = sum(legs) / len(legs)
    if row.at == "standing":
        place.whole = place.rise is not None
    elif row.at == "uncoupled":
        place.whole = place.amps is not None
    else:
        place.whole = place.rise is not None and place.amps is not None
    return place


def survey_finding(d: Duty, s: Survey) -> Finding | None:
    """Is the survey whole, and did it end where it began?"""
    if not d.body.survey:
        return None
    if s.twice:
        reason = phrase("survey.twice", place=phrase(f"survey.at_{s.twice[0]}"))
        return answer("first_survey", Verdict.UNKNOWN, reason, unknown=Unknown.INCONCLUSIVE)
    if s.next:
        reason = phrase("survey.next", place=phrase(f"survey.at_{s.next}"))
        return answer("first_survey", Verdict.UNKNOWN, reason, phrase(f"survey.how_{s.next}"))
    if d.pump.displaces and "shut_off" in s.places:
        return answer(
            "first_survey", Verdict.UNKNOWN, phrase("survey.no_shut_off"), unknown=Unknown.INCONCLUSIVE
        )
    off = _repeat_off(s)
    most = d.limits.value("survey.repeat")
    if off is None or exceeds(off, most):
        shown = amount(off or 0.0, "%")
        return answer(
            "first_survey",
            Verdict.UNKNOWN,
            phrase("survey.unsteady", off=shown),
            unknown=Unknown.INCONCLUSIVE,
        )
    order = _out_of_order(s)
    if order is not None:
        return answer("first_survey", Verdict.UNKNOWN, order, unknown=Unknown.INCONCLUSIVE)
    notes = [phrase("survey.no_idle")] if not s.done("uncoupled") else []
    return answer("first_survey", Verdict.GOOD, phrase("survey.whole", off=amount(off, "%")), *notes)


def _repeat_off(s: Survey) -> float | None:
    """How far, in percent, is the repeat from the first normal reading, the worse of rise and current?"""
    one, two = s.places["normal"], s.places["repeat"]
    if not one.rise or not two.rise or not one.amps or not two.amps:
        return None
    return 100 * max(abs(two.rise / one.rise - 1), abs(two.amps / one.amps - 1))


def _out_of_order(s: Survey) -> Phrase | None:
    """Closing the valve raises the head: a step in between whose head is below the normal one was not read
    there.
    """
    normal = s.places["normal"].rise or 0.0
    for at in ("step_1", "step_2"):
        rise = s.places[at].rise
        if rise is not None and exceeds(normal, rise):
            return phrase("survey.order", place=phrase(f"survey.at_{at}"))
    return None


def survey_points(d: Duty, s: Survey, found: Finding | None) -> list[SeriesPoint]:
    """What a whole survey leaves for later: no-load current, static head, head by place."""
    if found is None or found.verdict is not Verdict.GOOD or d.fluid is None:
        return []
    out = []
    if s.done("uncoupled"):
        idle = s.places["uncoupled"].amps or 0.0
        out.append(
            SeriesPoint(measurand="no_load_amps", part="motor", conditions="survey=1", value=idle, unit="A")
        )
    for at in ("shut_off", "normal", "step_1", "step_2"):
        rise = s.places[at].rise if at in s.places else None
        if rise is not None:
            head = rise / d.fluid.kpa_per_m + d.gauges.z_d - d.gauges.z_s
            out.append(
                SeriesPoint(
                    measurand="survey_head", part="pump", conditions=f"place={at}", value=head, unit="m_head"
                )
            )
    return out
