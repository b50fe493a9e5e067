"""What a train must deliver at each load: fuel, air, pressures of its source."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core.estimates.defaults import Given, fuel_line, fuels_here, site_air
from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.estimates.run_times import gas_line
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.site import Site
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuels import Fuel, FuelKey
from gentle_ember.core.physics.propane import saturation_pressure

LOADS = ("none", "idle", "half", "full")


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

    def mass(self, load: str, *, upper: bool = True) -> float:
        """Fuel mass flow at a load [kg/s], at the upper end of what is expected unless told."""
        factor = 1 + self.spread if upper else 1.0
        return self.watts[load] * factor / self.fuel.lhv_j_kg

    def heat_hhv(self, load: str = "full") -> float:
        """Heat rate at a load as the gas trade rates it [W, HHV], at the upper end."""
        return self.mass(load) * self.fuel.hhv_j_kg

    def air_kg_s(self, load: str = "full") -> float:
        """Air drawn at a load [kg/s]: what is expected, at λ = 1, so never too much suction."""
        return self.mass(load, upper=False) * self.fuel.air_fuel_ratio

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
    stated: tuple[Given, ...] = (here.elevation, here.coldest, here.hottest)
    return Demand(
        burnt.fuel,
        watts,
        line.band_at(full_w),
        here.elevation.value,
        pressure,
        air.density(pressure, here.hottest.value, 0.0),
        here.hottest.value,
        here.coldest.value,
        tuple(one.label for one in stated if one.assumed),
    )
