"""An older data folder: brought up with what is derived from its jobs, nothing of them lost."""

import sqlite3

from alembic.config import Config
from alembic.script import ScriptDirectory

from gentle_ember.store.check import check
from gentle_ember.store.database import MIGRATIONS, database_path, migrate, newest, revision
from gentle_ember.store.upgrade import bring_up
from tests.helpers.people import BEFORE_PEOPLE


def board_of(data):
    with sqlite3.connect(database_path(data)) as connection:
        return dict(connection.execute("SELECT job_id, lessons FROM board"))


def test_what_jobs_of_an_older_folder_taught_is_there_after_the_upgrade(demo_copy):
    taught = board_of(demo_copy)
    assert any(lessons != "[]" for lessons in taught.values())
    with sqlite3.connect(database_path(demo_copy)) as connection:
        connection.execute("ALTER TABLE board DROP COLUMN lessons")
        for statement in BEFORE_PEOPLE:
            connection.execute(statement)
        connection.execute("UPDATE alembic_version SET version_num = '0003'")
    bring_up(demo_copy)
    assert board_of(demo_copy) == taught
    assert check(demo_copy, repair=False) == []


def test_one_job_that_is_no_longer_valid_keeps_none_of_the_others_away(demo_copy):
    taught = board_of(demo_copy)
    broken = next(job for job, lessons in taught.items() if lessons == "[]")
    with sqlite3.connect(database_path(demo_copy)) as connection:
        connection.execute("UPDATE job SET document = '{\"set\": 1}' WHERE id = ?", (broken,))
        connection.execute("ALTER TABLE board DROP COLUMN lessons")
        for statement in BEFORE_PEOPLE:
            connection.execute(statement)
        connection.execute("UPDATE alembic_version SET version_num = '0003'")
    bring_up(demo_copy)
    assert board_of(demo_copy) == taught
    (found,) = check(demo_copy, repair=False)
    assert found.startswith(f"Job {broken}: ")


def test_the_newest_revision_is_the_last_migrations(tmp_path):
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    assert newest() == ScriptDirectory.from_config(config).get_current_head()
    assert revision(tmp_path) is None
    assert not migrate(tmp_path)
    assert revision(tmp_path) == newest()
    assert not migrate(tmp_path)
