"""Gasolines with ethanol: what they lean, what the jet asks for, and what is not burnt at all."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.estimates.defaults import leaner_by_fuel, machine
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import coldest_mixture
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.fuels import GASOLINE_E0, GASOLINES, FuelKey
from gentle_ember.core.physics.output import Conditions, lambda_as_jetted
from gentle_ember.core.route import cautions, forbids, refusals
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.load_test.jets import jets_here, lambda_at
from tests.core.test_load_test import set_up_high
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound

ETHANOL_KG_M3, ETHANOL_J_KG, ETHANOL_AIR = 794.0, 26.8e6, 9.0
SHARES = {"e0": 0.0, "e10": 0.10, "e15": 0.15, "e85": 0.85}


@pytest.mark.parametrize(("key", "share"), SHARES.items())
def test_each_gasoline_is_its_share_of_ethanol_and_the_rest_gasoline(key: str, share: float):
    """Volumes add; heat and air go by mass."""
    fuel, plain = GASOLINES[key], GASOLINE_E0
    density = share * ETHANOL_KG_M3 + (1 - share) * plain.density_kg_m3
    mass = share * ETHANOL_KG_M3 / density
    assert fuel.density_kg_m3 == pytest.approx(density, rel=0.003)
    assert fuel.lhv_j_kg == pytest.approx(
        mass * ETHANOL_J_KG + (1 - mass) * plain.lhv_j_kg, rel=0.006
    )
    assert fuel.air_fuel_ratio == pytest.approx(
        mass * ETHANOL_AIR + (1 - mass) * plain.air_fuel_ratio, rel=0.003
    )
    assert fuel.hhv_j_kg > fuel.lhv_j_kg


@pytest.mark.parametrize(("burns", "leaner"), [("e0", 1.0), ("e10", 1.04), ("e15", 1.06),
                                               ("e85", 1.46)])  # fmt: skip
def test_a_jet_without_ethanol_is_leaned_by_what_the_fuel_asks(burns: str, leaner: float):
    assert jets.lean_by_fuel(GASOLINE_E0, GASOLINES[burns]) == pytest.approx(leaner, abs=0.005)


@given(st.sampled_from(sorted(GASOLINES)), st.sampled_from(sorted(GASOLINES)),
       st.sampled_from(sorted(GASOLINES)), st.booleans(), st.floats(40, 200))  # fmt: skip
def test_fuels_and_numbers_chain_and_come_back(a: str, b: str, c: str, bore: bool, number: float):
    one, two, three = GASOLINES[a], GASOLINES[b], GASOLINES[c]
    leaner = jets.lean_by_fuel
    assert leaner(one, two) * leaner(two, three) == pytest.approx(leaner(one, three))
    there = jets.for_fuel(number, leaner(one, two), bore=bore)
    assert jets.for_fuel(there, leaner(two, one), bore=bore) == pytest.approx(number)
    # With the number asked for, λ is what it was on the first fuel.
    assert jets.lambda_with(0.9 * leaner(one, two), number, there, bore=bore) == pytest.approx(0.9)


def up_high(gasoline: str, made_on: str) -> Job:
    return put(put(set_up_high(), "set.gasoline", gasoline), "set.carburetor.jets.made_on", made_on)


@pytest.mark.parametrize(("made_on", "burns", "factor"), [
    ("e0", "e0", 1.0), ("e10", "e10", 1.0), ("e0", "e10", 1.0391), ("unknown", "e10", 1.0391),
    ("e10", "e0", 1 / 1.0391), ("unknown", "e0", 1.0),
])  # fmt: skip
def test_the_schools_and_the_mixture_know_the_gasoline(made_on: str, burns: str, factor: float):
    job = up_high(burns, made_on)
    assert leaner_by_fuel(job.set) == pytest.approx(factor, rel=1e-4)
    by = {one.key: one for one in Plan(job, CATALOG).of(jets_here).wanted}
    plain = {one.key: one for one in Plan(up_high("e0", "e0"), CATALOG).of(jets_here).wanted}
    for key in ("jets.density", "jets.step"):
        assert by[key].value == pytest.approx(plain[key].value * factor**0.5, rel=1e-4)
        assert any(one.label == "leaner by its ethanol" for one in by[key].inputs)
    assert by["jets.kit"].value == plain["jets.kit"].value
    here = lambda_at(job, 90.0, 0.0)
    assert here is not None
    assert here / lambda_at(up_high("e0", "e0"), 90.0, 0.0) == pytest.approx(factor, rel=1e-4)
    output = Plan(job, CATALOG).of(output_here).of(FuelKey.GASOLINE)
    usual = Plan(up_high("e0", "e0"), CATALOG).of(output_here).of(FuelKey.GASOLINE)
    assert output.mixture_lambda / usual.mixture_lambda == pytest.approx(factor, rel=1e-3)


def test_a_jet_that_was_kept_here_was_tried_on_the_gasoline_here():
    job = put(up_high("e10", "e0"), "set.carburetor.jets.fitted_for", fact(2450.0))
    assert machine(job.set).leaner == 1.0
    assert machine(up_high("e10", "e0").set).leaner > 1.03


def ethanol(job: Job) -> Caution | None:
    return next((one for one in Plan(job, CATALOG).of(cautions) if one.key == "ethanol"), None)


@pytest.mark.parametrize("name", CASES)
def test_e85_stops_gasoline_and_nothing_else_of_every_method(name: str):
    job = put(sound(name), "set.gasoline", "e85")
    found = ethanol(job)
    assert found is not None
    assert (found.severity, found.fuel) == (Severity.STOP, FuelKey.GASOLINE)
    plan = Plan(job, CATALOG)
    assert any("E85" in one.text for one in forbids(plan, FuelKey.GASOLINE))
    for fuel in set(job.trains) - {"gasoline"}:
        assert not any("E85" in one.text for one in forbids(plan, fuel))
    after = put(job, "starts.gasoline.attempts.a1", {"result": "runs"})
    assert any("E85" in one.text for one in refusals(job, Plan(after, CATALOG)))
    assert not any("E85" in one.text for one in forbids(Plan(sound(name), CATALOG), "gasoline"))


def test_e15_is_warned_of_and_a_set_given_up_to_gas_asks_nothing_of_gasoline():
    job = sound("spacer")
    assert ethanol(put(job, "set.gasoline", "e15")).severity is Severity.CAUTION
    assert ethanol(put(job, "set.gasoline", "e10")) is None
    gone = put(put(job, "set.gasoline", "e85"), "wants.keep_gasoline", False)
    assert ethanol(gone) is not None
    gone = put(gone, "fit.steps.gasoline_off", {"state": "done", "by": "RK"})
    assert ethanol(gone) is None


@pytest.mark.parametrize(("jetted_m", "here_m", "hot_c", "cold_c", "dry"), [
    (0, 0, 30, -25, 0.987), (1524, 1200, 30, -25, 1.006), (600, 0, 30, -25, 1.022),
    (1524, 300, 25, -30, 1.073), (0, 0, 25, 25, 0.900), (0, 2450, 25, -5, 0.817),
])  # fmt: skip
def test_lean_is_judged_on_the_coldest_night(jetted_m, here_m, hot_c, cold_c, dry):
    """By an independent way: barometric formula, ideal gas, gasoline by its expansion.

    `dry` is λ without the colder gasoline being denser.
    """

    def pascals(meters: float) -> float:
        return 101325.0 * (1 - 0.0065 * meters / 288.15) ** 5.25588

    mine = 0.90 * (pascals(here_m) / pascals(jetted_m) * 298.15 / (cold_c + 273.15)) ** 0.5
    assert mine == pytest.approx(dry, abs=0.002)
    mine *= (1 - 9.5e-4 * (cold_c - 25)) ** -0.5
    job = sound("spacer")
    for path, value in (
        ("set.carburetor.jetted_at", fact(jetted_m)), ("sites.s1.elevation", fact(here_m)),
        ("sites.s1.hottest", fact(hot_c + 273.15)), ("sites.s1.coldest", fact(cold_c + 273.15)),
        ("set.gasoline", "e0"),
    ):  # fmt: skip
        job = put(job, path, value)
    found = coldest_mixture(job.set, job.sites["s1"], "s1")
    assert found is not None
    assert found.value == pytest.approx(mine, abs=0.002)
    told = {one.key: one for one in Plan(job, CATALOG).of(cautions)}.get("lean.s1")
    assert (told is not None) is (mine > jets.CAUTION)
    if told is not None:
        assert (told.severity is Severity.STOP) is (mine > jets.STOP)
    ten = coldest_mixture(put(job, "set.gasoline", "e10").set, job.sites["s1"], "s1")
    assert ten is not None
    assert ten.value / found.value == pytest.approx(1.0391, rel=1e-3)


@given(st.floats(223.0, 300.0), st.floats(0.0, 20.0))
def test_colder_is_leaner(kelvin: float, less: float):
    def lam(at: float) -> float:
        return lambda_as_jetted(Conditions(500.0, at, None, 300.0))

    assert lam(max(220.0, kelvin - less)) >= lam(kelvin)


def test_another_site_is_warned_of_and_does_not_stop_this_one():
    job = put(sound("spacer"), "set.carburetor.jetted_at", fact(2450.0))
    job = put(job, "set.carburetor.jets.made_on", "e10")
    job = put(job, "sites.s1.elevation", fact(2450.0))
    low = {"name": "Valley", "elevation": fact(0.0), "coldest": fact(250.0)}
    job = put(job, "sites.s2", low)
    told = {one.key: one for one in Plan(job, CATALOG).of(cautions) if one.key.startswith("lean.")}
    assert set(told) == {"lean.s2"}
    assert (told["lean.s2"].severity, told["lean.s2"].site) == (Severity.CAUTION, "s2")
    assert "at Valley" in told["lean.s2"].text
    assert "fit the jet for this elevation" in told["lean.s2"].text
    cold = put(sound("spacer"), "sites.s1.coldest", fact(243.0))
    said = {one.key: one.text for one in Plan(cold, CATALOG).of(cautions)}
    assert "say what gasoline its jet was chosen on" in said["lean.s1"]
    there = put(job, "site", "s2")
    stops = [one.key for one in Plan(there, CATALOG).of(cautions)
             if one.severity is Severity.STOP and one.key.startswith("lean.")]  # fmt: skip
    assert stops == ["lean.s2"]
    assert any("lean" in one.text for one in forbids(Plan(there, CATALOG), "gasoline"))
    assert not any("lean" in one.text for one in forbids(Plan(there, CATALOG), "propane"))
