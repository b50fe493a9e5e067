"""Jobs in the store: revisions, undo, merging, idempotency, the board's index."""

import sqlite3
import threading

import pytest
from sqlalchemy import text

from gentle_ember.catalog import load
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.job import Job
from gentle_ember.store import board
from gentle_ember.store.check import check
from gentle_ember.store.database import database_path, migrate, open_engine
from gentle_ember.store.errors import (
    ConflictError,
    InvalidJobError,
    NotFoundError,
    NothingToUndoError,
)
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.models import Base
from tests.helpers.service import FIRST, edit, key


def fact(value):
    return {"value": value, "origin": "owner", "typed": ""}


def test_a_job_survives_reopening(jobs, data):
    made = jobs.create(FIRST, "RK")
    edit(jobs, made, "set.maker", "Drovane")
    again = open_jobs(open_engine(data), load()).get(made.id)
    assert (again.revision, again.job.set.maker) == (2, "Drovane")


def test_database_is_durable_and_checks_references(jobs):
    with jobs.reading.begin() as session:
        pragma = {
            name: session.execute(text(f"PRAGMA {name}")).scalar()
            for name in ("journal_mode", "synchronous", "foreign_keys")
        }
    assert pragma == {"journal_mode": "wal", "synchronous": 2, "foreign_keys": 1}


def test_migrations_make_what_the_models_say(data):
    with sqlite3.connect(database_path(data)) as connection:
        for table in Base.metadata.sorted_tables:
            columns = {row[1] for row in connection.execute(f"PRAGMA table_info({table.name})")}
            assert columns == {column.name for column in table.columns}
    assert not migrate(data)  # a second run changes nothing


def test_the_same_key_writes_once(jobs):
    made = jobs.create(FIRST, "RK", "create-000001")
    assert jobs.create(FIRST, "RK", "create-000001").id == made.id
    write = key()
    one = edit(jobs, made, "set.maker", "Wexlet", write=write)
    two = edit(jobs, made, "set.maker", "Wexlet", write=write)
    assert one.revision == two.revision == 2
    assert len(jobs.log(made.id)) == 2


def test_undo_and_redo_walk_the_whole_way(jobs):
    stored = made = jobs.create(FIRST, "RK")
    names = [f"model {n}" for n in range(12)]
    for name in names:
        stored = edit(jobs, stored, "set.model", name)
    for name in reversed([None, *names[:-1]]):
        stored = jobs.undo(made.id, key=key(), who="RK")
        assert stored.job.set.model == (name or "")
    assert not stored.can_undo
    with pytest.raises(NothingToUndoError):
        jobs.undo(made.id, key=key(), who="RK")
    for name in names:
        stored = jobs.redo(made.id, key=key(), who="RK")
        assert stored.job.set.model == name
    assert stored.revision == 1 + 3 * len(names)


def test_a_new_change_ends_redo(jobs):
    made = jobs.create(FIRST, "RK")
    edit(jobs, made, "set.model", "one")
    jobs.undo(made.id, key=key(), who="RK")
    edit(jobs, jobs.get(made.id), "set.model", "two")
    assert not jobs.get(made.id).can_redo
    with pytest.raises(NothingToUndoError):
        jobs.redo(made.id, key=key(), who="RK")


def test_undo_brings_back_what_was_removed(jobs):
    made = jobs.create(FIRST, "RK")
    stored = edit(jobs, made, "sites.s1.cylinders.c1", {"size": "30", "count": 3})
    before = stored.job
    jobs.change(
        made.id,
        [Change("sites.s1.cylinders.c1", remove=True)],
        base=stored.revision,
        key=key(),
        who="RK",
    )
    assert jobs.get(made.id).job.sites["s1"].cylinders == {}
    assert jobs.undo(made.id, key=key(), who="RK").job == before


def test_changes_elsewhere_merge_and_the_same_place_conflicts(jobs):
    made = jobs.create(FIRST, "RK")
    edit(jobs, made, "set.maker", "Drovane", who="OM")
    merged = edit(jobs, made, "set.model", "Linnet", base=made.revision)
    assert (merged.job.set.maker, merged.job.set.model) == ("Drovane", "Linnet")
    with pytest.raises(ConflictError) as caught:
        edit(jobs, made, "set.maker", "Wexlet", base=made.revision)
    assert (caught.value.paths, caught.value.who) == (["set.maker"], "OM")


def test_a_writer_never_conflicts_with_its_own_queue(jobs):
    made = jobs.create(FIRST, "RK")
    for n in range(3):
        edit(jobs, made, "set.maker", f"m{n}", base=1, write=f"phone0001-{n}")
    assert jobs.get(made.id).job.set.maker == "m2"


def test_nothing_is_saved_of_a_refused_change(jobs):
    made = jobs.create(FIRST, "RK")
    stored = edit(jobs, made, "set.running", fact(3000.0))
    with pytest.raises(InvalidJobError) as caught:
        jobs.change(
            made.id,
            [Change("set.maker", "Drovane"), Change("set.starting", fact(2000.0))],
            base=stored.revision,
            key=key(),
            who="RK",
        )
    assert [error.path for error in caught.value.errors] == ["set.starting"]
    after = jobs.get(made.id)
    assert (after.revision, after.job.set.maker) == (2, "")


@pytest.mark.parametrize(
    ("path", "value", "message"),
    [
        ("set.running", fact(-5000.0), "can't be negative"),
        ("set.running", fact(9e9), "too high"),
        ("set.nonsense", 1, "no such field"),
        ("set.set_class", "submarine", "not one of the choices"),
        ("nowhere.at.all", 1, "not a place"),
        ("sites.s1.cylinders.BAD KEY", {}, "a key takes"),
        ("title", "", "at least 1 character"),
    ],
)
def test_faults_are_named_at_their_field(jobs, path, value, message):
    made = jobs.create(FIRST, "RK")
    with pytest.raises(InvalidJobError, match=message):
        edit(jobs, made, path, value)


def test_a_stop_cannot_be_signed_off(jobs):
    made = jobs.create(FIRST, "RK")
    stored = edit(jobs, made, "set.running", fact(3000.0))
    over = {"size": "20", "fill": fact(11.0)}
    stored = edit(jobs, stored, "sites.s1.cylinders.c1", over)
    with pytest.raises(InvalidJobError, match="holds this stage"):
        edit(jobs, stored, "stages.intake", {"state": "done", "by": "RK"})
    stored = edit(jobs, stored, "sites.s1.cylinders.c1.fill", fact(8.0))
    done = edit(jobs, stored, "stages.intake", {"state": "done", "by": "RK"})
    assert done.job.stages["intake"].by == "RK"


def test_preview_saves_nothing(jobs):
    made = jobs.create(FIRST, "RK")
    seen = jobs.preview(made.id, [Change("set.running", fact(3000.0))])
    assert seen.job.set.running.value == 3000.0
    assert jobs.get(made.id).job.set.running is None


def test_many_writers_lose_nothing(jobs):
    made = jobs.create(FIRST, "RK")
    faults = []

    def write(writer):
        for n in range(10):
            try:
                edit(
                    jobs, made, f"sites.w{writer}x{n}", {"name": "x"}, base=1,
                    write=f"writer{writer:04d}-{n}",
                )  # fmt: skip
            except Exception as error:
                faults.append(error)

    threads = [threading.Thread(target=write, args=(n,)) for n in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert faults == []
    stored = jobs.get(made.id)
    assert (stored.revision, len(stored.job.sites)) == (41, 41)


def test_copy_starts_afresh(jobs):
    made = jobs.create(FIRST, "RK")
    stored = edit(jobs, made, "stages.intake", {"state": "done", "by": "RK"})
    copied = jobs.duplicate(stored.id, who="OM", key=key())
    assert copied.job.title == "a set (copy)"
    assert copied.job.stages == {}
    assert (copied.revision, copied.can_undo) == (1, False)


def test_missing_jobs_are_said_to_be_missing(jobs):
    for call in (
        lambda: jobs.get("nope"),
        lambda: jobs.log("nope"),
        lambda: jobs.undo("nope", key=key(), who=""),
    ):
        with pytest.raises(NotFoundError):
            call()


def board_titles(jobs, **options):
    with jobs.reading.begin() as session:
        found = board.groups(session, **options)
        return {group.waits_for: [row.shown["title"] for row in group.rows] for group in found}


def test_board_groups_by_what_jobs_wait_for(jobs):
    one = jobs.create({**FIRST, "title": "Barn set"}, "RK")
    two = jobs.create({**FIRST, "title": "Tent set"}, "RK")
    edit(jobs, two, "stages.fit", {"state": "waiting", "waits_for": "parts"})
    assert board_titles(jobs) == {"nothing": ["Barn set"], "parts": ["Tent set"]}
    edit(jobs, one, "archived", True)
    assert board_titles(jobs) == {"parts": ["Tent set"]}
    assert board_titles(jobs, archived=True) == {"nothing": ["Barn set"]}


@pytest.mark.parametrize("query", ["barn", "BAR", "Müh", "muhle", "drov barn", "row"])
def test_search_finds_by_the_start_of_any_word(jobs, query):
    made = jobs.create({**FIRST, "title": "Bärn Mühle", "owner": "Bramble Row"}, "RK")
    edit(jobs, made, "set.maker", "Drovane")
    assert board_titles(jobs, query=query) == {"nothing": ["Bärn Mühle"]}


@pytest.mark.parametrize("query", ["zzz", '"', "a* OR b", "NEAR(", "barn OR zzz"])
def test_search_takes_any_text(jobs, query):
    jobs.create({**FIRST, "title": "Barn set"}, "RK")
    assert board_titles(jobs, query=query) in ({}, {"nothing": ["Barn set"]})


@pytest.mark.parametrize(
    "damage",
    [
        "UPDATE board SET shown = json_set(shown, '$.title', 'wrong')",
        "DELETE FROM board",
        "DELETE FROM board_search",
        "UPDATE board_search SET text = 'another set'",
    ],
)  # fmt: skip
def test_check_finds_and_repairs_a_wrong_board_row_and_its_search(jobs, data, damage):
    made = jobs.create(FIRST, "RK")
    assert check(data, repair=False) == []
    with sqlite3.connect(database_path(data)) as connection:
        connection.execute(damage)
    assert check(data, repair=False) == [f"Job {made.id}: board row differs from the job"]
    assert check(data, repair=True) == [f"Job {made.id}: board row rebuilt"]
    assert check(data, repair=False) == []


def test_check_finds_a_lost_attachment(jobs, data, attachments):
    made = jobs.create(FIRST, "RK")
    digest = attachments.put(b"a picture")
    entry = {"sha256": digest, "name": "plate.jpg", "media_type": "image/jpeg", "size": 9}
    edit(jobs, made, "attachments.f1", entry)
    assert check(data, repair=False) == []
    attachments.path(digest).write_bytes(b"another")
    assert "plate.jpg" in check(data, repair=False)[0]


def watts(n: int) -> dict[str, object]:
    return {"name": "kettle", "running": {"value": 1400.0 + n, "origin": "measured"}}


def test_what_a_job_teaches_is_known_at_once_and_the_others_are_not_read_again(jobs, monkeypatch):
    """Of a shop with thousands of jobs every other number typed would read them all."""
    one = jobs.create({**FIRST, "title": "one"}, "RK")
    other = jobs.create({**FIRST, "title": "other"}, "RK")

    def change(path: str, value: object) -> None:
        jobs.change(one.id, [Change(path, value)], base=10**6, key=key(), who="RK")

    def taught():
        return [load.running_w for load in jobs.taught.but(other.id).loads]

    change("set.running", {"value": 3000.0, "origin": "data_sheet"})
    assert jobs.taught is not None
    asked: list[int] = []
    lessons = board.all_lessons
    monkeypatch.setattr(board, "all_lessons", lambda session: asked.append(1) or lessons(session))

    change("owner", "Runa")
    assert taught() == []
    change("load.appliances", {"a1": watts(0)})
    assert taught() == [1400.0]
    own = jobs.taught.but(one.id)
    assert own.loads == ()
    change("load.appliances", {"a1": watts(90)})
    assert taught() == [1490.0]
    assert jobs.taught.but(one.id) is own, "what the others taught stays the same object"
    jobs.undo(one.id, key=key(), who="RK")
    assert taught() == [1400.0]
    jobs.undo(one.id, key=key(), who="RK")
    assert taught() == []
    assert asked == []
    jobs.redo(one.id, key=key(), who="RK")
    as_kept = jobs.taught.but(other.id)
    jobs._read_anew()
    assert (jobs.taught.but(other.id), asked) == (as_kept, [1])


def test_a_write_taken_while_the_lessons_are_read_is_not_lost(jobs, monkeypatch):
    one = jobs.create({**FIRST, "title": "one"}, "RK")
    other = jobs.create({**FIRST, "title": "other"}, "RK")
    edit(jobs, one, "set.running", {"value": 3000.0, "origin": "data_sheet"})
    lessons = board.all_lessons

    def meanwhile(session):
        found = lessons(session)
        monkeypatch.setattr(board, "all_lessons", lessons)
        edit(jobs, one, "load.appliances", {"a1": watts(0)}, base=10**6)
        return found

    monkeypatch.setattr(board, "all_lessons", meanwhile)
    jobs._read_anew()
    assert [load.running_w for load in jobs.taught.but(other.id).loads] == [1400.0]


def test_a_shop_that_is_written_to_all_the_time_still_answers_what_it_taught(jobs, monkeypatch):
    made = jobs.create({**FIRST, "title": "one"}, "RK")
    edit(jobs, made, "set.running", {"value": 3000.0, "origin": "data_sheet"})
    edit(jobs, made, "load.appliances", {"a1": watts(0)}, base=10**6)
    lessons, asked = board.all_lessons, []

    def busy(session):
        asked.append(1)
        found = lessons(session)
        edit(jobs, made, "owner", f"owner {len(asked)}", base=10**6)
        return found

    with monkeypatch.context() as written_to:
        written_to.setattr(board, "all_lessons", busy)
        jobs._read_anew()
        assert [load.running_w for load in jobs.taught.all().loads] == [1400.0]
        assert len(asked) == 4
    edit(jobs, made, "load.appliances", {"a1": watts(50)}, base=10**6)
    assert [load.running_w for load in jobs.taught.all().loads] == [1450.0]


def test_a_database_put_back_beneath_a_server_takes_its_lessons_along(jobs, data, tmp_path):
    """As a backup brought back, or the shop of these tests between two of them."""

    def teach(made, watts_more):
        edit(jobs, made, "load.appliances", {"a1": watts(watts_more)}, base=10**6)

    def taught():
        return [load.running_w for load in jobs.taught.all().loads]

    made, other = (jobs.create({**FIRST, "title": title}, "RK") for title in ("one", "two"))
    for one in (made, other):
        edit(jobs, one, "set.running", {"value": 3000.0, "origin": "data_sheet"})
    kept = sqlite3.connect(tmp_path / "kept")
    with sqlite3.connect(database_path(data)) as connection:
        connection.backup(kept)
    for _ in range(3):
        teach(made, 10)
        teach(other, 20)
        edit(jobs, made, "owner", "Runa", base=10**6)
    assert sorted(taught()) == [1410.0, 1420.0] or len(taught()) == 1
    with sqlite3.connect(database_path(data)) as connection:
        kept.backup(connection)
    teach(made, 90)
    assert taught() == [1490.0], "and nothing of what the other taught in the database that is gone"
    assert check(data, repair=False) == []


def test_the_board_is_right_after_writes_of_two_processes_and_one_that_failed(jobs, data):
    elsewhere = open_jobs(open_engine(data), load())
    made = jobs.create(FIRST, "RK")
    late = {"base": 10**6}
    edit(jobs, made, "owner", "Runa", **late)
    edit(elsewhere, made, "set.maker", "Drovane", **late)
    edit(elsewhere, made, "owner", "Tove", **late)
    edit(
        jobs, made, "owner", "Runa", **late
    )  # as this process wrote it before; the row says otherwise
    assert check(data, repair=False) == []
    with pytest.raises(InvalidJobError):
        edit(jobs, made, "set.running", {"value": -1.0, "origin": "data_sheet"}, **late)
    edit(elsewhere, made, "wish", "quiet", **late)
    edit(jobs, made, "title", "another", **late)
    assert check(data, repair=False) == []


def test_a_jobs_text_is_the_very_one_that_was_written(jobs, data):
    made = jobs.create(FIRST, "RK")
    edit(jobs, made, "owner", "Runa Késtle “the elder”")
    stored = jobs.get(made.id)
    with sqlite3.connect(database_path(data)) as connection:
        (kept,) = connection.execute("SELECT document FROM job").fetchone()
    assert stored.text == kept
    assert Job.model_validate_json(stored.text) == stored.job
    assert jobs.preview(made.id, [Change("owner", "x")]).text.count('"owner":"x"') == 1


def test_the_board_finds_a_job_by_its_words_after_they_changed_and_after_they_did_not(jobs):
    one = jobs.create({**FIRST, "title": "one"}, "RK")

    def found(word: str) -> bool:
        with jobs.reading.begin() as session:
            rows = session.execute(
                text("SELECT count(*) FROM board_search WHERE board_search MATCH :w"), {"w": word}
            )
            return bool(rows.scalar())

    def change(path: str, value: object) -> None:
        jobs.change(one.id, [Change(path, value)], base=10**6, key=key(), who="RK")

    change("owner", "Quillfeather")
    assert found("Quillfeather")
    change("load.note", "heavy")
    assert found("Quillfeather")
    change("owner", "Marsh")
    assert found("Marsh")
    assert not found("Quillfeather")
