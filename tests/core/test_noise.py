"""Sound at the neighbor's: the spreading law, its band, and when it is said to be too loud."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.figure import Rounding
from gentle_ember.core.job.job import Job
from gentle_ember.core.route import cautions, holds_signing
from gentle_ember.core.stage import Plan, Severity
from gentle_ember.core.stages.intake.noise import (
    BAND_DB,
    REFERENCE_M,
    distance_for,
    level_at,
    noise,
    noise_here,
)
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound

LEVELS, METERS = st.floats(40.0, 115.0), st.floats(1.0, 3000.0)


@given(LEVELS, METERS)
def test_twice_the_distance_is_six_decibels_quieter(stated: float, meters: float):
    assert level_at(stated, meters) - level_at(stated, 2 * meters) == pytest.approx(6.02, abs=0.01)
    assert level_at(stated, REFERENCE_M) == stated


@given(LEVELS, st.floats(20.0, 100.0))
def test_the_distance_for_a_level_is_where_that_level_is(stated: float, most: float):
    assert level_at(stated, distance_for(stated, most)) == pytest.approx(most)


@given(LEVELS, METERS)
def test_pressure_falls_with_the_distance_itself(stated: float, meters: float):
    """An independent way: sound pressure ∝ 1/d, and 20 µPa is 0 dB."""
    pascals = 20e-6 * 10 ** (stated / 20) * REFERENCE_M / meters
    assert 10 ** (level_at(stated, meters) / 20) * 20e-6 == pytest.approx(pascals)


def told(stated: float | None, neighbor: float | None, limit: float | None) -> Job:
    job = sound("spacer")
    job = put(job, "set.sound_level", None if stated is None else fact(stated))
    site = f"sites.{job.site}"
    job = put(job, f"{site}.neighbor", None if neighbor is None else fact(neighbor))
    return put(job, f"{site}.quiet_limit", None if limit is None else fact(limit))


def loud(job: Job) -> bool:
    found = [one for one in Plan(job, CATALOG).of(cautions) if one.key.startswith("loud.")]
    assert all(one.severity is Severity.CAUTION for one in found)
    return bool(found)


def test_it_is_too_loud_from_the_loud_end_of_its_band_on():
    at = distance_for(68.0, 50.0 - BAND_DB)
    assert not loud(told(68.0, at * 1.01, 50.0))
    assert loud(told(68.0, at * 0.99, 50.0))


@pytest.mark.parametrize(("stated", "neighbor", "limit", "keys"), [
    (None, 30.0, 50.0, []),
    (68.0, None, None, []),
    (68.0, 30.0, None, ["noise.level"]),
    (68.0, None, 50.0, ["noise.distance"]),
    (68.0, 30.0, 50.0, ["noise.level", "noise.distance"]),
])  # fmt: skip
def test_what_is_told_decides_what_is_said(stated, neighbor, limit, keys):
    job = told(stated, neighbor, limit)
    found = noise(job, job.site)
    assert [one.key for one in found] == keys
    assert found == Plan(job, CATALOG).of(noise_here)
    assert all(one.rounding is Rounding.UP and one.estimated and one.narrows for one in found)
    assert all(one.band.low < one.value < one.band.high for one in found)
    if len(keys) < 2:
        assert not loud(job)


def test_an_inverters_plate_is_said_to_be_at_a_quarter_load():
    job = told(58.0, 30.0, 50.0)
    assert not noise(job, job.site)[0].warnings
    quiet = put(job, "set.set_class", "inverter")
    assert "quarter load" in noise(quiet, quiet.site)[0].warnings[0]


def test_noise_holds_nothing():
    job = told(90.0, 5.0, 40.0)
    texts = [one.text for holds in Plan(job, CATALOG).of(holds_signing).values() for one in holds]
    assert not any("louder" in text for text in texts)
