"""What a drive's settings say: each group against what it ought to be, a reset, what moved since."""

from __future__ import annotations

from ...base import RULES, Finding, Phrase, Unknown, Verdict, amount, exceeds, phrase
from .parameters import GROUPS, Parameter, Set, defaults, read_setting
from .sheet import Row, Sheet, alike
from .shoulds import shown, shown_set

_PLATE = ("plate_volts", "plate_hz", "plate_amps", "plate_power", "plate_rpm")


def _answer(question: str, verdict: Verdict, reason: Phrase, notes: list[Phrase] | None = None) -> Finding:
    return Finding(
        question=question,
        part="control",
        verdict=verdict,
        by=RULES[question].by.get(verdict),
        unknown=Unknown.INCOMPLETE if verdict is Verdict.UNKNOWN else None,
        rule=question,
        reason=reason,
        notes=notes or [],
    )


def names(rows: list[Row]) -> str:
    """The parameters by their titles, as they stand in a sentence."""
    return ", ".join(r.parameter.title.lower() for r in rows)


def group_finding(sheet: Sheet, group: str) -> Finding | None:
    """Are the settings of one group as they ought to be? Worst state in which good is still said: a parameter
    of this manufacturer that has no name here.
    """
    question = GROUPS[group].question
    asked = [r for r in sheet.rows.values() if r.parameter.group == group and r.should is not None]
    if not question or not any(r.now is not None for r in asked):
        return None
    by = {s: [r for r in asked if r.state == s] for s in ("wrong", "reasoned", "unread", "unsure", "right")}
    notes = [_row_words(r) for r in by["wrong"]] + [_row_words(r) for r in by["reasoned"]]
    notes += [
        phrase("drive.wants", name=r.parameter.title, what=r.should.unknown) for r in by["unsure"] if r.should
    ]
    if group == "motor":
        notes += _flux(sheet) + _synchronous(sheet)
    if by["wrong"]:
        return _answer(question, Verdict.ACT, phrase("drive.wrong", names=names(by["wrong"])), notes)
    if by["unread"]:
        return _answer(question, Verdict.UNKNOWN, phrase("drive.unread", names=names(by["unread"])), notes)
    if by["unsure"]:
        return _answer(question, Verdict.UNKNOWN, phrase("drive.unknown", names=names(by["unsure"])), notes)
    if by["reasoned"]:
        return _answer(question, Verdict.WATCH, phrase("drive.otherwise", names=names(by["reasoned"])), notes)
    return _answer(question, Verdict.GOOD, phrase("drive.right", n=str(len(by["right"]))), notes)


def _row_words(r: Row) -> Phrase:
    assert r.now is not None
    assert r.should is not None
    template = "drive.row_reason" if r.state == "reasoned" else "drive.row"
    more: dict[str, str] = {"reason": r.typed.reason.strip()} if r.state == "reasoned" else {}
    if not more:
        more = {"wrong": r.parameter.wrong}
    return phrase(
        template,
        name=r.parameter.title,
        **{"is": shown_set(r.parameter, r.now)},
        should=shown(r.parameter, r.should),
        why=r.should.why,
        **more,
    )


def _flux(sheet: Sheet) -> list[Phrase]:
    """Volts over frequency against the nameplate's: iron that is weak, or driven into saturation."""
    volts, hz = (sheet.rows[n].now for n in ("motor_volts", "motor_hz"))
    motor = sheet.facts.motor
    if volts is None or hz is None or not hz.value or not motor.volts_v or not motor.frequency_hz:
        return []
    share = 100 * (volts.value / hz.value) / (motor.volts_v / motor.frequency_hz)
    off = sheet.limits.value("drive.flux")
    if not exceeds(abs(share - 100), off):
        return []
    return [phrase(f"drive.flux_{'low' if share < 100 else 'high'}", pct=amount(share, "%"))]


def _synchronous(sheet: Sheet) -> list[Phrase]:
    rpm, hz = sheet.rows["motor_rpm"].now, sheet.facts.motor.frequency_hz
    if rpm is None or not hz or not rpm.value:
        return []
    pairs = 60 * hz / rpm.value
    return [phrase("drive.synchronous")] if abs(pairs - round(pairs)) < 1e-6 else []


def reset_finding(sheet: Sheet) -> Finding | None:
    """Did it forget its motor? Several nameplate settings at the factory's value, and none of them right."""
    if sheet.family is None:
        return None
    factory = defaults(sheet.family)
    rows = [
        r
        for r in sheet.rows.values()
        if r.parameter.should in _PLATE and r.state == "wrong" and _at_factory(r.parameter, r.now, factory)
    ]
    if len(rows) < sheet.limits.count("drive.defaults"):
        return None
    reason = phrase("drive.reset", n=str(len(rows)), names=names(rows))
    return _answer("drive_reset", Verdict.ACT, reason)


def _at_factory(parameter: Parameter, now: Set | None, factory: dict[str, str]) -> bool:
    told = read_setting(parameter, factory.get(parameter.id, ""))
    return now is not None and told is not None and alike(now, told)


def changed_finding(sheet: Sheet) -> Finding | None:
    """What moved since the last visit left it? Nothing has only where everything it left was read again."""
    compared = [r for r in sheet.rows.values() if r.before is not None and r.found is not None]
    if sheet.before_at is None or not compared:
        return None
    when = f"{sheet.before_at:%d %b %Y}"
    moved = [r for r in compared if r.moved]
    left = [r for r in sheet.rows.values() if r.before is not None and r.found is None]
    if not moved and left:
        words = phrase("drive.part", when=when, n=str(len(compared)), of=str(len(compared) + len(left)))
        return _answer("drive_changed", Verdict.UNKNOWN, words)
    if not moved:
        return _answer("drive_changed", Verdict.GOOD, phrase("drive.unchanged", when=when))
    notes = [phrase("drive.other", when=when)] if sheet.other_drive else []
    notes += [
        phrase(
            "drive.changed_row",
            name=r.parameter.title,
            before=shown_set(r.parameter, r.before),
            **{"is": shown_set(r.parameter, r.found)},
        )
        for r in moved
        if r.before is not None and r.found is not None
    ]
    return _answer(
        "drive_changed", Verdict.WATCH, phrase("drive.changed", when=when, names=names(moved)), notes
    )


def saved_finding(sheet: Sheet) -> Finding | None:
    """Is everything saved before what holds it is changed?"""
    if sheet.body.changing is None:
        return None
    if sheet.body.saved and sheet.read:
        return _answer("drive_saved", Verdict.GOOD, phrase("drive.saved"))
    return _answer("drive_saved", Verdict.ACT, phrase("drive.save_first", part=sheet.body.changing))
