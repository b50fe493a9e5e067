"""One pint registry, the trade's own units added, and the unit each kind is shown in."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    import pint

from gentle_ember.core.base.quantities import KINDS

System = Literal["us", "metric"]


@cache
def registry() -> pint.UnitRegistry[float]:
    """The registry, made when a quantity is first read or shown: it takes half a second."""
    import pint

    made: pint.UnitRegistry[float] = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
    for definition in (
        "inch_water_column = 249.08891 * pascal",
        "ounce_per_square_inch = ounce_force / inch ** 2",
        "standard_cubic_foot = foot ** 3",
        # A set's frequency by its poles: two turn once a period, four once in two.
        "two_pole_rpm = hertz / 60",
        "four_pole_rpm = hertz / 30",
        "two_pole_hertz = 6.283185307179586 * radian / second",
        "four_pole_hertz = 3.141592653589793 * radian / second",
    ):
        made.define(definition)
    return made


@dataclass(frozen=True, slots=True)
class Unit:
    """A unit as shown: `text` on screen, `pint` its pint name, and the line value·factor+offset."""

    text: str
    pint: str
    decimals: int
    """At the most this many decimals are shown."""


_W, _HOURS = Unit("W", "W", 0), Unit("h", "h", 1)
UNITS: dict[str, tuple[Unit, Unit]] = {
    "power": (_W, _W),
    "apparent_power": (Unit("VA", "VA", 0), Unit("VA", "VA", 0)),
    "heat_rate": (Unit("BTU/h", "Btu/h", 0), Unit("kW", "kW", 2)),
    "voltage": (Unit("V", "V", 1), Unit("V", "V", 1)),
    "current": (Unit("A", "A", 2), Unit("A", "A", 2)),
    "resistance": (Unit("ohm", "ohm", 2), Unit("ohm", "ohm", 2)),
    "frequency": (Unit("Hz", "Hz", 2), Unit("Hz", "Hz", 2)),
    "speed": (Unit("rpm", "rpm", 0), Unit("rpm", "rpm", 0)),
    "elevation": (Unit("ft", "ft", 0), Unit("m", "m", 0)),
    "length": (Unit("ft", "ft", 2), Unit("m", "m", 2)),
    "bore": (Unit("in", "inch", 4), Unit("mm", "mm", 3)),
    "small_length": (Unit("in", "inch", 3), Unit("mm", "mm", 1)),
    "clearance": (Unit("in", "inch", 4), Unit("mm", "mm", 3)),
    "bolt_length": (Unit("mm", "mm", 0), Unit("mm", "mm", 0)),
    "orifice": (Unit("mm", "mm", 2), Unit("mm", "mm", 2)),
    "displacement": (Unit("cc", "cm**3", 0), Unit("cc", "cm**3", 0)),
    "volume": (Unit("gal", "gallon", 2), Unit("L", "L", 2)),
    "temperature": (Unit("°F", "degF", 1), Unit("°C", "degC", 1)),
    "temperature_difference": (Unit("°F", "delta_degF", 1), Unit("K", "delta_degC", 1)),
    "pressure": (Unit("in w.c.", "inch_water_column", 2), Unit("mbar", "mbar", 2)),
    "mass": (Unit("lb", "lb", 2), Unit("kg", "kg", 2)),
    "mass_flow": (Unit("lb/h", "lb/h", 3), Unit("kg/h", "kg/h", 3)),
    "volume_flow": (Unit("ft³/h", "ft**3/h", 1), Unit("m³/h", "m**3/h", 3)),
    "liquid_flow": (Unit("gal/h", "gallon/h", 3), Unit("L/h", "L/h", 2)),
    "leak": (Unit("cm³/h", "cm**3/h", 1), Unit("cm³/h", "cm**3/h", 1)),
    "energy": (Unit("kWh", "kWh", 2), Unit("kWh", "kWh", 2)),
    "heating_value_volume": (Unit("BTU/ft³", "Btu/ft**3", 0), Unit("MJ/m³", "MJ/m**3", 2)),
    "heating_value_mass": (Unit("BTU/lb", "Btu/lb", 0), Unit("MJ/kg", "MJ/kg", 2)),
    "density": (Unit("lb/ft³", "lb/ft**3", 4), Unit("kg/m³", "kg/m**3", 3)),
    "conductance": (
        Unit("BTU/h·ft²·°F", "Btu/h/ft**2/delta_degF", 2),
        Unit("W/m²K", "W/m**2/K", 1),
    ),
    "duration": (_HOURS, _HOURS),
    "seconds": (Unit("s", "s", 1), Unit("s", "s", 1)),
    "minutes": (Unit("min", "minute", 1), Unit("min", "minute", 1)),
    "age": (Unit("yr", "year", 1), Unit("yr", "year", 1)),
    "ppm": (Unit("ppm", "ppm", 0), Unit("ppm", "ppm", 0)),
    "share": (Unit("%", "percent", 1), Unit("%", "percent", 1)),
    "ratio": (Unit("", "dimensionless", 3), Unit("", "dimensionless", 3)),
    "air_fuel_ratio": (Unit("", "dimensionless", 1), Unit("", "dimensionless", 1)),
    "count": (Unit("", "dimensionless", 1), Unit("", "dimensionless", 1)),
    "torque": (Unit("in·lb", "force_pound * inch", 0), Unit("N·m", "N*m", 1)),
    "turns": (Unit("turns", "dimensionless", 2), Unit("turns", "dimensionless", 2)),
    "sound_level": (Unit("dB(A)", "dimensionless", 0), Unit("dB(A)", "dimensionless", 0)),
    "price": (Unit("$", "dimensionless", 0), Unit("$", "dimensionless", 0)),
    "money": (Unit("", "dimensionless", 2), Unit("", "dimensionless", 2)),
}
HIGH_PRESSURE_PA = 7000.0
_HIGH_PRESSURE = (Unit("psi", "psi", 1), Unit("kPa", "kPa", 1))


def unit_for(kind: str, system: System, value: float = 0.0) -> Unit:
    """The unit a value [SI] of a kind is shown in; high pressures go to psi or kPa."""
    pair = UNITS[kind]
    if kind == "pressure" and abs(value) >= HIGH_PRESSURE_PA:
        pair = _HIGH_PRESSURE
    return pair[0] if system == "us" else pair[1]


@cache
def line(si: str, unit: str) -> tuple[float, float]:
    """Factor and offset from an SI unit to another, taken from pint once."""
    zero = registry().Quantity(0.0, si).to(unit).magnitude
    one = registry().Quantity(1.0, si).to(unit).magnitude
    return float(one - zero), float(zero)


def from_si(value: float, kind: str, unit: Unit) -> float:
    """A value [SI] of a kind in a unit."""
    factor, offset = line(KINDS[kind].si, unit.pint)
    return value * factor + offset


CONVERSIONS: dict[str, tuple[Unit, ...]] = {
    "temperature": (Unit("°F", "degF", 1), Unit("°C", "degC", 1), Unit("K", "kelvin", 2)),
    "power": (
        Unit("W", "W", 1),
        Unit("kW", "kW", 4),
        Unit("hp", "horsepower", 3),
        Unit("BTU/h", "Btu/h", 0),
        Unit("MJ/h", "MJ/h", 3),
    ),
    "pressure": (
        Unit("in w.c.", "inch_water_column", 4),
        Unit("psi", "psi", 5),
        Unit("oz/in²", "ounce_per_square_inch", 4),
        Unit("mbar", "mbar", 3),
        Unit("kPa", "kPa", 4),
        Unit("Pa", "Pa", 1),
    ),
    "length": (
        Unit("ft", "ft", 4),
        Unit("in", "inch", 4),
        Unit("m", "m", 4),
        Unit("mm", "mm", 2),
    ),
    "volume": (
        Unit("gal", "gallon", 3),
        Unit("qt", "quart", 3),
        Unit("L", "L", 3),
        Unit("ft³", "ft**3", 3),
        Unit("cc", "cm**3", 0),
    ),
    "mass": (Unit("lb", "lb", 3), Unit("oz", "oz", 2), Unit("kg", "kg", 4)),
    "mass_flow": (Unit("lb/h", "lb/h", 3), Unit("kg/h", "kg/h", 3), Unit("g/s", "g/s", 4)),
    "volume_flow": (
        Unit("ft³/h", "ft**3/h", 2),
        Unit("m³/h", "m**3/h", 4),
        Unit("L/min", "L/min", 2),
        Unit("gal/h", "gallon/h", 3),
    ),
    "heating_value_volume": (
        Unit("BTU/ft³", "Btu/ft**3", 0),
        Unit("MJ/m³", "MJ/m**3", 2),
        Unit("kWh/m³", "kWh/m**3", 3),
    ),
    "heating_value_mass": (
        Unit("BTU/lb", "Btu/lb", 0),
        Unit("MJ/kg", "MJ/kg", 2),
        Unit("kWh/kg", "kWh/kg", 3),
    ),
    "energy": (
        Unit("kWh", "kWh", 3),
        Unit("MJ", "MJ", 2),
        Unit("BTU", "Btu", 0),
        Unit("therm", "therm", 4),
    ),
    "torque": (
        Unit("in·lb", "force_pound * inch", 1),
        Unit("ft·lb", "force_pound * foot", 2),
        Unit("N·m", "N*m", 2),
    ),
    "frequency": (
        Unit("Hz", "Hz", 2),
        Unit("rpm, two poles", "two_pole_rpm", 1),
        Unit("rpm, four poles", "four_pole_rpm", 1),
    ),
    "speed": (
        Unit("rpm", "rpm", 1),
        Unit("turns/s", "turn/s", 3),
        Unit("Hz, two poles", "two_pole_hertz", 2),
        Unit("Hz, four poles", "four_pole_hertz", 2),
    ),
}
"""What the converter offers for a quantity, in the order people ask for it."""
