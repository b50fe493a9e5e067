"""The gate of every way in: a new document, an import, a redo, a write that waited offline."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.route import cautions
from gentle_ember.store import board
from gentle_ember.store.errors import InvalidJobError
from tests.core.test_acts import SOUND, near, overfilled, proven, put, smelled, unrated
from tests.helpers.service import change, ids, key, show

RUNS = ("starts.propane.attempts.a1", {"result": "runs", "on": "2026-11-25T10:00:00Z"})
SIGNED = ("stages.hand_over", {"state": "done", "by": "RK"})
LOCKED = ("metering.s1-propane.locked", {"value": 1.4, "origin": "measured", "typed": "1.4"})
LOADED = ("load_tests.s1-propane.runs.r1",
          {"held": {"value": 2500.0, "origin": "measured", "typed": "2500 W"}})  # fmt: skip
SOAPED = ("proof.soaped.s0", {"joint": "propane.demand", "found": "holds"})
WAYS_PAST = [RUNS, SIGNED, LOCKED, LOADED]


def document(job: Job, *writes: tuple[str, Any]) -> dict[str, Any]:
    for path, value in writes:
        job = put(job, path, value)
    return job.model_dump(mode="json")


@pytest.mark.parametrize("danger", [near, overfilled, smelled, unrated])
@pytest.mark.parametrize("write", WAYS_PAST, ids=[path for path, _ in WAYS_PAST])
def test_no_document_is_made_a_job_past_a_danger(jobs, danger, write):
    with pytest.raises(InvalidJobError) as refused:
        jobs.create(document(danger(SOUND), write), "RK")
    assert any(write[0].startswith(one.path) for one in refused.value.errors)
    if write is not SIGNED:
        assert jobs.create(document(SOUND, write), "RK").job.starts is not None


def gate_open(job: Job) -> Job:
    """Nobody has looked at the exhaust."""
    return put(job, "starts.propane.looked.outdoors", {})


def tried_too_soon(job: Job) -> Job:
    """Primed too long, and tried again five minutes later."""
    first = {"result": "nothing", "presses": 9, "seconds": 9, "on": "2026-11-25T09:55:00Z"}
    return put(job, "starts.propane.attempts.a0", first)


@pytest.mark.parametrize(
    ("danger", "says"),
    [(gate_open, "1 of its start gate open"), (tried_too_soon, "Over-primed")],
)
def test_a_start_of_another_program_passes_the_start_gate_and_the_wait(client, danger, says):
    data = zipped(client, put(danger(SOUND), *RUNS))
    refused = client.post("/api/import?who=RK", data=data)
    assert refused.status_code == 422
    assert says in json.dumps(refused.json["errors"])
    taken = client.post("/api/import?who=RK&take_back=yes", data=data)
    assert taken.status_code == 201
    assert taken.json["job"]["starts"]["propane"]["attempts"] == {}


def zipped(client: Any, job: Job) -> bytes:
    """A job file as somebody else's program could have written it."""
    made = client.post("/api/jobs", json={"title": "to be replaced", "who": "RK", "key": key()})
    whole = client.get(f"/api/jobs/{made.json['id']}/export").data
    with zipfile.ZipFile(io.BytesIO(whole)) as archive:
        content = json.loads(archive.read("job.json"))
    content["job"] = job.model_dump(mode="json")
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("job.json", json.dumps(content))
    return out.getvalue()


def count(client: Any) -> int:
    return sum(group["count"] for group in client.get("/api/board?limit=99").json["groups"])


@pytest.mark.parametrize("danger", [near, overfilled, smelled, unrated])
@pytest.mark.parametrize("write", WAYS_PAST, ids=[path for path, _ in WAYS_PAST])
def test_an_import_past_a_danger_is_refused_and_taken_in_only_without_it(client, danger, write):
    data = zipped(client, put(danger(SOUND), *write))
    before = count(client)
    refused = client.post("/api/import?who=RK", data=data)
    assert refused.status_code == 422
    assert refused.json["type"] == "/problems/unearned"
    faults = refused.json["errors"]
    assert any(write[0].startswith(one["path"]) for one in faults)
    assert count(client) == before
    taken = client.post("/api/import?who=RK&take_back=yes", data=data)
    assert taken.status_code == 201, taken.json
    job = taken.json["job"]
    assert job["starts"]["propane"]["attempts"] == {}
    assert job["stages"].get("hand_over", {}).get("state") != "done"
    assert job["metering"].get("s1-propane", {}).get("locked") is None
    assert job["load_tests"].get("s1-propane", {"runs": {}})["runs"] == {}
    if write is SIGNED:
        assert "not taken over" in job["stages"]["hand_over"]["note"]
    log = client.get(f"/api/jobs/{taken.json['id']}/log").json
    assert log[0]["kind"] == "edit"


def test_a_sound_job_file_comes_in_whole(client):
    taken = client.post("/api/import?who=RK", data=zipped(client, put(SOUND, *RUNS)))
    assert taken.status_code == 201
    assert taken.json["job"]["starts"]["propane"]["attempts"]["a1"]["result"] == "runs"


def test_every_job_of_the_demo_goes_out_and_comes_in_again(demo_client):
    for job in ids(demo_client).values():
        data = demo_client.get(f"/api/jobs/{job}/export").data
        taken = demo_client.post("/api/import?who=RK", data=data)
        assert taken.status_code == 201, (taken.json, job)


def test_a_redo_and_a_write_that_waited_pass_the_same_gate(finished):
    client, job = finished.client, finished.job
    at = "starts.propane.attempts.later"
    base = finished.see()["revision"]
    assert change(client, job, at, {"result": "runs"}).status_code == 200
    step = {"key": key(), "who": "RK"}
    assert client.post(f"/api/jobs/{job}/undo", json=step).status_code == 200
    smell = {"by": "RK", "on": "2026-11-26T10:00:00Z"}
    other = {"changes": [{"path": "fit.smelled.g9", "value": smell}], "base": 10**6, "key": key()}
    assert client.patch(f"/api/jobs/{job}", json={**other, "who": "OM", "views": ""}).json
    waited = {"changes": [{"path": at, "value": {"result": "runs"}}], "base": base, "key": key()}
    refused = client.patch(f"/api/jobs/{job}", json={**waited, "who": "RK", "views": ""})
    assert refused.status_code in (409, 422)
    assert at not in json.dumps(finished.see()["job"]["starts"])
    for place in (at, "metering.s1-propane.locked"):
        value = {"result": "runs"} if place == at else LOCKED[1]
        told = change(client, job, place, value)
        assert told.status_code == 422
        assert "smelled" in json.dumps(told.json)


def test_the_page_is_told_before_the_press_what_the_store_would_refuse(finished):
    client, job = finished.client, finished.job
    assert (
        change(
            client,
            job,
            "sites.s1.cylinders.c1.distance",
            {"value": 0.3, "origin": "measured", "typed": "0.3 m"},
        ).status_code
        == 200
    )
    shown = show(client, job, "starts,proofs,metering,load_tests")
    for view in ("starts", "metering", "load_tests"):
        one = next(gas for gas in shown[view] if gas["fuel"] == "propane")
        assert any("nearer to the set" in text for text in map(str, one["forbidden"])), view
    gas = next(one for one in shown["proofs"] if one["fuel"] == "propane")
    assert gas["forbidden"] == []
    assert change(client, job, "stages.load_test", {"state": "not_started"}).status_code == 200
    told = {one["text"] for one in finished.see()["signing"]["load_test"]["sign"]}
    refused = change(client, job, "stages.load_test", {"state": "done", "by": "RK"}).json
    said = {one["message"].removeprefix("Still open, and holds this stage: ")
            for one in refused["errors"]}  # fmt: skip
    assert told == said


def test_the_sound_job_of_these_tests_is_what_the_others_are_held_to():
    assert proven() == SOUND


@pytest.mark.parametrize("stamped", ["2001-01", "2099-01"])
def test_a_date_holds_today_and_leaves_the_row_as_it_reads_on_any_day(jobs, stamped):
    clean = jobs.create(document(SOUND), "RK")
    dated = document(SOUND, ("sites.s1.cylinders.c1.stamp", "made"),
                     ("sites.s1.cylinders.c1.stamped", stamped))  # fmt: skip
    kept = jobs.create(dated, "RK")
    plans = [jobs.plan(one.job, one.id) for one in (clean, kept)]
    assert [[one.by_date for one in made.of(cautions) if one.by_date] for made in plans] == [
        [], [True],
    ]  # fmt: skip
    rows = [board.entry(made) for made in plans]
    assert rows[0] == rows[1]
    assert board.entry(plan(kept.job, jobs.catalog)) == rows[1]
    with pytest.raises(InvalidJobError):
        jobs.create(document(kept.job, RUNS), "RK")
