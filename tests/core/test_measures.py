"""Values measured on the walk-round: what they say, and the work they make."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.estimates.defaults import fuel_line
from gentle_ember.core.job.job import FoundMeasures, Job, Look
from gentle_ember.core.physics.fuels import GASOLINES
from gentle_ember.core.stages.intake.measures import (
    LASH_M,
    MEASURES,
    RULES,
    STREAM_S,
    measured,
    no_good,
)
from gentle_ember.core.stages.intake.walk_round import BY_KEY, tasks
from tests.helpers.sets import fact, job_of

PSI = 6894.757


def looked(key: str, look: str = "good", job: Job | None = None, **values: float) -> Job:
    base = job or job_of("strong")
    held = {name: fact(value) for name, value in values.items()}
    return Job.model_validate(
        {**base.model_dump(), "findings": {key: {"look": look, "measured": held}}}
    )


def work(job: Job) -> dict[str, str]:
    return {one.key: one.why for one in tasks(job)}


@pytest.mark.parametrize(
    ("key", "values", "told"),
    [
        ("lash", {"lash_exhaust": 0.02e-3}, "exhaust valve is tight"),
        ("lash", {"lash_exhaust": 0.15e-3, "lash_intake": 0.4e-3}, "intake valve is loose"),
        ("plug", {"gap": 1.1e-3}, "wide gap"),
        ("plug", {"gap": 0.3e-3}, "narrow gap"),
        ("battery", {"volts": 12.1}, "three quarters"),
        ("compression", {"compression": 45 * PSI}, "leak-down tells"),
        ("compression", {"leak_down": 0.35, "compression": 120 * PSI}, "a fifth of its air"),
        ("tank_filter", {"stream": 1e-6}, "Too thin"),
        ("ground", {"bond": 1.5}, "Neither bonded nor floating"),
        ("ground", {"bond": 90e3}, "Neither bonded nor floating"),
        ("oil", {"oil_level": 0.0}, "not pulled before it is filled"),
        ("oil", {"oil_level": 1.4}, "Over the mark"),
    ],
)
def test_a_value_that_is_no_good_makes_the_places_work_whatever_a_glance_said(key, values, told):
    for look in ("good", "watch", "bad"):
        job = looked(key, look, **values)
        assert told in no_good(job, key)
        if BY_KEY[key].applies(job):
            assert told in work(job)[key]
    noted = job.model_copy(
        update={"findings": {key: job.findings[key].model_copy(update={"note": "by eye"})}}
    )
    if BY_KEY[key].applies(noted):
        assert work(noted)[key] == "by eye"


@pytest.mark.parametrize(
    ("key", "values"),
    [
        ("lash", {"lash_exhaust": 0.15e-3, "lash_intake": 0.10e-3}),
        ("plug", {"gap": 0.75e-3}),
        ("battery", {"volts": 12.7}),
        # A release that opens as it cranks reads low; what holds its air is sound.
        ("compression", {"compression": 45 * PSI, "leak_down": 0.08}),
        ("compression", {"compression": 90 * PSI}),
        ("tank_filter", {"stream": 150e-6}),
        ("plug", {}),
        ("ground", {"bond": 0.3}),
        ("ground", {"bond": 2e6}),
        ("oil", {"oil_level": 0.6}),
        ("oil", {"oil_level": 1.05}),
    ],
)
def test_a_good_value_makes_no_work(key, values):
    job = looked(key, **values)
    assert no_good(job, key) == ""
    assert key not in work(job)
    assert bool(measured(job, key)) is bool(values)


def test_a_stream_is_held_against_what_full_load_burns():
    job = job_of("strong")
    gasoline = GASOLINES[job.set.gasoline]
    burnt = fuel_line(job.set, 5000.0).fuel_w(5000.0) / gasoline.lhv_j_kg / gasoline.density_kg_m3
    enough = 2 * STREAM_S * burnt
    assert 5e-6 < enough < 60e-6
    assert no_good(looked("tank_filter", stream=enough * 0.99), "tank_filter")
    assert not no_good(looked("tank_filter", stream=enough * 1.01), "tank_filter")
    unrated = job.model_copy(update={"set": job.set.model_copy(update={"running": None})})
    assert measured(looked("tank_filter", job=unrated, stream=1e-6), "tank_filter") == ()


def test_every_place_that_is_measured_has_a_rule_and_fields_of_its_own():
    assert set(MEASURES) == set(RULES) <= set(BY_KEY)
    named = [name for names in MEASURES.values() for name in names]
    assert sorted(named) == sorted(FoundMeasures.model_fields)


@given(st.floats(0.0, 2e-3))
def test_lash_is_good_between_its_limits_and_nowhere_else(lash):
    bad = no_good(looked("lash", lash_exhaust=lash), "lash") != ""
    assert bad is not (LASH_M[0] <= lash <= LASH_M[1])


def test_nothing_measured_says_nothing():
    job = job_of("strong")
    assert all(measured(job, key) == () for key in BY_KEY)
    assert looked("plug").findings["plug"].look is Look.GOOD


@pytest.mark.parametrize(("maker", "found", "says"), [
    (0.7e-3, 0.75e-3, "fires gasoline"), (0.7e-3, 0.85e-3, "wide gap"),
    (1.1e-3, 1.15e-3, "fires gasoline"), (0.4e-3, 0.42e-3, "fires gasoline"),
    (0.4e-3, 0.35e-3, "narrow gap"),
])  # fmt: skip
def test_a_plugs_gap_is_held_against_its_own_makers(maker, found, says):
    base = job_of("strong")
    own = {**base.set.model_dump(), "plug": {"gap_gasoline": fact(maker)}}
    job = looked("plug", job=Job.model_validate({**base.model_dump(), "set": own}), gap=found)
    assert says in " ".join(one.text for one in measured(job, "plug"))
