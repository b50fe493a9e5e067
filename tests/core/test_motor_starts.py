"""Motors that start: current of the alternator or inverter, power of the engine, each its own."""

from itertools import permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.estimates.defaults import machine
from gentle_ember.core.estimates.starts import in_turn, motor_starts
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.physics.motor import MOST_DIP, dip, engine_w
from gentle_ember.core.plan import plan
from tests.helpers.sets import CATALOG, fact, job_of, output_of

PUMP = {"name": "well pump", "kind": "pump", "running": fact(1100.0), "must_run": True}
HEATER = {"name": "heater", "kind": "resistive", "running": fact(1500.0), "must_run": True}
LIGHTS = {"name": "lights", "kind": "electronic", "running": fact(300.0), "must_run": True}


def with_loads(size="strong", set_=None, site=None, **loads):
    document = job_of(size).model_dump(mode="json")
    document["load"]["appliances"] = loads
    document["set"] |= set_ or {}
    document["sites"]["s1"] |= site or {}
    return Job.model_validate(document)


def motors(job):
    found = motor_starts(job.set, job.load, machine(job.set))
    return {one.key: one for one in found}


def on(job, fuel):
    return output_of(job).of(FuelKey(fuel))


def gives(job, fuel):
    return on(job, fuel).starting.value


def test_a_pump_far_up_on_natural_gas_starts_though_its_volt_amperes_are_no_watts():
    """1.1 kW pump, 5 kW set at 2,450 m: 6.6 kVA at the winding, 2 kW at the shaft."""
    job = with_loads(set_={"starting": fact(6250.0)}, site={"elevation": fact(2450.0)}, p=PUMP)
    pump = motors(job)["p"]
    assert pump.start_va == pytest.approx(6600.0)
    assert pump.figure.value == pytest.approx(0.25 * 6600 / 5000 / (1 + 0.25 * 6600 / 5000))
    engine = gives(job, "natural_gas")
    assert pump.start_va > engine
    assert pump.needs_w() < 1700 < engine
    assert pump.starts(engine)
    assert on(job, "natural_gas").starts_largest is True
    assert pump.says(engine, pump) == "starts with all else running"


def test_an_alternator_too_small_dips_too_far_whatever_burns():
    job = with_loads("middle", p={**PUMP, "running": fact(1500.0)})
    pump = motors(job)["p"]
    assert pump.figure.value > MOST_DIP
    assert not pump.holds()
    assert not pump.starts(1e6)
    assert pump.says(1e6, pump) == "too hard for the alternator; a soft starter would do"
    assert on(job, "gasoline").starts_largest is False
    soft = with_loads("middle", p={**PUMP, "running": fact(1500.0), "kind": "soft_started"})
    assert motors(soft)["p"].starts(1e6)


def test_an_inverter_gives_its_surge_and_no_more():
    job = with_loads(
        "inverter", set_={"starting": fact(3500.0)}, p={**PUMP, "running": fact(500.0)}
    )
    pump = motors(job)["p"]
    assert pump.inverter
    assert pump.figure.value == pytest.approx(3000 / 3500)
    assert pump.starts(gives(job, "gasoline"))
    beside = with_loads(
        "inverter", set_={"starting": fact(3500.0)}, p={**PUMP, "running": fact(500.0)}, h=LIGHTS,
        k={**HEATER, "running": fact(600.0)},
    )  # fmt: skip
    pump = motors(beside)["p"]
    # 300 W of electronics are 375 VA.
    assert pump.rest_va == pytest.approx(300 / 0.8 + 600)
    assert not pump.holds()
    first = in_turn((pump,), beside.load)[0]
    assert pump.says(gives(beside, "gasoline"), first) == (
        "starts in its turn, by the order below. It comes on by itself later, so hold others off "
        "then."
    )


def test_an_engine_short_of_power_is_named_as_such():
    """A winding that holds it well, and an engine with little left on thin biogas."""
    job = with_loads(
        "strong", set_={"apparent": fact(15e3), "running": fact(5000.0)},
        site={"elevation": fact(3500.0)}, p={**PUMP, "running": fact(1900.0)},
        h={**HEATER, "running": fact(1200.0)},
    )  # fmt: skip
    pump, engine = motors(job)["p"], gives(job, "biogas")
    assert pump.holds()
    assert pump.needs_w() > engine
    assert not pump.starts(engine)
    assert "the engine" in pump.says(engine, pump) or "alone" in pump.says(engine, pump)
    figure = pump.engine_figure("biogas", engine)
    assert figure.value == pump.needs_w()
    assert figure.band.low < figure.value < figure.band.high


def test_a_pump_on_one_leg_has_half_the_winding():
    whole = motors(with_loads(p=PUMP, set_={"volts": fact(240.0)}))["p"]
    leg = motors(with_loads(p={**PUMP, "leg": "a"}, set_={"volts": fact(240.0)}))["p"]
    assert leg.gives_va == whole.gives_va / 2
    assert leg.figure.value > whole.figure.value


def test_a_power_factor_told_counts_and_volt_amperes_on_the_plate_too():
    told = with_loads(
        set_={"apparent": fact(6250.0)}, p=PUMP, h={**LIGHTS, "power_factor": fact(0.5)}
    )
    pump = motors(told)["p"]
    assert pump.gives_va == 6250.0
    assert pump.rest_va == pytest.approx(600.0)
    assert pump.rest_w == pytest.approx(300.0)


def test_two_that_start_in_one_order_only():
    """Both would start alone; together only the harder one first, with the other after it."""
    big, small = (
        {**PUMP, "kind": "motor_tool", "running": fact(watts)} for watts in (900.0, 300.0)
    )
    job = with_loads(
        "inverter", set_={"apparent": fact(3000.0), "starting": fact(3000.0)}, s=small, b=big
    )
    found = motors(job)
    ordered = in_turn(tuple(found.values()), job.load)
    assert [one.key for one in ordered] == ["b", "s"]
    assert ordered[1].rest_va == pytest.approx(900 / 0.8)
    engine = gives(job, "gasoline")
    assert all(one.starts(engine) for one in ordered)
    assert not found["b"].starts(engine)
    assert found["b"].says(engine, ordered[0]) == "starts in its turn, by the order below."
    backward = in_turn(tuple(found.values()), job.load)[::-1]
    assert backward[0].key == "s"


@given(
    st.lists(
        st.tuples(
            st.floats(100, 3000),
            st.sampled_from(["pump", "fridge", "window_ac", "motor_tool", "soft_started"]),
        ),
        min_size=1,
        max_size=4,
    )
)
def test_no_other_order_asks_less_at_its_hardest_moment(rows):
    listed = {
        f"m{at}": {**PUMP, "name": f"m{at}", "running": fact(watts), "kind": kind}
        for at, (watts, kind) in enumerate(rows)
    }
    job = with_loads(set_={"apparent": fact(50e3)}, **listed)
    found = motor_starts(job.set, job.load, machine(job.set))

    def hardest(ordered):
        running, most = 0.0, 0.0
        for one in ordered:
            most = max(most, running + one.extra_w + job.load.appliances[one.key].running.value)
            running += job.load.appliances[one.key].running.value
        return most

    ordered = in_turn(found, job.load)
    assert hardest(ordered) <= min(map(hardest, permutations(found))) + 1e-6
    assert hardest(ordered) == pytest.approx(max(one.needs_w() for one in ordered))


def test_without_a_motor_nothing_is_said_of_motors():
    assert motors(with_loads(h=HEATER, e=LIGHTS)) == {}
    job = with_loads(h=HEATER)
    assert on(job, "propane").starts_largest is True
    waits = with_loads(p={**PUMP, "must_run": False}, h=HEATER)
    assert motors(waits) == {}


def test_a_largest_start_told_in_watts_is_held_against_watts():
    document = with_loads(p=PUMP).model_dump(mode="json")
    document["load"]["largest_start"] = fact(9000.0)
    assert on(Job.model_validate(document), "gasoline").starts_largest is False


@given(st.floats(100.0, 40e3), st.floats(200.0, 40e3))
def test_harder_starts_dip_further_and_never_past_the_whole(start, rated):
    found = dip(start, rated)
    assert 0 < found < 1
    assert dip(start * 1.1, rated) > found > dip(start, rated * 1.1)
    # Softer: what is drawn at the dipped voltage is what the winding lets through.
    through = start * (1 - found) ** 2
    assert engine_w(start, found) == pytest.approx(0.4 * through)
    assert found == pytest.approx(0.25 * start * (1 - found) / rated)


def test_starts_are_worked_out_once_with_the_output():
    job = with_loads(p=PUMP)
    assert plan(job, CATALOG) is plan(job, CATALOG)
    assert on(job, "propane").starts_largest is not None
