"""What was measured in this job takes the place of what was estimated; the working says so."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rival, Rounding, spread
from gentle_ember.core.estimates.defaults import (
    Machine,
    fuels_here,
    machine,
    planned_load,
    site_air,
    weighed_points,
)
from gentle_ember.core.estimates.first_settings import by_density_at, by_power
from gentle_ember.core.estimates.output import (
    FuelOutput,
    OutputSection,
    output_section,
    running_w,
    starts_on,
)
from gentle_ember.core.estimates.starts import motor_starts
from gentle_ember.core.job.facts import Fact, blank, simulated
from gentle_ember.core.job.generator import Vent
from gentle_ember.core.job.job import Finding, Job, Look, Schools
from gentle_ember.core.job.load_test import Run
from gentle_ember.core.job.metering import Ran, Signal
from gentle_ember.core.physics.fuel_use import class_line
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.shop import LOAD, SEEN, Lesson, Shop
from gentle_ember.core.stage import Plan

OPEN = 0.90
"""Throttle at which what is held is all there is [1]."""
BAND = 0.04
MEASURED = Method(
    "output-measured", "Measured on this set",
    "held with the throttle open × what the hottest day takes from the day of the test",
    "load test or sweep of this job; meter within 2 %, day's air by the chosen school", "load-test",
)  # fmt: skip

FUEL_BAND = 0.05
FUEL_USED = Method(
    "load-test-fuel", "Fuel used against expected",
    "(weight lost × LHV / time, or flow × LHV) / class line at the same load",
    "lower heating values; energy by the meter or by the readings; scale and dial within 5 %",
    "load-test",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Held:
    """Most that was held with the throttle open [W], the day's air [K], and where it stands."""

    watts: float
    outside: Fact | None
    path: str


def held(job: Job, fuel: FuelKey, site: str) -> Held | None:
    """The latest measured output of a fuel on a site; nothing simulated."""
    key = f"{site}-{fuel}"
    test = job.load_tests.get(key)
    for name, run in reversed(list(test.runs.items()) if test else []):
        found = max(_held_in(run), default=None)
        if found is not None:
            return Held(found, run.outside, f"load_tests.{key}.runs.{name}.held")
    metered = job.metering.get(key)
    if metered is None or metered.signal is not Signal.OUTPUT or metered.locked is None:
        return None
    best = max(
        (one.output.value for one in metered.readings.values()
         if one.output and not simulated(one) and one.ran is Ran.SMOOTH),
        default=None,
    )  # fmt: skip
    return None if best is None else Held(best, None, f"metering.{key}.readings")


def _held_in(run: Run) -> Iterator[float]:
    if run.held is not None and run.held.origin is not Origin.SIMULATED:
        yield run.held.value
        return
    for one in run.readings.values():
        pointer, watts = one.throttle, one.watts
        if pointer is None or not watts or simulated(one):
            continue
        if pointer.value >= OPEN and one.ran is Ran.SMOOTH:
            yield watts


def beside_shop(section: OutputSection, set_class: str, shop: Shop) -> OutputSection:
    """Estimated outputs with the shop's own answers beside them."""
    if not shop.learned:
        return section
    fuels = tuple(
        replace(one, running=shop.beside(one.running, "output", set_class, one.fuel.key))
        for one in section.fuels
    )
    return replace(section, fuels=fuels)


def with_measured(section: OutputSection, job: Job) -> OutputSection:
    """Outputs with what was measured in place of what was estimated."""
    resolved = machine(job.set)
    assert resolved is not None  # noqa: S101 - there is a section
    fuels = tuple(_measured(one, section, job, resolved) for one in section.fuels)
    return replace(section, fuels=fuels)


def _on_the_day(
    job: Job, resolved: Machine, fuel: FuelKey, found: Held, key: str, schools: Schools
) -> tuple[float, float]:
    """Estimates on the test's day and on the site's hottest [W].

    Without the day's temperature it is taken as the coldest: the safe end.
    """
    site = job.sites[key]
    here = site_air(site, key)
    outside = found.outside.value if found.outside else min(here.coldest.value, here.hottest.value)
    that_day = site_air(site.model_copy(update={"hottest": Fact(value=outside)}), key)
    at_site = fuels_here(job.set, site, key)[fuel].fuel
    return running_w(resolved, that_day, at_site, schools), running_w(
        resolved, here, at_site, schools
    )


def _measured(one: FuelOutput, section: OutputSection, job: Job, resolved: Machine) -> FuelOutput:
    fuel = one.fuel.key
    found = held(job, fuel, job.site)
    if found is None:
        return one
    day_w, design_w = _on_the_day(job, resolved, fuel, found, job.site, job.schools)
    hotter = min(1.0, design_w / day_w)
    value = min(found.watts * hotter, section.rating.value)
    outside = found.outside
    inputs = (
        Input("most it held, throttle open", found.watts, "power", Origin.MEASURED, found.path),
        Input("air outside that day", outside.value, "temperature", outside.origin)
        if outside
        else Input("air outside that day", "not noted: taken as the coldest", "text"),
        Input("what the hottest day leaves", hotter),
    )
    running = Figure(
        one.running.key, one.running.label, value, "power", MEASURED, spread(value, BAND), inputs,
        (Rival("as estimated before", one.running.value), *one.running.rivals),
        one.running.rounding, narrows=("the same again on the hottest day",),
    )  # fmt: skip
    share = value / one.running.value if one.running.value else 1.0
    started = min(one.starting.value * share, max(one.starting.value, section.rating.value))
    starting = replace(
        one.starting, value=started, band=spread(started, 0.10),
        inputs=(Input("measured over estimated, running", share), *one.starting.inputs),
        rivals=(Rival("as estimated before", one.starting.value), *one.starting.rivals),
    )  # fmt: skip
    step = value - one.running.value
    steps = one.steps
    if abs(step) >= 0.5:
        shown = Figure(
            f"step.{fuel}.measured", "as measured", step, "power", MEASURED, spread(step, 0.0),
            inputs,
        )  # fmt: skip
        steps = (*steps, shown)
    motors = motor_starts(job.set, job.load, resolved)
    planned = planned_load(job.load, section.rating.value).value
    return replace(
        one, running=running, starting=starting, steps=steps, carries_planned=planned <= value,
        starts_largest=starts_on(job.load, motors, started),
    )  # fmt: skip


def fuel_used(job: Job, key: str) -> Figure | None:
    """Fuel of one weighed or clocked run over what its class uses at that load [1].

    Args:
        job: the job.
        key: the weigh-in's or the clocked meter's.
    """
    resolved = machine(job.set)
    point = next((point for name, _, point in weighed_points(job.set) if name == key), None)
    if resolved is None or point is None:
        return None
    expected = class_line(job.set.set_class, resolved.rated.value).fuel_w(point.electrical_w)
    value = point.fuel_w / expected
    clocked = job.set.clocked.get(key)
    told = clocked.heating if clocked else None
    gas = () if told is None else (
        Input("heating value (HHV)", told.value, "heating_value_volume", told.origin),
    )  # fmt: skip
    return Figure(
        f"load.{key}.fuel", "fuel used, of that expected", value, "share", FUEL_USED,
        spread(value, max(FUEL_BAND, 2 * point.sigma)),
        (Input("fuel used, LHV", point.fuel_w, "heat_rate", Origin.MEASURED),
         Input("at a load of", point.electrical_w, "power", Origin.MEASURED),
         *gas, Input("its class uses at that load, LHV", expected, "heat_rate")),
        rounding=Rounding.UP,
        narrows=("a longer run between two weighings", "a scale that reads finer"),
    )  # fmt: skip


def lessons_of(job: Job) -> tuple[Lesson, ...]:
    """What this job measured, on any of its sites, against what the default schools estimate."""
    resolved = machine(job.set)
    if resolved is None:
        return ()
    return (
        *_vents(job), *_loads(job), *_outputs(job, resolved), *_fuel_use(job, resolved),
        *_turns(job, resolved), *_jets(job),
    )  # fmt: skip


def _vents(job: Job) -> Iterator[Lesson]:
    """The tank's vent, as the walk-round found it."""
    look, kind = job.findings.get("vent", blank(Finding)).look, job.set.tank_vent
    if kind is not Vent.UNKNOWN and look in (Look.GOOD, Look.BAD):
        yield Lesson(SEEN, str(kind), "", 1.0, float(look is Look.BAD))


def _loads(job: Job) -> Iterator[Lesson]:
    """What the owner's loads drew by the meter."""
    for one in job.load.appliances.values():
        name = one.name.strip().lower()
        if name and one.running is not None and one.running.origin is Origin.MEASURED:
            started = one.starting is not None and one.starting.origin is Origin.MEASURED
            starting = one.starting.value if started and one.starting else 0.0
            yield Lesson(LOAD, name, str(one.kind), starting, one.running.value)


def _outputs(job: Job, resolved: Machine) -> Iterator[Lesson]:
    for key in job.sites:
        for fuel in FuelKey:
            found = held(job, fuel, key)
            # At the alternator's limit nothing is learned of the engine.
            if found is not None and found.watts < 0.99 * resolved.rated.value:
                day_w, _ = _on_the_day(job, resolved, fuel, found, key, Schools())
                yield Lesson("output", str(job.set.set_class), str(fuel), day_w, found.watts)


def _fuel_use(job: Job, resolved: Machine) -> Iterator[Lesson]:
    line = class_line(job.set.set_class, resolved.rated.value)
    for _, fuel, point in weighed_points(job.set):
        estimate = line.fuel_w(point.electrical_w)
        yield Lesson("fuel", str(job.set.set_class), str(fuel), estimate, point.fuel_w)


def _turns(job: Job, resolved: Machine) -> Iterator[Lesson]:
    shaft = job.set.shaft_power.value if job.set.shaft_power else None
    for key, site in job.sites.items():
        for fuel, here in fuels_here(job.set, site, key).items():
            record = job.metering.get(f"{key}-{fuel}")
            if record is not None and record.locked is not None and record.proven:
                power = by_power(resolved, shaft, here.fuel, job.set.barrels)
                kind = str(job.set.set_class)
                yield Lesson("turns", kind, str(fuel), power.value, record.locked.value)


def _jets(job: Job) -> Iterator[Lesson]:
    numbers = job.set.carburetor.jets
    fitted, at = numbers.fitted.number, numbers.fitted_for
    if fitted is None or at is None or fitted.origin is not Origin.MEASURED:
        return
    wanted = by_density_at(job, at.value)
    if wanted is not None:
        kind = str(job.set.set_class)
        yield Lesson("jet", kind, str(FuelKey.GASOLINE), wanted, fitted.value)


def fuels_asked(plan: Plan) -> tuple[FuelOutput, ...]:
    """What the set puts out on each fuel that is at hand or has a train; none unrated."""
    output = plan.of(output_here)
    return () if output is None else tuple(
        one for one in output.fuels if one.at_hand or str(one.fuel.key) in plan.job.trains
    )  # fmt: skip


def estimated_output(plan: Plan) -> OutputSection | None:
    """Output per fuel as estimated, with what the shop's own sets taught beside it."""
    job = plan.job
    found = output_section(job.set, plan.site, job.site, job.load, job.schools)
    return None if found is None else beside_shop(found, job.set.set_class, plan.shop)


def output_here(plan: Plan) -> OutputSection | None:
    """Output per fuel, measured where it was; None until the set has a running rating."""
    estimated = plan.of(estimated_output)
    return None if estimated is None else with_measured(estimated, plan.job)


def lessons_taught(plan: Plan) -> tuple[Lesson, ...]:
    """What the job measured against what was estimated, for the shop's library."""
    return lessons_of(plan.job)
