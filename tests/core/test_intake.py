"""Intake: contradictions, the walk-round and its tasks, the sketch, loads, readiness, library."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.catalog import load
from gentle_ember.core.estimates.defaults import largest_start, planned_load
from gentle_ember.core.job.site import Site
from gentle_ember.core.plan import plan
from gentle_ember.core.route import cautions, contradictions, open_items
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.intake.alike import known_facts, likeness, offered
from gentle_ember.core.stages.intake.questions import asked
from gentle_ember.core.stages.intake.sketch import measures
from gentle_ember.core.stages.intake.walk_round import (
    CHECKS,
    PUT_RIGHT,
    must_be_put_right,
    put_right,
    tasks,
)
from tests.helpers.jobs import fact, job, known

CATALOG = load()
GAS = "sites__s1__gases"
AT = "sites.s1"

CONTRADICTIONS = [
    ("set.starting", {"set__running": fact(3000.0), "set__starting": fact(2000.0)}),
    ("set.shaft_power", {"set__running": fact(3000.0), "set__shaft_power": fact(2500.0)}),
    ("set.alternator_efficiency", {
        "set__running": fact(3000.0), "set__shaft_power": fact(3100.0),
        "set__alternator_efficiency": fact(0.6)}),
    ("set.running", {"set__running": fact(9000.0), "set__displacement": fact(100e-6)}),
    ("set.volts", {"set__phases": 3, "set__volts": fact(120.0)}),
    ("set.hours", {"set__brand_new": True, "set__hours": fact(3.6e5)}),
    ("set.idle", {"set__brand_new": True, "set__idle": fact(2e8)}),
    ("set.studs.pitch", {"set__studs": {"diameter": fact(0.005), "pitch": fact(0.0015)}}),
    ("set.studs.stick_out", {
        "set__studs": {"stick_out": fact(0.01)}, "set__stack": {"flange": fact(0.02)}}),
    ("set.studs.nut_height", {"set__studs": {"diameter": fact(0.006), "nut_height": fact(0.012)}}),
    ("set.run_times.r1.load", {
        "set__running": fact(1000.0), "set__run_times": {"r1": {"load": fact(1500.0)}}}),
    ("set.run_times.r1.duration", {
        "set__tank": fact(0.004),
        "set__run_times": {"r1": {"load": fact(2000.0), "duration": fact(86400.0)}}}),
    ("set.weigh_ins.w1.after", {
        "set__weigh_ins": {"w1": {"before": fact(20.0), "after": fact(21.0)}}}),
    ("load.appliances.a1.starting", {
        "load__appliances": {"a1": {"running": fact(900.0), "starting": fact(500.0)}}}),
    ("load.appliances.a1.leg", {
        "set__volts": fact(120.0), "load__appliances": {"a1": {"leg": "b"}}}),
    ("sites.s1.hottest", {"sites__s1__coldest": fact(290.0), "sites__s1__hottest": fact(280.0)}),
    ("sites.s1.cylinders.c1.weighed", {
        "sites__s1__cylinders": {"c1": {"weighed": fact(7.0), "tare": fact(8.0)}}}),
    ("sites.s1.gases.g1.pressure", {GAS: {"g1": {"pressure": fact(20000.0 / 5)}}}),
    ("sites.s1.gases.g1.pressure", {GAS: {"g1": {"kind": "biogas", "pressure": fact(2e4)}}}),
    ("sites.s1.gases.g1.specific_gravity", {
        GAS: {"g1": {"hhv": fact(31e6), "specific_gravity": fact(0.79)}}}),
    ("sites.s1.gases.g1.cleaned", {
        GAS: {"g1": {"kind": "biogas", "cleaned": True, "sulfide": fact(3000e-6)}}}),
    ("sites.s1.least_opening", {"sites__s1__least_opening": fact(3.0)}),
    ("sites.s1.least_cylinder", {"sites__s1__least_cylinder": fact(1.0)}),
    ("sites.s1.sketch.items", {"sites__s1__sketch": {"items": {
        "a": {"kind": "set", "x": 1, "y": 1}, "b": {"kind": "set", "x": 2, "y": 2}}}}),
    ("findings.nowhere", {"findings": {"nowhere": {"look": "bad"}}}),
    ("findings.plug.decision", {"findings": {"plug": {"look": "good", "decision": "replace"}}}),
    ("findings.plug.done", {"findings": {"plug": {"look": "bad", "done": True}}}),
    ("findings.plug.decision", {
        "findings": {"plug": {"look": "bad", "done": True, "by": "RK", "decision": "stop"}}}),
    ("findings.oil", {"findings": {
        "runs": {"look": "good"}, "oil": {"look": "bad", "note": "No oil in it at all."}}}),
    ("choice.methods", {"choice": {"methods": ["spacer_adapter", "snorkel"]}}),
    ("choice.methods", {"choice": {"methods": ["remote_tank_gravity", "remote_tank_pump"]}}),
    ("choice.methods", {"choice": {"methods": ["leave_it", "rejet"]}}),
    ("choice.methods", {"choice": {"methods": ["exchanged_carburetor", "rejet"]}}),
    ("choice.methods", {"choice": {"methods": ["rejet", "rejet"]}}),
    ("choice.methods", {"choice": {"methods": ["magic"]}}),
    ("site", {"site": "elsewhere"}),
    ("stages.lunch", {"stages": {"lunch": {"state": "done"}}}),
    ("trains.propane.template", {"trains": {"propane": {"template": "magic"}}}),
    ("trains.propane.template", {"trains": {"propane": {"template": "snorkel-utility"}}}),
]  # fmt: skip


@pytest.mark.parametrize(("path", "facts"), CONTRADICTIONS)
def test_contradictions_are_named_at_their_field_in_a_sentence(path, facts):
    found = contradictions(job(**facts))
    assert path in [error.path for error in found]
    assert all(error.text.endswith(".") and error.text[0].isupper() for error in found)


def test_what_goes_together_is_no_contradiction():
    assert len(CONTRADICTIONS) >= 25
    assert list(contradictions(known())) == []
    kept = ("spacer_adapter", "remote_tank_gravity", "rejet")
    assert list(contradictions(known(choice={"methods": kept}))) == []
    nearer = {
        "sites__s1__least_opening": fact(3.0),
        "sites__s1__least_opening_why": "Blank wall, by code.",
        "sites__s1__least_opening_by": "RK",
    }
    assert list(contradictions(known(**nearer))) == []


@pytest.mark.parametrize(("field", "usual", "floor"), [
    ("least_opening", 6.0, 3.0), ("least_cylinder", 1.5, 0.9),
])  # fmt: skip
def test_a_distance_below_the_usual_takes_its_own_reason_and_name_and_has_a_floor(
    field, usual, floor
):
    at = f"sites__s1__{field}"

    def said(value, **more):
        facts = {at: fact(value), **{f"{at}_{name}": text for name, text in more.items()}}
        found = list(contradictions(known(**facts, sites__s1__note="Gate code 14.")))
        return [(one.path, one.text) for one in found]

    assert said(usual) == []
    ((path, text),) = said(floor)
    assert path == f"sites.s1.{field}"
    assert "reason" in text
    assert "name" in said(floor, why="By the fire officer.")[0][1]
    assert said(floor, why="By the fire officer.", by="RK") == []
    ((_, text),) = said(floor - 0.01, why="By the fire officer.", by="RK")
    assert text.startswith("Never nearer")


STOPS = [
    ("state.two_fuels", {"set__shut_off": False, "choice": {"methods": ["spacer_adapter"]}}),
    ("method.two_barrel_adapter", {"choice": {"methods": ["two_barrel_adapter"]}}),
    ("stopped.plug", {"findings": {"plug": {"look": "bad", "decision": "stop"}}}),
    ("crankcase", {"findings": {"oil_smell": {"look": "bad"}}}),
    ("near.s1.c1", {"sites__s1__cylinders": {"c1": {"distance": fact(1.0)}}}),
    ("storage.s1", {"sites__s1__storage": "indoors"}),
    ("meter.s1.g1", {GAS: {"g1": {"meter": fact(60e3), "appliances": fact(40e3)}}}),
    ("sketch.s1.o", {"sites__s1__sketch": {"items": {
        "s": {"kind": "set", "x": 5, "y": 5}, "o": {"kind": "opening", "x": 8, "y": 5}}}}),
]  # fmt: skip


@pytest.mark.parametrize(("key", "facts"), STOPS)
def test_what_must_not_go_on_is_a_stop_with_its_field(key, facts):
    assert key not in [c.key for c in plan(known(), CATALOG).of(cautions)]
    stop = next(c for c in plan(known(**facts), CATALOG).of(cautions) if c.key == key)
    assert stop.severity == "stop"
    assert stop.path


def test_a_dead_set_is_led_back_to_running_step_by_step():
    findings = {"runs": {"look": "bad"}}
    of = job(findings=findings)
    assert must_be_put_right(of)
    for key, _ in PUT_RIGHT:
        steps = put_right(job(findings=findings))
        assert next(step.key for step in steps if step.state == "next") == key
        findings[key] = {"look": "bad", "done": True, "by": "RK"}
    steps = put_right(job(findings=findings))
    assert [step.key for step in steps if step.state == "next"] == ["runs"]
    held = [item for item in plan(job(findings=findings), CATALOG).of(open_items) if item.holds]
    assert [(item.stage, item.done) for item in held if item.key == "task.runs"] == [("fit", False)]
    findings["runs"] = {"look": "bad", "done": True, "by": "RK"}
    assert not must_be_put_right(job(findings=findings))


def test_a_brand_new_set_is_not_asked_for_gasoline():
    new = job(set__brand_new=True, findings={"runs": {"look": "bad"}})
    assert not must_be_put_right(new)
    assert not put_right(new)
    assert "set.idle" not in [ask.path for ask in asked(new)]


def test_history_makes_tasks_until_the_place_is_looked_at():
    old = job(set__idle=fact(6 * 31557600.0))
    assert [task.key for task in tasks(old)] == ["fuel_age", "tank_lines", "carburetor"]
    seen = job(set__idle=fact(6 * 31557600.0), findings={"carburetor": {"look": "good"}})
    assert "carburetor" not in [task.key for task in tasks(seen)]


@given(st.sets(st.sampled_from([check.key for check in CHECKS])))
def test_every_bad_place_becomes_one_task_that_holds_a_stage(keys):
    # What drives something has no outlets: places of the one are none of the other's.
    bare = "driven" in keys
    keys = keys - {"cords", "ground"} if bare else keys
    of = job(set__hours=fact(4e5), set__electric_start=True, set__factory_gas=True,
             set__set_class="engine" if bare else "open_frame",
             findings={key: {"look": "bad"} for key in keys})  # fmt: skip
    assert {task.key for task in tasks(of)} == keys
    held = {
        i.key for i in plan(of, CATALOG).of(open_items) if i.holds and i.key.startswith("task.")
    }
    assert held == {f"task.{key}" for key in keys}


def sketch(exhaust=None, wind=None, **items):
    placed = {key: {"kind": kind, "x": x, "y": y} for key, (kind, x, y) in items.items()}
    return Site.model_validate(
        {"sketch": {"items": placed, "exhaust": exhaust, "wind": wind}}
    )  # fmt: skip


def test_the_sketch_measures_and_finds_what_stands_wrong():
    def trouble(site):
        return {one.key: one.trouble for one in measures(site, AT)}

    near = sketch(s=("set", 10, 10), c=("cylinder", 11, 10), o=("opening", 10, 15.9))
    assert trouble(near) == {"c": "too near", "o": "too near", "c-o": ""}
    vent = sketch(s=("set", 10, 10), t=("stub", 10.5, 10))
    assert trouble(vent) == {"t": "too near"}
    sill = sketch(s=("set", 10, 10), c=("cylinder", 14, 10), o=("opening", 14, 10.8))
    assert trouble(sill)["c-o"] == "too near"
    three_four_five = measures(sketch(s=("set", 10, 10), t=("stub", 13, 14)), AT)
    assert three_four_five[0].figure.value == pytest.approx(5.0)
    behind = sketch(exhaust=90.0, s=("set", 10, 10), c=("cylinder", 13, 10))
    assert trouble(behind) == {"c": "behind the exhaust"}
    blown = sketch(exhaust=0.0, wind=180.0, s=("set", 10, 12), o=("opening", 10, 2))
    assert trouble(blown)["o"] == "the exhaust blows at it; the wind carries exhaust to it"
    away = sketch(exhaust=180.0, wind=0.0, s=("set", 10, 12), o=("opening", 10, 2))
    assert trouble(away) == {"o": ""}


def test_loads_add_up_and_the_worst_start_is_found():
    of = job(
        set__running=fact(5000.0),
        load__appliances={
            "a1": {"kind": "resistive", "running": fact(1000.0)},
            "a2": {"kind": "pump", "running": fact(500.0), "starting": fact(2000.0)},
            "a3": {"kind": "fridge", "running": fact(150.0)},
            "a4": {"kind": "window_ac", "running": fact(900.0), "must_run": False},
        },
    )
    assert planned_load(of.load, 5000.0).value == pytest.approx(1650.0)
    assert largest_start(of.load).value == pytest.approx(1650.0 - 500.0 + 2000.0)


def test_readiness_names_who_must_do_what():
    gas = {"g1": {"kind": "natural_gas"}}
    of = known(sites__s1__gases=gas, wants__natural_gas=True,
               choice={"methods": ["spacer_adapter"]})  # fmt: skip
    items = {item.key: item for item in plan(of, CATALOG).of(open_items)}
    assert {"fitter", "utility", "drilling", "warranty", "weigh.s1.c1", "pressure.s1.g1"} <= {
        *items
    }
    assert items["fitter"].holds
    ticked = known(sites__s1__gases=gas, choice={"methods": ["spacer_adapter"]},
                   confirmed={"fitter": {"done": True, "by": "RK"}})  # fmt: skip
    item = next(one for one in plan(ticked, CATALOG).of(open_items) if one.key == "fitter")
    assert not item.done, "a license without its number is not confirmed"


def test_the_library_offers_what_was_measured_and_never_what_was_simulated():
    source = known(
        set__maker="Drovane", set__model="Linnet",
        set__tank={"value": 0.012, "origin": "measured"},
        set__volts={"value": 120.0, "origin": "simulated"},
        set__hours={"value": 7e5, "origin": "measured"},
    )  # fmt: skip
    assert "set.tank" in known_facts(source)
    assert not {"set.volts", "set.hours", "set.running"} & set(known_facts(source))
    mine = job(set__maker="drovane ", set__model="LINNET")
    assert likeness(mine.set, source.set).why == "same model"
    assert set(offered(mine, source)) == {"set.tank"}
    assert likeness(mine.set, job(set__maker="Wexlet").set) is None


@pytest.mark.parametrize(
    ("key", "part"),
    [("carburetor", "carburetor"), ("tank_filter", "fuel tank"), ("compression", "short engine"),
     ("exhaust", "muffler")],
)  # fmt: skip
def test_mending_and_replacing_differ_in_parts_price_and_minutes(key, part):
    def task(decision):
        found = known(findings={key: {"look": "bad", "decision": decision}})
        planned = plan(found, load())
        one = next(one for one in tasks(found) if one.key == key)
        prices = {line.part.for_task: line.price for line in planned.of(parts_list).lines}
        return one, {name: price for name, price in prices.items() if name in one.parts}

    mended, new = task("rebuild"), task("replace")
    assert task("open")[0].title == mended[0].title
    assert part in new[0].parts
    assert part not in mended[0].parts
    assert new[0].minutes < mended[0].minutes
    assert sum(new[1].values()) > sum(mended[1].values()) > 0
    assert "Replace" in new[0].title
