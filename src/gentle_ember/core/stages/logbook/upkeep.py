"""What is due on a set and when: by hours and by days, whichever comes first.

Intervals are what makers of small engines usually ask; the set's own manual comes first.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from typing import Any

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.logbook import HOUR_S, Logbook, Upkept
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.logbook.hours import RunHours, run_hours
from gentle_ember.core.stages.logbook.lash import GAS, lash_left
from gentle_ember.core.stages.logbook.stock import next_can, next_cylinder

ANY = GAS | {"gasoline", ""}
"""A run whose fuel nobody said counts for everything."""
SOON_DAYS, WINDOW_DAYS, LEAST_DAYS, MONTH_DAYS = 30, 365, 14, 30
NINE_IN_TEN = 1.64
"""Standard deviations either way that hold nine of ten."""

RATE = Method(
    "upkeep-rate", "Hours a month in service", "hours in the last year / days of it · 30 days",
    "runs taken as coming by chance: n of them tell the rate within 1.64/√n, nine times in ten",
    "upkeep",
)  # fmt: skip


def _on_gas(job: Job) -> bool:
    return any(fuel != "gasoline" for fuel in job.trains if fuel != "as_found")


def _on_gasoline(job: Job) -> bool:
    return job.wants.keep_gasoline or not _on_gas(job)


def _always(job: Job) -> bool:
    return True


def _no_hours(log: Logbook, runs: tuple[RunHours, ...]) -> float | None:
    return None


def _no_day(log: Logbook, last: Upkept | None) -> date | None:
    return None


def opened_since(log: Logbook, soaped: Upkept | None) -> date | None:
    """The first day since the joints were last soaped on which one of them was opened.

    A hose or regulator put in opens one, whoever forgot to say so. Of one day what was noted
    later came later.
    """
    entries = [one for one in log.upkeep.values() if one.on]
    entries.sort(key=lambda one: one.on)
    after = entries if soaped is None else entries[entries.index(soaped) + 1 :]
    days = [one.on for one in after if one.opened or (one.task == "hoses" and one.parts.strip())]
    return date.fromisoformat(days[0]) if days else None


@dataclass(frozen=True, slots=True)
class Chore:
    """Upkeep that comes again: hours till the first time and between, days between.

    `fuels` are those whose hours count; `sooner` shortens hours where the air is dusty [1].
    """

    key: str
    name: str
    why: str
    first_h: float | None
    then_h: float | None
    days: int | None
    fuels: frozenset[str] = ANY
    sooner: float = 1.0
    applies: Callable[[Job], bool] = _always
    parts: str = ""
    hours_left: Callable[[Logbook, tuple[RunHours, ...]], float | None] = _no_hours
    """What it may still run by a measure of its own [s]."""
    due_by: Callable[[Logbook, Upkept | None], date | None] = _no_day
    """A day of its own, given when it was done last."""


TASKS: tuple[Chore, ...] = (
    Chore("oil", "Oil changed", "Gas keeps it cleaner, not longer; gasoline past the rings thins "
         "it: at once when it smells of it.", 100, 100, 365, parts="engine oil"),
    Chore("air_filter", "Air filter cleaned or replaced", "A choked filter enriches gasoline and "
         "starves gas.", 50, 50, 365, sooner=0.5, parts="air filter"),
    Chore("plug", "Plug read, gap set", "Gas asks more of the spark: a wide gap misses first "
         "under load.", 100, 100, 365, parts="spark plug"),
    Chore("lash", "Valve lash measured, both valves cold", "Dry gas wears the seats: lash closes, "
         "then the exhaust valve burns.", 100, 200, None, GAS | {""}, applies=_on_gas,
         hours_left=lash_left),
    Chore("lash_gasoline", "Valve lash measured, on gasoline", "As its maker asks.", 300, 300, None,
         frozenset(("gasoline", "")), applies=lambda job: not _on_gas(job)),
    Chore("nuts", "Nuts, clamps and gasket looked at again", "New gaskets settle in the first "
         "hours.", 10, 100, None, applies=_on_gas),
    Chore("leak", "Every gas joint soaped again", "Joints work loose, rubber shrinks.", 200, 200,
         365, applies=_on_gas, parts="leak-test liquid", due_by=opened_since),
    Chore("hoses", "Hoses, regulator and vent looked at", "Cracks, chafing, a blocked vent, oil in "
         "the regulator.", None, None, 365, applies=_on_gas),
    Chore("fuel_lines", "Gasoline lines, filter and cap vent looked at", "Ethanol hardens them.",
         200, 200, 365, applies=_on_gasoline),
    Chore("breather", "Breather hose and valve clean", "Blocked, it presses oil past the seals.",
         200, 200, 730),
    Chore("spark_arrestor", "Spark arrestor brushed", "Soot chokes it; some lands ask for it.", 100,
         100, 365),
    Chore("co_alarm", "CO alarm tried, its date read", "A sensor ends after 5 to 10 years.", None,
         None, 182),
)  # fmt: skip
EXERCISE = Chore(
    "exercise", "Exercise run, 20 to 30 minutes near half load",
    "It dries what stood in it and shows it starts on the day it is not needed.", None, None, 30,
)  # fmt: skip
STALE = Chore(
    "stale", "Gasoline in the tank used up or drained", "It goes stale in about three months, "
    "sooner with ethanol.", None, None, 90, applies=_on_gasoline,
)  # fmt: skip


AT_HAND = (
    Chore("cylinders", "Cylinders requalified or exchanged", "Past its stamp no filler fills one.",
          None, None, None, applies=lambda job: next_cylinder(job.logbook) is not None,
          due_by=lambda log, _: next_cylinder(log)),
    Chore("cans", "Gasoline in cans used up", "Old gasoline starts hard and gums the jet.", None,
          None, None, applies=lambda job: next_can(job.logbook) is not None,
          due_by=lambda log, _: next_can(log)),
)  # fmt: skip
"""What is at hand and runs out by its date; it is done by getting other."""


BY_KEY = {task.key: task for task in (*TASKS, EXERCISE, STALE, *AT_HAND)}


class DueState(StrEnum):
    """How upkeep stands today."""

    OVER = "over"
    SOON = "soon"
    GOOD = "good"
    NOT_KNOWN = "not_known"
    """Nobody said since when it is in service."""


@dataclass(frozen=True, slots=True)
class TaskStanding:
    """How a task stands, on whatever day: since when it counts, what it ran and may still [s]."""

    key: str
    begun: date | None
    ran_s: float
    left_s: float | None
    by_days: date | None
    last_on: date | None


@dataclass(frozen=True, slots=True)
class SetStanding:
    """A set in service as far as upkeep goes: what a shop keeps of each to know what is due."""

    since: date | None
    tasks: tuple[TaskStanding, ...]
    runs: tuple[tuple[date, float], ...]
    """Day and length of each run [s], oldest first."""


@dataclass(frozen=True, slots=True)
class Due:
    """When a task is due: the day, the earliest and latest by the band of its hours, what is left.

    `by_days` is the day its time runs out; `left_s` what it may still run; `day` is never later
    than either.
    """

    task: Chore
    state: DueState
    last_on: date | None
    ran_s: float
    left_s: float | None
    by_days: date | None
    day: date | None
    early: date | None
    late: date | None


def in_service(log: Logbook) -> date | None:
    """Since when it is in service: as told, else its first run; None once it is not any more."""
    if log.ended_as:
        return None
    if log.since:
        return date.fromisoformat(log.since)
    days = [one.on for one in log.runs.values() if one.on]
    return date.fromisoformat(min(days)) if days else None


def standing(job: Job) -> SetStanding:
    """How upkeep stands, the same on whatever day."""
    log = job.logbook
    if log.ended_as:
        return SetStanding(None, (), ())
    runs, since = run_hours(log), in_service(log)
    tasks = [_counted(task, log, runs, since) for task in (*TASKS, *AT_HAND)
             if task.applies(job)]  # fmt: skip
    tasks.append(_since_run(EXERCISE, runs, ANY, since))
    if _on_gasoline(job):
        tasks.append(_since_run(STALE, runs, frozenset(("gasoline", "")), since))
    days = tuple((one.day, one.seconds) for one in runs if one.day and one.seconds)
    return SetStanding(since, tuple(tasks), days)


def rate(found: SetStanding, today: date) -> Figure | None:
    """How long it runs a month of 30 days [s], by the last year it was in service.

    None until it was for two weeks and ran twice.
    """
    if found.since is None:
        return None
    begun = max(found.since, today - timedelta(days=WINDOW_DAYS))
    days = (today - begun).days
    ran = [seconds for day, seconds in found.runs if begun <= day <= today]
    if days < LEAST_DAYS or len(ran) < 2:
        return None
    value = sum(ran) / days * MONTH_DAYS
    off = NINE_IN_TEN / math.sqrt(len(ran))
    return Figure(
        "upkeep.rate", "runs a month", value, "duration", RATE,
        Band(value * max(0.1, 1 - off), value * (1 + off)),
        (
            Input("runs counted", float(len(ran)), "count", Origin.OWNER),
            Input("days counted", float(days), "count"),
        ),
        rounding=Rounding.UP, estimated=True, narrows=("more runs logged",),
    )  # fmt: skip


def due_on(found: SetStanding, today: date) -> tuple[Due, ...]:
    """Every task of a set on a day, what is due first on top."""
    pace = rate(found, today)
    order = [DueState.OVER, DueState.SOON, DueState.NOT_KNOWN, DueState.GOOD]
    return tuple(
        sorted(
            (_due(one, pace, today) for one in found.tasks),
            key=lambda one: (order.index(one.state), one.day or date.max, one.task.key),
        )
    )


def upkeep(job: Job, today: date) -> tuple[Due, ...]:
    """Every task of a job's set on a day."""
    return due_on(standing(job), today)


def last_done(log: Logbook, key: str) -> Upkept | None:
    """The newest entry of a task."""
    done = [one for one in log.upkeep.values() if one.task == key and one.on]
    return max(done, key=lambda one: one.on, default=None)


def _counted(
    task: Chore, log: Logbook, runs: tuple[RunHours, ...], since: date | None
) -> TaskStanding:
    last = last_done(log, task.key)
    begun = date.fromisoformat(last.on) if last else since
    # A run on the day of the work may have been before it or after: it counts as after.
    ran = sum(
        one.seconds or 0.0 for one in runs
        if one.run.fuel in task.fuels and (begun is None or one.day is None or one.day >= begun)
    )  # fmt: skip
    every = task.first_h if last is None else task.then_h
    left = None
    if every is not None:
        left = every * HOUR_S * (task.sooner if log.dusty else 1.0) - ran
    by_days = begun + timedelta(days=task.days) if begun and task.days else None
    own_left, own_day = task.hours_left(log, runs), task.due_by(log, last)
    left = min((one for one in (left, own_left) if one is not None), default=None)
    by_days = min((one for one in (by_days, own_day) if one is not None), default=None)
    return TaskStanding(task.key, begun, ran, left, by_days, begun if last else None)


def _since_run(
    task: Chore, runs: tuple[RunHours, ...], fuels: frozenset[str], since: date | None
) -> TaskStanding:
    """A task whose days count from the last run on some fuel."""
    days = [one.day for one in runs if one.day and one.run.fuel in fuels]
    begun = max(days, default=since)
    by_days = begun + timedelta(days=task.days or 0) if begun else None
    return TaskStanding(task.key, begun, 0.0, None, by_days, None)


def _due(one: TaskStanding, pace: Figure | None, today: date) -> Due:
    left, middle, early, late = one.left_s, None, None, None
    if left is not None and left <= 0:
        middle = early = late = today
    elif left is not None and pace is not None and pace.value > 0:
        middle, early, late = (
            _after(today, left, month) for month in (pace.value, pace.band.high, pace.band.low)
        )
    day = min((found for found in (middle, one.by_days) if found), default=None)
    if day is not None:
        early = min(early or day, day)
        late = min((found for found in (late, one.by_days) if found), default=day)
    return Due(
        BY_KEY[one.key], _state(day, left, one.begun, today), one.last_on, one.ran_s, left,
        one.by_days, day, early, late,
    )  # fmt: skip


def _after(today: date, left_s: float, month_s: float) -> date:
    """The day on which so many seconds of running are used up at so many a month."""
    days = left_s / month_s * MONTH_DAYS if month_s > 0 else math.inf
    return today + timedelta(days=math.floor(min(days, 36_500)))


def _state(day: date | None, left: float | None, begun: date | None, today: date) -> DueState:
    if (left is not None and left <= 0) or (day is not None and day <= today):
        return DueState.OVER
    if begun is None and day is None:
        return DueState.NOT_KNOWN
    if day is not None and day <= today + timedelta(days=SOON_DAYS):
        return DueState.SOON
    return DueState.GOOD


def standing_here(plan: Plan) -> SetStanding:
    """How upkeep stands on a plan's set."""
    return standing(plan.job)


def upkeep_here(plan: Plan) -> tuple[Due, ...]:
    """What is due on the set of a plan that knows today; nothing otherwise."""
    return () if plan.today is None else due_on(plan.of(standing_here), plan.today)


def upkeep_cautions(plan: Plan) -> Iterator[Caution]:
    """What is overdue on a set that is in service."""
    if plan.today is None or not plan.job.logbook.runs:
        return
    for one in plan.of(upkeep_here):
        if one.state is DueState.OVER:
            yield Caution(
                f"upkeep.{one.task.key}", Severity.CAUTION, "logbook",
                f"Overdue: {one.task.name[0].lower()}{one.task.name[1:]}. {one.task.why}",
                "logbook.upkeep", by_date=True,
            )  # fmt: skip


def kept(found: SetStanding) -> dict[str, Any]:
    """How a set stands as plain values, for a shop's index."""

    def day(one: date | None) -> str:
        return one.isoformat() if one else ""

    return {
        "since": day(found.since),
        "tasks": [
            [one.key, day(one.begun), one.ran_s, one.left_s, day(one.by_days), day(one.last_on)]
            for one in found.tasks
        ],
        # Two flat lists of numbers: a shop with many sets unpacks them on every look.
        "days": [on.toordinal() for on, _ in found.runs],
        "seconds": [seconds for _, seconds in found.runs],
    }


def read_kept(held: dict[str, Any]) -> SetStanding:
    """How a set stands as `kept` wrote it."""

    def day(text: str) -> date | None:
        return date.fromisoformat(text) if text else None

    return SetStanding(
        day(held["since"]),
        tuple(
            TaskStanding(key, day(begun), ran, left, day(by_days), day(last))
            for key, begun, ran, left, by_days, last in held["tasks"]
            if key in BY_KEY
        ),
        tuple(zip(map(date.fromordinal, held["days"]), held["seconds"], strict=True)),
    )
