"""Job files, the output table, backups, and the command line that moves them."""

import csv
import io
import json
import shutil
import sqlite3
import zipfile
from contextlib import closing
from pathlib import Path

import pytest
from jsonschema import Draft202012Validator
from sqlalchemy import create_engine, text

from gentle_ember import cli
from gentle_ember.catalog import load
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.plan import plan
from gentle_ember.documents import jobfile
from gentle_ember.documents.output_csv import output_csv
from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.backup import BackupError, backup, restore
from gentle_ember.store.check import check
from gentle_ember.store.database import database_path, migrate, open_engine
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.models import JobRow
from gentle_ember.store.transfer import export_job, import_job
from tests.helpers.service import FIRST, edit, key


def opened(data):
    migrate(data)
    return open_jobs(open_engine(data), load()), AttachmentStore(data)


def ids(jobs):
    with jobs.reading.begin() as session:
        return [row.id for row in session.query(JobRow)]


@pytest.fixture
def exported(jobs, attachments):
    made = jobs.create(FIRST, "RK")
    stored = edit(jobs, made, "set.maker", "Drovane")
    digest = attachments.put(b"a picture of the plate")
    entry = {"sha256": digest, "name": "plate.jpg", "media_type": "image/jpeg", "size": 22}
    edit(jobs, stored, "attachments.f1", entry)
    return made.id, export_job(jobs, attachments, made.id)


def test_every_demo_job_round_trips_to_the_byte(demo_data, tmp_path):
    source, files = opened(demo_data)
    target, kept = opened(tmp_path / "other")
    for job_id in ids(source):
        out = export_job(source, files, job_id)
        stored = import_job(target, kept, out, "OM")
        assert stored.id == job_id
        assert stored.job == source.get(job_id).job
        assert export_job(target, kept, job_id) == out
    assert check(tmp_path / "other", repair=False) == []


def test_history_comes_along(exported, tmp_path):
    job_id, out = exported
    target, kept = opened(tmp_path / "other")
    stored = import_job(target, kept, out, "OM")
    assert stored.can_undo
    assert target.undo(job_id, key=key(), who="OM").job.attachments == {}
    assert kept.get(next(iter(stored.job.attachments.values())).sha256) == b"a picture of the plate"


def test_importing_where_it_came_from_makes_a_copy(exported, jobs, attachments):
    job_id, out = exported
    stored = import_job(jobs, attachments, out, "RK")
    assert stored.id != job_id
    assert stored.job == jobs.get(job_id).job
    assert len(ids(jobs)) == 2


def test_job_json_keeps_to_its_published_schema(exported):
    _, out = exported
    with zipfile.ZipFile(io.BytesIO(out)) as archive:
        content = json.loads(archive.read("job.json"))
        names = archive.namelist()
    Draft202012Validator(jobfile.schema()).validate(content)
    assert names[0] == "job.json"
    assert names[1].startswith("attachments/")


def changed_zip(out, **members):
    """The zip with members replaced, or left out when None."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(out)) as source, zipfile.ZipFile(buffer, "w") as target:
        for name in source.namelist():
            body = members.get(name.split("/")[0].replace(".", "_"), source.read(name))
            if body is not None:
                target.writestr(name, body)
    return buffer.getvalue()


def edited_json(out, **changes):
    with zipfile.ZipFile(io.BytesIO(out)) as source:
        content = json.loads(source.read("job.json"))
    return json.dumps({**content, **changes})


REFUSALS = {
    "cut short": (lambda out: out[: len(out) // 2], "can't be read"),
    "not a zip": (lambda _out: b"hello", "not a job file"),
    "empty": (lambda _out: b"", "not a job file"),
    "foreign zip": (lambda out: changed_zip(out, job_json=None), "no job.json"),
    "foreign json": (lambda out: changed_zip(out, job_json="{}"), "another format"),
    "not json": (lambda out: changed_zip(out, job_json="{"), "can't be read"),
    "newer": (lambda out: changed_zip(out, job_json=edited_json(out, version=9)), "newer Gentle"),
    "extra": (lambda out: changed_zip(out, job_json=edited_json(out, more=1)), "not whole"),
    "no attachment": (lambda out: changed_zip(out, attachments=None), "is missing"),
    "other attachment": (lambda out: changed_zip(out, attachments=b"x"), "does not match its hash"),
    "flipped bit": (lambda out: out.replace(b"plate", b"plat\x00", 1), "damaged|can't be read"),
}


@pytest.mark.parametrize("case", REFUSALS)
def test_files_that_are_not_whole_are_refused_and_change_nothing(case, exported, jobs, attachments):
    spoil, why = REFUSALS[case]
    before = (len(ids(jobs)), list(attachments.folder.glob("*/*")))
    with pytest.raises(jobfile.JobFileError, match=why):
        import_job(jobs, attachments, spoil(exported[1]), "RK")
    assert (len(ids(jobs)), list(attachments.folder.glob("*/*"))) == before


def test_csv_table_is_complete_and_safe(demo_data):
    source, _ = opened(demo_data)
    for job_id in ids(source):
        planned = plan(source.get(job_id).job, source.catalog)
        rows = list(csv.DictReader(io.StringIO(output_csv(planned, "metric"))))
        names = {row["what"] for row in rows}
        assert "rating" in names
        assert any(name.startswith("propane") for name in names)
        for row in rows:
            assert float(row["low"]) <= float(row["value"]) <= float(row["high"])
            assert row["method"] and row["source"]
            assert not any(cell.startswith(("=", "+", "@")) for cell in row.values())


def test_backup_of_a_running_shop_restores_whole(demo_copy, tmp_path):
    source, _ = opened(demo_copy)  # an open connection, as a running server holds
    saved = tmp_path / "shop.zip"
    assert backup(demo_copy, saved) == 9
    assert restore(saved, tmp_path / "again") == 9
    again, _ = opened(tmp_path / "again")
    assert {i: again.get(i).job for i in ids(again)} == {i: source.get(i).job for i in ids(source)}


def test_restore_refuses_what_is_not_whole_or_not_empty(demo_copy, tmp_path):
    saved = tmp_path / "shop.zip"
    backup(demo_copy, saved)
    with pytest.raises(BackupError, match="already holds"):
        restore(saved, demo_copy)
    for content in (b"no zip", saved.read_bytes()[:-200]):
        broken = tmp_path / "broken.zip"
        broken.write_bytes(content)
        with pytest.raises(BackupError):
            restore(broken, tmp_path / "fresh")
        assert not database_path(tmp_path / "fresh").exists()


@pytest.mark.parametrize("left", ["-wal", "-shm", "-journal"])
def test_restore_refuses_beside_what_another_database_left(demo_copy, tmp_path, left):
    saved, fresh = tmp_path / "shop.zip", tmp_path / "fresh"
    backup(demo_copy, saved)
    fresh.mkdir()
    beside = database_path(fresh).with_name(database_path(fresh).name + left)
    beside.write_bytes(b"left behind")
    with pytest.raises(BackupError, match="left in"):
        restore(saved, fresh)
    assert sorted(one.name for one in fresh.iterdir()) == [beside.name]
    beside.unlink()
    assert restore(saved, fresh) == 9


def test_restore_refuses_attachments_of_another_shop(demo_copy, tmp_path):
    saved, fresh = tmp_path / "shop.zip", tmp_path / "fresh"
    backup(demo_copy, saved)
    (fresh / "attachments" / "ab").mkdir(parents=True)
    with pytest.raises(BackupError, match="attachments"):
        restore(saved, fresh)
    assert not database_path(fresh).exists()


def rewritten(saved: Path, out: Path, change) -> Path:
    """A backup with its database changed."""
    with zipfile.ZipFile(saved) as archive:
        held = {name: archive.read(name) for name in archive.namelist()}
    name = database_path(Path("x")).name
    at = out.with_suffix(".sqlite3")
    at.write_bytes(held[name])
    change(at)
    with zipfile.ZipFile(out, "w") as archive:
        for entry, content in {**held, name: at.read_bytes()}.items():
            archive.writestr(entry, content)
    return out


def test_restore_refuses_a_database_of_a_newer_version_by_name(demo_copy, tmp_path):
    saved = tmp_path / "shop.zip"
    backup(demo_copy, saved)

    def newer(path: Path) -> None:
        engine = create_engine(f"sqlite:///{path}")
        with engine.begin() as connection:
            connection.execute(text("UPDATE alembic_version SET version_num = '9999'"))
        engine.dispose()

    made = rewritten(saved, tmp_path / "newer.zip", newer)
    with pytest.raises(BackupError, match="newer Gentle Ember"):
        restore(made, tmp_path / "fresh")
    assert not database_path(tmp_path / "fresh").exists()


@pytest.mark.parametrize("where", [0.02, 0.3, 0.6, 0.9])
def test_restore_never_says_it_restored_a_malformed_database(demo_copy, tmp_path, where):
    saved = tmp_path / "shop.zip"
    backup(demo_copy, saved)

    def torn(path: Path) -> None:
        with closing(sqlite3.connect(path)) as held:
            held.execute("VACUUM")  # every page is in use then: one that is not may say anything
        content = bytearray(path.read_bytes())
        at = 4096 * int(where * len(content) / 4096)
        content[at : at + 4096] = b"\xff" * 4096
        path.write_bytes(bytes(content))

    made = rewritten(saved, tmp_path / "torn.zip", torn)
    with pytest.raises(BackupError):
        restore(made, tmp_path / "fresh")
    assert not database_path(tmp_path / "fresh").exists()


def test_command_line_moves_a_job_between_shops(demo_copy, tmp_path, capsys):
    source, _ = opened(demo_copy)
    job_id = ids(source)[0]
    out, other = tmp_path / "job.zip", tmp_path / "other"
    assert cli.main(["export", "--data", str(demo_copy), job_id, str(out)]) == 0
    assert cli.main(["import", "--data", str(other), str(out)]) == 0
    assert cli.main(["check", "--data", str(other)]) == 0
    assert cli.main(["backup", "--data", str(other), str(tmp_path / "b.zip")]) == 0
    shutil.rmtree(other)
    assert cli.main(["restore", "--data", str(other), str(tmp_path / "b.zip")]) == 0
    assert "all well" in capsys.readouterr().out
    assert opened(other)[0].get(job_id).job == source.get(job_id).job


def test_command_line_says_what_is_wrong(tmp_path, capsys):
    missing = ["export", "--data", str(tmp_path / "x"), "nope", str(tmp_path / "o.zip")]
    assert cli.main(missing) == 1
    assert "no such job" in capsys.readouterr().err
    assert cli.main(["backup", "--data", str(tmp_path / "y"), str(tmp_path / "b.zip")]) == 1


def test_demo_is_seeded_once_and_holds_the_scenario(demo_copy):
    before = {i: opened(demo_copy)[0].get(i).revision for i in ids(opened(demo_copy)[0])}
    assert cli.main(["demo", "--data", str(demo_copy), "--seed-only"]) == 0
    source, _ = opened(demo_copy)
    assert {i: source.get(i).revision for i in ids(source)} == before
    jobs = [source.get(i).job for i in ids(source)]
    assert len(jobs) == 9
    sites = [site for job in jobs for site in job.sites.values()]
    assert any(site.elevation and site.elevation.value == 2450 for site in sites)
    assert any(gas.kind == "biogas" for site in sites for gas in site.gases.values())
    assert any(job.set.carburetor.type == "two_barrel" for job in jobs)
    plans = [plan(job, source.catalog).of(output_here) for job in jobs]
    limits = {entry.limited_by for output in plans if output for entry in output.fuels}
    assert limits == {"engine", "alternator"}
