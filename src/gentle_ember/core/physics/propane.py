"""Saturated propane: CoolProp's properties, tabulated once as polynomials for use in loops.

The coefficients are printed by `tools/fit_propane.py` and compared with CoolProp itself by the
tests; CoolProp is not loaded at run time, which saves three seconds at every start.
"""

from __future__ import annotations

import math
from functools import cache

from gentle_ember.core.base.quantities import check

RANGE_K = (213.15, 333.15)

# In (T − 273.15), highest power first: kg/m³, J/kg, J/(kg K), ln(Pa).
LIQUID_DENSITY = (
    -1.575096997362e-09,
    -1.862682733702e-07,
    -1.943500482388e-05,
    -3.221516237455e-03,
    -1.351943249184e00,
    5.285801054246e02,
)
LATENT_HEAT = (
    -2.029598296676e-06,
    -2.341415127343e-04,
    -3.090057874183e-02,
    -5.647686319724e00,
    -1.398848177482e03,
    3.748483768198e05,
)
LIQUID_HEAT_CAPACITY = (
    8.783548532366e-08,
    7.605350947701e-06,
    2.881839009653e-04,
    4.409776323985e-02,
    7.516724182358e00,
    2.494123057241e03,
)
LOG_PRESSURE = (
    -2.843891405328e-14,
    9.105629207727e-12,
    -2.047289366014e-09,
    5.205839287909e-07,
    -1.190203554514e-04,
    3.053768034041e-02,
    1.306992757814e01,
)


def polynomial(coefficients: tuple[float, ...], temperature_k: float) -> float:
    """Value of a table's polynomial at a temperature [K], by Horner's rule."""
    x, total = temperature_k - 273.15, 0.0
    for c in coefficients:
        total = total * x + c
    return total


def liquid_density(temperature_k: float) -> float:
    """Density of saturated liquid propane [kg/m³].

    >>> round(liquid_density(288.15))
    507
    """
    check("propane temperature", "temperature", temperature_k, *RANGE_K)
    return polynomial(LIQUID_DENSITY, temperature_k)


def latent_heat(temperature_k: float) -> float:
    """Heat of vaporization [J/kg].

    >>> round(latent_heat(231.15) / 1e3)
    425
    """
    check("propane temperature", "temperature", temperature_k, *RANGE_K)
    return polynomial(LATENT_HEAT, temperature_k)


def liquid_heat_capacity(temperature_k: float) -> float:
    """Heat capacity of saturated liquid [J/(kg K)]."""
    check("propane temperature", "temperature", temperature_k, *RANGE_K)
    return polynomial(LIQUID_HEAT_CAPACITY, temperature_k)


def saturation_pressure(temperature_k: float) -> float:
    """Vapor pressure, absolute [Pa].

    >>> [round((saturation_pressure(c + 273.15) - 101325) / 1e3) for c in (-40, 0, 21)]
    [10, 373, 757]
    """
    check("propane temperature", "temperature", temperature_k, *RANGE_K)
    return math.exp(polynomial(LOG_PRESSURE, temperature_k))


@cache
def saturation_temperature(pressure_abs_pa: float) -> float:
    """Temperature at which propane boils under an absolute pressure [K].

    Raises:
        QuantityError: pressure outside the saturation line from −60 to 60 °C.
    """
    from scipy.optimize import brentq

    low, high = saturation_pressure(RANGE_K[0]), saturation_pressure(RANGE_K[1])
    check("propane pressure", "pressure", pressure_abs_pa, low, high)
    root = brentq(lambda t: saturation_pressure(t) - pressure_abs_pa, *RANGE_K, xtol=1e-6)
    return float(root)
