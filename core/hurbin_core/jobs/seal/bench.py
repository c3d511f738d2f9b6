"""A seal in the hand: stand-out, working length, faces, rubber, O-ring."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ...base import (
    RULEBOOK,
    Entered,
    Evaluation,
    Finding,
    Model,
    Phrase,
    Quantity,
    Verdict,
    amount,
    by_id,
    entered_field,
    exceeds,
    phrase,
    said_field,
)
from ...hydraulics import answer
from ...logbook import AnyCase, Entry
from ..tooling import Tool, judge_tool, lacks, small_bench, told, tool_of

Liquid = Literal["water", "glycol", "oil", "acid", "steam"]


class Rubber(Model):
    id: str
    title: str
    good: list[str]
    most: str
    most_water: str = ""
    never: list[str]


class FacePair(Model):
    id: str
    title: str
    grit: bool
    hot: bool


class _Materials(Model):
    rubber: list[Rubber]
    faces: list[FacePair]


_data = RULEBOOK.section("jobs/seal/materials.toml", _Materials)
RUBBERS, FACES = by_id(_data.rubber), by_id(_data.faces)


class SealEntry(Model):
    """A seal as it is built in, and an O-ring in its groove. Every field may be missing."""

    stand_out: Entered | None = entered_field(
        "Shaft stands out over the seal head", "length", low=0, high=200
    )
    flat: Entered | None = entered_field("Filed flat", "length", low=0, high=200)
    length: Entered | None = entered_field("Working length, measured", "length", low=1, high=300)
    length_maker: Entered | None = entered_field(
        "Working length, manufacturer's", "length", low=1, high=300, printed=True
    )
    box: Entered | None = entered_field("Seal box depth", "length", low=1, high=300)
    set: Entered | None = entered_field("Seal set, from the box face", "length", low=-100, high=100)
    bands: Entered | None = entered_field("Helium bands", "ratio", low=0, high=50)
    section: Entered | None = entered_field("O-ring section", "length", low=0.5, high=30)
    groove: Entered | None = entered_field("Groove depth", "length", low=0.3, high=30)
    liquid: Liquid | None = said_field("Liquid")
    temperature: Entered | None = entered_field("Liquid temperature", "temperature", low=-30, high=250)
    grit: Literal["yes", "no"] | None = said_field("Grit in it")
    rubber: Literal["epdm", "nbr", "fkm"] | None = said_field("Rubber")
    lubricant: Literal["soapy", "kit", "petroleum", "none"] | None = said_field("On the rubber")
    faces: Literal["carbon_ceramic", "carbon_sic", "sic_sic"] | None = said_field("Faces")
    note: str = said_field("Note", "", free=True, max_length=500)


class SealView(Model):
    """The shaft end, the seal in its box and the ring in its groove, as shares of what is drawn."""

    left: Quantity | None = None
    flat_at: float | None = None
    wanted: Quantity | None = None
    measured_at: float | None = None
    squeeze: Quantity | None = None
    squeezed_at: float | None = None
    flat_um: Quantity | None = None


def replay(entries: Sequence[Entry[SealEntry]], case: AnyCase) -> Tool[SealEntry]:
    return tool_of(entries, SealEntry, case)


def judge(s: Tool[SealEntry], case: AnyCase) -> Evaluation[SealView]:
    """Does the flat end clear of the head, is the working length right, the ring squeezed as it must be, the
    rubber right for liquid and lubricant? mm, %, °C.
    """
    raw = [_standout(s), _length(s), *_squeeze(s), _bands(s), _rubber(s), _faces(s)]
    missing = []
    if s.get("stand_out") is not None and s.get("flat") is None:
        missing.append(("flat", "Enter the filed flat: stand-out alone says nothing."))
    if s.get("length") is not None and _wanted(s) is None:
        missing.append(("length_maker", "Enter the manufacturer's working length, or box depth and set."))
    if s.get("section") is not None and s.get("groove") is None:
        missing.append(("groove", "Enter the groove depth."))
    lacking = lacks(
        seal__lubricant=s.body.lubricant is None,
        seal__temperature=s.get("temperature") is None,
        seal__grit=s.body.grit is None,
    )
    return told("seal", s, raw, lacking, _drawn(s), missing=missing)


def _left(s: Tool[SealEntry]) -> float | None:
    out, flat = s.get("stand_out"), s.get("flat")
    return out - flat if out is not None and flat is not None else None


def _standout(s: Tool[SealEntry]) -> Finding | None:
    left = _left(s)
    if left is None:
        return None
    reason = phrase("seal.left", left=amount(left, "mm"))
    return judge_tool(s, "standout", amount(left, "mm"), reason, part="seal")


def _wanted(s: Tool[SealEntry]) -> float | None:
    own = s.get("length_maker")
    if own is not None:
        return own
    box, stack = s.get("box"), s.get("set")
    return box + stack if box is not None and stack is not None else None


def _length(s: Tool[SealEntry]) -> Finding | None:
    read, wanted = s.get("length"), _wanted(s)
    if read is None or wanted is None:
        return None
    off = read - wanted
    says = "seal.light" if off > 0 else "seal.heavy"
    reason = phrase(says, read=amount(read, "mm"), wanted=amount(wanted, "mm"))
    return judge_tool(s, "working_length", amount(abs(off), "mm"), reason, part="seal")


def _squeeze(s: Tool[SealEntry]) -> list[Finding]:
    section, groove = s.get("section"), s.get("groove")
    if section is None or groove is None:
        return []
    if groove >= section:
        s.t.refuse("groove", "The groove is deeper than the ring: nothing squeezes it.", "below the section")
        return []
    share = amount(100 * (section - groove) / section, "%")
    reason = phrase("seal.squeezed", share=share)
    return [judge_tool(s, rule, share, reason, part="seal") for rule in ("squeeze_low", "squeeze_high")]


def _bands(s: Tool[SealEntry]) -> Finding | None:
    n = s.get("bands")
    if n is None:
        return None
    um = amount(n * s.limits.value("seal.band"), "um")
    return judge_tool(s, "face_flat", amount(n, "1"), phrase("seal.bands", um=um), part="seal")


def _rubber(s: Tool[SealEntry]) -> Finding | None:
    b = s.body
    if b.rubber is None:
        return None
    kind = RUBBERS[b.rubber]
    if b.lubricant in kind.never:
        reason = phrase("seal.swells", rubber=kind.title)
        return answer("rubber", Verdict.STOP, reason, part="seal")
    if b.liquid is None:
        return answer("rubber", Verdict.UNKNOWN, phrase("seal.no_liquid"), part="seal")
    if b.liquid in kind.never:
        reason = phrase("seal.never", rubber=kind.title, liquid=b.liquid)
        return answer("rubber", Verdict.ACT, reason, part="seal")
    if b.liquid not in kind.good:
        reason = phrase("seal.unlisted", rubber=kind.title, liquid=b.liquid)
        return answer("rubber", Verdict.UNKNOWN, reason, part="seal")
    limit = kind.most_water if kind.most_water and b.liquid in ("water", "glycol") else kind.most
    most, temp = s.limits.value(limit), s.get("temperature")
    args: dict[str, Quantity | str | Phrase] = {
        "rubber": kind.title,
        "liquid": b.liquid,
        "most": amount(most, "degC"),
    }
    if temp is not None and exceeds(temp, most):
        return answer("rubber", Verdict.ACT, phrase("seal.too_hot", **args), part="seal")
    return answer("rubber", Verdict.GOOD, phrase("seal.suits", **args), part="seal")


def _faces(s: Tool[SealEntry]) -> Finding | None:
    b, temp = s.body, s.get("temperature")
    if b.faces is None:
        return None
    pair = FACES[b.faces]
    hot = temp is not None and exceeds(temp, s.limits.value("seal.hot"))
    if b.grit == "yes" and not pair.grit:
        return answer("face_pair", Verdict.ACT, phrase("seal.grit", pair=pair.title), part="seal")
    if hot and not pair.hot:
        return answer("face_pair", Verdict.ACT, phrase("seal.cold_pair", pair=pair.title), part="seal")
    return answer("face_pair", Verdict.GOOD, phrase("seal.pair", pair=pair.title), part="seal")


def _drawn(s: Tool[SealEntry]) -> SealView:
    view, left = SealView(), _left(s)
    out, flat, read, wanted = s.get("stand_out"), s.get("flat"), s.get("length"), _wanted(s)
    if left is not None:
        view.left = amount(left, "mm")
    if out and flat is not None:
        view.flat_at = min(1.2, flat / out)
    if wanted is not None:
        view.wanted = amount(wanted, "mm")
        if read is not None:
            view.measured_at = min(1.3, read / wanted)
    section, groove = s.get("section"), s.get("groove")
    if section and groove is not None and groove < section:
        view.squeeze = amount(100 * (section - groove) / section, "%")
        view.squeezed_at = groove / section
    bands = s.get("bands")
    if bands is not None:
        view.flat_um = amount(bands * s.limits.value("seal.band"), "um")
    return view


SEAL = small_bench(
    "seal",
    "]",
    "Seal and O-rings",
    "Seals measured",
    "a seal",
    "Measure a seal",
    "measure stand-out, working length, squeeze",
    62,
    "seal",
    SealEntry,
    SealView,
    replay,
    judge,
)
