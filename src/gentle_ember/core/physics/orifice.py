"""Gas orifices: what passes a hole, what hole passes it, and the drill that makes it."""

from __future__ import annotations

import math

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check
from gentle_ember.core.physics.fuels import Fuel

DISCHARGE = 0.80
ORIFICE = Method(
    "orifice",
    "Gas orifice",
    "Q = Cd·A·√(2Δp/ρ); heat rate = Q × HHV",
    "Bernoulli with a discharge coefficient (0.80, ±10 %: length and edge of the hole)",
    "orifice",
)
DRILLS_MM: dict[int, float] = {
    80: 0.343, 79: 0.368, 78: 0.406, 77: 0.457, 76: 0.508, 75: 0.533, 74: 0.572, 73: 0.610,
    72: 0.635, 71: 0.660, 70: 0.711, 69: 0.742, 68: 0.787, 67: 0.813, 66: 0.838, 65: 0.889,
    64: 0.914, 63: 0.940, 62: 0.965, 61: 0.991, 60: 1.016, 59: 1.041, 58: 1.067, 57: 1.092,
    56: 1.181, 55: 1.321, 54: 1.397, 53: 1.511, 52: 1.613, 51: 1.702, 50: 1.778, 49: 1.854,
    48: 1.930, 47: 1.994, 46: 2.057, 45: 2.083, 44: 2.184, 43: 2.261, 42: 2.375, 41: 2.438,
    40: 2.489, 39: 2.527, 38: 2.578, 37: 2.642, 36: 2.705, 35: 2.794, 34: 2.819, 33: 2.870,
    32: 2.946, 31: 3.048, 30: 3.264,
}  # fmt: skip
"""Number drills by their diameter, ASME B94.11M [mm]."""


def bore_m(heat_hhv_w: float, fuel: Fuel, drop_pa: float) -> float:
    """Hole that passes a heat rate at a pressure drop [m].

    Args:
        heat_hhv_w: heat rate on the higher heating value [W].
        fuel: the gas.
        drop_pa: across the hole [Pa].

    >>> from gentle_ember.core.physics.fuels import natural_gas
    >>> round(bore_m(10e3, natural_gas(), 870.0) * 1e3, 2)
    2.92
    """
    check("heat rate", "heat_rate", heat_hhv_w, 10.0, 1e6)
    check("pressure across it", "pressure", drop_pa, 10.0, 2e5)
    flow = heat_hhv_w / fuel.hhv_j_m3
    area = flow / (DISCHARGE * math.sqrt(2 * drop_pa / fuel.density_kg_m3))
    return math.sqrt(4 * area / math.pi)


def heat_hhv_w(bore: float, fuel: Fuel, drop_pa: float) -> float:
    """Heat rate a hole passes on the higher heating value [W].

    >>> from gentle_ember.core.physics.fuels import natural_gas
    >>> round(heat_hhv_w(bore_m(10e3, natural_gas(), 870.0), natural_gas(), 870.0))
    10000
    """
    check("bore", "small_length", bore, 1e-4, 0.02)
    check("pressure across it", "pressure", drop_pa, 10.0, 2e5)
    area = math.pi * bore**2 / 4
    return DISCHARGE * area * math.sqrt(2 * drop_pa / fuel.density_kg_m3) * fuel.hhv_j_m3


def drill_under(bore: float) -> tuple[int, float]:
    """The largest number drill that makes no larger hole: its number and diameter [m].

    >>> drill_under(1.0e-3)
    (61, 0.000991)
    """
    fitting = [(number, mm) for number, mm in DRILLS_MM.items() if mm <= bore * 1e3 + 1e-9]
    number, mm = max(fitting, key=lambda one: one[1]) if fitting else (80, DRILLS_MM[80])
    return number, mm / 1e3
