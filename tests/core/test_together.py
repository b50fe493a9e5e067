"""Readings taken together, against plain linear algebra and planted strays."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.physics.together import Unknown, gradient, take_together, without_strays

SLOPES = np.array([[1.0, 0.0], [1.0, 1.0], [1.0, 2.0], [1.0, 3.0], [1.0, 4.0]])
WIDE = [Unknown("level", 0.0, 50.0), Unknown("slope", 0.0, 50.0)]


def line(at):
    return SLOPES @ at


def by_normal_equations(unknowns, slopes, read, sigma):
    """Mean and covariance of a linear model with a normal prior, by the textbook."""
    prior = np.diag([one.sigma**-2 for one in unknowns])
    weight = np.diag(sigma**-2.0)
    covariance = np.linalg.inv(prior + slopes.T @ weight @ slopes)
    middles = np.array([one.middle for one in unknowns])
    return covariance @ (prior @ middles + slopes.T @ weight @ read), covariance


reads = st.lists(st.floats(-20, 20), min_size=5, max_size=5)
errors = st.lists(st.floats(0.05, 3), min_size=5, max_size=5)
priors = st.tuples(st.floats(-5, 5), st.floats(0.1, 30), st.floats(-5, 5), st.floats(0.1, 30))


@given(read=reads, error=errors, prior=priors)
def test_a_straight_model_comes_out_as_the_textbook_has_it(read, error, prior):
    unknowns = [Unknown("level", *prior[:2]), Unknown("slope", *prior[2:])]
    read, sigma = np.array(read), np.array(error)
    mean, covariance = by_normal_equations(unknowns, SLOPES, read, sigma)
    found = take_together(unknowns, line, read, sigma)
    assert found.at == pytest.approx(mean, rel=1e-4, abs=1e-4)
    assert found.covariance == pytest.approx(covariance, rel=1e-3, abs=1e-9)
    assert found.off == pytest.approx((read - SLOPES @ mean) / sigma, rel=1e-3, abs=1e-3)


@given(read=reads, error=errors, at=st.floats(-3, 6), sigma=st.floats(0.05, 3))
def test_what_a_reading_would_leave_is_what_it_leaves(read, error, at, sigma):
    """The foretold narrowing against the same problem with that reading really in it."""
    read, errors_ = np.array(read), np.array(error)
    now = take_together(WIDE, line, read, errors_)

    def asked(unknowns):
        return float(unknowns[0] + 10 * unknowns[1])

    def told(unknowns):
        return float(unknowns[0] + at * unknowns[1])

    foretold = now.with_reading(asked, told, sigma)
    more = np.vstack([SLOPES, [1.0, at]])
    value = told(now.at)
    then = take_together(
        WIDE, lambda x: more @ x, np.append(read, value), np.append(errors_, sigma)
    )
    assert foretold == pytest.approx(then.spread(asked), rel=1e-3)
    assert foretold <= now.spread(asked) * (1 + 1e-9)


def test_nothing_read_leaves_what_was_known():
    unknowns = [Unknown("a", 3.0, 0.5), Unknown("b", -1.0, 2.0)]
    found, out = without_strays(unknowns, lambda at: at[:0], np.empty(0), np.empty(0))
    assert out == ()
    assert found.at == pytest.approx([3.0, -1.0])
    assert found.covariance == pytest.approx(np.diag([0.25, 4.0]))


@pytest.mark.parametrize("place", range(5))
def test_a_planted_stray_is_found_and_left_out(place):
    rng = np.random.default_rng(place)
    read = SLOPES @ np.array([2.0, 0.7]) + rng.normal(0, 0.05, 5)
    read[place] += 1.5
    found, out = without_strays(WIDE, line, read, np.full(5, 0.1))
    assert out == (place,)
    assert found.at == pytest.approx([2.0, 0.7], abs=0.25)


def test_sound_readings_are_seldom_called_strays():
    """Three standard errors: five readings a time, a false call in under one case of forty."""
    rng = np.random.default_rng(7)
    called = sum(
        bool(without_strays(WIDE, line, SLOPES @ [1.0, 1.0] + rng.normal(0, 0.1, 5),
                            np.full(5, 0.1))[1])
        for _ in range(200)
    )  # fmt: skip
    assert called <= 8


def test_a_reading_unlike_what_was_known_before_is_no_stray():
    """A worn engine is unlike its class: two readings that agree are believed over the class."""
    unknowns = [Unknown("engine", 0.0, 0.05)]
    read = np.array([-0.22, -0.21])
    found, out = without_strays(unknowns, lambda at: np.repeat(at, 2), read, np.full(2, 0.02))
    assert out == ()
    assert found.at[0] == pytest.approx(-0.215 * 2 * 2500 / (2 * 2500 + 400), rel=1e-3)


def test_slopes_are_those_of_calculus():
    at = np.array([0.3, -1.2])
    found = gradient(lambda x: float(np.exp(x[0]) * np.sin(x[1])), at)
    expected = [np.exp(0.3) * np.sin(-1.2), np.exp(0.3) * np.cos(-1.2)]
    assert found == pytest.approx(expected, rel=1e-6)
