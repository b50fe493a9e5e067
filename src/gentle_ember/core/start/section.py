"""First starts of a job: each fuel's gate as looked at, its attempts, advice, what is left."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from gentle_ember.core.fuels import NAMES, FuelKey
from gentle_ember.core.job import Job
from gentle_ember.core.readiness import TO_DO, Item
from gentle_ember.core.sections.fuel_path import TrainSection
from gentle_ember.core.start.gate import Look, When, choke_stays_open, looks
from gentle_ember.core.start.records import Looked, StartLog
from gentle_ember.core.start.trying import Advice, advice


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


def attempt_stops(
    before: Job, after: tuple[FuelStart, ...], proven: Mapping[str, tuple[str, ...]]
) -> Iterator[tuple[str, str]]:
    """Attempts newly noted on a fuel that must not be started yet, with what holds it.

    Args:
        before: the job before the change.
        after: the first starts after it.
        proven: what is left to be proven tight, by fuel.
    """
    for one in after:
        was = before.starts.get(one.fuel, StartLog()).attempts
        if not one.log.attempts.keys() - was.keys():
            continue
        left = proven.get(one.fuel, ()) if one.fuel != "gasoline" else ()
        if left:
            yield one.fuel, f"No start on {one.name}: not proven tight. {'; '.join(left)}."
        elif gate := one.left(When.BEFORE):
            yield one.fuel, f"No start on {one.name}: {gate} of its start gate open."


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
