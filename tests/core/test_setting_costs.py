"""What a setting of the load screw costs, and the carbon monoxide a mixture leaves."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from gentle_ember.core.job.metering import Ran, Taken
from gentle_ember.core.physics.exhaust import NITROGEN, WATER_GAS, monoxide
from gentle_ember.core.physics.fuels import FACTS, FuelKey
from gentle_ember.core.physics.mixture import Metered
from gentle_ember.core.stages.first_start.metering.costs import LEANEST, costs, lean_drop, of_each
from gentle_ember.core.stages.first_start.metering.curve import fit
from gentle_ember.core.stages.fuel_path.mixture import lam_at
from tests.helpers.sweeps import MOST, Set, sets

THROAT = Metered(300.0, 62.0, 30.0, 0.4)


def by_equilibrium(fuel, lam):
    """CO by the same balance, found by halving and not by its root."""
    one = FACTS[fuel]
    carbon, hydrogen, inert = one.carbon, one.hydrogen, one.inert
    oxygen = 2 * lam * (carbon + hydrogen / 4)

    def off(co):
        dioxide = carbon - co
        water = oxygen - 2 * dioxide - co
        hydrogen_gas = hydrogen / 2 - water
        return co * water - WATER_GAS * (dioxide + inert) * hydrogen_gas

    low, high = 1e-12, carbon
    for _ in range(200):
        middle = (low + high) / 2
        if off(middle) > 0:
            high = middle
        else:
            low = middle
    dioxide = carbon - low
    hydrogen_gas = hydrogen / 2 - (oxygen - 2 * dioxide - low)
    air = lam * (carbon + hydrogen / 4) * NITROGEN
    return low / (low + dioxide + inert + hydrogen_gas + air)


@pytest.mark.parametrize("fuel", list(FuelKey))
@pytest.mark.parametrize("lam", [0.72, 0.85, 0.9, 0.95, 0.99])
def test_monoxide_is_the_balance_solved_another_way(fuel, lam):
    assert monoxide(fuel, lam) == pytest.approx(by_equilibrium(fuel, lam), rel=1e-6)


def test_monoxide_falls_with_air_and_is_none_past_enough():
    for fuel in FuelKey:
        left = [monoxide(fuel, lam) for lam in np.linspace(0.7, 1.0, 20)]
        assert all(a > b for a, b in pairwise(left))
        assert left[-1] == 0.0
        assert monoxide(fuel, 1.3) == 0.0
    # The engines of the trade: 3 to 4 % at λ 0.90 on gasoline and propane, less on methane.
    assert 0.033 < monoxide(FuelKey.GASOLINE, 0.9) < 0.040
    assert monoxide(FuelKey.NATURAL_GAS, 0.9) < monoxide(FuelKey.PROPANE, 0.9)


def swept(seed=4, **more):
    one = Set(1.4, seed, **more)
    verdict = one.sweep(1.5)
    assert verdict.setting is not None
    return one, verdict


def test_the_leanest_that_gives_up_a_percent_stands_beside_the_setting():
    one, verdict = swept()
    leanest, as_set = costs(FuelKey.PROPANE, verdict.curves, verdict.mark, one.taken, THROAT)
    assert (leanest.key, as_set.key) == ("leanest", "set")
    assert as_set.turns == verdict.mark
    assert leanest.turns < as_set.turns
    assert leanest.turns * 16 == round(leanest.turns * 16)
    assert leanest.lam.value > as_set.lam.value
    assert leanest.monoxide.value < as_set.monoxide.value
    assert leanest.fuel.value == pytest.approx(1.0)
    # Richer by so much, less the output it holds more of.
    richer = leanest.lam.value / as_set.lam.value
    assert 1.0 < as_set.fuel.value < richer
    # By the set's own curve it really gives up about a percent.
    real = 1 - one.torque(one.right / leanest.turns)
    assert real == pytest.approx(0.01, abs=0.012)
    assert leanest.lam_half.value == pytest.approx(
        lam_at(replace(THROAT, set_to=leanest.lam.value), 0.5)
    )
    for figure in of_each((leanest, as_set)):
        assert figure.method.page == "metering"
        assert figure.narrows


def test_a_probe_tells_lambda_where_none_is_guessed():
    one, verdict = swept()
    guessed = costs(FuelKey.PROPANE, verdict.curves, verdict.mark, one.taken, None)[-1]
    assert guessed.lam.estimated
    assert guessed.lam_half is None
    lean = [replace(taken, lam=1.54 / taken.turns) for taken in one.taken]
    read = costs(FuelKey.PROPANE, verdict.curves, verdict.mark, lean, None)[-1]
    assert not read.lam.estimated
    assert read.lam.value == pytest.approx(1.54 / verdict.mark)
    width = read.lam.band.high - read.lam.band.low
    assert width < guessed.lam.band.high - guessed.lam.band.low


def test_a_lean_drop_is_leaner_than_the_plateaus_setting_and_never_past_its_limit():
    for one, start in sets(20):
        verdict = one.sweep(start)
        if verdict.setting is None:
            continue
        leaned = lean_drop(verdict.curves, one.taken)
        best = float(verdict.curves.turns[int(verdict.curves.mean.argmax())])
        assert 0.90 * best / leaned <= LEANEST + 1e-9
        assert leaned <= verdict.setting.turns + 1 / 8
    one, verdict = swept()
    probed = [replace(taken, lam=1.9 / taken.turns) for taken in one.taken]
    assert lean_drop(verdict.curves, probed) >= 1.9 / LEANEST - 1e-9


def test_no_setting_offered_is_leaner_than_its_limit():
    for one, start in sets(20):
        verdict = one.sweep(start)
        if verdict.setting is None:
            continue
        for cost in costs(FuelKey.PROPANE, verdict.curves, verdict.mark, one.taken, THROAT):
            assert cost.lam.value <= LEANEST + 0.06
            assert 0 <= cost.lost.value < 0.03


def test_lean_drop_stands_just_rich_of_where_it_sags():
    """The practiced hand's rule on curves of published shape: near the most."""
    for one, start in sets(20):
        verdict = one.sweep(start)
        if verdict.setting is None:
            continue
        place = lean_drop(verdict.curves, one.taken)
        assert one.torque(one.right / place) > 0.965
        assert place < verdict.rich.turns + 0.13


def test_a_reading_where_it_died_tells_no_lambda():
    taken = [
        Taken(1.0, 2000.0, 10.0, Ran.SMOOTH, 1.1), Taken(0.6, 0.0, 0.0, Ran.DIED, 1.9),
        Taken(1.3, 2400.0, 10.0), Taken(1.6, 2380.0, 10.0), Taken(2.0, 2200.0, 10.0),
    ]  # fmt: skip
    curves = fit([one for one in taken if one.value], 1.3, (0.1, MOST))
    found = costs(FuelKey.PROPANE, curves, 1.375, taken, None)[-1]
    assert found.lam.value == pytest.approx(1.1 / 1.375)
