"""What the job says, with a stated default where it says nothing."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.base.figure import Input, Origin
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.handling import PIPED, FuelSource, comes_from, of_source
from gentle_ember.core.job.job import Appliance, ApplianceKind, Load
from gentle_ember.core.job.site import Gas, Site
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuel_use import (
    INVERTERS,
    SCALE_READS_TO,
    Point,
    Willans,
    class_line,
    fit,
    weighing_error,
)
from gentle_ember.core.physics.fuels import (
    FACTS,
    GASOLINE_E0,
    GASOLINES,
    NATURAL_GAS_HHV_J_M3,
    NATURAL_GAS_SG,
    RAW_WATER,
    USUAL_METHANE,
    Fuel,
    FuelKey,
    biogas,
    natural_gas,
    usual,
)
from gentle_ember.core.physics.jets import lean_by_fuel
from gentle_ember.core.physics.motor import RUNNING_POWER_FACTOR
from gentle_ember.core.physics.supply import tank_energy

EFFICIENCY, EFFICIENCY_ENDS = 0.82, (0.80, 0.85)
RESERVE, RESERVE_ENDS = 1.0, (0.95, 1.10)
STARTING = {
    ApplianceKind.RESISTIVE: 1.0,
    ApplianceKind.ELECTRONIC: 1.0,
    ApplianceKind.FRIDGE: 3.0,
    ApplianceKind.PUMP: 6.0,
    ApplianceKind.WINDOW_AC: 4.0,
    ApplianceKind.SOFT_STARTED: 1.5,
    ApplianceKind.MOTOR_TOOL: 3.0,
}
"""Starting over running watts by kind, where no figure is told: the upper end of what is usual."""
FRIDGE_START_W = 1200.0


CLOCKED_ERROR = 0.02
"""Standard error of gas by a clocked meter: the meter's own, and its heating value's [1]."""


@dataclass(frozen=True, slots=True)
class Given:
    """A value the plan uses [SI], where it stands in the job, and whether it was assumed."""

    label: str
    value: float
    kind: str
    path: str
    origin: Origin

    @property
    def assumed(self) -> bool:
        """True when the job did not say and a stated default stands in."""
        return self.origin is Origin.ASSUMED

    @property
    def input(self) -> Input:
        """As an input of a working."""
        return Input(self.label, self.value, self.kind, self.origin, self.path)


def given(fact: Fact | None, default: float, label: str, kind: str, path: str) -> Given:
    """The fact, or the default marked as assumed."""
    if fact is None:
        return Given(label, default, kind, path, Origin.ASSUMED)
    return Given(label, fact.value, kind, path, fact.origin)


NO_ALTERNATOR = Given("at the shaft", 1.0, "share", "set.set_class", Origin.COMPUTED)
"""Of a bare engine nothing is lost on the way to its watts."""


@dataclass(frozen=True, slots=True)
class Machine:
    """The set's figures as the plan uses them: what the engine gives, and within what ends [W]."""

    rated: Given
    starting: Given
    engine_w: float
    engine_low_w: float
    engine_high_w: float
    rating_elevation: Given
    rating_temperature: Given
    jetted_at: Given
    leaner: float
    """How much leaner its gasoline is than the one its jet was chosen on [1]."""
    engine_inputs: tuple[Input, ...]
    estimated: bool


def leaner_by_fuel(generator: GeneratorSet) -> float:
    """How much leaner the set's gasoline is than the one its first jet was chosen on [1].

    Where nobody says, that was gasoline without ethanol, so that a lean one is not missed.
    """
    made_on = generator.carburetor.jets.made_on
    return lean_by_fuel(GASOLINES.get(made_on, GASOLINE_E0), GASOLINES[generator.gasoline])


def machine(generator: GeneratorSet) -> Machine | None:
    """Resolve the set; None until it has a running rating."""
    if generator.running is None:
        return None
    rated = given(generator.running, 0.0, "running rating", "power", "set.running")
    starting = given(generator.starting, rated.value, "starting rating", "power", "set.starting")
    elevation = given(
        generator.rating_elevation, 0.0, "rated at elevation", "elevation", "set.rating_elevation"
    )
    temperature = given(
        generator.rating_temperature,
        298.15,
        "rated at temperature",
        "temperature",
        "set.rating_temperature",
    )
    numbers, at = generator.carburetor.jets, "set.carburetor.jetted_at"
    if numbers.fitted_for is not None:
        at = "set.carburetor.jets.fitted_for"
    told = numbers.fitted_for or generator.carburetor.jetted_at
    jetted = given(told, 0.0, "jetted at elevation", "elevation", at)
    if generator.shaft_power is not None:
        shaft = given(generator.shaft_power, 0.0, "shaft power", "power", "set.shaft_power")
        efficiency = (
            NO_ALTERNATOR
            if generator.bare
            else given(
                generator.alternator_efficiency,
                EFFICIENCY,
                "alternator efficiency",
                "share",
                "set.alternator_efficiency",
            )
        )
        ends = (
            (0.97, 1.0)
            if generator.bare
            else EFFICIENCY_ENDS
            if efficiency.assumed
            else (efficiency.value * 0.98, min(1.0, efficiency.value * 1.02))
        )
        engine = shaft.value * efficiency.value
        low, high = shaft.value * ends[0], shaft.value * ends[1]
        inputs: tuple[Input, ...] = (shaft.input, efficiency.input)
        estimated = efficiency.assumed
    else:
        reserve = given(
            generator.reserve_ratio, RESERVE, "engine reserve", "ratio", "set.reserve_ratio"
        )
        ends = RESERVE_ENDS if reserve.assumed else (reserve.value * 0.97, reserve.value * 1.03)
        engine = rated.value * reserve.value
        low, high = rated.value * ends[0], rated.value * ends[1]
        inputs, estimated = (reserve.input,), reserve.assumed
    return Machine(
        rated,
        starting,
        engine,
        low,
        high,
        elevation,
        temperature,
        jetted,
        # A jet that was kept for here was worked out, or tried, on the gasoline here.
        1.0 if numbers.fitted_for else leaner_by_fuel(generator),
        inputs,
        estimated,
    )


def legs_of(generator: GeneratorSet) -> int:
    """Legs of the output: three phases; two of half the volts each on 240 V at 60 Hz; else one.

    Without volts on the plate, sets past 4 kW that are no inverters are taken to have two; a bare
    engine's shaft is one.
    """
    if generator.bare:
        return 1
    if generator.phases == 3:
        return 3
    if generator.volts is not None:
        sixty = generator.hertz is None or generator.hertz.value > 55
        return 2 if generator.volts.value >= 200 and sixty else 1
    large = generator.running is not None and generator.running.value > 4000
    return 2 if large and generator.set_class not in INVERTERS else 1


def leg_volts(generator: GeneratorSet) -> float:
    """Volts between a leg and neutral [V]: half of two legs', a phase's by √3; 120 not told."""
    if generator.volts is None:
        return 120.0
    return generator.volts.value / {1: 1.0, 2: 2.0, 3: math.sqrt(3)}[legs_of(generator)]


@dataclass(frozen=True, slots=True)
class SiteAir:
    """The site's air as the plan uses it."""

    elevation: Given
    coldest: Given
    hottest: Given
    humidity: Given | None


def site_air(site: Site, key: str) -> SiteAir:
    """Resolve a site's elevation, temperatures and humidity."""
    at = f"sites.{key}"
    humidity = None
    if site.humidity is not None:
        humidity = given(site.humidity, 0.5, "relative humidity", "share", f"{at}.humidity")
    hottest = given(site.hottest, 298.15, "hottest day", "temperature", f"{at}.hottest")
    cold_default = min(273.15, hottest.value)
    return SiteAir(
        given(site.elevation, 0.0, "elevation", "elevation", f"{at}.elevation"),
        given(site.coldest, cold_default, "coldest night", "temperature", f"{at}.coldest"),
        hottest,
        humidity,
    )


@dataclass(frozen=True, slots=True)
class FuelHere:
    """A fuel with the inputs that describe it, and whether the site has it."""

    fuel: Fuel
    at_hand: bool
    inputs: tuple[Input, ...]
    estimated: bool


STAND_INS = tuple((fuel, Gas(kind=fuel)) for fuel in PIPED)
"""What stands for a gas that a site does not have."""


def fuels_here(generator: GeneratorSet, site: Site, key: str) -> dict[FuelKey, FuelHere]:
    """Every fuel as it is on this site; defaults where the site does not say."""
    gasoline = GASOLINES[generator.gasoline]
    found: dict[FuelKey, FuelHere] = {
        FuelKey.GASOLINE: FuelHere(
            gasoline, site.gasoline, (Input("gasoline", gasoline.name, "text"),), False
        ),
    }
    for fuel in map(usual, of_source(FuelSource.CYLINDER)):
        told = Input("lower heating value", fuel.lhv_j_kg, "heating_value_mass", Origin.TABLE)
        found[fuel.key] = FuelHere(fuel, bool(site.cylinders), (told,), False)
    for name, gas in sorted(site.gases.items()):
        found.setdefault(FuelKey(gas.kind), _gas(gas, f"sites.{key}.gases.{name}", at_hand=True))
    for kind, stand_in in STAND_INS:
        if kind not in found:
            found[kind] = _gas(stand_in, "", at_hand=False)
    return {kind: found[kind] for kind in FuelKey}


def _gas(gas: Gas, path: str, *, at_hand: bool) -> FuelHere:
    if FACTS[gas.kind].by_methane:
        methane = given(gas.methane, USUAL_METHANE, "methane share", "share", f"{path}.methane")
        water = 0.0 if gas.cleaned else RAW_WATER
        told = Input("water vapor in it", water, "share", Origin.ASSUMED, f"{path}.cleaned")
        here = biogas(methane.value, water)
        return FuelHere(here, at_hand, (methane.input, told), methane.assumed)
    if gas.kind is not FuelKey.NATURAL_GAS:
        here = usual(gas.kind)
        told = Input("heating value (HHV)", here.hhv_j_m3, "heating_value_volume", Origin.TABLE)
        return FuelHere(here, at_hand, (told,), True)
    hhv = given(
        gas.hhv, NATURAL_GAS_HHV_J_M3, "heating value (HHV)", "heating_value_volume", f"{path}.hhv"
    )
    gravity = given(
        gas.specific_gravity,
        NATURAL_GAS_SG,
        "specific gravity",
        "ratio",
        f"{path}.specific_gravity",
    )
    fuel = natural_gas(hhv.value, gravity.value)
    return FuelHere(fuel, at_hand, (hhv.input, gravity.input), hhv.assumed)


def fuel_line(generator: GeneratorSet, rated_w: float) -> Willans:
    """The set's Willans line from its weigh-ins and run times, else its class."""
    points = [point for _, point in run_time_points(generator)]
    points += [point for _, _, point in weighed_points(generator)]
    if not points:
        return class_line(generator.set_class, rated_w)
    return fit(points, generator.set_class, rated_w)


def run_time_points(generator: GeneratorSet) -> Iterator[tuple[str, Point]]:
    """What the data sheet's run times tell of the fuel used, by their keys."""
    gasoline = GASOLINES[generator.gasoline]
    for key, run in generator.run_times.items():
        volume = run.volume or generator.tank
        if run.load and run.duration and volume:
            energy = tank_energy(volume.value, gasoline, 1.0)
            yield key, Point(run.load.value, energy / run.duration.value)


def weighed_points(generator: GeneratorSet) -> Iterator[tuple[str, FuelKey, Point]]:
    """Fuel used as it was measured on this set: weighed, or by a clocked meter; none simulated.

    Yields:
        The measurement's key, its fuel, electrical and fuel power [W, LHV].
    """
    gasoline = GASOLINES[generator.gasoline]
    for key, weighing in generator.weigh_ins.items():
        before, after, energy = weighing.before, weighing.after, weighing.energy
        if not (before and after and energy and weighing.duration):
            continue
        if Origin.SIMULATED in (before.origin, after.origin) or before.value <= after.value:
            continue
        used = gasoline if weighing.fuel is FuelKey.GASOLINE else usual(weighing.fuel)
        lhv = used.lhv_j_kg
        seconds = weighing.duration.value
        burnt = before.value - after.value
        reads_to = weighing.scale.value if weighing.scale else SCALE_READS_TO
        error = weighing_error(
            burnt, reads_to, chilled=comes_from(weighing.fuel, FuelSource.CYLINDER)
        )
        burnt_w = burnt * lhv / seconds
        point = Point(energy.value / seconds, burnt_w, weighed=True, sigma=error)
        yield key, weighing.fuel, point
    for key, one in generator.clocked.items():
        if one.flow and one.load and one.flow.origin is not Origin.SIMULATED:
            gas = usual(one.fuel)
            hhv = one.heating.value if one.heating else gas.hhv_j_m3
            burnt_w = one.flow.value * hhv * gas.lhv_j_kg / gas.hhv_j_kg
            yield key, one.fuel, Point(one.load.value, burnt_w, weighed=True, sigma=CLOCKED_ERROR)


def heating_here(generator: GeneratorSet, site: Site, key: str, fuel: FuelKey) -> Fact | None:
    """Heating value by volume (HHV) of a piped gas as this site tells it [J/m³]; None untold."""
    here = fuels_here(generator, site, key)[fuel]
    if fuel not in PIPED or not here.at_hand or here.estimated:
        return None
    return Fact(value=here.fuel.hhv_j_m3, origin=here.inputs[0].origin)


def planned_load(load: Load, rated_w: float) -> Given:
    """The planned load; else the loads that must run; else half the rating."""
    if load.planned is None and (listed := must_run(load)):
        watts = sum(one.running.value for one in listed if one.running)
        return Given("planned load", watts, "power", "load.appliances", Origin.COMPUTED)
    return given(load.planned, 0.5 * rated_w, "planned load", "power", "load.planned")


def largest_start(load: Load) -> Given | None:
    """The largest start as told, else the worst case of the listed loads; None when not known.

    Worst case: everything that must run, less that motor's running, plus its start.
    """
    if load.largest_start is not None:
        return given(load.largest_start, 0.0, "largest start", "power", "load.largest_start")
    listed = must_run(load)
    if not listed:
        return None
    running = sum(one.running.value for one in listed if one.running)
    worst = max(running - one.running.value + starting_w(one) for one in listed if one.running)
    return Given("largest start", worst, "power", "load.appliances", Origin.COMPUTED)


def must_run(load: Load) -> list[Appliance]:
    """The listed loads that must run at once, as far as their watts are told."""
    return [one for one in load.appliances.values() if one.must_run and one.running]


def starting_w(one: Appliance) -> float:
    """What a load draws as it starts [W]: as told, else by its kind, to the upper end."""
    if one.starting is not None:
        return one.starting.value
    running = one.running.value if one.running else 0.0
    started = running * STARTING[one.kind]
    return max(started, FRIDGE_START_W) if one.kind is ApplianceKind.FRIDGE else started


def power_factor(one: Appliance) -> Given:
    """A load's power factor: as told, else by its kind."""
    plain = one.kind is ApplianceKind.RESISTIVE
    default = 1.0 if plain else RUNNING_POWER_FACTOR
    return given(one.power_factor, default, "power factor", "share", "load.appliances")


def rich_fuel_ratio(lam: float | None, loss_factor: float) -> float:
    """Extra gasoline burnt by a mixture richer than as jetted [1], never below 1.

    The same air carries λ₀/λ the fuel, and the load takes 1/loss as much charge.
    """
    if lam is None:
        return 1.0
    return max(1.0, 0.90 / lam / max(loss_factor, 0.5))


def dew_point(site: SiteAir, ambient_k: float) -> float:
    """The site's dew point at an air temperature, at 60 % humidity when it is not given [K]."""
    humidity = 0.6 if site.humidity is None else site.humidity.value
    return air.dew_point(min(max(ambient_k, 233.15), 323.15), humidity)
