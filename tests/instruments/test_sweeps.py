"""The judge of a sweep against benches and curves it has never seen, and where none can be set."""

import math
import os
import random
from collections import Counter

import pytest

from gentle_ember.core.job.metering import Ran, Signal, Taken
from gentle_ember.core.stages.first_start.metering.sweep import Why, judge
from tests.helpers.sweeps import MOST, START, bench, read_from, swept

CLASSES = [("inverter", "propane"), ("frame", "propane"), ("large", "natural_gas"),
           ("twin", "natural_gas"), ("small", "propane")]  # fmt: skip


WIDE = [5000] if os.environ.get("HYPOTHESIS_PROFILE") == "wide" else []
"""Other benches, looked at where a run is to look further."""


@pytest.mark.parametrize("offset", [0, *WIDE])
def test_the_plateau_of_a_bench_is_found_within_nine_readings(offset):
    found = Counter()
    for number in range(50):
        size, fuel = CLASSES[number % len(CLASSES)]
        one = bench(size, fuel, offset + number)
        lean, rich = one.plateau(0.98)
        verdict, readings = swept(one, START)
        good = verdict.setting is not None and verdict.lean and verdict.rich
        found["all"] += 1
        found["good"] += bool(
            good
            and abs(verdict.lean.turns - lean) <= 0.05
            and abs(verdict.rich.turns - rich) <= 0.05
            and len(readings) <= 9
        )
    assert found["good"] >= 0.95 * found["all"], found


def other_torque(lam: float) -> float:
    """Torque over λ by a wholly different hand: two half bells about λ = 0.93."""
    off = math.log(lam / 0.93)
    return math.exp(-0.5 * (off / (0.28 if off < 0 else 0.17)) ** 2)


@pytest.mark.parametrize("offset", [0, *WIDE])
def test_the_same_on_another_torque_curve(offset):
    good = 0
    for seed in range(offset, offset + 100):
        drawn = random.Random(seed)
        right = math.exp(drawn.uniform(math.log(0.5), math.log(2.6)))
        start = min(right * math.exp(drawn.gauss(0, 0.25)), MOST)
        curve = lambda turns, right=right: other_torque(right / turns)  # noqa: E731
        verdict, count = read_from(curve, start, lambda drawn=drawn: drawn.gauss(0, 0.0015))
        level = math.sqrt(-2 * math.log(0.98))
        lean = right / (0.93 * math.exp(0.17 * level))
        rich = right / (0.93 * math.exp(-0.28 * level))
        good += bool(
            verdict.setting
            and abs(verdict.lean.turns - lean) <= 0.05
            and abs(verdict.rich.turns - rich) <= 0.05
            and count <= 9
        )
    assert good >= 95


@pytest.mark.parametrize("signal", [Signal.THROTTLE, Signal.SPEED])
def test_throttle_and_speed_lead_to_the_same_setting(signal):
    one = bench("frame", seed=12)
    middle = sum(one.plateau(0.98)) / 2
    verdict, _ = swept(one, START, signal, 0.62 if signal is Signal.THROTTLE else 0.95)
    assert verdict.setting
    assert verdict.setting.turns == pytest.approx(middle, rel=0.08)


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


def test_it_asks_no_further_than_the_screw_goes_and_never_the_same_again():
    _, readings = swept(bench("large", "natural_gas", 3), START)
    turns = [one.turns for one in readings]
    assert all(0.1 <= one <= MOST for one in turns)
    assert all(abs(a / b - 1) > 0.02 for i, a in enumerate(turns) for b in turns[:i])
