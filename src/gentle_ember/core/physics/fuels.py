"""Fuels: heating values, density, stoichiometry, mixture energy, Wobbe index, flammability."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.base.quantities import check

AIR_DENSITY_15C = 1.225
LHV_SHARE_NATURAL_GAS = 0.9026
NATURAL_GAS_HHV_J_M3 = 38.4e6
NATURAL_GAS_SG = 0.60
METHANE_LHV_J_M3 = 33.948e6
METHANE_HHV_J_M3 = 37.706e6
METHANE_KG_KMOL, CARBON_DIOXIDE_KG_KMOL, AIR_KG_KMOL = 16.043, 44.010, 28.9647
AIR_PER_METHANE = 9.546
"""Volumes of air for one of methane: two of oxygen at 20.95 %."""
AIR_VOLUME_PER_LHV = 0.281e-6
"""Stoichiometric air per lower heating value, methane-like gases [m³/J]; 0.281 ± 0.001 m³/MJ."""


class FuelKey(StrEnum):
    """The fuels the tool knows, as stored in a job."""

    GASOLINE = "gasoline"
    PROPANE = "propane"
    NATURAL_GAS = "natural_gas"
    BIOGAS = "biogas"


@dataclass(frozen=True, slots=True)
class FuelFacts:
    """What a fuel is, whatever a site's own is made of.

    Attributes:
        name, letter: as people read it, and its mark.
        field: the field rule's output over gasoline's, low, stated, high [1]; None for one that
            has no rule of its own: natural gas's, scaled by the physics of the two.
        sigma: σ of the log of its output over gasoline's, by the ends of the field rule.
        carbon, hydrogen, inert: moles of what burns, and of carbon dioxide that comes with it.
        viscosity: dynamic [Pa·s]; of the liquid for gasoline.
        heats: ratio of heats, of a gas [1].
        by_methane: whether its methane share tells what it is, not a heating value.
    """

    name: str
    letter: str
    field: tuple[float, float, float] | None
    sigma: float
    carbon: float
    hydrogen: float
    inert: float
    viscosity: float
    heats: float = math.nan
    by_methane: bool = False


FACTS: dict[FuelKey, FuelFacts] = {
    FuelKey.GASOLINE: FuelFacts(
        "gasoline", "G", (1.0, 1.0, 1.0), 0.0, 1.0, 1.87, 0.0, 0.6e-3,
    ),
    FuelKey.PROPANE: FuelFacts(
        "propane", "P", (0.87, 0.90, 0.93), 0.02, 3.0, 8.0, 0.0, 8.0e-6, heats=1.13,
    ),
    FuelKey.NATURAL_GAS: FuelFacts(
        "natural gas", "N", (0.75, 0.80, 0.85), 0.035, 1.0, 3.9, 0.0, 1.09e-5, heats=1.28,
    ),
    FuelKey.BIOGAS: FuelFacts(
        "biogas", "B", None, 0.06, 0.6, 2.4, 0.4, 1.27e-5, heats=1.29, by_methane=True,
    ),
}  # fmt: skip
"""Every fuel's. How it comes to a set and what is said of it there is `job.handling`."""
GASES = tuple(one for one in FuelKey if one is not FuelKey.GASOLINE)
"""Those that come as a gas."""
KEYS: frozenset[str] = frozenset(FuelKey)
"""Whether a text names a fuel: whether it is one of these."""
LETTERS: dict[FuelKey, str] = {key: one.letter for key, one in FACTS.items()}
NAMES: dict[FuelKey, str] = {key: one.name for key, one in FACTS.items()}


def fuel_name(key: str) -> str:
    """A fuel's name by its key; the key itself where a job names a fuel nobody knows.

    >>> fuel_name("natural_gas"), fuel_name("steam")
    ('natural gas', 'steam')
    """
    return NAMES[FuelKey(key)] if key in KEYS else key


@dataclass(frozen=True, slots=True)
class Fuel:
    """One fuel at 15 °C and 101,325 Pa.

    Heating values are per kg [J/kg] and, for gases, per m³ [J/m³]; `density` is liquid for
    gasoline and vapor for gases [kg/m³]; `mixture_j_m3` is LHV per m³ of stoichiometric mixture.
    """

    key: FuelKey
    name: str
    letter: str
    lhv_j_kg: float
    hhv_j_kg: float
    density_kg_m3: float
    air_fuel_ratio: float
    mixture_j_m3: float
    flammable_low: float
    flammable_high: float
    methane_share: float | None = None

    @property
    def hhv_j_m3(self) -> float:
        """Higher heating value by volume [J/m³]."""
        return self.hhv_j_kg * self.density_kg_m3

    @property
    def lhv_j_m3(self) -> float:
        """Lower heating value by volume [J/m³]."""
        return self.lhv_j_kg * self.density_kg_m3

    @property
    def specific_gravity(self) -> float:
        """Density relative to air, both at 15 °C [1]; for gases."""
        return self.density_kg_m3 / AIR_DENSITY_15C

    @property
    def wobbe_j_m3(self) -> float:
        """Wobbe index HHV/√SG [J/m³]: equal values give equal heat through one orifice."""
        return self.hhv_j_m3 / math.sqrt(self.specific_gravity)


GASOLINE_E0 = Fuel(
    FuelKey.GASOLINE, "gasoline", "G", 43.4e6, 46.5e6, 745.0, 14.7, 3.62e6, 0.014, 0.076
)
GASOLINE_E10 = Fuel(
    FuelKey.GASOLINE, "gasoline E10", "G", 41.8e6, 44.8e6, 750.0, 14.1, 3.62e6, 0.014, 0.076
)
GASOLINE_E15 = Fuel(
    FuelKey.GASOLINE, "gasoline E15", "G", 40.8e6, 43.8e6, 752.0, 13.8, 3.62e6, 0.014, 0.076
)
GASOLINE_E85 = Fuel(
    FuelKey.GASOLINE, "gasoline E85", "G", 29.2e6, 31.9e6, 785.0, 9.8, 3.60e6, 0.014, 0.19
)
GASOLINES: dict[str, Fuel] = {
    "e0": GASOLINE_E0, "e10": GASOLINE_E10, "e15": GASOLINE_E15, "e85": GASOLINE_E85,
}  # fmt: skip
"""By ethanol, as a job keeps it; heating value and air by mass share of 26.8 MJ/kg and 9.0."""
PROPANE = Fuel(FuelKey.PROPANE, "propane", "P", 46.35e6, 50.35e6, 1.90, 15.7, 3.475e6, 0.021, 0.095)


def mixture_energy(lhv_j_m3: float) -> float:
    """Energy of a stoichiometric mixture of a methane-like gas, diluted with CO₂ or not.

    Args:
        lhv_j_m3: lower heating value of the gas [J/m³ at 15 °C, 101,325 Pa].

    Returns:
        Lower heating value per volume of mixture [J/m³].

    >>> round(mixture_energy(METHANE_LHV_J_M3) / 1e6, 2)
    3.22
    """
    return lhv_j_m3 / (1.0 + AIR_VOLUME_PER_LHV * lhv_j_m3)


def natural_gas(
    hhv_j_m3: float = NATURAL_GAS_HHV_J_M3, specific_gravity: float = NATURAL_GAS_SG
) -> Fuel:
    """Natural gas from the utility's heating value and gravity.

    Args:
        hhv_j_m3: higher heating value [J/m³ at 15 °C, 101,325 Pa]; 30 to 48 MJ/m³.
        specific_gravity: density relative to air [1]; 0.55 to 0.80.

    Raises:
        QuantityError: outside what a utility delivers.

    >>> round(natural_gas().mixture_j_m3 / 1e6, 2)
    3.23
    """
    check("heating value (HHV)", "heating_value_volume", hhv_j_m3, 30e6, 48e6)
    check("specific gravity", "ratio", specific_gravity, 0.55, 0.80)
    density = specific_gravity * AIR_DENSITY_15C
    lhv = hhv_j_m3 * LHV_SHARE_NATURAL_GAS
    return Fuel(
        FuelKey.NATURAL_GAS,
        "natural gas",
        "N",
        lhv / density,
        hhv_j_m3 / density,
        density,
        AIR_VOLUME_PER_LHV * lhv * AIR_DENSITY_15C / density,
        mixture_energy(lhv),
        0.05,
        0.15,
    )


def usual(key: FuelKey) -> Fuel:
    """A fuel as it is where nobody said what it is made of.

    >>> [usual(gas).name for gas in GASES][:3]
    ['propane', 'natural gas', 'biogas 60 %']
    """
    return _USUAL[key]


WATER_KG_KMOL = 18.015
RAW_WATER = 0.042
"""Water vapor in biogas that nobody dried: saturated at 30 °C, by volume [1]."""


def biogas(methane_share: float, water: float = 0.0) -> Fuel:
    """Biogas: methane, the rest taken as carbon dioxide, with the water it carries.

    Flammable limits are methane's divided by its share: lower end true to Le Chatelier, upper end
    an overestimate, so never a narrower range than the gas has.

    Args:
        methane_share: volume share of methane in the dry gas [1]; 0.40 to 0.98.
        water: volume share of water vapor [1]; 0 to 0.10.

    >>> gas = biogas(0.60)
    >>> round(gas.mixture_j_m3 / 1e6, 2), round(gas.air_fuel_ratio, 1)
    (3.03, 6.1)
    """
    dry = check("methane share", "share", methane_share, 0.40, 0.98)
    wet = check("water", "share", water, 0.0, 0.10)
    x = dry * (1 - wet)
    molar = x * METHANE_KG_KMOL + (1 - dry) * (1 - wet) * CARBON_DIOXIDE_KG_KMOL
    molar += wet * WATER_KG_KMOL
    density = molar / AIR_KG_KMOL * AIR_DENSITY_15C
    return Fuel(
        FuelKey.BIOGAS,
        f"biogas {round(100 * dry):d} %",
        "B",
        x * METHANE_LHV_J_M3 / density,
        x * METHANE_HHV_J_M3 / density,
        density,
        x * AIR_PER_METHANE * AIR_KG_KMOL / molar,
        mixture_energy(x * METHANE_LHV_J_M3),
        0.05 / x,
        min(1.0, 0.15 / x),
        dry,
    )


USUAL_METHANE = 0.60
"""Methane in biogas that nobody analyzed, by volume [1]."""
_USUAL: dict[FuelKey, Fuel] = {
    FuelKey.GASOLINE: GASOLINE_E10,
    FuelKey.PROPANE: PROPANE,
    FuelKey.NATURAL_GAS: natural_gas(),
    FuelKey.BIOGAS: biogas(USUAL_METHANE),
}
