"""Air a cylinder of known size can draw: what it says of the plate and of the throat."""

import pytest

from gentle_ember.core.estimates.defaults import machine
from gentle_ember.core.estimates.filling import (
    MOST_FILLING,
    cycles_per_s,
    filling_at_rating,
    most_air_kg_s,
)
from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.route import cautions
from gentle_ember.core.stages.fuel_path.trains import trains_to_build
from tests.helpers.sets import CATALOG, SIZES, fact, job_of
from tests.helpers.sound import put, sound


def with_set(size="frame", **facts):
    document = job_of(size).model_dump(mode="json")
    document["set"] |= facts
    return Job.model_validate(document)


def filling(job):
    return filling_at_rating(job.set, machine(job.set))


def said(job):
    return [one.text for one in plan(job, CATALOG).of(cautions) if one.key == "filling"]


def test_a_200_cc_set_by_hand():
    """212 cc at 3,600 rpm sweep 6.36 L/s, 7.5 g/s; 3.6 kW at 17 % wants 6.4 g/s of air."""
    job = with_set(gasoline="e0")
    found = filling(job)
    swept = 212e-6 * 30
    burnt = 3600.0 / 0.17 / 43.4e6
    assert found.value == pytest.approx(burnt * 14.7 * 0.90 / (swept * 1.18), rel=0.03)
    assert found.band.low < found.value < found.band.high


@pytest.mark.parametrize("size", list(SIZES))
def test_no_set_of_the_usual_sizes_is_doubted(size):
    assert said(job_of(size)) == []


@pytest.mark.parametrize(
    ("size", "facts", "words"),
    [
        ("frame", {"displacement": fact(120e-6)}, "more than they hold"),
        ("frame", {"running": fact(7500.0)}, "more than they hold"),
        ("frame", {"displacement": fact(700e-6)}, "far less than they hold"),
    ],
)
def test_a_plate_that_can_not_be_is_said(size, facts, words):
    (text,) = said(with_set(size, **facts))
    assert words in text


def test_speed_goes_by_frequency_and_class_and_is_not_guessed_for_inverters():
    assert cycles_per_s(with_set().set) == 30.0
    assert cycles_per_s(with_set(hertz=fact(50.0)).set) == 25.0
    assert cycles_per_s(with_set(set_class="low_speed").set) == 15.0
    assert filling(job_of("inverter")) is None
    assert most_air_kg_s(with_set(displacement=None).set, 1.2) is None


def test_high_up_the_throat_pulls_no_more_than_thin_air_fills():
    """At 2,450 m a fuel line by load overstates the air: the cylinders hold a quarter less."""
    low = sound("spacer")
    high = put(low, "sites.s1.elevation", fact(2450.0))
    demands = [
        plan(job, CATALOG).of(trains_to_build)["propane"].case.asked.demand for job in (low, high)
    ]
    most = MOST_FILLING * 212e-6 * 30
    for one in demands:
        assert one.most_air_kg_s == pytest.approx(most * one.air_density)
        assert one.air_kg_s() <= one.most_air_kg_s
    asked = demands[1].mass("full", upper=False) * demands[1].fuel.air_fuel_ratio
    assert demands[1].air_kg_s() < asked
    # Half load draws what it burns: no cylinder is full then.
    half = demands[1].mass("half", upper=False) * demands[1].fuel.air_fuel_ratio
    assert demands[1].air_kg_s("half") == pytest.approx(half)
