"""The bench for a drive's settings: found, should be, left, and what moved since last time."""

from __future__ import annotations

from collections.abc import Sequence

from ...base import (
    Bench,
    Evaluation,
    Missing,
    Needs,
    Phrase,
    SeriesPoint,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded
from ..lasting import again
from .entry import DriveSheetEntry
from .judging import changed_finding, group_finding, reset_finding, saved_finding
from .parameters import GROUPS, MAPS, Set
from .sheet import Row, Sheet, understand
from .shoulds import shown
from .view import DriveSheetView, FamilyView, SettingGroup, SettingView, TrackView


def replay(entries: Sequence[Entry[DriveSheetEntry]], case: AnyCase) -> Sheet:
    """The newest word on these settings, read once."""
    entry = newest(list(entries))
    return understand(entry.body if entry is not None else DriveSheetEntry(), case)


def judge(sheet: Sheet, case: AnyCase) -> Evaluation[DriveSheetView]:
    """Is the drive set for this motor, fuse, pump and pipe; was it reset; what moved since last time?

    Each setting in its parameter's own unit. Every one may be missing: then its group is unknown.
    """
    asked = [group_finding(sheet, g) for g in GROUPS]
    asked += [reset_finding(sheet), changed_finding(sheet), saved_finding(sheet)]
    raw = [f for f in asked if f is not None]
    lacking: dict[str, Phrase | None] = {} if sheet.body.loss_proved else {"drive.loss_proved": None}
    found, verdict, beside = concluded(raw, lacking, sheet.problems)
    settled = (
        ["drive_reset"]
        if sheet.family and sheet.read and not any(f.question == "drive_reset" for f in raw)
        else []
    )
    return Evaluation[DriveSheetView](
        bench="drive_sheet",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=found,
        settled=settled,
        cautions=[] if raw else [phrase("drive.caution"), phrase("safety.codes")],
        points=_points(sheet),
        due=again(case, "lasting.set"),
        problems=sheet.problems,
        missing=[]
        if sheet.read
        else [
            Missing(
                field="rows",
                message="Enter what the drive is set to, or read it from a file or the drive.",
            )
        ],
        view=_drawn(sheet),
    )


def _points(sheet: Sheet) -> list[SeriesPoint]:
    """Where the drive trips and limits: what a running check holds the motor against."""
    out = []
    on = sheet.rows["overload_on"].now
    for name, measurand in (("overload_amps", "overload_trip"), ("current_limit", "drive_limit")):
        said = sheet.rows[name].now
        if said is None or not said.value or (name == "overload_amps" and (on is None or on.word != "trip")):
            continue
        out.append(
            SeriesPoint(
                measurand=measurand, part="control", conditions="at=drive_output", value=said.value, unit="A"
            )
        )
    return out


def _drawn(sheet: Sheet) -> DriveSheetView:
    rows = list(sheet.rows.values())
    return DriveSheetView(
        groups=[
            SettingGroup(
                id=k,
                title=g.title,
                rows=[_row(r) for r in rows if r.parameter.group == k],
                asked=sum(r.parameter.group == k and r.should is not None for r in rows),
                right=sum(r.parameter.group == k and r.state == "right" for r in rows),
            )
            for k, g in GROUPS.items()
        ],
        families=[FamilyView(id=m.id, title=m.title, note=m.note) for m in MAPS.values()],
        read=len(sheet.read),
        moved=len(sheet.moved),
        wrong=sum(r.state == "wrong" for r in rows),
        before_at=sheet.before_at.isoformat() if sheet.before_at else "",
    )


def _row(r: Row) -> SettingView:
    p = r.parameter
    return SettingView(
        id=p.id,
        title=p.title,
        unit=p.unit if p.unit != "1" else "",
        choices=p.choices,
        before=r.before_text,
        should=shown(p, r.should) if r.should is not None else None,
        why=r.should.why if r.should is not None else "",
        state=r.state,
        moved=r.moved,
        wrong=p.wrong,
        track=_track(r),
        own=r.own or p.should == "stated",
    )


def _track(r: Row) -> TrackView | None:
    """A figure beside what it ought to be; none where there is no range to hold it against."""
    should = r.should
    values = [s.value for s in (r.before, r.found, r.left) if s is not None and not s.word]
    if should is None or should.unknown or should.words or not values:
        return None
    ends = [x for x in (should.low, should.high) if x is not None]
    low, high = min(*values, *ends), max(*values, *ends)
    span = (high - low) or abs(high) or 1.0
    start = low - 0.25 * span if low > 0 else low
    end = high + 0.25 * span

    def at(value: float | None, otherwise: float) -> float:
        return otherwise if value is None else round((value - start) / (end - start), 4)

    def place(s: Set | None) -> float | None:
        return at(s.value, 0.0) if s is not None else None

    return TrackView(
        low=at(should.low, 0.0),
        high=at(should.high, 1.0),
        before=place(r.before),
        found=place(r.found),
        left=place(r.left),
    )


DRIVE_SHEET = Bench(
    name="drive_sheet",
    title="Drive settings",
    records="Drive settings",
    one="a drive's settings",
    offer="Read the drive's settings",
    key="4",
    does="read what its drive is set to",
    place=83,
    part="control",
    kinds=("drive",),
    entry=DriveSheetEntry,
    view=DriveSheetView,
    needs=Needs(plates=("motor", "control", "supply"), earlier=12),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
