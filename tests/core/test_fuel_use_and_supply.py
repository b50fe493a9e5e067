"""Willans lines, tanks and gas flows."""

import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.physics.fuel_use import (
    BAND_DATA_SHEET,
    BAND_DEFAULT,
    BAND_MOST,
    BAND_ONE_POINT,
    BAND_WEIGHED,
    CLASS_DEFAULTS,
    METERED,
    Point,
    SetClass,
    class_line,
    fit,
    weighing_error,
)
from gentle_ember.core.physics.fuels import GASOLINE_E0, PROPANE, natural_gas
from gentle_ember.core.physics.supply import heat_rate_hhv, mass_draw, tank_energy, volume_draw


@pytest.mark.parametrize("set_class", list(SetClass))
def test_class_lines_meet_their_two_figures(set_class):
    efficiency, idle_share = CLASS_DEFAULTS[set_class]
    line = class_line(set_class, 4000.0)
    assert 4000 / line.fuel_w(4000) == pytest.approx(efficiency)
    assert line.fuel_w(0) / line.fuel_w(4000) == pytest.approx(idle_share)
    assert line.band == 0.20


@given(st.floats(200, 5000), st.floats(1.5, 6.0))
def test_fit_recovers_a_true_line(a, b):
    points = [Point(p, a + b * p) for p in (700.0, 1400.0, 2800.0)]
    usable = [p for p in points if p.electrical_w <= 0.4 * p.fuel_w]
    if len(usable) < 3:
        return
    line = fit(points, SetClass.INVERTER, 2800.0)
    assert line.a_w == pytest.approx(a, rel=1e-6)
    assert line.b == pytest.approx(b, rel=1e-6)
    assert line.band == 0.10


def test_one_load_keeps_the_class_shape():
    shape = class_line(SetClass.INVERTER, 3200.0)
    line = fit([Point(1600.0, 2 * shape.fuel_w(1600.0))], SetClass.INVERTER, 3200.0)
    assert line.fuel_w(3200.0) == pytest.approx(2 * shape.fuel_w(3200.0))
    assert line.band == 0.12


def test_weigh_ins_overrule_the_data_sheet_when_they_give_a_slope():
    sheet = [Point(800.0, 6000.0), Point(3200.0, 20000.0)]
    weighed = [Point(900.0, 7000.0, weighed=True), Point(2900.0, 21000.0, weighed=True)]
    line = fit(sheet + weighed, SetClass.INVERTER, 3200.0)
    assert line.basis == "2 weigh-ins"
    assert line.fuel_w(900.0) == pytest.approx(7000.0)
    mixed = fit(sheet + weighed[:1], SetClass.INVERTER, 3200.0)
    assert mixed.basis == "3 run times"


def test_scatter_widens_the_band():
    wild = [Point(800.0, 6000.0), Point(1600.0, 16000.0), Point(3200.0, 20000.0)]
    assert fit(wild, SetClass.INVERTER, 3200.0).band > 0.15


def test_a_run_better_than_any_engine_is_refused():
    with pytest.raises(QuantityError) as caught:
        fit([Point(3000.0, 5000.0)], SetClass.INVERTER, 3200.0)
    assert caught.value.name == "efficiency of a run"


def test_energy_is_conserved_between_tank_and_draw():
    fuel_w = 12_000.0
    seconds = tank_energy(0.010, GASOLINE_E0, 1.0) / fuel_w
    burnt = mass_draw(fuel_w, GASOLINE_E0) * seconds
    assert burnt == pytest.approx(0.010 * GASOLINE_E0.density_kg_m3)


def test_utility_flow_in_trade_units():
    # 100,000 BTU/h (HHV) of 1,030 BTU/ft³ gas is 97.1 ft³/h.
    gas = natural_gas()
    lhv_w = 100_000 * 0.293071 * gas.lhv_j_kg / gas.hhv_j_kg
    cubic_feet = volume_draw(lhv_w, gas) * 3600 / 0.0283168
    assert cubic_feet == pytest.approx(97.1, rel=0.005)
    assert heat_rate_hhv(lhv_w, gas) == pytest.approx(29_307.1)


def test_propane_heat_rate_uses_its_higher_value():
    assert heat_rate_hhv(46.35e3, PROPANE) == pytest.approx(50.35e3)


@pytest.mark.parametrize("volume", [-1.0, float("nan"), 1e9])
def test_tanks_that_cannot_be(volume):
    with pytest.raises(QuantityError):
        tank_energy(volume, GASOLINE_E0)


def test_a_line_says_what_it_stands_on_and_how_well():
    bare = fit([], SetClass.OPEN_FRAME, 5000.0)
    assert bare == class_line(SetClass.OPEN_FRAME, 5000.0)
    assert (bare.basis, bare.band) == ("class default", BAND_DEFAULT)
    one = fit([Point(2500.0, 17_000.0)], SetClass.OPEN_FRAME, 5000.0)
    assert (one.basis, one.band) == ("class shape through one load", BAND_ONE_POINT)
    rows = [Point(1250.0, 12_000.0), Point(2500.0, 17_000.0)]
    assert fit(rows, SetClass.OPEN_FRAME, 5000.0).band == BAND_DATA_SHEET
    weighed = [Point(p.electrical_w, p.fuel_w, weighed=True) for p in rows]
    assert fit(weighed, SetClass.OPEN_FRAME, 5000.0).band == BAND_WEIGHED


def test_two_loads_that_lie_close_give_no_slope():
    close = [Point(2500.0, 17_000.0), Point(2500.0 + 0.149 * 5000.0, 19_500.0)]
    apart = [close[0], Point(2500.0 + 0.15 * 5000.0, 19_500.0)]
    assert fit(close, SetClass.OPEN_FRAME, 5000.0).basis == "class shape through one load"
    assert fit(apart, SetClass.OPEN_FRAME, 5000.0).basis == "2 run times"


def test_what_scatters_more_than_its_band_widens_it_by_as_much():
    rows = [Point(0.0, 8_000.0), Point(2500.0, 22_000.0), Point(5000.0, 24_000.0)]
    line = fit(rows, SetClass.OPEN_FRAME, 5000.0)
    off = max(abs(line.fuel_w(p.electrical_w) - p.fuel_w) / p.fuel_w for p in rows)
    assert line.band == pytest.approx(off) and off > BAND_DATA_SHEET


def test_a_run_better_than_any_engine_is_refused_with_its_share():
    fit([Point(4000.0, 10_000.0)], SetClass.OPEN_FRAME, 5000.0)
    with pytest.raises(QuantityError, match="efficiency of a run") as refused:
        fit([Point(4001.0, 10_000.0)], SetClass.OPEN_FRAME, 5000.0)
    assert refused.value.value == pytest.approx(0.4001)


def test_a_line_is_less_sure_the_further_it_is_carried_past_its_runs():
    line = fit([Point(500.0, 9_000.0), Point(1250.0, 12_000.0)], SetClass.OPEN_FRAME, 5000.0)
    at = [line.band_at(load) for load in (875.0, 1250.0, 2500.0, 3750.0, 5000.0)]
    assert at[0] == line.band
    assert at == sorted(at) and at[-1] == BAND_MOST
    wide = fit([Point(1250.0, 12_000.0), Point(5000.0, 27_000.0)], SetClass.OPEN_FRAME, 5000.0)
    assert wide.band_at(5000.0) == wide.band


def test_two_weigh_ins_at_10_and_25_per_cent_say_little_of_full_load():
    """The reach of least squares by hand: half-width of one run, times √(1/n + Δ²/Sxx)."""
    rows = [Point(500.0, 8_000.0, weighed=True), Point(1250.0, 11_000.0, weighed=True)]
    line = fit(rows, SetClass.OPEN_FRAME, 5000.0)
    reach = math.sqrt(0.5 + (2500.0 - 875.0) ** 2 / (2 * 375.0**2))
    wanted = BAND_WEIGHED * reach * line.fuel_w(875.0) / line.fuel_w(2500.0)
    assert line.band_at(2500.0) == pytest.approx(wanted)
    assert line.band_at(5000.0) > 2.5 * BAND_WEIGHED


@given(st.lists(st.floats(200.0, 5000.0), min_size=2, max_size=6), st.floats(0.0, 5000.0))
def test_a_band_is_never_under_one_runs_nor_past_what_a_class_is_off(loads, at):
    line = fit([Point(p, 6_000.0 + 4 * p) for p in loads], SetClass.OPEN_FRAME, 5000.0)
    assert line.band <= line.band_at(at) <= max(BAND_MOST, line.band)


def test_a_classs_line_is_as_sure_at_any_load():
    line = class_line(SetClass.INVERTER, 3000.0)
    assert line.band_at(0.0) == line.band_at(3000.0) == line.band


def test_scattered_runs_are_covered_by_the_band_of_their_line_at_full_load():
    """Simulated: weigh-ins off by a twentieth at part load; how often full load lies within."""
    drawn = random.Random(7)
    within = 0
    for _ in range(300):
        rows = [
            Point(p, (6_000.0 + 4 * p) * (1 + drawn.uniform(-0.05, 0.05)), weighed=True)
            for p in (800.0, 1500.0, 2200.0)
        ]
        line = fit(rows, SetClass.OPEN_FRAME, 5000.0)
        off = abs(line.fuel_w(5000.0) / 26_000.0 - 1)
        within += off <= line.band_at(5000.0)
    assert 0.85 < within / 300 < 1.0


@pytest.mark.parametrize(
    ("burnt", "reads_to", "chilled", "error"),
    [
        # Two weighings of a 50 g scale are off by 71 g together, frost by 30 more.
        (0.15, 0.05, True, 0.512),
        (0.15, 0.05, False, 0.471),
        (3.0, 0.05, True, 0.0275),
        (3.0, 0.005, False, 0.0103),
    ],
)
def test_a_weighing_is_as_good_as_its_scale(burnt, reads_to, chilled, error):
    found = weighing_error(burnt, reads_to, chilled=chilled)
    assert found == pytest.approx(error, rel=0.01)


@given(st.floats(0.05, 20.0), st.floats(1e-3, 0.5))
def test_more_burnt_or_a_finer_scale_never_weighs_worse(burnt, reads_to):
    here = weighing_error(burnt, reads_to, chilled=True)
    assert weighing_error(2 * burnt, reads_to, chilled=True) < here
    assert weighing_error(burnt, reads_to / 2, chilled=True) <= here
    assert weighing_error(burnt, reads_to, chilled=False) <= here
    assert here > METERED


def test_weighings_count_by_how_well_they_were_weighed():
    """Three runs on one line, a fourth far off it: on a poor scale it hardly moves the line."""
    true = [Point(load, 2000.0 + 4.0 * load, weighed=True, sigma=0.02)
            for load in (800.0, 1800.0, 3200.0)]  # fmt: skip
    off = 1.25 * (2000.0 + 4.0 * 2500.0)
    poor, good = (
        fit([*true, Point(2500.0, off, weighed=True, sigma=sigma)], SetClass.OPEN_FRAME, 4000.0)
        for sigma in (0.30, 0.02)
    )
    assert poor.fuel_w(2500.0) == pytest.approx(12_000.0, rel=0.01)
    assert good.fuel_w(2500.0) > 1.04 * 12_000.0


@pytest.mark.parametrize(("sigma", "band"), [(0.0, BAND_WEIGHED), (0.02, 0.05), (0.10, 0.20)])
def test_a_line_through_weighings_is_no_surer_than_they_are(sigma, band):
    points = [Point(load, 2000.0 + 4.0 * load, weighed=True, sigma=sigma)
              for load in (800.0, 3600.0)]  # fmt: skip
    assert fit(points, SetClass.OPEN_FRAME, 4000.0).band == pytest.approx(band)


def test_one_poor_weighing_scales_the_class_with_its_own_doubt():
    one = [Point(2000.0, 12_000.0, weighed=True, sigma=0.15)]
    assert fit(one, SetClass.OPEN_FRAME, 4000.0).band == pytest.approx(0.30)
    sure = [Point(2000.0, 12_000.0, weighed=True, sigma=0.02)]
    assert fit(sure, SetClass.OPEN_FRAME, 4000.0).band == pytest.approx(BAND_ONE_POINT)
