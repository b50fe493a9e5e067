"""First starts of a job: each fuel's gate as looked at, its attempts, advice, what is left."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Rounding
from gentle_ember.core.base.quantities import percent
from gentle_ember.core.job.first_start import Looked, StartLog
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.stage import TO_DO, Act, Caution, Item, Plan, Refusal, Severity
from gentle_ember.core.stages.first_start.advice import Advice, advice
from gentle_ember.core.stages.first_start.gate import Look, When, choke_stays_open, looks
from gentle_ember.core.stages.fuel_path.trains import TrainSection, trains_to_build

AFTER = Method(
    "gasoline-after", "Gasoline before and after", "held afterwards / held before − 1",
    "the same load, the throttle open, before the adapter went in and after", "load-test",
)  # fmt: skip
COSTS = -0.05
"""What an adapter may cost on gasoline before it is looked into [1]."""


@dataclass(frozen=True, slots=True)
class FuelStart:
    """One fuel's first start."""

    fuel: str
    name: str
    log: StartLog
    looks: tuple[tuple[Look, Looked], ...]
    advice: Advice | None

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
    """Every train's first start."""
    return tuple(_of(job, fuel, section) for fuel, section in path.items())


def _of(job: Job, fuel: str, section: TrainSection) -> FuelStart:
    log = job.starts.get(fuel, StartLog())
    wanted = tuple((one, log.looked.get(one.key, Looked())) for one in looks(job, fuel, section))
    found = advice(
        list(log.attempts.values()), choke_open=choke_stays_open(job), gas=fuel != "gasoline"
    )
    return FuelStart(fuel, NAMES[FuelKey(fuel)], log, wanted, found)


def attempts_made(before: Job, plan: Plan) -> Iterator[Act]:
    """Attempts newly noted."""
    for fuel, log in plan.job.starts.items():
        if log.attempts.keys() - before.starts.get(fuel, StartLog()).attempts.keys():
            name = NAMES[FuelKey(fuel)] if fuel in set(FuelKey) else fuel
            yield Act(f"starts.{fuel}", f"No start on {name}", fuel)


def gate_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """Attempts newly noted while their start gate is open."""
    made = {act.fuel: act for act in attempts_made(before, plan)}
    for one in plan.of(first_starts):
        gate = one.left(When.BEFORE) if one.fuel in made else 0
        if gate:
            yield Refusal(
                made[one.fuel].path, f"{made[one.fuel].what}: {gate} of its start gate open."
            )


def start_items(found: tuple[FuelStart, ...]) -> Iterator[Item]:
    """What keeps the first start from being signed off."""
    for one in found:
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
            text = f"{one.name}: {after} things not proven"
            yield Item(f"{path}.after", TO_DO, text, "first_start", path, holds=True)


def start_cautions(found: tuple[FuelStart, ...]) -> Iterator[Caution]:
    """Gasoline that gives clearly less since the work."""
    for one in found:
        lost = one.lost
        if lost is not None and lost.value < COSTS:
            path = f"starts.{one.fuel}.load_after"
            text = (
                f"On gasoline it holds {percent(-lost.value)} less than before the work: "
                "gasket over the throat, choke, air cleaner, adapter the wrong way round."
            )
            yield Caution(path, Severity.CAUTION, "first_start", text, path)


def first_starts(plan: Plan) -> tuple[FuelStart, ...]:
    """Every train's first start: its gate, its attempts, its proof."""
    return starts(plan.job, plan.of(trains_to_build))
