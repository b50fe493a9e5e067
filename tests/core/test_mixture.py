"""The mixture over load: an independent way to the same λ, its limits, and where it is used."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.optimize import brentq

from gentle_ember.core.physics.mixture import (
    HOT,
    HUNTS,
    INTAKE_SHARE,
    Metered,
    drawing,
    over_load,
    pulsed,
    with_idle,
)
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.metering.settings import gas_metering
from gentle_ember.core.stages.fuel_path.mixture import LOADS, NO_GAS, metered, mixture_of
from gentle_ember.core.stages.fuel_path.trains import job_trains
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound

USUAL = Metered(signal_pa=300.0, opening_pa=62.0, path_pa=30.0, idle=0.40)
METERED = [name for name in ("spacer", "twin", "exchanged", "snorkel") if name in CASES]
THROATS = st.builds(
    Metered, st.floats(80.0, 2000.0), st.floats(0.0, 70.0), st.floats(0.0, 60.0),
    st.floats(0.2, 0.6), st.sampled_from([1, 2, 4]), st.floats(0.85, 1.05),
)  # fmt: skip


def pull(steady: float, opening: float, duty: float) -> float:
    """Mean of √(S − opening) over a cycle, by adaptive quadrature."""
    if duty >= 1:
        return math.sqrt(max(0.0, steady - opening))
    peak = steady * (math.pi / (2 * duty)) ** 2
    if peak <= opening:
        return 0.0
    edge = math.asin(math.sqrt(opening / peak))
    area, _ = quad(lambda a: math.sqrt(max(0.0, peak * math.sin(a) ** 2 - opening)), edge,
                   math.pi - edge, limit=200)  # fmt: skip
    return duty * area / math.pi


def slowly(of: Metered, load: float, *, smooth: bool) -> float:
    """λ at a load by root finding, one load at a time."""
    duty = 1.0 if smooth else INTAKE_SHARE * of.cylinders
    at_full = max(1.0, of.set_to)
    full = pull(of.signal_pa * at_full**2, of.opening_pa, duty)
    gain = at_full / of.set_to / full
    if of.path_pa > 0:
        gain = min(gain, 1 / math.sqrt(of.path_pa))
    burnt = of.idle + (1 - of.idle) * load

    def gas(air: float) -> float:
        return gain * pull(of.signal_pa * air**2, of.opening_pa, duty)

    if gas(burnt) >= burnt:
        return burnt / gas(burnt)
    air = brentq(lambda a: gas(a) - burnt, burnt, 4.0)
    return float(air) / burnt


@pytest.mark.parametrize("smooth", [True, False])
@pytest.mark.parametrize("load", [0.0, 0.25, 0.5, 0.8, 1.0])
@pytest.mark.parametrize("of", [USUAL, Metered(150.0, 62.0, 20.0, 0.45, 2),
                                Metered(900.0, 40.0, 100.0, 0.3, 1, 0.88)])  # fmt: skip
def test_it_agrees_with_an_independent_integration(of: Metered, load: float, smooth: bool):
    found = float(over_load(of, np.array([load]), smooth=smooth)[0])
    assert found == pytest.approx(slowly(of, load, smooth=smooth), rel=6e-3)


@pytest.mark.parametrize(("load", "smoothed", "pulsed"), [
    (0.0, 1.42, 1.01), (0.5, 1.07, 0.96), (1.0, 0.95, 0.95),
])  # fmt: skip
def test_the_values_its_page_states(load: float, smoothed: float, pulsed: float):
    for smooth, stated in ((True, smoothed), (False, pulsed)):
        found = float(over_load(USUAL, np.array([load]), smooth=smooth)[0])
        assert found == pytest.approx(stated, abs=0.006)


@given(st.floats(10.0, 3000.0), st.sampled_from([0.28, 0.56, 0.84, 1.0, 1.12]))
def test_pulses_change_nothing_where_nothing_opens_first(steady: float, duty: float):
    assert float(drawing(np.array([steady]), 0.0, duty)[0]) == pytest.approx(steady**0.5, rel=2e-4)


@given(THROATS, st.booleans())
@settings(max_examples=80)
def test_less_load_is_never_richer_and_full_load_is_as_it_was_set(of: Metered, smooth: bool):
    found = over_load(of, LOADS, smooth=smooth)
    finite = found[np.isfinite(found)]
    assert (np.diff(finite) <= 4e-3).all()
    if np.isfinite(found[-1]) and of.signal_pa - of.opening_pa > 2 * of.path_pa:
        assert found[-1] == pytest.approx(of.set_to, abs=4e-3)


@given(THROATS, st.floats(1.0, 60.0), st.booleans())
@settings(max_examples=60)
def test_a_regulator_that_opens_on_more_is_leaner_below_full_load(
    of: Metered, more: float, smooth: bool
):
    harder = replace(of, opening_pa=of.opening_pa + more)
    easy, hard = (over_load(one, LOADS, smooth=smooth) for one in (of, harder))
    assert (hard >= easy - 5e-3).all()


@given(THROATS)
@settings(max_examples=60)
def test_pulses_followed_are_never_leaner_than_smoothed(of: Metered):
    assert (over_load(of, LOADS, smooth=False) <= over_load(of, LOADS, smooth=True) + 5e-3).all()


@given(THROATS, st.booleans())
@settings(max_examples=60)
def test_the_idle_screw_brings_no_load_where_it_is_set(of: Metered, smooth: bool):
    found = over_load(with_idle(of, smooth=smooth), np.array([0.0, 1.0]), smooth=smooth)
    shut = over_load(of, np.array([0.0, 1.0]), smooth=smooth)
    assert found[0] <= shut[0] + 5e-3
    if shut[0] > 1.01:
        assert found[0] == pytest.approx(1.0, abs=0.02)
    if of.signal_pa - of.opening_pa > 4 * of.path_pa:
        assert found[1] == pytest.approx(of.set_to, abs=0.01)


@pytest.mark.parametrize("name", METERED)
def test_every_metered_train_has_its_mixture_with_its_working(name: str):
    for fuel, section in Plan(sound(name), CATALOG).of(job_trains).items():
        found = mixture_of(section.case)
        assert found is not None
        assert found.of == metered(section.case)
        assert [one.key for one in found.figures] == [
            f"mixture.{fuel}.{share}" for share in (0, 25, 50, 100)
        ]
        for one in found.figures:
            assert one.band.low <= one.value <= one.band.high
            assert one.estimated
            assert one.narrows
            assert {"throat's signal at full load", "suction that opens the regulator"} <= {
                row.label for row in one.inputs
            }
        assert all(a <= b <= c for a, b, c in zip(
            found.low, found.expected, found.high, strict=True))  # fmt: skip
        assert found.figures[-1].value == pytest.approx(0.95, abs=0.01)


def troubles(opening: float) -> list[str]:
    job = sound("spacer")
    key = next(slot.part for slot in job.trains["propane"].slots.values()
               if CATALOG.parts[slot.part].opening_pa)  # fmt: skip
    changed = put(job, f"parts.{key}.opening_pa", opening)
    section = Plan(changed, CATALOG).of(job_trains)["propane"]
    return [one.rule for one in section.troubles if one.rule == "part_load"]


def test_a_train_lean_below_full_load_is_a_caution_and_a_light_spring_is_none():
    assert not troubles(20.0)
    assert not troubles(62.0)
    assert troubles(200.0) == ["part_load"]


@pytest.mark.parametrize("name", [name for name in CASES if name not in METERED])
def test_what_is_not_metered_by_a_throat_has_none(name: str):
    for section in Plan(sound(name), CATALOG).of(job_trains).values():
        assert mixture_of(section.case) is None


def test_no_gas_at_all_stands_at_the_top_and_says_so():
    job = sound("spacer")
    key = next(slot.part for slot in job.trains["propane"].slots.values()
               if CATALOG.parts[slot.part].opening_pa)  # fmt: skip
    dead = put(job, f"parts.{key}.opening_pa", 20000.0)
    found = mixture_of(Plan(dead, CATALOG).of(job_trains)["propane"].case)
    assert found is not None
    assert found.expected[0] == NO_GAS
    assert any("does not open" in text for text in found.figures[0].warnings)
    assert HUNTS < HOT < NO_GAS


def test_the_screws_start_by_area_takes_the_gas_as_thin_as_it_is_here():
    def start(meters: float) -> tuple[float, float]:
        job = put(sound("spacer"), "sites.s1.elevation", fact(meters))
        (gas,) = Plan(job, CATALOG).of(gas_metering)
        one = next(start for start in gas.starts if start.key == "start.area")
        density = next(row.value for row in one.inputs if row.label == "density of the gas here")
        return one.value, float(density)

    (low, dense), (high, thin) = start(0.0), start(2450.0)
    assert thin / dense == pytest.approx(0.7418, abs=0.01)
    assert low != high


@given(THROATS, st.floats(0.15, 0.95))
def test_a_tube_shows_the_mean_over_the_pulses_and_no_more(of: Metered, duty: float):
    """What it read is the mean; the steady share below it is less by what the pulses add."""
    read = replace(of, as_read=True)
    steady = read.steady_pa(duty)
    peak = steady * (math.pi / (2 * duty)) ** 2
    area, _ = quad(lambda a: peak * math.sin(a) ** 2, 0, math.pi)
    assert duty * area / math.pi == pytest.approx(of.signal_pa)
    assert of.steady_pa(duty) == of.signal_pa
    assert read.steady_pa(1.0) == of.signal_pa
    assert pulsed(duty) == pytest.approx(of.signal_pa / steady)


@given(THROATS, st.booleans())
def test_a_read_suction_brings_the_two_ends_nearer(of: Metered, smooth: bool):
    """Smoothed it is the suction itself; followed, pulses are not counted twice."""
    read = replace(of, as_read=True)
    loads = np.array([0.25, 0.5, 0.75])
    if smooth or of.cylinders >= 4:
        assert np.array_equal(
            over_load(read, loads, smooth=True), over_load(of, loads, smooth=True)
        )
        return
    followed, counted_twice = (over_load(one, loads, smooth=False) for one in (read, of))
    assert np.all(followed >= counted_twice - 1e-9)


@pytest.mark.parametrize(("grid", "off"), [(121, 2e-3), (201, 1e-3)])
def test_fewer_places_of_air_are_near_enough_for_what_is_asked_often(grid: int, off: float):
    for signal in (120.0, 300.0, 900.0):
        for smooth in (True, False):
            of = replace(USUAL, signal_pa=signal)
            loads = np.array([0.25, 0.5, 0.75])
            fine = over_load(of, loads, smooth=smooth)
            assert np.abs(over_load(of, loads, smooth=smooth, grid=grid) - fine).max() < off
