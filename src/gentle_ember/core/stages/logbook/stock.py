"""What fuel the owner has at hand: what each cylinder and can is worth in hours, and until when."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Literal

from gentle_ember.core.base.figure import Figure
from gentle_ember.core.estimates.cylinder import cylinder_run
from gentle_ember.core.estimates.defaults import fuel_line, planned_load, site_air
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.run_times import (
    OVERFULL,
    cylinder_case,
    cylinders_regulator,
    overfull,
    tank_run,
)
from gentle_ember.core.job.dates import CYLINDER_YEARS, Dated, Standing, dated
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.logbook import Logbook, StockCan, StockCylinder
from gentle_ember.core.job.site import CylindersAtHand
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Plan, Refusal

STALE_DAYS = {"yes": 90, "unknown": 90, "no": 180}
"""Days gasoline is good for in a closed can, by its ethanol, which it has unless somebody said."""
STABILIZED_DAYS = 365
"""The same with a stabilizer put in when it was fresh; its maker's label comes first."""
SCALE_OFF_KG = 0.15
"""What a bathroom or hanging scale and a stamp may differ by on an empty cylinder [kg]."""


@dataclass(frozen=True, slots=True)
class StockHere:
    """A cylinder or can: how long it runs the planned load, and until when it is good."""

    key: str
    kind: Literal["cylinder", "can"]
    name: str
    hours: Figure | None
    why_not: str
    """Why there are no hours."""
    until: date | None
    """The last day it is good; None where no date of it was told."""
    standing: Standing | None


def _at_hand(one: StockCylinder) -> CylindersAtHand:
    return CylindersAtHand(size=one.size, weighed=one.weighed, tare=one.tare)


def good_until(one: StockCylinder, today: date) -> Dated | None:
    """How long a cylinder may be filled, by its stamp; the shortest term where it is unsure."""
    if not one.stamped:
        return None
    years = CYLINDER_YEARS.get(one.stamp, min(CYLINDER_YEARS.values()))
    return dated(one.stamped, years, today)


def can_until(can: StockCan) -> date | None:
    """The last day a can's gasoline is good; None where nobody said when it was filled."""
    if not can.filled_on:
        return None
    days = STABILIZED_DAYS if can.stabilizer else STALE_DAYS[can.ethanol]
    return date.fromisoformat(can.filled_on) + timedelta(days=days)


def next_cylinder(log: Logbook) -> date | None:
    """The first day on which a cylinder at hand runs out by its stamp; None without a stamp."""
    # Which day it is asked on changes how it stands, and not the day it runs out.
    stamps = (good_until(one, date.min) for one in log.cylinders.values())
    return min((one.last for one in stamps if one), default=None)


def next_can(log: Logbook) -> date | None:
    """The first day on which gasoline in a can is stale; None where nobody said since when."""
    days = (can_until(can) for can in log.cans.values())
    return min((one for one in days if one), default=None)


def stock_here(plan: Plan) -> tuple[StockHere, ...]:
    """Everything at hand, as it stands on the plan's day."""
    log, today = plan.job.logbook, plan.today
    found = [_cylinder(plan, key, one, today) for key, one in log.cylinders.items()]
    return (*found, *(_can(plan, key, can, today) for key, can in log.cans.items()))


def _cylinder(plan: Plan, key: str, one: StockCylinder, today: date | None) -> StockHere:
    size = plan.catalog.cylinders.get(one.size)
    name = one.name.strip() or (size.name if size else one.size)
    figure, why = None, ""
    output = plan.of(output_here)
    if size is None:
        why = "no such size in the catalog"
    elif one.weighed is None:
        why = "not weighed"
    elif overfull(_at_hand(one), size):
        why = OVERFULL
    elif output is None:
        why = "the set's rating is not told"
    elif not output.of(FuelKey.PROPANE).carries_planned:
        why = "propane can't carry the planned load"
    else:
        rated = output.rating.value
        case = cylinder_case(
            plan.job.set, plan.site, plan.job.site, _at_hand(one), size,
            site_air(plan.site, plan.job.site).coldest.value,
            planned_load(plan.job.load, rated).value, fuel_line(plan.job.set, rated),
            cylinders_regulator(plan.job),
        )  # fmt: skip
        figure = cylinder_run(case, f"stock.{key}", f"{name}, coldest").figure
    stands = good_until(one, today) if today else None
    return StockHere(
        key, "cylinder", name, figure, why, stands.last if stands else None,
        stands.standing if stands else None,
    )  # fmt: skip


def _can(plan: Plan, key: str, can: StockCan, today: date | None) -> StockHere:
    name = can.name.strip() or "gasoline can"
    figure, why = None, ""
    output = plan.of(output_here)
    if can.volume is None:
        why = "nobody said how much is in it"
    elif output is None:
        why = "the set's rating is not told"
    else:
        machine = plan.job.set.model_copy(update={"tank": can.volume})
        rated, gasoline = output.rating.value, output.of(FuelKey.GASOLINE)
        run = tank_run(machine, gasoline, fuel_line(machine, rated),
                       planned_load(plan.job.load, rated))  # fmt: skip
        if not gasoline.carries_planned:
            why = "gasoline can't carry the planned load"
        elif run is not None:
            figure = replace(run, key=f"stock.{key}", label=name)
    until = can_until(can)
    stands = None
    if until and today:
        stands = Standing.OVER if today > until else (
            Standing.SOON if today > until - timedelta(days=30) else Standing.GOOD
        )  # fmt: skip
    return StockHere(key, "can", name, figure, why, until, stands)


def stock_contradictions(job: Job) -> Iterator[Refusal]:
    """A cylinder that weighs less than it does empty, or was weighed before it was made."""
    for key, one in job.logbook.cylinders.items():
        if one.weighed and one.tare and one.weighed.value < one.tare.value - SCALE_OFF_KG:
            yield Refusal(
                f"logbook.cylinders.{key}.weighed",
                "That is less than its stamped tare: weigh it again, or read the tare (TW) again.",
            )
        if one.weighed_on and one.stamped and one.weighed_on[:7] < one.stamped:
            yield Refusal(
                f"logbook.cylinders.{key}.weighed_on",
                "It was weighed before the date stamped on it.",
            )
