"""Kinds of quantity: what a number in the core means, and the SI unit it is held in."""

from __future__ import annotations

import math
from dataclasses import dataclass

from gentle_ember.core.base.errors import QuantityError


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of quantity; `si` is a pint-readable unit, `sample` a value for error texts [si]."""

    key: str
    name: str
    si: str
    sample: float


_ALL = (
    Kind("power", "power", "W", 2800.0),
    Kind("heat_rate", "heat rate", "W", 20000.0),
    Kind("apparent_power", "apparent power", "W", 2800.0),
    Kind("voltage", "voltage", "V", 120.0),
    Kind("current", "current", "A", 9.0),
    Kind("resistance", "resistance", "ohm", 0.4),
    Kind("frequency", "frequency", "Hz", 60.0),
    Kind("speed", "engine speed", "rad/s", 377.0),
    Kind("elevation", "elevation", "m", 609.6),
    Kind("length", "length", "m", 3.048),
    Kind("small_length", "small length", "m", 0.012),
    Kind("bolt_length", "bolt length", "m", 0.016),
    Kind("orifice", "hole of a jet", "m", 0.0038),
    Kind("bore", "bore", "m", 0.0127),
    Kind("clearance", "clearance", "m", 0.00015),
    Kind("displacement", "displacement", "m**3", 212e-6),
    Kind("volume", "volume", "m**3", 0.018927),
    Kind("temperature", "temperature", "K", 294.15),
    Kind("temperature_difference", "temperature difference", "delta_degC", 5.0),
    Kind("pressure", "pressure", "Pa", 2739.0),
    Kind("mass", "mass", "kg", 9.07),
    Kind("mass_flow", "mass flow", "kg/s", 0.00036),
    Kind("volume_flow", "gas flow", "m**3/s", 0.0008),
    Kind("liquid_flow", "liquid flow", "m**3/s", 4e-7),
    Kind("leak", "leak", "m**3/s", 2.8e-9),
    Kind("energy", "energy", "J", 3.6e6),
    Kind("heating_value_volume", "heating value", "J/m**3", 38.4e6),
    Kind("heating_value_mass", "heating value", "J/kg", 46.35e6),
    Kind("density", "density", "kg/m**3", 1.2),
    Kind("conductance", "heat transfer coefficient", "W/m**2/K", 12.0),
    Kind("duration", "time", "s", 3600.0),
    Kind("minutes", "time", "s", 600.0),
    Kind("seconds", "time", "s", 40.0),
    Kind("age", "time", "s", 365.25 * 86400.0),
    Kind("share", "share", "1", 0.6),
    Kind("ppm", "share of volume", "1", 200e-6),
    Kind("ratio", "ratio", "1", 1.05),
    Kind("air_fuel_ratio", "air–fuel ratio", "1", 14.7),
    Kind("count", "count", "1", 85.0),
    Kind("torque", "torque", "N*m", 9.0),
    Kind("turns", "turns of a screw", "1", 2.5),
    Kind("sound_level", "sound level", "1", 68.0),
    Kind("price", "price", "1", 120.0),
    Kind("money", "money", "1", 85.0),
)
KINDS: dict[str, Kind] = {kind.key: kind for kind in _ALL}

STANDARD_PRESSURE_PA = 101_325.0
INCH_WC_PA, PSI_PA = 249.08891, 6894.757
"""An inch of water column and a pound per square inch, for limits the trade states in them."""
REFERENCE_TEMPERATURE_K = 288.15
"""Gas volumes are stated at 15 °C and 101,325 Pa throughout."""


def percent(share: float) -> str:
    """A share as the page writes it.

    >>> percent(0.083)
    '8 %'
    """
    return f"{share * 100:.0f} %"


def check(name: str, kind: str, value: float, low: float, high: float) -> float:
    """Return `value` if it is a number within [low, high], else raise.

    Raises:
        QuantityError: naming the quantity, the value and the allowed range.

    >>> check("elevation", "elevation", 610.0, -430, 5500)
    610.0
    """
    if not math.isfinite(value) or not low <= value <= high:
        raise QuantityError(name, kind, value, low, high)
    return value
