"""Gas orifices: what passes a hole, what hole passes it, and the drill that makes it."""

from __future__ import annotations

import math

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import (
    REFERENCE_TEMPERATURE_K,
    STANDARD_PRESSURE_PA,
    check,
)
from gentle_ember.core.physics.fuels import FACTS, Fuel

DISCHARGE, DISCHARGE_BAND = 0.80, 0.10
BURNER_TABLES = 0.90
"""Discharge coefficient most printed burner tables are made with; 0.85 to 0.95."""
ORIFICE = Method(
    "orifice",
    "Gas orifice",
    "ṁ = Cd·A·√(2κ/(κ−1)·p₁ρ₁·(r^(2/κ) − r^((κ+1)/κ))), r = p₂/p₁, not below choking; heat = ṁ·HHV",
    "isentropic flow through a nozzle, its coefficient 0.80 ± 10 % by length and edge of "
    "the hole); gas as thin as the air and warmth make it",
    "orifice",
)
_NUMBERED = (
    135, 145, 160, 180, 200, 210, 225, 240, 250, 260, 280, 292, 310, 320, 330, 350, 360, 370, 380,
    390, 400, 410, 420, 430, 465, 520, 550, 595, 635, 670, 700, 730, 760, 785, 810, 820, 860, 890,
    935, 960, 980, 995, 1015, 1040, 1065, 1100, 1110, 1130, 1160, 1200, 1285, 1360, 1405, 1440,
    1470, 1495, 1520, 1540, 1570, 1590, 1610, 1660, 1695, 1730, 1770, 1800, 1820, 1850, 1890, 1910,
    1935, 1960, 1990, 2010, 2040, 2055, 2090, 2130, 2210, 2280,
)  # fmt: skip
_LETTERED = (
    2340, 2380, 2420, 2460, 2500, 2570, 2610, 2660, 2720, 2770, 2810, 2900, 2950, 3020, 3160, 3230,
    3320, 3390, 3480, 3580, 3680, 3770, 3860, 3970, 4040, 4130,
)  # fmt: skip
DRILLS_M: dict[str, float] = {
    **{f"#{80 - at}": tenths * 2.54e-6 for at, tenths in enumerate(_NUMBERED)},
    **{chr(ord("A") + at): tenths * 2.54e-6 for at, tenths in enumerate(_LETTERED)},
}
"""Number drills #80 to #1 and letter drills A to Z by their diameter, ASME B94.11M [m]."""


def flux(
    fuel: Fuel, drop_pa: float, ambient_pa: float, temperature_k: float = REFERENCE_TEMPERATURE_K
) -> float:
    """Mass flow by area of an even nozzle into the open [kg/s·m²], its coefficient left out.

    Args:
        fuel: the gas.
        drop_pa: pressure before it over the air around [Pa].
        ambient_pa: of the air around [Pa].
        temperature_k: of the gas before it [K].

    >>> from gentle_ember.core.physics.fuels import PROPANE
    >>> small, large = (flux(PROPANE, one, 101_325.0) for one in (100.0, 10_000.0))
    >>> round(small / math.sqrt(2 * 100.0 * PROPANE.density_kg_m3), 3), round(large / small, 2)
    (1.0, 9.85)
    """
    ratio = FACTS[fuel.key].heats
    before = ambient_pa + drop_pa
    density = (
        fuel.density_kg_m3 * before / STANDARD_PRESSURE_PA * REFERENCE_TEMPERATURE_K / temperature_k
    )
    choked = (2 / (ratio + 1)) ** (ratio / (ratio - 1))
    left = max(ambient_pa / before, choked)
    power = left ** (2 / ratio) - left ** ((ratio + 1) / ratio)
    return math.sqrt(2 * ratio / (ratio - 1) * before * density * power)


def bore_m(
    heat_hhv_w: float,
    fuel: Fuel,
    drop_pa: float,
    ambient_pa: float = STANDARD_PRESSURE_PA,
    temperature_k: float = REFERENCE_TEMPERATURE_K,
    discharge: float = DISCHARGE,
) -> float:
    """Hole that passes a heat rate into the open [m].

    Args:
        heat_hhv_w: heat rate on the higher heating value [W].
        fuel: the gas.
        drop_pa: across the hole [Pa].
        ambient_pa: of the air around [Pa].
        temperature_k: of the gas [K].
        discharge: coefficient of the hole [1].

    >>> from gentle_ember.core.physics.fuels import natural_gas
    >>> round(bore_m(10e3, natural_gas(), 870.0) * 1e3, 2)
    2.92
    """
    check("heat rate", "heat_rate", heat_hhv_w, 10.0, 1e6)
    check("pressure across it", "pressure", drop_pa, 10.0, 2e5)
    passed = discharge * flux(fuel, drop_pa, ambient_pa, temperature_k) * fuel.hhv_j_kg
    return math.sqrt(4 * heat_hhv_w / passed / math.pi)


def heat_hhv_w(
    bore: float,
    fuel: Fuel,
    drop_pa: float,
    ambient_pa: float = STANDARD_PRESSURE_PA,
    temperature_k: float = REFERENCE_TEMPERATURE_K,
    discharge: float = DISCHARGE,
) -> float:
    """Heat rate a hole passes on the higher heating value [W].

    >>> from gentle_ember.core.physics.fuels import natural_gas
    >>> round(heat_hhv_w(bore_m(10e3, natural_gas(), 870.0), natural_gas(), 870.0))
    10000
    """
    check("bore", "small_length", bore, 1e-4, 0.02)
    check("pressure across it", "pressure", drop_pa, 10.0, 2e5)
    area = math.pi * bore**2 / 4
    return discharge * area * flux(fuel, drop_pa, ambient_pa, temperature_k) * fuel.hhv_j_kg


def drill_under(bore: float) -> tuple[str, float]:
    """The largest number or letter drill that makes no larger hole: its name and diameter [m].

    Raises:
        QuantityError: smaller than the least of them, or larger than the largest.

    >>> drill_under(1.0e-3)[0], drill_under(7e-3)[0]
    ('#61', 'I')
    """
    least, most = DRILLS_M["#80"], DRILLS_M["Z"]
    if not least <= bore * (1 + 1e-9) <= most * 1.05:
        raise QuantityError("a drilled hole", "bore", bore, least, most)
    name = max(
        (one for one, size in DRILLS_M.items() if size <= bore * (1 + 1e-9)),
        key=lambda one: DRILLS_M[one],
    )
    return name, DRILLS_M[name]


def orifice_pa(mass_kg_s: float, density: float, orifice_m: float) -> float:
    """What a hole takes at a gas flow, where the drop is so small that density stays [Pa].

    Args:
        mass_kg_s: through the one hole [kg/s].
        density: of the gas before it [kg/m³].
        orifice_m: its diameter [m].

    >>> round(orifice_pa(0.35e-3, 1.86, 5.0e-3))
    133
    """
    area = math.pi * orifice_m**2 / 4
    return (mass_kg_s / (DISCHARGE * area)) ** 2 / (2 * density)


def orifice_for(mass_kg_s: float, density: float, left_pa: float) -> float:
    """Diameter of the hole that passes a gas flow at a small drop [m].

    >>> round(orifice_for(0.35e-3, 1.86, orifice_pa(0.35e-3, 1.86, 5.0e-3)) * 1e3, 6)
    5.0
    """
    area = mass_kg_s / (DISCHARGE * math.sqrt(2 * density * left_pa))
    return math.sqrt(4 * area / math.pi)
