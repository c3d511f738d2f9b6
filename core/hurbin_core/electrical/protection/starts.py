"""How often it starts: a log of times, its busiest hour, against what the motor bears."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from datetime import date, timedelta

from ...base import Finding, Phrase, Problem, Verdict, amount, exceeds, judge, phrase
from .formulas import starts_allowed
from .sheet import Guard, answer

_TIME = re.compile(r"(?:(\d{4})-(\d\d)-(\d\d)[T ]+)?(\d{1,2}):(\d\d)(?::(\d\d))?", re.ASCII)
_BETWEEN = re.compile(r"[\s,;]*")
_HOUR, _DAY = 3600, 86400


@dataclass(slots=True)
class Log:
    """Starts in seconds since the first. ended: the day of the last, where days were entered."""

    at: list[float] = field(default_factory=list)
    ended: date | None = None
    problems: list[Problem] = field(default_factory=list)

    @property
    def span(self) -> float:
        return self.at[-1] - self.at[0] if self.at else 0.0

    @property
    def busiest(self) -> tuple[int, int]:
        """The hour with most starts: the first and the last of them, by their place in the log."""
        best, first = (0, -1), 0
        for last, at in enumerate(self.at):
            while at - self.at[first] >= _HOUR:
                first += 1
            if last - first > best[1] - best[0]:
                best = (first, last)
        return best

    @property
    def most(self) -> int:
        """Most starts in any sixty minutes."""
        first, last = self.busiest
        return last - first + 1 if self.at else 0

    @property
    def shortest(self) -> float | None:
        """Seconds between the two starts that are closest."""
        return min((b - a for a, b in zip(self.at, self.at[1:], strict=False)), default=None)


def read_log(text: str) -> Log:
    """Times as a controller prints them: "2026-03-01 07:12:30", or "07:12" with a new day where one goes
    back. Anything else is named; what cannot be a time is refused.
    """
    out, place, day, before = Log(), 0, 0.0, -1.0
    dates = False
    while place < len(text):
        between = _BETWEEN.match(text, place)
        place = between.end() if between else place
        if place >= len(text):
            break
        found = _TIME.match(text, place)
        if found is None:
            word = text[place:].split()[0][:20]
            return _refused(word, f"“{word}” is no time: 07:12, or 2026-03-01 07:12.")
        place = found.end()
        year, month, dated, hour, minute, second = found.groups()
        if int(hour) > 23 or int(minute) > 59 or int(second or 0) > 59:
            return _refused(found[0], f"{found[0]} is no time of day.")
        in_day = int(hour) * 3600.0 + int(minute) * 60 + int(second or 0)
        if year:
            dates = True
            try:
                day = date(int(year), int(month), int(dated)).toordinal() * float(_DAY)
            except ValueError:
                return _refused(found[0], f"{found[0]} is no date.")
        elif out.at and day + in_day < before:
            day += timedelta(days=1).total_seconds()
        if day + in_day < before:
            return _refused(found[0], f"{found[0]} comes before the start above it: enter them in order.")
        before = day + in_day
        out.at.append(before)
    if out.at:
        out.ended = date.fromordinal(int(before // _DAY)) if dates else None
        out.at = [t - out.at[0] for t in out.at]
    return out


def _refused(word: str, message: str) -> Log:
    right = "07:12 07:31 08:02, or 2026-03-01 07:12"
    return Log(
        problems=[Problem(code="starts_wrong", field="starts", value=word[:60], message=message, right=right)]
    )


def allowed(g: Guard) -> int | None:
    """How many starts an hour? The manufacturer's figure where it is there, else the table's."""
    if "starts_most" in g.got:
        return int(g.got["starts_most"] * (1 + 1e-9))
    names = ("starts_a", "starts_b", "load_inertia")
    if any(n not in g.got for n in names):
        return None
    return starts_allowed(*(g.got[n] for n in names))


def starts_finding(g: Guard, log: Log) -> Finding | None:
    """Does it start more often than it bears? Worst state in which good is still said: a log of days on which
    it was not needed much.
    """
    most = allowed(g)
    if not log.at:
        if most is None or log.problems:
            return None
        return answer(
            "starts_hour", Verdict.UNKNOWN, phrase("protection.starts_none", most=str(most)), part="motor"
        )
    if most is None:
        reason = phrase("protection.starts_ask", n=str(log.most))
        return answer("starts_hour", Verdict.UNKNOWN, reason, part="motor")
    if most == 0:
        return answer("starts_hour", Verdict.ACT, phrase("protection.starts_zero"), part="motor")
    share = 100 * log.most / most
    told = judge("starts_hour", amount(share, "%"), g.limits)
    reason = phrase(
        "protection.starts_said",
        n=str(log.most),
        most=str(most),
        pct=amount(share, "%"),
        hours=f"{log.span / _HOUR:.0f}",
    )
    verdict, notes = _rest(g, log, told.verdict)
    found = answer("starts_hour", verdict, reason, *notes, part="motor")
    return found.model_copy(update={"line": told.line, "limits": told.limits})


def _rest(g: Guard, log: Log, verdict: Verdict) -> tuple[Verdict, list[Phrase]]:
    """Two starts closer together than the rest that is asked for left none; further apart proves nothing."""
    rest, gap = g.got.get("rest"), log.shortest
    if rest is None or gap is None:
        return verdict, []
    if exceeds(rest, gap):
        words = phrase("protection.rest_short", gap=amount(gap, "s"), rest=amount(rest, "s"))
        return Verdict.ACT, [words]
    return verdict, [phrase("protection.rest_unsaid", rest=amount(rest, "s"))]


def recent(g: Guard, log: Log, today: date) -> bool:
    """Is it of the last weeks? A log without days is taken as of today; one that ends tomorrow is none."""
    if log.ended is None:
        return True
    age = (today - log.ended).days
    return age >= -1 and not exceeds(age, g.limits.value("starts.old"))


def covers(g: Guard, log: Log) -> bool:
    """Is the log long enough to know the busiest hour?"""
    return not exceeds(g.limits.value("starts.covers"), log.span / _HOUR)
