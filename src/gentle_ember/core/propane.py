"""Saturated propane: properties from CoolProp, tabulated once as polynomials for use in loops."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from CoolProp.CoolProp import PropsSI
from scipy.optimize import brentq

from gentle_ember.core.quantities import check

RANGE_K = (213.15, 333.15)


@dataclass(frozen=True, slots=True)
class Saturated:
    """Polynomial coefficients in (T − 273.15), highest power first."""

    liquid_density: tuple[float, ...]
    latent_heat: tuple[float, ...]
    liquid_heat_capacity: tuple[float, ...]


@cache
def table() -> Saturated:
    """Fit CoolProp's saturation line once; within 0.1 % of it over −60 to 60 °C."""
    kelvin = np.linspace(*RANGE_K, 61)
    x = kelvin - 273.15
    liquid = np.array([PropsSI("D", "T", t, "Q", 0, "Propane") for t in kelvin])
    h_liquid = np.array([PropsSI("H", "T", t, "Q", 0, "Propane") for t in kelvin])
    h_vapour = np.array([PropsSI("H", "T", t, "Q", 1, "Propane") for t in kelvin])
    capacity = np.array([PropsSI("C", "T", t, "Q", 0, "Propane") for t in kelvin])
    return Saturated(
        *(
            tuple(float(c) for c in np.polyfit(x, y, 4))
            for y in (liquid, h_vapour - h_liquid, capacity)
        )
    )


def _evaluate(coefficients: tuple[float, ...], temperature_k: float) -> float:
    x, total = temperature_k - 273.15, 0.0
    for c in coefficients:
        total = total * x + c
    return total


def liquid_density(temperature_k: float) -> float:
    """Density of saturated liquid propane [kg/m³].

    >>> round(liquid_density(288.15))
    508
    """
    check("propane temperature", "temperature", temperature_k, *RANGE_K)
    return _evaluate(table().liquid_density, temperature_k)


def latent_heat(temperature_k: float) -> float:
    """Heat of vaporisation [J/kg].

    >>> round(latent_heat(231.15) / 1e3)
    426
    """
    check("propane temperature", "temperature", temperature_k, *RANGE_K)
    return _evaluate(table().latent_heat, temperature_k)


def liquid_heat_capacity(temperature_k: float) -> float:
    """Heat capacity of saturated liquid [J/(kg K)]."""
    check("propane temperature", "temperature", temperature_k, *RANGE_K)
    return _evaluate(table().liquid_heat_capacity, temperature_k)


def saturation_pressure(temperature_k: float) -> float:
    """Vapour pressure, absolute [Pa].

    >>> [round((saturation_pressure(c + 273.15) - 101325) / 1e3) for c in (-40, 0, 21)]
    [10, 373, 757]
    """
    check("propane temperature", "temperature", temperature_k, *RANGE_K)
    return float(PropsSI("P", "T", temperature_k, "Q", 0, "Propane"))


@cache
def saturation_temperature(pressure_abs_pa: float) -> float:
    """Temperature at which propane boils under an absolute pressure [K].

    Raises:
        QuantityError: pressure outside the saturation line from −60 to 60 °C.
    """
    low, high = saturation_pressure(RANGE_K[0]), saturation_pressure(RANGE_K[1])
    check("propane pressure", "pressure", pressure_abs_pa, low, high)
    root = brentq(lambda t: saturation_pressure(t) - pressure_abs_pa, *RANGE_K, xtol=1e-6)
    return float(root)
