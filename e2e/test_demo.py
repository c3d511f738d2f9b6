"""The demo differs as a plant does: loads, windings and what is listed, as the save service judged them."""

from __future__ import annotations

from conftest import TAGS, Opener, Stack, number_of, told


def newest(stack: Stack, bench: str, value: str) -> dict[str, tuple[str, float]]:
    """Of each set the last figure of this kind that its records carry, and the verdict it stood with."""
    said = stack.db.sql(
        "select s.tag, j.verdict, json_value(j.evaluation, '$.values." + value + ".value') v"
        " from logbook_record r join logbook_judgement j on j.record_id = r.id and j.newest = 1"
        " join plant_pumpset s on s.id = r.pump_set_id"
        f" where r.bench = '{bench}' and r.live = 1 and r.taken_at < '2026-11-16 08:30'"
        " having v is not null order by r.taken_at",
        database="hurbin_e2e",
    )
    rows = [line.split("\t") for line in said.strip().splitlines()]
    return {tag: (verdict, float(figure)) for tag, verdict, figure in rows}


def test_motors_are_loaded_differently(stack: Stack) -> None:
    loads = sorted(figure for _, figure in newest(stack, "running_check", "load_mean").values())
    assert len(loads) >= 8
    assert loads[-1] - loads[0] > 20
    close = max(sum(low <= x <= low + 4 for x in loads) for low in loads)
    assert close <= len(loads) / 2, loads


def test_sound_windings_show_sound_indices_each_its_own(stack: Stack) -> None:
    sound = sorted(
        figure
        for verdict, figure in newest(stack, "insulation", "polarisation").values()
        if verdict == "good"
    )
    assert len(sound) >= 4
    assert sound[0] >= 2, sound
    assert sound[-1] - sound[0] > 0.4, sound


def test_every_set_has_its_isolation_list(open_as: Opener, stack: Stack) -> None:
    page = open_as("visitor")
    for tag in TAGS.split(","):
        number = number_of(stack, tag)
        kept = told(page, f"/api/v1/sets/{number}/safety")["list"]
        assert len(kept["lines"]) >= 5, tag
        assert kept["proposed"] == [], tag
