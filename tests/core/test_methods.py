"""Methods held against an independent way: what the next set does, motors, the needle's seat."""

from __future__ import annotations

import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import hose, jets
from gentle_ember.core.physics.fuels import GASOLINE_E10
from gentle_ember.core.quick.answer import answered
from gentle_ember.core.quick.answers import ANSWERS
from gentle_ember.core.shop import Lesson, learn
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.metering.settings import gas_metering, starts_motors
from gentle_ember.core.stages.fuel_path.gasoline_rules import at_bowl, profile
from gentle_ember.core.stages.fuel_path.trains import job_trains
from gentle_ember.core.stages.load_test.jets import jets_here
from tests.core.test_load_test import set_up_high
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound


@pytest.mark.parametrize(("sets", "spread"), [(10, 0.25), (40, 0.25), (10, 0.10)])
def test_the_shops_band_holds_the_next_set_and_not_only_the_mean(sets: int, spread: float):
    """Nineteen of twenty next sets lie within it, however many were measured."""
    drawn = random.Random(sets)
    held = tried = 0
    for _ in range(150):
        true = drawn.gauss(0.0, 0.1)
        lessons = [
            Lesson("turns", "open_frame", "propane", 1.0, math.exp(true + drawn.gauss(0, spread)))
            for _ in range(sets)
        ]
        (found,) = learn(lessons).values()
        for _ in range(20):
            ratio = math.exp(true + drawn.gauss(0.0, spread))
            held += abs(math.log(ratio / found.shrunk)) <= 2 * found.band
            tried += 1
    assert 0.90 <= held / tried <= 0.995


def listed(*kinds: str, **load: object) -> Job:
    job = sound("spacer")
    return put(job, "load", {"appliances": {
        f"a{n}": {"kind": kind, "running": fact(700.0)} for n, kind in enumerate(kinds)
    }, **load})  # fmt: skip


@pytest.mark.parametrize(("kinds", "motors"), [
    ((), False), (("resistive",), False), (("electronic", "resistive"), False),
    (("soft_started",), False), (("fridge",), True), (("resistive", "pump"), True),
])  # fmt: skip
def test_only_motors_make_a_set_one_that_must_start_motors(kinds: tuple[str, ...], motors: bool):
    job = listed(*kinds)
    assert starts_motors(job, 5000.0) is motors
    (gas,) = Plan(job, CATALOG).of(gas_metering)
    assert gas.motors is motors


def test_what_is_told_of_the_largest_start_decides_against_the_planned_load():
    assert not starts_motors(listed("pump", largest_start=fact(900.0)), 5000.0)
    assert starts_motors(listed("pump", largest_start=fact(2600.0)), 5000.0)
    assert starts_motors(listed("resistive", largest_start=fact(3400.0)), 5000.0)
    light = listed("pump", largest_start=fact(900.0), planned=fact(800.0))
    assert not starts_motors(light, 5000.0)
    waits = listed("pump")
    waits = put(waits, "load.appliances.a0.must_run", False)
    assert not starts_motors(waits, 5000.0)


@pytest.mark.parametrize(("seat_mm", "ml_min"), [(2.0, 258), (1.5, 149), (1.2, 96)])
def test_the_needles_seat_is_the_narrowest_place_of_a_gravity_line(seat_mm: float, ml_min: float):
    """The default of the quick answer: 25 cm of head, 2 m of 1/4 in hose, K 8."""
    flow = hose.gravity_flow(0.25, 6.35e-3, 2.0, 8.0, seat_mm * 1e-3)
    assert flow * 6e7 == pytest.approx(ml_min, rel=0.06)
    alone = 0.65 * math.pi * (seat_mm * 1e-3) ** 2 / 4 * math.sqrt(2 * 9.80665 * 0.25)
    assert flow < alone


@given(st.floats(1e-8, 1e-4), st.floats(0.8e-3, 4e-3))
def test_what_the_seat_takes_goes_with_the_flow_squared(flow: float, seat: float):
    one, two = hose.seat_drop(flow, seat), hose.seat_drop(2 * flow, seat)
    assert two == pytest.approx(4 * one)
    speed = flow / (0.65 * math.pi * seat**2 / 4)
    assert one == pytest.approx(GASOLINE_E10.density_kg_m3 * speed**2 / 2)


def seat_rule(job: Job) -> list[str]:
    section = Plan(job, CATALOG).of(job_trains)["gasoline"]
    return [str(one.severity) for one in section.troubles if one.rule == "needle_seat"]


def test_a_gravity_tank_too_low_for_the_seat_is_warned_of_and_a_pump_is_not():
    job = sound("gravity")
    assert not seat_rule(job)
    heads = [seat_rule(put(job, "sites.s1.remote_tank.rise", fact(rise)))
             for rise in (0.5, 0.1, 0.05, 0.02, 0.01)]  # fmt: skip
    assert heads[0] == []
    assert heads[-1] == ["caution"]
    assert heads == sorted(heads)
    assert not seat_rule(put(sound("pump"), "sites.s1.remote_tank.rise", fact(-0.3)))


def test_the_profile_says_what_the_seat_takes():
    case = Plan(sound("gravity"), CATALOG).of(job_trains)["gasoline"].case
    margin = profile(case).margin
    taken = next(row.value for row in margin.inputs if "needle's seat" in row.label)
    assert float(taken) > 0
    full, asked = at_bowl(case)
    assert asked == pytest.approx(margin.value)
    assert full > asked


@pytest.mark.parametrize(("number", "lam"), [(110, 0.97), (90, 1.01), (75, 1.06), (62, 1.14)])
def test_the_step_school_is_shown_with_the_mixture_it_leads_to(number: float, lam: float):
    """At 2,450 m, 2.5 numbers per 2,000 ft whatever the jet: the smaller, the leaner."""
    stepped = jets.by_step(number, 0.0, 2450.0, 2.5)
    mine = 0.90 * (0.7852**0.5) * (number / stepped) ** 2
    assert mine == pytest.approx(lam, abs=0.012)
    values = {"number": float(number), "here_m": 2450.0, "made_on": "e10", "gasoline": "e10"}
    found = {one.key: one for one in answered(ANSWERS["jet"], values, CATALOG).figures}
    assert found["jet.step"].label.endswith(f"λ about {mine:.2f}")
    said = " ".join(found["jet.step"].warnings)
    assert said.startswith("Refused") is (mine > 1.02)
    assert bool(said) is (mine > 0.97)
    assert found["jet.density"].label == "by density: λ about 0.90"


def test_the_percent_school_stands_beside_the_others_in_a_job_and_in_the_quick_answer():
    job = put(set_up_high(), "sites.s1.elevation", fact(2000.0))
    by = {one.key: one for one in Plan(job, CATALOG).of(jets_here).wanted}
    assert by["jets.percent"].value == pytest.approx(84.1, abs=0.05)
    assert all("λ about" in one.label for one in by.values())
    quick = answered(ANSWERS["jet"], {"number": 90.0, "here_m": 2000.0}, CATALOG)
    assert {one.key: one.value for one in quick.figures}["jet.percent"] == pytest.approx(
        by["jets.percent"].value
    )
