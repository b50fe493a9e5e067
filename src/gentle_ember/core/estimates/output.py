"""Output section: a waterfall per fuel, which limit binds, and the rival schools."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core.base.cached import remember
from gentle_ember.core.base.figure import (
    Band,
    Figure,
    Input,
    Method,
    Origin,
    Rival,
    Rounding,
    spread,
)
from gentle_ember.core.estimates.defaults import (
    FuelHere,
    Machine,
    SiteAir,
    fuels_here,
    largest_start,
    machine,
    planned_load,
    site_air,
)
from gentle_ember.core.estimates.legs import wiring_over
from gentle_ember.core.estimates.starts import MotorStart, all_start, motor_starts
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Load, Schools
from gentle_ember.core.job.site import Site
from gentle_ember.core.physics import air, jets
from gentle_ember.core.physics.fuels import Fuel, FuelKey
from gentle_ember.core.physics.output import (
    LAMBDA_AS_JETTED,
    METHODS,
    MIXTURE_METHOD,
    OUTPUT_METHOD,
    Conditions,
    EngineRating,
    OutputCase,
    OutputSchool,
    Waterfall,
    derate,
    ends,
    lambda_as_jetted,
)

SCHOOL_NAMES = {OutputSchool.FIELD_RULE: "field rule", OutputSchool.PHYSICS: "physics"}


@dataclass(frozen=True, slots=True)
class FuelOutput:
    """One fuel's output: running and starting, the steps between, and what they are enough for."""

    fuel: Fuel
    at_hand: bool
    running: Figure
    starting: Figure
    steps: tuple[Figure, ...]
    limited_by: str
    mixture_lambda: float | None
    mixture_factor: float
    carries_planned: bool
    starts_largest: bool | None


@dataclass(frozen=True, slots=True)
class OutputSection:
    """Every fuel's output at the site, from the rating."""

    rating: Figure
    air: Figure
    fuels: tuple[FuelOutput, ...]

    def of(self, key: FuelKey) -> FuelOutput:
        """One fuel's output."""
        return next(entry for entry in self.fuels if entry.fuel.key is key)


@remember()
def output_section(
    generator: GeneratorSet, site: Site, site_key: str, load: Load, schools: Schools
) -> OutputSection | None:
    """Output per fuel; None until the set has a running rating."""
    resolved = machine(generator)
    if resolved is None:
        return None
    here = site_air(site, site_key)
    over = wiring_over(generator, load)
    motors = motor_starts(generator, load, resolved)
    entries = tuple(
        _on_fuel(resolved, here, at_site, load, schools, motors, over=over)
        for at_site in fuels_here(generator, site, site_key).values()
    )
    value = resolved.rated.value
    rating = Figure(
        "rating",
        "rating",
        value,
        "power",
        Method("rating", "Data plate", "as given", "the set's own data", "output"),
        Band(value, value),
        (
            resolved.rated.input,
            resolved.rating_elevation.input,
            resolved.rating_temperature.input,
        ),
    )
    return OutputSection(rating, _density_ratio(here), entries)


def _density_ratio(here: SiteAir) -> Figure:
    """The site's air on its hottest day against the standard's at sea level."""
    pressure = air.pressure(here.elevation.value)
    kelvin = here.hottest.value
    humidity = 0.0 if here.humidity is None else here.humidity.value
    vapor = humidity * air.saturation_pressure(kelvin)
    value = air.density(pressure, kelvin, vapor) / air.STANDARD_DENSITY_KG_M3
    rows = [here.elevation.input, here.hottest.input]
    if here.humidity is not None:
        rows.append(here.humidity.input)
    return Figure(
        "air.density_ratio",
        "air density σ",
        value,
        "ratio",
        air.ATMOSPHERE,
        spread(value, 0.03),
        (*rows, Input("air pressure, standard day", pressure, "pressure")),
        rounding=Rounding.DOWN,
        estimated=here.elevation.assumed or here.hottest.assumed,
        narrows=("the day's barometer; weather moves it by up to 3 %",),
    )


def _conditions(resolved: Machine, here: SiteAir) -> Conditions:
    return Conditions(
        here.elevation.value,
        here.hottest.value,
        None if here.humidity is None else here.humidity.value,
        resolved.jetted_at.value,
        resolved.leaner,
    )


def _rating(resolved: Machine, case: OutputCase, starting: bool) -> EngineRating:
    engine = {
        OutputCase.LOW: resolved.engine_low_w,
        OutputCase.STATED: resolved.engine_w,
        OutputCase.HIGH: resolved.engine_high_w,
    }[case]
    limit = resolved.rated.value
    if starting:
        limit = resolved.starting.value
        engine = max(engine, limit)
    return EngineRating(
        engine, limit, resolved.rating_elevation.value, resolved.rating_temperature.value
    )


MIXTURE_COLD = Method(
    "mixture-cold", "Mixture on the coldest night",
    "λ = 0.90 · √(σ here, coldest / σ jetted) · leaner by ethanol · √(ρ jetted / ρ here), gasoline",
    "float carburetor: air flow ∝ √ρ of the air, fuel ∝ √ρ of the gasoline; the jet taken as "
    "chosen at the temperature of the rating", "jets",
)  # fmt: skip


def coldest_mixture(generator: GeneratorSet, site: Site, key: str) -> Figure | None:
    """λ at load on gasoline on a site's coldest night; None until there is a running rating.

    The leanest a carburetor runs all year: thin air and heat only make it richer.
    """
    resolved, here = machine(generator), site_air(site, key)
    if resolved is None:
        return None
    at = Conditions(here.elevation.value, here.coldest.value, None, resolved.jetted_at.value,
                    resolved.leaner)  # fmt: skip
    value = lambda_as_jetted(at, resolved.rating_temperature.value)
    return Figure(
        f"mixture.coldest.{key}", "λ on gasoline, coldest night", value, "ratio", MIXTURE_COLD,
        spread(value, 0.05),
        (resolved.jetted_at.input, resolved.rating_temperature.input, here.elevation.input,
         here.coldest.input,
         Input("λ where it was jetted", LAMBDA_AS_JETTED, "ratio", Origin.ASSUMED),
         Input("leaner by its ethanol", resolved.leaner)),
        rounding=Rounding.UP, estimated=True, warnings=(jets.reads(value).text,),
        narrows=("a wide-band probe at load on a cold day", "what gasoline its jet was made for"),
    )  # fmt: skip


def running_w(resolved: Machine, here: SiteAir, fuel: Fuel, schools: Schools) -> float:
    """Steady output as a section states it [W], without its band and the other schools."""
    rating, at = _rating(resolved, OutputCase.STATED, starting=False), _conditions(resolved, here)
    return derate(rating, fuel, at, schools.fuel, schools.air, OutputCase.STATED).output_w


def _on_fuel(
    resolved: Machine,
    here: SiteAir,
    at_site: FuelHere,
    load: Load,
    schools: Schools,
    motors: tuple[MotorStart, ...],
    *,
    over: bool,
) -> FuelOutput:
    fuel = at_site.fuel
    at = _conditions(resolved, here)

    def fall(
        starting: bool, fuel_school: OutputSchool, air_school: OutputSchool
    ) -> tuple[Waterfall, float, float]:
        return ends(
            lambda case: derate(
                _rating(resolved, case, starting), fuel, at, fuel_school, air_school, case
            )
        )

    inputs = _inputs(resolved, here, at_site)
    estimated = (
        resolved.estimated
        or at_site.estimated
        or here.elevation.assumed
        or here.hottest.assumed
        or fuel.methane_share is not None
    )
    narrows = _narrows(resolved, here, at_site)

    def figure(starting: bool) -> tuple[Figure, Waterfall]:
        stated, low, high = fall(starting, schools.fuel, schools.air)
        name = "starting" if starting else "running"
        rivals = tuple(
            Rival(f"fuel by {SCHOOL_NAMES[f]}, air by {SCHOOL_NAMES[a]}", rival.output_w)
            for f in OutputSchool
            for a in OutputSchool
            if (f, a) != (schools.fuel, schools.air)
            for rival in [fall(starting, f, a)[0]]
        )
        first = resolved.starting if starting else resolved.rated
        result = Figure(
            f"{'starting' if starting else 'output'}.{fuel.key}",
            f"{fuel.name}, {name}",
            stated.output_w,
            "power",
            OUTPUT_METHOD,
            Band(low, high),
            (
                first.input,
                Input("fuel by", SCHOOL_NAMES[schools.fuel], "text"),
                Input("elevation and heat by", SCHOOL_NAMES[schools.air], "text"),
                *inputs,
            ),
            rivals,
            Rounding.DOWN,
            estimated or first.assumed,
            narrows,
        )
        return result, stated

    running, stated = figure(starting=False)
    starting, _ = figure(starting=True)
    planned = planned_load(load, resolved.rated.value).value
    starts = starts_on(load, motors, starting.value)
    mixture = next((s.factor for s in stated.steps if s.key == "mixture"), 1.0)
    return FuelOutput(
        fuel,
        at_site.at_hand,
        running,
        starting,
        _steps(stated, fuel, schools, inputs),
        stated.limited_by,
        stated.mixture_lambda,
        mixture,
        planned <= running.value and not over,
        starts,
    )


def starts_on(load: Load, motors: tuple[MotorStart, ...], engine_gives_w: float) -> bool | None:
    """Whether the largest start is carried: as it was told, else each listed motor's own.

    Without a motor listed the loads together must be carried for a moment; None without any.
    """
    told = largest_start(load)
    if load.largest_start is None and motors:
        return all_start(motors, engine_gives_w)
    return None if told is None else told.value <= engine_gives_w


def _inputs(resolved: Machine, here: SiteAir, at_site: FuelHere) -> tuple[Input, ...]:
    inputs = [
        *resolved.engine_inputs,
        resolved.rating_elevation.input,
        resolved.rating_temperature.input,
        *at_site.inputs,
        here.elevation.input,
        here.hottest.input,
    ]
    if here.humidity is not None:
        inputs.append(here.humidity.input)
    if at_site.fuel.key is FuelKey.GASOLINE:
        inputs += [resolved.jetted_at.input, Input("leaner by its ethanol", resolved.leaner)]
    return tuple(inputs)


def _narrows(resolved: Machine, here: SiteAir, at_site: FuelHere) -> tuple[str, ...]:
    wanted = ["a load test near rating on this fuel"]
    if resolved.estimated:
        wanted.append("the engine's shaft power and the alternator's efficiency")
    if here.elevation.assumed:
        wanted.append("the site's elevation")
    if here.hottest.assumed:
        wanted.append("the site's hottest day")
    if at_site.estimated:
        wanted.append("what the gas is made of, from the utility or a gas analysis")
    return tuple(wanted)


_AIR_FACTS = {
    "elevation": ("elevation", "rating_elevation"),
    "temperature": ("hottest", "rating_temperature"),
    "humidity": ("humidity",),
    "mixture": ("elevation", "jetted_at"),
}
"""Facts a step of the waterfall rests on, by the end of their path."""


def _steps(
    stated: Waterfall, fuel: Fuel, schools: Schools, inputs: tuple[Input, ...]
) -> tuple[Figure, ...]:
    """Each step of the waterfall as a figure; steps that change nothing are left out."""
    figures: list[Figure] = []
    for step in stated.steps:
        if abs(step.change_w) < 0.5:
            continue
        method, rows = OUTPUT_METHOD, inputs
        if step.key == "fuel":
            method = METHODS["fuel", schools.fuel]
        elif step.key in _AIR_FACTS:
            facts = _AIR_FACTS[step.key]
            rows = tuple(i for i in inputs if (i.path or "").rpartition(".")[2] in facts)
            method = METHODS["air", schools.air]
            if step.key == "mixture":
                method = MIXTURE_METHOD
                rows += (Input("λ here", stated.mixture_lambda or 0.0, "ratio"),)
        figures.append(
            Figure(
                f"step.{fuel.key}.{step.key}",
                step.label,
                step.change_w,
                "power",
                method,
                Band(step.change_w, step.change_w),
                (*rows, Input("factor of this step", step.factor)),
                estimated=True,
                narrows=("a load test; the band is on the output itself",),
            )
        )
    return tuple(figures)
