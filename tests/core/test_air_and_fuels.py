"""Air and fuels against published values."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuels import (
    GASOLINE_E0,
    METHANE_LHV_J_M3,
    PROPANE,
    biogas,
    mixture_energy,
    natural_gas,
)

ELEVATIONS = st.floats(*air.ELEVATION_RANGE_M)


@pytest.mark.parametrize(
    ("elevation_m", "pressure_ratio", "sigma"),
    [(0, 1.0, 1.0), (1524, 0.8321, 0.8617), (2450, 0.7418, 0.7852)],
)
def test_standard_day(elevation_m, pressure_ratio, sigma):
    assert air.pressure(elevation_m) / 101_325 == pytest.approx(pressure_ratio, abs=1e-4)
    assert air.standard_density_ratio(elevation_m) == pytest.approx(sigma, abs=1e-4)


@pytest.mark.parametrize(("celsius", "pascal"), [(-20, 125.4), (0, 611.2), (20, 2339), (40, 7384)])
def test_saturation_pressure_matches_published_tables(celsius, pascal):
    # Over water; CIPM-2007 / WMO tables.
    assert air.saturation_pressure(celsius + 273.15) == pytest.approx(pascal, rel=0.005)


def test_dew_point_inverts_saturation():
    assert air.dew_point(298.15, 1.0) == pytest.approx(298.15, abs=1e-6)
    assert air.dew_point(298.15, 0.0) == air.TEMPERATURE_RANGE_K[0]


@given(ELEVATIONS, ELEVATIONS)
def test_higher_air_is_thinner(one, other):
    low, high = sorted((one, other))
    assert air.pressure(high) <= air.pressure(low)


@given(st.floats(240, 320), st.floats(0, 1))
def test_damp_air_is_lighter(temperature_k, humidity):
    vapor = humidity * air.saturation_pressure(temperature_k)
    assert air.density(101_325, temperature_k, vapor) <= air.density(101_325, temperature_k)


@pytest.mark.parametrize("bad", [math.nan, math.inf, -500.0, 9000.0])
def test_elevation_out_of_range_names_itself(bad):
    with pytest.raises(QuantityError) as caught:
        air.pressure(bad)
    assert caught.value.name == "elevation"
    assert caught.value.high == 5500.0


def test_mixture_energies():
    # MJ per m³ of stoichiometric mixture at 15 °C, 101,325 Pa.
    assert GASOLINE_E0.mixture_j_m3 == pytest.approx(3.62e6, rel=0.005)
    assert PROPANE.mixture_j_m3 == pytest.approx(3.475e6, rel=0.005)
    assert mixture_energy(METHANE_LHV_J_M3) == pytest.approx(3.218e6, rel=0.005)
    assert natural_gas().mixture_j_m3 == pytest.approx(3.23e6, rel=0.005)
    assert biogas(0.60).mixture_j_m3 == pytest.approx(3.03e6, rel=0.005)


def test_gasoline_mixture_energy_follows_from_its_stoichiometry():
    from_air = 1.225 / GASOLINE_E0.air_fuel_ratio * GASOLINE_E0.lhv_j_kg
    assert from_air == pytest.approx(GASOLINE_E0.mixture_j_m3, rel=0.005)


def test_natural_gas_default_is_the_trade_figure():
    gas = natural_gas()
    btu_per_cubic_foot = gas.hhv_j_m3 / 1055.06 * 0.0283168
    assert btu_per_cubic_foot == pytest.approx(1030, rel=0.005)
    assert gas.hhv_j_kg / gas.lhv_j_kg == pytest.approx(1.108, abs=0.001)
    assert gas.air_fuel_ratio == pytest.approx(16.5, abs=0.4)


def test_propane_ratios():
    assert PROPANE.hhv_j_kg / PROPANE.lhv_j_kg == pytest.approx(1.086, abs=0.001)
    assert PROPANE.specific_gravity == pytest.approx(1.55, abs=0.01)


@given(st.floats(0.40, 0.97))
def test_more_methane_more_energy(share):
    poorer, richer = biogas(share), biogas(share + 0.01)
    assert richer.mixture_j_m3 > poorer.mixture_j_m3
    assert richer.wobbe_j_m3 > poorer.wobbe_j_m3
    assert richer.flammable_low < poorer.flammable_low


@given(st.floats(0.40, 0.98), st.floats(0.0, 0.10))
def test_water_takes_its_share_of_the_heat_by_volume(share, water):
    dry, wet = biogas(share), biogas(share, water)
    assert wet.hhv_j_m3 == pytest.approx(dry.hhv_j_m3 * (1 - water))
    # Lighter than carbon dioxide, heavier than methane.
    assert wet.density_kg_m3 == pytest.approx(
        dry.density_kg_m3 * (1 - water) + water * 18.015 / 28.9647 * 1.225
    )
    # The same methane wants the same air.
    assert wet.air_fuel_ratio * wet.density_kg_m3 == pytest.approx(
        dry.air_fuel_ratio * dry.density_kg_m3 * (1 - water)
    )


def test_pure_methane_is_the_limit_of_biogas():
    nearly = biogas(0.98)
    assert nearly.lhv_j_kg == pytest.approx(50.0e6, rel=0.06)
    assert nearly.air_fuel_ratio == pytest.approx(17.2, rel=0.06)


@pytest.mark.parametrize(("hhv", "gravity"), [(10e6, 0.6), (38e6, 0.2), (math.nan, 0.6)])
def test_no_utility_delivers_that(hhv, gravity):
    with pytest.raises(QuantityError):
        natural_gas(hhv, gravity)
