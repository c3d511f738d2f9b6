"""A stop that stands: what ends it, and when a lead may release one watched trial run."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from ..base import RULES, HurbinError, Limits, Model

_LIMITS = Limits()
LONGEST_MIN = _LIMITS.count("safety.trial_minutes") // 60
STARTS_WITHIN = timedelta(seconds=_LIMITS.value("safety.trial_starts"))


class End(Model):
    """What ends a stop on this question. `trial`: after a recorded repair it may be tried out under watch."""

    question: str
    ends: str
    trial: bool = False


ENDS: dict[str, End] = {
    r.id: End(question=r.id, ends=r.ends, trial=r.trial) for r in RULES.values() if r.ends
}
OTHER = "A newer record that answers the same question."


class StandingStop(Model):
    """A stop that stands on a set. `repaired`: a repair of what it concerns is on record since."""

    question: str
    subject: str = ""
    since: datetime | None = None
    repaired: bool = False
    says: str = ""


class TrialRun(Model):
    """A lead's word for one watched run: for which stops, within which limits, for how many minutes, until
    when it is begun."""

    questions: list[str]
    limits: str
    minutes: int
    by: str
    until: datetime


class StopWords(Model):
    """One standing stop for a person: what it is, what ends it, and what a trial run still waits for."""

    question: str
    title: str
    says: str
    ends: str
    trial: bool
    waits: str = ""


def released(stop: StandingStop, trials: Sequence[TrialRun], as_of: datetime | None) -> TrialRun | None:
    """Which release lets this stop be tried out now? None: none does. Without a time nothing is released."""
    end = ENDS.get(stop.question)
    if end is None or not end.trial or not stop.repaired or as_of is None:
        return None
    return next((t for t in trials if stop.question in t.questions and as_of < t.until), None)


def stop_words(stops: Sequence[StandingStop]) -> list[StopWords]:
    """What stands, and what ends each of it?"""
    out = []
    for s in stops:
        end = ENDS.get(s.question, End(question=s.question, ends=OTHER))
        title = RULES[s.question].title if s.question in RULES else s.question.replace("_", " ")
        waits = "" if not end.trial or s.repaired else "a recorded repair"
        out.append(
            StopWords(
                question=s.question, title=title, says=s.says, ends=end.ends, trial=end.trial, waits=waits
            )
        )
    return out


def check_trial(stops: Sequence[StandingStop], minutes: int, limits: str) -> list[str]:
    """May one watched trial run be released into these stops? The questions it covers.

    Raises where nothing stands, where one of them is never tried out, where no repair is on record, and
    without limits or a number of minutes from 1 to an hour.
    """
    if not stops:
        raise HurbinError("no_stop", "No stop stands on this set: it needs no release.", field="questions")
    for w, s in zip(stop_words(stops), stops, strict=True):
        if not w.trial:
            raise HurbinError(
                "trial_never", f"{w.title}: never tried out. {w.ends}", field="questions", value=s.question
            )
        if not s.repaired:
            message = f"{w.title}: record the repair first, then it may be tried out."
            raise HurbinError("repair_missing", message, field="questions", value=s.question)
    if not 1 <= minutes <= LONGEST_MIN:
        message = "Enter how many minutes it is watched."
        raise HurbinError(
            "minutes_wrong", message, field="minutes", value=minutes, right=f"1 to {LONGEST_MIN}"
        )
    if not limits.strip():
        message = "Enter the limits at which it is stopped at once."
        raise HurbinError(
            "limits_missing", message, field="limits", right="stop over 24 A on any leg, or any smoke"
        )
    return [s.question for s in stops]
