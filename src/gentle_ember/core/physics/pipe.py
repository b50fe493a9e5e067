"""Fixed gas pipe under 1.5 psi by the code formula: flow, drop, length or bore from the rest."""

from __future__ import annotations

import math
from dataclasses import dataclass

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import (
    INCH_WC_PA,
    PSI_PA,
    REFERENCE_TEMPERATURE_K,
    STANDARD_PRESSURE_PA,
    check,
)
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuels import FACTS, Fuel, FuelKey

INCH_M, FOOT_M, FT3_H_M3_S = 0.0254, 0.3048, 0.0283168466 / 3600.0
BTU_FT3_J_M3 = 1055.05585 / 0.0283168466
CR_NATURAL_GAS, CR_PROPANE = 0.6094, 1.2462
CODE_PROPANE_HHV = 2500.0 * BTU_FT3_J_M3
CODE_TEMPERATURE_R = 520.0
PRESSURE_LIMIT_PA = 1.5 * PSI_PA
WIDEST_BAND = 0.02
"""The formula reproduces the published sizing tables within this."""

NOMINAL_M: dict[str, float] = {
    "3/8": 0.493 * INCH_M,
    "1/2": 0.622 * INCH_M,
    "3/4": 0.824 * INCH_M,
    "1": 1.049 * INCH_M,
    "1-1/4": 1.380 * INCH_M,
    "1-1/2": 1.610 * INCH_M,
    "2": 2.067 * INCH_M,
    "2-1/2": 2.469 * INCH_M,
    "3": 3.068 * INCH_M,
}
"""Inside diameters of schedule 40 metallic pipe by nominal size [m]."""

CODE_FORMULA = Method(
    "pipe-code",
    "Code formula, under 1.5 psi",
    "D = Q^0.381 / (19.17·(ΔH/(Cr·L))^0.206); Q in ft³/h, ΔH in w.c., L ft, D in",
    "NFPA 54 / IFGC low-pressure equation with its own constants; × √(p site / p sea level)",
    "gas-pipe",
)


@dataclass(frozen=True, slots=True)
class PipeGas:
    """A gas as the code formula sees it: its factor Cr [1], HHV by volume [J/m³], gravity [1]."""

    key: FuelKey
    name: str
    cr: float
    hhv_j_m3: float
    specific_gravity: float


def pipe_gas(fuel: Fuel) -> PipeGas:
    """A gas with the code's own constants; others by Cr = 0.00354·S·T·(Z/S)^0.152, Z in cP.

    Raises:
        QuantityError: gasoline has no gas pipe.

    >>> from gentle_ember.core.physics.fuels import PROPANE
    >>> round(pipe_gas(PROPANE).hhv_j_m3 / BTU_FT3_J_M3)
    2500
    """
    gravity = fuel.specific_gravity
    if fuel.key is FuelKey.PROPANE:
        return PipeGas(fuel.key, fuel.name, CR_PROPANE, CODE_PROPANE_HHV, 1.50)
    if fuel.key is FuelKey.NATURAL_GAS:
        cr = CR_NATURAL_GAS * (gravity / 0.60) ** (1 - 0.152)
        return PipeGas(fuel.key, fuel.name, cr, fuel.hhv_j_m3, gravity)
    if fuel.key is FuelKey.GASOLINE:
        raise QuantityError("gas", "count", math.nan, None, None)
    thick = FACTS[fuel.key].viscosity * 1e3
    cr = 0.00354 * gravity * CODE_TEMPERATURE_R * (thick / gravity) ** 0.152
    return PipeGas(fuel.key, fuel.name, cr, fuel.hhv_j_m3, gravity)


def thin_air(elevation_m: float) -> float:
    """Share of its sea-level capacity a low-pressure pipe keeps [1]: √(p site / p sea).

    >>> round(thin_air(2450.0), 3)
    0.861
    """
    return math.sqrt(air.pressure(elevation_m) / STANDARD_PRESSURE_PA)


def capacity(
    gas: PipeGas, bore_m: float, drop_pa: float, length_m: float, elevation_m: float = 0.0
) -> float:
    """Flow a pipe passes at a drop.

    Args:
        gas: the gas.
        bore_m: inside diameter [m].
        drop_pa: pressure drop allowed over the length [Pa].
        length_m: longest length with fittings as equivalent length [m].
        elevation_m: elevation of the site [m].

    Returns:
        Flow at 15 °C and 101,325 Pa [m³/s].

    Raises:
        QuantityError: bore, drop or length outside what the formula is for.

    >>> from gentle_ember.core.physics.fuels import natural_gas
    >>> q = capacity(pipe_gas(natural_gas()), 0.622 * INCH_M, 0.5 * INCH_WC_PA, 10 * FOOT_M)
    >>> abs(q / FT3_H_M3_S / 172 - 1) < 0.02
    True
    """
    _check(bore_m, drop_pa, length_m)
    slope = drop_pa / INCH_WC_PA / (gas.cr * length_m / FOOT_M)
    base = 19.17 * (bore_m / INCH_M) * slope**0.206
    return float(base ** (1 / 0.381)) * FT3_H_M3_S * thin_air(elevation_m)


def bore(
    gas: PipeGas, flow_m3_s: float, drop_pa: float, length_m: float, elevation_m: float = 0.0
) -> float:
    """Inside diameter that passes a flow at a drop [m]; see `capacity`."""
    check("gas flow", "volume_flow", flow_m3_s, 1e-7, 10.0)
    _check(INCH_M, drop_pa, length_m)
    sea = flow_m3_s / thin_air(elevation_m) / FT3_H_M3_S
    slope = drop_pa / INCH_WC_PA / (gas.cr * length_m / FOOT_M)
    return float(sea**0.381 / (19.17 * slope**0.206)) * INCH_M


def drop(
    gas: PipeGas, bore_m: float, flow_m3_s: float, length_m: float, elevation_m: float = 0.0
) -> float:
    """Pressure drop of a flow over a length [Pa]; see `capacity`."""
    return _gradient(gas, bore_m, flow_m3_s, elevation_m) * length_m


def length(
    gas: PipeGas, bore_m: float, flow_m3_s: float, drop_pa: float, elevation_m: float = 0.0
) -> float:
    """Longest length that passes a flow at a drop [m]; see `capacity`."""
    return drop_pa / _gradient(gas, bore_m, flow_m3_s, elevation_m)


def _gradient(gas: PipeGas, bore_m: float, flow_m3_s: float, elevation_m: float) -> float:
    """Pressure drop by length [Pa/m]."""
    check("gas flow", "volume_flow", flow_m3_s, 1e-7, 10.0)
    _check(bore_m, INCH_WC_PA, 1.0)
    sea = flow_m3_s / thin_air(elevation_m) / FT3_H_M3_S
    slope = (sea**0.381 / (19.17 * bore_m / INCH_M)) ** (1 / 0.206)
    return float(slope * gas.cr * INCH_WC_PA / FOOT_M)


def next_nominal(bore_m: float) -> str | None:
    """Smallest schedule 40 size that is at least so wide; None past the table.

    >>> next_nominal(0.7 * INCH_M), next_nominal(4 * INCH_M)
    ('3/4', None)
    """
    return next((name for name, inside in NOMINAL_M.items() if inside >= bore_m - 1e-9), None)


def second_opinion(gas: PipeGas, bore_m: float, drop_pa: float, length_m: float) -> float:
    """Flow by the Spitzglass low-pressure equation [m³/s at 15 °C, 101,325 Pa], sea level."""
    import fluids

    flow = fluids.Spitzglass_low(
        SG=gas.specific_gravity,
        Tavg=REFERENCE_TEMPERATURE_K,
        L=length_m,
        D=bore_m,
        P1=STANDARD_PRESSURE_PA + drop_pa,
        P2=STANDARD_PRESSURE_PA,
        Q=None,
        Ts=REFERENCE_TEMPERATURE_K,
        Ps=STANDARD_PRESSURE_PA,
        Zavg=1.0,
        E=1.0,
    )
    return float(flow)


def _check(bore_m: float, drop_pa: float, length_m: float) -> None:
    check("inside diameter", "small_length", bore_m, 3e-3, 0.3)
    check("pressure drop", "pressure", drop_pa, 1.0, PRESSURE_LIMIT_PA)
    check("length", "length", length_m, 0.1, 1000.0)
