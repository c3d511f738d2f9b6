"""A tablet that a site shares: who may make one, coming in by a PIN, and locks that ask again."""

from __future__ import annotations

import json
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any

import pytest
from conftest import WORD
from django.contrib.auth.hashers import check_password
from django.db import connection
from safe_sheets import LINES, Door, Safe
from test_accounts import NEW, Browser, signed_in

from hurbin_server.base import limiting, pins, tablets
from hurbin_server.base.clock import now
from hurbin_server.base.errors import Refused
from hurbin_server.base.models import AuditEntry, Session, Tablet, User
from hurbin_server.logbook.models import Entry
from hurbin_server.plant.models import Membership, PumpSet, Site
from hurbin_server.plant.services.places import make_site
from hurbin_server.safety.models import Call

PIN, OTHER = "4827", "90317"


@pytest.fixture(autouse=True)
def _no_limit_of_before() -> None:
    limiting.SIGN_IN.clear()


@pytest.fixture
def with_pins(people: dict[str, User]) -> dict[str, User]:
    pins.set_pin(people["tia"], PIN)
    pins.set_pin(people["ada"], OTHER)
    return people


@pytest.fixture
def tablet(with_pins: dict[str, User], site: Site) -> Browser:
    """A browser that the lead made a shared tablet, and left."""
    browser = signed_in("leo")
    status, told = browser("POST", f"/sites/{site.pk}/tablets", {"title": "Pump room"})
    assert (status, told["here"]) == (201, True)
    assert browser("GET", "/session")[1]["me"]["shared"] is True
    browser("DELETE", "/session")
    return browser


def comes(browser: Browser, name: str, pin: str) -> tuple[int, Any]:
    return browser("POST", "/tablet/session", {"username": name, "pin": pin})


@pytest.mark.parametrize(
    "pin", ["123", "123456789", "12a4", "1234", "87654", "0000", "1212", "343434", "٤٨٢٧", "4 27"]
)
def test_a_pin_that_anybody_would_try_is_refused(people: dict[str, User], pin: str) -> None:
    status, told = signed_in("tia")("POST", "/me/pin", {"password": WORD, "pin": pin})
    assert (status, told["problems"][0]["field"]) == (422, "pin")
    assert User.objects.get(username="tia").pin == ""


def test_a_pin_is_chosen_with_the_password_kept_by_its_hash_and_taken_away(people: dict[str, User]) -> None:
    tia = signed_in("tia")
    status, told = tia("POST", "/me/pin", {"password": "not-this-one-1", "pin": PIN})
    assert (status, told["code"], told["problems"][0]["field"]) == (422, "password_wrong", "password")
    status, told = tia("POST", "/me/pin", {"password": WORD, "pin": PIN})
    assert (status, told["me"]["pin"]) == (200, "set")
    kept = User.objects.get(username="tia").pin
    assert check_password(PIN, kept)
    assert kept != PIN
    assert tia("POST", "/me/pin", {"password": WORD, "pin": ""})[1]["me"]["pin"] == "none"
    assert AuditEntry.objects.filter(action__in=("pin_set", "pin_removed")).count() == 2


def test_only_a_lead_makes_a_browser_a_tablet(api: Door, with_pins: dict[str, User], site: Site) -> None:
    for who, wanted in (("tia", 403), ("vic", 403), ("stranger", 404), ("nobody", 401)):
        assert api(who)("POST", f"/sites/{site.pk}/tablets", {"title": "x"})[0] == wanted
    assert not Tablet.objects.exists()


def test_a_tablet_tells_who_may_come_in_there_and_another_browser_nothing(
    tablet: Browser, with_pins: dict[str, User], site: Site
) -> None:
    told = tablet("GET", "/tablet")[1]
    assert (told["title"], told["site"]) == ("Pump room", site.name)
    assert [p["username"] for p in told["people"]] == ["ada", "tia"], "those with a PIN"
    assert Browser()("GET", "/tablet")[1] == {"title": "", "site": "", "people": []}
    assert comes(Browser(), "tia", PIN)[1]["code"] == "no_tablet"
    forged = Browser()
    forged.client.cookies[tablets.COOKIE] = tablets.MARK + "x" * 40
    assert comes(forged, "tia", PIN)[1]["code"] == "no_tablet"
    cookie = tablet.client.cookies[tablets.COOKIE]
    assert (cookie["httponly"], cookie["samesite"], cookie["path"]) == (True, "Strict", "/api/")
    assert Tablet.objects.get().digest not in cookie.value, "kept by its digest"


@pytest.mark.parametrize("gone", ["member", "sign_in", "to_change"])
def test_whoever_may_not_sign_in_does_not_by_a_pin(
    tablet: Browser, with_pins: dict[str, User], gone: str
) -> None:
    if gone == "member":
        Membership.objects.filter(user=with_pins["tia"]).update(active=False)
    else:
        change = {"is_active": False} if gone == "sign_in" else {"must_change": True}
        User.objects.filter(username="tia").update(**change)
    assert [p["username"] for p in tablet("GET", "/tablet")[1]["people"]] == ["ada"]
    assert comes(tablet, "tia", PIN)[1]["code"] == "pin_wrong"


def test_the_person_is_switched_by_pin_and_what_each_does_is_his_own(tablet: Browser, site: Site) -> None:
    status, told = comes(tablet, "tia", PIN)
    assert (status, told["me"]["username"], told["me"]["shared"]) == (200, "tia", True)
    assert tablet("GET", f"/sites/{site.pk}/plant")[0] == 200
    assert comes(tablet, "ada", OTHER)[1]["me"]["username"] == "ada"
    assert tablet("GET", "/session")[1]["me"]["username"] == "ada"
    assert not Session.objects.filter(user__username="tia").exists(), "switched: the one before is out"
    by_pin = AuditEntry.objects.filter(action="signed_in", after__by="PIN")
    assert [a.user.username for a in by_pin.order_by("pk") if a.user] == ["tia", "ada"]


def test_by_pin_an_admin_is_no_more_than_a_lead_and_on_this_site_alone(
    tablet: Browser, with_pins: dict[str, User], site: Site
) -> None:
    there = {"code": "GLASS", "name": "Glasshouse", "time_zone": "UTC", "altitude_m": None}
    User.objects.filter(username="ada").update(may_make_sites=True)
    elsewhere = make_site(User.objects.get(username="ada"), there)
    comes(tablet, "ada", OTHER)
    status, told = tablet("GET", f"/sites/{site.pk}/tokens")
    assert (status, told["code"]) == (403, "forbidden")
    assert "sign in with your password" in told["detail"]
    assert tablet("GET", f"/sites/{elsewhere.pk}/plant")[0] == 404
    assert tablet("POST", "/sites", there)[0] == 403
    assert [s["role"] for s in tablet("GET", "/sites")[1]] == ["lead"]
    assert tablet("POST", f"/sites/{site.pk}/tablets", {"title": "Mine"})[1]["code"] == "tablet_already"
    assert tablet.sign_in("ada", WORD)[0] == 200, "by password there is all of it"
    assert tablet("GET", f"/sites/{site.pk}/tokens")[0] == 200


def test_five_wrong_pins_put_it_to_rest_until_the_password(
    tablet: Browser, with_pins: dict[str, User]
) -> None:
    told = [comes(tablet, "tia", "7777")[1] for _ in range(5)]
    assert [t["code"] for t in told] == ["pin_wrong"] * 4 + ["pin_rests"]
    assert "2 more, then only the password opens" in told[2]["detail"]
    assert comes(tablet, "tia", PIN)[1]["code"] == "pin_rests", "the right one, too"
    assert {p["username"]: p["rests"] for p in tablet("GET", "/tablet")[1]["people"]} == {
        "ada": False,
        "tia": True,
    }
    assert AuditEntry.objects.filter(action="pin_rests", user=with_pins["tia"]).count() == 1
    assert tablet.sign_in("tia", WORD)[1]["me"]["pin"] == "set", "the password wakes it"
    assert comes(tablet, "tia", PIN)[0] == 200


def test_a_right_pin_forgets_the_wrong_ones_before_it(tablet: Browser) -> None:
    for _ in range(3):
        assert [comes(tablet, "tia", "7777")[0] for _ in range(4)] == [401] * 4
        assert comes(tablet, "tia", PIN)[0] == 200


@pytest.mark.django_db(transaction=True)
def test_many_wrong_pins_at_once_are_no_more_tries(people: dict[str, User]) -> None:
    pins.set_pin(people["tia"], PIN)

    def one(pin: str) -> bool:
        try:
            return pins.opens(User.objects.get(username="tia"), pin)
        finally:
            connection.close()

    with ThreadPoolExecutor(8) as pool:
        got = list(pool.map(one, ["7777"] * 16))
    assert got == [False] * 16
    assert User.objects.get(username="tia").pin_wrong == pins.MOST_WRONG, (
        "none beyond the fifth was looked at"
    )
    assert not pins.opens(User.objects.get(username="tia"), PIN)


def test_a_reset_takes_the_pin_and_a_tablet_ended_signs_out(tablet: Browser, api: Door, site: Site) -> None:
    comes(tablet, "tia", PIN)
    one = api("leo")("GET", f"/sites/{site.pk}/tablets")[1][0]
    assert (one["title"], one["by"], one["ended_at"], one["here"]) == ("Pump room", "Leo", None, False)
    assert one["used_at"] is not None
    assert api("tia")("POST", f"/tablets/{one['id']}/end")[0] == 403
    assert api("leo")("POST", f"/tablets/{one['id']}/end")[0] == 200
    assert tablet("GET", "/session")[1]["me"] is None
    assert tablet("GET", "/tablet")[1]["title"] == ""
    assert comes(tablet, "tia", PIN)[1]["code"] == "no_tablet"
    assert api("ada")("POST", f"/sites/{site.pk}/people/tia/password")[0] == 200
    assert User.objects.get(username="tia").pin == ""


def on(browser: Browser, row: PumpSet) -> Safe:
    """A set that is being made safe from this browser, with nothing locked yet."""
    safe = Safe(browser, row)
    safe.do("open", scope="motor_leads", sources=LINES)
    safe.do("stopped")
    safe.do("shut", source="q1")
    return safe


def test_on_a_shared_tablet_a_lock_asks_again(tablet: Browser, pump_set: PumpSet) -> None:
    comes(tablet, "tia", PIN)
    safe = on(tablet, pump_set)
    lock = safe.entry("lock", source="q1")
    status, told = safe.send(lock)
    assert (status, told["code"]) == (403, "ask_again")
    assert not Entry.objects.filter(pk=lock["uuid"]).exists()
    assert tablet("POST", "/session/again", {"pin": "7777"})[1]["code"] == "pin_wrong"
    assert safe.send(lock)[0] == 403, "a wrong one shows nothing"
    assert tablet("POST", "/session/again", {"pin": PIN})[0] == 200
    assert safe.send(lock)[0] == 200
    assert Entry.objects.get(pk=lock["uuid"]).by.username == "tia"
    # Later the same day, and whoever holds the tablet then takes it off.
    session = Session.objects.get(user__username="tia")
    kept = session.get_decoded() | {"known_at": (now() - timedelta(minutes=3)).isoformat()}
    Session.objects.filter(pk=session.pk).update(session_data=type(tablet.client.session)().encode(kept))
    off = safe.entry("unlock", lock=lock["uuid"])
    assert safe.send(off)[1]["code"] == "ask_again"
    assert safe.send(lock)[0] == 200, "what is on file is not asked for again"
    assert tablet("POST", "/session/again", {"password": WORD})[0] == 200, "or by the password"
    assert safe.send(off)[0] == 200


def test_another_pin_signs_out_whoever_came_in_by_the_one_before(tablet: Browser) -> None:
    comes(tablet, "tia", PIN)
    own = signed_in("tia")
    assert own("POST", "/me/pin", {"password": WORD, "pin": OTHER})[0] == 200
    assert tablet("GET", "/session")[1]["me"] is None
    assert own("GET", "/session")[1]["me"]["username"] == "tia"
    assert comes(tablet, "tia", PIN)[1]["code"] == "pin_wrong"
    assert comes(tablet, "tia", OTHER)[0] == 200
    assert tablet("POST", "/me/pin", {"password": WORD, "pin": PIN})[1]["me"]["username"] == "tia", (
        "here it goes on"
    )


def test_another_person_has_shown_nothing_yet(tablet: Browser, pump_set: PumpSet) -> None:
    comes(tablet, "tia", PIN)
    safe = on(tablet, pump_set)
    tablet("POST", "/session/again", {"pin": PIN})
    comes(tablet, "ada", OTHER)
    assert safe.send(safe.entry("lock", source="q1"))[1]["code"] == "ask_again"
    assert tablet("POST", "/session/again", {"pin": PIN})[1]["code"] == "pin_wrong", "each by his own"


def test_on_one_s_own_device_a_lock_does_not_ask(people: dict[str, User], pump_set: PumpSet) -> None:
    safe = on(signed_in("tia"), pump_set)
    assert safe.send(safe.entry("lock", source="q1"))[0] == 200


def test_by_password_on_a_shared_tablet_a_lock_asks_too_and_after_a_change_of_it(
    tablet: Browser, pump_set: PumpSet
) -> None:
    assert tablet.sign_in("tia", WORD)[1]["me"]["shared"] is True
    assert tablet("POST", "/me/password", {"old": WORD, "new": NEW})[1]["me"]["shared"] is True
    safe = on(tablet, pump_set)
    assert safe.send(safe.entry("lock", source="q1"))[1]["code"] == "ask_again"
    # The cookie is thrown away: the session still says on what it was opened.
    del tablet.client.cookies[tablets.COOKIE]
    assert safe.send(safe.entry("lock", source="q1"))[1]["code"] == "ask_again"


def test_at_a_lock_the_fifth_wrong_pin_leaves_the_password(tablet: Browser) -> None:
    comes(tablet, "tia", PIN)
    told = [tablet("POST", "/session/again", {"pin": "7777"})[1]["code"] for _ in range(5)]
    assert told == ["pin_wrong"] * 4 + ["pin_opens_not"]
    assert tablet("GET", "/session")[1]["me"]["pin"] == "rests"
    assert tablet("POST", "/session/again", {"password": "not-this-one-1"})[1]["code"] == "password_wrong"
    assert tablet("POST", "/session/again", {"password": WORD})[1]["me"]["pin"] == "set"


def test_what_another_tab_sends_after_a_switch_is_not_kept_in_the_next_one_s_name(
    tablet: Browser, site: Site
) -> None:
    comes(tablet, "tia", PIN)
    comes(tablet, "ada", OTHER)

    def send(who: str) -> Any:
        body = {"uuid": "c" * 12, "at": now().isoformat(), "complaint": "noise", "room": "cellar"}
        token = tablet("GET", "/session")[1]["csrf"]
        return tablet.client.post(
            f"/api/v1/sites/{site.pk}/calls",
            json.dumps(body),
            content_type="application/json",
            headers={"X-CSRFToken": token, "Sent-As": who},
        )

    old = send("tia")
    assert (old.status_code, old.json()["code"]) == (401, "signed_out")
    assert not Call.objects.exists()
    assert send("ada").status_code == 201
    assert Call.objects.get().by.username == "ada"


def test_no_pin_opens_for_somebody_without_one(people: dict[str, User]) -> None:
    assert not pins.opens(people["vic"], "")
    with pytest.raises(Refused, match="4 to 8 digits"):
        pins.check_pin("")
