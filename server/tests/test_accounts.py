"""Own passwords, one-time passwords, sign-ins taken away, sessions ended, lock-outs lifted, tokens."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import pytest
from conftest import SAVE, WORD, Api, sheet
from django.core.management import call_command
from django.test import Client
from safe_sheets import LINES, Door, Safe

from hurbin_server.base import accounts, limiting
from hurbin_server.base.clock import now
from hurbin_server.base.models import AuditEntry, Parcel, Session, Token, User
from hurbin_server.plant.models import Membership, PumpSet, Site
from hurbin_server.plant.services.places import make_site

NEW = "a-seal-lives-here-4"


class Browser:
    """A browser without anything of ours in it, at an address."""

    def __init__(self, address: str = "10.0.0.1") -> None:
        self.client = Client(enforce_csrf_checks=True, REMOTE_ADDR=address)

    def __call__(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        csrf = self.client.get("/api/v1/session").json()["csrf"]
        ask = getattr(self.client, method.lower())
        more = {} if method == "GET" else {"data": json.dumps(body), "content_type": "application/json"}
        got = ask(f"/api/v1{path}", headers={"X-CSRFToken": csrf}, **more)
        return got.status_code, json.loads(got.content)

    def sign_in(self, name: str, word: str) -> tuple[int, Any]:
        return self("POST", "/session", {"username": name, "password": word})


@pytest.fixture(autouse=True)
def _no_limit_of_before() -> None:
    limiting.SIGN_IN.clear()


def signed_in(name: str, word: str = WORD, address: str = "10.0.0.1") -> Browser:
    browser = Browser(address)
    assert browser.sign_in(name, word)[0] == 200
    return browser


def test_one_s_own_password_ends_the_other_sessions(people: dict[str, User]) -> None:
    here, there = signed_in("tia"), signed_in("tia")
    assert (
        here("POST", "/me/password", {"old": "not-this-one-1", "new": NEW})[1]["code"] == "old_password_wrong"
    )
    assert here("POST", "/me/password", {"old": WORD, "new": "short"})[1]["code"] == "password_weak"
    assert here("POST", "/me/password", {"old": WORD, "new": WORD})[1]["code"] == "password_same"
    status, told = here("POST", "/me/password", {"old": WORD, "new": NEW})
    assert (status, told["me"]["username"]) == (200, "tia"), "this session goes on"
    assert Session.objects.filter(user=people["tia"]).count() == 1
    assert there("GET", "/session")[1]["me"] is None
    assert here("GET", "/session")[1]["me"]["username"] == "tia"
    assert Browser().sign_in("tia", WORD)[0] == 401
    assert Browser().sign_in("tia", NEW)[0] == 200


def test_guessing_at_the_old_password_from_an_open_session_is_shut_like_a_sign_in(
    people: dict[str, User],
) -> None:
    here = signed_in("tia")
    wrong = {"old": "not-this-one-1", "new": NEW}
    told = [here("POST", "/me/password", wrong)[1]["code"] for _ in range(9)]
    assert told[0] == "old_password_wrong"
    assert told[-1] == "locked_out"
    assert here("POST", "/me/pin", {"password": WORD, "pin": "4827"})[1]["code"] == "locked_out"
    assert here("GET", "/sites")[0] == 200, "the session itself goes on"


def test_sign_out_everywhere_else(people: dict[str, User]) -> None:
    here, there = signed_in("tia"), signed_in("tia")
    assert here("POST", "/me/sessions/end") == (200, {"ended": 1})
    assert there("GET", "/session")[1]["me"] is None
    assert here("GET", "/session")[1]["me"]["username"] == "tia"


def test_a_one_time_password_opens_the_door_to_its_change_alone(api: Door, site: Site) -> None:
    old = signed_in("tia")
    status, told = api("ada")("POST", f"/sites/{site.pk}/people/tia/password")
    assert status == 200
    assert old("GET", "/session")[1]["me"] is None, "all sessions end"
    assert Browser().sign_in("tia", WORD)[0] == 401
    fresh = signed_in("tia", told["password"])
    assert fresh("GET", "/session")[1]["me"]["must_change"] is True
    for method, path in (("GET", "/sites"), ("PATCH", "/me"), ("POST", f"/sites/{site.pk}/calls")):
        assert fresh(method, path, {})[1]["code"] == "password_to_change", path
    assert fresh("POST", "/me/password", {"old": told["password"], "new": NEW})[0] == 200
    assert fresh("GET", "/sites")[0] == 200
    assert not Parcel.objects.exclude(answer=b"").exists(), "told once, kept nowhere"


def test_a_new_person_s_password_is_to_be_changed(api: Door, site: Site) -> None:
    made = api("ada")("POST", f"/sites/{site.pk}/people", {"username": "noor", "role": "technician"})[1]
    assert signed_in("noor", made["password"])("GET", "/sites")[1]["code"] == "password_to_change"


@pytest.mark.parametrize("who", ["tia", "leo", "vic", "stranger", "nobody"])
def test_only_an_admin_touches_sign_ins(api: Door, site: Site, who: str) -> None:
    person = f"/sites/{site.pk}/people/tia"
    for method, path, body in (
        ("POST", f"{person}/password", None),
        ("PUT", f"{person}/sign-in", {"active": False}),
        ("POST", f"{person}/sessions/end", None),
        ("POST", f"{person}/lock-out/lift", None),
        ("GET", f"/sites/{site.pk}/tokens", None),
        ("POST", f"/sites/{site.pk}/tokens", {"title": "x", "role": "viewer"}),
    ):
        wanted = {"stranger": 404, "nobody": 401}.get(who, 403)
        assert api(who)(method, path, body)[0] == wanted, path
    assert User.objects.get(username="tia").check_password(WORD)


def test_a_sign_in_is_taken_away_and_given_back(api: Door, site: Site) -> None:
    tia, person = signed_in("tia"), f"/sites/{site.pk}/people/tia"
    assert api("ada")("PUT", f"{person}/sign-in", {"active": False})[0] == 200
    assert tia("GET", "/session")[1]["me"] is None
    assert Browser().sign_in("tia", WORD)[0] == 401
    listed = {p["username"]: p for p in api("ada")("GET", f"/sites/{site.pk}/people")[1]}
    assert (listed["tia"]["may_sign_in"], listed["tia"]["sessions"]) == (False, 0)
    assert api("ada")("PUT", f"{person}/sign-in", {"active": True})[0] == 200
    assert Browser().sign_in("tia", WORD)[0] == 200
    assert api("ada")("PUT", f"/sites/{site.pk}/people/ada/sign-in", {"active": False})[0] == 409
    assert api("ada")("POST", f"/sites/{site.pk}/people/ada/password")[1]["code"] == "own_password"


def test_an_admin_here_is_no_admin_of_whoever_works_elsewhere_too(
    api: Door, site: Site, people: dict[str, User]
) -> None:
    people["stranger"].may_make_sites = True
    people["stranger"].save()
    place = {"code": "GLASS", "name": "Glasshouse", "time_zone": "UTC", "altitude_m": None}
    other = make_site(people["stranger"], place)
    Membership.objects.create(user=people["tia"], site=other, role="admin")
    for method, path in (("POST", "password"), ("POST", "sessions/end"), ("POST", "lock-out/lift")):
        told = api("ada")(method, f"/sites/{site.pk}/people/tia/{path}")[1]
        assert told["code"] == "works_elsewhere", path
    assert User.objects.get(username="tia").check_password(WORD)
    # Nor is he told who signs in elsewhere.
    told = api("stranger")("POST", f"/sites/{other.pk}/people", {"username": "leo", "role": "viewer"})
    assert (told[0], told[1]["code"]) == (409, "name_taken")
    assert "Leo" not in json.dumps(told)
    assert not Membership.objects.filter(site=other, user=people["leo"]).exists()


def test_a_wrong_password_locks_nobody_out_elsewhere(api: Door, site: Site) -> None:
    wrong = [Browser("10.0.0.9").sign_in("tia", "not-this-one-1")[0] for _ in range(9)]
    assert (wrong[0], wrong[-1]) == (401, 429)
    assert Browser("10.0.0.9").sign_in("tia", WORD)[0] == 429
    assert Browser("10.0.0.1").sign_in("tia", WORD)[0] == 200, "from where nobody was wrong"
    lifted = api("ada")("POST", f"/sites/{site.pk}/people/tia/lock-out/lift")
    assert lifted[0] == 200
    assert Browser("10.0.0.9").sign_in("tia", WORD)[0] == 200


def test_spraying_over_names_is_slowed_where_it_comes_from(
    people: dict[str, User], monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("ada", "leo", "tia", "vic", "nobody-of-that-name"):
        assert Browser("10.0.0.9").sign_in(name, "not-this-one-1")[0] == 401
    slowed = Browser("10.0.0.9").sign_in("stranger", WORD)
    assert (slowed[0], slowed[1]["code"]) == (429, "slowed")
    assert Browser("10.0.0.1").sign_in("stranger", WORD)[0] == 200
    monkeypatch.setattr(accounts, "PAUSE", timedelta(0))
    assert Browser("10.0.0.9").sign_in("stranger", WORD)[0] == 200, "slowed, not shut"


def test_so_many_sign_ins_a_minute_of_one_address(people: dict[str, User], settings: Any) -> None:
    got = [Browser("10.0.0.7").sign_in("tia", WORD)[0] for _ in range(110)]
    assert 429 in got[60:]
    assert set(got[:60]) == {200}
    assert Browser("10.0.0.8").sign_in("tia", WORD)[0] == 200


@pytest.mark.parametrize(
    ("behind", "said", "is_from"),
    [
        (False, "10.9.9.9", "10.0.0.1"),
        (True, "10.9.9.9", "10.9.9.9"),
        (True, "1.2.3.4, 10.9.9.9", "10.9.9.9"),
        (True, "nonsense", "0.0.0.0"),
        (True, "", "10.0.0.1"),
    ],
)
def test_the_address_is_the_front_end_s_word_only_behind_one(
    people: dict[str, User], settings: Any, behind: bool, said: str, is_from: str
) -> None:
    settings.BEHIND = behind
    browser = Browser("10.0.0.1")
    browser.client.defaults["HTTP_X_FORWARDED_FOR"] = said
    assert browser.sign_in("tia", WORD)[0] == 200
    assert AuditEntry.objects.get(action="signed_in").what == is_from


def test_signing_in_and_out_is_in_the_trail(people: dict[str, User]) -> None:
    tia = signed_in("tia")
    assert tia("DELETE", "/session")[0] == 200
    trail = AuditEntry.objects.filter(user=people["tia"]).order_by("pk").values_list("action", "what")
    assert list(trail) == [("signed_in", "10.0.0.1"), ("signed_out", "10.0.0.1")]


def test_the_same_as_words(people: dict[str, User], capsys: pytest.CaptureFixture[str]) -> None:
    tia = signed_in("tia")
    [Browser("10.0.0.9").sign_in("tia", "not-this-one-1") for _ in range(9)]
    call_command("person", "unlock", "tia")
    assert Browser("10.0.0.9").sign_in("tia", WORD)[0] == 200
    call_command("person", "sign-out", "tia")
    assert tia("GET", "/session")[1]["me"] is None
    call_command("person", "password", "tia")
    word = capsys.readouterr().out.split("once with ")[1].split()[0]
    assert signed_in("tia", word)("GET", "/sites")[1]["code"] == "password_to_change"
    call_command("person", "disable", "tia")
    assert Browser().sign_in("tia", word)[0] == 401
    call_command("person", "enable", "tia")
    call_command("person", "list")
    assert "tia" in capsys.readouterr().out
    with pytest.raises(SystemExit):
        call_command("person", "disable", "nobody")
    assert "Nobody signs in as nobody." in capsys.readouterr().err


class Script:
    """Somebody's script, with a token and nothing else."""

    def __init__(self, key: str) -> None:
        self.client = Client(enforce_csrf_checks=True, headers={"Authorization": f"Bearer {key}"})

    def __call__(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        ask = getattr(self.client, method.lower())
        more = {} if method == "GET" else {"data": json.dumps(body), "content_type": "application/json"}
        got = ask(f"/api/v1{path}", **more)
        return got.status_code, json.loads(got.content) if got.content.startswith((b"{", b"[")) else None


def token(api: Door, site: Site, role: str = "technician") -> tuple[Script, dict[str, Any]]:
    status, made = api("ada")("POST", f"/sites/{site.pk}/tokens", {"title": "logger", "role": role})
    assert status == 201
    return Script(made["key"]), made


def test_a_token_writes_on_its_site_in_its_maker_s_name(api: Door, site: Site, pump_set: PumpSet) -> None:
    script, made = token(api, site)
    assert Token.objects.get().digest != made["key"]
    status, saved = script("POST", SAVE, sheet(pump_set))
    assert (status, saved["by"]) == (201, "Ada")
    listed = api("ada")("GET", f"/sites/{site.pk}/tokens")[1][0]
    assert listed["key"] == ""
    assert listed["used_at"] is not None
    assert [s["role"] for s in script("GET", "/sites")[1]] == ["technician"]
    assert api("ada")("DELETE", f"/tokens/{made['id']}")[0] == 200
    assert script("GET", "/sites")[1]["code"] == "signed_out"


def test_no_script_makes_a_set_safe(api: Door, site: Site, pump_set: PumpSet) -> None:
    script, _ = token(api, site, "lead")
    sheet_id = Safe(api("tia"), pump_set)
    sent = sheet_id.entry("open", scope="motor_leads", sources=LINES)
    path = f"/benches/make_safe/sheets/{sheet_id.sheet}/entries"
    status, told = script("POST", path, {"set_id": pump_set.pk, "entries": [sent]})
    assert (status, told["code"]) == (403, "not_by_token")
    assert api("tia")("POST", path, {"set_id": pump_set.pk, "entries": [sent]})[0] == 200


def test_a_token_is_no_more_than_its_role_its_site_and_its_maker(
    api: Door, site: Site, pump_set: PumpSet, people: dict[str, User]
) -> None:
    place = {"code": "GLASS", "name": "Glasshouse", "time_zone": "UTC", "altitude_m": None}
    other = make_site(people["ada"], place)
    script, _ = token(api, site, "viewer")
    assert script("POST", SAVE, sheet(pump_set))[0] == 403
    assert script("GET", f"/sites/{other.pk}/plant")[0] == 404
    assert script("GET", f"/sites/{other.pk}/register")[0] == 404
    assert [s["code"] for s in script("GET", "/sites")[1]] == ["REEF"]
    Membership.objects.filter(user=people["ada"], site=other).update(active=False)
    assert script("GET", f"/sites/{other.pk}/plant")[0] == 404, "nor that its maker has no access there now"
    assert script("GET", f"/sites/{other.pk}/register")[0] == 404
    lead, _ = token(api, site, "lead")
    assert lead("GET", f"/sites/{site.pk}/people")[0] == 403, "no token is an admin"
    assert lead("POST", "/sites", {"code": "X", "name": "X"})[0] == 403
    for method, path in (("PATCH", "/me"), ("POST", "/me/password"), ("DELETE", "/session")):
        assert lead(method, path, {"old": WORD, "new": NEW})[1]["code"] == "not_by_token", path
    Membership.objects.filter(user=people["ada"], site=site).update(active=False)
    assert lead("GET", f"/sites/{site.pk}/plant")[0] == 403
    Membership.objects.filter(user=people["ada"], site=site).update(active=True, role="viewer")
    assert lead("POST", SAVE, sheet(pump_set))[0] == 403


@pytest.mark.parametrize("key", ["", "hb_", "hb_wrong", "x" * 50_000, "hb_" + "é" * 20])
def test_what_is_no_token_is_nobody_even_beside_a_session(people: dict[str, User], key: str) -> None:
    tia = Api(people["tia"])
    assert tia("GET", "/sites")[0] == 200
    got = tia.client.get("/api/v1/sites", headers={"Authorization": f"Bearer {key}"})
    assert (got.status_code, got.json()["code"]) == (401, "signed_out")


def test_disabled_or_to_be_changed_its_maker_s_tokens_stand_no_more(api: Door, site: Site) -> None:
    script, _ = token(api, site)
    User.objects.filter(username="ada").update(must_change=True)
    assert script("GET", "/sites")[0] == 401
    User.objects.filter(username="ada").update(must_change=False, is_active=False)
    assert script("GET", "/sites")[0] == 401


def test_nothing_of_a_form_is_read_before_its_sender_is_known(
    api: Door, pump_set: PumpSet, monkeypatch: pytest.MonkeyPatch
) -> None:
    from django.http import multipartparser

    read: list[str] = []
    parse = multipartparser.MultiPartParser.parse
    monkeypatch.setattr(
        multipartparser.MultiPartParser, "parse", lambda self: read.append("form") or parse(self)
    )
    nobody = Client(enforce_csrf_checks=True)
    nobody.get("/api/v1/session")
    path = f"/api/v1/sets/{pump_set.pk}/attachments"
    assert nobody.post(path, {"uuid": "x" * 12}).status_code == 401
    tia = signed_in("tia")
    assert tia.client.post(path, {"uuid": "x" * 12}).status_code == 403, "no CSRF token in its head"
    assert read == []
    assert Session.objects.filter(expire_date__gt=now()).count() == 1


def test_behind_tls_a_cookie_is_for_tls_alone_and_the_keeper_still_hears(
    people: dict[str, User], settings: Any
) -> None:
    settings.TLS = settings.BEHIND = True
    settings.SESSION_COOKIE_SECURE = settings.CSRF_COOKIE_SECURE = settings.SECURE_SSL_REDIRECT = True
    settings.SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    plain = Client()
    assert plain.get("/api/v1/health").status_code == 200
    assert plain.get("/api/v1/session").status_code == 301
    told = Client(HTTP_X_FORWARDED_PROTO="https").get("/api/v1/session")
    assert told.status_code == 200
    assert told.cookies["csrftoken"]["secure"]
