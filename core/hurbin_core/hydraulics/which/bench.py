"""Which kind of pump for this liquid, explained; and whether this set's is one of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from ...base import (
    RULEBOOK,
    Bench,
    Entered,
    Evaluation,
    Finding,
    Kept,
    Limits,
    Missing,
    Model,
    Needs,
    Phrase,
    Unknown,
    Verdict,
    amount,
    concluded,
    entered_field,
    exceeds,
    phrase,
    rules_version,
    said_field,
)
from ...logbook import AnyCase, Entry, newest, newest_body
from ...safety import guarded
from ..answering import answer
from ..fields import kept_figure
from ..lasting import again
from ..pump import Pump, pump_of
from ..reading import Typed, typed_of

YesNo = Literal["yes", "no"]


class Against(Model):
    """What speaks against a kind: a figure above or below, or a word."""

    field: str
    says: str
    above: float | None = None
    below: float | None = None
    is_: str | None = Field(default=None, alias="is")


class PumpKindRow(Model):
    id: str
    title: str
    for_: str = Field(alias="for")
    shut: str
    types: list[str]
    against: list[Against]


class _Kinds(Model):
    pump: list[PumpKindRow]


KINDS = RULEBOOK.section("hydraulics/which/kinds.toml", _Kinds).pump


class WhichEntry(Model):
    """The liquid and the service. Every field may be missing."""

    solids: Entered | None = kept_figure("Solids, by mass", "percent", 60)
    solids_mg: Entered | None = entered_field("Solids, mg/l", "ratio", high=600000, kept=Kept.SET)
    rags: YesNo | None = said_field("Rags or long fibres", kept=Kept.SET)
    thick: Entered | None = kept_figure("Viscosity", "viscosity", 1e6)
    head: Entered | None = kept_figure("Head", "head", 2000)
    flow: Entered | None = kept_figure("Flow", "flow", 50000)
    dosing: YesNo | None = said_field("Exact dosing", kept=Kept.SET)
    shear: YesNo | None = said_field("Flocs or emulsions to be kept whole", kept=Kept.SET)
    dry: YesNo | None = said_field("May run dry", kept=Kept.SET)
    closes: YesNo | None = said_field("Service can shut while it runs", kept=Kept.SET)
    gas: YesNo | None = said_field("Gas is to be moved", kept=Kept.SET)
    wheel: YesNo | None = said_field("Its impeller is made for solids", kept=Kept.SET)
    note: str = said_field("Note", "", free=True, max_length=500)


class PumpKindView(Model):
    """One kind. fits: yes, no, or open where an answer is missing; here: this set's is of it."""

    id: str
    title: str
    for_what: str
    shut: str
    fits: Literal["yes", "no", "open"]
    against: list[str]
    asks: list[str]
    here: bool = False


class WhichView(Model):
    kinds: list[PumpKindView] = []
    solids: float | None = None


@dataclass(slots=True)
class Which:
    """The liquid understood. solids: percent by mass, from either figure."""

    body: WhichEntry
    t: Typed
    limits: Limits
    pump: Pump
    here: str


def replay(entries: Sequence[Entry[WhichEntry]], case: AnyCase) -> Which:
    """The newest word on it, read once; mg/l brought to percent."""
    entry = newest(list(entries))
    body = entry.body if entry is not None else WhichEntry()
    limits = Limits(case.context.overrides)
    t = typed_of(body, limits)
    mg = t.got.get("solids_mg")
    if mg is not None:
        share = mg / 10000
        told = t.got.get("solids")
        if told is not None and exceeds(abs(told - share), 0.1 * max(told, share)):
            t.refuse(
                "solids_mg",
                "Percent and mg/l differ: 1 % are 10 000 mg/l. Correct one of the two.",
                "one of the two",
            )
        else:
            t.got["solids"] = share
    return Which(body, t, limits, pump_of(case.context, limits), case.context.kind)


def judge(w: Which, case: AnyCase) -> Evaluation[WhichView]:
    """Which kinds of pump fit this liquid and service, why not the others, and is this set's one that fits?

    % by mass, mm²/s, m, m³/h. A kind fits only where every question that could speak against it is answered.
    """
    view = _drawn(w)
    told = _here(w, view)
    found, verdict, beside = concluded([told] if told else [], _lacking(w), w.t.problems)
    return Evaluation[WhichView](
        bench="which",
        rules_version=rules_version(),
        verdict=verdict,
        beside=beside,
        values={"solids": amount(w.t.got["solids"], "%")} if "solids" in w.t.got else {},
        findings=found,
        waiting=[phrase("which.asked")],
        due=again(case),
        problems=w.t.problems,
        missing=[] if told else [Missing(field="solids", message="Answer what is known of the liquid.")],
        view=view,
    )


def _speaks(w: Which, a: Against) -> bool | None:
    """Does this speak against it? None where nobody answered."""
    if a.is_ is not None:
        said = getattr(w.body, a.field)
        return None if said is None else said == a.is_
    value = w.t.got.get(a.field)
    if value is None:
        return None
    return exceeds(value, a.above) if a.above is not None else exceeds(a.below or 0.0, value)


def _drawn(w: Which) -> WhichView:
    out = []
    labels = {n: f.title or n for n, f in WhichEntry.model_fields.items()}
    for k in KINDS:
        told = [(a, _speaks(w, a)) for a in k.against]
        against = [a.says for a, said in told if said]
        asks = list(dict.fromkeys(labels[a.field] for a, said in told if said is None))
        out.append(
            PumpKindView(
                id=k.id,
                title=k.title,
                for_what=k.for_,
                shut=k.shut,
                fits="no" if against else "open" if asks else "yes",
                against=against,
                asks=asks,
                here=k.id == _own(w),
            )
        )
    return WhichView(kinds=out, solids=w.t.got.get("solids"))


_BY_KIND = {"bracket_multistage": "multistage", "submersible": "channel", "vacuum": "ring"}
_BY_TYPE = {"radial": "radial", "axial": "axial", "mixed": "axial", "vortex": "channel"}


def _own(w: Which) -> str:
    """Which of them is this set's? Empty where neither its kind nor its nameplate says."""
    if w.here in _BY_KIND:
        return _BY_KIND[w.here]
    return _BY_TYPE.get(w.pump.type, "")


def _lacking(w: Which) -> dict[str, Phrase | None]:
    """A submersible is a channel pump only by its impeller: there are such pumps for clean water."""
    unsure = w.here == "submersible" and w.pump.type != "vortex" and w.body.wheel != "yes"
    return {"which.wheel": None} if unsure else {}


def _here(w: Which, view: WhichView) -> Finding | None:
    if not w.t.got and not any(
        getattr(w.body, n) for n in ("rags", "dosing", "shear", "dry", "closes", "gas")
    ):
        return None
    mine = next((k for k in view.kinds if k.here), None)
    if mine is None:
        return answer("pump_kind", Verdict.UNKNOWN, phrase("which.own_unknown"))
    if mine.fits == "no":
        words: Phrase = phrase("which.unfit", kind=mine.title, why="; ".join(mine.against))
        return answer("pump_kind", Verdict.WATCH, words)
    if mine.fits == "open":
        return answer(
            "pump_kind", Verdict.UNKNOWN, phrase("which.open", kind=mine.title, asks=", ".join(mine.asks))
        )
    return answer(
        "pump_kind", Verdict.GOOD, phrase("which.fits", kind=mine.title), unknown=Unknown.INCOMPLETE
    )


WHICH = Bench(
    name="which",
    title="Which pump",
    records="Pump choices",
    one="a pump choice",
    offer="Is it the right kind of pump?",
    key="-",
    does="see which kind of pump fits the liquid",
    place=38,
    part="pump",
    slot="pump",
    entry=WhichEntry,
    view=WhichView,
    needs=Needs(plates=("pump",)),
    replay=replay,
    judge=guarded(judge),
    facts=newest_body,
    routine=False,
)
