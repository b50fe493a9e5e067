"""Words as they were spelled before: a database and a job file of then are read as of now."""

import json
import zipfile

from sqlalchemy import create_engine, text

from gentle_ember.catalog import load
from gentle_ember.core.job.job import Job
from gentle_ember.documents import jobfile
from gentle_ember.documents.jobfile import VERSION
from gentle_ember.store.database import database_path, open_engine
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.upgrade import bring_up
from tests.helpers.people import BEFORE_PEOPLE

NEW = {"vapor_hose": "vapour_hose", '"aluminum"': '"aluminium"', '"sulfide"': '"sulphide"'}


def older(stored: str) -> str:
    for new, old in NEW.items():
        stored = stored.replace(new, old)
    return stored


def test_an_older_database_is_brought_up_with_its_log(demo_copy):
    jobs = open_jobs(open_engine(demo_copy), load())
    with jobs.reading.begin() as session:
        before = dict(session.execute(text("SELECT id, document FROM job")).all())
    assert any("vapor_hose" in one for one in before.values())
    engine = create_engine(f"sqlite:///{database_path(demo_copy)}")
    with engine.begin() as connection:
        for table, column in (("job", "document"), ("change", "changes"), ("change", "inverse")):
            for new, old in NEW.items():
                connection.execute(
                    text(f'UPDATE "{table}" SET {column} = replace({column}, :new, :old)'),  # noqa: S608
                    {"new": new, "old": old},
                )
        for statement in BEFORE_PEOPLE:
            connection.execute(text(statement))
        connection.execute(text("UPDATE alembic_version SET version_num = '0004'"))
    engine.dispose()
    bring_up(demo_copy)
    again = open_jobs(open_engine(demo_copy), load())
    with again.reading.begin() as session:
        after = dict(session.execute(text("SELECT id, document FROM job")).all())
        log = "".join(session.scalars(text("SELECT changes FROM change")).all())
    assert {key: json.loads(one) for key, one in after.items()} == {
        key: jobfile.from_version_2(json.loads(one)) for key, one in before.items()
    }
    assert "vapour" not in log
    for key in after:
        assert again.get(key).job


def test_a_job_file_of_version_1_is_read(demo_copy, tmp_path):
    jobs = open_jobs(open_engine(demo_copy), load())
    with jobs.reading.begin() as session:
        job_id = session.scalars(
            text("SELECT id FROM job WHERE document LIKE '%vapor_hose%'")
        ).first()
    job = jobs.get(job_id).job
    content = {"format": "gentle-ember-job", "version": 1, "id": job_id, "revision": 1, "log": []}
    raw = older(json.dumps({**content, "job": job.model_dump(mode="json")}))
    assert "vapour_hose" in raw
    path = tmp_path / "old.zip"
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr("job.json", raw)
    read, _ = jobfile.read(path.read_bytes())
    assert read.version == VERSION
    assert read.job == Job.model_validate(jobfile.from_version_2(job.model_dump(mode="json")))


def test_what_was_taken_for_granted_is_asked_of_an_older_job():
    slot = {"part": "x", "role": "source", "capped": True, "upright": True}
    lying = {**slot, "upright": False}
    brought = jobfile.from_version_2({"trains": {"propane": {"slots": {"a": slot, "b": lying}}}})
    slots = brought["trains"]["propane"]["slots"]
    assert (slots["a"]["capped"], slots["a"]["upright"]) == (None, None)
    assert slots["b"]["upright"] is False
    assert jobfile.from_version_2({"fit": {"capped": True}}) == {"fit": {"capped": True}}


def test_a_drop_that_was_allowed_is_none_in_an_older_decay_and_its_log():
    zone = {"before": None, "allowed": {"value": 124.5}, "barometer": None}
    assert (
        "allowed"
        not in jobfile.from_version_2({"zones": {"propane-low": zone}})["zones"]["propane-low"]
    )
    logged = {"path": "proof.zones.propane-low.allowed", "value": {"value": 124.5}}
    assert jobfile.from_version_2([logged]) == [
        {"path": "proof.zones.propane-low.limit", "value": None}
    ]


def test_parts_of_an_older_job_say_what_the_catalog_says_now():
    catalog = load()
    for number in ("LF-P-101", "LF-P-105", "PV-F-106", "PV-K-101"):
        part = next(one for one in catalog.parts.values() if one.number == number)
        stored = {**part.model_dump(mode="json"), "stalls": True}
        stored.pop("check", None)
        brought = jobfile.from_version_2({"parts": {part.key: stored}})["parts"][part.key]
        assert brought.get("check") is part.check
        assert part.kind != "lock_off" or "stalls" not in brought
