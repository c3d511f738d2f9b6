"""The bench for a terminal box: which lead is with which, drawn, solved, and held against the plate."""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence

from ...base import (
    Bench,
    Evaluation,
    Limits,
    Missing,
    Needs,
    Phrase,
    Quantity,
    amount,
    concluded,
    phrase,
    rules_version,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded
from ..lasting import again
from .checking import half_of
from .entry import LeadsEntry, name_of
from .judging import Answer, Looked, answered, finding, moves_said, understand
from .rolled import means, rolled_finding
from .solving import driven
from .unmarked import Marked, marked, marks_finding
from .view import HalfView, LeadsView, LineView, NutView, TestView, UnmarkedView
from .windings import LINES, Box


def replay(entries: Sequence[Entry[LeadsEntry]], case: AnyCase) -> Looked:
    """The newest word on this box, read once."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else LeadsEntry()
    return understand(body, Limits(case.context.overrides), case)


def judge(looked: Looked, case: AnyCase) -> Evaluation[LeadsView]:
    """Are the leads joined as this motor wants them on this supply; if not, which move; and what would happen
    if it were started so?
    """
    answer = answered(looked)
    found = finding(looked, answer)
    rolled = rolled_finding(looked.amps, looked.plate_amps, looked.limits)
    unmarked = _unmarked(looked)
    marks = marks_finding(unmarked)
    looked.problems = [*looked.problems, *unmarked.problems]
    told, verdict, beside = concluded(
        [f for f in (found, rolled, marks) if f is not None], _lacking(looked), looked.problems
    )
    return Evaluation[LeadsView](
        bench="leads",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        findings=told,
        cautions=[]
        if found is not None or rolled is not None or marks is not None
        else [phrase("leads.caution"), phrase("safety.codes")],
        due=again(case, "lasting.joined"),
        problems=looked.problems,
        missing=_missing(looked),
        view=_drawn(looked, answer).model_copy(update={"unmarked": _unmarked_view(unmarked)}),
    )


def _lacking(looked: Looked) -> dict[str, Phrase | None]:
    body = looked.body
    wanting = {
        "leads.supply": looked.supply is None,
        "leads.plate": not looked.plate,
        "leads.traced": not body.traced,
    }
    return {g: None for g, lacks in wanting.items() if lacks}


def _missing(looked: Looked) -> list[Missing]:
    if (looked.amps or looked.body.groups.strip()) and not looked.body.box.strip():
        return []
    if not looked.count:
        return [Missing(field="leads", message="Enter how many leads the motor brings out.")]
    if not looked.nuts.box:
        return [Missing(field="box", message="Put the leads together as they are now, before touching any.")]
    if looked.nuts.loose or looked.nuts.bare:
        names = ", ".join(name_of(x, looked.marks) for x in (*looked.nuts.bare, *looked.nuts.loose))
        return [Missing(field="box", message=f"In no nut yet: {names}. One that is open stands alone.")]
    return []


def _unmarked(looked: Looked) -> Marked:
    """How far the leads without marks are."""
    body = looked.body
    return marked(body.groups, int(body.leads or 0), body.tests, looked.test_volts, looked.limits)


def _unmarked_view(found: Marked) -> UnmarkedView | None:
    if not found.groups:
        return None
    asked = found.asked
    return UnmarkedView(
        groups=found.groups,
        marks=found.marks,
        asked=TestView(tied=asked.tied, to=asked.to, reads=asked.reads, kicks=asked.kicks) if asked else None,
        says=found.says,
        done=found.done,
    )


def _drawn(looked: Looked, answer: Answer | None) -> LeadsView:
    lines, leads = ([amount(x, "A") for x in of] for of in means(looked.amps))
    if not looked.count:
        return LeadsView(by_line=lines, by_lead=leads)
    names = [name_of(str(n), looked.marks) for n in range(1, looked.count + 1)]
    view = LeadsView(
        leads=looked.count,
        names=names,
        nuts=_nuts(looked, looked.nuts.box),
        loose=[name_of(x, looked.marks) for x in looked.nuts.loose],
        by_line=lines,
        by_lead=leads,
    )
    if answer is None:
        return view
    right = answer.winding.right(answer.use)
    return view.model_copy(
        update={
            "winding": answer.winding.title,
            "halves": _halves(looked, answer),
            "moves": moves_said(looked, answer),
            "right": _nuts(looked, right.box) if right is not None else [],
            "list_title": right.title if right is not None else "",
            **_started(answer),
        }
    )


def _nuts(looked: Looked, box: Box) -> list[NutView]:
    def place(n: frozenset[str]) -> tuple[str, int]:
        return next((x for x in LINES if x in n), "L9"), min((int(x) for x in n if x.isdigit()), default=0)

    return [
        NutView(
            line=next((x for x in LINES if x in n), ""),
            leads=[name_of(x, looked.marks) for x in sorted((x for x in n if x.isdigit()), key=int)],
        )
        for n in sorted(box, key=place)
    ]


def _halves(looked: Looked, answer: Answer) -> list[HalfView]:
    """Each against what it is made for where plate and supply say it, else against its right list."""
    own = half_of(answer.winding, answer.use) or 1.0
    scale = looked.supply / answer.made if looked.supply and answer.made else 1 / own
    right = answer.winding.right(answer.use)
    due = driven(answer.winding, right.box).volts if right is not None else answer.got.volts
    fit = answer.fits.get(answer.winding.id)
    if fit is not None and fit.turns < 0:
        due = tuple(v.conjugate() for v in due)
    out = []
    for k, ((a, b, phase), v) in enumerate(zip(answer.winding.coils, answer.got.volts, strict=True)):
        state = "shorted" if k in answer.got.shorted else "open" if k in answer.got.open_ else ""
        ends = "-".join(name_of(x, looked.marks) for x in (a, b) if x.isdigit())
        out.append(
            HalfView(
                name=ends,
                phase=phase + 1,
                x=round(v.real * scale, 4),
                y=round(v.imag * scale, 4),
                due_x=round(due[k].real / own, 4),
                due_y=round(due[k].imag / own, 4),
                percent=amount(100 * abs(v) * scale, "%"),
                angle=amount(round(math.degrees(cmath.phase(v))) % 360 if abs(v) > 1e-6 else 0.0, "deg"),
                volts=amount(abs(v) * looked.supply, "V") if looked.supply else None,
                state=state,
            )
        )
    return out


def _started(answer: Answer) -> dict[str, list[LineView] | Quantity]:
    """Amps of each line, torque and the hottest half at standstill, in percent of the right list."""
    right = answer.winding.right(answer.use)
    if right is None:
        return {}
    due = driven(answer.winding, right.box)
    amps, heat = abs(due.lines[0]), max(due.heat)
    return {
        "lines": [
            LineView(name=n, percent=amount(100 * abs(i) / amps, "%"))
            for n, i in zip(LINES, answer.got.lines, strict=True)
        ],
        "torque": amount(round(100 * abs(answer.got.torque) / due.torque, 1), "%"),
        "heat": amount(100 * max(answer.got.heat) / heat, "%"),
    }


LEADS = Bench(
    name="leads",
    title="Terminal box",
    records="Terminal boxes",
    one="a terminal box",
    offer="Check the motor's leads",
    gated="Hands in the terminal box",
    seen="Enter leads already looked at",
    key="z",
    does="check its leads",
    place=46,
    part="motor",
    act="open_leads",
    read_with=("voltage", "current"),
    entry=LeadsEntry,
    view=LeadsView,
    needs=Needs(plates=("motor",)),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
