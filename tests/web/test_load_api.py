"""Load tests through the service: the bench run on, the plug, sign-off, what the shop learns."""

import json

from gentle_ember.core.physics.fuels import PROPANE
from tests.helpers.service import change, ids, key, show, write


def act(client, place, what, **more):
    answer = client.post(f"{place}/act", json={"what": what, **more})
    assert answer.status_code == 200, answer.json
    return answer.json


def value_of(shown, channel):
    return next(one["value"] for one in shown["channels"] if one["key"] == channel)


def run_on_gasoline(client, job, jet):
    """λ at load and the plug after 25 minutes with a jet of so many times the bore."""
    place = f"/api/jobs/{job}/bench/gasoline"
    assert client.post(place, json={"seed": 3}).status_code == 200
    client.patch(place, json={"gasoline_open": True, "jet": jet, "choke": 0.5})
    for _ in range(5):
        if act(client, place, "pull")["running"]:
            break
    act(client, place, "run", seconds=120)
    client.patch(place, json={"choke": 0.0})
    act(client, place, "run", seconds=30)
    client.patch(place, json={"load_w": 1800})
    shown = {}
    for _ in range(5):
        shown = act(client, place, "run", seconds=300)
    assert shown["running"]
    return value_of(shown, "lambda"), act(client, place, "plug")["plug"]


def test_a_smaller_jet_up_high_runs_leaner_and_the_plug_shows_it(demo_client):
    job = ids(demo_client)["Star-party"]
    rich, black = run_on_gasoline(demo_client, job, 1.0)
    right, tan = run_on_gasoline(demo_client, job, 0.944)
    lean, white = run_on_gasoline(demo_client, job, 0.87)
    assert rich < right < lean
    assert (black, tan) == ("soot", "tan")
    assert white in ("white", "blistered")
    place = f"/api/jobs/{job}/bench/gasoline"
    assert act(demo_client, place, "plug")["plug"] == "unchanged"


def test_on_the_bench_the_one_leak_is_found_mended_and_gone(demo_client):
    job = ids(demo_client)["Choir"]
    place = f"/api/jobs/{job}/bench/natural_gas"
    demo_client.post(place, json={"seed": 5})
    zones = show(demo_client, job, "proofs")["proofs"][0]["zones"]
    joints = [one["key"] for zone in zones for one in zone["joints"]]
    assert act(demo_client, place, "film", joint=joints[0])["film"] == ""
    demo_client.patch(place, json={"gas_open": True})
    films = {key: act(demo_client, place, "film", joint=key)["film"] for key in joints}
    (leaking,) = [key for key, film in films.items() if film != "holds"]
    assert "Source closed" in act(demo_client, place, "mend", joint=leaking)["said"]
    demo_client.patch(place, json={"gas_open": True})
    assert act(demo_client, place, "film", joint=leaking)["film"] == "holds"
    assert "outlet" in act(demo_client, place, "lock_up")["said"]


def test_the_stage_is_signed_off_only_after_a_run_on_the_machine(demo_client):
    job = ids(demo_client)["Choir"]
    at = "load_tests.s1-natural_gas.runs.r1"
    gas, _ = [one for one in show(demo_client, job, "load_tests")["load_tests"] if one["gas"]]
    (run,) = gas["runs"]
    assert run["settled"]
    assert run["time"]["us"] == {**run["time"]["us"], "text": "25.0", "unit": "min"}
    assert gas["bank"]["enough"]
    assert gas["bank"]["total_w"] <= gas["expected"]["value"]
    change(demo_client, job, "stages.load_test", {"state": "under_way"})
    change(demo_client, job, f"{at}.decided", {"what": "screw_out", "reason": "", "by": "RK"})
    refused = change(demo_client, job, "stages.load_test", {"state": "done", "by": "RK"})
    assert refused.status_code == 422
    assert "run after it is open" in json.dumps(refused.json)
    change(demo_client, job, f"{at}.decided", {"what": "keep", "reason": "", "by": "RK"})
    signed = change(demo_client, job, "stages.load_test", {"state": "done", "by": "RK"})
    assert signed.status_code == 200


def test_what_is_measured_teaches_the_shop_and_stands_beside_the_next_estimate(demo_client):
    def taught():
        return {
            (one["quantity"], one["set_class"], one["fuel"]): one
            for one in demo_client.get("/api/learned").json
        }

    before = taught()
    assert before["output", "dual_fuel", "natural_gas"]["n"] == 1
    assert ("output", "open_frame", "propane") not in before
    stars = ids(demo_client)["Star-party"]
    run = "load_tests.s1-propane.runs.r1"
    assert write(
        demo_client, stars, {"path": run, "value": {}},
        {"path": f"{run}.held", "typed": "1700 W", "origin": "measured"},
        {"path": f"{run}.outside", "typed": "18 °C", "origin": "measured"},
    ).status_code == 200  # fmt: skip
    now = taught()["output", "open_frame", "propane"]
    assert now["n"] == 1
    shown = show(demo_client, stars, "output")["output"]
    propane = next(one for one in shown["fuels"] if one["fuel"] == "propane")
    assert propane["running"]["method"]["name"] == "Measured on this set"
    # A set's own measurement is no second opinion on it.
    assert "own sets" not in json.dumps(shown)
    cinema = show(demo_client, ids(demo_client)["Clock-tower"], "output")["output"]
    other = next(one for one in cinema["fuels"] if one["fuel"] == "propane")["running"]
    assert other["rivals"][0]["name"] == "the shop's own sets of this class"
    assert "1 set" in other["rivals"][0]["note"]
    demo_client.post(f"/api/jobs/{stars}/undo", json={"key": key(), "who": "RK"})
    assert taught() == before


def test_the_plug_chart_answers_or_says_why_it_is_no_evidence(client):
    chart = client.get("/api/plug-chart").json
    assert len({one["key"] for one in chart}) == len(chart) == 8
    body = {"key": "white", "fuel": "gasoline", "before": "new", "seconds": 1500}
    assert client.post("/api/plug-chart", json=body).json["leaning"] == "too_lean"
    early = client.post("/api/plug-chart", json={**body, "key": "tan", "seconds": 300}).json
    assert not early["counts"]
    assert "20 at least" in early["why_not"]
    refused = client.post("/api/plug-chart", json={**body, "key": "green"})
    assert refused.json["errors"][0]["path"] == "key"


def test_readings_under_load_go_out_as_csv_and_come_in_again_or_name_the_wrong_cell(demo_client):
    job = ids(demo_client)["Choir"]
    place = f"/api/jobs/{job}/load/s1-natural_gas/r1/readings.csv"
    saved = demo_client.get(f"{place}?system=metric").get_data()
    assert saved.startswith(b"after,output,volts_a,")
    back = demo_client.post(f"{place}?system=metric", data=saved).json["readings"]
    gas, _ = [one for one in show(demo_client, job, "load_tests")["load_tests"] if one["gas"]]
    assert len(back) == len(gas["runs"][0]["readings"]) == 5
    assert [round(one["after"]["value"]) for one in back] == [0, 360, 720, 1080, 1500]
    wrong = b"after,output,hertz\n5 min,900 W,99 Hz\n,900 W,60 Hz\n"
    refused = demo_client.post(f"{place}?system=us", data=wrong)
    said = [one["message"] for one in refused.json["errors"]]
    assert any(text.startswith("Line 2, hertz") for text in said)
    assert "Line 3, after: after is missing in this row" in said
    headless = demo_client.post(f"{place}?system=us", data=b"volts\n3\n")
    assert "a header is wanted" in headless.json["errors"][0]["message"]


def test_no_reading_under_load_is_taken_on_a_gas_that_is_not_tight(demo_client):
    job = ids(demo_client)["Lambing"]
    at = "load_tests.s1-propane.runs.r1"
    assert change(demo_client, job, at, {}).status_code == 200
    reading = {"after": {"value": 0, "origin": "measured"}}
    refused = change(demo_client, job, f"{at}.readings.m1", reading)
    assert refused.status_code == 422
    assert "not proven tight" in refused.json["errors"][0]["message"]
    practiced = {"after": {"value": 0, "origin": "simulated"}}
    assert change(demo_client, job, f"{at}.readings.m1", practiced).status_code == 200
    # Neither by changing what the bench read, nor by saying what was held.
    for path in (f"{at}.readings.m1.output", f"{at}.held"):
        real = write(demo_client, job, {"path": path, "typed": "900 W", "origin": "measured"})
        assert real.status_code == 422, path
    assert change(demo_client, job, f"{at}.opened", "yes").status_code == 200


def joint_of(client, job):
    return show(client, job, "joint")["joint"]


def row_of(client, job, name):
    return next(one for one in joint_of(client, job)["rows"] if one["figure"]["key"] == name)


def test_a_tube_read_under_load_narrows_the_throats_suction_everywhere(demo_client):
    job = ids(demo_client)["Lambing"]
    name = "joint.propane.suction"
    before, pages = row_of(demo_client, job, name), "path,joint"
    signal = show(demo_client, job, pages)["path"]["trains"][0]["signal"]
    assert signal["estimated"]
    read = 1.8 * signal["value"]
    at = "load_tests.s1-propane"
    run = {"readings": {"a": {"output": {"value": 2600.0}, "suction": {"value": read}}}}
    refused = change(demo_client, job, at, {"runs": {"r1": run}})
    # Nothing is loaded before it may be: the gate is the same for what only measures.
    assert refused.status_code == 422
    bench = {
        "output": {"value": 2600.0, "origin": "simulated"},
        "suction": {"value": read, "origin": "simulated"},
    }
    simulated = {"readings": {"a": bench}}
    assert change(demo_client, job, at, {"runs": {"r1": simulated}}).status_code == 200
    assert row_of(demo_client, job, name)["band"] == before["band"]


def test_what_was_read_of_a_finished_set_is_taken_together(finished):
    client, job = finished.client, finished.job
    found = joint_of(client, job)
    assert found["readings"] >= 1
    assert found["unlike"] == []
    narrowed = [one for one in found["rows"] if one["band"] != one["band_before"]]
    assert narrowed
    for one in found["rows"]:
        low, high = one["ends"]
        assert low <= 1 <= high
        assert bool(one["next"]) == bool(one["next_band"])
    at = "load_tests.s1-propane.runs"
    runs = show(client, job, "load_tests")["job"]["load_tests"]["s1-propane"]["runs"]
    run = next(iter(runs))
    limit = next(r["figure"]["value"] for r in found["rows"]
                 if r["figure"]["key"] == "joint.propane.limit")  # fmt: skip
    reading = {"output": {"value": limit, "origin": "measured"},
               "suction": {"value": 900.0, "origin": "measured"}}  # fmt: skip
    answer = change(client, job, f"{at}.{run}.readings.tube", reading)
    assert answer.status_code == 200, answer.json
    after = row_of(client, job, "joint.propane.suction")
    before = next(one for one in found["rows"] if one["figure"]["key"] == "joint.propane.suction")
    width = after["ends"][1] - after["ends"][0]
    assert width < 0.4 * (before["ends"][1] - before["ends"][0])
    assert abs(after["figure"]["value"] / 900.0 - 1) < 0.15
    train = show(client, job, "path")["path"]["trains"][0]
    assert not train["signal"]["estimated"]
    assert any(row["path"] == f"{at}.{run}.readings.tube.suction"
               for row in train["signal"]["inputs"])  # fmt: skip
    assert any(row["label"] == "propane: suction at the throat"
               for row in after["figure"]["inputs"])  # fmt: skip


def test_a_scale_that_reads_finer_narrows_the_fuel_used(finished):
    client, job = finished.client, finished.job
    full, limit = (
        row_of(client, job, f"joint.propane.{name}")["figure"]["value"]
        for name in ("full", "limit")
    )
    burnt = full * 1800 / PROPANE.lhv_j_kg
    weighing = {"fuel": "propane", "before": {"value": 15.0}, "after": {"value": 15.0 - burnt},
                "energy": {"value": limit * 1800}, "duration": {"value": 1800.0}}  # fmt: skip

    def width(scale):
        told = {} if scale is None else {"scale": {"value": scale}}
        assert change(client, job, "set.weigh_ins.w9", {**weighing, **told}).status_code == 200
        full = row_of(client, job, "joint.propane.full")["ends"]
        return full[1] - full[0]

    assert width(0.005) < width(0.05) == width(None) < width(0.5)
