"""Runs section: how long each container lasts at the planned load, and the full-load gas flow."""

from __future__ import annotations

from dataclasses import dataclass, replace

from gentle_ember.core.base.figure import Band, Figure, Input, Origin, Rounding, spread
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.cylinder import CylinderCase, cylinder_run
from gentle_ember.core.estimates.defaults import (
    Given,
    SiteAir,
    fuel_line,
    planned_load,
    rich_fuel_ratio,
    site_air,
)
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import FuelOutput, OutputSection
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.handling import FuelSource, comes_from
from gentle_ember.core.job.job import Job, Load
from gentle_ember.core.job.part import CYLINDER_FED, Part
from gentle_ember.core.job.site import CylindersAtHand, Site
from gentle_ember.core.physics import air
from gentle_ember.core.physics.cylinder import FIRST_STAGE_MINIMUM_PA, CylinderSize
from gentle_ember.core.physics.fuel_use import WILLANS, Willans
from gentle_ember.core.physics.fuels import PROPANE, FuelKey
from gentle_ember.core.physics.supply import (
    MASS_DRAW,
    TANK,
    USABLE_TANK_SHARE,
    UTILITY,
    heat_rate_hhv,
    mass_draw,
    starving_inlet,
    tank_energy,
    volume_draw,
)
from gentle_ember.core.stage import Plan

NARROWS = ("weigh-ins: fuel weighed before and after, energy metered", "data-sheet run times")


@dataclass(frozen=True, slots=True)
class RunEstimate:
    """One container's run time at the planned load; `figure` None when the fuel can't carry it."""

    key: str
    label: str
    fuel: FuelKey
    figure: Figure | None
    at_hand: bool
    why_not: str = ""
    left: Figure | None = None
    """What stays behind in a cylinder that got too cold."""


@dataclass(frozen=True, slots=True)
class FullLoad:
    """A gas's demand at its full output: mass or volume flow and the trade's heat rate."""

    fuel: FuelKey
    flow: Figure
    heat: Figure


def contents_of(at_hand: CylindersAtHand, size: CylinderSize) -> tuple[float, Origin]:
    """Propane in each cylinder [kg] and where that comes from: weighed, stated, or full."""
    if at_hand.weighed is not None:
        tare = size.tare_kg if at_hand.tare is None else at_hand.tare.value
        origin = Origin.ASSUMED if at_hand.tare is None else Origin.MEASURED
        return max(0.0, at_hand.weighed.value - tare), origin
    if at_hand.fill is not None:
        return at_hand.fill.value, at_hand.fill.origin
    return size.full_kg, Origin.ASSUMED


OVERFULL = "overfilled, or the tare is wrong"


def overfull(at_hand: CylindersAtHand, size: CylinderSize) -> bool:
    """Whether a cylinder is said to hold more than it may: no answer is given for one."""
    return contents_of(at_hand, size)[0] > size.nominal_kg * 1.01


def gas_line(generator: GeneratorSet, line: Willans, fuel: FuelKey) -> Willans:
    """The energy line on a gas: the gasoline line over the efficiency ratio."""
    if fuel is FuelKey.GASOLINE or generator.gas_efficiency is None:
        return line
    ratio = generator.gas_efficiency.value
    return replace(line, a_w=line.a_w / ratio, b=line.b / ratio)


def cylinder_case(
    generator: GeneratorSet,
    site: Site,
    key: str,
    at_hand: CylindersAtHand,
    size: CylinderSize,
    ambient_k: float,
    load_w: float,
    line: Willans,
    regulator: Part | None = None,
) -> CylinderCase:
    """A question about cylinders of this site, emptied through a regulator where one is known."""
    contents, origin = contents_of(at_hand, size)
    fuel = gas_line(generator, line, FuelKey.PROPANE)
    elevation = site_air(site, key).elevation.value
    least = FIRST_STAGE_MINIMUM_PA
    if regulator is not None and regulator.rated_w and regulator.rated_inlet_pa is not None:
        least = starving_inlet(
            heat_rate_hhv(fuel.fuel_w(load_w), PROPANE),
            regulator.rated_w,
            regulator.rated_inlet_pa,
            least if regulator.least_pa is None else regulator.least_pa,
            air.pressure(elevation),
        )
    return CylinderCase(
        size,
        at_hand.count,
        contents,
        ambient_k,
        load_w,
        fuel,
        elevation,
        at_hand.shelter,
        origin,
        least,
    )


def tank_run(
    generator: GeneratorSet, output: FuelOutput, line: Willans, load: Given
) -> Figure | None:
    """Run time on the set's own gasoline tank; None without a tank volume."""
    if generator.tank is None:
        return None
    rich = rich_fuel_ratio(output.mixture_lambda, output.mixture_factor)
    fuel_w = line.fuel_w(load.value) * rich
    value = tank_energy(generator.tank.value, output.fuel) / fuel_w
    band = line.band_at(load.value)
    return Figure(
        "run.tank",
        "own tank",
        value,
        "duration",
        TANK,
        Band(value / (1 + band), value / (1 - band)),
        (
            Input(
                "gasoline tank", generator.tank.value, "volume", generator.tank.origin, "set.tank"
            ),
            Input("usable share", USABLE_TANK_SHARE, "share", Origin.ASSUMED),
            load.input,
            Input("fuel power at that load (LHV)", fuel_w, "heat_rate"),
            Input("extra fuel, mixture as jetted", rich, "ratio"),
            Input("fuel line from", line.basis, "text"),
        ),
        rounding=Rounding.DOWN,
        estimated=True,
        narrows=NARROWS,
    )


@dataclass(frozen=True, slots=True)
class RunsSection:
    """Run times and flows at the planned load."""

    load: Given
    line: Willans
    runs: tuple[RunEstimate, ...]
    full_load: tuple[FullLoad, ...]


def runs_section(
    generator: GeneratorSet,
    site: Site,
    site_key: str,
    load: Load,
    output: OutputSection,
    catalog: Catalog,
    *,
    every_size: bool,
    regulator: Part | None = None,
) -> RunsSection:
    """Run time of every container at hand, and with `every_size` of each catalog cylinder."""
    rated = output.rating.value
    line = fuel_line(generator, rated)
    here = site_air(site, site_key)
    wanted = planned_load(load, rated)
    runs: list[RunEstimate] = []
    gasoline = output.of(FuelKey.GASOLINE)
    if generator.tank is not None:
        runs.append(_run("tank", "own tank", gasoline, tank_run(generator, gasoline, line, wanted)))
    propane = output.of(FuelKey.PROPANE)
    for name, at_hand in sorted(site.cylinders.items()):
        size = catalog.cylinders.get(at_hand.size)
        if size is None:
            continue
        title = size.name if at_hand.count == 1 else f"{at_hand.count} × {size.name}"
        for when, ambient in _temperatures(here):
            key, label = f"{name}.{when}", f"{title}, {when}"
            if overfull(at_hand, size):
                runs.append(RunEstimate(key, label, FuelKey.PROPANE, None, True, OVERFULL))
                continue
            case = cylinder_case(
                generator,
                site,
                site_key,
                at_hand,
                size,
                ambient.value,
                wanted.value,
                line,
                regulator,
            )
            ends = cylinder_run(case, f"run.{key}", label)
            runs.append(_run(key, label, propane, ends.figure, ends.left))
    if every_size:
        runs.extend(
            _every_size(generator, site, site_key, here, wanted, line, propane, catalog, regulator)
        )
    gases = [entry for entry in output.fuels if entry.fuel.key is not FuelKey.GASOLINE]
    flows = tuple(_full_load(generator, line, entry) for entry in gases)
    return RunsSection(wanted, line, tuple(runs), flows)


def _temperatures(here: SiteAir) -> list[tuple[str, Given]]:
    if here.hottest.value - here.coldest.value < 1.0:
        return [("coldest", here.coldest)]
    return [("hottest", here.hottest), ("coldest", here.coldest)]


def _run(
    key: str,
    label: str,
    output: FuelOutput,
    figure: Figure | None,
    left: Figure | None = None,
    *,
    at_hand: bool = True,
) -> RunEstimate:
    if not output.carries_planned:
        why = "can't carry the planned load"
        return RunEstimate(key, label, output.fuel.key, None, at_hand, why)
    return RunEstimate(key, label, output.fuel.key, figure, at_hand, left=left)


def _every_size(
    generator: GeneratorSet,
    site: Site,
    site_key: str,
    here: SiteAir,
    wanted: Given,
    line: Willans,
    propane: FuelOutput,
    catalog: Catalog,
    regulator: Part | None,
) -> list[RunEstimate]:
    found: list[RunEstimate] = []
    taken = {entry.size for entry in site.cylinders.values() if entry.count == 1}
    for size in sorted(catalog.cylinders.values(), key=lambda s: s.nominal_kg):
        if size.key in taken:
            continue
        stand_in = CylindersAtHand(size=size.key)
        for when, ambient in _temperatures(here):
            key, label = f"size-{size.key}.{when}", f"{size.name}, {when}"
            case = cylinder_case(
                generator,
                site,
                site_key,
                stand_in,
                size,
                ambient.value,
                wanted.value,
                line,
                regulator,
            )
            ends = cylinder_run(case, f"run.{key}", label)
            found.append(_run(key, label, propane, ends.figure, ends.left, at_hand=False))
    return found


def _full_load(generator: GeneratorSet, line: Willans, output: FuelOutput) -> FullLoad:
    fuel = output.fuel
    fuel_w = gas_line(generator, line, fuel.key).fuel_w(output.running.value)
    band = line.band_at(output.running.value)
    inputs = (
        Input("full output on this gas", output.running.value, "power"),
        Input("fuel power (LHV)", fuel_w, "heat_rate"),
        Input("fuel line from", line.basis, "text"),
    )
    if comes_from(fuel.key, FuelSource.CYLINDER):
        value, kind, method = mass_draw(fuel_w, fuel), "mass_flow", MASS_DRAW
    else:
        value, kind, method = volume_draw(fuel_w, fuel), "volume_flow", UTILITY
    flow = Figure(
        f"flow.{fuel.key}",
        f"{fuel.name} at full load",
        value,
        kind,
        method,
        spread(value, band),
        inputs,
        rounding=Rounding.UP,
        estimated=True,
        narrows=NARROWS,
    )
    heat = heat_rate_hhv(fuel_w, fuel)
    return FullLoad(
        fuel.key,
        flow,
        Figure(
            f"heat.{fuel.key}",
            f"{fuel.name}, heat rate (HHV)",
            heat,
            "heat_rate",
            WILLANS,
            spread(heat, band),
            (*inputs, Input("HHV over LHV", fuel.hhv_j_kg / fuel.lhv_j_kg, "ratio")),
            rounding=Rounding.UP,
            estimated=True,
            narrows=NARROWS,
        ),
    )


def cylinder_question(
    generator: GeneratorSet,
    site: Site,
    site_key: str,
    at_hand: CylindersAtHand,
    load: Load,
    rated_w: float,
    catalog: Catalog,
    *,
    ambient_k: float | None = None,
    regulator: Part | None = None,
) -> CylinderCase | None:
    """The cylinder page's question; the site's coldest unless told. None for an unknown size."""
    size = catalog.cylinders.get(at_hand.size)
    if size is None:
        return None
    air_k = site_air(site, site_key).coldest.value if ambient_k is None else ambient_k
    wanted = planned_load(load, rated_w).value
    line = fuel_line(generator, rated_w)
    return cylinder_case(generator, site, site_key, at_hand, size, air_k, wanted, line, regulator)


def cylinders_regulator(job: Job) -> Part | None:
    """The regulator the job's propane comes through first; None while there is no train."""
    train = job.trains.get(str(FuelKey.PROPANE))
    known = (job.parts.get(slot.part) for slot in train.slots.values()) if train else ()
    return next((part for part in known if part and part.kind in CYLINDER_FED), None)


def run_times(plan: Plan) -> RunsSection | None:
    """Run times of what is at hand, and each gas's flow at full load."""
    return _runs(plan, every_size=False)


def every_run_time(plan: Plan) -> RunsSection | None:
    """The same with every cylinder size of the catalog."""
    return _runs(plan, every_size=True)


def _runs(plan: Plan, *, every_size: bool) -> RunsSection | None:
    job, output = plan.job, plan.of(output_here)
    if output is None:
        return None
    return runs_section(
        job.set,
        plan.site,
        job.site,
        job.load,
        output,
        plan.catalog,
        every_size=every_size,
        regulator=cylinders_regulator(job),
    )
