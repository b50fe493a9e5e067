"""Air at the site: pressure from elevation, density with the site's temperature and humidity."""

from __future__ import annotations

import math
from functools import lru_cache

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check

GAS_CONSTANT_DRY_AIR = 287.053
GAS_CONSTANT_WATER_VAPOR = 461.52
STANDARD_DENSITY_KG_M3 = 1.225
ELEVATION_RANGE_M = (-430.0, 5500.0)
TEMPERATURE_RANGE_K = (213.15, 333.15)

ATMOSPHERE = Method(
    key="air-standard-atmosphere",
    name="US Standard Atmosphere 1976, site temperature",
    formula="p from elevation; ρ = (p − e)/(287.05 T) + e/(461.5 T); σ = ρ/1.225",
    source="U.S. Standard Atmosphere 1976 (fluids); saturation: Alduchov & Eskridge 1996",
    page="air",
)


@lru_cache(maxsize=512)
def pressure(elevation_m: float) -> float:
    """Air pressure at an elevation on a standard day.

    Args:
        elevation_m: elevation above sea level [m], −430 to 5,500.

    Returns:
        Absolute pressure [Pa].

    Raises:
        QuantityError: elevation outside the range people drive generators to.

    >>> round(pressure(1524) / 101325, 4), round(pressure(2450) / 101325, 4)
    (0.8321, 0.7418)
    """
    check("elevation", "elevation", elevation_m, *ELEVATION_RANGE_M)
    from fluids.atmosphere import ATMOSPHERE_1976

    return float(ATMOSPHERE_1976(elevation_m).P)


def saturation_pressure(temperature_k: float) -> float:
    """Water vapor pressure at saturation over water.

    Magnus form of Alduchov & Eskridge (1996), within 0.4 % from −40 to 50 °C.

    Args:
        temperature_k: air temperature [K].

    Returns:
        Vapor pressure [Pa].

    >>> round(saturation_pressure(293.15))
    2333
    """
    check("temperature", "temperature", temperature_k, *TEMPERATURE_RANGE_K)
    celsius = temperature_k - 273.15
    return 610.94 * math.exp(17.625 * celsius / (celsius + 243.04))


def dew_point(temperature_k: float, relative_humidity: float) -> float:
    """Temperature at which the air's moisture begins to settle.

    Args:
        temperature_k: air temperature [K].
        relative_humidity: 0 to 1 [1].

    Returns:
        Dew point [K]; 213.15 K for bone-dry air.

    >>> round(dew_point(293.15, 0.5) - 273.15, 1)
    9.3
    """
    check("relative humidity", "share", relative_humidity, 0.0, 1.0)
    vapor = relative_humidity * saturation_pressure(temperature_k)
    if vapor < 1.0:
        return TEMPERATURE_RANGE_K[0]
    ratio = math.log(vapor / 610.94)
    return 273.15 + 243.04 * ratio / (17.625 - ratio)


def density(pressure_abs_pa: float, temperature_k: float, vapor_pa: float = 0.0) -> float:
    """Density of moist air.

    Args:
        pressure_abs_pa: total pressure [Pa].
        temperature_k: temperature [K].
        vapor_pa: partial pressure of water vapor [Pa].

    Returns:
        Density [kg/m³].

    >>> round(density(101325, 288.15), 3)
    1.225
    """
    dry = (pressure_abs_pa - vapor_pa) / (GAS_CONSTANT_DRY_AIR * temperature_k)
    return dry + vapor_pa / (GAS_CONSTANT_WATER_VAPOR * temperature_k)


def standard_density_ratio(elevation_m: float) -> float:
    """Density ratio σ on a standard day.

    >>> round(standard_density_ratio(1524), 4), round(standard_density_ratio(2450), 4)
    (0.8617, 0.7852)
    """
    check("elevation", "elevation", elevation_m, *ELEVATION_RANGE_M)
    from fluids.atmosphere import ATMOSPHERE_1976

    return float(ATMOSPHERE_1976(elevation_m).rho) / STANDARD_DENSITY_KG_M3
