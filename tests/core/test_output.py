"""Derating: the check values, and what must hold for any set at any site."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuels import (
    GASOLINE_E0,
    GASOLINE_E10,
    METHANE_LHV_J_M3,
    PROPANE,
    FuelKey,
    biogas,
    natural_gas,
)
from gentle_ember.core.physics.output import (
    RATING_VAPOR_PA,
    Conditions,
    EngineRating,
    OutputCase,
    OutputSchool,
    derate,
    friction_factor,
    lambda_as_jetted,
)
from tests.helpers.sets import fact, job_of, output_of

AT_RATING = Conditions(0.0, 298.15)
RATING = EngineRating(3200.0, 3200.0)
FUELS = [GASOLINE_E0, GASOLINE_E10, PROPANE, natural_gas(), biogas(0.6)]
fuels = st.sampled_from(FUELS)
schools = st.sampled_from(list(OutputSchool))
elevations = st.floats(-400, 5400)
temperatures = st.floats(230, 325)
ratings = st.builds(
    EngineRating,
    st.floats(500, 20e3),
    st.floats(500, 20e3),
    st.floats(0, 1500),
    st.floats(273, 313),
)


def conditions(elevation, temperature, humidity=None, jetted=0.0):
    return Conditions(elevation, temperature, humidity, jetted)


def test_physics_at_the_ratings_own_site():
    propane = derate(RATING, PROPANE, AT_RATING, OutputSchool.PHYSICS, OutputSchool.PHYSICS)
    assert propane.factor == pytest.approx(0.90, abs=0.005)
    methane_r = METHANE_LHV_J_M3 / (1 + 0.281e-6 * METHANE_LHV_J_M3) / (3.62e6 * 1.05)
    assert friction_factor(methane_r) == pytest.approx(0.82, abs=0.005)


@pytest.mark.parametrize(
    ("elevation_m", "physics", "field"), [(2450, 0.708, 0.719), (1524, 0.807, 0.825)]
)
def test_gasoline_at_elevation(elevation_m, physics, field):
    at = conditions(elevation_m, 298.15, jetted=elevation_m)
    by_physics = derate(RATING, GASOLINE_E0, at, air_school=OutputSchool.PHYSICS)
    by_field = derate(RATING, GASOLINE_E0, at)
    assert by_physics.factor == pytest.approx(physics, abs=0.003)
    assert by_field.factor == pytest.approx(field, abs=0.001)


def test_field_rule_for_fuels():
    outputs = [derate(RATING, fuel, AT_RATING).factor for fuel in (PROPANE, natural_gas())]
    assert outputs == pytest.approx([0.90, 0.80])
    # 0.744 by its energy, less what a slow flame loses at the set's own spark.
    assert derate(RATING, biogas(0.6), AT_RATING).factor == pytest.approx(0.744 * 0.93, abs=0.003)


@given(st.floats(0.40, 0.98), st.sampled_from(list(OutputSchool)))
def test_the_more_carbon_dioxide_the_more_a_slow_flame_costs(share, school):
    def factor(gas, case=OutputCase.STATED):
        return derate(RATING, gas, AT_RATING, school, school, case).factor

    fall = derate(RATING, biogas(share), AT_RATING, school, school)
    step = next((one for one in fall.steps if one.key == "burning"), None)
    assert step is not None
    assert step.factor == pytest.approx(1 - 0.175 * (1 - share))
    low, high = factor(biogas(share), OutputCase.LOW), factor(biogas(share), OutputCase.HIGH)
    assert low < factor(biogas(share)) < high
    wet = factor(biogas(share, 0.042))
    assert 0.93 < wet / factor(biogas(share)) < 1.0


def test_field_rule_for_heat():
    hot = conditions(0.0, 298.15 + 5.6)
    assert derate(RATING, PROPANE, hot).factor == pytest.approx(0.90 * 0.99)


def test_carburetor_not_rejetted_runs_rich_and_loses():
    at = conditions(2450, 298.15)
    assert lambda_as_jetted(at) == pytest.approx(0.90 * 0.7418**0.5, abs=0.001)
    as_is = derate(RATING, GASOLINE_E0, at)
    rejetted = derate(RATING, GASOLINE_E0, conditions(2450, 298.15, jetted=2450))
    assert as_is.output_w < rejetted.output_w
    assert [step.key for step in as_is.steps if step.change_w < -1] == ["elevation", "mixture"]


def test_engine_reserve_is_held_back_by_the_alternator():
    strong = EngineRating(4000.0, 3200.0)
    at_sea = derate(strong, GASOLINE_E0, AT_RATING)
    assert at_sea.output_w == 3200.0
    assert at_sea.limited_by == "alternator"
    assert at_sea.steps[-1].change_w == pytest.approx(-800.0)
    on_gas = derate(strong, natural_gas(), AT_RATING)
    assert on_gas.limited_by in ("engine", "alternator")
    assert on_gas.output_w == pytest.approx(3200.0)
    high = derate(strong, natural_gas(), conditions(2450, 298.15))
    assert high.limited_by == "engine"
    assert high.output_w == pytest.approx(4000 * 0.8 * (1 - 0.035 * 2450 / 305))


@given(ratings, fuels, elevations, elevations, temperatures, schools, schools)
def test_higher_never_puts_out_more(rating, fuel, one, other, temperature, by_fuel, by_air):
    low, high = sorted((one, other))
    outputs = [
        derate(rating, fuel, conditions(z, temperature), by_fuel, by_air).output_w
        for z in (low, high)
    ]
    assert outputs[1] <= outputs[0] * (1 + 1e-9)


@given(ratings, fuels, elevations, temperatures, temperatures, schools)
def test_hotter_never_puts_out_more(rating, fuel, elevation, one, other, by_air):
    cool, hot = sorted((one, other))
    outputs = [
        derate(rating, fuel, conditions(elevation, t), air_school=by_air).output_w
        for t in (cool, hot)
    ]
    assert outputs[1] <= outputs[0] * (1 + 1e-9)


@settings(max_examples=200)
@given(
    ratings,
    fuels,
    elevations,
    temperatures,
    st.none() | st.floats(0, 1),
    st.floats(-400, 4000),
    schools,
    schools,
    st.sampled_from(list(OutputCase)),
)
def test_waterfall_adds_up(
    rating, fuel, elevation, temperature, humidity, jetted, by_fuel, by_air, case
):
    fall = derate(
        rating, fuel, conditions(elevation, temperature, humidity, jetted), by_fuel, by_air, case
    )
    total = fall.start_w + sum(step.change_w for step in fall.steps)
    assert total == pytest.approx(fall.output_w, abs=1e-6)
    assert 0 <= fall.output_w <= rating.limit_w
    assert fall.start_w == rating.limit_w


@given(ratings, fuels, elevations, temperatures, schools, schools)
def test_cases_are_in_order(rating, fuel, elevation, temperature, by_fuel, by_air):
    at = conditions(elevation, temperature, jetted=elevation if elevation < 4000 else 4000.0)
    low, high = (
        derate(rating, fuel, at, by_fuel, by_air, case).output_w
        for case in (OutputCase.LOW, OutputCase.HIGH)
    )
    assert low <= high + 1e-6


@given(st.floats(0.2, 1.5), st.floats(0.2, 1.5))
def test_friction_factor_grows_with_charge(one, other):
    low, high = sorted((one, other))
    assert friction_factor(low) <= friction_factor(high)
    assert friction_factor(1.0) == pytest.approx(1.0)


@pytest.mark.parametrize(
    "at",
    [
        conditions(9000, 298.15),
        conditions(0, 500.0),
        conditions(0, float("nan")),
        conditions(0, 298.15, humidity=1.2),
    ],
)
def test_absurd_conditions_are_refused(at):
    with pytest.raises(QuantityError):
        derate(RATING, PROPANE, at)


def test_absurd_ratings_are_refused():
    for watts in (-3200.0, 0.0, float("nan"), 1e9):
        with pytest.raises(QuantityError):
            EngineRating(watts, 3200.0)


def test_a_step_of_the_air_is_worked_out_from_the_facts_it_rests_on():
    whole = job_of("frame").model_dump()
    whole["sites"]["s1"] |= {"elevation": fact(1500.0), "hottest": fact(311.0),
                             "humidity": fact(0.8)}  # fmt: skip
    whole["schools"] = {"fuel": "physics", "air": "physics"}
    section = output_of(Job.model_validate(whole))
    found = {
        step.key.rpartition(".")[2]: {(row.path or "").rpartition(".")[2] for row in step.inputs}
        for step in section.of(FuelKey.GASOLINE).steps
    }
    assert {"elevation", "rating_elevation"} <= found["elevation"]
    assert {"hottest", "rating_temperature"} <= found["temperature"]
    assert {"elevation", "jetted_at"} <= found["mixture"]
    assert "hottest" not in found["elevation"] and "elevation" not in found["temperature"]


def test_humidity_told_takes_from_the_field_rule_too_and_none_told_takes_nothing():
    rating = EngineRating(7000.0, 7000.0)
    field, physics = OutputSchool.FIELD_RULE, OutputSchool.PHYSICS
    dry, damp = conditions(1524.0, 311.15), conditions(1524.0, 311.15, humidity=0.6)
    plain = derate(rating, PROPANE, dry, field, field)
    wet = derate(rating, PROPANE, damp, field, field)
    assert not [step for step in plain.steps if step.key == "humidity" and step.change_w]
    vapor = 0.6 * air.saturation_pressure(311.15) - RATING_VAPOR_PA
    expected = 1 - vapor / (air.pressure(1524.0) - RATING_VAPOR_PA)
    assert wet.output_w / plain.output_w == pytest.approx(expected, rel=1e-9)
    # Drier than at the rating: the rule of thumb wins nothing by it.
    bone = derate(rating, PROPANE, conditions(1524.0, 311.15, humidity=0.0), field, field)
    assert bone.output_w == plain.output_w
    assert derate(rating, PROPANE, damp, physics, physics).output_w < wet.output_w
