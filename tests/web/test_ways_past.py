"""Ways past a stop, tried over the service on sound jobs of several methods: none is open."""

from __future__ import annotations

import io
import json
import zipfile
from datetime import date, timedelta
from typing import Any

import pytest

from gentle_ember.core.job.job import Job
from tests.helpers.service import change, key, show, write
from tests.helpers.sets import fact
from tests.helpers.sound import sound

RUNS = {"result": "runs", "on": "2026-11-25T10:00:00Z"}


def sent(client: Any, job: Job) -> Any:
    """The answer to a job file sent in, as it stands."""
    made = client.post("/api/jobs", json={"title": "frame", "who": "RK", "key": key()}).json["id"]
    with zipfile.ZipFile(io.BytesIO(client.get(f"/api/jobs/{made}/export").data)) as archive:
        content = json.loads(archive.read("job.json"))
    content["job"] = job.model_dump(mode="json")
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("job.json", json.dumps(content))
    return client.post("/api/import?who=RK", data=out.getvalue())


def brought_in(client: Any, job: Job) -> str:
    """A job file taken in."""
    taken = sent(client, job)
    assert taken.status_code == 201, taken.json
    return str(taken.json["id"])


@pytest.fixture
def at(client):
    def take(name: str) -> str:
        return brought_in(client, sound(name))

    return take


def start(client: Any, job: str, fuel: str) -> Any:
    return change(client, job, f"starts.{fuel}.attempts.{key()[-6:]}", RUNS)


def said(answer: Any) -> str:
    return json.dumps(answer.json, ensure_ascii=False)


PROPANE: list[tuple[str, list[tuple[str, Any]], str]] = [
    ("no running rating", [("set.running", None)], "running rating"),
    ("no method", [("choice.methods", [])], "no method"),
    ("gasoline in the crankcase", [("findings.oil_smell", {"look": "bad"})], "crankcase"),
    ("smell not cleared", [("fit.smelled.g1", {"by": "RK"})], "smelled"),
    ("find that stops", [("fit.finds.f1", {"what": "crack", "decision": "stop"})], "crack"),
    ("cylinder near", [("sites.s1.cylinders.c1.distance", fact(0.3))], "nearer to the set"),
    ("cylinder on the sketch", [("sites.s1.sketch", {"exhaust": 0.0, "items": {
        "a": {"kind": "set", "x": 5, "y": 5}, "b": {"kind": "cylinder", "x": 5.3, "y": 5}}})],
     "too near"),
    ("other cylinder at the site", [("sites.s1.cylinders.c1.size", "100")], "this site has"),
    ("distance not told", [("sites.s1.cylinders.c1.distance", None)], "assumed"),
    ("lying cylinder", [("trains.propane.slots.source.upright", False)], "upright"),
    ("nobody looked whether upright", [("trains.propane.slots.source.upright", None)], "upright"),
    ("unknown part", [("trains.propane.slots.regulator.part", ""),
                      ("trains.propane.slots.regulator.unknown", "gray box")], "Not known"),
    ("wrong tape", [("trains.propane.slots.adapter.seal", "plumbers_tape")], "Sealed by"),
    ("old gaskets", [("fit.gaskets", "reused")], "second time"),
    ("short nut", [("fit.nuts", "short")], "not full on its stud"),
    ("no gasoline shut-off", [("set.shut_off", False)], "both reach the intake"),
    ("switch cuts fuel only", [("set.run_switch", "fuel")], "cuts gasoline only"),
    ("second site with another cylinder", [("sites.s2", {
        "name": "Far yard", "cylinders": {"c1": {"size": "100", "distance": fact(2.0)}}})],
     "Far yard"),
    ("overfilled", [("sites.s1.cylinders.c1.fill", fact(10.5))], "overfilled"),
]  # fmt: skip


@pytest.mark.parametrize(("name", "changes", "says"), PROPANE, ids=[one[0] for one in PROPANE])
def test_no_start_no_reading_no_load_and_no_signature_on_propane(
    client, at, name: str, changes: list[tuple[str, Any]], says: str
):
    job = at("spacer")
    assert start(client, job, "propane").status_code == 200
    for path, value in changes:
        assert change(client, job, path, value).status_code == 200, path
    tries = {
        "starts.propane.attempts.zz": RUNS,
        "metering.s1-propane.locked": {**fact(1.4), "typed": "1.4"},
        "load_tests.s1-propane.runs.r1": {"held": {**fact(2000.0), "typed": "2000 W"}},
        "stages.first_start": {"state": "done", "by": "RK"},
        "stages.hand_over": {"state": "done", "by": "RK"},
    }
    for path, value in tries.items():
        if path.startswith(("metering", "load_tests")) and name.startswith("second site"):
            continue
        refused = change(client, job, path, value)
        assert refused.status_code == 422, path
        assert says in said(refused) or path.startswith("stages."), (path, said(refused))


def test_a_part_without_its_makers_limits_is_not_run(client, at):
    """Brought in with a job that was proven with it, it passes no more than when it is chosen."""
    job = sound("spacer")
    part = job.trains["propane"].slots["demand"].part
    document = job.model_dump(mode="json")
    document["parts"][part] |= {"most_pa": None, "rating_pa": None, "rated_w": None}
    refused = sent(client, Job.model_validate(document))
    assert refused.status_code == 422
    assert "not stated" in said(refused)
    assert all(one["path"].startswith(("proof.", "starts.")) for one in refused.json["errors"])


@pytest.mark.parametrize(("path", "value", "says"), [
    ("sites.s1.gases.g1.pressure", None, "at the source, assumed"),
    ("sites.s1.gases.g1.stub", "unknown", "pipe thread, assumed"),
    ("confirmed.fitter", {}, "licensed fitter"),
    ("confirmed.fitter", {"done": True, "by": "PM"}, "licensed fitter"),
    ("confirmed.utility", {}, "utility confirms"),
])  # fmt: skip
def test_house_gas_waits_for_what_the_house_and_its_fitter_say(client, at, path, value, says):
    job = at("twin")
    assert start(client, job, "natural_gas").status_code == 200
    assert change(client, job, path, value).status_code == 200
    for place, wanted in (
        ("starts.natural_gas.attempts.zz", RUNS),
        ("proof.soaped.zz", {"joint": joint(client, job), "found": "holds"}),
    ):
        refused = change(client, job, place, wanted)
        assert refused.status_code == 422, place
        assert says in said(refused), (place, said(refused))


def joint(client: Any, job: str) -> str:
    gas = show(client, job, "proofs")["proofs"][0]
    return str(next(one["key"] for zone in gas["zones"] for one in zone["joints"]
                    if not one["fitter"]))  # fmt: skip


def test_a_remote_tank_is_asked_for_its_height_its_line_and_its_tightness(client, at):
    job = at("gravity")
    assert start(client, job, "gasoline").status_code == 200
    for path, value, says in (
        ("sites.s1.remote_tank.rise", fact(1.5), "No start"),
        ("sites.s1.remote_tank.high_loop", None, "rises above"),
        ("sites.s1.remote_tank.high_loop", fact(0.4), "rises above"),
    ):
        before = show(client, job)["job"]["sites"]["s1"]["remote_tank"]
        assert change(client, job, path, value).status_code == 200
        refused = start(client, job, "gasoline")
        assert refused.status_code == 422, path
        assert says in said(refused)
        assert change(client, job, "sites.s1.remote_tank", before).status_code == 200
        assert start(client, job, "gasoline").status_code == 200
    weeps = {"joint": joint(client, job), "found": "bubbles"}
    assert change(client, job, "proof.soaped.zz", weeps).status_code == 200
    assert start(client, job, "gasoline").status_code == 422
    load = {"held": {**fact(1000.0), "typed": "1000 W"}}
    assert change(client, job, "load_tests.s1-gasoline.runs.r1", load).status_code == 422


def test_an_empty_job_is_not_handed_over_nor_anything_left_out_that_safety_rests_on(client):
    made = client.post("/api/jobs", json={"title": "x", "who": "RK", "key": key()}).json["id"]
    for stage in ("hand_over", "logbook", "load_test"):
        refused = change(client, made, f"stages.{stage}", {"state": "done", "by": "RK"})
        assert refused.status_code == 422
        assert "Prove tight comes first" in said(refused)
    for stage in ("fuel_path", "prove_tight", "first_start"):
        left = {"state": "left_out", "by": "RK", "note": "no time"}
        assert change(client, made, f"stages.{stage}", left).status_code == 422


def test_a_distance_is_never_set_to_nothing_by_any_note(client, at):
    job = at("spacer")
    assert change(client, job, "sites.s1.note", "Gate code 14.").status_code == 200
    for value in (0.0, 0.5, 1.0):
        refused = change(client, job, "sites.s1.least_cylinder", fact(value))
        assert refused.status_code == 422, value
    both = [
        {"path": "sites.s1.least_cylinder_why", "value": "Wall between."},
        {"path": "sites.s1.least_cylinder_by", "value": "RK"},
    ]
    assert write(client, job, *both).status_code == 200
    assert change(client, job, "sites.s1.least_cylinder", fact(0.5)).status_code == 422
    assert change(client, job, "sites.s1.least_cylinder", fact(1.0)).status_code == 200


def test_what_a_step_rests_on_is_not_skipped_with_any_word(client, at):
    job = at("spacer")
    steps = {one["key"]: one for one in show(client, job, "fit")["fit"]["steps"]}
    must = [one for one in steps.values() if one["must"]]
    assert len(must) > 8
    for one in must:
        skip = {"state": "skipped", "reason": "thread-locker", "by": "RK"}
        refused = change(client, job, f"fit.steps.{one['key']}", skip)
        assert refused.status_code == 422, one["key"]


def test_somebody_elses_train_holds_until_this_job_has_its_own(client, at):
    job = at("spacer")
    found = show(client, job)["job"]["trains"]["propane"]
    grill = {**found, "found": True, "inlet": "hose_on"}
    assert change(client, job, "trains.as_found", grill).status_code == 200
    refused = start(client, job, "propane")
    assert refused.status_code == 422
    assert "found on the set is off" in said(refused)
    off = {"done": True, "by": "RK"}
    assert change(client, job, "confirmed.found_off", off).status_code == 200
    assert start(client, job, "propane").status_code == 200


def test_no_false_alarm_on_a_train_without_a_coupler_and_none_once_a_shut_off_is_fitted(client, at):
    job = at("multi")
    slots = show(client, job)["job"]["trains"]["propane"]["slots"]
    hard = {k: one for k, one in slots.items() if one["role"] not in ("supply_half", "set_half")}
    assert change(client, job, "trains.propane.slots", hard).status_code == 200
    texts = [one["text"] for one in show(client, job)["cautions"] if one["severity"] == "stop"]
    assert not any("escapes" in text or "open gas inlet" in text for text in texts), texts
    other = at("spacer")
    assert change(client, other, "set.shut_off", False).status_code == 200
    assert start(client, other, "propane").status_code == 422
    step = next(one for one in show(client, other, "fit")["fit"]["steps"]
                if one["key"] == "shut_off_fit")  # fmt: skip
    done = {"state": "done", "by": "RK", "of": step["subject"]}
    assert change(client, other, "fit.steps.shut_off_fit", done).status_code == 200
    gate = {"state": "good", "by": "RK"}
    assert change(client, other, "starts.propane.looked.shut_off", gate).status_code == 200
    assert start(client, other, "propane").status_code == 200


def test_a_cylinder_past_its_stamp_is_refused_today_by_every_way_in(client, at):
    job = at("spacer")
    cylinder = (
        f"sites.s1.cylinders.{next(iter(show(client, job)['job']['sites']['s1']['cylinders']))}"
    )
    unread = change(client, job, f"{cylinder}.stamped", "last spring")
    assert unread.status_code == 422
    assert unread.json["errors"] == [
        {
            "path": f"{cylinder}.stamped",
            "message": "Write it as month and year, like 04 19 or 2019-04.",
        }
    ]
    assert change(client, job, f"{cylinder}.stamp", "s").status_code == 200
    taken = change(client, job, f"{cylinder}.stamped", "04 15")
    assert taken.json["job"]["sites"]["s1"]["cylinders"]["c1"]["stamped"] == "2015-04"
    assert "was good until 2022-04" in said(start(client, job, "propane"))
    told = show(client, job, "starts")
    assert "was good until 2022-04" in json.dumps(told["starts"], ensure_ascii=False)
    past = sound("spacer").model_dump(mode="json")
    past["sites"]["s1"]["cylinders"]["c1"] |= {"stamped": "2015-04", "stamp": "s"}
    past["starts"]["propane"]["attempts"] = {"a1": RUNS}
    assert "was good until 2022-04" in said(sent(client, Job.model_validate(past)))
    assert change(client, job, f"{cylinder}.stamped", "04 99").status_code == 200
    assert start(client, job, "propane").status_code == 422
    soon = date.today().replace(day=1) - timedelta(days=20)
    assert change(client, job, f"{cylinder}.stamped", f"{soon:%Y-%m}").status_code == 200
    assert start(client, job, "propane").status_code == 200


def test_e85_is_refused_on_gasoline_and_a_hose_of_old_rubber_on_its_gas(client, at):
    job = at("spacer")
    assert change(client, job, "set.gasoline", "e85").status_code == 200
    assert "E85 is in it" in said(start(client, job, "gasoline"))
    assert start(client, job, "propane").status_code == 200
    shown = show(client, job)
    slots = next(one for one in shown["path"]["trains"] if one["name"] == "propane")["places"]
    hose = next(one["key"] for one in slots if one["ages"])
    old = change(client, job, f"trains.propane.slots.{hose}.made", "6/2009")
    assert old.status_code == 200
    assert "was good until 2019-06, 10 years from 2009-06: replace it" in said(
        start(client, job, "propane")
    )


def test_a_cylinder_that_holds_more_than_it_can_is_read_stopped_and_gets_no_run_time(client, at):
    """Past what physics knows of: the job stays readable, and the fault stands at its field."""
    job = at("spacer")
    filled = change(client, job, "sites.s1.cylinders.c1.fill", fact(60.0))
    assert filled.status_code == 200
    shown = client.get(f"/api/jobs/{job}?views=output,runs").json
    runs = [one for one in shown["ledger"]["runs"] if one["key"].startswith("c1.")]
    assert runs
    assert all(one["figure"] is None and "overfilled" in one["why_not"] for one in runs)
    refused = client.get(f"/api/jobs/{job}/cylinder?cylinder=c1")
    assert refused.status_code == 422
    assert refused.json["errors"][0]["path"].startswith("sites.s1.cylinders.c1.")
    assert "overfilled" in said(start(client, job, "propane"))
