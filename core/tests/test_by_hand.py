"""A lock asks again on a device that several hands share."""

from datetime import UTC, datetime, timedelta

import pytest

from hurbin_core.safety import KNOWN_FOR, asks_again

AT = datetime(2026, 11, 16, 8, 0, tzinfo=UTC)


@pytest.mark.parametrize("kind", ["lock", "unlock"])
def test_a_lock_on_a_shared_device_asks_until_shown(kind: str) -> None:
    assert asks_again([kind], True, None, AT)
    assert asks_again(["shut", kind], True, None, AT), "one among others"
    assert not asks_again([kind], True, AT - timedelta(seconds=1), AT)
    assert not asks_again([kind], False, None, AT), "one's own device"


def test_what_was_shown_long_ago_or_in_future_was_not_shown() -> None:
    assert not asks_again(["lock"], True, AT - KNOWN_FOR + timedelta(seconds=1), AT)
    assert asks_again(["lock"], True, AT - KNOWN_FOR, AT)
    assert asks_again(["lock"], True, AT + timedelta(seconds=1), AT)


def test_other_steps_do_not_ask() -> None:
    assert not asks_again(["shut", "released", "proof", "handover", "opened"], True, None, AT)
    assert not asks_again([], True, None, AT)
