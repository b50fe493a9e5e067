"""What is due on a set and when: by hours and by days, whichever comes first.

Intervals are what makers of small engines usually ask; the set's own manual comes first.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.logbook import HOUR_S, Logbook, Upkept
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.logbook.hours import RunHours, run_hours

GAS = frozenset(("propane", "natural_gas", "biogas"))
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


TASKS: tuple[Chore, ...] = (
    Chore("oil", "Oil changed", "Gas keeps it cleaner, not longer; gasoline past the rings thins "
         "it: at once when it smells of it.", 100, 100, 365, parts="engine oil"),
    Chore("air_filter", "Air filter cleaned or replaced", "A choked filter enriches gasoline and "
         "starves gas.", 50, 50, 365, sooner=0.5, parts="air filter"),
    Chore("plug", "Plug read, gap set", "Gas asks more of the spark: a wide gap misses first "
         "under load.", 100, 100, 365, parts="spark plug"),
    Chore("lash", "Valve lash measured, both valves cold", "Dry gas wears the seats: lash closes, "
         "then the exhaust valve burns.", 100, 200, None, GAS, applies=_on_gas),
    Chore("lash_gasoline", "Valve lash measured, on gasoline", "As its maker asks.", 300, 300, None,
         frozenset(("gasoline", "")), applies=lambda job: not _on_gas(job)),
    Chore("nuts", "Nuts, clamps and gasket looked at again", "New gaskets settle in the first "
         "hours.", 10, 100, None, applies=_on_gas),
    Chore("leak", "Every gas joint soaped again", "Joints work loose, rubber shrinks.", 200, 200,
         365, applies=_on_gas, parts="leak-test liquid"),
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
BY_KEY = {task.key: task for task in TASKS}
EXERCISE = Chore(
    "exercise", "Exercise run, 20 to 30 minutes near half load",
    "It dries what stood in it and shows it starts on the day it is not needed.", None, None, 30,
)  # fmt: skip
STALE = Chore(
    "stale", "Gasoline in the tank used up or drained", "It goes stale in about three months, "
    "sooner with ethanol.", None, None, 90, applies=_on_gasoline,
)  # fmt: skip


class DueState(StrEnum):
    """How upkeep stands today."""

    OVER = "over"
    SOON = "soon"
    GOOD = "good"
    NOT_KNOWN = "not_known"
    """Nobody said since when it is in service."""


@dataclass(frozen=True, slots=True)
class Due:
    """When a task is due: the day, the earliest and latest by the band of its hours, what is left.

    `by_days` is the day its time runs out; `left_s` what it may still run; `day` is never later
    than either.
    """

    task: Chore
    state: DueState
    last: Upkept | None
    ran_s: float
    left_s: float | None
    by_days: date | None
    day: date | None
    early: date | None
    late: date | None


def in_service(log: Logbook) -> date | None:
    """Since when it is in service: as told, else its first run."""
    if log.since:
        return date.fromisoformat(log.since)
    days = [one.on for one in log.runs.values() if one.on]
    return date.fromisoformat(min(days)) if days else None


def rate(log: Logbook, today: date) -> Figure | None:
    """How long it runs a month of 30 days [s], by the last year it was in service.

    None until it was for two weeks and ran twice.
    """
    since = in_service(log)
    if since is None:
        return None
    begun = max(since, today - timedelta(days=WINDOW_DAYS))
    days = (today - begun).days
    ran = [one for one in run_hours(log) if one.day and begun <= one.day <= today and one.seconds]
    if days < LEAST_DAYS or len(ran) < 2:
        return None
    value = sum(one.seconds or 0.0 for one in ran) / days * MONTH_DAYS
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


def upkeep(job: Job, today: date) -> tuple[Due, ...]:
    """Every task of a set, what is due first on top."""
    log = job.logbook
    runs, pace, since = run_hours(log), rate(log, today), in_service(log)
    found = [
        _due(task, log, runs, pace, since, today) for task in TASKS if task.applies(job)
    ]  # fmt: skip
    found += [_since_run(EXERCISE, runs, ANY, since, today)]
    if _on_gasoline(job):
        found += [_since_run(STALE, runs, frozenset(("gasoline", "")), since, today)]
    order = [DueState.OVER, DueState.SOON, DueState.NOT_KNOWN, DueState.GOOD]
    return tuple(
        sorted(found, key=lambda one: (order.index(one.state), one.day or date.max, one.task.key))
    )


def last_done(log: Logbook, key: str) -> Upkept | None:
    """The newest entry of a task."""
    done = [one for one in log.upkeep.values() if one.task == key and one.on]
    return max(done, key=lambda one: one.on, default=None)


def _due(
    task: Chore, log: Logbook, runs: tuple[RunHours, ...], pace: Figure | None,
    since: date | None, today: date,
) -> Due:  # fmt: skip
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
    middle = early = late = None
    if left is not None and left <= 0:
        middle = early = late = today
    elif left is not None and pace is not None and pace.value > 0:
        middle, early, late = (
            _after(today, left, month) for month in (pace.value, pace.band.high, pace.band.low)
        )
    day = min((one for one in (middle, by_days) if one), default=None)
    if day is not None:
        early = min(early or day, day)
        late = min((one for one in (late, by_days) if one), default=day)
    return Due(task, _state(day, left, begun, today), last, ran, left, by_days, day, early, late)


def _after(today: date, left_s: float, month_s: float) -> date:
    """The day on which so many seconds of running are used up at so many a month."""
    days = left_s / month_s * MONTH_DAYS if month_s > 0 else math.inf
    return today + timedelta(days=math.floor(min(days, 36_500)))


def _since_run(
    task: Chore,
    runs: tuple[RunHours, ...],
    fuels: frozenset[str],
    since: date | None,
    today: date,
) -> Due:
    """A task whose days count from the last run on some fuel."""
    days = [one.day for one in runs if one.day and one.run.fuel in fuels]
    begun = max(days, default=since)
    day = begun + timedelta(days=task.days or 0) if begun else None
    return Due(task, _state(day, None, begun, today), None, 0.0, None, day, day, day, day)


def _state(day: date | None, left: float | None, begun: date | None, today: date) -> DueState:
    if (left is not None and left <= 0) or (day is not None and day <= today):
        return DueState.OVER
    if begun is None:
        return DueState.NOT_KNOWN
    if day is not None and day <= today + timedelta(days=SOON_DAYS):
        return DueState.SOON
    return DueState.GOOD


def upkeep_here(plan: Plan) -> tuple[Due, ...]:
    """What is due on the set of a plan that knows today; nothing otherwise."""
    return () if plan.today is None else upkeep(plan.job, plan.today)


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
