"""Load test section: per fuel what is expected here, what to switch on, each run judged."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rounding, exact
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.defaults import Machine, heating_here, leg_volts, legs_of, machine
from gentle_ember.core.estimates.jets import jets_at_hand
from gentle_ember.core.estimates.measured import estimated_output
from gentle_ember.core.estimates.run_times import run_times
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import Fact, blank, facts_of
from gentle_ember.core.job.handling import FACTORY_GAS, FuelSource, comes_from
from gentle_ember.core.job.job import ApplianceKind, Job
from gentle_ember.core.job.load_test import LoadTest, Run
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.physics.fuels import KEYS, NAMES, FuelKey, fuel_name
from gentle_ember.core.stage import (
    NOTED,
    TO_DO,
    Act,
    Caution,
    Doing,
    Item,
    Plan,
    Severity,
    confirm_item,
)
from gentle_ember.core.stages.fit.smell import taken_down
from gentle_ember.core.stages.fuel_path.trains import trains_to_build
from gentle_ember.core.stages.load_test.bank import LEAST, Bank, BankLoad, plan_bank
from gentle_ember.core.stages.load_test.plug import LEAST_S
from gentle_ember.core.stages.load_test.runs import RunJudged
from gentle_ember.core.stages.load_test.watch import Nameplate
from gentle_ember.core.stages.prove_tight.proof import factory_gas

MOST_S = 30 * 60.0
STEADY = (ApplianceKind.RESISTIVE, ApplianceKind.ELECTRONIC)
LEAST_LOAD = Method(
    "load-test-least", "Least load of a test", f"{LEAST:.2f} × this fuel's output here",
    "a load test counts only near what the set gives on this fuel", "load-test",
)  # fmt: skip


@dataclass(frozen=True)
class FuelLoadTest:
    """One fuel's load test on this site."""

    fuel: FuelKey
    name: str
    key: str
    record: LoadTest
    expected: Figure
    least: Figure
    plate: Nameplate
    flow: Figure | None
    """Fuel expected at full output."""
    loads: tuple[BankLoad, ...]
    holds: bool
    """Whether the stage waits for it."""
    heating: Fact | None
    """Heating value of a piped gas as the site tells it, for a meter that is clocked."""
    runs: tuple[RunJudged, ...]

    @cached_property
    def bank(self) -> Bank:
        """What to switch on."""
        without = set(self.record.without)
        loads = tuple(one for one in self.loads if one.key not in without)
        return plan_bank(loads, self.expected.value, self.plate.rating_w, self.plate.legs)

    @property
    def last(self) -> RunJudged | None:
        """The run that stands."""
        return self.runs[-1] if self.runs else None


def load_tests(
    job: Job,
    catalog: Catalog,
    expected: Mapping[FuelKey, Figure],
    flows: Mapping[FuelKey, Figure],
    fuels: tuple[str, ...],
) -> tuple[FuelLoadTest, ...]:
    """Every fuel to be tested on the site looked at.

    Args:
        job: the job.
        catalog: for what the shop has to load with, and the jets at hand.
        expected: steady output here as estimated, by fuel.
        flows: fuel expected at that output, by fuel.
        fuels: the fuels of the job's trains.
    """
    resolved = machine(job.set)
    if resolved is None or not (fuels or job.choice.methods):
        return ()
    wanted = [FuelKey(one) for one in fuels if one in KEYS]
    rejet = "rejet" in job.choice.methods
    if FuelKey.GASOLINE not in wanted and (job.wants.keep_gasoline or rejet):
        wanted.append(FuelKey.GASOLINE)
    factory = factory_gas(job, FACTORY_GAS) and bool(job.sites[job.site].cylinders)
    if factory and job.wants.propane:
        wanted.append(FACTORY_GAS)
    return tuple(
        _of_fuel(job, catalog, fuel, resolved, expected[fuel], flows.get(fuel),
                 holds=rejet or fuel in fuels or (factory and fuel is FACTORY_GAS))
        for fuel in wanted
        if fuel in expected
    )  # fmt: skip


def _of_fuel(
    job: Job,
    catalog: Catalog,
    fuel: FuelKey,
    resolved: Machine,
    expected: Figure,
    flow: Figure | None,
    *,
    holds: bool,
) -> FuelLoadTest:
    key = f"{job.site}-{fuel}"
    record = job.load_tests.get(key, blank(LoadTest))
    legs = legs_of(job.set)
    hertz = job.set.hertz.value if job.set.hertz else 60.0
    plate = Nameplate(
        resolved.rated.value, leg_volts(job.set), hertz, legs, job.set.set_class in INVERTERS,
        fuel is not FuelKey.GASOLINE,
        job.set.rated_speed.value if job.set.bare and job.set.rated_speed else None,
        _by_jet(job, fuel),
    )  # fmt: skip
    value = LEAST * expected.value
    least = Figure(
        f"load.{key}.least", "counts from", value, "power", LEAST_LOAD, exact(value),
        (Input(expected.label, expected.value, "power"),), rounding=Rounding.UP,
        estimated=expected.estimated,
    )  # fmt: skip
    jets = jets_at_hand(catalog)
    numbers = job.set.carburetor.jets
    stock = numbers.made_with.value if numbers.made_with else None
    runs = tuple(
        RunJudged(name, run, value, plate, expected, jets, numbers.by_bore, stock)
        for name, run in record.runs.items()
    )
    return FuelLoadTest(
        fuel, NAMES[fuel], key, record, expected, least, plate, flow,
        tuple(_loads(job, catalog, record)), holds,
        heating_here(job.set, job.sites[job.site], job.site, fuel), runs,
    )  # fmt: skip


def _by_jet(job: Job, fuel: FuelKey) -> bool:
    """Whether a fixed jet meters a gas."""
    train = job.trains.get(fuel)
    parts = (job.parts.get(slot.part) for slot in train.slots.values()) if train else ()
    return any(part is not None and part.kind is PartClass.GAS_JET for part in parts)


def _loads(job: Job, catalog: Catalog, record: LoadTest) -> Iterator[BankLoad]:
    """What can be switched on: the shop's, the owner's steady ones, what else was typed."""
    if job.set.bare:
        return
    for part in catalog.shelf.by_class[PartClass.TEST_LOAD]:
        if part.draw_w and part.stock > 0:
            yield BankLoad(part.key, part.name, part.draw_w, part.stock)
    for key, one in job.load.appliances.items():
        if one.running is not None and one.kind in STEADY:
            yield BankLoad(
                f"own-{key}", one.name or "the owner's", one.running.value, 1, one.leg or "any"
            )
    for key, typed in record.loads.items():
        if typed.watts is not None:
            yield BankLoad(f"here-{key}", typed.name or "another", typed.watts.value, 1, typed.leg)


def loads_put_on(before: Job, plan: Plan) -> Iterator[Act]:
    """What was newly read of the machine under load."""
    for key, test in plan.job.load_tests.items():
        site, _, fuel = key.rpartition("-")
        name = fuel_name(fuel)
        known = before.load_tests.get(key, blank(LoadTest)).runs
        for run_key, run in test.runs.items():
            if _read(run) - _read(known.get(run_key, blank(Run))):
                at = f"load_tests.{key}.runs.{run_key}"
                rating = plan.job.set.running
                near = rating is not None and _most(run) > NEAR_RATING * rating.value
                doing = Doing.NEAR_RATING if near else Doing.RUN
                yield Act(at, f"No load on {name}", fuel, doing, site)


def _most(run: Run) -> float:
    """The largest output a run has of the machine itself [W]."""
    facts = [fact for one in run.readings.values() for _, fact in facts_of(one)]
    if run.held:
        facts.append(run.held)
    if all(fact.origin is Origin.SIMULATED for fact in facts):
        return 0.0
    read = [one.watts or 0.0 for one in run.readings.values()]
    return max([run.held.value if run.held else 0.0, *read])


NEAR_RATING = 0.6
"""Share of the running rating above which a new engine is broken in first."""


def smells_noted(before: Job, plan: Plan) -> Iterator[Change]:
    """Gas smelled at load is a smell of gas like any other: it stops the job."""
    for test_key, test in plan.job.load_tests.items():
        known = before.load_tests.get(test_key, blank(LoadTest)).runs
        for run_key, run in test.runs.items():
            was = known.get(run_key, blank(Run)).readings
            for key, one in run.readings.items():
                if one.smell == "gas" and (key not in was or was[key].smell != "gas"):
                    at = f"{test_key}-{run_key}-{key}"
                    yield from taken_down(plan.job, at, one.by, one.on)


def break_in_items(job: Job) -> Iterator[Item]:
    """A new engine is broken in before it is loaded near its rating."""
    if job.set.brand_new:
        text = "new engine broken in: some hours at changing load up to half, oil changed after"
        yield confirm_item(job, "break_in", NOTED, text, "load_test", acts=True)


JOINED = (
    ("load_joined", "how the load is joined on: cords only, or a transfer switch or interlock with "
     "an inlet, set by a licensed electrician where code asks; never a wall outlet"),
    ("neutral", "neutral: bonded in the set or floating, as the transfer switch needs it"),
    ("gfci", "each GFCI trips by its test button; hot, neutral and ground are where they belong"),
)  # fmt: skip
"""What is looked at on the electrical side before somebody else's things are fed."""


def house_items(job: Job) -> Iterator[Item]:
    """What hangs on the same meter still burns as it should while the set is loaded."""
    if any(comes_from(fuel, FuelSource.HOUSE) for fuel in job.trains):
        text = (
            "with the set at full load the house's appliances light, and burn steady; pilots relit"
        )
        yield confirm_item(job, "appliances", NOTED, text, "load_test")


def joined_items(job: Job) -> Iterator[Item]:
    """How the load is connected, confirmed by whoever looked."""
    if not job.choice.methods:
        return
    if job.set.bare:
        text = f"what it drives ({job.set.drives or 'not said'}) is guarded, and can be let go of"
        yield confirm_item(job, "driven_safe", NOTED, text, "load_test", acts=True)
        return
    for key, text in JOINED:
        yield confirm_item(job, key, NOTED, text, "load_test")


def _read(run: Run) -> set[tuple[str, str, float]]:
    """What a run has of the machine itself; the bench may be loaded whenever one likes."""
    found = [("", "held", run.held)] if run.held else []
    found += [
        (key, *fact)
        for key, one in run.readings.items()
        if one.smell != "gas"
        for fact in facts_of(one)
    ]
    return {
        (key, name, fact.value) for key, name, fact in found if fact.origin is not Origin.SIMULATED
    }


def load_items(found: tuple[FuelLoadTest, ...]) -> Iterator[Item]:
    """What keeps the load test from being signed off."""
    for one in found:
        if not one.holds and one.last is None:
            continue
        path, last = f"load_tests.{one.key}", one.last
        if last is None:
            text = f"{one.name}: no load test yet"
        elif last.settled:
            continue
        elif last.simulated:
            text = f"{one.name}: loaded on the simulated bench only"
        elif last.seconds < LEAST_S:
            text = f"{one.name}: {last.seconds / 60:.0f} of {LEAST_S / 60:.0f} minutes at load"
        elif not last.opened:
            text = f"{one.name}: throttle not seen to open under load"
        elif last.record.decided.what == "":
            text = f"{one.name}: not decided what follows from the run"
        elif last.record.decided.what != "keep":
            text = f"{one.name}: decided to change something; the run after it is open"
        elif last.wants_reason:
            text = f"{one.name}: kept although the run advises otherwise: give the reason"
        else:
            text = f"{one.name}: kept, but something of the last reading stops it"
        yield Item(path, TO_DO, text, "load_test", path, holds=True)


def load_cautions(found: tuple[FuelLoadTest, ...]) -> Iterator[Caution]:
    """Stops and cautions of the runs that stand."""
    for one in found:
        last = one.last
        if last is None or last.simulated:
            continue
        path = f"load_tests.{one.key}"
        for number, remark in enumerate(last.now):
            yield Caution(
                f"{path}.{number}", remark.severity, "load_test", f"{one.name}: {remark.text}", path
            )
        if last.advice.stop:
            text = f"{one.name}: {last.advice.reasons[0]} No more load until it is fixed."
            yield Caution(f"{path}.advice", Severity.STOP, "load_test", text, path)


def load_tests_here(plan: Plan) -> tuple[FuelLoadTest, ...]:
    """Every fuel's load test on this site, held against what was estimated."""
    estimated, runs = plan.of(estimated_output), plan.of(run_times)
    expected = {one.fuel.key: one.running for one in (estimated.fuels if estimated else ())}
    flows = {one.fuel: one.flow for one in (runs.full_load if runs else ())}
    return load_tests(plan.job, plan.catalog, expected, flows, tuple(plan.of(trains_to_build)))
