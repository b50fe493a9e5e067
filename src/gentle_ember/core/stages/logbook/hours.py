"""How long a set ran, from hours typed and hour meters read, and what of it can't be so."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, timedelta

from gentle_ember.core.base.cached import remember
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.logbook import DAY_S, HOUR_S, Logbook, LoggedRun
from gentle_ember.core.stage import Caution, Plan, Refusal, Severity

METER_OFF_S = 0.15 * HOUR_S
"""How far typed hours and a meter that shows tenths may differ [s]."""


@dataclass(frozen=True, slots=True)
class RunHours:
    """A run with its day, how long it was, and where the hour meter stood after it [s].

    `seconds` is None where neither hours nor two readings tell; `total_s` is what the set ran in
    all since it was handed over, as far as it is told.
    """

    key: str
    run: LoggedRun
    day: date | None
    seconds: float | None
    meter_s: float | None
    total_s: float


@remember(64)
def run_hours(log: Logbook) -> tuple[RunHours, ...]:
    """Every run in the order of its day, oldest first.

    Those of one day stand by their meter; one on a new meter follows those on the old one.
    """

    def order(item: tuple[str, LoggedRun]) -> tuple[str, bool, float, str]:
        key, run = item
        meter = run.meter.value if run.meter else 0.0
        return run.on or "9999", run.new_meter, meter, f"{len(key):03d}{key}"

    found = []
    at = log.meter.value if log.meter else None
    total = 0.0
    for key, run in sorted(log.runs.items(), key=order):
        before = 0.0 if run.new_meter else at
        seconds = run.hours.value if run.hours else None
        if seconds is None and run.meter is not None and before is not None:
            seconds = max(0.0, run.meter.value - before)
        if run.meter is not None:
            at = run.meter.value
        elif before is not None and seconds is not None:
            at = before + seconds
        total += seconds or 0.0
        day = date.fromisoformat(run.on) if run.on else None
        found.append(RunHours(key, run, day, seconds, at, total))
    return tuple(found)


def _told(run: LoggedRun) -> tuple[str, str, int | None, int | None]:
    """What makes two entries the same run: day, fuel, hours and reading."""
    hours = round(run.hours.value) if run.hours else None
    meter = round(run.meter.value) if run.meter else None
    return run.on, run.fuel, hours, meter


def twice_cautions(plan: Plan) -> Iterator[Caution]:
    """Entries that look like one run logged by two hands; they count until somebody takes one out.

    An owner's habit of two like runs a day is one too, so that nothing is refused.
    """
    by_run: dict[tuple[str, str, int | None, int | None], list[str]] = {}
    for key, run in plan.job.logbook.runs.items():
        if run.on and run.hours is not None:
            by_run.setdefault(_told(run), []).append(key)
    for (on, _, _, _), keys in by_run.items():
        names = {plan.job.logbook.runs[key].by for key in keys}
        if len(keys) > 1 and len(names) > 1:
            who = " and ".join(sorted(filter(None, names))) or "two"
            yield Caution(
                f"logbook.twice.{keys[-1]}", Severity.CAUTION, "logbook",
                f"{on}: the same hours logged by {who}. If that is one run, take one out: it "
                "counts twice.",
                f"logbook.runs.{keys[-1]}",
            )  # fmt: skip


def not_yet_held(held: Iterable[LoggedRun], read: Iterable[LoggedRun]) -> list[LoggedRun]:
    """Runs of a file that a logbook does not hold, so that one loaded twice counts nothing twice.

    The same day, fuel, hours and reading make the same run; two of a kind are two.
    """

    left = Counter(_told(one) for one in held)
    found = []
    for one in read:
        if left[_told(one)] > 0:
            left[_told(one)] -= 1
        else:
            found.append(one)
    return found


def logbook_contradictions(job: Job) -> Iterator[Refusal]:
    """Runs that can't both be: a meter turned back, more hours than the days had."""
    log, last, at = job.logbook, None, job.logbook.meter.value if job.logbook.meter else None
    per_day: dict[date, float] = {}
    for one in run_hours(log):
        path = f"logbook.runs.{one.key}"
        meter = one.run.meter.value if one.run.meter else None
        before = 0.0 if one.run.new_meter else at
        if meter is not None and before is not None and meter < before - METER_OFF_S:
            yield Refusal(
                f"{path}.meter",
                f"The meter stood at {before / HOUR_S:,.1f} h before this run: it can't turn back. "
                "If the meter is a new one, tick so.",
            )
        elif meter is not None and before is not None and one.run.hours is not None and (
            meter - before < one.run.hours.value - METER_OFF_S
        ):  # fmt: skip
            yield Refusal(
                f"{path}.hours",
                f"The meter moved {(meter - before) / HOUR_S:,.1f} h only since the run before.",
            )
        if one.day is not None and one.seconds is not None:
            had = DAY_S * (1 if last is None else (one.day - last).days + 1)
            if last is not None and one.seconds > had + METER_OFF_S:
                field = "hours" if one.run.hours else "meter"
                yield Refusal(
                    f"{path}.{field}",
                    f"That is {one.seconds / HOUR_S:,.1f} h, and there are {had / HOUR_S:,.0f} "
                    "since the run before.",
                )
            per_day[one.day] = per_day.get(one.day, 0.0) + one.seconds
            if last == one.day and per_day[one.day] > DAY_S + METER_OFF_S:
                yield Refusal(f"{path}.on", "Runs of this day come to more than 24 hours.")
        if one.day is not None:
            last = one.day
        at = one.meter_s
    since = date.fromisoformat(log.since) if log.since else None
    for key, done in log.upkeep.items():
        if since and done.on and date.fromisoformat(done.on) < since - timedelta(days=3650):
            yield Refusal(f"logbook.upkeep.{key}.on", "That is long before it was in service.")


def logbook_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """Days that have not come; a clock an hour off, or a zone away, is let pass."""
    if plan.today is None or plan.job.logbook == before.logbook:
        return
    latest = plan.today + timedelta(days=1)
    log = plan.job.logbook
    said = [("logbook.since", log.since), ("logbook.ended", log.ended)]
    said += [(f"logbook.cylinders.{key}.weighed_on", one.weighed_on)
             for key, one in log.cylinders.items()]  # fmt: skip
    said += [(f"logbook.cans.{key}.filled_on", can.filled_on) for key, can in log.cans.items()]
    said += [(f"logbook.runs.{key}.on", one.on) for key, one in log.runs.items()
             if before.logbook.runs.get(key) != one]  # fmt: skip
    said += [(f"logbook.upkeep.{key}.on", one.on) for key, one in log.upkeep.items()
             if before.logbook.upkeep.get(key) != one]  # fmt: skip
    for path, text in said:
        if text and date.fromisoformat(text) > latest:
            yield Refusal(path, f"{text} has not come yet.")
