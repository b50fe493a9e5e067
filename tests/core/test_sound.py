"""Engine speed by its sound: synthesised engines found again, noise called no note."""

import math

import numpy as np
import pytest

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.physics.sound import rpm_of
from tests.helpers.sweeps import bench, started

RATE = 8000


def engine(seed, rpm, cylinders, seconds=4.0, hum=0.8):
    """Harmonics of unequal strength in noise as loud as they, and mains hum."""
    drawn = np.random.default_rng(seed)
    t = np.arange(int(seconds * RATE)) / RATE
    turning = 2 * np.pi * rpm / 120 * cylinders * t
    wander = 0.0002 * np.cumsum(drawn.standard_normal(len(t)))
    tones = sum(
        drawn.uniform(0.15, 1.0) / k**0.7 * np.sin(k * (turning + wander) + drawn.uniform(0, 6))
        for k in range(1, 12)
    )
    return tones + drawn.standard_normal(len(t)) + hum * np.sin(2 * np.pi * 60 * t)


@pytest.mark.parametrize("cylinders", [1, 2])
def test_speed_is_found_within_a_percent_and_never_half_or_double(cylinders):
    for seed in range(25):
        rpm = float(np.random.default_rng(900 + seed).uniform(1200, 4800))
        found = rpm_of(engine(seed, rpm, cylinders), RATE, cylinders)
        assert found.value * 30 / math.pi == pytest.approx(rpm, rel=0.01), (seed, rpm)
        assert found.band.low < found.value < found.band.high


def test_noise_alone_and_a_snatch_of_sound_are_refused():
    for seed in range(5):
        with pytest.raises(QuantityError, match="steadiness"):
            rpm_of(np.random.default_rng(seed).standard_normal(4 * RATE), RATE)
    with pytest.raises(QuantityError, match="length"):
        rpm_of(engine(1, 3600, 1, seconds=1.0), RATE)


def test_the_bench_is_heard_at_the_speed_it_turns():
    one = bench("frame", seed=6)
    assert started(one, sum(one.plateau(0.98)) / 2)
    heard = rpm_of(np.array(one.sound(4.0, RATE)), RATE)
    assert heard.value == pytest.approx(one.exact()["speed"], rel=0.01)
