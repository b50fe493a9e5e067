"""The pressure ladder: what each part drops, and what arrives at every joint at each load."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import (
    INCH_WC_PA,
    PSI_PA,
    REFERENCE_TEMPERATURE_K,
    STANDARD_PRESSURE_PA,
)
from gentle_ember.core.job.part import METERS, REGULATORS, Part, PartClass
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.physics import hose, pipe
from gentle_ember.core.physics.fuels import FACTS, Fuel, FuelKey
from gentle_ember.core.physics.hose import ROUGHNESS_M
from gentle_ember.core.physics.venturi import signal
from gentle_ember.core.stages.fuel_path.demand import LOADS, Demand

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
    import fluids

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
    loss = _loss(bore_m, length_m, k, mass_kg_s, FACTS[fuel.key].viscosity)
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
            FACTS[fuel.key].viscosity,
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


LADDER = Method(
    "pressure-ladder",
    "Pressure ladder",
    "p after = p before − loss; regulators: set − droop·flow/rated at flow, set + lock-up at none",
    "pipe by the code formula, hoses, couplers and valves by isothermal Darcy–Weisbach, "
    "regulators by their makers' droop and lock-up; flow at the upper end of demand",
    "ladder",
)
STUB_PA, TWO_PSI_PA, DIGESTER_PA = 7 * INCH_WC_PA, 2 * PSI_PA, 3 * INCH_WC_PA


class Zone(StrEnum):
    """Which pressure rules at a place of the train."""

    CYLINDER = "cylinder"
    MIDDLE = "middle"
    LOW = "low"
    SUCTION = "suction"


@dataclass(frozen=True, slots=True)
class Fitted:
    """A slot with its part; `part` None where nobody knows what it is."""

    key: str
    slot: Slot
    part: Part | None

    @property
    def length_m(self) -> float:
        """Its length [m]."""
        if self.part is None:
            return 0.0
        return self.part.length(self.slot.length.value if self.slot.length else None)


def fitted(train: Train, parts: Mapping[str, Part]) -> tuple[Fitted, ...]:
    """The slots of a train with their parts; a turned part has its ends changed over."""
    return tuple(
        Fitted(key, slot, _as_put(parts.get(slot.part), slot)) for key, slot in train.slots.items()
    )


def _as_put(part: Part | None, slot: Slot) -> Part | None:
    if part is None or not slot.turned:
        return part
    inlet, outlet = part.ends(turned=True)
    return part.model_copy(update={"inlet": inlet, "outlet": outlet})


@dataclass(frozen=True, slots=True)
class Supply:
    """What the source gives: a cylinder by its temperature, a line or a tank by its pressure.

    `pressure_pa` is gauge at flow, None for a cylinder; `still_pa` at no flow where it is another:
    the full tank over the bowl, against the empty one that still has to flow [Pa].
    """

    pressure_pa: float | None
    still_pa: float | None = None
    assumed: bool = False
    lost_pa: float = 0.0
    """Lost before it at flow, in a house's pipe [Pa]; `pressure_pa` is without it."""
    lost_told: bool = True

    def at(self, demand: Demand, load: str) -> float:
        """Gauge pressure at the source's outlet [Pa]."""
        if self.pressure_pa is None:
            return demand.cylinder_pa(load)
        if load == "none" and self.still_pa is not None:
            return self.still_pa
        return self.pressure_pa


@dataclass(frozen=True, slots=True)
class Rung:
    """Gauge pressures before and after one part, by load [Pa]."""

    key: str
    inlet: Mapping[str, float]
    outlet: Mapping[str, float]
    zone_in: Zone
    zone_out: Zone

    def lost(self, load: str) -> float:
        """What it takes at a load [Pa]."""
        return self.inlet[load] - self.outlet[load]


@dataclass(frozen=True, slots=True)
class Ladder:
    """Every part's rung; `signals` is the throat's suction by load, None without a throat [Pa]."""

    rungs: tuple[Rung, ...]
    signals: Mapping[str, float] | None
    needs: Mapping[str, float]
    """Suction that opening and losses downstream of the demand regulator want, by load [Pa]."""

    def of(self, key: str) -> Rung:
        """The rung of a slot."""
        return next(rung for rung in self.rungs if rung.key == key)


def regulated(part: Part, inlet_pa: float, heat_w: float) -> float:
    """Outlet of a regulator, blower or pump [Pa]: droop at flow, lock-up at none.

    A regulator never gives more than it gets.
    """
    target = part.set_pa or 0.0
    if heat_w <= 0:
        target *= 1 + part.lock_up
    else:
        target *= 1 - part.droop * min(1.0, heat_w / (part.rated_w or heat_w))
    if part.kind is PartClass.BOOSTER:
        return inlet_pa + target
    if part.kind is PartClass.PUMP:
        return target
    return min(target, inlet_pa)


def zone_after(part: Part | None, before: Zone) -> Zone:
    """The zone past a part."""
    if part is None:
        return before
    if part.kind is PartClass.FIRST_STAGE:
        return Zone.MIDDLE
    if part.kind in REGULATORS:
        return Zone.LOW
    if part.kind is PartClass.DEMAND:
        return Zone.SUCTION
    return before


def first_zone(supply: Supply) -> Zone:
    """The zone at the source."""
    if supply.pressure_pa is None:
        return Zone.CYLINDER
    return Zone.MIDDLE if supply.pressure_pa > 0.5 * PSI_PA else Zone.LOW


def ladder(
    parts: Sequence[Fitted], supply: Supply, demand: Demand, flow_factor: float = 1.0
) -> Ladder:
    """Pressures at every joint of a train at the four loads, at the upper end of demand.

    Args:
        parts: the train from the source.
        supply: what the source gives.
        demand: what the engine asks.
        flow_factor: what must flow over what is burnt, 2 for gravity feed [1].
    """
    by_load = {load: _walk(parts, supply, demand, load, flow_factor) for load in LOADS}
    signals = _signals(parts, demand)
    needs = dict.fromkeys(LOADS, 0.0)
    zones = _zones(parts, supply)
    if Zone.SUCTION in [after for _, after in zones]:
        for load in LOADS:
            needs[load] = -by_load[load][-1][1] if load != "none" else 0.0
            by_load[load] = _suction(parts, zones, by_load[load], signals, load)
    rungs = tuple(
        Rung(
            one.key,
            {load: by_load[load][n][0] for load in LOADS},
            {load: by_load[load][n][1] for load in LOADS},
            *zones[n],
        )
        for n, one in enumerate(parts)
    )
    return Ladder(rungs, signals, needs)


def _zones(parts: Sequence[Fitted], supply: Supply) -> list[tuple[Zone, Zone]]:
    zone, found = first_zone(supply), []
    for one in parts:
        after = zone_after(one.part, zone)
        found.append((zone, after))
        zone = after
    return found


def _walk(
    parts: Sequence[Fitted], supply: Supply, demand: Demand, load: str, flow_factor: float
) -> list[tuple[float, float]]:
    pressure, mass = supply.at(demand, load), demand.mass(load) * flow_factor
    found = []
    for one in parts:
        after = step(one.part, one.length_m, pressure, mass, demand)
        found.append((pressure, after))
        pressure = after
        if one.part is not None and one.part.kind is PartClass.TEE:
            mass /= one.part.branches
    return found


def step(
    part: Part | None, length_m: float, inlet_pa: float, mass_kg_s: float, demand: Demand
) -> float:
    """Gauge pressure after a part at a mass flow [Pa]; past a demand regulator, suction."""
    if part is None:
        return inlet_pa
    if part.kind in REGULATORS or part.kind in (PartClass.BOOSTER, PartClass.PUMP):
        return regulated(part, inlet_pa, mass_kg_s * demand.fuel.hhv_j_kg)
    if part.kind is PartClass.DEMAND:
        return -(part.opening_pa or 0.0) if mass_kg_s > 0 else 0.0
    return through(
        part,
        demand.fuel,
        inlet_pa,
        mass_kg_s,
        length_m,
        demand.ambient_pa,
        demand.hottest_k,
        demand.elevation_m,
    )


def throat_signal(part: Part, demand: Demand, load: str) -> float | None:
    """Suction of a mixer's throat at a load [Pa]; None without a throat of its own."""
    if part.throat_m is None:
        return None
    air = demand.air_kg_s(load) / part.branches
    steady = signal(air, part.throat_m, demand.air_density)
    return steady if demand.suction is None else steady * demand.suction.over_steady


def _signals(parts: Sequence[Fitted], demand: Demand) -> dict[str, float] | None:
    for one in reversed(parts):
        if one.part is not None and one.part.throat_m is not None:
            found = {load: throat_signal(one.part, demand, load) or 0.0 for load in LOADS}
            return {**found, "none": 0.0}
    return None


def _suction(
    parts: Sequence[Fitted],
    zones: list[tuple[Zone, Zone]],
    walked: list[tuple[float, float]],
    signals: dict[str, float] | None,
    load: str,
) -> list[tuple[float, float]]:
    """Downstream of the demand regulator load screw or gas jet takes up what the throat spares."""
    if load == "none" or signals is None:
        return walked
    spare = max(0.0, signals[load] + walked[-1][1])
    found, past_screw = [], False
    screw = any(one.part is not None and one.part.kind in METERS for one in parts)
    for one, (zone, _), (inlet, outlet) in zip(parts, zones, walked, strict=True):
        if zone is Zone.SUCTION:
            is_screw = one.part is not None and one.part.kind in METERS
            before = inlet - (spare if past_screw or not screw else 0.0)
            past_screw = past_screw or is_screw
            found.append((before, outlet - (spare if past_screw or not screw else 0.0)))
        else:
            found.append((inlet, outlet))
    return found
