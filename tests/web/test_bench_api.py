"""The simulated bench through the service, and metering as a job answers it."""

import io
import json
import wave

import pytest

from gentle_ember.units import reading
from tests.helpers.service import change, ids, key, prove, show, write


def read(kind, text):
    return reading.read(text, kind, "us")


def gas_of(client, job):
    return show(client, job, "metering")["metering"][0]


def started(client, job, fuel, turns):
    place = f"/api/jobs/{job}/bench/{fuel}"
    assert client.post(place, json={"seed": 7}).status_code == 200
    client.patch(place, json={"gas_open": True, "turns": turns})
    for seconds in (2, 2, 3, 4):
        client.post(f"{place}/act", json={"what": "prime", "seconds": seconds})
        if client.post(f"{place}/act", json={"what": "pull"}).json["running"]:
            return place
    raise AssertionError("it did not start")


def test_a_sweep_on_the_bench_is_judged_but_never_proves_the_machine(demo_client):
    finished = gas_of(demo_client, ids(demo_client)["Choir"])
    assert (finished["locked"], finished["next"]) == ("3.60", None)
    assert finished["setting"]
    job = ids(demo_client)["Lambing"]
    gas = gas_of(demo_client, job)
    assert {one["key"] for one in gas["starts"]} >= {"start.power"}
    assert gas["start"]["estimated"]
    place = started(demo_client, job, "propane", gas["next"]["turns"])
    count = 0
    while gas["next"]:
        demo_client.patch(place, json={"turns": gas["next"]["turns"]})
        taken = demo_client.post(f"{place}/take", json={"load_w": 1600})
        if taken.status_code == 422:
            place = started(demo_client, job, "propane", gas["start"]["value"])
            continue
        got = taken.json
        count += 1

        def fact(value):
            return {"value": value, "origin": "simulated", "typed": ""}

        assert change(
            demo_client, job, f"metering.{gas['key']}.readings.r{count}",
            {"turns": fact(got["turns"]), "output": fact(got["value"]),
             "sigma": got["sigma"], "ran": got["ran"]},
        ).status_code == 200  # fmt: skip
        gas = gas_of(demo_client, job)
        assert count <= 12
    assert gas["cannot"] is None
    assert gas["simulated"]
    assert gas["curve"]["turns"]
    assert gas["lean"]["value"] < gas["setting"]["value"] < gas["rich"]["value"]
    assert gas["setting"]["inputs"]
    assert [one["name"] for one in gas["setting"]["rivals"]] == ["Lean drop"]
    assert read("turns", gas["setting_mark"]) == pytest.approx(gas["setting"]["value"], abs=0.07)
    leanest, as_set = gas["costs"]
    assert (as_set["turns"], leanest["key"]) == (gas["setting_mark"], "leanest")
    labels = [one["label"] for one in as_set["figures"]]
    assert labels == [one["label"] for one in leanest["figures"]]
    assert labels[:2] == ["λ at full load", "λ at half load"]
    fuel = [next(f["value"] for f in one["figures"] if f["key"].endswith(".fuel"))
            for one in gas["costs"]]  # fmt: skip
    assert fuel[0] < fuel[1]
    locked = {"value": gas["setting"]["value"], "origin": "simulated", "typed": ""}
    assert change(demo_client, job, f"metering.{gas['key']}.locked", locked).status_code == 200
    ready = json.dumps(show(demo_client, job)["ready"])
    assert "set on the simulated bench only" in ready
    refused = change(demo_client, job, "stages.first_start", {"state": "done", "by": "RK"})
    assert refused.status_code == 422
    assert "simulated bench only" in json.dumps(refused.json)


def test_turns_are_asked_for_as_a_hand_sets_them_and_steps_too_wide_are_said(demo_client):
    job = ids(demo_client)["Lambing"]
    prove(demo_client, job)
    gas = gas_of(demo_client, job)
    at = f"metering.{gas['key']}"
    assert gas["next"]["turns"] * 8 == round(gas["next"]["turns"] * 8)
    for number in range(3):
        place = f"{at}.readings.r{number}"
        asked = gas_of(demo_client, job)["next"]["shown"]
        assert write(
            demo_client, job, {"path": place, "value": {"by": "RK"}},
            {"path": f"{place}.turns", "typed": asked, "origin": "measured"},
            {"path": f"{place}.output", "typed": f"{2300 + 50 * number} W", "origin": "measured"},
        ).status_code == 200  # fmt: skip
        shown = gas_of(demo_client, job)["readings"][number]["turns"]
        assert shown == pytest.approx(read("turns", asked))
    assert gas_of(demo_client, job)["cannot"] is None
    step = {"path": f"{at}.step", "typed": "500 W", "origin": "measured"}
    assert write(demo_client, job, step).status_code == 200
    told = gas_of(demo_client, job)
    assert told["cannot"]["why"] == "steps"
    assert any("smaller loads" in one for one in told["cannot"]["checks"])
    write(demo_client, job, {**step, "typed": "100 W"})
    assert gas_of(demo_client, job)["cannot"] is None
    refused = write(demo_client, job, {**step, "typed": "0 W"})
    assert refused.status_code == 422
    assert refused.json["errors"][0]["path"] == f"{at}.step"


def test_readings_typed_from_the_machine_prove_it(demo_client):
    job = ids(demo_client)["Lambing"]
    prove(demo_client, job)
    at = f"metering.{gas_of(demo_client, job)['key']}"
    curve = [("0.75", "1700 W"), ("1.0", "2300 W"), ("1.2", "2610 W"), ("1.4", "2650 W"),
             ("1.7", "2645 W"), ("2.0", "2560 W"), ("2.4", "2300 W")]  # fmt: skip
    for number, (turns, watts) in enumerate(curve):
        place = f"{at}.readings.r{number}"
        assert write(
            demo_client, job, {"path": place, "value": {"by": "RK"}},
            {"path": f"{place}.turns", "typed": turns, "origin": "measured"},
            {"path": f"{place}.output", "typed": watts, "origin": "measured"},
        ).status_code == 200  # fmt: skip
    gas = gas_of(demo_client, job)
    assert not gas["simulated"]
    assert gas["lean"]["value"] < 1.3 < gas["rich"]["value"]
    assert gas["readings"][0]["shown"]["us"] == "1,700 W"
    write(demo_client, job, {"path": f"{at}.locked", "typed": "1.5", "origin": "measured"})
    gas = gas_of(demo_client, job)
    assert gas["proven"]
    assert gas["locked"] == "1.50"
    left = json.dumps(show(demo_client, job)["ready"])
    assert "looks after the setting open" in left
    for look in gas["looks"]:
        good = {"state": "good", "by": "RK", "at": gas["locked_turns"]}
        write(demo_client, job, {"path": f"{at}.checks.{look['key']}", "value": good})
    assert "looks after" not in json.dumps(show(demo_client, job)["ready"])
    # What ran well at one setting says nothing of the next.
    write(demo_client, job, {"path": f"{at}.locked", "typed": "1.6", "origin": "measured"})
    gas = gas_of(demo_client, job)
    assert {(one["state"], one["before"]) for one in gas["looks"]} == {("", "1.50")}
    assert "looks after the setting open" in json.dumps(show(demo_client, job)["ready"])


def test_a_bench_not_set_up_or_not_running_says_so(demo_client):
    job = ids(demo_client)["Lambing"]
    place = f"/api/jobs/{job}/bench/propane"
    assert demo_client.get(place).status_code == 204
    assert demo_client.patch(place, json={}).status_code == 404
    assert demo_client.post(place, json={}).status_code == 200
    refused = demo_client.post(f"{place}/take", json={"load_w": 100})
    assert refused.status_code == 422
    assert "start it first" in refused.json["errors"][0]["message"]
    assert demo_client.patch(place, json={"choke": 3}).status_code == 422
    dry = demo_client.post(f"{place}/act", json={"what": "prime"}).json
    assert "No hiss" in dry["said"]
    assert {one["key"] for one in dry["channels"]} >= {"output", "speed", "throttle", "mass"}
    assert demo_client.delete(place).status_code == 204
    assert demo_client.get(place).status_code == 204


def test_with_the_choke_shut_a_demand_system_does_not_start(demo_client):
    job = ids(demo_client)["Lambing"]
    place = f"/api/jobs/{job}/bench/propane"
    demo_client.post(place, json={"seed": 3})
    demo_client.patch(place, json={"gas_open": True, "turns": 1.3, "choke": 1.0})
    for _ in range(3):
        assert not demo_client.post(f"{place}/act", json={"what": "pull"}).json["running"]


def test_what_the_bench_shows_comes_along_with_the_jobs_own_stream(demo_client):
    job = ids(demo_client)["Lambing"]
    place = started(demo_client, job, "propane", 1.3)
    assert place.endswith("propane")
    stream = demo_client.get(f"/api/jobs/{job}/events?bench=propane", buffered=False)
    events = iter(stream.response)
    shown = []
    for chunk in events:
        text = chunk.decode() if isinstance(chunk, bytes) else chunk
        if text.startswith("event: bench"):
            shown.append(json.loads(text.split("data: ", 1)[1]))
        if len(shown) == 3:
            break
    stream.close()
    assert shown[0]["at_s"] < shown[-1]["at_s"]
    assert {one["key"] for one in shown[0]["channels"]} >= {"speed", "throttle", "lambda"}
    refused = demo_client.get(f"/api/jobs/{job}/events?bench=coal")
    assert refused.status_code == 422


def test_readings_go_out_as_csv_and_come_in_again_or_say_which_cell_is_wrong(demo_client):
    job = ids(demo_client)["Choir"]
    place = f"/api/jobs/{job}/metering/s1-natural_gas/readings.csv"
    written = demo_client.get(place).data
    assert written.startswith(b"turns,output,speed,throttle,lambda,ran,origin,by,on")
    back = demo_client.post(place, data=written).json["readings"]
    kept = show(demo_client, job)["job"]["metering"]["s1-natural_gas"]["readings"].values()
    assert [(one["turns"]["value"], one["ran"]) for one in back] == [
        (one["turns"]["value"], one["ran"]) for one in kept
    ]
    assert [one["output"]["value"] for one in back] == [
        pytest.approx(one["output"]["value"], rel=1e-4) for one in kept
    ]
    metric = demo_client.get(f"{place}?system=metric").data
    assert demo_client.post(f"{place}?system=metric", data=metric).status_code == 200
    bare = b"Turns,Throttle,origin\r\n1.5,62,simulated\r\n"
    (one,) = demo_client.post(place, data=bare).json["readings"]
    assert one["throttle"] == {"value": 0.62, "origin": "simulated", "typed": "62"}
    for body, says in (
        (b"a,b\n1,2\n", "a header is wanted"),
        (b"turns,output\nten,2000 W\n", "Line 2, turns"),
        (b"turns,output,ran\n1,2000 W,purring\n", "Line 2, ran"),
        (b"turns,output\n1,9 MW\n", "the most is"),
        (b"turns,output\n,2000 W\n", "missing"),
        (b"turns,output\n", "no readings"),
        (b"\xff\xfe\x00", "UTF-8"),
    ):
        refused = demo_client.post(place, data=body)
        assert refused.status_code == 422, body
        assert says in json.dumps(refused.json, ensure_ascii=False), body
    assert len(show(demo_client, job)["job"]["metering"]["s1-natural_gas"]["readings"]) == len(kept)


def test_nothing_is_read_or_locked_on_a_gas_that_is_not_tight(demo_client):
    job = ids(demo_client)["Lambing"]
    at = "metering.s1-propane"
    turns = {"path": f"{at}.readings.r1.turns", "typed": "1.2", "origin": "measured"}
    for wrong in (turns, {"path": f"{at}.locked", "typed": "1.5", "origin": "measured"}):
        place = {"path": f"{at}.readings.r1", "value": {"by": "RK"}}
        refused = write(demo_client, job, *((place, wrong) if wrong is turns else (wrong,)))
        assert refused.status_code == 422
        faults = refused.json["errors"]
        assert all(fault["path"].startswith(at) for fault in faults)
        assert "not proven tight" in faults[0]["message"]
    assert show(demo_client, job)["job"]["metering"] == {}
    simulated = {"value": 1.2, "origin": "simulated", "typed": "1.2"}
    taken = change(demo_client, job, f"{at}.readings.r1", {"turns": simulated, "ran": "died"})
    assert taken.status_code == 200
    prove(demo_client, job)
    assert write(demo_client, job, turns).status_code == 200


def test_a_record_begins_with_the_first_write_into_it_and_undo_takes_it_away(demo_client):
    job = ids(demo_client)["Lambing"]
    prove(demo_client, job)
    fact = {"value": 1.2, "origin": "measured", "typed": "1.2"}
    reading = {"turns": fact, "ran": "died"}
    path = "metering.s1-propane.readings.r1"
    assert change(demo_client, job, path, reading).status_code == 200
    assert gas_of(demo_client, job)["readings"][0]["ran"] == "died"
    demo_client.post(f"/api/jobs/{job}/undo", json={"key": key(), "who": "RK"})
    assert "s1-propane" not in show(demo_client, job)["job"]["metering"]
    demo_client.post(f"/api/jobs/{job}/redo", json={"key": key(), "who": "RK"})
    assert len(gas_of(demo_client, job)["readings"]) == 1
    nowhere = change(demo_client, job, "sites.s9.elevation", fact)
    assert nowhere.status_code == 422
    assert "not a place" in json.dumps(nowhere.json)
    odd = change(demo_client, job, "metering.s1-biogas.spring.r1", 1)
    assert odd.status_code == 422


def test_a_lock_without_a_reading_of_the_machine_proves_nothing(demo_client):
    job = ids(demo_client)["Lambing"]
    prove(demo_client, job)
    locked = {"path": "metering.s1-propane.locked", "typed": "1.5", "origin": "measured"}
    assert write(demo_client, job, locked).status_code == 200
    assert not gas_of(demo_client, job)["proven"]
    assert "set without a reading" in json.dumps(show(demo_client, job)["ready"])


def test_the_bench_is_heard_and_its_speed_told_by_its_sound(demo_client):
    job = ids(demo_client)["Lambing"]
    place = started(demo_client, job, "propane", 1.3)
    shown = demo_client.post(f"{place}/act", json={"what": "run", "seconds": 20}).json
    heard = demo_client.get(f"{place}/sound.wav")
    assert heard.mimetype == "audio/wav"
    with wave.open(io.BytesIO(heard.get_data())) as file:
        samples, rate = file.readframes(file.getnframes()), file.getframerate()
    told = demo_client.post(f"/api/quick/sound?rate={rate}&cylinders=1", data=samples).json[0]
    speed = next(one["value"] for one in shown["channels"] if one["key"] == "speed")
    assert told["value"] == pytest.approx(speed, rel=0.02)
