"""A backup a day: made once, thinned out, restored; and one before each upgrade."""

import logging
import shutil
import time
import zipfile
from collections import namedtuple
from datetime import date, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.store import daily as module
from gentle_ember.store.backup import BackupError, restore
from gentle_ember.store.daily import (
    FOLDER,
    Keeper,
    Kept,
    _too_many,
    before_upgrade,
    daily,
    how_many,
    kept,
)
from gentle_ember.store.database import database_path, revision
from gentle_ember.web.app import create_app
from tests.helpers.serving import Server

TODAY = date(2026, 11, 27)


@pytest.fixture
def shop(demo_copy):
    create_app(demo_copy)
    return demo_copy


def test_one_is_made_a_day_and_restores_whole(shop, tmp_path):
    made = daily(shop, TODAY)
    assert made == shop / FOLDER / "shop-2026-11-27.zip"
    assert made.stat().st_mode & 0o777 == 0o600
    assert daily(shop, TODAY) is None
    # A clock set back makes no second one of days that are there.
    assert daily(shop, TODAY - timedelta(days=1)) is None
    assert daily(shop, TODAY + timedelta(days=1)) is not None
    assert [one.day for one in kept(shop)] == [TODAY + timedelta(days=1), TODAY]
    assert restore(made, tmp_path / "again") == 9


def test_old_ones_go_but_the_first_of_each_month_of_the_year(shop):
    client = create_app(shop).test_client()
    front = client.get("/api/shop").json
    assert client.put("/api/shop", json={**front, "backups": 3}).status_code == 200
    folder = shop / FOLDER
    folder.mkdir()
    for back in range(1, 420):
        (folder / f"shop-{TODAY - timedelta(days=back)}.zip").write_bytes(b"x")
    (folder / "before-0008.zip").write_bytes(b"x")
    (folder / "mine.zip").write_bytes(b"x")
    daily(shop, TODAY)
    days = [one.day for one in kept(shop)]
    assert days[:3] == [TODAY, TODAY - timedelta(days=1), TODAY - timedelta(days=2)]
    assert days[3:] == [date(2026, month, 1) for month in range(11, 0, -1)] + [date(2025, 12, 1)]
    assert (folder / "before-0008.zip").exists() and (folder / "mine.zip").exists()
    shown = client.get("/api/backups").json["kept"]
    assert [one["day"] for one in shown] == [one.isoformat() for one in days]


def test_none_are_made_where_none_are_wanted_or_there_is_no_shop(shop, tmp_path):
    client = create_app(shop).test_client()
    front = client.get("/api/shop").json
    for wrong in (-1, 61, "many"):
        bad = client.put("/api/shop", json={**front, "backups": wrong})
        assert bad.json["errors"][0]["path"] == "backups"
    client.put("/api/shop", json={**front, "backups": 0})
    assert how_many(shop) == 0 and daily(shop, TODAY) is None and kept(shop) == []
    assert daily(tmp_path / "nothing", TODAY) is None


def test_a_full_disk_is_said_and_leaves_nothing_half_made(shop, monkeypatch, caplog):
    room = namedtuple("room", "total used free")
    monkeypatch.setattr(module.shutil, "disk_usage", lambda _: room(9, 9, 10))
    with pytest.raises(BackupError, match="No room for today's backup"):
        daily(shop, TODAY)
    with caplog.at_level(logging.ERROR):
        Keeper(shop).look(TODAY)
    assert "no backup today yet" in caplog.text
    monkeypatch.undo()

    def broken(*_):
        (shop / FOLDER / "shop-2026-11-27.zip.part").write_bytes(b"half")
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(module, "backup", broken)
    with pytest.raises(OSError, match="No space"):
        daily(shop, TODAY)
    assert list((shop / FOLDER).iterdir()) == []


def test_the_keeper_looks_at_once_and_ends_when_told(shop):
    keeper = Keeper(shop)
    keeper.start()
    while not kept(shop):
        assert keeper.is_alive()
    keeper.ends.set()
    keeper.join(10)
    assert not keeper.is_alive()
    with zipfile.ZipFile(kept(shop)[0].path) as archive:
        assert archive.testzip() is None


def test_a_shop_of_an_older_version_is_kept_as_it_was_before_it_is_changed(shop, monkeypatch):
    assert before_upgrade(shop) is None
    monkeypatch.setattr(module, "newest", lambda: "0099")
    saved = before_upgrade(shop)
    assert saved.name == "before-0099.zip"
    changed = saved.stat().st_mtime_ns
    assert before_upgrade(shop) == saved and saved.stat().st_mtime_ns == changed
    shutil.rmtree(shop / FOLDER)
    # A folder that holds no shop yet has nothing to keep, looked into or not.
    database_path(shop).unlink()
    assert before_upgrade(shop) is None
    assert revision(shop) is None and before_upgrade(shop) is None
    assert not (shop / FOLDER).exists()


def test_a_shop_that_is_served_is_backed_up_by_itself(tmp_path):
    data = tmp_path / "new"
    running = Server(data, backed_up=True)
    try:
        ends = time.monotonic() + 20
        while not kept(data) and time.monotonic() < ends:
            time.sleep(0.2)
        assert [one.day for one in kept(data)] == [datetime.now().date()]
    finally:
        running.kill()


@settings(max_examples=60)
@given(st.sets(st.integers(0, 700), max_size=80), st.integers(1, 20))
def test_the_last_ones_and_a_month_each_are_never_thrown_away(back, wanted):
    there = [Kept(f"{n}", TODAY - timedelta(days=n), 1) for n in sorted(back)]
    gone = set(map(id, _too_many(there, wanted, TODAY)))
    assert not any(id(one) in gone for one in there[:wanted])
    left = {(one.day.year, one.day.month) for one in there if id(one) not in gone}
    for one in there:
        months = (TODAY.year - one.day.year) * 12 + TODAY.month - one.day.month
        assert months >= 12 or (one.day.year, one.day.month) in left
    assert len(there) - len(gone) <= wanted + 12
