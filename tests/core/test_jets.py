"""Main jets and gas orifices: the rules agree with each other and never lean a set out."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.physics import air, jets, orifice
from gentle_ember.core.physics.fuels import PROPANE, biogas, natural_gas

NUMBERS = st.floats(40.0, 200.0)
RATIOS = st.floats(0.6, 1.1)
LAMBDAS = st.floats(0.6, 1.3)
MARKED = st.booleans()


def test_the_check_values_of_the_density_rule():
    # 2,450 m, standard day: bore × 0.941, a 90 becomes an 85; back at sea level it is a 90 again.
    assert jets.jet_ratio(0.0, 2450.0) == pytest.approx(0.941, abs=5e-4)
    assert round(90 * jets.jet_ratio(0.0, 2450.0)) == 85
    assert jets.jet_ratio(2450.0, 0.0) == pytest.approx(1 / jets.jet_ratio(0.0, 2450.0))
    assert jets.by_step(90, 0.0, 609.6, 2.5) == pytest.approx(87.5)


@given(NUMBERS, RATIOS, RATIOS, MARKED)
def test_the_jet_asked_for_by_density_keeps_the_mixture(number, made, here, bore):
    asked = jets.by_density(number, made, here, bore=bore)
    thinner = jets.lambda_here(0.9, made, here)
    assert jets.lambda_with(thinner, number, asked, bore=bore) == pytest.approx(0.9)
    assert jets.by_density(asked, here, made, bore=bore) == pytest.approx(number)


@given(NUMBERS, LAMBDAS, LAMBDAS, MARKED)
def test_the_jet_asked_for_by_a_probe_gives_the_mixture_wanted(number, measured, wanted, bore):
    asked = jets.by_measure(number, measured, wanted, bore=bore)
    assert jets.lambda_with(measured, number, asked, bore=bore) == pytest.approx(wanted)
    assert (asked > number) is (measured > wanted) or asked == pytest.approx(number)


@given(NUMBERS, st.lists(st.integers(40, 200), max_size=12))
def test_the_jet_taken_from_those_at_hand_is_never_leaner_than_asked(wanted, at_hand):
    taken = jets.not_lean(wanted, at_hand)
    larger = [one for one in at_hand if one >= wanted]
    assert taken == (min(larger) if larger else None)


@given(st.floats(0.5, 1.4), st.floats(0.5, 1.4))
def test_a_leaner_reading_is_never_judged_milder(one, other):
    order = {"rich": 0, "good": 1, "caution": 2, "stop": 3}
    low, high = sorted((one, other))
    assert order[jets.reads(low).state] <= order[jets.reads(high).state]


def test_the_targets_are_those_of_an_air_cooled_engine():
    found = [jets.reads(lam).state for lam in (0.85, 0.86, 0.95, 0.97, 0.971, 1.02, 1.021)]
    assert found == ["rich", "good", "good", "good", "caution", "caution", "stop"]


GASES = [natural_gas(), PROPANE, biogas(0.6)]


@given(st.floats(500.0, 60e3), st.floats(100.0, 2e5), st.sampled_from(GASES),
       st.floats(-400.0, 5000.0), st.floats(253.0, 323.0))  # fmt: skip
def test_an_orifice_passes_what_it_was_sized_for(heat, drop, gas, elevation, kelvin):
    around = air.pressure(elevation), kelvin
    bore = orifice.bore_m(heat, gas, drop, *around)
    if not 1e-4 <= bore <= 0.02:
        return
    passes = orifice.heat_hhv_w(bore, gas, drop, *around)
    assert passes == pytest.approx(heat)
    if bore <= 0.01:
        assert orifice.heat_hhv_w(2 * bore, gas, drop, *around) == pytest.approx(4 * heat)
    # Thin and warm gas passes less; a burner table's coefficient passes an eighth more.
    assert orifice.heat_hhv_w(bore, gas, drop, around[0] * 0.9, kelvin) < passes
    assert orifice.heat_hhv_w(bore, gas, drop, around[0], kelvin + 10) < passes
    table = orifice.heat_hhv_w(bore, gas, drop, *around, orifice.BURNER_TABLES)
    assert table == pytest.approx(passes * 0.90 / 0.80)


@given(st.floats(0.1e-3, 12e-3))
def test_a_drill_is_never_larger_than_the_hole_and_the_next_one_is(bore):
    sizes = sorted(orifice.DRILLS_M.values())
    if bore < sizes[0] * 0.999 or bore > sizes[-1] * 1.05:
        with pytest.raises(QuantityError):
            orifice.drill_under(bore)
        return
    if not sizes[0] <= bore:
        return
    name, drilled = orifice.drill_under(bore)
    assert orifice.DRILLS_M[name] == drilled <= bore * (1 + 1e-8)
    assert all(size <= drilled or size > bore for size in sizes)


@pytest.mark.parametrize(
    ("where", "expected"),
    [
        ({}, 17_511),
        ({"ambient_pa": 75_060.0}, 15_023),
        ({"temperature_k": 311.15}, 16_814),
    ],
)
def test_an_orifice_against_real_gas(where, expected):
    """CoolProp's propane through the same nozzle: 2.334 mm at 11 in w.c.; high up; at 38 °C."""
    found = orifice.heat_hhv_w(2.334e-3, PROPANE, 2739.0, **where)
    assert found == pytest.approx(expected, rel=0.012)


def test_past_choking_flow_goes_with_the_pressure_before_it():
    """Above about a bar of drop nothing downstream is felt: twice the absolute pressure, twice
    the flow."""
    one, two = (orifice.flux(PROPANE, over, 50e3) for over in (100e3, 250e3))
    assert two / one == pytest.approx(300 / 150)
    incompressible = 0.80 * (2 * 69e3 * PROPANE.density_kg_m3) ** 0.5
    assert incompressible / (0.80 * orifice.flux(PROPANE, 69e3, 101_325.0)) == pytest.approx(
        1.09, abs=0.02
    )


def test_two_gases_on_one_orifice_compare_by_their_wobbe_index():
    """At a pressure too small for the gas to expand by."""
    heats = [orifice.heat_hhv_w(2e-3, gas, 200.0) for gas in GASES]
    wobbe = [gas.hhv_j_m3 / gas.density_kg_m3**0.5 for gas in GASES]
    for heat, index in zip(heats, wobbe, strict=True):
        assert heat / heats[0] == pytest.approx(index / wobbe[0], rel=2e-4)


def test_drills_grow_from_80_to_1_and_on_from_a_to_z():
    sizes = list(orifice.DRILLS_M.values())
    assert sizes == sorted(sizes)
    assert len(set(sizes)) == len(sizes) == 80 + 26
    # ASME B94.11M, inches.
    for name, inch in (
        ("#80", 0.0135), ("#60", 0.0400), ("#54", 0.0550), ("#43", 0.0890), ("#30", 0.1285),
        ("#29", 0.1360), ("#21", 0.1590), ("#10", 0.1935), ("#7", 0.2010), ("#1", 0.2280),
        ("A", 0.2340), ("F", 0.2570), ("L", 0.2900), ("Q", 0.3320), ("U", 0.3680), ("Z", 0.4130),
    ):  # fmt: skip
        assert orifice.DRILLS_M[name] == pytest.approx(inch * 25.4e-3)


@pytest.mark.parametrize(("heat", "drop"), [(1.0, 870.0), (10e3, 1.0), (2e6, 870.0)])
def test_what_no_orifice_is_sized_for_is_refused(heat, drop):
    with pytest.raises(QuantityError):
        orifice.bore_m(heat, natural_gas(), drop)


def test_rules_by_height_count_from_where_it_was_made_for():
    """Numbers a step and per cent a step: for the way up, not for the sum of two heights."""
    assert jets.by_step(90.0, 600.0, 600.0, 2.5) == 90.0
    assert jets.by_step(90.0, 609.6, 1219.2, 2.5) == pytest.approx(87.5)
    assert jets.by_step(90.0, 1219.2, 609.6, 2.5) == pytest.approx(92.5)
    assert jets.by_percent(90.0, 600.0, 600.0) == 90.0
    assert jets.by_percent(90.0, 609.6, 1219.2) == pytest.approx(90.0 * 0.98)
    # The rule's own example: a 90 at 2,000 m from sea level.
    assert jets.by_percent(90.0, 0.0, 2000.0) == pytest.approx(84.1, abs=0.05)


def test_a_jet_just_as_large_as_wanted_is_taken():
    assert jets.not_lean(90.0, (87.5, 90.0, 92.5)) == 90.0
    assert jets.not_lean(90.0 + 1e-12, (90.0,)) == 90.0
    assert jets.not_lean(90.1, (90.0,)) is None
    assert jets.not_lean(90.0, ()) is None


@pytest.mark.parametrize(
    ("elevation", "kelvin", "ratio"),
    [(0.0, 288.15, 1.0), (2450.0, 288.15, 0.7412), (0.0, 258.15, 1.1162), (1524.0, 278.24, 0.862)],
)
def test_density_ratios_are_those_of_the_standard_atmosphere(elevation, kelvin, ratio):
    assert jets.density_ratio(elevation, kelvin) == pytest.approx(ratio, abs=2e-3)
