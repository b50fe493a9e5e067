"""How the demo's gases were metered: sweeps read on the machine, where the screw was locked."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

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
        looked = {
            f"{at}.checks.{key}": {"state": "good", "by": self.by, "on": f"{self.day}T14:50:00Z"}
            for key in self.looks
        }
        yield {f"{at}.locked": measured(self.locked), f"{at}.locked_by": self.by, **looked}


METERINGS: dict[str, tuple[DemoMetering, ...]] = {
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
