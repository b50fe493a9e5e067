"""How the demo's gases were metered: sweeps read on the machine, where the screw was locked."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.first_start.starts import first_starts
from gentle_ember.demo.steps import Step, measured


@dataclass(frozen=True, slots=True)
class DemoMetering:
    """A sweep of one gas on the first site: turns and watts, then the lock and the looks after."""

    gas: str
    by: str
    day: str
    readings: tuple[tuple[str, str, str], ...]
    locked: str
    seat: str
    looks: tuple[str, ...]

    def steps(self) -> Iterator[dict[str, Step]]:
        """As changes, one reading after another."""
        at = f"metering.s1-{self.gas}"
        yield {at: {"seat": self.seat}}
        for number, (turns, watts, ran) in enumerate(self.readings, start=1):
            place = f"{at}.readings.r{number}"
            kept: Any = {"by": self.by, "ran": ran, "on": f"{self.day}T14:{10 + number}:00Z"}
            yield {
                place: kept,
                f"{place}.turns": measured(turns),
                f"{place}.output": measured(watts),
            }
        good = {"state": "good", "by": self.by, "on": f"{self.day}T14:50:00Z",
                "at": float(self.locked)}  # fmt: skip
        looked = {f"{at}.checks.{key}": good for key in self.looks}
        yield {f"{at}.locked": measured(self.locked), f"{at}.locked_by": self.by, **looked}


@dataclass(frozen=True, slots=True)
class DemoStart:
    """A first start that ran at the second pull, everything looked at."""

    by: str
    day: str

    def step(self, job: Job, catalog: Catalog) -> dict[str, Step]:
        """As one change."""
        tried = [one for one in plan(job, catalog).of(first_starts) if not one.own_tank]
        factory = any(not one.trained for one in tried)
        seen: dict[str, Step] = {"confirmed.factory_gas": {"done": True, "by": self.by}}
        return (seen if factory else {}) | {
            f"starts.{one.fuel}": {
                "looked": {
                    look.key: {"state": "good", "by": self.by, "on": f"{self.day}T13:55:00Z"}
                    for look, _ in one.looks
                },
                "attempts": {
                    "a1": {"presses": 1, "seconds": 1, "hiss": "heard", "result": "nothing",
                           "by": self.by, "on": f"{self.day}T14:00:00Z"},
                    "a2": {"presses": 2, "seconds": 2, "hiss": "heard", "result": "runs",
                           "by": self.by, "on": f"{self.day}T14:02:00Z"},
                },
            }
            for one in tried
        }  # fmt: skip


STARTS: dict[str, DemoStart] = {
    "choir": DemoStart("Runa Kestle", "2026-10-21"),
    "ferry": DemoStart("Odo Marlin", "2026-05-12"),
}
METERINGS: dict[str, tuple[DemoMetering, ...]] = {
    "ferry": (
        DemoMetering(
            "propane", "Odo Marlin", "2026-05-12",
            (
                ("3.1", "2810 W", "smooth"), ("4.9", "2680 W", "smooth"),
                ("2.2", "2085 W", "hunting"), ("3.8", "2875 W", "smooth"),
                ("2.8", "2645 W", "smooth"), ("4.4", "2820 W", "smooth"),
                ("3.4", "2860 W", "smooth"), ("4.6", "2780 W", "smooth"),
                ("3.2", "2830 W", "smooth"), ("4.1", "2865 W", "smooth"),
            ),
            "3.9", "Lightly seated, paint mark toward the tank.",
            ("no_load", "eco", "load_step", "idle", "lock"),
        ),
    ),
    "choir": (
        DemoMetering(
            "natural_gas", "Runa Kestle", "2026-10-21",
            (
                ("2.9", "3310 W", "smooth"), ("4.6", "3160 W", "smooth"),
                ("2.0", "2480 W", "hunting"), ("3.5", "3390 W", "smooth"),
                ("2.6", "3100 W", "smooth"), ("4.1", "3320 W", "smooth"),
                ("3.2", "3370 W", "smooth"), ("4.25", "3285 W", "smooth"),
                ("3.0", "3325 W", "smooth"), ("3.8", "3375 W", "smooth"),
            ),
            "3.6", "Lightly seated, paint mark at twelve o'clock.",
            ("no_load", "eco", "load_step", "idle", "lock"),
        ),
    ),
}  # fmt: skip
