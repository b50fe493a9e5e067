"""The cylinder against the trade table, a tight integrator, and conservation."""

import numpy as np
import pytest
from CoolProp.CoolProp import PropsSI
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from gentle_ember.catalog import load
from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.physics import propane
from gentle_ember.core.physics.cylinder import (
    STEEL_HEAT_CAPACITY,
    chill,
    continuous_draw,
    starvation_temperature,
)
from gentle_ember.core.physics.fuels import PROPANE
from tools.fit_propane import samples

SIZES = load().cylinders
DRAW_3_KW = 3000 / 0.18 / PROPANE.lhv_j_kg
sizes = st.sampled_from(list(SIZES.values()))


# Rule-of-thumb trade table for a 100 lb cylinder: pounds, °F, BTU/h.
@pytest.mark.parametrize(
    ("pounds", "fahrenheit", "btu_h"),
    [(100, 20, 167_000), (50, 0, 64_000), (50, 40, 125_000), (20, 60, 83_000)],
)
def test_boil_off_reproduces_the_trade_table(pounds, fahrenheit, btu_h):
    ambient = (fahrenheit - 32) / 1.8 + 273.15
    draw = continuous_draw(SIZES["100"], pounds * 0.45359237, ambient, 231.15)
    assert draw * PROPANE.hhv_j_kg / 0.29307107 == pytest.approx(btu_h, rel=0.10)


def test_starvation_halves_the_table_at_zero_fahrenheit():
    by_table = continuous_draw(SIZES["100"], 22.68, 255.37, 231.15)
    by_need = continuous_draw(SIZES["100"], 22.68, 255.37, starvation_temperature(0.0))
    assert by_need / by_table == pytest.approx(0.5, abs=0.05)


@pytest.mark.parametrize(("elevation", "celsius"), [(0, -29.6), (2450, -33.8)])
def test_starvation_temperatures(elevation, celsius):
    assert starvation_temperature(elevation) - 273.15 == pytest.approx(celsius, abs=0.05)


@pytest.mark.parametrize(("celsius", "hours", "left"), [(21, 3.8, 4.1), (0, 1.9, None)])
def test_three_kilowatts_from_a_full_twenty(celsius, hours, left):
    course = chill(
        SIZES["20"], 9.07, DRAW_3_KW, celsius + 273.15, starvation_temperature(0.0), step_s=30
    )
    assert course.starved_s is not None
    assert course.starved_s / 3600 == pytest.approx(hours, abs=0.1)
    if left:
        assert course.left_kg == pytest.approx(left, abs=0.1)


def test_tabulated_properties_match_coolprop():
    kelvin, values = samples()
    for name, function, tolerance in (
        ("LIQUID_DENSITY", propane.liquid_density, 2e-4),
        ("LATENT_HEAT", propane.latent_heat, 5e-4),
        ("LIQUID_HEAT_CAPACITY", propane.liquid_heat_capacity, 2e-3),
    ):
        assert [function(t) for t in kelvin] == pytest.approx(values[name], rel=tolerance)
    pressures = [propane.saturation_pressure(t) for t in kelvin]
    assert pressures == pytest.approx(np.exp(values["LOG_PRESSURE"]), rel=3e-5)


def reference_course(size, contents, draw, ambient, u, until):
    """The same heat balance written again, integrated tightly with CoolProp itself."""

    def rates(_time, state):
        mass, kelvin = state
        area = size.wetted_area(mass, kelvin)
        latent = PropsSI("H", "T", kelvin, "Q", 1, "Propane") - PropsSI(
            "H", "T", kelvin, "Q", 0, "Propane"
        )
        wetted = area / size.shell_m2
        capacity = mass * PropsSI("C", "T", kelvin, "Q", 0, "Propane")
        capacity += wetted * size.tare_kg * STEEL_HEAT_CAPACITY
        return [-draw, (u * area * (ambient - kelvin) - draw * latent) / capacity]

    return solve_ivp(rates, (0, until), [contents, ambient], rtol=1e-8, atol=1e-8)


@pytest.mark.parametrize(("key", "load_w", "celsius"), [("100", 900, 5), ("20", 1500, 21)])
def test_minute_steps_agree_with_a_tight_integrator(key, load_w, celsius):
    size, ambient = SIZES[key], celsius + 273.15
    draw = load_w / 0.18 / PROPANE.lhv_j_kg
    course = chill(size, size.full_kg, draw, ambient, 200.0 + 15, horizon_s=5 * 3600)
    exact = reference_course(size, size.full_kg, draw, ambient, 12.0, course.ended_s)
    fall = ambient - exact.y[1, -1]
    assert ambient - course.temperatures_k[-1] == pytest.approx(fall, rel=0.01)


@given(
    sizes,
    st.floats(0.05, 1.0),
    st.floats(0, 3e-3),
    st.floats(235, 315),
    st.sampled_from([6.0, 12.0, 25.0]),
)
def test_mass_is_conserved_and_temperature_stays_between(size, fill, draw, ambient, u):
    lowest = starvation_temperature(0.0)
    start = fill * size.full_kg
    course = chill(size, start, draw, ambient, lowest, u, step_s=120, horizon_s=24 * 3600)
    assert course.drawn_kg + course.left_kg == pytest.approx(start)
    assert course.drawn_kg == pytest.approx(draw * course.ended_s, abs=draw * 1.0 + 1e-6)
    assert all(np.diff(course.contents_kg) <= 1e-12)
    assert max(course.temperatures_k) <= ambient + 1e-9
    if ambient > lowest:
        assert min(course.temperatures_k) >= lowest - 1e-9


@given(sizes, st.floats(0.1, 1.0), st.floats(225, 320), st.floats(225, 320))
def test_colder_never_boils_off_more(size, fill, one, other):
    cold, warm = sorted((one, other))
    lowest = starvation_temperature(0.0)
    contents = fill * size.full_kg
    assert continuous_draw(size, contents, cold, lowest) <= continuous_draw(
        size, contents, warm, lowest
    )


@given(sizes, st.floats(2e-5, 2e-3), st.floats(250, 315), st.floats(250, 315))
def test_colder_never_runs_longer(size, draw, one, other):
    cold, warm = sorted((one, other))
    lowest = starvation_temperature(0.0)
    ends = [
        chill(size, size.full_kg, draw, t, lowest, step_s=300, horizon_s=48 * 3600).ended_s
        for t in (cold, warm)
    ]
    assert ends[0] <= ends[1] * 1.005 + 1.0


def test_full_is_eighty_percent_and_never_over_nominal():
    assert SIZES["20"].full_kg / 0.45359237 == pytest.approx(19.3, abs=0.05)
    assert all(size.full_kg <= size.nominal_kg for size in SIZES.values())


def test_night_and_day_may_vary_by_step():
    day = [290.0 if hour % 24 < 12 else 270.0 for hour in range(48)]
    course = chill(SIZES["100"], 40.0, 1e-4, day, 230.0, step_s=3600, horizon_s=48 * 3600)
    assert min(course.temperatures_k) < 275 < max(course.temperatures_k[24:])


@pytest.mark.parametrize(
    ("contents", "draw", "ambient"),
    [(90.0, 1e-4, 290.0), (5.0, -1e-4, 290.0), (5.0, 1e-4, 400.0), (float("nan"), 1e-4, 290.0)],
)
def test_impossible_draws_are_refused(contents, draw, ambient):
    with pytest.raises(QuantityError):
        chill(SIZES["20"], contents, draw, ambient, 240.0)
