"""How the demo's sets were load tested: minutes at load, the plug, what was decided."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from gentle_ember.demo.steps import Step, measured


@dataclass(frozen=True, slots=True)
class DemoLoad:
    """One run: screw or jet, if any; minutes with watts, throttle and λ; the plug, the reason."""

    fuel: str
    by: str
    day: str
    setting: tuple[str, str]
    outside: str
    readings: tuple[tuple[str, str, str, str, str], ...]
    plug: str
    reason: str

    def steps(self) -> Iterator[dict[str, Step]]:
        """As changes: the run with its readings, then what was decided."""
        run = f"load_tests.s1-{self.fuel}.runs.r1"
        name, value = self.setting
        begun: dict[str, Step] = {run: {"opened": "yes"}, f"{run}.outside": measured(self.outside)}
        yield {**begun, f"{run}.{name}": measured(value)} if name else begun
        for number, (minutes, watts, volts, throttle, lam) in enumerate(self.readings):
            at = f"{run}.readings.m{number}"
            kept: Any = {"by": self.by, "on": f"{self.day}T15:{number * 6:02d}:00Z",
                         "smell": "none"}  # fmt: skip
            yield {
                at: kept, f"{at}.after": measured(minutes), f"{at}.output": measured(watts),
                f"{at}.volts_a": measured(volts), f"{at}.throttle": measured(throttle),
                f"{at}.lam": measured(lam),
            }  # fmt: skip
        on = f"{self.day}T15:40:00Z"
        yield {
            f"{run}.plug": {"before": "new", "after": self.plug, "by": self.by, "on": on},
            f"{run}.decided": {"what": "keep", "reason": self.reason, "by": self.by, "on": on},
        }


LOADS: dict[str, tuple[DemoLoad, ...]] = {
    "ferry": (
        DemoLoad(
            "propane", "Odo Marlin", "2026-05-12", ("turns", "3.9"), "15 °C",
            (
                ("0 min", "2800 W", "118 V", "88 %", "0.97"),
                ("7 min", "2815 W", "118 V", "90 %", "0.97"),
                ("14 min", "2810 W", "117 V", "91 %", "0.96"),
                ("21 min", "2805 W", "117 V", "91 %", "0.96"),
            ),
            "gray", "Holds the hut's heater and lamps with room to spare.",
        ),
    ),
    "choir": (
        DemoLoad(
            "propane", "Runa Kestle", "2026-10-21", ("", ""), "14 °C",
            (
                ("0 min", "3480 W", "118 V", "89 %", "0.96"),
                ("7 min", "3500 W", "118 V", "90 %", "0.96"),
                ("14 min", "3490 W", "118 V", "91 %", "0.96"),
                ("21 min", "3490 W", "118 V", "91 %", "0.95"),
            ),
            "gray", "The factory's propane as before; its regulator locks up.",
        ),
        DemoLoad(
            "natural_gas", "Runa Kestle", "2026-10-21", ("turns", "3.6"), "14 °C",
            (
                ("0 min", "3250 W", "118 V", "88 %", "0.97"),
                ("6 min", "3270 W", "118 V", "90 %", "0.97"),
                ("12 min", "3260 W", "117 V", "91 %", "0.96"),
                ("18 min", "3255 W", "117 V", "91 %", "0.97"),
                ("25 min", "3260 W", "117 V", "92 %", "0.96"),
            ),
            "gray", "Holds what the stage needs with a hand's breadth of throttle left.",
        ),
    ),
}  # fmt: skip
