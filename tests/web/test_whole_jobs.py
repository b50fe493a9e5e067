"""Each of the eight demo jobs driven from intake to its end over the service."""

import json

import pytest

from tests.helpers.service import change, ids, joints_of, key, show, soap
from tests.helpers.technician import Technician

AS_THEY_STAND = ("Lambing", "Cinema", "Honey", "Star-party", "Tool", "Choir")
STAGES = ("intake", "method", "fuel_path", "fit", "prove_tight", "first_start", "load_test")


@pytest.mark.parametrize("title", AS_THEY_STAND)
def test_a_job_is_driven_from_intake_to_its_end(demo_client, title):
    work = Technician(demo_client, ids(demo_client)[title])
    work.reopen()
    work.rest()
    assert [one for one in work.see()["cautions"] if one["severity"] == "stop"] == []


def test_the_clock_restorers_set_runs_again_and_is_converted(demo_client):
    work = Technician(demo_client, ids(demo_client)["Clock-tower"])
    work.take(
        work.type("set.starting", "3000 W", "data_sheet"),
        work.type("set.tank", "8 L"),
        work.type("sites.s1.hottest", "29 °C", "owner"),
        work.type("sites.s1.coldest", "-9 °C", "owner"),
        work.type("load.planned", "900 W", "owner"),
        {"path": "set.shut_off", "value": True},
    )
    assert work.see()["questions"] == []
    work.put_right()
    work.sign("intake")
    work.choose("spacer_adapter")
    work.sign("method")
    work.build("spacer_adapter-cylinder")
    work.rest()


def test_the_cider_barn_runs_on_its_digester(demo_client):
    work = Technician(demo_client, ids(demo_client)["Cider"])
    work.reopen()
    work.sign("intake")
    work.choose("spacer_adapter")
    work.sign("method")
    work.build("spacer_adapter-digester")
    work.rest()


def test_a_finished_job_can_be_undone_to_its_seal_and_done_again(finished):
    """Undo leads back past every gate but the seal, and redo is held to them as any write is."""
    before = finished.see()["job"]
    client, job = finished.client, finished.job

    def step(kind):
        return client.post(f"/api/jobs/{job}/{kind}", json={"key": key(), "who": "RK"})

    taken_back = 0
    while (answer := step("undo")).status_code == 200:
        taken_back += 1
    assert taken_back >= 2
    assert answer.json["errors"][0]["path"] == "hand_over.seals.r1"
    assert "is sealed" in answer.json["detail"]
    assert finished.state("hand_over") != "done"
    assert finished.see()["job"]["hand_over"]["seals"] == before["hand_over"]["seals"]
    for _ in range(taken_back):
        assert step("redo").status_code == 200
    assert finished.see()["job"] == before


def test_a_leak_found_late_takes_the_start_and_the_load_away(finished):
    client, job = finished.client, finished.job
    (gas,) = show(client, job, "proofs")["proofs"]
    joint = next(one for one in joints_of(gas) if one["state"] == "tight")
    assert soap(client, job, joint, "foam").status_code == 200
    for path, value in (
        ("starts.propane.attempts.a9", {"result": "runs"}),
        ("metering.s1-propane.locked", {"value": 1.4, "origin": "measured", "typed": "1.4"}),
        ("load_tests.s1-propane.runs.r9", {"held": {"value": 2000.0, "origin": "measured"}}),
    ):
        refused = change(client, job, path, value)
        assert refused.status_code == 422, path
        assert "not proven tight" in json.dumps(refused.json), path
    for view in ("starts", "metering", "load_tests"):
        shown = next(one for one in show(client, job, view)[view] if one["fuel"] == "propane")
        assert "not proven tight" in shown["forbidden"][0]["text"], view
        assert any(joint["title"] in one["text"] for one in shown["forbidden"][1:]), view
        assert all(one["path"] for one in shown["forbidden"]), view
    assert soap(client, job, joint).status_code == 200
    (start,) = (one for one in show(client, job, "starts")["starts"] if one["fuel"] == "propane")
    assert start["forbidden"] == []
    taken = change(client, job, "starts.propane.attempts.a9", {"result": "runs"})
    assert taken.status_code == 200


def test_a_copy_of_a_finished_job_asks_for_everything_again(finished):
    client, job = finished.client, finished.job
    answer = client.post(f"/api/jobs/{job}/copy", json={"key": "copy-000001", "who": "OM"})
    copy = Technician(client, answer.json["id"])
    shown = copy.see("fit,proofs,starts")
    assert all(one["state"] != "done" for one in shown["route"])
    asked = [one for one in shown["ready"] if one["confirm"]]
    assert asked
    assert not any(one["done"] for one in asked)
    assert all(one["state"] not in ("done", "skipped") for one in shown["fit"]["steps"])
    assert not any(one["tight"] for one in shown["proofs"])
    assert "Odo Marlin" not in json.dumps(shown["job"])
    copy.rest()


@pytest.mark.parametrize("stage", STAGES[3:])
def test_a_stage_of_a_job_hardly_begun_is_not_signed(demo_client, stage):
    job = ids(demo_client)["Lambing"]
    refused = change(demo_client, job, f"stages.{stage}", {"state": "done", "by": "OM"})
    assert refused.status_code == 422
    (path,) = {one["path"] for one in refused.json["errors"]}
    assert path == f"stages.{stage}"
    assert show(demo_client, job)["job"]["stages"].get(stage, {}).get("state") != "done"
