"""A propane cylinder under draw: contents, boil-off, chill, and when it starves."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check
from gentle_ember.core.physics import air, propane

FIRST_STAGE_MINIMUM_PA = 69_000.0
STEEL_HEAT_CAPACITY = 470.0
FILL_BY_VOLUME = 0.80
LIQUID_DENSITY_15C = 507.0
FRACTION_OF_EMPTY_KG = 1e-3
SHELTERS: dict[str, float] = {"still_air": 12.0, "breeze": 25.0, "closed_locker": 6.0}
"""Heat transfer coefficient of the wetted shell [W/m²K]."""

SUN_W_M2 = 1000.0
ABSORBS, ABSORBS_ENDS = 0.35, (0.25, 0.50)
"""Share of the sun a shell takes: painted white and dusty; new, and weathered gray [1]."""
SEEN = 0.24
"""Share of a standing cylinder's surface that stands in a sun half way up [1]."""
STILL_AIR_W_M2K, STILL_ENDS_W_M2K = 9.0, (12.0, 7.0)
"""Heat a warm shell loses to still air, by air and by radiation [W/m²K]."""
CHILL = Method(
    key="cylinder-chill",
    name="Lumped cylinder",
    formula=(
        "dT/dt = [U·A wet·(T air − T) − ṁ·h fg(T)] / (m·c l + wetted share of steel·470 J/kgK); "
        "starves when p sat(T) − p air < first-stage minimum"
    ),
    source="heat balance; propane properties from CoolProp; U by shelter; boil-off trade table",
    page="cylinder",
)
CONTENTS = Method(
    key="cylinder-contents",
    name="Contents",
    formula="weighed: scale − stamped tare; otherwise 80 % of the water capacity at 0.507 kg/L",
    source="cylinder marking practice; filling limit 80 % by volume",
    page="cylinder",
)


@dataclass(frozen=True, slots=True)
class CylinderSize:
    """A cylinder named by its nominal propane mass; volumes [m³], lengths [m], masses [kg]."""

    key: str
    name: str
    nominal_kg: float
    water_volume_m3: float
    diameter_m: float
    tare_kg: float

    @property
    def full_kg(self) -> float:
        """Propane at 80 % by volume at 15 °C [kg], never more than the nominal mass."""
        return min(self.nominal_kg, FILL_BY_VOLUME * self.water_volume_m3 * LIQUID_DENSITY_15C)

    @property
    def cross_section_m2(self) -> float:
        """Horizontal section of the standing cylinder [m²]."""
        return math.pi * self.diameter_m**2 / 4

    @property
    def shell_m2(self) -> float:
        """Side, bottom and top taken as a plain cylinder of the water volume [m²]."""
        side = math.pi * self.diameter_m * self.water_volume_m3 / self.cross_section_m2
        return side + 2 * self.cross_section_m2

    def wetted_area(self, contents_kg: float, temperature_k: float) -> float:
        """Shell touched by liquid, standing upright: πDh + πD²/4 [m²]; zero when empty."""
        if contents_kg <= 0:
            return 0.0
        level = contents_kg / propane.liquid_density(temperature_k) / self.cross_section_m2
        return math.pi * self.diameter_m * level + self.cross_section_m2


@dataclass(frozen=True, slots=True)
class Chill:
    """The course of a draw: times [s], temperatures [K], contents [kg], all the same length.

    `starved_s` or `emptied_s` is when it ended, None if it did not; `left_kg` what stays behind.
    """

    times_s: list[float] = field(repr=False)
    temperatures_k: list[float] = field(repr=False)
    contents_kg: list[float] = field(repr=False)
    drawn_kg: float
    left_kg: float
    starved_s: float | None
    emptied_s: float | None

    @property
    def ended_s(self) -> float:
        """When the gas stopped, or the end of the time looked at [s]."""
        return self.times_s[-1]


def starvation_temperature(
    elevation_m: float, first_stage_minimum_pa: float = FIRST_STAGE_MINIMUM_PA
) -> float:
    """Liquid temperature below which the first stage no longer gets its least inlet pressure.

    Args:
        elevation_m: elevation [m].
        first_stage_minimum_pa: gauge pressure the first stage needs [Pa].

    Returns:
        Temperature [K].

    >>> round(starvation_temperature(0.0) - 273.15, 1)
    -29.6
    >>> round(starvation_temperature(2450.0) - 273.15, 1)
    -33.8
    """
    check("first-stage minimum", "pressure", first_stage_minimum_pa, 0.0, 700e3)
    return propane.saturation_temperature(air.pressure(elevation_m) + first_stage_minimum_pa)


def continuous_draw(
    size: CylinderSize,
    contents_kg: float,
    ambient_k: float,
    lowest_k: float,
    conductance: float = SHELTERS["still_air"],
) -> float:
    """Draw that holds the liquid just at its lowest temperature at this fill [kg/s].

    >>> big = CylinderSize("100", "100 lb", 45.36, 0.1083, 0.37, 31.0)
    >>> draw = continuous_draw(big, 45.36, 266.48, 231.15)
    >>> 150_000 < draw * 50.35e6 / 0.29307 < 184_000
    True
    """
    if ambient_k <= lowest_k:
        return 0.0
    area = size.wetted_area(contents_kg, lowest_k)
    return conductance * area * (ambient_k - lowest_k) / propane.latent_heat(lowest_k)


def chill(
    size: CylinderSize,
    contents_kg: float,
    draw_kg_s: float | Sequence[float],
    ambient_k: float | Sequence[float],
    lowest_k: float,
    conductance: float = SHELTERS["still_air"],
    *,
    step_s: float = 60.0,
    horizon_s: float = 72 * 3600.0,
    start_k: float | None = None,
) -> Chill:
    """Integrate temperature and contents until the cylinder starves, is empty, or time is up.

    Midpoint steps on the lumped heat balance; draw and ambient may vary by step.

    Args:
        size: the cylinder.
        contents_kg: propane at the start [kg].
        draw_kg_s: draw [kg/s], one value or one a step.
        ambient_k: air temperature [K], one value or one a step.
        lowest_k: starvation temperature [K].
        conductance: U of the wetted shell [W/m²K].
        step_s, horizon_s: time step and time looked at [s].
        start_k: liquid temperature at the start [K]; ambient when None.

    Raises:
        QuantityError: contents over what the shell holds, negative draw, air outside −60…60 °C.
    """
    steps = max(1, round(horizon_s / step_s))
    draws = [draw_kg_s] * steps if isinstance(draw_kg_s, int | float) else list(draw_kg_s)
    airs = [ambient_k] * steps if isinstance(ambient_k, int | float) else list(ambient_k)
    check("contents", "mass", contents_kg, 0.0, size.water_volume_m3 * 600.0)
    check("draw", "mass_flow", min(draws), 0.0, 1.0)
    for end in (min(airs), max(airs)):
        check("air temperature", "temperature", end, *propane.RANGE_K)
    check("heat transfer coefficient", "conductance", conductance, 0.1, 200.0)

    # Horner's rule written out: this loop is what the chill's speed hangs on.
    d5, d4, d3, d2, d1, d0 = propane.LIQUID_DENSITY
    h5, h4, h3, h2, h1, h0 = propane.LATENT_HEAT
    c5, c4, c3, c2, c1, c0 = propane.LIQUID_HEAT_CAPACITY
    bottom, side_per_volume = size.cross_section_m2, 4.0 / size.diameter_m
    steel_per_area = STEEL_HEAT_CAPACITY * size.tare_kg / size.shell_m2

    def rate(mass: float, kelvin: float, draw: float, ambient: float) -> float:
        x = kelvin - 273.15
        density = ((((d5 * x + d4) * x + d3) * x + d2) * x + d1) * x + d0
        wet = side_per_volume * mass / density + bottom
        heat_in = conductance * wet * (ambient - kelvin)
        heat_out = draw * (((((h5 * x + h4) * x + h3) * x + h2) * x + h1) * x + h0)
        stored = mass * (((((c5 * x + c4) * x + c3) * x + c2) * x + c1) * x + c0)
        return (heat_in - heat_out) / (stored + steel_per_area * wet)

    mass, kelvin, now = contents_kg, airs[0] if start_k is None else start_k, 0.0
    times, temperatures, masses = [0.0], [kelvin], [mass]
    starved_s: float | None = 0.0 if kelvin < lowest_k else None
    emptied_s: float | None = 0.0 if mass <= FRACTION_OF_EMPTY_KG else None
    for draw, ambient in zip(draws, airs, strict=True):
        if starved_s is not None or emptied_s is not None:
            break
        used = draw * step_s
        span = step_s if used <= mass else mass / draw
        half = kelvin + 0.5 * span * rate(mass, kelvin, draw, ambient)
        after = kelvin + span * rate(max(mass - 0.5 * draw * span, 0.0), half, draw, ambient)
        if after < lowest_k:
            span *= (kelvin - lowest_k) / (kelvin - after)
            after = lowest_k
            starved_s = now + span
        mass = max(0.0, mass - draw * span)
        kelvin, now = after, now + span
        if starved_s is None and mass <= FRACTION_OF_EMPTY_KG:
            emptied_s = now
        times.append(now)
        temperatures.append(kelvin)
        masses.append(mass)
    return Chill(times, temperatures, masses, contents_kg - mass, mass, starved_s, emptied_s)


def sun_warms(absorbs: float = ABSORBS, loses_w_m2k: float = STILL_AIR_W_M2K) -> float:
    """How far a still cylinder in full sun stands over the air, at no flow [K].

    What the shell takes of the sun it gives to the air: α·G·A seen = U·A·ΔT; the size falls out.

    >>> round(sun_warms(), 1), round(sun_warms(0.25, 12.0), 1), round(sun_warms(0.5, 7.0), 1)
    (9.3, 5.0, 17.1)
    """
    return absorbs * SUN_W_M2 * SEEN / loses_w_m2k
