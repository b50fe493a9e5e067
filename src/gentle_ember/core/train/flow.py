"""Gas through hoses, couplers, valves and pipe: what comes out at a flow, small drops and large."""

from __future__ import annotations

import math
from functools import cache

import fluids

from gentle_ember.core import hose, pipe
from gentle_ember.core.errors import QuantityError
from gentle_ember.core.figure import Method
from gentle_ember.core.fuels import Fuel, FuelKey
from gentle_ember.core.hose import ROUGHNESS_M, VISCOSITY_PA_S
from gentle_ember.core.part import Part, PartClass
from gentle_ember.core.quantities import REFERENCE_TEMPERATURE_K, STANDARD_PRESSURE_PA

ISOTHERMAL = Method(
    "isothermal",
    "Isothermal flow",
    "p₁² − p₂² = (f·L/D + ΣK + 2·ln(p₁/p₂))·G²·R·T, G the mass flow by area",
    "isothermal compressible flow; equals Darcy–Weisbach while the drop is small; "
    "friction factor by fluids",
    "ladder",
)


@cache
def friction(reynolds: float, relative_roughness: float) -> float:
    """Darcy friction factor [1], Clamond's Colebrook, laminar below 2,040."""
    return float(fluids.friction_factor(Re=reynolds, eD=relative_roughness))


@cache
def _loss(bore_m: float, length_m: float, k: float, mass_kg_s: float, viscosity: float) -> float:
    """Loss coefficient of a length with its fittings at a mass flow [1].

    With the mass flow given, the Reynolds number needs no density.
    """
    if length_m <= 0:
        return k
    reynolds = 4 * mass_kg_s / (math.pi * bore_m * viscosity)
    return k + friction(reynolds, ROUGHNESS_M / bore_m) * length_m / bore_m


def outlet_abs(
    fuel: Fuel,
    inlet_abs_pa: float,
    mass_kg_s: float,
    bore_m: float,
    length_m: float,
    k: float,
    temperature_k: float,
) -> float:
    """Absolute pressure after a hose, coupler or valve [Pa]; zero when it chokes.

    Args:
        fuel: the gas.
        inlet_abs_pa: absolute pressure before it [Pa].
        mass_kg_s: mass flow [kg/s].
        bore_m: inside diameter [m].
        length_m: length [m].
        k: loss coefficients of what is in it, on this bore [1].
        temperature_k: of the gas [K].
    """
    if mass_kg_s <= 0:
        return inlet_abs_pa
    loss = _loss(bore_m, length_m, k, mass_kg_s, VISCOSITY_PA_S[fuel.key])
    flux = mass_kg_s / (math.pi * bore_m**2 / 4)
    scale = flux**2 * _gas_constant(fuel) * temperature_k
    left = inlet_abs_pa**2 - loss * scale
    if left <= scale:
        return 0.0
    outlet = math.sqrt(left)
    if outlet < 0.9 * inlet_abs_pa:
        for _ in range(30):
            left = inlet_abs_pa**2 - (loss + 2 * math.log(inlet_abs_pa / outlet)) * scale
            if left <= scale:
                return 0.0
            outlet, before = math.sqrt(left), outlet
            if abs(outlet - before) < 0.01:
                break
    return outlet


def past(
    fuel: Fuel,
    inlet_gauge_pa: float,
    mass_kg_s: float,
    resistance: float,
    ambient_pa: float,
    temperature_k: float,
) -> float:
    """Gauge pressure past fittings, by their ΣK/A² [1/m⁴] together [Pa]."""
    if mass_kg_s <= 0 or resistance <= 0:
        return inlet_gauge_pa
    if fuel.key is FuelKey.GASOLINE:
        return inlet_gauge_pa - resistance * mass_kg_s**2 / (2 * fuel.density_kg_m3)
    inlet = ambient_pa + inlet_gauge_pa
    left = inlet**2 - resistance * mass_kg_s**2 * _gas_constant(fuel) * temperature_k
    return math.sqrt(left) - ambient_pa if left > 0 else -ambient_pa


def _gas_constant(fuel: Fuel) -> float:
    """The one that belongs to the fuel's stated density, so that small drops are Darcy's."""
    return STANDARD_PRESSURE_PA / (fuel.density_kg_m3 * REFERENCE_TEMPERATURE_K)


def through(
    part: Part,
    fuel: Fuel,
    inlet_gauge_pa: float,
    mass_kg_s: float,
    length_m: float,
    ambient_pa: float,
    temperature_k: float,
    elevation_m: float,
) -> float:
    """Gauge pressure after a part that only resists [Pa]; −ambient when nothing comes through."""
    if part.bore_m is None or mass_kg_s <= 0:
        return inlet_gauge_pa
    if fuel.key is FuelKey.GASOLINE:
        return inlet_gauge_pa - hose.drop(
            fuel.density_kg_m3,
            VISCOSITY_PA_S[fuel.key],
            mass_kg_s / fuel.density_kg_m3,
            part.bore_m,
            length_m,
            part.k,
        )
    if part.kind is PartClass.PIPE and inlet_gauge_pa <= pipe.PRESSURE_LIMIT_PA and length_m > 0:
        flow = mass_kg_s / fuel.density_kg_m3
        try:
            lost = pipe.drop(pipe.pipe_gas(fuel), part.bore_m, flow, length_m, elevation_m)
        except QuantityError:
            return -ambient_pa
        return max(-ambient_pa, inlet_gauge_pa - lost)
    return (
        outlet_abs(
            fuel,
            ambient_pa + inlet_gauge_pa,
            mass_kg_s,
            part.bore_m,
            length_m,
            part.k,
            temperature_k,
        )
        - ambient_pa
    )
