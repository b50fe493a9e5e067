"""The leak test through the service: what blocks a start, what a remade joint undoes."""

import json

from tests.web.test_fit_api import change, tick
from tests.web.test_fuel_path_api import ids, show, write


def gas_of(client, job, fuel="propane"):
    found = show(client, job, "proofs")["proofs"]
    return next(one for one in found if one["fuel"] == fuel)


def joints_of(gas):
    return [one for zone in gas["zones"] for one in zone["joints"]]


def soap(client, job, joint, found="holds"):
    record = {"passed": found == "holds", "how": "soap", "by": "RK", "of": joint["subject"]}
    key = joint["record"].replace("_", "-")[:30] + found[:2]
    return write(
        client, job,
        {"path": f"proof.soaped.{key}", "value": {"joint": joint["key"], "found": found}},
        {"path": f"fit.tight.{joint['record']}", "value": record},
    )  # fmt: skip


def test_every_joint_stands_in_one_zone_and_no_start_before_all_are_tight(demo_client):
    job = ids(demo_client)["Lambing"]
    gas = gas_of(demo_client, job)
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
    for joint in joints_of(gas_of(demo_client, job)):
        assert soap(demo_client, job, joint).status_code == 200
    left = gas_of(demo_client, job)["left"]
    assert left == ["lock-up of the demand regulator not looked at"]
    change(demo_client, job, "proof.lock_up.propane", {"state": "still", "by": "RK"})
    assert gas_of(demo_client, job)["tight"]
    signed = change(demo_client, job, "stages.prove_tight", {"state": "done", "by": "RK"})
    assert signed.status_code == 200


def test_a_leak_stops_the_job_until_soaped_again_and_a_remade_joint_is_open(demo_client):
    job = ids(demo_client)["Star-party"]
    assert gas_of(demo_client, job)["tight"]
    joint = next(one for one in joints_of(gas_of(demo_client, job)) if one["made"])
    assert soap(demo_client, job, joint, "foam").status_code == 200
    shown = show(demo_client, job)
    stops = [one["text"] for one in shown["cautions"] if one["severity"] == "stop"]
    assert any(joint["title"] in text for text in stops)
    assert soap(demo_client, job, joint).status_code == 200
    assert gas_of(demo_client, job)["tight"]
    sheet = show(demo_client, job, "fit")["fit"]["steps"]
    made = next(one for one in sheet if one["joint"] == joint["key"])
    change(demo_client, job, f"fit.steps.{made['key']}", {"state": "open", "by": "RK"})
    again = next(one for one in joints_of(gas_of(demo_client, job)) if one["key"] == joint["key"])
    assert again["state"] == "void"
    assert not gas_of(demo_client, job)["tight"]


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
