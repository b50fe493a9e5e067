"""A simulated bench built up from a job: its engine, site, gas and train, and what nobody knows.

The seed draws what a job can't say: how the screw is cut, how tired the engine is, which joint
leaks. The same job and seed give the same bench.
"""

from __future__ import annotations

import math
import random
from collections.abc import Iterator

from gentle_ember.core.estimates.defaults import leg_volts, legs_of, machine, site_air
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.handling import FuelSource, comes_from
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuel_use import INVERTERS, SetClass
from gentle_ember.core.physics.fuels import GASOLINES, FuelKey
from gentle_ember.core.physics.load_screw import HORSEPOWER_W
from gentle_ember.core.physics.venturi import signal
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fuel_path.demand import Demand, demand
from gentle_ember.core.stages.fuel_path.trains import TrainSection, job_trains
from gentle_ember.instruments.bench import Gauge, Setup
from gentle_ember.instruments.engine import BREATHING, PORT_CD, EngineSpec

EFFICIENCY = 0.84
LOADS = ("none", "idle", "half", "full")
W_M3 = 24e6
"""Shaft power by displacement, where one of both is not known [W/m³]."""
WINDOW_PA, LEAST_PA, OPENING_PA = 2740.0, 1000.0, 75.0
SCREW_TURNS = 6.0
TURNS_PER_HP = 0.25
LEAK_M3_S = 3e-7
SKEW = (0.88, 1.12)
"""How differently the two screws of a two-barrel adapter are cut."""
WEEPS, TANK_KG = 0.12, 7.5
"""How often a demand regulator weeps; gasoline on the scale at the start."""
U_W_M2K, WET_M2 = 12.0, 0.35


def setup_of(planned: Plan, fuel: FuelKey, seed: int) -> Setup | None:
    """The bench of a job on one fuel; None until the set has a running rating.

    A bench for gasoline has propane at hand besides, with its source shut.
    """
    resolved, output = machine(planned.job.set), planned.of(output_here)
    if resolved is None or output is None:
        return None
    drawn = random.Random(seed)  # noqa: S311 - the same bench for the same seed
    job, site = planned.job, planned.site
    gas = FuelKey.PROPANE if fuel is FuelKey.GASOLINE else fuel
    asked = demand(job.set, site, job.site, output, gas)
    here = site_air(site, job.site)
    ambient_k = min(here.hottest.value, 288.15)
    ambient_pa = air.pressure(here.elevation.value)
    density = air.density(ambient_pa, ambient_k, 0.0)
    alternator = 1.0 if job.set.bare else EFFICIENCY
    shaft_w = resolved.engine_w / alternator * drawn.uniform(0.97, 1.06)
    size = job.set.displacement.value if job.set.displacement else shaft_w / W_M3
    inverter = job.set.set_class in INVERTERS
    hertz = job.set.hertz.value if job.set.hertz else 60.0
    turns = job.set.rated_speed.value / (2 * math.pi) if job.set.rated_speed else 60.0
    slow = job.set.set_class is SetClass.LOW_SPEED
    speed = turns if job.set.bare else 75.0 if inverter else hertz / (2 if slow else 1)
    section = planned.of(job_trains).get(str(fuel))
    barrels = 2 if "two_barrel_adapter" in job.choice.methods else 1
    draw = BREATHING * density * size * speed / 2 / barrels
    throat = _of(section, PartClass.ADAPTER, "throat_m") or math.sqrt(draw / 6.5e-3) * 0.016
    opening = _of(section, PartClass.DEMAND, "opening_pa") or OPENING_PA
    pull = signal(draw * 0.96, throat, density)
    while pull < 3 * opening:
        throat *= 0.93
        pull = signal(draw * 0.96, throat, density)
    area = (
        draw * 0.96 / asked.fuel.air_fuel_ratio
        / (PORT_CD * math.sqrt(2 * asked.fuel.density_kg_m3 * density / 1.225 * (pull - opening)))
    )  # fmt: skip
    path = area * drawn.uniform(2.2, 3.5)
    screw = 1 / math.sqrt(1 / area**2 - 1 / path**2)
    usual = TURNS_PER_HP * shaft_w / HORSEPOWER_W / barrels
    right = min(max(0.5, usual * drawn.uniform(0.75, 1.35)), 0.45 * SCREW_TURNS)
    jetted = job.set.carburetor.jetted_at
    built = air.pressure(jetted.value if jetted else 0.0)
    spec = EngineSpec(
        displacement_m3=size, shaft_w=shaft_w, speed_hz=speed,
        low_hz=0.6 * speed if inverter else speed, inverter=inverter, alternator=alternator,
        limit_w=resolved.rated.value * 1.05, air_density=density, gas=asked.fuel,
        gasoline=GASOLINES[job.set.gasoline],
        gasoline_lambda=0.90 * math.sqrt(ambient_pa / built), throat_m=throat, barrels=barrels,
        screw_m2=screw / right, screw_turns=SCREW_TURNS, passage_m2=path, opening_pa=opening,
        idle_m2=0.012 * area, skew=drawn.uniform(*SKEW) if barrels > 1 else 1.0,
    )  # fmt: skip
    joints = [one.joint.key for one in planned.of(fit_sheet).joints if one.joint.fuel == str(fuel)]
    leaks = {drawn.choice(joints): LEAK_M3_S * drawn.uniform(0.1, 1.0)} if joints else {}
    least = _of(section, PartClass.DEMAND, "least_pa") or LEAST_PA
    cylinder = comes_from(fuel, FuelSource.CYLINDER)
    weeps = drawn.random() < WEEPS
    return Setup(
        spec, leg_volts(job.set), hertz,
        legs_of(job.set),
        ambient_k, ambient_pa, WINDOW_PA if cylinder else _line(section), least,
        cylinder_kg=8.5 if cylinder else 0.0, wetted_w_k=U_W_M2K * WET_M2, leaks=leaks,
        electric_start=bool(job.set.electric_start), cylinders=job.set.cylinders,
        tank_kg=TANK_KG if fuel is FuelKey.GASOLINE else 0.0, weeps=weeps,
        gauges=tuple(_gauges(section)), flows=(0.0, *_flows(asked)),
    )  # fmt: skip


def _gauges(section: TrainSection | None) -> Iterator[Gauge]:
    """Every part of the train a manometer can be put before."""
    if section is None:
        return
    for one in section.case.parts:
        if one.part is None:
            continue
        rung = next((rung for rung in section.case.ladder.rungs if rung.key == one.key), None)
        if rung is not None and set(rung.inlet) >= set(LOADS):
            none, idle, half, full = (rung.inlet[load] for load in LOADS)
            yield Gauge(one.key, f"before {one.part.name}", (none, idle, half, full))


def _flows(asked: Demand) -> tuple[float, float, float]:
    """Gas at idle, half and full load [kg/s]."""
    idle, half, full = (asked.mass(load, upper=False) for load in LOADS[1:])
    return idle, half, full


def _line(section: TrainSection | None) -> float:
    """Gauge pressure of a line before the demand regulator at full load [Pa]."""
    if section is None:
        return 1740.0
    for one in section.case.parts:
        if one.part is not None and one.part.kind is PartClass.DEMAND:
            return section.case.ladder.of(one.key).inlet["full"]
    return 1740.0


def _of(section: TrainSection | None, kind: PartClass, fact: str) -> float | None:
    """A fact of the train's part of a kind."""
    for one in section.case.parts if section else ():
        if one.part is not None and one.part.kind is kind:
            value: float | None = getattr(one.part, fact)
            return value
    return None
