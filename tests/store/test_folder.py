"""A data folder cut off, damaged, filled up or made by a newer version: named, or mended."""

import errno
import json
import os
import sqlite3
import time

import pytest
from alembic.config import Config
from alembic.script import ScriptDirectory

from gentle_ember import cli
from gentle_ember.catalog import load
from gentle_ember.store import board, upgrade
from gentle_ember.store.attachments import PART, SETTLED_S, AttachmentStore
from gentle_ember.store.backup import backup, restore
from gentle_ember.store.check import check
from gentle_ember.store.database import (
    MIGRATIONS,
    NewerDatabaseError,
    database_path,
    migrate,
    newest,
    open_engine,
    revision,
)
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.upgrade import bring_up, rows_as_now, worked_out
from gentle_ember.web.app import create_app
from gentle_ember.web.services import open_services
from tests.helpers.service import FIRST, change, edit, ids, key


def sql(data, *statements):
    with sqlite3.connect(database_path(data)) as connection:
        return [connection.execute(one).fetchall() for one in statements]


def columns(data, table):
    return {row[1] for row in sql(data, f"PRAGMA table_info({table})")[0]}


# -- migrations ------------------------------------------------------------------------------


@pytest.mark.parametrize("cut", ["0003", "0005", "0007"])
def test_a_migration_cut_off_leaves_the_database_as_it_was(tmp_path, monkeypatch, cut):
    """Killed within any step, the tables it made are gone; the next start goes through."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    script = ScriptDirectory.from_config(config).get_revision(cut)
    done = script.module.upgrade
    data = tmp_path / "shop"

    def killed():
        done()
        raise KeyboardInterrupt

    loaded = ScriptDirectory.from_config

    def with_cut(given):
        found = loaded(given)
        monkeypatch.setattr(found.get_revision(cut).module, "upgrade", killed)
        return found

    with monkeypatch.context() as patched:
        patched.setattr(ScriptDirectory, "from_config", staticmethod(with_cut))
        with pytest.raises(KeyboardInterrupt):
            migrate(data)
    assert revision(data) is None
    assert sql(data, "SELECT name FROM sqlite_master WHERE name = 'job'") == [[]]
    monkeypatch.undo()
    migrate(data)
    assert revision(data) == newest()
    assert {"lessons", "service"} <= columns(data, "board")


def test_a_database_of_a_newer_version_is_refused_by_name_and_left_alone(demo_copy, capsys):
    sql(demo_copy, "UPDATE alembic_version SET version_num = '9999'")
    with pytest.raises(NewerDatabaseError, match=r"database 9999, this one works with 00"):
        bring_up(demo_copy)
    assert cli.main(["check", "--data", str(demo_copy)]) == 1
    assert "Update, then start again; nothing was changed." in capsys.readouterr().err
    assert revision(demo_copy) == "9999"


def test_a_fact_more_of_a_boards_row_is_there_at_the_first_start_with_it(demo_copy, monkeypatch):
    """It is no migration; rows of before have no such fact, and none may keep the board away."""

    class More(board.BoardShown):
        wish: str

    def more(planned):
        return More(**told(planned).model_dump(), wish=planned.job.wish)

    told = board.shown
    (before,) = sql(demo_copy, "SELECT shown FROM board")
    assert before and not any("wish" in json.loads(one) for (one,) in before)
    monkeypatch.setattr(upgrade, "BoardShown", More)
    monkeypatch.setattr(board, "shown", more)
    bring_up(demo_copy)
    (rows,) = sql(demo_copy, "SELECT shown FROM board")
    assert rows and all(More.model_validate_json(one) for (one,) in rows)
    assert worked_out(demo_copy) == rows_as_now()


def test_an_index_left_behind_by_a_start_that_was_cut_off_is_made_good_by_the_next(demo_copy):
    assert worked_out(demo_copy) == rows_as_now()
    sql(
        demo_copy,
        "UPDATE board SET shown = json_set(shown, '$.title', 'stale')",
        "PRAGMA user_version = 0",
    )
    bring_up(demo_copy)
    assert sql(
        demo_copy, "SELECT count(*) FROM board WHERE json_extract(shown, '$.title') = 'stale'"
    ) == [[(0,)]]
    assert worked_out(demo_copy) == rows_as_now()
    # Once it was, a start does not work it out again.
    sql(demo_copy, "UPDATE board SET shown = json_set(shown, '$.title', 'stale')")
    bring_up(demo_copy)
    assert sql(
        demo_copy, "SELECT count(*) FROM board WHERE json_extract(shown, '$.title') <> 'stale'"
    ) == [[(0,)]]


# -- check -----------------------------------------------------------------------------------

LOG_FAULTS = [
    ("DELETE FROM change WHERE job_id = '{job}' AND revision = {last}", "its log ends at revision"),
    ("DELETE FROM change WHERE job_id = '{job}' AND revision = 2", "a write is missing within"),
    ("UPDATE change SET changes = '[{{\"nowhere\": 1}}]' WHERE job_id = '{job}' AND revision = 2",
     "a write of its log can't be read"),
    ("UPDATE change SET kind = 'undo', target = 77 WHERE job_id = '{job}' AND revision = 2",
     "takes back a write that is not there"),
    ("UPDATE job SET revision = revision + 3 WHERE id = '{job}'", "its log ends at revision"),
]  # fmt: skip


@pytest.mark.parametrize(("damage", "says"), LOG_FAULTS)
def test_a_damaged_log_is_found_and_the_job_named(jobs, data, damage, says):
    stored = jobs.create(FIRST, "RK")
    for name in ("one", "two", "three"):
        stored = edit(jobs, stored, "set.model", name)
    assert check(data, repair=False) == []
    table = sql(data, "SELECT name FROM sqlite_master WHERE sql LIKE '%inverse%'")[0][0][0]
    sql(data, damage.replace("change ", f"{table} ", 1).format(job=stored.id, last=4))
    found = check(data, repair=False)
    assert any(one.startswith(f"Job {stored.id}: ") and says in one for one in found), found


def test_a_damaged_log_keeps_nobody_from_the_job(client, data):
    made = client.post("/api/jobs", json={"title": "A set", "key": "a-key-of-a-test"}).json
    assert change(client, made["id"], "owner", "Runa").status_code == 200
    (((table,),),) = sql(data, "SELECT name FROM sqlite_master WHERE sql LIKE '%inverse%' LIMIT 1")
    sql(data, f"UPDATE {table} SET kind = 'undo', target = 77 WHERE revision = 2")  # noqa: S608
    shown = client.get(f"/api/jobs/{made['id']}")
    assert (shown.status_code, shown.json["can_undo"]) == (200, False)
    undone = client.post(f"/api/jobs/{made['id']}/undo", json={"key": key(), "who": ""})
    assert undone.status_code == 409
    assert "damaged" in undone.json["detail"]


def test_a_file_of_no_job_is_found_cleared_by_repair_and_never_while_it_may_be_new(
    jobs, data, attachments
):
    stored = jobs.create(FIRST, "RK")
    kept = attachments.put(b"the plate")
    entry = {"sha256": kept, "name": "plate.jpg", "media_type": "image/jpeg", "size": 9}
    edit(jobs, stored, "attachments.f1", entry)
    alone = attachments.put(b"of an import that was refused")
    assert check(data, repair=False) == []
    long_ago = time.time() - SETTLED_S - 60
    os.utime(attachments.path(alone), (long_ago, long_ago))
    os.utime(attachments.path(kept), (long_ago, long_ago))
    assert check(data, repair=False) == [f"File {alone[:12]}… belongs to no job"]
    assert check(data, repair=True) == [f"File {alone[:12]}… belongs to no job: taken away"]
    assert not attachments.holds(alone)
    assert attachments.holds(kept)


def test_a_file_that_an_undo_could_bring_back_is_kept(jobs, data, attachments):
    stored = jobs.create(FIRST, "RK")
    digest = attachments.put(b"the plate")
    entry = {"sha256": digest, "name": "plate.jpg", "media_type": "image/jpeg", "size": 9}
    edit(jobs, stored, "attachments.f1", entry)
    jobs.undo(stored.id, key="test.undo-1", who="")
    long_ago = time.time() - SETTLED_S - 60
    os.utime(attachments.path(digest), (long_ago, long_ago))
    assert check(data, repair=True) == []
    assert attachments.holds(digest)


@pytest.mark.parametrize("where", [100, 5000, 20000])
def test_a_database_damaged_at_the_disk_is_named_not_a_traceback(demo_copy, capsys, where):
    path = database_path(demo_copy)
    sql(demo_copy, "PRAGMA wal_checkpoint(TRUNCATE)", "PRAGMA journal_mode=DELETE")
    content = bytearray(path.read_bytes())
    content[where : where + 4000] = b"\xa5" * 4000
    path.write_bytes(bytes(content))
    assert cli.main(["check", "--data", str(demo_copy)]) == 1
    told = capsys.readouterr()
    assert "damaged" in told.out or "can't be read" in told.err


# -- files and a full disk -------------------------------------------------------------------


def test_a_write_that_fails_leaves_nothing_half_written(tmp_path, monkeypatch):
    store = AttachmentStore(tmp_path)

    def full(_):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(OSError, match="No space"):
        store.put(b"a photo")
    assert [one for one in tmp_path.rglob("*") if one.is_file()] == []
    monkeypatch.undo()
    assert store.get(store.put(b"a photo")) == b"a photo"


def test_what_a_power_cut_left_half_written_is_cleared_at_the_next_start(demo_copy):
    folder = AttachmentStore(demo_copy).folder / "ab"
    folder.mkdir(parents=True, exist_ok=True)
    for name in (f"{PART}x1", "tmpq7w8e9"):
        (folder / name).write_bytes(b"half")
        long_ago = time.time() - SETTLED_S - 60
        os.utime(folder / name, (long_ago, long_ago))
    # One that is being written now, by a server beside a command, is left to it.
    (folder / f"{PART}now").write_bytes(b"under way")
    whole = AttachmentStore(demo_copy).put(b"whole")
    opened = open_services(demo_copy)
    assert [one.name for one in folder.iterdir()] == [f"{PART}now"]
    assert opened.attachments.get(whole) == b"whole"


def test_a_backup_carries_no_half_written_file(demo_copy, tmp_path):
    store = AttachmentStore(demo_copy)
    whole = store.put(b"whole")
    (store.path(whole).parent / f"{PART}x1").write_bytes(b"half")
    backup(demo_copy, tmp_path / "shop.zip")
    restore(tmp_path / "shop.zip", tmp_path / "again")
    kept = [one.name for one in (tmp_path / "again" / "attachments").rglob("*") if one.is_file()]
    assert whole in kept
    assert all(len(name) == 64 for name in kept)


def full_disk(*_, **__):
    raise OSError(errno.ENOSPC, "No space left on device")


def test_a_full_disk_is_said_so_and_loses_nothing_that_was_saved(client, monkeypatch):
    made = client.post("/api/jobs", json={"title": "A set", "key": "a-key-of-a-test"}).json
    at = f"/api/jobs/{made['id']}"
    body = {"base": 1, "key": "test.full-1", "who": ""}
    changed = client.patch(at, json={**body, "changes": [{"path": "owner", "value": "Runa"}]})
    assert changed.status_code == 200
    with monkeypatch.context() as full:
        full.setattr(AttachmentStore, "put", full_disk)
        answer = client.post(f"{at}/attachments?name=note.txt", data=b"words")
    assert answer.status_code == 507
    assert "nothing that was saved before is lost" in answer.json["detail"]
    assert client.get(f"{at}?views=").json["job"]["owner"] == "Runa"


def test_a_database_that_takes_no_more_is_said_so_and_goes_on_once_there_is_room(data):
    client = create_app(data).test_client()
    made = client.post("/api/jobs", json={"title": "A set", "key": "a-key-of-a-test"}).json
    at = f"/api/jobs/{made['id']}"
    jobs = client.application.extensions["gentle_ember"].jobs
    raw = jobs.engine.raw_connection()
    (pages,) = raw.driver_connection.execute("PRAGMA page_count").fetchone()
    raw.close()

    def fill(number):
        change = [{"path": "wish", "value": f"{number} " + "quiet " * 600}]
        return client.patch(
            at, json={"changes": change, "base": 10**6, "key": f"test.f-{number}", "who": ""}
        )

    from sqlalchemy import event

    @event.listens_for(jobs.engine, "checkout")
    def small(connection, *_):
        connection.execute(f"PRAGMA max_page_count = {pages + 4}")

    answers = [fill(number).status_code for number in range(12)]
    assert 507 in answers
    assert set(answers) <= {200, 507}
    kept = client.get(f"{at}?views=").json["revision"]
    assert kept == 1 + answers.count(200)
    event.remove(jobs.engine, "checkout", small)

    @event.listens_for(jobs.engine, "checkout")
    def large(connection, *_):
        connection.execute("PRAGMA max_page_count = 1000000")

    assert fill(99).status_code == 200


def test_a_shop_another_write_holds_says_busy_and_when_to_come_again(data, monkeypatch):
    client = create_app(data).test_client()
    jobs = client.application.extensions["gentle_ember"].jobs
    made = client.post("/api/jobs", json={"title": "A set", "key": "a-key-of-a-test"}).json

    from sqlalchemy import event

    @event.listens_for(jobs.engine, "checkout")
    def hasty(connection, *_):
        connection.execute("PRAGMA busy_timeout = 50")

    other = sqlite3.connect(database_path(data), isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    body = {"changes": [{"path": "owner", "value": "Runa"}], "base": 1, "key": "test.b-1"}
    answer = client.patch(f"/api/jobs/{made['id']}", json={**body, "who": ""})
    assert answer.status_code == 503
    assert answer.headers["Retry-After"] == "2"
    other.execute("ROLLBACK")
    other.close()
    assert client.patch(f"/api/jobs/{made['id']}", json={**body, "who": ""}).status_code == 200


# -- two threads -----------------------------------------------------------------------------


def test_times_are_there_whatever_is_written_meanwhile(jobs, monkeypatch):
    """A write on another thread clears what is kept, between the look and the use."""
    from gentle_ember.store import board

    asked = board.all_times

    def cleared(session):
        found = asked(session)
        jobs._times = None
        return found

    monkeypatch.setattr(board, "all_times", cleared)
    assert jobs.times is not None


def test_what_the_shop_learned_is_asked_for_again_after_it_could_not_be_read(data, monkeypatch):
    jobs = open_jobs(open_engine(data), load())
    from gentle_ember.store import board

    with monkeypatch.context() as broken:
        broken.setattr(board, "all_lessons", full_disk)
        with pytest.raises(OSError, match="No space"):
            _ = jobs.taught
    asked = []
    lessons = board.all_lessons
    monkeypatch.setattr(board, "all_lessons", lambda session: asked.append(1) or lessons(session))
    assert jobs.taught is not None
    assert asked == [1]


# -- a job this version can't read -----------------------------------------------------------


@pytest.fixture
def beyond(demo_copy):
    """The lambing job with a field of a newer version; a client on its shop."""
    client = create_app(demo_copy).test_client()
    job = ids(client)["Lambing"]
    with sqlite3.connect(database_path(demo_copy)) as connection:
        connection.execute(
            "UPDATE job SET document = json_set(document, '$.set.flux', 1.21), "
            "updated_at = '2026-11-27 00:00:00.000000' WHERE id = ?",
            (job,),
        )
    return client, job


def kept(data, job):
    with sqlite3.connect(database_path(data)) as connection:
        asked = "SELECT document, revision FROM job WHERE id = ?"
        return connection.execute(asked, (job,)).fetchall()


def test_a_job_of_a_newer_version_says_so_and_is_kept_as_it_is(beyond, demo_copy):
    client, job = beyond
    before = kept(demo_copy, job)
    for answer in (
        client.get(f"/api/jobs/{job}"),
        client.get(f"/api/jobs/{job}/export"),
        change(client, job, "owner", "Runa"),
        client.post(f"/api/jobs/{job}/copy", json={"key": key(), "who": ""}),
    ):
        assert answer.status_code == 409, answer.json
        assert "set.flux" in answer.json["detail"]
        assert "It is kept as it is." in answer.json["detail"]
    assert kept(demo_copy, job) == before
    (found,) = check(demo_copy, repair=False)
    assert found.startswith(f"Job {job}: set.flux")


def test_none_of_the_others_is_kept_away_by_it(beyond):
    client, job = beyond
    others = [one for one in ids(client).values() if one != job]
    assert len(others) == 8
    for one in others:
        assert client.get(f"/api/jobs/{one}").status_code == 200
        assert client.get(f"/api/jobs/{one}/library").status_code == 200
    assert client.get("/api/board").status_code == 200
    assert client.get("/api/due").status_code == 200
    assert client.get("/api/learned").status_code == 200


def test_what_a_shop_keeps_is_for_who_runs_it_alone(tmp_path, capsys):
    before = os.umask(0o022)
    try:
        shop, zipped = tmp_path / "shop", tmp_path / "shop.zip"
        assert cli.main(["demo", "--seed-only", "--data", str(shop)]) == 0
        assert cli.main(["backup", "--data", str(shop), str(zipped)]) == 0
    finally:
        os.umask(before)
    capsys.readouterr()
    assert shop.stat().st_mode & 0o077 == 0
    for one in (database_path(shop), zipped, *shop.rglob("attachments/*/*")):
        assert one.stat().st_mode & 0o077 == 0, one
