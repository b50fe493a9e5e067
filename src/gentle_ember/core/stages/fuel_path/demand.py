"""What a train must deliver at each load: fuel, air, pressures of its source."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

from gentle_ember.core.estimates.defaults import Given, fuel_line, fuels_here, site_air
from gentle_ember.core.estimates.filling import most_air_kg_s
from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.estimates.run_times import gas_line
from gentle_ember.core.job.facts import simulated
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.load_test import LoadReading, Run
from gentle_ember.core.job.metering import Ran
from gentle_ember.core.job.site import Site
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuels import Fuel, FuelKey
from gentle_ember.core.physics.propane import saturation_pressure
from gentle_ember.core.physics.venturi import signal

LOADS = ("none", "idle", "half", "full")
READ_BAND = 0.08
"""How far a suction that was read may be off on the next run: the tube, the load, the day [1]."""


@dataclass(frozen=True, slots=True)
class SuctionRead:
    """Suction at the throat as read, over what a steady flow would give there [1].

    A single cylinder draws in pulses and edges differ: no table knows the share, a U-tube does.
    """

    over_steady: float
    band: float
    """Relative half-width [1]."""
    readings: int
    path: str


@dataclass(frozen=True, slots=True)
class Demand:
    """Fuel power by load [W, LHV], expected and at its upper end, where it is burnt, and the air.

    The upper end is what trains are sized on; `spread` is its share over what is expected [1].
    """

    fuel: Fuel
    watts: dict[str, float]
    spread: float
    elevation_m: float
    ambient_pa: float
    air_density: float
    hottest_k: float
    coldest_k: float
    assumed: tuple[str, ...]
    most_air_kg_s: float | None = None
    """The most its cylinders draw here [kg/s]; None where their size or speed is not known."""
    suction: SuctionRead | None = None
    """What a U-tube at the throat told of this set's suction; None until one was read."""

    def mass(self, load: str, *, upper: bool = True) -> float:
        """Fuel mass flow at a load [kg/s], at the upper end of what is expected unless told."""
        factor = 1 + self.spread if upper else 1.0
        return self.watts[load] * factor / self.fuel.lhv_j_kg

    def heat_hhv(self, load: str = "full") -> float:
        """Heat rate at a load as the gas trade rates it [W, HHV], at the upper end."""
        return self.mass(load) * self.fuel.hhv_j_kg

    def air_kg_s(self, load: str = "full") -> float:
        """Air drawn at a load [kg/s]: what is expected, at λ = 1, so never too much suction.

        Never more than its cylinders hold: thin air fills them with less.
        """
        wanted = self.mass(load, upper=False) * self.fuel.air_fuel_ratio
        return wanted if self.most_air_kg_s is None else min(wanted, self.most_air_kg_s)

    @property
    def gas_density(self) -> float:
        """Density of the gas before the throat, at the air's pressure and temperature [kg/m³]."""
        return self.fuel.density_kg_m3 * self.air_density / air.STANDARD_DENSITY_KG_M3

    def cylinder_pa(self, load: str) -> float:
        """Gauge pressure in a propane cylinder [Pa]: its highest at no flow, its least at flow."""
        temperature = self.hottest_k if load == "none" else self.coldest_k
        return saturation_pressure(temperature) - self.ambient_pa


def demand(
    generator: GeneratorSet, site: Site, key: str, output: OutputSection, fuel: FuelKey
) -> Demand:
    """What a set asks of a fuel on a site."""
    rated = output.rating.value
    line = gas_line(generator, fuel_line(generator, rated), fuel)
    here = site_air(site, key)
    burnt = fuels_here(generator, site, key)[fuel]
    full_w = output.of(fuel).running.value
    pressure = air.pressure(here.elevation.value)
    watts = {
        "none": 0.0,
        "idle": line.fuel_w(0.0),
        "half": line.fuel_w(full_w / 2),
        "full": line.fuel_w(full_w),
    }
    density = air.density(pressure, here.hottest.value, 0.0)
    stated: tuple[Given, ...] = (here.elevation, here.coldest, here.hottest)
    return Demand(
        burnt.fuel,
        watts,
        line.band_at(full_w),
        here.elevation.value,
        pressure,
        density,
        here.hottest.value,
        here.coldest.value,
        tuple(one.label for one in stated if one.assumed),
        most_air_kg_s(generator, density),
    )


@dataclass(frozen=True, slots=True)
class ReadUnderLoad:
    """One reading of the machine itself under load, with the run it belongs to."""

    path: str
    run: Run
    reading: LoadReading
    watts: float


def read_under_load(job: Job, fuel: FuelKey) -> Iterator[ReadUnderLoad]:
    """What was read on a fuel on the site looked at, with its output; nothing simulated.

    Readings of a run that was rough or hunting tell nothing of a steady mixture.
    """
    key = f"{job.site}-{fuel}"
    test = job.load_tests.get(key)
    for name, run in test.runs.items() if test else ():
        for place, one in run.readings.items():
            watts = one.watts
            if watts and one.ran is Ran.SMOOTH and not simulated(one):
                at = f"load_tests.{key}.runs.{name}.readings.{place}"
                yield ReadUnderLoad(at, run, one, watts)


def throat_of(job: Job, fuel: FuelKey) -> tuple[float, int] | None:
    """Throat of the job's own train on a fuel [m], and how many share its air; None without one."""
    train = job.trains.get(fuel)
    for slot in reversed(list(train.slots.values()) if train else []):
        part = job.parts.get(slot.part)
        if part is not None and part.throat_m is not None:
            return part.throat_m, part.branches
    return None


def steady_suction(needed: Demand, air_kg_s: float, throat: tuple[float, int]) -> float:
    """Suction a steady flow of air would give at a throat, on this site's day [Pa]."""
    return signal(air_kg_s / throat[1], throat[0], needed.air_density)


def with_suction(job: Job, output: OutputSection, needed: Demand) -> Demand:
    """A demand with what U-tubes at the throat told of this set, on any gas of this site."""
    ratios: list[float] = []
    path = ""
    for fuel in FuelKey:
        throat = throat_of(job, fuel)
        read = [one for one in read_under_load(job, fuel) if one.reading.suction]
        if throat is None or not read:
            continue
        here = demand(job.set, job.sites[job.site], job.site, output, fuel)
        line = gas_line(job.set, fuel_line(job.set, output.rating.value), fuel)
        for one in read:
            suction = one.reading.suction
            if suction is None or suction.value <= 0:
                continue
            drawn = line.fuel_w(one.watts) / here.fuel.lhv_j_kg * here.fuel.air_fuel_ratio
            drawn = min(drawn, here.most_air_kg_s or drawn)
            ratios.append(suction.value / steady_suction(here, drawn, throat))
            path = one.path
    if not ratios:
        return needed
    logs = [math.log(one) for one in ratios]
    mean = sum(logs) / len(logs)
    scatter = math.sqrt(sum((one - mean) ** 2 for one in logs) / len(logs))
    band = max(READ_BAND, 2 * scatter)
    found = SuctionRead(math.exp(mean), min(0.9, band), len(ratios), f"{path}.suction")
    return replace(needed, suction=found)
