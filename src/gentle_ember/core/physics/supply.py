"""How long a supply lasts: gasoline tanks, cylinders by energy, and utility gas by flow."""

from __future__ import annotations

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import PSI_PA, STANDARD_PRESSURE_PA, check
from gentle_ember.core.physics.fuels import Fuel

USABLE_TANK_SHARE = 0.95

TANK = Method(
    "supply-tank",
    "Tank run time",
    "hours = volume × usable share × density × LHV / fuel power",
    "energy balance; usable share of the tank taken as 0.95",
    "supply",
)
UTILITY = Method(
    "supply-utility",
    "Utility gas flow",
    "flow = fuel power × HHV/LHV / HHV by volume, at 15 °C and 101,325 Pa",
    "energy balance; the gas trade rates on the higher heating value",
    "supply",
)
MASS_DRAW = Method(
    "supply-mass",
    "Fuel draw",
    "ṁ = fuel power / LHV",
    "energy balance",
    "supply",
)


CAPACITY = Method(
    "regulator-capacity",
    "What a regulator passes at its inlet",
    "rated · p_inlet / p_rated at, both absolute; never over rated",
    "choked flow through a seat that is wide open: mass flow goes with the absolute pressure "
    "before it; makers of first stages state their rating at 30 psi where they say no other inlet",
    "ladder",
)
RATED_AT_PA = 30 * PSI_PA
"""Gauge pressure a cylinder's regulator is rated at where its maker names none [Pa]."""
STARVES_AT_MOST_PA = 700e3
"""Past this no cylinder outdoors helps: the regulator is too small, and is stopped as such."""


def regulator_capacity(
    rated_w: float, rated_at_pa: float, inlet_pa: float, ambient_pa: float
) -> float:
    """Heat rate a cylinder's regulator passes [W, as it is rated].

    Args:
        rated_w: its rating [W].
        rated_at_pa: gauge inlet pressure it is rated at [Pa].
        inlet_pa: gauge inlet pressure it gets [Pa].
        ambient_pa: pressure of the air [Pa].

    >>> round(regulator_capacity(160e3, 30 * PSI_PA, 10 * PSI_PA, STANDARD_PRESSURE_PA) / 1e3)
    88
    """
    share = (inlet_pa + ambient_pa) / (rated_at_pa + STANDARD_PRESSURE_PA)
    return rated_w * min(1.0, max(0.0, share))


def starving_inlet(
    draw_w: float, rated_w: float, rated_at_pa: float, least_pa: float, ambient_pa: float
) -> float:
    """Gauge inlet pressure below which a regulator no longer passes a draw [Pa].

    Args:
        draw_w: heat rate drawn [W, as the regulator is rated].
        rated_w: its rating [W].
        rated_at_pa: gauge inlet pressure it is rated at [Pa].
        least_pa: the least its maker asks for [Pa].
        ambient_pa: pressure of the air [Pa].

    >>> least = starving_inlet(102e3, 160e3, 30 * PSI_PA, 10 * PSI_PA, STANDARD_PRESSURE_PA)
    >>> round(least / PSI_PA, 1)
    13.8
    """
    wanted = draw_w / rated_w * (rated_at_pa + STANDARD_PRESSURE_PA) - ambient_pa
    return max(least_pa, min(wanted, STARVES_AT_MOST_PA))


def tank_energy(volume_m3: float, fuel: Fuel, usable_share: float = USABLE_TANK_SHARE) -> float:
    """Usable energy in a gasoline tank [J, LHV].

    >>> from gentle_ember.core.physics.fuels import GASOLINE_E0
    >>> round(tank_energy(0.010, GASOLINE_E0, 1.0) / 1e6, 1)
    323.3
    """
    check("tank volume", "volume", volume_m3, 0.0, 10.0)
    check("usable share", "share", usable_share, 0.0, 1.0)
    return volume_m3 * usable_share * fuel.density_kg_m3 * fuel.lhv_j_kg


def mass_draw(fuel_w: float, fuel: Fuel) -> float:
    """Fuel mass flow for a fuel power on LHV [kg/s]."""
    return check("fuel power", "heat_rate", fuel_w, 0.0, 1e7) / fuel.lhv_j_kg


def volume_draw(fuel_w: float, fuel: Fuel) -> float:
    """Gas flow for a fuel power on LHV [m³/s at 15 °C, 101,325 Pa].

    >>> from gentle_ember.core.physics.fuels import natural_gas
    >>> round(volume_draw(30e3, natural_gas()) * 3600, 2)
    3.12
    """
    return mass_draw(fuel_w, fuel) / fuel.density_kg_m3


def heat_rate_hhv(fuel_w: float, fuel: Fuel) -> float:
    """The same demand as the gas trade states it, on the higher heating value [W]."""
    return fuel_w * fuel.hhv_j_kg / fuel.lhv_j_kg
