"""Metering section: for each gas of the job, where to start, the sweep judged, what is proven."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from gentle_ember.core.base.cached import remember
from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rival
from gentle_ember.core.estimates.defaults import Machine, fuels_here, machine, planned_load
from gentle_ember.core.estimates.first_settings import by_power
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import blank, facts_of
from gentle_ember.core.job.job import ApplianceKind, Job
from gentle_ember.core.job.metering import Metering, Ran, Signal, SweepReading, Taken
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics.fuels import KEYS, FuelKey, fuel_name
from gentle_ember.core.physics.mixture import RIGHT, Metered
from gentle_ember.core.shop import Shop
from gentle_ember.core.stage import TO_DO, Act, Item, Plan
from gentle_ember.core.stages.first_start.metering import screw_start as start
from gentle_ember.core.stages.first_start.metering.costs import (
    LEAN_DROPPED,
    Cost,
    costs,
    lean_drop,
)
from gentle_ember.core.stages.first_start.metering.sweep import (
    CHECKS,
    Span,
    SweepVerdict,
    judge,
    on_screw,
)
from gentle_ember.core.stages.fuel_path.mixture import (
    FixedJet,
    fixed_jet,
    jet_by_probe,
    metered,
)
from gentle_ember.core.stages.fuel_path.trains import TrainSection, trains_to_build

LAST_TURN, ROOM = 6.0, 2.5
"""Turns a screw has where nobody said: six, or so many times where the sweep begins."""
SIGMA_OF: dict[Signal, float] = {
    Signal.OUTPUT: 0.005,
    Signal.SPEED: 0.003,
    Signal.THROTTLE: 0.02,
}
"""Standard error of a reading by eye, as a share of it."""
LOAD_SHARE = 0.80
"""A sweep counts at this share of the fuel's output here, or more."""
LEAST_TURN = 0.01
"""A screw that moved by as much is another setting: it is looked at anew [turns]."""
SWEEP = Method(
    "load-screw-sweep",
    "Sweep of the load screw",
    "Gaussian process over ln(turns) through the readings; ends where it gives 98 % of its best",
    "Matern 5/2 about a parabola, lengths by evidence; see the page",
    "metering",
)


BY_PROBE = Method(
    "load-screw-probe", "Load screw by a probe", "turns = mean of turns · λ / 0.95",
    "gas goes with the screw's opening, so turns · λ stays; 0.92 where motors are started; read "
    "once where it says", "metering",
)  # fmt: skip


LEAN_AND_MOTORS = (
    "Lean drop leaves nothing for a motor's start: this set must start motors, so the plateau's "
    "setting, toward rich, is the safer one."
)


@remember(32)
def _judged(
    readings: tuple[Taken, ...],
    signal: Signal,
    start_turns: float,
    most: float,
    motors: bool,
    limit: float | None,
    step: float,
    again: bool,
) -> SweepVerdict:
    """A sweep judged once, however often the page asks while other things are typed."""
    return judge(
        readings, signal, start_turns, most, motors=motors, limit=limit, step=step, again=again
    )


@dataclass(frozen=True)
class GasMetering:
    """One gas on this site: where to start, the readings, the verdict, what is proven."""

    fuel: FuelKey
    name: str
    key: str
    record: Metering
    screw: bool
    """Whether it has a load screw to be set; multi-fuel carburetors meter by themselves."""
    jet: FixedJet | None
    """The gas jet it has in place of a screw."""
    jet_probe: Figure | None
    """The hole asked for by the λ read on that jet."""
    barrels: int
    starts: tuple[Figure, ...]
    start: Figure | None
    most: float
    motors: bool
    least_load: Figure | None
    expected: Figure | None
    """What this gas is expected to give here, steady."""
    taken: tuple[tuple[str, Taken], ...]
    limit: float | None
    """What alternator or inverter can give [W]."""
    throat: Metered | None
    """For λ at half load; None where nothing is metered by a throat."""

    @cached_property
    def costs(self) -> tuple[Cost, ...]:
        """The setting and the leanest that will do, side by side, once there is a setting."""
        curves, place = self.verdict.curves, self.mark
        if curves is None or place is None:
            return ()
        return costs(self.fuel, curves, place, self.readings, self.throat)

    @property
    def readings(self) -> tuple[Taken, ...]:
        """The readings that can be judged."""
        return tuple(one for _, one in self.taken)

    @property
    def mark(self) -> float | None:
        """Where it is to be locked, as a hand sets it, by the school that was chosen [turns]."""
        found = self.setting
        return None if found is None else on_screw(found.value, plateau=self.verdict.plateau)

    @cached_property
    def verdict(self) -> SweepVerdict:
        """The sweep judged; only where it is looked at, for it takes its time."""
        if self.start is None:
            return SweepVerdict()
        record, step = self.record, self.record.step.value if self.record.step else 0.0
        return _judged(
            self.readings, record.signal, self.start.value, self.most, self.motors, self.limit,
            step, record.locked is None,
        )  # fmt: skip

    @cached_property
    def lean(self) -> Figure | None:
        """The lean end, where it was seen."""
        return self._figure("lean", "lean end", self.verdict.lean)

    @cached_property
    def rich(self) -> Figure | None:
        """The rich end, where it was seen."""
        return self._figure("rich", "rich end", self.verdict.rich)

    @cached_property
    def setting(self) -> Figure | None:
        """Where to lock the screw, once another reading would not change it."""
        found = self._figure("setting", "set at", self.verdict.setting)
        curves = self.verdict.curves
        if found is None or curves is None:
            return found
        loss = self.verdict.loss
        told = () if loss is None else (
            Input("output it may lose for not being known better", loss, "share"),
            Input("drift from one reading to the next", curves.drift, "share"),
        )  # fmt: skip
        method = BY_PROBE if self.verdict.by_lambda else SWEEP
        leaned = lean_drop(curves, self.readings)
        inputs = (*told, *found.inputs)
        if self.record.set_by == "plateau":
            rivals = (Rival(LEAN_DROPPED.name, leaned, LEAN_DROPPED.formula),)
            return replace(found, method=method, inputs=inputs, rivals=rivals)
        half = (found.band.high - found.band.low) / 2
        return replace(
            found, value=leaned, method=LEAN_DROPPED, inputs=inputs,
            band=Band(max(0.0, leaned - half), leaned + half),
            rivals=(Rival(method.name, found.value, method.formula),),
            warnings=(LEAN_AND_MOTORS,) if self.motors else (),
        )  # fmt: skip

    def _figure(self, name: str, label: str, one: Span | None) -> Figure | None:
        if one is None or not one.seen:
            return None
        band = Band(max(0.0, one.turns - 2 * one.sigma), one.turns + 2 * one.sigma)
        return Figure(
            f"sweep.{name}", label, one.turns, "turns", SWEEP, band,
            tuple(_inputs(self.key, self.record)),
            narrows=("another reading where it is asked for",),
        )  # fmt: skip

    @property
    def jet_read(self) -> SweepReading | None:
        """What was read under load on the jet that is in."""
        return self.record.readings.get(self.jet.part.key) if self.jet else None

    @property
    def jet_says(self) -> str:
        """What keeps the jet that is in from being proven; empty once it is."""
        if self.jet is None:
            return ""
        read, least, size = self.jet_read, self.least_load, self.jet.part.name
        if read is None or read.output is None:
            return f"{size} not proven under load on this site"
        if Origin.SIMULATED in {fact.origin for _, fact in facts_of(read)}:
            return f"{size} read on the simulated bench only"
        if read.ran is not Ran.SMOOTH:
            return f"{size}: it ran {read.ran} under load"
        if least is not None and read.output.value < least.value:
            return f"{size} read below {least.value:,.0f} W: too little load to tell"
        if read.lam is None and not read.plug:
            return f"{size}: neither λ nor the plug read under load"
        lam, (low, high) = read.lam.value if read.lam else 1.0, RIGHT
        told = f"λ {lam:.2f} under load" if read.lam else f"the plug {read.plug} after load"
        # Toward rich wherever probe and plug disagree.
        if lam > high or read.plug == "light":
            return f"{size} too small: {told} is lean"
        if lam < low or read.plug == "sooty":
            return f"{size} too large: {told} is rich"
        return ""

    @property
    def wanted_checks(self) -> tuple[str, ...]:
        """What is looked at after the setting, on this set."""
        by_jet = ("no_load", "eco", "load_step", *(("balance",) if self.barrels > 1 else ()))
        if self.jet is not None:
            return by_jet
        return tuple(
            key for key in CHECKS
            if (key != "balance" or self.barrels > 1) and (self.screw or key in ("no_load", "eco"))
        )  # fmt: skip


def metering_section(
    job: Job, output_of: Mapping[FuelKey, Figure], path: Mapping[str, TrainSection], shop: Shop
) -> tuple[GasMetering, ...]:
    """Every gas of the job's trains on the site looked at.

    Args:
        job: the job.
        output_of: steady output here, by fuel.
        path: the trains, computed.
        shop: what the shop learned on other sets.
    """
    resolved = machine(job.set)
    if resolved is None:
        return ()
    return tuple(
        _of_gas(job, FuelKey(name), section, resolved, output_of, shop)
        for name, section in path.items()
        if name in KEYS and name != FuelKey.GASOLINE
    )


def _of_gas(
    job: Job,
    fuel: FuelKey,
    section: TrainSection,
    resolved: Machine,
    output_of: Mapping[FuelKey, Figure],
    shop: Shop,
) -> GasMetering:
    key = f"{job.site}-{fuel}"
    record = job.metering.get(key, blank(Metering))
    gas = section.case.asked.demand.fuel
    kinds = {one.part.kind for one in section.case.parts if one.part is not None}
    screw = PartClass.LOAD_SCREW in kinds
    barrels = job.set.barrels
    most = record.most.value if record.most else LAST_TURN
    starts = tuple(_starts(job, key, record, section, resolved, barrels, most)) if screw else ()
    if starts:
        own = shop.figure(
            starts[0], "turns", job.set.set_class, fuel, "start.shop", "by the shop's own sets"
        )
        starts = (*starts, own) if own else starts
    chosen = next((one for one in starts if one.key == f"start.{record.school}"), None)
    begun = chosen or (starts[0] if starts else None)
    if record.most is None and begun is not None:
        # A last turn nobody has read must not end a sweep: the screw may well go on.
        most = max(most, math.ceil(ROOM * begun.value))
    taken = tuple(_taken(record))
    motors = starts_motors(job, resolved.rated.value)
    jet = fixed_jet(section.case)
    read = record.readings.get(jet.part.key) if jet else None
    probe = None
    if jet is not None and read is not None and read.lam is not None:
        at = f"metering.{key}.readings.{jet.part.key}.lam"
        probe = jet_by_probe(section.case, jet, read.lam, at)
    expected = output_of.get(fuel)
    return GasMetering(
        fuel, gas.name, key, record, screw, jet, probe, barrels, starts, begun, most, motors,
        _least_load(expected), expected, taken, resolved.rated.value, metered(section.case),
    )  # fmt: skip


MOTORS = frozenset((
    ApplianceKind.FRIDGE, ApplianceKind.PUMP, ApplianceKind.WINDOW_AC, ApplianceKind.MOTOR_TOOL,
))  # fmt: skip
"""Loads that start harder than they run; one with a soft starter does not."""


def starts_motors(job: Job, rated_w: float) -> bool:
    """Whether the set must start motors, for which it is set toward rich.

    As told by the largest start against the planned load, else by what is listed.
    """
    if job.load.largest_start is not None:
        return job.load.largest_start.value > 1.3 * planned_load(job.load, rated_w).value
    return any(one.kind in MOTORS and one.must_run for one in job.load.appliances.values())


def _starts(
    job: Job,
    key: str,
    record: Metering,
    section: TrainSection,
    resolved: Machine,
    barrels: int,
    most: float,
) -> Iterator[Figure]:
    demand = section.case.asked.demand
    shaft = job.set.shaft_power.value if job.set.shaft_power else None
    yield by_power(resolved, shaft, demand.fuel, barrels)
    bore = next(
        (one.part.bore_m for one in section.case.parts
         if one.part is not None and one.part.kind is PartClass.LOAD_SCREW), None,
    )  # fmt: skip
    opening = next(
        (one.part.opening_pa for one in section.case.parts
         if one.part is not None and one.part.kind is PartClass.DEMAND), None,
    )  # fmt: skip
    signals = section.case.ladder.signals
    if bore and signals:
        left = signals["full"] - (opening or 0.0)
        if left > 0:
            mass = demand.mass("full", upper=False)
            yield start.by_area(mass, demand.gas_density, left, bore, most, barrels)
    if record.preset is not None:
        path = f"metering.{key}.preset"
        yield start.by_preset(record.preset.value, record.preset.origin, path)
    here = fuels_here(job.set, job.sites[job.site], job.site)
    others = (
        (f"metering.{name}.locked", kind, here[kind].fuel, one)
        for name, one in job.metering.items()
        for kind in FuelKey
        if name == f"{job.site}-{kind}"
    )
    yield from start.from_other(others, demand.fuel)


def _taken(record: Metering) -> Iterator[tuple[str, Taken]]:
    """Readings that can be judged, in the order they were taken."""
    for key, one in record.readings.items():
        value = one.read_by(record.signal)
        if one.turns is None or (value is None and one.ran is not Ran.DIED):
            continue
        shown = 0.0 if value is None else value.value
        sigma = one.sigma * shown if one.sigma else SIGMA_OF[record.signal] * shown
        if record.step is not None and record.signal is Signal.OUTPUT:
            # A load in steps is read to half of one: evenly spread over it.
            sigma = math.hypot(sigma, record.step.value / math.sqrt(12))
        lam = one.lam.value if one.lam else None
        yield key, Taken(one.turns.value, shown, sigma, one.ran, lam)


def _inputs(key: str, record: Metering) -> Iterator[Input]:
    """Every reading, as it stands in the working."""
    for name, one in record.readings.items():
        if one.turns is None:
            continue
        label, path = f"at {one.turns.value:.2f} turns", f"metering.{key}.readings.{name}"
        value = one.read_by(record.signal)
        if value is None:
            yield Input(label, str(one.ran), "text", one.turns.origin, path)
        else:
            yield Input(label, value.value, KINDS_OF[record.signal], value.origin, path)


KINDS_OF = {Signal.OUTPUT: "power", Signal.SPEED: "speed", Signal.THROTTLE: "share"}

LEAST_LOAD = Method(
    "least-load", "Least load of a sweep", "0.80 × this fuel's output here",
    "a sweep, like a load test, counts only near what the set gives", "metering",
)  # fmt: skip


def _least_load(expected: Figure | None) -> Figure | None:
    if expected is None:
        return None
    value = LOAD_SHARE * expected.value
    return Figure(
        "sweep.load", "load it with", value, "power", LEAST_LOAD, Band(value, value),
        (Input(expected.label, expected.value, "power"),), estimated=expected.estimated,
    )  # fmt: skip


def metering_items(found: tuple[GasMetering, ...]) -> Iterator[Item]:
    """What keeps the first start from being signed off: gases not set, not proven, not checked."""
    for one in found:
        path = f"metering.{one.key}"
        if one.screw and one.record.locked is None:
            text = f"{one.name}: load screw not set and locked on this site"
            yield Item(f"{path}.lock", TO_DO, text, "first_start", path, holds=True)
        elif one.screw and not one.record.proven:
            where = "on the simulated bench only" if one.record.simulated else "without a reading"
            text = f"{one.name}: set {where}, not on the machine"
            yield Item(f"{path}.lock", TO_DO, text, "first_start", path, holds=True)
        elif one.jet_says:
            text = f"{one.name}: {one.jet_says}"
            yield Item(f"{path}.jet", TO_DO, text, "first_start", path, holds=True)
        left = [key for key in one.wanted_checks if not _looked(one.record, key)]
        bad = [key for key in one.wanted_checks if look_state(one.record, key) == "bad"]
        if bad:
            text = f"{one.name}, not good: {', '.join(CHECKS[key].lower() for key in bad)}"
            yield Item(f"{path}.bad", TO_DO, text, "first_start", path, holds=True)
        if left and (one.record.locked is not None or not (one.screw or one.jet_says)):
            text = (
                f"{one.name}: {len(left)} of {len(one.wanted_checks)} looks after the setting open"
            )
            yield Item(f"{path}.checks", TO_DO, text, "first_start", path, holds=True)


def looked_before(record: Metering, key: str) -> float | None:
    """Where the screw was when it was looked at, if it was turned since [turns]."""
    one, locked = record.checks.get(key), record.locked
    if one is None or not one.state or one.at is None or locked is None:
        return None
    return one.at if abs(one.at - locked.value) >= LEAST_TURN else None


def look_state(record: Metering, key: str) -> Literal["", "good", "bad"]:
    """What a look after the setting found; nothing once the screw was turned again."""
    one = record.checks.get(key)
    return "" if one is None or looked_before(record, key) is not None else one.state


def _looked(record: Metering, key: str) -> bool:
    simulated_look = key in record.checks and record.checks[key].origin is Origin.SIMULATED
    return look_state(record, key) != "" and not simulated_look


def gas_metering(plan: Plan) -> tuple[GasMetering, ...]:
    """Every gas on this site: where to start, the sweep judged, what is proven."""
    output = plan.of(output_here)
    steady = {one.fuel.key: one.running for one in (output.fuels if output else ())}
    return metering_section(plan.job, steady, plan.of(trains_to_build), plan.shop)


def metering_done(before: Job, plan: Plan) -> Iterator[Act]:
    """What was newly read of the machine, and screws newly locked."""
    for key, record in plan.job.metering.items():
        site, _, fuel = key.rpartition("-")
        was = before.metering.get(key, blank(Metering))
        name = fuel_name(fuel)
        for place, one in record.readings.items():
            if _measured(one) - _measured(was.readings.get(place, blank(SweepReading))):
                at = f"metering.{key}.readings.{place}"
                yield Act(at, f"No reading on {name}", fuel, site=site)
        for field in ("locked", "left", "right"):
            now, then = getattr(record, field), getattr(was, field)
            if now is not None and now != then and now.origin is not Origin.SIMULATED:
                at = f"metering.{key}.{field}"
                yield Act(at, f"No setting on {name}", fuel, site=site, emptied=Change(at, None))


def _measured(one: SweepReading) -> set[tuple[str, float]]:
    """What a reading has of the machine itself; the simulated bench may run whenever one likes."""
    return {(name, fact.value) for name, fact in facts_of(one)
            if fact.origin is not Origin.SIMULATED}  # fmt: skip
