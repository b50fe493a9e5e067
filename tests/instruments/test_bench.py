"""The simulated bench: energy kept, engines that behave, and the same for the same seed."""

import math
from dataclasses import replace

import pytest

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.instruments.bench import Bench
from gentle_ember.instruments.engine import fill
from gentle_ember.instruments.setup import setup_of
from tests.helpers.fits import SPACER, fitted
from tests.helpers.sets import CATALOG
from tests.helpers.sweeps import bench, setup, started

SETS = [("inverter", "propane"), ("frame", "propane"), ("large", "natural_gas"),
        ("twin", "natural_gas"), ("strong", "biogas")]  # fmt: skip


@pytest.mark.parametrize(("size", "fuel"), SETS)
def test_a_bench_of_every_class_starts_carries_its_load_and_keeps_its_energy(size, fuel):
    one = bench(size, fuel, 4)
    right = sum(one.plateau(0.98)) / 2
    assert started(one, right)
    one.hands.load_w = 0.6 * one.setup.engine.limit_w
    one.go(15)
    assert one.engine.output_w > 0.95 * one.hands.load_w
    assert 0.75 < one.engine.lam < 1.1
    kept = one.engine.balance
    brought = kept.shaft_w + kept.friction_w + kept.heat_w + kept.unburnt_w
    assert brought == pytest.approx(kept.fuel_w, rel=1e-9)
    assert all(part >= 0 for part in (kept.heat_w, kept.unburnt_w, kept.friction_w))
    assert kept.shaft_w * one.setup.engine.alternator == pytest.approx(one.engine.output_w, rel=0.1)
    assert 0.08 < one.engine.output_w / kept.fuel_w < 0.34


def test_more_throttle_never_draws_less_and_the_same_seed_reads_the_same():
    assert all(fill(a / 50, 1.0) <= fill((a + 1) / 50, 1.0) for a in range(50))
    first, second = bench(seed=9), bench(seed=9)
    for one in (first, second):
        started(one, 1.4)
        one.go(5)
    assert list(first.read()) == list(second.read())
    assert all(one.origin is Origin.SIMULATED for one in first.read())


def test_a_shut_choke_keeps_a_demand_system_from_starting_and_says_nothing_of_the_screw():
    one = bench()
    right = sum(one.plateau(0.98)) / 2
    one.hands.choke = 1.0
    one.hands.gas_open, one.hands.turns = True, right
    one.step()
    assert not any(one.pull() for _ in range(4))
    one.hands.choke = 0.0
    assert started(one, right)


def test_priming_too_long_floods_it_and_half_an_hour_clears_it():
    one = bench()
    one.hands.gas_open, one.hands.turns = True, sum(one.plateau(0.98)) / 2
    one.step()
    one.engine.press_primer(25.0)
    assert not one.pull()
    one.go(1800)
    assert started(one, one.hands.turns)


def test_gasoline_left_in_the_bowl_runs_it_on_then_it_dies():
    one = bench("frame")
    one.hands.gasoline_open, one.hands.choke = True, 1.0
    one.step()
    assert one.pull()
    one.hands.choke = 0.3
    one.go(20)
    one.hands.choke = 0.0
    one.go(240)
    assert one.engine.running
    one.hands.gasoline_open = False
    one.go(2)
    assert one.engine.running
    one.go(400)
    assert not one.engine.running


def test_two_fuels_at_once_are_too_rich():
    one = bench("frame", seed=3)
    assert started(one, sum(one.plateau(0.98)) / 2)
    one.hands.load_w = 1500.0
    one.go(5)
    alone = one.engine.lam
    one.hands.gasoline_open = True
    one.step()
    assert one.engine.lam < 0.7 * alone


def test_closing_the_gas_proves_the_fuel_and_a_cold_cylinder_starves():
    one = bench("frame")
    assert started(one, sum(one.plateau(0.98)) / 2)
    one.hands.gas_open = False
    one.go(10)
    assert not one.engine.running
    cold = Bench(replace(setup("frame", "propane", 1), ambient_k=250.0, cylinder_kg=1.5), 1)
    assert started(cold, sum(cold.plateau(0.98)) / 2)
    cold.hands.load_w = 2400.0
    for _ in range(240):
        cold.go(30)
        if not cold.engine.running or cold.engine.output_w == 0:
            break
    assert cold.cylinder_k < 243
    assert cold.cylinder_kg > 0.2


def test_a_kink_starves_and_an_inverter_overloaded_trips_but_holds_its_hertz_before():
    one = bench()
    assert started(one, sum(one.plateau(0.98)) / 2)
    one.hands.load_w = 2000.0
    one.go(10)
    shown = one.exact()
    assert shown["hertz"] == 60.0
    assert shown["speed"] > 2 * math.pi * 40
    one.hands.kinked = 0.85
    one.go(20)
    assert one.engine.tripped or not one.engine.running


def test_an_open_frame_droops_and_soap_finds_the_leak_that_mending_ends():
    one = bench("frame")
    started(one, sum(one.plateau(0.98)) / 2)
    one.hands.load_w = 200.0
    one.go(10)
    light = one.exact()["hertz"]
    one.hands.load_w = 2200.0
    one.go(10)
    assert 0.9 * light < one.exact()["hertz"] < light
    leaky = Bench(replace(one.setup, leaks={"propane.hose": 3e-7}), 1)
    assert leaky.film("propane.hose") == "holds"
    leaky.hands.gas_open = True
    assert leaky.film("propane.hose") == "foam"
    assert leaky.film("propane.coupler") == "holds"
    leaky.mend("propane.hose")
    assert leaky.film("propane.hose") == "holds"


def test_two_barrels_out_of_balance_lose_output_and_their_exhausts_tell_which():
    single = bench("twin", "natural_gas", 4).setup.engine
    one = bench(
        "twin", "natural_gas", 4, barrels=2, throat_m=single.throat_m / math.sqrt(2),
        screw_m2=single.screw_m2 / 2, passage_m2=single.passage_m2 / 2, idle_m2=single.idle_m2 / 2,
    )  # fmt: skip
    right = sum(one.plateau(0.98)) / 2
    assert started(one, right)
    one.hands.load_w = 0.7 * one.setup.engine.limit_w
    one.go(20)
    even, throttle = one.exact(), one.engine.throttle
    assert even["exhaust"] == pytest.approx(even["exhaust_b"], abs=1.0)
    one.hands.right_turns = 0.8 * right
    one.go(20)
    tilted = one.exact()
    assert one.engine.throttle > throttle + 0.01
    assert one.engine.split > 1.05
    assert tilted["exhaust_b"] > tilted["exhaust"] + 10
    one.hands.right_turns = right
    one.go(20)
    assert one.exact()["exhaust_b"] == pytest.approx(one.exact()["exhaust"], abs=1.0)


def test_a_manometer_shows_less_the_more_gas_is_drawn_and_nothing_with_the_source_shut():
    built = setup_of(Plan(fitted(*SPACER), CATALOG), FuelKey.PROPANE, 4)
    one, places = Bench(built, 4), built.gauges
    assert {place.title.split()[0] for place in places} == {"before"}
    assert started(one, sum(one.plateau(0.98)) / 2)
    for place in places:
        one.hands.gauge, one.hands.load_w = place.key, 0.0
        one.go(15)
        light = one.exact()["manometer"]
        one.hands.load_w = 0.8 * one.setup.engine.limit_w
        one.go(15)
        assert one.exact()["manometer"] <= light + 1e-6
        assert light <= max(place.pressures) + 1e-6
    one.hands.gas_open = False
    assert one.exact()["manometer"] == 0.0
