"""Hoses, couplers and gasoline lines by Darcy–Weisbach: what a flow drops, what a head drives."""

from __future__ import annotations

import math

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check
from gentle_ember.core.physics.fuels import FACTS, GASOLINE_E10, Fuel, FuelKey

ROUGHNESS_M = 30e-6
"""Rubber hose; between smooth (1.5 µm) and worn (50 µm), which differ by a fifth in drop."""
GRAVITY = 9.80665
NEEDLE_HEAD_M = 0.60
SEAT_M, SEAT_DISCHARGE = 1.5e-3, 0.65
"""Bore of a small carburetor's needle seat, 1.2 to 2 mm, and its discharge coefficient: the
narrowest place of a gravity line."""

HOSE = Method(
    "hose-darcy",
    "Darcy–Weisbach with fittings",
    "Δp = (f·L/D + ΣK)·ρ·v²/2; f by Reynolds number and roughness",
    "Darcy–Weisbach; friction factor by fluids (Clamond's Colebrook, laminar below 2,040)",
    "hose",
)
GRAVITY_FEED = Method(
    "gravity-feed",
    "Gravity feed",
    "the flow at which hose and fittings use up the head from tank surface to float bowl",
    "Darcy–Weisbach; asked for is twice the full-load flow, 0.6 m at most over the bowl",
    "hose",
)


def drop(
    density: float, viscosity: float, flow_m3_s: float, bore_m: float, length_m: float, k: float
) -> float:
    """Pressure drop of a hose with its fittings [Pa].

    Args:
        density: [kg/m³].
        viscosity: dynamic [Pa·s].
        flow_m3_s: volume flow [m³/s].
        bore_m: inside diameter [m].
        length_m: length [m].
        k: sum of loss coefficients of couplers, valves and bends, on this bore [1].

    Raises:
        QuantityError: bore, length, flow or k outside what hoses are.
    """
    check("hose bore", "small_length", bore_m, 2e-3, 0.1)
    check("hose length", "length", length_m, 0.0, 300.0)
    check("loss coefficient", "ratio", k, 0.0, 1000.0)
    check("flow", "volume_flow", flow_m3_s, 0.0, 1.0)
    if flow_m3_s == 0:
        return 0.0
    velocity = flow_m3_s / (math.pi * bore_m**2 / 4)
    reynolds = density * velocity * bore_m / viscosity
    import fluids

    friction = float(fluids.friction_factor(Re=reynolds, eD=ROUGHNESS_M / bore_m))
    return (friction * length_m / bore_m + k) * density * velocity**2 / 2


def gas_drop(fuel: Fuel, heat_lhv_w: float, bore_m: float, length_m: float, k: float) -> float:
    """Pressure drop of a gas hose at a fuel power on the lower heating value [Pa].

    Good while the drop stays below a tenth of the absolute pressure.

    >>> from gentle_ember.core.physics.fuels import PROPANE, natural_gas
    >>> 71 < gas_drop(PROPANE, 30e3, 9.525e-3, 1.0, 0.0) < 87
    True
    >>> 189 < gas_drop(natural_gas(), 30e3, 9.525e-3, 1.0, 0.0) < 225
    True
    """
    flow = heat_lhv_w / fuel.lhv_j_m3
    return drop(fuel.density_kg_m3, FACTS[fuel.key].viscosity, flow, bore_m, length_m, k)


def seat_for(flow_m3_s: float) -> float:
    """Bore of the needle's seat a carburetor of this full-load flow usually has [m].

    Seats go with the engine, 1.2 mm on the smallest to 2.5 mm on V-twins; own judgment.

    >>> [round(seat_for(flow) * 1e3, 1) for flow in (2e-7, 1e-6, 5e-6)]
    [1.2, 1.5, 2.5]
    """
    return min(2.5e-3, max(1.2e-3, SEAT_M * math.sqrt(flow_m3_s / 1e-6)))


def seat_drop(flow_m3_s: float, seat_m: float = SEAT_M) -> float:
    """What the float needle's seat takes of a gasoline line's head [Pa].

    >>> round(seat_drop(2.5e-6)), round(seat_drop(2.5e-6, 1.2e-3))
    (1776, 4337)
    """
    speed = flow_m3_s / (SEAT_DISCHARGE * math.pi * seat_m**2 / 4)
    return GASOLINE_E10.density_kg_m3 * speed**2 / 2


def gravity_flow(
    head_m: float, bore_m: float, length_m: float, k: float, seat_m: float = SEAT_M
) -> float:
    """Gasoline a head drives through a line and the needle's seat [m³/s]; zero where the bowl is
    not below.

    At most half a cubic meter a second, which is more than enough of any line.

    >>> gravity_flow(-0.1, 6e-3, 2.0, 5.0)
    0.0
    """
    if head_m <= 0:
        return 0.0
    from scipy.optimize import brentq

    density, viscosity = GASOLINE_E10.density_kg_m3, FACTS[FuelKey.GASOLINE].viscosity
    available = density * GRAVITY * head_m

    def left(flow: float) -> float:
        line = drop(density, viscosity, flow, bore_m, length_m, k)
        return available - line - seat_drop(flow, seat_m)

    most = 1e-3
    while left(most) > 0:
        if most > 0.4:
            return most
        most *= 2
    return float(brentq(left, 0.0, most, xtol=1e-12))
