"""The set in service: runs, upkeep, fuel watched."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import Field

from gentle_ember.core.job.dates import Standing
from gentle_ember.core.job.logbook import Burns, LoggedRun, Upkept
from gentle_ember.core.physics.fuels import LETTERS, NAMES, FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.logbook.hours import run_hours
from gentle_ember.core.stages.logbook.lash import LashTrend, lash_trend
from gentle_ember.core.stages.logbook.round import Round, SetInService
from gentle_ember.core.stages.logbook.stock import stock_here
from gentle_ember.core.stages.logbook.upkeep import (
    TASKS,
    Due,
    DueState,
    last_done,
    rate,
    standing_here,
    upkeep_here,
)
from gentle_ember.core.stages.logbook.watch import ALARM, CUSUM, FIRST, Watched, fuel_watch
from gentle_ember.web.views.base import (
    BothOut,
    FigureOut,
    MethodOut,
    Request,
    View,
    both,
    figure,
)


class RunHoursOut(View):
    """A run with how long it was and where the hour meter stood after it."""

    key: str
    on: str
    fuel: Burns
    letter: str
    ran: BothOut | None
    meter: BothOut | None
    load: BothOut | None
    used: BothOut | None
    remark: str
    by: str


class FuelHoursOut(View):
    """What the set ran on one fuel; on none said where the name is empty."""

    fuel: Burns
    name: str
    hours: BothOut
    runs: int


class UpkeptOut(View):
    """When a task was done last, and what was found."""

    on: str
    found: str
    by: str


class DueOut(View):
    """Upkeep and when it is due."""

    key: str
    name: str
    why: str
    parts: str
    state: DueState
    due: str
    early: str
    late: str
    left: BothOut | None
    every: str
    last: UpkeptOut | None
    done_here: bool
    """Whether it is noted as done here, and not by running the set."""


class WatchedOut(View):
    """A fuel watched by its use: the sum after each run against its alarm [ln]."""

    fuel: FuelKey
    name: str
    letter: str
    sums: list[float]
    alarm_at: float
    alarm: bool
    rise: str
    missing: int
    first: int


class StockOut(View):
    """A cylinder or can at hand."""

    key: str
    kind: Literal["cylinder", "can"]
    name: str
    hours: FigureOut | None
    why_not: str
    until: str
    standing: Standing | None


class LashTrendOut(View):
    """How fast the exhaust seat wears, and what is left."""

    wear: FigureOut
    left: BothOut
    lasts: BothOut | None
    """Hours from the last look until the lash is used up, by the upper end of the wear."""
    looks: int


class LogbookOut(View):
    """The set in service."""

    since: str
    total: BothOut
    meter: BothOut | None
    rate: FigureOut | None
    runs: list[RunHoursOut]
    """Newest first."""
    fuels: list[FuelHoursOut]
    due: list[DueOut]
    watched: list[WatchedOut]
    watch: MethodOut
    stock: list[StockOut]
    lash: LashTrendOut | None


class RunsOut(View):
    """Runs read from a file, as a logbook keeps them; nothing is saved by reading them."""

    runs: list[LoggedRun]
    already: int = Field(ge=0)
    """How many of the file the logbook holds already; they are left out."""


def logbook(planned: Plan) -> LogbookOut:
    """Runs newest first, hours by fuel, what is due, fuel watched."""
    job, runs = planned.job, run_hours(planned.job.logbook)
    by_fuel: dict[Burns, list[float]] = {}
    for one in runs:
        by_fuel.setdefault(one.run.fuel, []).append(one.seconds or 0.0)
    stands = planned.of(standing_here)
    pace = rate(stands, planned.today) if planned.today else None
    meter = runs[-1].meter_s if runs else job.logbook.meter.value if job.logbook.meter else None
    return LogbookOut(
        since=_day(stands.since),
        total=both(runs[-1].total_s if runs else 0.0, "duration"),
        meter=None if meter is None else both(meter, "duration"),
        rate=figure(pace) if pace else None,
        runs=[
            RunHoursOut(
                key=one.key, on=one.run.on, fuel=one.run.fuel,
                letter=LETTERS[FuelKey(one.run.fuel)] if one.run.fuel else "",
                ran=None if one.seconds is None else both(one.seconds, "duration"),
                meter=None if one.meter_s is None else both(one.meter_s, "duration"),
                load=both(one.run.load.value, "power") if one.run.load else None,
                used=both(one.run.used.value, "mass") if one.run.used else None,
                remark=one.run.remark, by=one.run.by,
            )
            for one in reversed(runs)
        ],
        fuels=[
            FuelHoursOut(
                fuel=fuel, name=NAMES[FuelKey(fuel)] if fuel else "not said",
                hours=both(sum(all_s), "duration"), runs=len(all_s),
            )
            for fuel, all_s in by_fuel.items()
        ],
        due=[_due(one, last_done(job.logbook, one.task.key)) for one in planned.of(upkeep_here)],
        watched=[_watched(one) for one in planned.of(fuel_watch)],
        watch=MethodOut.model_validate(CUSUM),
        stock=[
            StockOut(
                key=one.key, kind=one.kind, name=one.name,
                hours=figure(one.hours) if one.hours else None, why_not=one.why_not,
                until=_day(one.until), standing=one.standing,
            )
            for one in planned.of(stock_here)
        ],
        lash=_lash(lash_trend(job.logbook, runs)),
    )  # fmt: skip


def _lash(found: LashTrend | None) -> LashTrendOut | None:
    if found is None:
        return None
    lasts = None if found.lasts_s is None else both(found.lasts_s, "duration")
    return LashTrendOut(
        wear=figure(found.wear), left=both(found.left_m, "clearance"), lasts=lasts,
        looks=found.looks,
    )  # fmt: skip


def _day(found: date | None) -> str:
    return found.isoformat() if found else ""


def _due(one: Due, last: Upkept | None) -> DueOut:
    task = one.task
    return DueOut(
        key=task.key, name=task.name, why=task.why, parts=task.parts, state=one.state,
        due=_day(one.day), early=_day(one.early), late=_day(one.late),
        left=None if one.left_s is None else both(max(0.0, one.left_s), "duration"),
        every=_every(one), done_here=task in TASKS,
        last=UpkeptOut.model_validate(last) if last else None,
    )  # fmt: skip


def _every(one: Due) -> str:
    task = one.task
    hours = task.first_h if one.last_on is None else task.then_h
    first = " first" if one.last_on is None and task.first_h != task.then_h else ""
    found = [f"{hours:g} h{first}"] if hours is not None else []
    if task.days is not None:
        months = round(task.days / 30.4)
        found.append(f"{months} months" if months > 1 else f"{task.days} days")
    return " or ".join(found)


def _watched(one: Watched) -> WatchedOut:
    said = f"{100 * one.rise:.0f} %" if one.points else ""
    return WatchedOut(
        fuel=one.fuel, name=NAMES[one.fuel], letter=LETTERS[one.fuel],
        sums=[total for _, _, total in one.points], alarm_at=ALARM, alarm=one.alarm, rise=said,
        missing=one.missing, first=FIRST,
    )  # fmt: skip


class DueQuery(Request):
    """How many days ahead is looked."""

    days: int = Field(default=14, ge=0, le=366)


class FeedPath(Request):
    """The secret of the shop's calendar address."""

    token: str = Field(max_length=100)


class FeedOut(View):
    """The private address of the shop's calendar."""

    addresses: list[str]
    """Every way to it; none where it was not made."""
    network: bool
    """Whether other devices reach it: the shop is served on its network."""


class TaskDueOut(View):
    """A task due on a set."""

    key: str
    name: str
    due: str
    state: DueState
    parts: str


class SetDueOut(View):
    """A set with what is due on it, what is due first on top."""

    job: str
    title: str
    owner: str
    set_label: str
    tasks: list[TaskDueOut]


class PlaceDueOut(View):
    """Sets of one place."""

    place: str
    sets: list[SetDueOut]


class VanOut(View):
    """A part to take along, and for how many tasks."""

    name: str
    count: int


class RoundOut(View):
    """What is due in the shop, by place, with what to take; `in_service` sets in all."""

    places: list[PlaceDueOut]
    van: list[VanOut]
    overdue: int
    in_service: int
    until: str


def day_round(found: Round) -> RoundOut:
    """What is due by a day, by place, and what to take along."""
    return RoundOut(
        places=[
            PlaceDueOut(place=place or "no place noted", sets=[_set_due(one) for one in sets])
            for place, sets in found.places
        ],
        van=[VanOut(name=name, count=count) for name, count in found.parts],
        overdue=found.overdue, in_service=found.in_service, until=found.until.isoformat(),
    )  # fmt: skip


def _set_due(one: SetInService) -> SetDueOut:
    return SetDueOut(
        job=one.job, title=one.title, owner=one.owner, set_label=one.set_label,
        tasks=[
            TaskDueOut(key=due.task.key, name=due.task.name, due=_day(due.day), state=due.state,
                       parts=due.task.parts)
            for due in one.due
        ],
    )  # fmt: skip
