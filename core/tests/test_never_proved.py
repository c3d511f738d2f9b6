"""No order of events proves what is not dead."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from hypothesis import given, settings, strategies as st
from safe_story import FACTS, LIST, LIVE, PAIRS, Story

from hurbin_core.logbook import Entry
from hurbin_core.safety import (
    fold,
)

# Property: random events, in random order, by three people. Judged by a plain reading of the entries, not by
# the fold.
NAMES = ["supply", "control_supply", "turning_by_flow"]
EVENT = st.one_of(
    st.tuples(
        st.sampled_from(["shut", "opened", "lock", "unlock", "released"]),
        st.sampled_from(NAMES),
        st.sampled_from(["Ada", "Ben", "Cy"]),
    ),
    st.tuples(
        st.sampled_from(["live_before", "dead", "live_after", "hot"]),
        st.just(""),
        st.sampled_from(["Ada", "Ben"]),
    ),
    st.tuples(
        st.sampled_from(["work", "volts_seen", "tried_moved", "undo_last"]), st.just(""), st.just("Ada")
    ),
)


def story_of(events: list[tuple[str, str, str]]) -> Story:
    s = Story()
    s.add("open", scope="motor_leads", sources=LIST)
    on: dict[tuple[str, str], str] = {}
    for kind, name, by in events:
        if kind == "lock":
            on[(name, by)] = s.add("lock", by=by, source=name)
        elif kind == "unlock":
            s.add("unlock", by=by, lock=on.get((name, by), "nothing"))
        elif kind in ("live_before", "live_after"):
            s.add("proof", act=kind, **LIVE)
        elif kind in ("dead", "hot"):
            s.add(
                "proof",
                act="dead",
                tester="two-pole",
                **{**PAIRS, **({"v2g": {"text": "231", "unit": "V"}} if kind == "hot" else {})},
            )
        elif kind == "volts_seen":
            s.add("volts_seen", live_volts={"text": "230", "unit": "V"})
        elif kind == "tried_moved":
            s.add("tried", moved=True)
        elif kind == "undo_last":
            s.add("undo", undoes=s.entries[-1].uuid)
        else:
            s.add(kind, by=by, **({"source": name} if name else {}))
    return s


def by_hand(entries: list[Entry[Any]]) -> tuple[bool, datetime | None]:
    """Is every source shut and locked at the end, and when was the last thing that makes an earlier proof
    worthless?
    """
    undone = {e.body.undoes for e in entries if e.body.kind == "undo"}
    shut: set[str] = set()
    locks: dict[str, str] = {}
    bad: datetime | None = None
    for e in entries:
        b = e.body
        if e.uuid in undone and b.kind == "shut":
            continue
        if b.kind == "shut":
            shut.add(b.source)
        elif b.kind == "opened":
            shut.discard(b.source)
            bad = e.taken_at
        elif b.kind == "lock":
            locks[e.uuid] = b.source
        elif b.kind == "unlock":
            locks.pop(b.lock, None)
        elif b.kind in ("work", "volts_seen", "tried") or (
            b.kind == "proof" and b.v2g is not None and b.v2g.text == "231"
        ):
            bad = e.taken_at
        if not all(n in shut and n in locks.values() for n in NAMES):
            bad = e.taken_at
    return all(n in shut and n in locks.values() for n in NAMES), bad


@settings(max_examples=400, deadline=None)
@given(st.lists(EVENT, max_size=40), st.booleans(), st.randoms())
def test_no_order_of_events_proves_what_is_not_dead(
    events: list[tuple[str, str, str]], whole: bool, shuffle: Any
) -> None:
    ready = [(k, n, "Ada") for n in NAMES for k in ("shut", "lock")] if whole else []
    proof = [("live_before", "", "Ada"), ("dead", "", "Ada"), ("live_after", "", "Ada")] if whole else []
    s = story_of([*ready, *events, *proof])
    iso = s.fold()
    shut, bad = by_hand(s.entries)
    if iso.state == "proved":
        assert shut
        assert bad is None or iso.proof.acts["live_before"] > bad
        assert iso.proof.acts["live_before"] < iso.proof.acts["dead"] < iso.proof.acts["live_after"]
    elif whole and shut and not any(e[0] in ("live_before", "dead", "live_after", "hot") for e in events):
        raise AssertionError("a whole proof on a set that is shut and locked was not taken")
    late = list(s.entries)
    shuffle.shuffle(late)
    assert fold(late, FACTS) == iso
