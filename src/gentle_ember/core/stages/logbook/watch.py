"""Fuel at a load, watched: what a run used over what the set's line has, summed until it shows.

A CUSUM on the logarithm: the first runs on a fuel tell what is usual for the set, and what later
runs use more than that, less half of the rise looked for, adds up. Tuned for a rise of 6 %.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from statistics import fmean

from gentle_ember.core.base.figure import Method
from gentle_ember.core.estimates.defaults import fuel_line, fuels_here
from gentle_ember.core.estimates.run_times import gas_line
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.logbook.hours import run_hours

FIRST, LEAST_LEFT = 8, 2
"""Runs that tell what is usual, and how many later ones are wanted before anything is said."""
RISE, ALARM = 0.06, 0.36
"""Rise looked for [ln], and the sum past which it is told [ln]: some seven spreads of one run."""
CLIP = 0.20
"""More than this off, one run alone is a wrong weighing or a wrong load [ln]."""

CUSUM = Method(
    "cusum", "Fuel watched run by run", "S = max(0, S + ln(used / expected) − usual − 3 %) > 36 %",
    "one-sided cumulative sum (Page 1954), reference half of a 6 % rise; usual by the first eight "
    "runs, one run cut to 20 % so that a wrong weighing alone alarms nobody",
    "upkeep",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Watched:
    """A fuel watched: each run's key with its share over the usual [ln] and the sum after it."""

    fuel: FuelKey
    usual: float
    points: tuple[tuple[str, float, float], ...]
    alarm: bool
    """Whether the sum stands past the alarm at the last run."""
    missing: int
    """Runs with fuel, load and hours still wanted before it watches."""

    @property
    def rise(self) -> float:
        """Mean rise of the runs since the sum last stood at nothing [1]."""
        since: list[float] = []
        for _, off, total in self.points:
            since = [*since, off] if total > 0 else []
        return math.expm1(fmean(since)) if since else 0.0


def cusum(offs: Sequence[float]) -> tuple[float, list[float]]:
    """What is usual, and the sum after each run past the first ones.

    Args:
        offs: ln(used / expected), oldest first, shape (n,).

    >>> usual, sums = cusum([0.0] * 8 + [0.1] * 6)
    >>> usual, [round(one, 2) for one in sums]
    (0.0, [0.07, 0.14, 0.21, 0.28, 0.35, 0.42])
    """
    if len(offs) < FIRST:
        return 0.0, []
    usual, total, sums = fmean(offs[:FIRST]), 0.0, []
    for one in offs[FIRST:]:
        total = max(0.0, total + max(-CLIP, min(CLIP, one - usual)) - RISE / 2)
        sums.append(total)
    return usual, sums


def fuel_watch(plan: Plan) -> tuple[Watched, ...]:
    """Every fuel whose use was weighed at a load."""
    job = plan.job
    if job.set.running is None:
        return ()
    line = fuel_line(job.set, job.set.running.value)
    burnt = fuels_here(job.set, plan.site, job.site)
    offs: dict[FuelKey, list[tuple[str, float]]] = {}
    for one in run_hours(job.logbook):
        run = one.run
        if not (run.fuel and run.used and run.load and one.seconds):
            continue
        fuel = FuelKey(run.fuel)
        own = line if fuel is FuelKey.GASOLINE else gas_line(job.set, line, fuel)
        expected = own.fuel_w(run.load.value) * one.seconds / burnt[fuel].fuel.lhv_j_kg
        offs.setdefault(fuel, []).append((one.key, math.log(run.used.value / expected)))
    found = []
    for fuel, rows in offs.items():
        usual, sums = cusum([off for _, off in rows])
        later = rows[FIRST:] if sums else []
        points = tuple(
            (key, off - usual, total) for (key, off), total in zip(later, sums, strict=True)
        )
        alarm = len(sums) >= LEAST_LEFT and sums[-1] > ALARM
        found.append(Watched(fuel, usual, points, alarm, max(0, FIRST - len(rows))))
    return tuple(found)


def watch_cautions(plan: Plan) -> Iterator[Caution]:
    """A fuel whose use rose."""
    for one in plan.of(fuel_watch):
        if one.alarm:
            yield Caution(
                f"fuel_use.{one.fuel}", Severity.CAUTION, "logbook",
                f"It uses about {100 * one.rise:.0f} % more {NAMES[one.fuel]} than at first: valve "
                "lash, air filter, a leak or the mixture. Look before it is heard.",
                "logbook.runs",
            )  # fmt: skip
