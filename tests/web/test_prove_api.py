"""The leak test through the service: what blocks a start, what a remade joint undoes."""

import json

from tests.helpers.service import change, ids, joints_of, proof_of, show, soap, tell, tick
from tests.helpers.technician import Technician


def test_every_joint_stands_in_one_zone_and_no_start_before_all_are_tight(demo_client):
    job = ids(demo_client)["Lambing"]
    gas = proof_of(demo_client, job)
    keys = [one["key"] for one in joints_of(gas)]
    sheet = show(demo_client, job, "fit")["fit"]["joints"]
    assert len(keys) == len(set(keys)) == len(sheet)
    assert [zone["key"] for zone in gas["zones"]] == [
        "propane-cylinder", "propane-low", "propane-suction",
    ]  # fmt: skip
    for stage in ("prove_tight", "first_start"):
        refused = change(demo_client, job, f"stages.{stage}", {"state": "done", "by": "RK"})
        assert refused.status_code == 422
        assert "tight" in json.dumps(refused.json)
    for step in show(demo_client, job, "fit")["fit"]["steps"]:
        assert tick(demo_client, job, step).status_code == 200
    first = joints_of(proof_of(demo_client, job))[0]
    refused = soap(demo_client, job, first)
    assert refused.status_code == 422
    assert "is upright" in json.dumps(refused.json)
    assert "distance" not in proof_of(demo_client, job)["before"]
    assert soap(demo_client, job, first, "foam").status_code == 200
    tell(demo_client, job)
    for joint in joints_of(proof_of(demo_client, job)):
        assert soap(demo_client, job, joint).status_code == 200
    left = proof_of(demo_client, job)["left"]
    assert left == ["lock-up of the demand regulator not checked"]
    change(demo_client, job, "proof.lock_up.propane", {"state": "still", "by": "RK"})
    assert proof_of(demo_client, job)["tight"]
    signature = {"state": "done", "by": "RK"}
    early = change(demo_client, job, "stages.prove_tight", signature)
    assert early.status_code == 422
    assert "Fuel path comes first" in json.dumps(early.json)
    worker = Technician(demo_client, job)
    worker.confirm_all()
    for stage in ("fuel_path", "fit", "prove_tight"):
        worker.sign(stage)


def test_a_leak_stops_the_job_until_soaped_again_and_a_remade_joint_is_open(demo_client):
    job = ids(demo_client)["Star-party"]
    assert proof_of(demo_client, job)["tight"]
    joint = next(one for one in joints_of(proof_of(demo_client, job)) if one["made"])
    assert soap(demo_client, job, joint, "foam").status_code == 200
    shown = show(demo_client, job)
    stops = [one["text"] for one in shown["cautions"] if one["severity"] == "stop"]
    assert any(joint["title"] in text for text in stops)
    assert soap(demo_client, job, joint).status_code == 200
    assert proof_of(demo_client, job)["tight"]
    sheet = show(demo_client, job, "fit")["fit"]["steps"]
    made = next(one for one in sheet if one["joint"] == joint["key"])
    change(demo_client, job, f"fit.steps.{made['key']}", {"state": "open", "by": "RK"})
    again = next(one for one in joints_of(proof_of(demo_client, job)) if one["key"] == joint["key"])
    assert again["state"] == "void"
    assert not proof_of(demo_client, job)["tight"]


def test_an_attempt_on_a_gas_not_proven_or_with_its_gate_open_is_refused(demo_client):
    for title, says in (("Lambing", "not proven tight"), ("Star-party", "start gate open")):
        job = ids(demo_client)[title]
        refused = change(demo_client, job, "starts.propane", {"attempts": {"a1": {}}})
        assert refused.status_code == 422
        assert says in refused.json["errors"][0]["message"]
    looks = show(demo_client, job, "starts")["starts"][0]["looks"]
    looked = {one["key"]: {"state": "good"} for one in looks if one["when"] == "before"}
    log = {"looked": looked, "attempts": {"a1": {"result": "runs"}}}
    assert change(demo_client, job, "starts.propane", log).status_code == 200
    start = show(demo_client, job, "starts")["starts"][0]
    assert start["ran"]
    assert start["gate_left"] == 0
    left = json.dumps(show(demo_client, job)["ready"])
    assert "things not proven" in left
