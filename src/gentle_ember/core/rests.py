"""What a pass rests on: the assumed facts of which one alone, at its worst end, makes it a stop.

Everything that holds now is worked out again with one assumed fact at a time at the end it may
reasonably have (fuel used stands at its upper end anyway); where a verdict turns, the place between
is sought at which it does. The nearer that place, the sooner the fact is measured.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from gentle_ember.core.base.errors import ChangeError
from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rounding, exact
from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.estimates.defaults import (
    EFFICIENCY,
    RESERVE,
    STARTING,
    machine,
    must_run,
    planned_load,
    site_air,
    starting_w,
)
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.change import Change, Document, apply
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.handling import FuelSource, comes_from
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.site import Gas
from gentle_ember.core.physics.fuels import NAMES, NATURAL_GAS_HHV_J_M3, NATURAL_GAS_SG, FuelKey
from gentle_ember.core.route import STAGES
from gentle_ember.core.stage import Plan, Severity
from gentle_ember.core.stages.fuel_path.case import (
    CYLINDER_DISTANCE_M,
    STUB_DISTANCE_M,
    TANK_DEPTH_M,
    TANK_DISTANCE_M,
    gas_of,
)
from gentle_ember.core.stages.fuel_path.ladder import DIGESTER_PA, STUB_PA
from gentle_ember.core.stages.fuel_path.trains import trains_to_build

TURNS = Method(
    "rests-on", "Where a verdict turns",
    "the job worked out again with this fact alone at its worst end, then between",
    "one fact at a time; the ends are what is usual, not what is possible", "rests-on",
)  # fmt: skip
HALVINGS = 4
"""Times the span is halved to find where a verdict turns."""
JUDGED = frozenset(("intake", "method", "fuel_path", "load_test"))
"""Stages whose stops follow from facts; those of the others from what was done and seen."""
TANK_RISE_M = 0.3


@dataclass(frozen=True, slots=True)
class Assumed:
    """A fact nobody measured: what is taken for it, and the ends it may reasonably have.

    `path` is where it is told; `at` is what is changed to try an end, the same mostly.
    """

    path: str
    label: str
    kind: str
    value: float
    ends: tuple[float, ...]
    at: str = ""


@dataclass(frozen=True, slots=True)
class Rests:
    """A verdict that rests on an assumed fact: where it turns, and what it turns into."""

    fact: Assumed
    end: float
    """The worst end that was tried."""
    turns_at: float
    """The value nearest what is taken at which the verdict is another [SI]."""
    nearness: float
    """Share of the way from what is taken to the worst end at which it turns [1]."""
    stops: tuple[str, ...]
    """What stops then, in sentences."""

    @property
    def above(self) -> bool:
        """Whether it turns above what is taken, or below."""
        return self.turns_at > self.fact.value

    @property
    def figure(self) -> Figure:
        """Where it turns with its working, never shown farther off than it is."""
        fact, way = self.fact, Rounding.DOWN if self.above else Rounding.UP
        return Figure(
            f"rests.{fact.path}", fact.label, self.turns_at, fact.kind, TURNS,
            exact(self.turns_at),
            (Input("taken", fact.value, fact.kind, Origin.ASSUMED, fact.path),
             Input("worst it may well be", self.end, fact.kind, Origin.ASSUMED),
             Input("share of the way between the two", self.nearness, "share")),
            rounding=way, estimated=True, narrows=("measuring it",),
        )  # fmt: skip


def assumed_facts(job: Job) -> Iterator[Assumed]:
    """Facts the verdicts on the site looked at rest on and nobody has told or measured."""
    for parts in (_of_set, _of_air, _of_sources, _of_load):
        for one in parts(job):
            # What is taken may be the worst end already.
            ends = tuple(end for end in one.ends if end != one.value)
            if ends:
                yield replace(one, ends=ends)


def _open(fact: Fact | None) -> bool:
    return fact is None or fact.origin is Origin.ASSUMED


def _of_set(job: Job) -> Iterator[Assumed]:
    one, found = job.set, machine(job.set)
    if found is None:
        return
    if one.shaft_power is not None and _open(one.alternator_efficiency):
        yield Assumed("set.alternator_efficiency", "Alternator efficiency", "share", EFFICIENCY,
                      (0.74,))  # fmt: skip
    if one.shaft_power is None and _open(one.reserve_ratio):
        yield Assumed("set.reserve_ratio", "Engine reserve", "ratio", RESERVE, (0.88,))
    if _open(one.rating_temperature):
        yield Assumed("set.rating_temperature", "Rated at temperature", "temperature",
                      found.rating_temperature.value, (288.15, 313.15))  # fmt: skip
    if _open(one.starting):
        yield Assumed("set.starting", "Starting rating", "power", found.starting.value,
                      (found.rated.value,))  # fmt: skip
    if _open(one.carburetor.jetted_at) and one.carburetor.jets.fitted_for is None:
        yield Assumed("set.carburetor.jetted_at", "Jetted for", "elevation",
                      found.jetted_at.value, (1600.0,))  # fmt: skip


def _of_air(job: Job) -> Iterator[Assumed]:
    at, site = f"sites.{job.site}", job.sites[job.site]
    here = site_air(site, job.site)
    if _open(site.elevation):
        yield Assumed(f"{at}.elevation", "Elevation", "elevation", here.elevation.value, (1600.0,))
    if _open(site.hottest):
        yield Assumed(f"{at}.hottest", "Hottest day", "temperature", here.hottest.value, (316.15,))
    if _open(site.coldest):
        yield Assumed(f"{at}.coldest", "Coldest night", "temperature", here.coldest.value,
                      (248.15,))  # fmt: skip


def _of_sources(job: Job) -> Iterator[Assumed]:
    at, site = f"sites.{job.site}", job.sites[job.site]
    for key, gas in site.gases.items():
        if str(gas.kind) in job.trains:
            yield from _of_gas(
                f"{at}.gases.{key}", gas, first=gas is gas_of(site, FuelKey(gas.kind))
            )
    if any(comes_from(fuel, FuelSource.CYLINDER) for fuel in job.trains):
        for key, one in site.cylinders.items():
            if _open(one.distance):
                label = f"Distance to the set, {one.size} lb cylinder"
                yield Assumed(f"{at}.cylinders.{key}.distance", label, "length",
                              CYLINDER_DISTANCE_M, (1.0, 8.0))  # fmt: skip
    if FuelKey.GASOLINE in job.trains:
        tank = site.remote_tank
        for field, label, value, ends in (
            ("rise", "Outlet above the carburetor", TANK_RISE_M, (0.05, 1.5)),
            ("depth", "Fuel depth when full", TANK_DEPTH_M, (0.05, 0.6)),
            ("distance", "Hose from tank to set", TANK_DISTANCE_M, (0.5, 4.0)),
        ):
            if _open(getattr(tank, field)):
                yield Assumed(f"{at}.remote_tank.{field}", label, "length", value, ends)


def _of_gas(at: str, gas: Gas, *, first: bool) -> Iterator[Assumed]:
    natural = comes_from(gas.kind, FuelSource.HOUSE)
    if not first:
        return
    usual = STUB_PA if natural else DIGESTER_PA
    if _open(gas.pressure):
        yield Assumed(f"{at}.pressure", "Supply pressure", "pressure", usual,
                      (0.5 * usual, 2.0 * usual))  # fmt: skip
    elif gas.pressure is not None and natural and not gas.house.sections:
        read = gas.pressure.value
        low = max(0.0, read - 1.0 * INCH_WC_PA)
        yield Assumed(f"{at}.house", "Pressure at the stub at flow, all appliances on", "pressure",
                      read, (low,), f"{at}.pressure")  # fmt: skip
    if _open(gas.distance):
        yield Assumed(f"{at}.distance", "Distance to the stub", "length", STUB_DISTANCE_M,
                      (3.0, 30.0))  # fmt: skip
    if natural:
        if _open(gas.hhv):
            yield Assumed(f"{at}.hhv", "Heating value (HHV)", "heating_value_volume",
                          NATURAL_GAS_HHV_J_M3, (35.4e6, 41.0e6))  # fmt: skip
        if _open(gas.specific_gravity):
            yield Assumed(f"{at}.specific_gravity", "Specific gravity", "ratio", NATURAL_GAS_SG,
                          (0.56, 0.68))  # fmt: skip
    elif _open(gas.methane):
        yield Assumed(f"{at}.methane", "Methane share", "share", 0.60, (0.50, 0.70))


def _of_load(job: Job) -> Iterator[Assumed]:
    found = machine(job.set)
    if found is None:
        return
    if _open(job.load.planned) and not must_run(job.load):
        rated = found.rated.value
        yield Assumed("load.planned", "Planned load", "power",
                      planned_load(job.load, rated).value, (0.9 * rated,))  # fmt: skip
    if job.load.largest_start is not None:
        return
    for key, one in job.load.appliances.items():
        if one.must_run and one.running and _open(one.starting) and STARTING[one.kind] > 1.0:
            label = f"Starting watts, {one.name or 'a motor'}"
            value = starting_w(one)
            yield Assumed(f"load.appliances.{key}.starting", label, "power", value, (1.5 * value,))


def what_it_rests_on(plan: Plan) -> tuple[Rests, ...]:
    """Assumed facts that alone turn something that holds into a stop, the nearest first."""
    if not plan.job.trains and not plan.job.choice.methods:
        return ()
    document = plan.job.model_dump(mode="json")
    now = frozenset(_stops(plan))
    found = []
    for fact in assumed_facts(plan.job):
        for end in fact.ends:
            there = _at(plan, document, fact, end)
            new = {} if there is None else _new(there, now)
            if new:
                turns_at, share = _turn(plan, document, fact, end, now)
                found.append(Rests(fact, end, turns_at, share, tuple(new.values())))
    return tuple(sorted(found, key=lambda one: one.nearness))


def _stops(plan: Plan) -> dict[str, str]:
    """What stops of a plan, by key: by its facts, and by what it can't carry or start."""
    found = {
        one.key: one.text
        for stage in STAGES if stage.key in JUDGED
        for one in stage.cautions(plan) if one.severity is Severity.STOP
    }  # fmt: skip
    output = plan.of(output_here)
    wanted = set(plan.of(trains_to_build))
    for one in output.fuels if output else ():
        fuel = one.fuel.key
        if fuel not in wanted:
            continue
        if not one.carries_planned:
            found[f"carries.{fuel}"] = f"It can't carry the planned load on {NAMES[fuel]}."
        if one.starts_largest is False:
            found[f"starts.{fuel}"] = f"It can't start the largest load on {NAMES[fuel]}."
    return found


def _new(plan: Plan, now: frozenset[str]) -> dict[str, str]:
    return {key: text for key, text in _stops(plan).items() if key not in now}


def _at(plan: Plan, document: Document, fact: Assumed, value: float) -> Plan | None:
    """The plan with a fact at a value; None where the job would contradict itself then."""
    told = {"value": value, "origin": "assumed", "typed": ""}
    try:
        changed, _ = apply(document, [Change(fact.at or fact.path, told)])
        job = Job.model_validate(changed)
    except (ChangeError, ValueError):
        return None
    return Plan(job, plan.catalog, plan.shop, plan.today)


def _turn(
    plan: Plan, document: Document, fact: Assumed, end: float, now: frozenset[str]
) -> tuple[float, float]:
    """Where between what is taken and an end the verdict turns, on the side that stops."""
    good, bad = 0.0, 1.0
    for _ in range(HALVINGS):
        middle = (good + bad) / 2
        there = _at(plan, document, fact, fact.value + middle * (end - fact.value))
        if there is not None and _new(there, now):
            bad = middle
        else:
            good = middle
    return fact.value + bad * (end - fact.value), bad
