"""Benches are told apart by their names and by the keys that lead to them."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hurbin_core.base import HurbinError
from hurbin_core.base.bench import once
from hurbin_core.catalogue import bench, benches


def test_no_two_are_called_alike_or_reached_by_one_key() -> None:
    one = bench("insulation")
    assert set(once([one, bench("vibration")])) == {"insulation", "vibration"}
    with pytest.raises(HurbinError, match="Two benches are called insulation"):
        once([one, one])
    with pytest.raises(HurbinError, match="another bench's key") as told:
        once([one, replace(bench("vibration"), key=one.key)])
    assert told.value.value == one.key
    without = [replace(b, key="") for b in (one, bench("vibration"))]
    assert len(once(without)) == 2


def test_each_says_how_it_is_found() -> None:
    for b in benches():
        assert len(b.key) == 1, b.name
        assert b.does, b.name
        assert b.records or b.files is None, b.name
    assert [b.name for b in benches() if b.leads] == ["running_check"]
