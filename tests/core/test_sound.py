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
        found = rpm_of(engine(seed, rpm, cylinders), RATE, cylinders, even=True)
        assert found.value * 30 / math.pi == pytest.approx(rpm, rel=0.01), (seed, rpm)
        assert found.band.low < found.value < found.band.high


def test_the_benchs_twin_is_heard_as_the_v_twin_it_is():
    one = bench("great", seed=3)
    assert started(one, sum(one.plateau(0.98)) / 2)
    heard = rpm_of(np.array(one.sound(4.0, RATE)), RATE, 2)
    assert heard.value == pytest.approx(one.exact()["speed"], rel=0.01)


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


def beats(rpm, degrees, seconds=4.0, rate=RATE, until=None, seed=0):
    """A knock of falling tone at each of these crank angles, in noise; speeding up to `until`."""
    drawn = np.random.default_rng(seed)
    t = np.arange(int(seconds * rate)) / rate
    speed = np.linspace(rpm, until or rpm, len(t))
    turned = np.cumsum(speed * 6.0) / rate
    wave = np.zeros(len(t))
    for angle in degrees:
        since = (turned - angle) % 720.0
        after = since / (speed * 6.0)
        wave += np.exp(-after / 4e-3) * np.sin(2 * np.pi * 95.0 * after)
    return wave + 0.2 * drawn.standard_normal(len(t))


V_TWIN, SIDE_BY_SIDE = (0.0, 270.0), (0.0, 360.0)


@pytest.mark.parametrize("rpm", [1800.0, 2700.0, 3000.0, 3600.0, 3720.0])
def test_a_v_twin_is_heard_at_its_speed_and_not_at_half(rpm):
    found = rpm_of(beats(rpm, V_TWIN), RATE, 2)
    assert found.value * 30 / math.pi == pytest.approx(rpm, rel=0.005)
    assert "at uneven steps" in [row.value for row in found.inputs]


@pytest.mark.parametrize("rpm", [1800.0, 3600.0])
def test_twins_side_by_side_are_told_by_their_even_beat(rpm):
    found = rpm_of(beats(rpm, SIDE_BY_SIDE), RATE, 2, even=True)
    assert found.value * 30 / math.pi == pytest.approx(rpm, rel=0.005)


def test_a_speed_that_moves_while_recorded_is_refused_or_widens_the_band():
    for until in (3720.0, 3800.0):
        with pytest.raises(QuantityError, match="steadiness"):
            rpm_of(beats(3600.0, (0.0,), until=until), RATE)
    steady = rpm_of(beats(3600.0, (0.0,)), RATE)
    slow = rpm_of(beats(3600.0, (0.0,), until=3640.0), RATE)
    assert slow.band.high - slow.band.low > 2 * (steady.band.high - steady.band.low)
    assert slow.band.low * 30 / math.pi < 3620 < slow.band.high * 30 / math.pi


@pytest.mark.parametrize(
    ("rpm", "hertz", "remarked"),
    [(3600, 60, False), (3740, 60, False), (1800, 60, False), (3000, 50, False),
     (2700, 60, True), (3600, 50, True), (2700, None, False)],
)  # fmt: skip
def test_a_speed_that_is_not_the_plates_is_remarked_on(rpm, hertz, remarked):
    found = rpm_of(beats(float(rpm), (0.0,)), RATE, 1, hertz=hertz)
    assert any("is no speed at which a set makes" in text for text in found.warnings) is remarked
