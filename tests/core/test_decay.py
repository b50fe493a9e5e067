"""Pressure decay: known leaks found again, and nothing said where nothing can be told."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.quantities import STANDARD_PRESSURE_PA
from gentle_ember.core.physics.decay import LIMIT_M3_S, Tells, decay, leak_m3_s

AMBIENT = 96_000.0
PER_KELVIN_AT_11_IN_WC = 355.0


def line(
    leak: float,
    *,
    volume: float,
    seconds: float,
    first: float = 2739.0,
    start_k: float = 290.0,
    end_k: float = 290.0,
) -> float:
    """Gauge pressure a line ends at that lost so much gas, by the gas law alone."""
    moles = (first + AMBIENT) * volume / start_k - leak * seconds * STANDARD_PRESSURE_PA / start_k
    return moles * end_k / volume - AMBIENT


@given(
    st.floats(2e-9, 4e-8), st.floats(5e-4, 5e-3), st.floats(289.6, 290.4), st.floats(600, 1800)
)  # fmt: skip
def test_a_known_leak_is_recovered_whatever_the_temperature_did(leak, volume, end_k, seconds):
    after = line(leak, volume=volume, seconds=seconds, end_k=end_k)
    if after <= 0:
        return
    found = leak_m3_s(volume, 2739 + AMBIENT, after + AMBIENT, 290.0, end_k, seconds)
    assert found == pytest.approx(leak, rel=0.05)


def judged(after: float, **more: float) -> Tells:
    given_ = {"before_k": 290.0, "after_k": 290.0, "seconds": 900.0, "ambient_pa": AMBIENT, **more}
    return decay(1e-3, 2739.0, after, **given_).tells


def test_what_a_decay_tells():
    assert judged(2739.0) is Tells.TIGHT
    assert judged(1500.0) is Tells.LEAKS
    assert judged(2739.0 - 240.0) is Tells.INCONCLUSIVE
    assert judged(1500.0, after_k=289.0) is Tells.INCONCLUSIVE
    assert judged(2739.0, barometer_pa=80.0) is Tells.INCONCLUSIVE
    assert judged(2739.0, saturated=True) is Tells.INCONCLUSIVE
    assert judged(2739.0, seconds=60.0) is Tells.INCONCLUSIVE


def test_the_same_drop_is_a_small_leak_in_a_small_volume_and_a_large_one_in_a_large():
    """Half an inch of water lost in ten minutes: what used to be called allowed."""
    told = {"ambient_pa": AMBIENT, "seconds": 600.0, "before_k": 290.0, "after_k": 290.0}

    def lost(volume: float) -> Tells:
        return decay(volume, 2739.0, 2739.0 - 124.5, **told).tells

    assert lost(4e-3) is Tells.LEAKS
    assert lost(5e-5) is Tells.TIGHT


@given(st.floats(1e-4, 5e-3), st.floats(2.0, 60.0), st.floats(1e-9, 1e-7))
def test_after_the_least_time_a_gauge_can_rule_the_limit_out(volume, read, limit):
    def held(seconds: float) -> Tells:
        return decay(volume, 2739.0, 2739.0, 290.0, 290.0, seconds, ambient_pa=AMBIENT,
                     limit_m3_s=limit, read_pa=read).tells  # fmt: skip

    found = decay(volume, 2739.0, 2739.0, 290.0, 290.0, 600.0, ambient_pa=AMBIENT,
                  limit_m3_s=limit, read_pa=read)  # fmt: skip
    least = found.least_s
    if 60.0 < least < 40_000.0:
        assert held(least * 1.01) is Tells.TIGHT
        assert held(max(60.0, least * 0.45)) is Tells.INCONCLUSIVE or least * 0.45 < 60.0


def test_a_coarser_gauge_asks_for_more_time_and_so_does_an_untold_temperature():
    def least(**more: object) -> float:
        kelvin = {"before_k": 290.0, "after_k": 290.0, **more}
        return decay(1e-3, 2739.0, 2739.0, seconds=600.0, ambient_pa=AMBIENT, **kelvin).least_s

    assert least() < least(read_pa=100.0)
    assert least() < least(before_k=None, after_k=None)


def test_a_kelvin_is_worth_what_the_notes_say_and_never_hides_a_leak_as_tight():
    one = decay(1e-3, 2739.0, 2739.0, 290.0, 289.0, 600.0, ambient_pa=101_325.0)
    assert -one.drop.value == pytest.approx(PER_KELVIN_AT_11_IN_WC, rel=0.02)
    assert one.tells is Tells.INCONCLUSIVE


def test_a_test_that_is_none_is_refused():
    with pytest.raises(QuantityError, match="time"):
        decay(1e-3, 2739.0, 2700.0, 290.0, 290.0, 5.0, ambient_pa=AMBIENT)
    with pytest.raises(QuantityError, match="gauge"):
        decay(1e-3, 2739.0, 2700.0, 290.0, 290.0, 600.0, ambient_pa=AMBIENT, read_pa=0.0)


@given(st.floats(2739.0 + 80.0, 9e5))
def test_a_pressure_that_rose_is_never_tight(after):
    found = decay(1e-3, 2739.0, after, 290.0, 290.0, 600.0, ambient_pa=AMBIENT)
    assert found.tells is Tells.INCONCLUSIVE
    assert "rose" in found.why


@given(st.floats(0.0, 2739.0), st.sampled_from([(None, None), (290.0, None), (None, 290.0)]))
def test_a_temperature_nobody_measured_passes_nothing_in_ten_minutes(after, kelvins):
    found = decay(1e-3, 2739.0, after, *kelvins, 600.0, ambient_pa=AMBIENT)
    assert found.tells is not Tells.TIGHT
    assumed = {one.label for one in found.drop.inputs if one.origin == "assumed"}
    assert {"temperature before", "temperature after"} <= assumed
    assert found.drop.narrows[0] == "measure the gas temperature before and after"


@given(
    st.floats(1e-9, 4e-8), st.floats(5e-4, 4e-3), st.floats(-1.0, 1.0), st.floats(600.0, 7200.0),
    st.floats(5e-10, 1e-8),
)  # fmt: skip
def test_a_leak_past_the_limit_is_never_called_tight_by_a_kelvin_untold(
    leak, volume, warmed, seconds, limit
):
    """The sun warms a leaking line by up to a kelvin and nobody looks at a thermometer."""
    after = line(leak, volume=volume, seconds=seconds, end_k=290.0 + warmed)
    if after <= 0 or leak <= 1.01 * limit:
        return
    for kelvins in ((None, None), (290.0, 290.0 + warmed)):
        found = decay(volume, 2739.0, after, *kelvins, seconds, ambient_pa=AMBIENT,
                      limit_m3_s=limit)  # fmt: skip
        assert found.tells is not Tells.TIGHT


@given(st.floats(1e-10, 4e-8), st.floats(1e-4, 4e-3), st.floats(600.0, 7200.0))
def test_a_line_that_holds_is_never_called_leaking(leak, volume, seconds):
    after = line(leak, volume=volume, seconds=seconds)
    if after <= 0 or leak > LIMIT_M3_S:
        return
    found = decay(volume, 2739.0, after, 290.0, 290.0, seconds, ambient_pa=AMBIENT)
    assert found.tells is not Tells.LEAKS
