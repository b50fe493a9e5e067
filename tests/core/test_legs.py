"""Legs, phases and receptacles: what each carries, wherever loads nobody placed are best put."""

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.estimates.defaults import machine
from gentle_ember.core.estimates.legs import leg_loads, outlet_loads, wiring_over
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.job import Job, Load
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.plan import plan
from gentle_ember.core.route import cautions
from gentle_ember.core.stages.intake.contradictions import contradictions
from tests.helpers.jobs import fact
from tests.helpers.sets import CATALOG, job_of


def loads(*rows: tuple[float, str] | tuple[float, str, str]) -> Load:
    listed = {
        f"a{at}": {
            "name": f"load {at}", "running": fact(watts), "leg": leg,
            "kind": more[0] if more else "resistive",
        }
        for at, (watts, leg, *more) in enumerate(rows, 1)
    }  # fmt: skip
    return Load.model_validate({"appliances": listed})


def on(load: Load, volts: float = 240.0, kind: str = "frame") -> Job:
    whole = job_of(kind).model_dump()
    whole["set"] |= {"running": fact(5000.0), "starting": fact(6250.0), "volts": fact(volts),
                     "hertz": fact(60.0)}  # fmt: skip
    return Job.model_validate(whole).model_copy(update={"load": load})


def legs(job: Job) -> dict[str, float]:
    return {one.name: one.carries.value for one in leg_loads(job.set, job.load)}


def said(job: Job, about: str = "legs.") -> dict[str, str]:
    found = plan(job, CATALOG).of(cautions)
    return {one.key: one.text for one in found if one.key.startswith(about)}


def test_a_load_that_fits_the_set_but_not_its_leg_is_not_carried():
    job = on(loads((4200.0, "a")))
    output = plan(job, CATALOG).of(output_here)
    assert output is not None
    assert output.of(FuelKey.GASOLINE).running.value > 4200.0
    assert not any(one.carries_planned for one in output.fuels)
    assert "4,200 W and gives 2,500 W" in said(job)["legs.a"]


@pytest.mark.parametrize(
    ("rows", "expected"),
    [
        ([(4200.0, "both")], {"a": 2100.0, "b": 2100.0}),
        ([(2000.0, "a"), (2200.0, "b")], {"a": 2000.0, "b": 2200.0}),
        ([(2000.0, "a"), (1000.0, "both")], {"a": 2500.0, "b": 500.0}),
        ([(2000.0, "b"), (1000.0, ""), (500.0, "")], {"a": 1500.0, "b": 2000.0}),
    ],
)
def test_each_leg_carries_its_own_and_half_of_what_is_on_both(rows, expected):
    job = on(loads(*rows))
    assert legs(job) == pytest.approx(expected)
    assert not wiring_over(job.set, job.load)
    assert said(job) == {}


def test_what_is_exactly_a_legs_share_is_carried_and_a_watt_more_is_not():
    assert not wiring_over(on(Load()).set, loads((2500.0, "a")))
    assert wiring_over(on(Load()).set, loads((2501.0, "a")))


def test_a_set_with_one_leg_has_none_to_tell():
    assert leg_loads(on(Load(), volts=120.0).set, loads((4200.0, "a"))) == ()
    assert leg_loads(on(Load()).set, Load()) == ()


def test_what_may_wait_is_not_counted():
    load = loads((2000.0, "a"), (2000.0, "a"))
    waiting = load.appliances["a2"].model_copy(update={"must_run": False})
    spared = load.model_copy(update={"appliances": {**load.appliances, "a2": waiting}})
    assert wiring_over(on(Load()).set, load) and not wiring_over(on(Load()).set, spared)


def test_a_motor_on_one_leg_is_held_against_that_winding_alone():
    job = on(loads((900.0, "a", "pump"), (1000.0, "b")))
    told = [text for key, text in said(job, "motors.").items() if key.startswith("motors.a1")]
    assert told == [
        "Load 1 on gasoline E10, propane, natural gas, biogas 60 %: too hard for the alternator; "
        "a soft starter would do."
    ]
    assert said(on(loads((900.0, "both", "pump"), (1000.0, "b"))), "motors.") == {}
    assert said(on(loads((900.0, "a", "soft_started"), (1000.0, "b"))), "motors.") == {}


def test_a_figure_of_a_leg_lists_its_loads_and_says_what_is_guessed():
    placed, unplaced = on(loads((2000.0, "a"))), on(loads((2000.0, "")))
    (one, _), (other, _) = leg_loads(placed.set, placed.load), leg_loads(unplaced.set,
                                                                         unplaced.load)  # fmt: skip
    assert [row.label for row in one.carries.inputs] == ["load 1", "a leg gives"]
    assert not one.carries.estimated and other.carries.estimated


def test_a_load_nobody_placed_contradicts_no_set_with_one_leg():
    refused = {one.path for one in contradictions(on(loads((500.0, "b")), volts=120.0))}
    assert "load.appliances.a1.leg" in refused
    for leg in ("", "a"):
        found = {one.path for one in contradictions(on(loads((500.0, leg)), volts=120.0))}
        assert "load.appliances.a1.leg" not in found


watts = st.floats(min_value=10.0, max_value=3000.0)
places = st.sampled_from(["", "a", "b", "both"])


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(watts, places), min_size=1, max_size=7))
def test_a_leg_is_told_over_only_when_no_way_round_would_do(rows):
    job = on(loads(*rows))
    free = [at for at, (_, leg) in enumerate(rows) if not leg]
    fits = False
    for legs_tried in product("ab", repeat=len(free)):
        tried = list(rows)
        for at, leg in zip(free, legs_tried, strict=True):
            tried[at] = (rows[at][0], leg)
        full = {name: sum(w * (0.5 if leg == "both" else leg == name) for w, leg in tried)
                for name in "ab"}  # fmt: skip
        fits = fits or max(full.values()) <= 2500.0
    assert wiring_over(job.set, job.load) is not fits
    assert sum(legs(job).values()) == pytest.approx(sum(w for w, _ in rows))


@settings(max_examples=20, deadline=None)
@given(st.lists(watts, min_size=13, max_size=18))
def test_many_loads_are_placed_without_a_load_lost(many):
    job = on(loads(*((one, "") for one in many)))
    assert sum(legs(job).values()) == pytest.approx(sum(many))
    spread = abs(legs(job)["a"] - legs(job)["b"])
    assert spread <= max(many) + 1e-6


def three(load: Load, **facts: object) -> Job:
    whole = on(load).model_dump()
    whole["set"] |= {"phases": 3, "volts": fact(208.0)} | facts
    return Job.model_validate(whole)


def test_a_phase_carries_a_third_and_every_placement_is_tried():
    job = three(loads((1500.0, "a"), (1500.0, ""), (900.0, "both"), (1000.0, "")))
    assert legs(job) == pytest.approx({"a": 1800.0, "b": 1800.0, "c": 1300.0})
    rated = machine(job.set).rated.value
    assert {one.limit_w for one in leg_loads(job.set, job.load)} == {rated / 3}
    assert wiring_over(job.set, job.load) is (rated / 3 < 1800.0)
    over = three(
        loads(
            (1700.0, "c"),
        )
    )
    assert "Leg C would carry 1,700 W and gives 1,667 W" in said(over)["legs.c"]


@settings(max_examples=40, deadline=None)
@given(st.lists(watts, min_size=1, max_size=6))
def test_three_phases_are_told_over_only_when_no_way_round_would_do(many):
    job = three(loads(*((one, "") for one in many)))
    best = min(
        max(sum(w for w, leg in zip(many, tried, strict=True) if leg == name) for name in "abc")
        for tried in product("abc", repeat=len(many))
    )
    assert max(legs(job).values()) == pytest.approx(best)


def test_leg_c_is_for_three_phases_and_a_single_leg_takes_none():
    refused = {one.path for one in contradictions(on(loads((500.0, "c"))))}
    assert "load.appliances.a1.leg" in refused
    assert not {one.path for one in contradictions(three(loads((500.0, "c"))))} & refused
    with_outlet = on(Load(), volts=120.0).model_dump()
    with_outlet["set"]["outlets"] = {"o1": {"leg": "both"}}
    found = {one.path for one in contradictions(Job.model_validate(with_outlet))}
    assert "set.outlets.o1.leg" in found


def plugged(load: Load, leg: str = "a", amps: float = 20.0, volts: float = 240.0) -> Job:
    whole = on(load, volts).model_dump()
    whole["set"]["outlets"] = {"o1": {"name": "front", "breaker": fact(amps), "leg": leg},
                               "o2": {"name": "rear", "leg": "b"}}  # fmt: skip
    for one in whole["load"]["appliances"].values():
        one["outlet"] = "o1"
    return Job.model_validate(whole)


@pytest.mark.parametrize(
    ("watts_each", "leg", "amps", "told"),
    [
        ((1500.0, 800.0), "a", 2300 / 120, "outlets.o1.long"),
        ((1500.0, 1000.0), "a", 2500 / 120, "outlets.o1"),
        ((1900.0,), "a", 1900 / 120, ""),
        ((2500.0,), "both", 2500 / 240, ""),
        ((4000.0,), "both", 4000 / 240, "outlets.o1.long"),
    ],
)
def test_a_receptacle_carries_what_its_breaker_does(watts_each, leg, amps, told):
    job = plugged(loads(*((one, "") for one in watts_each)), leg)
    (outlet,) = outlet_loads(job.set, job.load)
    assert outlet.draws.value == pytest.approx(amps)
    assert set(said(job, "outlets.")) == ({told} if told else set())
    assert outlet.over is (told == "outlets.o1")


def test_current_is_of_volt_amperes_and_what_waits_draws_none():
    load = loads((960.0, "", "electronic"), (5000.0, ""))
    waits = load.appliances["a2"].model_copy(update={"must_run": False})
    job = plugged(load.model_copy(update={"appliances": {**load.appliances, "a2": waits}}))
    (outlet,) = outlet_loads(job.set, job.load)
    assert outlet.draws.value == pytest.approx(960 / 0.8 / 120)
    # Tripped, it carries nothing, whatever the legs would bear.
    trips = plugged(loads((2450.0, "")))
    assert wiring_over(trips.set, trips.load)
    output = plan(trips, CATALOG).of(output_here)
    assert not any(one.carries_planned for one in output.fuels)


def test_a_load_is_on_the_leg_of_its_receptacle():
    job = plugged(loads((2000.0, "b")))
    assert legs(job) == pytest.approx({"a": 2000.0, "b": 0.0})
    gone = job.set.model_copy(update={"outlets": {}})
    assert {one.name: one.carries.value for one in leg_loads(gone, job.load)} == pytest.approx(
        {"a": 0.0, "b": 2000.0}
    )


def test_the_rating_of_a_leg_is_half_of_the_sets():
    job = on(loads((100.0, "a")))
    rated = machine(job.set)
    assert rated is not None
    assert [one.limit_w for one in leg_loads(job.set, job.load)] == [rated.rated.value / 2] * 2
