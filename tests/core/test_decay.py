"""Pressure decay: known leaks found again, and nothing said where nothing can be told."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.quantities import STANDARD_PRESSURE_PA
from gentle_ember.core.physics.decay import Tells, decay, leak_m3_s

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
    given_ = {"before_k": 290.0, "after_k": 290.0, "seconds": 600.0, "ambient_pa": AMBIENT,
              "allowed_pa": 250.0, **more}  # fmt: skip
    return decay(1e-3, 2739.0, after, **given_).tells


def test_what_a_decay_tells():
    assert judged(2739.0) is Tells.TIGHT
    assert judged(1500.0) is Tells.LEAKS
    assert judged(2739.0 - 240.0) is Tells.INCONCLUSIVE
    assert judged(1500.0, after_k=289.0) is Tells.INCONCLUSIVE
    assert judged(2739.0, barometer_pa=80.0) is Tells.INCONCLUSIVE
    assert judged(2739.0, saturated=True) is Tells.INCONCLUSIVE


def test_a_kelvin_is_worth_what_the_notes_say_and_never_hides_a_leak_as_tight():
    one = decay(1e-3, 2739.0, 2739.0, 290.0, 289.0, 600.0, ambient_pa=101_325.0, allowed_pa=50.0)
    assert -one.drop.value == pytest.approx(PER_KELVIN_AT_11_IN_WC, rel=0.02)
    assert one.tells is Tells.INCONCLUSIVE
    for allowed in (50.0, 100.0, 300.0):
        found = decay(1e-3, 2739.0, 2739.0 - allowed, 290.0, 290.0, 600.0,
                      ambient_pa=AMBIENT, allowed_pa=allowed)  # fmt: skip
        assert found.tells is not Tells.TIGHT


def test_a_test_that_is_none_is_refused():
    with pytest.raises(QuantityError, match="time"):
        decay(1e-3, 2739.0, 2700.0, 290.0, 290.0, 5.0, ambient_pa=AMBIENT, allowed_pa=50.0)


@given(st.floats(2739.0 + 80.0, 9e5))
def test_a_pressure_that_rose_is_never_tight(after):
    found = decay(1e-3, 2739.0, after, 290.0, 290.0, 600.0, ambient_pa=AMBIENT, allowed_pa=250.0)
    assert found.tells is Tells.INCONCLUSIVE
    assert "rose" in found.why


@given(
    st.floats(0.0, 2739.0), st.sampled_from([(None, None), (290.0, None), (None, 290.0)]),
    st.floats(1.0, 300.0),
)  # fmt: skip
def test_a_temperature_nobody_measured_never_passes_at_a_low_pressure(after, kelvins, allowed):
    found = decay(1e-3, 2739.0, after, *kelvins, 600.0, ambient_pa=AMBIENT, allowed_pa=allowed)
    assert found.tells is not Tells.TIGHT
    assumed = {one.label for one in found.drop.inputs if one.origin == "assumed"}
    assert {"temperature before", "temperature after"} <= assumed
    assert found.drop.narrows[0] == "measure the gas temperature before and after"


@given(st.floats(100.0, 400.0), st.floats(0.0, 100.0))
def test_too_little_pressure_to_lose_what_is_allowed_tells_nothing(before, after):
    found = decay(1e-3, before, after, 290.0, 290.0, 600.0, ambient_pa=AMBIENT, allowed_pa=400.0)
    assert found.tells is Tells.INCONCLUSIVE


@given(
    st.floats(1e-9, 4e-8), st.floats(5e-4, 4e-3), st.floats(-1.0, 1.0), st.floats(600.0, 3600.0),
    st.floats(50.0, 400.0),
)  # fmt: skip
def test_a_leak_past_what_is_allowed_is_never_called_tight_by_a_kelvin_untold(
    leak, volume, warmed, seconds, allowed
):
    """The sun warms a leaking line by up to a kelvin and nobody looks at a thermometer."""
    after = line(leak, volume=volume, seconds=seconds, end_k=290.0 + warmed)
    lost = leak * seconds * STANDARD_PRESSURE_PA / volume
    if after <= 0 or lost <= allowed:
        return
    for kelvins in ((None, None), (290.0, 290.0 + warmed)):
        found = decay(volume, 2739.0, after, *kelvins, seconds, ambient_pa=AMBIENT,
                      allowed_pa=allowed)  # fmt: skip
        assert found.tells is not Tells.TIGHT
