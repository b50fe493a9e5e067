"""What happened after the fit: runs of a set in service and its upkeep."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from gentle_ember.demo.steps import StepsOf, measured, owner

CHOIR_RUNS = (
    (34, "2.1 h", "propane", "1.2 kW", "4.6 lb", "dress rehearsal"),
    (31, "1.6 h", "propane", "1.1 kW", "3.4 lb", ""),
    (29, "2.4 h", "natural_gas", "1.2 kW", "", "on the green's stub"),
    (27, "3.2 h", "propane", "1.3 kW", "7.2 lb", "concert"),
    (24, "1.5 h", "propane", "1.1 kW", "3.2 lb", ""),
    (20, "2.0 h", "propane", "1.2 kW", "4.4 lb", ""),
    (17, "1.8 h", "propane", "1.2 kW", "4.0 lb", ""),
    (15, "0.7 h", "gasoline", "0.9 kW", "", "cylinder empty, changed over"),
    (13, "2.2 h", "propane", "1.2 kW", "4.7 lb", ""),
    (10, "1.9 h", "propane", "1.2 kW", "4.1 lb", ""),
    (8, "2.0 h", "propane", "1.2 kW", "4.6 lb", ""),
    (6, "2.6 h", "propane", "1.2 kW", "6.3 lb", "evensong, cold"),
    (3, "1.7 h", "propane", "1.2 kW", "4.2 lb", ""),
)
"""Days ago, hours, fuel, load, fuel weighed, remark; all made up."""


def _ago(days: int) -> str:
    return (date.today() - timedelta(days=days)).isoformat()


def _run(days: int, hours: str, fuel: str, load: str, used: str, remark: str) -> dict[str, Any]:
    """One run, written as a page writes it."""
    at = f"logbook.runs.d{days}"
    step: dict[str, Any] = {
        at: {"on": _ago(days), "fuel": fuel, "remark": remark, "by": "Lantern Close choir"},
        f"{at}.hours": owner(hours),
        f"{at}.load": owner(load),
    }
    return {**step, f"{at}.used": measured(used)} if used else step


def logbooks() -> StepsOf:
    """The logbook of each set that is in service, by the job's key; its days end this week."""
    return {
    "choir": (
        {"logbook.since": _ago(36), "logbook.meter": owner("131.4 h")},
        *(_run(*row) for row in CHOIR_RUNS),
        {
            "logbook.upkeep.u1": {
                "task": "nuts", "on": _ago(22), "found": "gasket nuts an eighth of a turn",
                "by": "Runa Kestle", "minutes": 15,
            },
        },
    ),
}  # fmt: skip
