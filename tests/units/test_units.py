"""Typed quantities, refusals, rounding to the safe side, round trips."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.figure import Band, Figure, Method, Rounding
from gentle_ember.core.base.quantities import KINDS
from gentle_ember.units import ReadingError, read, show
from gentle_ember.units.display import show_value
from gentle_ember.units.reading import fits
from gentle_ember.units.registry import CONVERSIONS, UNITS, from_si, line, unit_for

TYPED = [
    ("elevation", "2000 ft", 609.6),
    ("elevation", "8,038 ft", 2449.98),
    ("elevation", "610 m", 610.0),
    ("elevation", "2000'", 609.6),
    ("elevation", "1.5e3 m", 1500.0),
    ("elevation", "-50 ft", -15.24),
    ("elevation", "8000", 2438.4),
    ("elevation", "2 km", 2000.0),
    ("bore", "½ in", 0.0127),
    ("bore", "3/8 in", 0.009525),
    ("bore", "1-1/2 in", 0.0381),
    ("bore", "1 1/2", 0.0381),
    ("bore", '1½"', 0.0381),
    ("bore", "0,5 in", 0.0127),
    ("bore", "9 mm", 0.009),
    ("length", "5'", 1.524),
    ("length", "5' 6\"", 1.6764),
    ("length", "5′6″", 1.6764),
    ("length", "22 m", 22.0),
    ("length", "10 yd", 9.144),
    ("pressure", "7 in wc", 1743.6),
    ("pressure", "7 in w.c.", 1743.6),
    ("pressure", '11" w.c.', 2740.0),
    ("pressure", "7 inches water column", 1743.6),
    ("pressure", "11 in H2O", 2740.0),
    ("pressure", "11 oz/in²", 4740.2),
    ("pressure", "4 osi", 1723.7),
    ("pressure", "2 psi", 13789.5),
    ("pressure", "10 psig", 68947.6),
    ("pressure", "28 mbar", 2800.0),
    ("pressure", "3.5 kPa", 3500.0),
    ("pressure", "3/4 psi", 5171.1),
    ("temperature", "10 °F", 260.928),
    ("temperature", "10F", 260.928),
    ("temperature", "-12 °C", 261.15),
    ("temperature", "−12 C", 261.15),
    ("temperature", "31", 272.594),
    ("temperature", "300 K", 300.0),
    ("power", "120 V × 9 A", 1080.0),
    ("power", "120v x 9a", 1080.0),
    ("power", "240 V * 12.5 A", 3000.0),
    ("power", "2.8 kW", 2800.0),
    ("power", "2.8k", 2800.0),
    ("power", "12 hp", 8948.4),
    ("power", "1,450 W", 1450.0),
    ("power", "3200", 3200.0),
    ("volume", "5 gal", 0.0189271),
    ("volume", "1.6 gallons", 0.00605666),
    ("volume", "6.0 L", 0.006),
    ("volume", "3 qt", 0.00283906),
    ("displacement", "212 cc", 212e-6),
    ("displacement", "13 cu in", 213.032e-6),
    ("mass", "20 lb", 9.07185),
    ("mass", "20 lb 4 oz", 9.18525),
    ("mass", "31.4kg", 31.4),
    ("duration", "3 h 20 min", 12000.0),
    ("duration", "90 min", 5400.0),
    ("duration", "2.9", 10440.0),
    ("energy", "1.8 kWh", 6.48e6),
    ("heating_value_volume", "1,030 BTU/ft³", 38.377e6),
    ("heating_value_volume", "38.4 MJ/m3", 38.4e6),
    ("volume_flow", "250 cfh", 1.96645e-3),
    ("volume_flow", "3.1 m³/h", 8.6111e-4),
    ("heat_rate", "90,000 btu/h", 26376.4),
    ("heat_rate", "90 kBTU/h", 26376.4),
    ("mass_flow", "1.3 kg/h", 3.6111e-4),
    ("mass_flow", "2.9 lb/hr", 3.65394e-4),
    ("share", "60 %", 0.6),
    ("share", "58", 0.58),
    ("voltage", "120 V", 120.0),
    ("resistance", "0.4 ohm", 0.4),
    ("resistance", "2 kΩ", 2000.0),
    ("resistance", "1.2 megohm", 1.2e6),
    ("frequency", "60 Hz", 60.0),
    ("speed", "3600 rpm", 376.991),
    ("density", "1.2 kg/m3", 1.2),
]

REFUSED = [
    ("power", "5 furlongs of gas", "not a unit"),
    ("power", "5 ft", "not a power"),
    ("power", "5", None),
    ("power", "", "no number"),
    ("power", "nan", "no number"),
    ("power", "1e999 W", "too large"),
    ("power", "1.2.3 W", "can't be read|needs a unit"),
    ("power", "5 W 5 ft", "go together"),
    ("power", "2**99999999", "needs a unit"),
    ("power", "__import__('os').system('x') 5", "no number|not a unit|can't be read"),
    ("power", "9" * 200, "Too long"),
    ("power", "120 V × 9", "needs a unit"),
    ("voltage", "120/240", "not a unit"),
    ("bore", "3/0 in", "zero|not a unit"),
    ("share", "0.6", "60 %"),
    ("temperature", "-500 C", "absolute zero"),
    ("elevation", "tall", "no number"),
    ("pressure", "7 in", "not a pressure"),
    ("speed", "60 Hz", "3600 rpm with two poles, 1800 rpm with four"),
    ("speed", "50 hertz", "3000 rpm with two poles"),
    ("frequency", "3600 rpm", "60 Hz with two poles, 120 Hz with four"),
    ("frequency", "30 turns/s", "Type the hertz"),
]


@pytest.mark.parametrize(("kind", "text", "si"), TYPED)
def test_typed(kind, text, si):
    assert read(text, kind, "us") == pytest.approx(si, rel=1e-4)


@pytest.mark.parametrize(
    ("text", "amount"),
    [("$ 85", 85.0), ("-$ 5.50", -5.5), ("€ 85,20", 85.2), ("$1,200", 1200.0), ("85 €", 85.0)],
)
def test_money_is_typed_with_its_sign_before_or_after(text, amount):
    assert read(text, "money", "us") == pytest.approx(amount)


def test_there_are_at_least_sixty():
    assert len(TYPED) >= 60


@pytest.mark.parametrize(("kind", "text", "why"), REFUSED)
def test_refused_in_plain_words(kind, text, why):
    if why is None:
        assert read(text, kind, "us") == 5.0
        return
    with pytest.raises(ReadingError, match=why):
        read(text, kind, "us")


def test_bare_numbers_follow_the_persons_units():
    assert read("600", "elevation", "metric") == pytest.approx(600.0)
    assert read("600", "elevation", "us") == pytest.approx(182.88)


@given(st.text(max_size=60), st.sampled_from(sorted(KINDS)))
def test_any_text_is_read_or_refused_never_a_crash(text, kind):
    try:
        value = read(text, kind, "us")
    except ReadingError:
        return
    assert math.isfinite(value)


@given(st.sampled_from(sorted(KINDS)), st.floats(1e-6, 1e6), st.sampled_from(["us", "metric"]))
def test_units_round_trip(kind, value, system):
    unit = unit_for(kind, system, value)
    factor, offset = line(KINDS[kind].si, unit.pint)
    shown = from_si(value, kind, unit)
    assert (shown - offset) / factor == pytest.approx(value, rel=1e-9)


# Not typed by anybody: pure numbers, and the coefficient that only workings show.
NOT_FIELDS = {"ratio", "count", "air_fuel_ratio", "conductance"}


@pytest.mark.parametrize("kind", sorted(set(UNITS) - NOT_FIELDS))
@pytest.mark.parametrize("system", ["us", "metric"])
def test_what_is_shown_can_be_typed_again(kind, system):
    value = KINDS[kind].sample
    text, unit = show_value(value, kind, system, 6)
    assert read(f"{text} {unit}", kind, system) == pytest.approx(value, rel=5e-3)


def figure(value, kind, rounding, low=None, high=None):
    band = Band(value if low is None else low, value if high is None else high)
    return Figure("k", "l", value, kind, Method("m", "m", "f", "s", "p"), band, rounding=rounding)


@given(st.floats(0.01, 1e5), st.sampled_from(["power", "duration", "mass", "volume_flow"]))
def test_rounding_never_goes_toward_danger(value, kind):
    for system in ("us", "metric"):
        exact = from_si(value, kind, unit_for(kind, system, value))
        slack = abs(exact) * 1e-11 + 1e-12
        assert show(figure(value, kind, Rounding.DOWN), system).number <= exact + slack
        assert show(figure(value, kind, Rounding.UP), system).number >= exact - slack


def test_bands_are_rounded_outward():
    shown = show(figure(2968.4, "power", Rounding.DOWN, 2786.9, 3199.2), "us")
    assert (shown.text, shown.low, shown.high) == ("2,960", "2,780", "3,200")


def test_round_numbers_are_not_pushed_down_by_a_last_bit():
    assert show(figure(0.1 + 0.2, "mass", Rounding.DOWN), "metric").text == "0.30"


def test_high_pressure_changes_unit():
    assert show_value(2740.0, "pressure", "us") == ("11", "in w.c.")
    assert show_value(68_950.0, "pressure", "us") == ("10", "psi")


@pytest.mark.parametrize("text", ["5.5 kVA", "5500 VA", "5.5kva", "1 kVA + 500 W"])
def test_volt_amperes_are_never_taken_for_watts(text):
    """5.5 kVA at a power factor of 0.8 are 4.4 kW: a set read as 5.5 would be overloaded."""
    with pytest.raises(ReadingError, match="Ask for its watts"):
        read(text, "power", "us")


def test_volts_times_amperes_are_watts_where_a_person_multiplies_them():
    assert read("120 V × 9 A", "power", "us") == pytest.approx(1080)
    assert read("5.5 kW", "power", "us") == pytest.approx(5500)


ANY_OF = [
    ("1030 BTU/ft³", {"heating_value_volume": 38.3767e6}),
    ("38.4 MJ/m³", {"heating_value_volume": 38.4e6}),
    ("46 MJ/kg", {"heating_value_mass": 46e6}),
    ("3/8 in", {"length": 0.009525}),
    ("1 1/2 in", {"length": 0.0381}),
    ("9.5 mm", {"length": 0.0095}),
    ("5' 6\"", {"length": 1.6764}),
    ("100000 BTU/h", {"power": 29307.1}),
    ("38 kW", {"power": 38e3}),
    ("120 V × 9 A", {"power": 1080.0}),
    ("300 K", {"temperature": 300.0, "power": 300e3}),
    ("1 Pa", {"pressure": 1.0}),
    ("60 Hz", {"frequency": 60.0}),
    ("3600 rpm", {"speed": 376.991}),
    ("7 in w.c.", {"pressure": 1743.62}),
    ("10 gal/h", {"volume_flow": 1.0515e-5}),
    ("1 therm", {"energy": 105.5056e6}),
    ("9 N·m", {"torque": 9.0}),
    ("11 oz", {"mass": 0.311845}),
    ("11 oz/in²", {"pressure": 4740.15}),
]


@pytest.mark.parametrize(("text", "expected"), ANY_OF)
def test_what_a_quantity_may_be_follows_from_its_unit(text, expected):
    found = fits(text, CONVERSIONS, "us")
    assert list(found) == list(expected)
    assert found == pytest.approx(expected, rel=1e-4)


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("3", "bare number"),
        ("-40", "bare number"),
        ("1 1/2", "bare number"),
        ("2 bananas", "not a unit"),
        ("5 kVA", "holds for the current"),
        ("1e400 W", "too large"),
        ("-460 F", "absolute zero"),
        ("", "no number"),
        ("3 h 20 min", "is none of: .*temperature"),
    ],
)
def test_what_it_can_not_be_is_said_by_its_reason(text, why):
    with pytest.raises(ReadingError, match=why):
        fits(text, CONVERSIONS, "us")


@given(st.sampled_from([(kind, unit) for kind, row in CONVERSIONS.items() for unit in row]),
       st.floats(1.0, 9999.0))  # fmt: skip
def test_whatever_the_converter_shows_can_be_converted_again(shown, value):
    """Every unit it names is read, and as the kind it stands under among others."""
    kind, unit = shown
    if "pole" in unit.text:
        return
    found = fits(f"{value:.4f} {unit.text}", CONVERSIONS, "us")
    factor, offset = line(KINDS[kind].si, unit.pint)
    assert found[kind] * factor + offset == pytest.approx(float(f"{value:.4f}"), rel=1e-6)


def test_a_sets_hertz_and_its_turns_go_by_poles():
    rows = {unit.text: unit for unit in CONVERSIONS["frequency"]}
    assert from_si(60.0, "frequency", rows["rpm, two poles"]) == pytest.approx(3600)
    assert from_si(60.0, "frequency", rows["rpm, four poles"]) == pytest.approx(1800)
    rows = {unit.text: unit for unit in CONVERSIONS["speed"]}
    turning = read("3000 rpm", "speed", "us")
    assert from_si(turning, "speed", rows["Hz, two poles"]) == pytest.approx(50)
    assert from_si(turning, "speed", rows["Hz, four poles"]) == pytest.approx(100)
