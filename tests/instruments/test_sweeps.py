"""The judge of a sweep against benches and curves it has never seen, and where none can be set."""

import math
import os
import statistics
from collections import Counter

import pytest

from gentle_ember.core.job.metering import Ran, Signal, Taken
from gentle_ember.core.stages.first_start.metering.sweep import Why, judge
from tests.helpers.sweeps import MOST, START, Set, bench, sets, swept

CLASSES = [("inverter", "propane"), ("frame", "propane"), ("large", "natural_gas"),
           ("twin", "natural_gas"), ("small", "propane")]  # fmt: skip


WIDE = [5000] if os.environ.get("HYPOTHESIS_PROFILE") == "wide" else []
"""Other benches, looked at where a run is to look further."""


@pytest.mark.parametrize("offset", [0, *WIDE])
def test_a_bench_is_set_well_inside_its_plateau_within_nine_readings(offset):
    found, counts = Counter(), []
    for number in range(50):
        size, fuel = CLASSES[number % len(CLASSES)]
        one = bench(size, fuel, offset + number)
        lean, rich = one.plateau(0.98)
        verdict, readings = swept(one, START)
        counts.append(len(readings))
        found["set"] += verdict.setting is not None
        if verdict.setting is not None:
            off = abs(verdict.setting.turns - (lean + rich) / 2) / (rich - lean)
            found["good"] += off <= 0.25 and len(readings) <= 9
    assert found["good"] >= 48, found
    assert statistics.mean(counts) < 6.8


@pytest.mark.parametrize("offset", [0, *WIDE])
def test_with_a_probe_two_or_three_readings_do(offset):
    counts, lams = [], []
    for number in range(offset, offset + 25):
        size, fuel = CLASSES[number % len(CLASSES)]
        verdict, readings = swept(bench(size, fuel, number), START, probe=True)
        assert verdict.by_lambda, verdict.why
        counts.append(sum(one.lam is not None for one in readings))
        near = min(readings, key=lambda one: abs(one.turns - verdict.setting.turns))
        lams.append(near.lam * near.turns / verdict.setting.turns)
    assert statistics.median(counts) <= 3
    assert all(abs(one - 0.95) < 0.03 for one in lams)


def other_torque(lam: float) -> float:
    """Torque over λ by a wholly different hand: two half bells about λ = 0.93."""
    off = math.log(lam / 0.93)
    return math.exp(-0.5 * (off / (0.28 if off < 0 else 0.17)) ** 2)


# name: what is wrong with the readings, most that is lost on the mean, readings on the mean
EYES = {
    "clean": ({}, 0.0020, 5.8),
    "half a percent": ({"noise": 0.005}, 0.0020, 6.0),
    "falling": ({"drift": -0.005}, 0.0022, 6.2),
    "rising": ({"drift": 0.004}, 0.0022, 6.2),
    "steps of 100 W": ({"step": 100.0}, 0.0040, 7.5),
    "a clumsy hand": ({"hand": 0.03}, 0.0040, 6.2),
    "sharper than any engine": ({"torque": other_torque}, 0.0090, 7.5),
}  # fmt: skip


@pytest.mark.parametrize("name", list(EYES))
def test_what_a_setting_loses_is_little_and_found_in_few_readings(name):
    """Sixty sets read by eye: nearly all are set, and lose less than anybody could measure."""
    how, most, readings = EYES[name]
    lost, counts, none = [], [], Counter()
    for one, start in sets(60, **how):
        verdict = one.sweep(start)
        counts.append(len(one.taken))
        if verdict.setting is None:
            none[verdict.why] += 1
        else:
            lost.append(one.lost(verdict))
    assert sum(none.values()) <= 4, none
    assert statistics.mean(lost) <= most
    assert sorted(lost)[int(0.9 * len(lost))] <= 4 * most
    assert statistics.mean(counts) <= readings


def test_what_drifts_is_told_by_the_first_place_read_again():
    """Half a percent a reading, either way: the estimate has its sign and most of its size."""
    for drift in (-0.005, 0.005):
        found = []
        for one, start in sets(15, drift=drift, noise=0.001):
            verdict = one.sweep(start)
            if verdict.setting is None:
                continue
            turns = [taken.turns for taken in one.taken]
            first = next(t.turns for t in one.taken if t.ran is Ran.SMOOTH)
            assert turns[-1] == first or turns.count(first) > 1
            found.append(verdict.curves.drift)
        assert statistics.mean(found) == pytest.approx(drift, abs=0.003)


def test_a_screw_that_is_locked_is_not_asked_for_its_first_place_again():
    one = Set(1.4, 5)
    one.sweep(1.5)
    before = one.taken[:-1]
    asked = judge(before, Signal.OUTPUT, 1.5, MOST)
    assert asked.next.about == "again"
    locked = judge(before, Signal.OUTPUT, 1.5, MOST, again=False)
    assert locked.next is None
    assert locked.setting.turns == pytest.approx(one.sweep(1.5).setting.turns, abs=0.05)


def test_steps_as_wide_as_the_plateau_are_refused_and_other_ways_named():
    one, start = next(sets(1, step=250.0))
    assert one.sweep(start).why is Why.STEPS
    assert len(one.taken) <= 5
    by_speed = judge(one.taken, Signal.SPEED, start, MOST, step=250.0)
    assert by_speed.why is None


@pytest.mark.parametrize("share", [0.80, 0.90, 0.96])
def test_a_plateau_cut_flat_by_the_alternator_is_never_read(share):
    """Two readings at what the alternator can give are enough; by the throttle it goes on."""
    for one, start in sets(12, limit=share * 2500.0):
        verdict = one.sweep(start, limit=share * 2500.0)
        assert verdict.why is Why.AT_LIMIT
        assert sum(taken.value >= 0.98 * share * 2500.0 for taken in one.taken) == 2
    throttles = [Taken(one.turns, 0.6, 0.01) for one in one.taken]
    assert judge(throttles, Signal.THROTTLE, start, MOST, limit=share * 2500.0).why is None


def test_a_probe_sets_the_screw_by_two_turns_of_it():
    for one, start in sets(30, probe=True):
        verdict = one.sweep(start)
        assert verdict.by_lambda
        assert one.right / verdict.setting.turns == pytest.approx(0.95, abs=0.04)
        assert sum(taken.lam is not None for taken in one.taken) <= 4
    one, start = next(sets(1, probe=True))
    motors = one.sweep(start, motors=True)
    assert one.right / motors.setting.turns == pytest.approx(0.92, abs=0.03)


def test_a_probe_that_contradicts_itself_places_nothing():
    lams = ((1.0, 1.00), (1.25, 1.06), (1.5, 1.02))
    readings = [Taken(t, 2400.0 + 50 * n, 8.0, Ran.SMOOTH, lam) for n, (t, lam) in enumerate(lams)]
    assert not judge(readings, Signal.OUTPUT, 1.25, MOST).by_lambda


@pytest.mark.parametrize("right", [0.5, 0.9, 1.3, 2.4])
def test_a_screw_is_asked_for_in_eighths_or_sixteenths(right):
    one = Set(right, 3)
    verdict = one.sweep(right * 1.1)
    asked = [taken.turns for taken in one.taken]
    marked = [turns for turns in asked if turns * 16 == round(turns * 16)]
    assert len(marked) >= 0.6 * len(asked)
    assert verdict.mark * 16 == round(verdict.mark * 16)
    assert abs(verdict.mark - verdict.setting.turns) <= 1 / 16 + 1e-9


@pytest.mark.parametrize("signal", [Signal.THROTTLE, Signal.SPEED])
def test_throttle_and_speed_lead_into_the_same_plateau(signal):
    for seed in (13, 14, 16):
        one = bench("frame", seed=seed)
        lean, rich = one.plateau(0.98)
        verdict, readings = swept(one, START, signal, 0.62 if signal is Signal.THROTTLE else 0.95)
        assert verdict.setting
        assert lean < verdict.setting.turns < rich
        assert len(readings) <= 8


def test_a_setting_that_must_start_motors_leans_a_third_toward_rich():
    one = bench("frame", seed=7)
    _, readings = swept(one, START)
    plain = judge(readings, Signal.OUTPUT, START, MOST)
    motors = judge(readings, Signal.OUTPUT, START, MOST, motors=True)
    middle = (plain.lean.turns + plain.rich.turns) / 2
    assert plain.setting.turns == pytest.approx(middle, abs=0.01)
    third = middle + (plain.rich.turns - middle) / 3
    assert motors.setting.turns == pytest.approx(third, abs=0.01)


def test_an_engine_that_gets_too_little_gas_can_not_be_set():
    reasons = Counter()
    for seed in range(12):
        path = bench("frame", seed=seed).setup.engine.passage_m2
        verdict, readings = swept(bench("frame", seed=seed, passage_m2=0.32 * path), START)
        assert verdict.setting is None
        assert len(readings) <= 12
        reasons[verdict.why] += 1
    assert set(reasons) <= {Why.STARVED, Why.SCREW_OPEN, Why.HUNTING, Why.NOT_RUNNING}, reasons
    assert reasons[Why.STARVED], reasons


def test_a_screw_that_ends_before_the_plateau_is_said_so():
    wide = bench("frame", seed=2).setup.engine.screw_m2
    small = bench("frame", seed=2, screw_m2=0.22 * wide)
    assert swept(small, 4.0)[0].why is Why.SCREW_OPEN
    large = bench("frame", seed=2, screw_m2=12 * wide)
    assert swept(large, 0.4)[0].why is Why.SCREW_SHUT


@pytest.mark.parametrize(
    ("values", "why"),
    [
        ([2000, 2003, 1998, 2001, 1999, 2002], Why.NO_PLATEAU),
        ([1500, 2100, 1400, 2050, 1450, 2000, 1500, 2100, 1400, 2000, 1500, 2100], Why.SCATTER),
    ],
)
def test_traces_without_a_plateau_are_told_so(values, why):
    turns = [0.5 * 1.28**i for i in range(len(values))]
    readings = [Taken(t, v, 3.0) for t, v in zip(turns, values, strict=True)]
    assert judge(readings, Signal.OUTPUT, START, MOST).why is why


def test_hunting_everywhere_and_never_running_are_reasons_too():
    hunting = [Taken(0.8 + 0.4 * i, 1500 + 9 * i, 5.0, Ran.HUNTING) for i in range(4)]
    assert judge(hunting, Signal.OUTPUT, START, MOST).why is Why.HUNTING
    verdict, readings = judge([], Signal.OUTPUT, START, MOST), []
    while verdict.next:
        readings.append(Taken(verdict.next.turns, 0.0, 0.0, Ran.DIED))
        verdict = judge(readings, Signal.OUTPUT, START, MOST)
    assert verdict.why is Why.NOT_RUNNING
    assert len(readings) <= 6


def test_it_asks_no_further_than_the_screw_goes_and_only_the_first_again():
    _, readings = swept(bench("large", "natural_gas", 3), START)
    turns = [one.turns for one in readings]
    assert all(0.1 <= one <= MOST for one in turns)
    again = [a for i, a in enumerate(turns) if any(abs(a / b - 1) <= 0.02 for b in turns[:i])]
    assert len(again) <= 1
    first = next(one.turns for one in readings if one.ran is not Ran.DIED)
    assert all(one == pytest.approx(first) for one in again)
