"""First starts of a job: each fuel's gate as looked at, its attempts, advice, what is left."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.base.quantities import percent
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.first_start import Looked, StartLog
from gentle_ember.core.job.handling import FACTORY_GAS
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics.fuels import NAMES, FuelKey, fuel_name
from gentle_ember.core.physics.sequences import Sequence
from gentle_ember.core.stage import TO_DO, Act, Caution, Hold, Item, Plan, Severity
from gentle_ember.core.stages.first_start.advice import NextCheck, advice, still_waits
from gentle_ember.core.stages.first_start.gate import (
    RACES,
    StartLook,
    When,
    choke_stays_open,
    looks,
    no_load_hz,
    plate_hz,
)
from gentle_ember.core.stages.fit.smell import taken_down
from gentle_ember.core.stages.fuel_path.trains import TrainSection, trains_to_build
from gentle_ember.core.stages.method.networks import safe_orders
from gentle_ember.core.stages.prove_tight.proof import factory_gas

AFTER = Method(
    "gasoline-after", "Gasoline before and after", "held afterwards / held before − 1",
    "the same load, the throttle open, before the adapter went in and after", "load-test",
)  # fmt: skip
COSTS = -0.05
"""What an adapter may cost on gasoline before it is looked into [1]."""


SCREWS_APART = 1.25
"""Turns of one barrel's screw over the other's past which a reason is asked for [1]."""


OF_A_RUNNING_SET = {
    "died_after": "No change-over", "no_load": "No reading", "change_over": "No change-over",
    "load_after": "No change-over",
}  # fmt: skip
"""Facts only a running set gives, and how a refusal of each begins."""


@dataclass(frozen=True, slots=True)
class FuelStart:
    """One fuel's first start."""

    fuel: str
    name: str
    log: StartLog
    looks: tuple[tuple[StartLook, Looked], ...]
    advice: NextCheck | None
    holds: bool = True
    """Whether the stage waits for it; gasoline from its own tank is logged on every job, and
    waited for where its jet was changed."""
    trained: bool = True
    """Whether this job has a train for it; else it is a fuel the set always ran on."""

    @property
    def own_tank(self) -> bool:
        """Whether it is gasoline from the set's own tank, as it always ran."""
        return not self.trained and self.fuel == FuelKey.GASOLINE

    def left(self, when: When) -> int:
        """Looks not good yet."""
        return sum(look.when is when and seen.state != "good" for look, seen in self.looks)

    @property
    def lost(self) -> Figure | None:
        """What gasoline gives since the work, against before [1]."""
        before, after = self.log.load_before, self.log.load_after
        if before is None or after is None or before.value <= 0:
            return None
        value = after.value / before.value - 1
        return Figure(
            f"start.{self.fuel}.lost", "gasoline since the work", value, "share", AFTER,
            Band(value - 0.03, value + 0.03),
            (Input("held before", before.value, "power", before.origin),
             Input("held afterwards", after.value, "power", after.origin)),
            rounding=Rounding.DOWN, narrows=("both on one day, warm, by one meter",),
        )  # fmt: skip

    @property
    def ran(self) -> bool:
        """Whether an attempt ran."""
        return any(one.result == "runs" for one in self.log.attempts.values())


def starts(job: Job, path: Mapping[str, TrainSection]) -> tuple[FuelStart, ...]:
    """Every train's first start, and gasoline's from its own tank."""
    found = [_of(job, fuel, section) for fuel, section in path.items()]
    rejet = "rejet" in job.choice.methods
    if FuelKey.GASOLINE not in path and job.choice.methods and (job.wants.keep_gasoline or rejet):
        own = _of(job, FuelKey.GASOLINE, None)
        found.append(replace(own, holds=rejet, trained=False))
    if factory_gas(job, FACTORY_GAS) and job.choice.methods and _propane_here(job):
        made = _of(job, FACTORY_GAS, None)
        found.append(replace(made, holds=job.wants.propane, trained=False))
    return tuple(found)


def _propane_here(job: Job) -> bool:
    return any(site.cylinders for site in job.sites.values())


def _of(job: Job, fuel: str, section: TrainSection | None) -> FuelStart:
    log = job.starts.get(fuel, blank(StartLog))
    wanted = tuple(
        (one, log.looked.get(one.key, blank(Looked))) for one in looks(job, fuel, section)
    )
    tried = list(log.attempts.values())
    open_ = choke_stays_open(job, len(tried))
    jet = section is not None and bool(section.case.of(PartClass.GAS_JET))
    found = advice(tried, choke_open=open_, gas=fuel != "gasoline", jet=jet)
    return FuelStart(fuel, NAMES[FuelKey(fuel)], log, wanted, found)


def attempts_made(before: Job, plan: Plan) -> Iterator[Act]:
    """Attempts newly noted, or noted to have gone otherwise, and change-overs.

    That gas was smelled is no act: it is taken down whatever stands.
    """
    gates = {one.fuel: one for one in plan.of(first_starts)}
    for fuel, log in plan.job.starts.items():
        was, name, gate = before.starts.get(fuel, blank(StartLog)), fuel_name(fuel), gates.get(fuel)
        shut = tuple(_gate_open(gate)) if gate else ()
        tried = {key for key, one in log.attempts.items()
                 if one.result != "smells" and _result(was, key) != one.result}  # fmt: skip
        if tried:
            waits = tuple(_too_soon(was, plan.job, gate)) if gate else ()
            at = f"starts.{fuel}"
            yield Act(at, f"No start on {name}", fuel, own=(*shut, *waits),
                      emptied=Change(f"{at}.attempts", {}))  # fmt: skip
        for field, what in OF_A_RUNNING_SET.items():
            now, then = getattr(log, field), getattr(was, field)
            if now is not None and now != then and now.origin is not Origin.SIMULATED:
                at = f"starts.{fuel}.{field}"
                yield Act(at, f"{what} on {name}", fuel, own=shut, emptied=Change(at, None))


def _gate_open(one: FuelStart) -> Iterator[Hold]:
    """What of a fuel's start gate is not good yet."""
    gate = one.left(When.BEFORE)
    if gate:
        yield Hold(f"{gate} of its start gate open.", f"starts.{one.fuel}")


def _too_soon(was: StartLog, job: Job, one: FuelStart) -> Iterator[Hold]:
    """Why a new attempt comes before the wait after too much prime, or a smell, is over."""
    tried = list(one.log.attempts.items())
    for at, (key, attempt) in enumerate(tried):
        if key in was.attempts or attempt.result == "smells":
            continue
        found = advice(
            [earlier for _, earlier in tried[:at]],
            choke_open=choke_stays_open(job, at), gas=one.fuel != FuelKey.GASOLINE,
        )  # fmt: skip
        why = still_waits(found, attempt)
        if why:
            yield Hold(why, f"starts.{one.fuel}")


def _result(log: StartLog, key: str) -> str:
    return log.attempts[key].result if key in log.attempts else ""


def smells_noted(before: Job, plan: Plan) -> Iterator[Change]:
    """An attempt at which gas was smelled is a smell of gas like any other: it stops the job."""
    for fuel, log in plan.job.starts.items():
        was = before.starts.get(fuel, blank(StartLog))
        for key, one in log.attempts.items():
            if one.result == "smells" and _result(was, key) != "smells":
                yield from taken_down(plan.job, f"{fuel}-{key}", one.by, one.on)


def start_items(found: tuple[FuelStart, ...]) -> Iterator[Item]:
    """What keeps the first start from being signed off."""
    for one in found:
        if not one.holds:
            continue
        path = f"starts.{one.fuel}"
        gate, after = one.left(When.BEFORE), one.left(When.AFTER)
        if not one.ran:
            text = f"{one.name}: not started yet"
            if gate:
                text += f", {gate} of the start gate open"
            yield Item(f"{path}.ran", TO_DO, text, "first_start", path, holds=True)
        elif gate:
            text = f"{one.name}: {gate} of the start gate open"
            yield Item(f"{path}.gate", TO_DO, text, "first_start", path, holds=True)
        if one.ran and after:
            text = f"{one.name}: {after} {'thing' if after == 1 else 'things'} not proven"
            yield Item(f"{path}.after", TO_DO, text, "first_start", path, holds=True)


def start_cautions(job: Job, found: tuple[FuelStart, ...]) -> Iterator[Caution]:
    """Gasoline that gives clearly less since the work; a governor that is off, or lets it race."""
    yield from _unlike(job)
    for one in found:
        yield from _governed(job, one)
        lost = one.lost
        if lost is not None and lost.value < COSTS:
            path = f"starts.{one.fuel}.load_after"
            text = (
                f"On gasoline it holds {percent(-lost.value)} less than before the work: "
                "gasket over the throat, choke, air cleaner, adapter the wrong way round."
            )
            yield Caution(path, Severity.CAUTION, "first_start", text, path)


def _unlike(job: Job) -> Iterator[Caution]:
    """The screws of two barrels set far apart."""
    for key, one in job.metering.items():
        if one.left is None or one.right is None:
            continue
        most, least = (pick(one.left.value, one.right.value) for pick in (max, min))
        if most / least > SCREWS_APART:
            _, _, fuel = key.rpartition("-")
            text = (
                f"On {fuel_name(fuel)} the barrels' screws stand at {one.left.value:.2f} and "
                f"{one.right.value:.2f} turns: they are cut alike within an eighth. An air leak, a "
                "kinked hose or a tired cylinder on one side, or say why in the note of the look."
            )
            path = f"metering.{key}.right"
            yield Caution(path, Severity.CAUTION, "first_start", text, path, fuel=fuel)


def _governed(job: Job, one: FuelStart) -> Iterator[Caution]:
    read, (low, high) = one.log.no_load, no_load_hz(job)
    if read is None or low - 0.3 <= read.value <= high + 0.3:
        return
    races = read.value > RACES * plate_hz(job)
    text = (
        f"On {one.name} it turns at {read.value:.1f} Hz without load, where {low:.0f} to "
        f"{high:.1f} is wanted: "
        + ("stop it, set the governor before anything is plugged in." if races
           else "set the governor, then look at it under load again.")
    )  # fmt: skip
    path = f"starts.{one.fuel}.no_load"
    severity = Severity.STOP if races else Severity.CAUTION
    yield Caution(path, severity, "load_test", text, path, fuel=one.fuel)


def first_starts(plan: Plan) -> tuple[FuelStart, ...]:
    """Every fuel's first start: its gate, its attempts, its proof."""
    return starts(plan.job, plan.of(trains_to_build))


def start_orders(plan: Plan, fuel: str) -> tuple[Sequence, ...]:
    """The safe orders a first start needs: to start on a fuel, stop, store, and change over."""
    remote = fuel == FuelKey.GASOLINE and fuel in plan.of(trains_to_build)
    state = "remote" if remote else fuel
    mine = (f"start.{state}", f"stop.{state}", f"store.{state}")
    found = plan.of(safe_orders)
    return (
        *(one for one in found if one.key in mine),
        *(one for one in found if one.key.startswith("over.") and state in one.key.split(".")),
    )
