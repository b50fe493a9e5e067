"""Devices let in from the network: each by its own token, one by one shut out again."""

import pytest

from gentle_ember import cli
from gentle_ember.store.devices import (
    CODE_S,
    Door,
    PairingError,
    WrongCodeError,
)
from gentle_ember.store.errors import NotFoundError
from gentle_ember.store.guesses import WRONG_ALL_MOST, WRONG_MOST, TooManyGuessesError
from gentle_ember.web import pairing
from gentle_ember.web.app import create_app
from gentle_ember.web.certificate import certificates
from tests.helpers.people import lead_first, sign_in


class Clock:
    """A clock that is set by hand."""

    def __init__(self):
        self.now = 1_790_000_000.0

    def __call__(self):
        return self.now


@pytest.fixture
def clock():
    return Clock()


@pytest.fixture
def door(tmp_path, clock):
    return Door(tmp_path / "shop", clock)


def test_each_device_has_a_token_of_its_own_and_only_its_hash_is_kept(door):
    code, left = door.code()
    assert (len(code) >= 32, left) == (True, CODE_S)
    tokens = [door.join(code, f"192.0.2.{n}") for n in range(3)]
    assert len(set(tokens)) == 3
    assert [door.known(one).name for one in tokens] == ["Device 1", "Device 2", "Device 3"]
    kept = door.path.read_text()
    assert not any(one in kept for one in (*tokens, code))
    assert door.path.stat().st_mode & 0o777 == 0o600
    assert [one.name for one in door.path.parent.iterdir()] == ["devices.json"]


def test_who_was_let_in_is_known_after_a_restart_and_the_code_is_another(door, tmp_path, clock):
    code, _ = door.code()
    token = door.join(code, "192.0.2.1")
    again = Door(tmp_path / "shop", clock)
    assert again.known(token) == door.known(token)
    with pytest.raises(WrongCodeError):
        again.join(code, "192.0.2.2")
    assert again.code()[0] != code


def test_a_code_stands_for_minutes_and_is_another_after_that(door, clock):
    code, _ = door.code()
    clock.now += CODE_S - 1
    assert door.code() == (code, pytest.approx(1))
    door.join(code, "192.0.2.1")
    clock.now += 2
    with pytest.raises(WrongCodeError, match="lapsed"):
        door.join(code, "192.0.2.1")
    assert door.code()[0] != code


@pytest.mark.parametrize("guess", ["", "guess", "x" * 32, "é" * 8])
def test_before_a_code_was_shown_and_by_a_wrong_one_nobody_is_let_in(door, guess):
    with pytest.raises(WrongCodeError):
        door.join(guess, "192.0.2.1")
    door.code()
    with pytest.raises(WrongCodeError):
        door.join(guess, "192.0.2.1")
    assert door.all() == []
    assert door.known(guess) is None


def test_guesses_are_slowed_from_one_address_and_from_all_of_them(door, clock):
    code, _ = door.code()
    for _ in range(WRONG_MOST):
        with pytest.raises(WrongCodeError):
            door.join("guess", "192.0.2.9")
    with pytest.raises(TooManyGuessesError):
        door.join(code, "192.0.2.9")
    assert door.known(door.join(code, "192.0.2.1"))
    for n in range(20, 20 + WRONG_ALL_MOST - WRONG_MOST):
        with pytest.raises(WrongCodeError):
            door.join("guess", f"192.0.2.{n}")
    with pytest.raises(TooManyGuessesError):
        door.join(code, "192.0.2.200")
    clock.now += 61
    assert door.known(door.join(door.code()[0], "192.0.2.9"))


def test_one_device_is_shut_out_and_the_others_stay(door):
    code, _ = door.code()
    lost, kept = door.join(code, "192.0.2.1"), door.join(code, "192.0.2.2")
    door.name(door.known(lost).key, "Runa's phone")
    assert door.known(lost).name == "Runa's phone"
    door.shut_out(door.known(lost).key)
    assert door.known(lost) is None
    assert [one.name for one in door.all()] == ["Device 2"]
    assert door.known(kept)
    for act in (door.shut_out, lambda key: door.name(key, "x")):
        with pytest.raises(NotFoundError):
            act("nokey")


def test_when_a_device_was_there_last_is_written_down_once_an_hour(door, clock, tmp_path):
    token = door.join(door.code()[0], "192.0.2.1")
    first = door.known(token).seen
    written = door.path.read_bytes()
    clock.now += 600
    assert door.known(token).seen == first
    assert door.path.read_bytes() == written
    clock.now += 3600
    assert door.known(token).seen > first
    assert Door(tmp_path / "shop", clock).known(token).seen > first


def test_a_full_disk_keeps_nobody_out_who_may_come_in(door, clock, monkeypatch):
    token = door.join(door.code()[0], "192.0.2.1")
    first = door.known(token).seen

    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.fsync", full)
    clock.now += 4000
    assert door.known(token).seen > first
    assert door.known(token)


def test_the_list_ends_somewhere(door, monkeypatch):
    monkeypatch.setattr("gentle_ember.store.devices.MOST_DEVICES", 2)
    code, _ = door.code()
    for _ in range(2):
        door.join(code, "192.0.2.1")
    with pytest.raises(WrongCodeError, match="no room for another"):
        door.join(code, "192.0.2.1")


def test_a_list_that_can_not_be_written_lets_nobody_in(door, monkeypatch):
    code, _ = door.code()

    def full(_):
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patched:
        patched.setattr("os.fsync", full)
        with pytest.raises(OSError, match="No space"):
            door.join(code, "192.0.2.1")
    assert door.all() == []
    assert door.known(door.join(code, "192.0.2.1"))


def test_who_came_and_who_was_turned_away_is_logged_without_a_secret(door, tmp_path):
    code, _ = door.code()
    token = door.join(code, "192.0.2.1")
    with pytest.raises(WrongCodeError):
        door.join("guess", "192.0.2.9")
    door.shut_out(door.known(token).key)
    told = (tmp_path / "shop" / "logs" / "way-in.log").read_text()
    said = ("let in", "wrong code", "shut out")
    assert [next(one for one in said if one in line) for line in told.splitlines()] == list(said)
    assert "192.0.2.9" in told
    assert not any(secret in told for secret in (code, token, "guess"))


def device(**other):
    given = {"key": "a", "name": "b", "digest": "0" * 64, "since": "x",
             "seen": "2026-11-27T00:00:00+00:00", **other}  # fmt: skip
    import json

    return json.dumps({"version": 1, "devices": [given]}).encode()


DAMAGED = [
    b"", b"\n", b"{", b"[]", b"{}", b'{"devices": 1}', b'{"devices": [{"key": "a"}]}', b"\xff\xfe",
    device(digest="short"), device(seen="yesterday"), device(name=7), device(more="x"),
]  # fmt: skip


@pytest.mark.parametrize("held", DAMAGED)
def test_a_list_that_is_empty_or_damaged_closes_the_door_by_name(tmp_path, held, capsys):
    folder = tmp_path / "shop" / "tls"
    folder.mkdir(parents=True)
    (folder / "devices.json").write_bytes(held)
    with pytest.raises(PairingError, match="empty or damaged"):
        Door(tmp_path / "shop")
    run = ["serve", "--lan", "--data", str(tmp_path / "shop"), "--port", "1"]
    assert cli.main(run) == 1
    assert "Delete the file and start again" in capsys.readouterr().err
    assert (folder / "devices.json").read_bytes() == held


def test_a_list_that_is_whole_is_read(tmp_path):
    (tmp_path / "tls").mkdir()
    (tmp_path / "tls" / "devices.json").write_bytes(device())
    assert [one.name for one in Door(tmp_path).all()] == ["b"]


def test_the_one_code_of_before_lets_nobody_in_any_more(tmp_path):
    old = tmp_path / "shop" / "tls" / "pairing"
    old.parent.mkdir(parents=True)
    old.write_text("a-code-every-phone-once-had-alike")
    door = Door(tmp_path / "shop")
    assert not old.exists()
    assert door.known("a-code-every-phone-once-had-alike") is None


AWAY = {"base_url": "https://192.0.2.7", "environ_base": {"REMOTE_ADDR": "192.0.2.50"}}


@pytest.fixture
def on_lan(tmp_path, door):
    made = certificates(tmp_path / "tls", ("192.0.2.7",))
    lan = pairing.Lan(("https://192.0.2.7:8765",), door, made.authority, made.fingerprint)
    return create_app(tmp_path / "d", hosts=frozenset({"192.0.2.7"}), lan=lan).test_client()


@pytest.mark.parametrize("held", ["", "short", "x" * 43])
def test_no_cookie_but_a_devices_own_lets_anybody_in(on_lan, held):
    on_lan.set_cookie("ember_pair", held, domain="192.0.2.7")
    assert on_lan.get("/api/board", **AWAY).status_code == 403
    assert on_lan.post("/api/jobs", json={}, **AWAY).status_code == 403
    assert on_lan.get("/api/pair", **AWAY).status_code == 403


def test_a_device_is_named_and_shut_out_on_the_shops_own_machine_alone(on_lan, door):
    code = door.code()[0]
    assert on_lan.get(f"/api/pair/join?token={code}", **AWAY).status_code == 302
    assert on_lan.get("/api/pair").status_code == 401
    lead_first(on_lan)
    shown = on_lan.get("/api/pair").json
    (found,) = shown["devices"]
    assert found["name"] == "Device 1"
    assert 0 < shown["lapses_s"] <= CODE_S
    at = f"/api/pair/devices/{found['key']}"
    assert on_lan.get("/api/board", **AWAY).status_code == 401
    assert sign_in(on_lan, **AWAY).status_code == 200
    assert on_lan.delete(at, **AWAY).status_code == 403
    assert on_lan.put(at, json={"name": "mine"}, **AWAY).status_code == 403
    named = on_lan.put(at, json={"name": " Runa's phone\n"})
    assert named.json["devices"][0]["name"] == "Runa's phone"
    assert on_lan.put(at, json={"name": " "}).status_code == 422
    assert on_lan.get("/api/board", **AWAY).status_code == 200
    assert on_lan.delete(at).json["devices"] == []
    assert on_lan.get("/api/board", **AWAY).status_code == 403
    assert on_lan.delete(at).status_code == 404


def test_a_look_ahead_at_the_code_lets_nobody_in(on_lan, door):
    code = door.code()[0]
    assert on_lan.head(f"/api/pair/join?token={code}", **AWAY).status_code == 200
    assert door.all() == []
    assert on_lan.get("/api/board", **AWAY).status_code == 403


def test_guesses_over_the_network_are_told_to_wait(on_lan):
    answers = [on_lan.get("/api/pair/join?token=guess", **AWAY) for _ in range(WRONG_MOST + 1)]
    assert [one.status_code for one in answers] == [403] * WRONG_MOST + [429]
    assert answers[-1].headers["Retry-After"] == "60"


def test_the_calendars_address_is_its_own_secret_and_opens_nothing_else(on_lan, tmp_path):
    lead_first(on_lan)
    assert on_lan.get("/api/feed").json == {"addresses": [], "network": True}
    first = on_lan.post("/api/feed").json["addresses"][0]
    assert first.startswith("https://192.0.2.7:8765/api/feed/")
    at = first.removeprefix("https://192.0.2.7:8765")
    kept = tmp_path / "d" / "tls" / "calendar"
    assert kept.stat().st_mode & 0o777 == 0o600
    found = on_lan.get(at, **AWAY)
    assert found.status_code == 200 and found.mimetype == "text/calendar"
    assert found.data.startswith(b"BEGIN:VCALENDAR")
    # From the network it is read alone, and lets nobody in.
    for method in ("put", "post", "delete", "patch"):
        assert getattr(on_lan, method)(at, **AWAY).status_code in (403, 404, 405)
    for other in ("/api/feed", "/api/board", "/api/feed/../board"):
        assert on_lan.get(other, **AWAY).status_code in (403, 404)
    for verb in ("post", "delete"):
        assert getattr(on_lan, verb)("/api/feed", **AWAY).status_code == 403
    for wrong in ("x" * 43, at.split("/")[3][:-1], " "):
        assert on_lan.get(f"/api/feed/{wrong}/upkeep.ics", **AWAY).status_code == 404
    second = on_lan.post("/api/feed").json["addresses"][0]
    assert second != first and on_lan.get(at, **AWAY).status_code == 404
    assert on_lan.delete("/api/feed").json["addresses"] == []
    assert on_lan.get(second.removeprefix("https://192.0.2.7:8765"), **AWAY).status_code == 404


@pytest.mark.parametrize("held", [b"", b"\n", b"short", b"\xff" * 50])
def test_an_address_that_is_lost_or_damaged_is_nobodys(on_lan, tmp_path, held):
    kept = tmp_path / "d" / "tls" / "calendar"
    kept.parent.mkdir(parents=True, exist_ok=True)
    kept.write_bytes(held)
    for guess in ("", "short", "%FF"):
        assert on_lan.get(f"/api/feed/{guess}/upkeep.ics", **AWAY).status_code == 404
