"""The small quick answers and the gas pipe over HTTP."""

import json
from pathlib import Path

import numpy as np
import pytest

from gentle_ember.core.base.quantities import KINDS
from gentle_ember.core.quick.answers import ANSWERS


def said(found):
    return {one["key"]: (one["text"], one["bad"]) for one in found["said"]}


def test_quick_gas_pipe_sizes_and_refuses_at_its_own_fields(client):
    body = {"solve": "bore", "heat_w": 38e3, "drop_pa": 124.5, "length_m": 22.0}
    found = client.post("/api/quick/gas-pipe", json=body).json
    assert said(found)["nominal"] == ("1 in", False)
    assert [figure["key"] for figure in found["figures"]] == ["pipe.bore", "pipe.drop"]
    flow = client.post("/api/quick/gas-pipe", json={**body, "solve": "flow"}).json
    assert said(flow)["enough"] == ("not enough: the next size, or a shorter way", True)
    assert flow["figures"][0]["rivals"][0]["name"].startswith("Spitzglass")
    for name, value in (
        ("drop_pa", 5e4), ("length_m", -3), ("nominal", "9"), ("solve", "width"),
        ("elevation_m", 9000.0), ("heat_w", 1.0), ("heat_w", "much"), ("heat_w", None),
    ):  # fmt: skip
        refused = client.post("/api/quick/gas-pipe", json={**body, "solve": "flow"} | {name: value})
        assert refused.status_code == 422, name
        assert refused.json["errors"][0]["path"] == name


def answer(client, name, **values):
    found = client.post(f"/api/quick/{name}", json=values)
    return {one["key"]: one for one in found.json["figures"]} if found.status_code == 200 else found


def strictly(text):
    """As a browser reads it: JSON has no Infinity and no NaN."""

    def none_such(name):
        raise AssertionError(name)

    return json.loads(text, parse_constant=none_such)


def test_every_form_answers_from_its_own_defaults_and_says_what_it_was_told(client):
    forms = strictly(client.get("/api/quick/forms").text)
    assert {one["key"] for one in forms} == set(ANSWERS)
    for form in forms:
        values = {field["name"]: field["default"] for field in form["fields"]}
        found = client.post(f"/api/quick/{form['key']}", json=values)
        assert found.status_code == 200, found.json
        answer = strictly(found.text)
        cells = [cell["figure"] for table in answer["tables"] for line in table["lines"]
                 for cell in line["cells"] if cell["figure"]]  # fmt: skip
        figures = [*answer["figures"], *cells, *(answer["cylinder"] or {"figures": {}})[
            "figures"].values()]  # fmt: skip
        assert figures
        assert all(figure["method"]["formula"] and figure["inputs"] for figure in figures)
        typed = {field["name"]: field for field in form["fields"] if field["sample"]}
        for name, field in typed.items():
            read = {"text": field["sample"], "kind": field["kind"], "system": "us"}
            value = client.post("/api/quantities/read", json=read).json["value"]
            assert value == pytest.approx(field["default"], rel=1e-3), name


def test_each_answer_is_an_operation_of_its_own_with_its_units_limits_and_defaults():
    document = json.loads(Path("docs/api/openapi.json").read_text("utf-8"))
    for key, form in ANSWERS.items():
        operation = document["paths"][f"/api/quick/{key}"]["post"]
        named = operation["requestBody"]["content"]["application/json"]["schema"]["$ref"]
        schema = document["components"]["schemas"][named.rpartition("/")[2]]
        assert set(schema["properties"]) == {field.name for field in form.fields}
        assert schema["additionalProperties"] is False
        assert set(schema.get("required", ())) == {one.name for one in form.fields if one.asked}
        for field in form.fields:
            told = schema["properties"][field.name]
            assert told["description"].startswith(field.label)
            if field.quantity:
                assert (told["minimum"], told["maximum"]) == (field.low, field.high)
                assert f"[{KINDS[field.kind].si}]" in told["description"]
            else:
                assert told["default"] == field.default
                assert set(told.get("enum", ())) == {value for value, _ in field.options}
    assert "/api/quick/{name}" not in document["paths"]


def test_small_answers_against_their_check_values(client):
    clock = answer(client, "meter-clock", dial_m3=0.0283168466, turns=2, seconds_s=62)
    assert clock["meter.flow"]["value"] * 3600 / 0.0283168466 == pytest.approx(118.1, abs=0.1)
    change = answer(client, "gas-change", before="propane", after="natural_gas", turns=2)
    assert change["change.area"]["value"] == pytest.approx(1.53, abs=0.04)
    start = answer(client, "load-screw-start", gas="propane", shaft_w=745.7 * 8, running_w=1000)
    assert start["screw.turns"]["value"] == pytest.approx(2.0, abs=0.001)
    feed = {"bore_m": 6.35e-3, "length_m": 2.0, "running_w": 5000.0}
    low, high = (answer(client, "gravity-feed", head_m=head, **feed) for head in (0.1, 0.8))
    assert low["feed.flow"]["value"] < high["feed.flow"]["value"]
    assert high["feed.needle"]["warnings"]
    loss = [
        answer(client, "coupler-loss", gas="propane", heat_w=30e3, bore_m=0.0095, length_m=meters)
        for meters in (1.0, 3.0)
    ]
    assert loss[0]["loss.whole"]["value"] < loss[1]["loss.whole"]["value"]
    jet = answer(client, "jet", number=90, here_m=2450.0, lam=0.80)
    assert jet["jet.density"]["value"] == pytest.approx(90 * 0.941, abs=0.1)
    assert jet["jet.density"]["us"]["text"] == "84.8"
    assert jet["jet.measured"]["value"] == pytest.approx(90 * (0.80 / 0.90) ** 0.5)
    assert "smaller jet" in jet["jet.measured"]["warnings"][0]
    warm = answer(client, "jet", number=90, here_m=2450.0, day_k=305.0)
    assert warm["jet.density"]["value"] < jet["jet.density"]["value"]
    sea = answer(client, "coupler-loss", gas="natural_gas", heat_w=31.6e3, bore_m=12.7e-3,
                 length_m=6.0)  # fmt: skip
    high = answer(client, "coupler-loss", gas="natural_gas", heat_w=31.6e3, bore_m=12.7e-3,
                  length_m=6.0, elevation_m=2450.0)  # fmt: skip
    # The same heat in air of 75.1 kPa: a third more, and said of the air it is in.
    ratio = high["loss.whole"]["value"] / sea["loss.whole"]["value"]
    assert ratio == pytest.approx(101_325 / 75_060, rel=2e-3)
    one_way = client.post("/api/quick/u-tube", json={"left_m": -0.14, "right_m": 0.14})
    assert one_way.json["errors"][0]["path"] == "right_m"
    both = answer(client, "u-tube", left_m=-0.14, right_m=-0.14)
    assert both["u-tube.pressure"]["value"] == pytest.approx(-2740, rel=1e-3)
    hole = answer(client, "orifice", gas="natural_gas", drop_pa=870.0, heat_w=10e3)
    back = answer(client, "orifice", gas="natural_gas", drop_pa=870.0, heat_w=1e3,
                  bore_m=hole["orifice.bore"]["value"])  # fmt: skip
    assert back["orifice.heat"]["value"] == pytest.approx(10e3)
    assert hole["orifice.drill"]["value"] < hole["orifice.bore"]["value"]
    assert hole["orifice.drill"]["label"] == "drill #36, 0.1065 in (2.705 mm)"
    thin = answer(client, "orifice", gas="natural_gas", drop_pa=870.0, heat_w=10e3,
                  elevation_m=2450.0)  # fmt: skip
    assert thin["orifice.bore"]["value"] == pytest.approx(
        hole["orifice.bore"]["value"] * (101_325 / 75_060) ** 0.25, rel=3e-3
    )
    for heat, drop in ((150.0, 2739.0), (1e6, 870.0)):
        none = answer(client, "orifice", gas="propane", drop_pa=drop, heat_w=heat)
        assert "orifice.drill" not in none
        assert any("No number or letter drill" in one for one in none["orifice.bore"]["warnings"])
    line = {"volume_m3": 1e-3, "before_pa": 2739.0, "seconds_s": 600.0}
    steady = {"before_k": 290.0, "after_k": 290.0}
    fell = answer(client, "leak-decay", **line, **steady, after_pa=2500.0)
    assert "It leaks." in fell["decay.leak"]["warnings"][0]
    held = answer(client, "leak-decay", **line, **steady, after_pa=2739.0)
    assert held["decay.leak"]["warnings"][0].startswith("Tight:")
    for after in (2739.0, 3000.0, 6000.0):
        untold = answer(client, "leak-decay", **line, after_pa=after)
        assert untold["decay.leak"]["warnings"][0].startswith("Inconclusive.")
    rose = answer(client, "leak-decay", **line, **steady, after_pa=3000.0)
    assert "The pressure rose" in rose["decay.leak"]["warnings"][0]
    cooled = answer(client, "leak-decay", **line, after_pa=2500.0, before_k=290.0, after_k=289.0)
    assert "warmed or cooled" in cooled["decay.leak"]["warnings"][0]


@pytest.mark.parametrize(
    ("name", "values", "path"),
    [
        ("meter-clock", {"dial_m3": 0.0283, "turns": 2}, "seconds_s"),
        ("meter-clock", {"dial_m3": 0.0283, "turns": 2, "seconds_s": 1e-9}, "seconds_s"),
        ("gas-change", {"before": "coal", "after": "propane", "turns": 1}, "before"),
        ("gas-change", {"before": "propane", "after": "propane", "turns": "two"}, "turns"),
        ("gravity-feed", {"magic": 1}, "magic"),
        ("jet", {"number": 5.0, "here_m": 2450.0}, "number"),
        ("orifice", {"gas": "propane", "drop_pa": 1.0, "heat_w": 1e4}, "drop_pa"),
        (
            "leak-decay",
            {"volume_m3": 1e-3, "before_pa": 2739.0, "after_pa": 2700.0, "seconds_s": 5.0},
            "seconds_s",
        ),
    ],
)
def test_small_answers_refuse_at_the_field(client, name, values, path):
    refused = answer(client, name, **values)
    assert refused.status_code == 422
    assert path in [error["path"] for error in refused.json["errors"]]
    assert client.post("/api/quick/nothing", json={}).status_code in (404, 405)


def test_a_schemas_own_refusals_are_plain_words(client):
    body = {"gas": "coal", "drop_pa": "lots", "magic": 1}
    refused = client.post("/api/quick/orifice", json=body).json["errors"]
    assert {one["path"]: one["message"] for one in refused} == {
        "gas": "That is not one of the choices.",
        "drop_pa": "A number is wanted here.",
        "heat_w": "This is missing.",
        "magic": "There is no such field.",
    }


def test_speed_by_sound_takes_samples_and_refuses_what_is_none(client):
    t = np.arange(4 * 8000) / 8000
    tone = sum(np.sin(2 * np.pi * 30.0 * k * t + k) / k for k in range(1, 12))
    noise = np.random.default_rng(3).standard_normal(len(t))
    sound = (8000 * (tone + 0.3 * noise) / 4).astype("<i2").tobytes()
    found = client.post("/api/quick/sound?rate=8000&cylinders=1", data=sound)
    assert found.json[0]["us"]["number"] == pytest.approx(3600, rel=0.01)
    assert found.json[0]["inputs"]
    twin = client.post("/api/quick/sound?rate=8000&cylinders=2", data=sound).json[0]
    assert twin["us"]["number"] == pytest.approx(3600, rel=0.01)
    even = client.post("/api/quick/sound?rate=8000&cylinders=2&even=true", data=sound).json[0]
    assert even["us"]["number"] == pytest.approx(1800, rel=0.01)
    other = client.post("/api/quick/sound?rate=8000&hertz=50", data=sound).json[0]
    assert any("makes 50 Hz" in text for text in other["warnings"])
    hiss = (6000 * noise / 4).astype("<i2").tobytes()
    for body, says in ((hiss, "No steady"), (b"", "few seconds"), (sound[:4000], "least")):
        refused = client.post("/api/quick/sound?rate=8000", data=body)
        assert refused.status_code == 422
        assert says in refused.json["errors"][0]["message"]
    assert client.post("/api/quick/sound?rate=10", data=sound).status_code == 422
