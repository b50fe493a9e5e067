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


FERRY_RUNS = tuple(
    (
        days,
        f"{hours} h",
        "gasoline" if n % 4 == 3 else "propane",
        "1.6 kW",
        "" if n % 4 == 3 else f"{1.74 * hours * share:.1f} lb",
        remark,
    )
    for n, (days, hours, share, remark) in enumerate(
        (
            (190, 0.5, 1.00, "shown to the ferrymen"),
            (176, 2.2, 1.02, ""),
            (161, 1.8, 0.98, ""),
            (150, 3.0, 1.00, "storm, on gasoline"),
            (139, 2.5, 1.01, ""),
            (128, 4.0, 0.99, ""),
            (117, 1.5, 1.02, ""),
            (104, 6.5, 1.00, "night without mains"),
            (96, 2.0, 0.98, ""),
            (88, 2.4, 1.01, ""),
            (80, 1.2, 1.00, ""),
            (73, 3.1, 1.00, ""),
            (66, 2.8, 1.07, ""),
            (58, 2.1, 1.09, ""),
            (51, 3.3, 1.08, ""),
            (45, 1.6, 1.00, ""),
            (38, 2.9, 1.11, ""),
            (31, 2.0, 1.10, "hunts a little when cold"),
            (24, 3.5, 1.12, ""),
            (16, 2.2, 1.00, ""),
            (9, 2.6, 1.13, ""),
            (4, 1.9, 1.12, ""),
        )
    )
)
"""The same; from the thirteenth on it uses a tenth more than it did."""


def _ago(days: int) -> str:
    return (date.today() - timedelta(days=days)).isoformat()


def _run(
    days: int, hours: str, fuel: str, load: str, used: str, remark: str,
    by: str = "Lantern Close choir",
) -> dict[str, Any]:  # fmt: skip
    """One run, written as a page writes it."""
    at = f"logbook.runs.d{days}"
    step: dict[str, Any] = {
        at: {"on": _ago(days), "fuel": fuel, "remark": remark, "by": by},
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
            "logbook.cylinders.c1": {
                "name": "tag 4", "size": "20", "stamped": "2019-04", "stamp": "made",
                "weighed_on": _ago(2),
            },
            "logbook.cylinders.c1.weighed": measured("31 lb"),
            "logbook.cylinders.c1.tare": measured("17 lb"),
            "logbook.cylinders.c2": {
                "name": "tag 7", "size": "20", "stamped": "2015-01", "stamp": "made",
                "weighed_on": _ago(2),
            },
            "logbook.cylinders.c2.weighed": measured("26.5 lb"),
            "logbook.cylinders.c2.tare": measured("17.2 lb"),
            "logbook.cans.k1": {"name": "red can", "filled_on": _ago(70), "ethanol": "yes"},
            "logbook.cans.k1.volume": measured("5 gal"),
        },
    ),
    "ferry": (
        {"logbook.since": _ago(190), "logbook.meter": owner("88.0 h")},
        *(_run(*row, "Jory Pell") for row in FERRY_RUNS),
        {
            "logbook.upkeep.u1": {"task": "nuts", "on": _ago(150), "found": "all as left",
                                  "by": "Odo Marlin", "minutes": 10},
            "logbook.upkeep.u2": {"task": "lash", "on": _ago(189), "found": "as it was set",
                                  "by": "Odo Marlin", "minutes": 25},
            "logbook.upkeep.u2.lash": measured("0.15 mm"),
            "logbook.upkeep.u3": {"task": "lash", "on": _ago(44), "found": "a little closer",
                                  "by": "Odo Marlin", "minutes": 25},
            "logbook.upkeep.u3.lash": measured("0.13 mm"),
            "logbook.upkeep.u4": {"task": "co_alarm", "on": _ago(150), "found": "dated 2024",
                                  "by": "Odo Marlin"},
        },
    ),
}  # fmt: skip
