"""What intake leaves open: not known, to be done, not weighed."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.handling import FuelSource, comes_from
from gentle_ember.core.job.job import Decision, Job
from gentle_ember.core.stage import TO_DO, UNKNOWN, UNWEIGHED, Item, Plan, Question, confirm_item
from gentle_ember.core.stages.intake.walk_round import Task, walk_tasks


def identity(machine: GeneratorSet) -> str:
    """What names this very machine: serial, else frame, else engine number."""
    return machine.serial or machine.frame_number or machine.engine_number


def open_questions(plan: Plan) -> tuple[Question, ...]:
    """What intake has not answered, in the order a person finds it."""
    machine, key, site = plan.job.set, plan.job.site, plan.site
    asked = [
        (machine.running, "the running rating, from the data plate", "set.running"),
        (machine.starting, "the starting rating", "set.starting"),
        (machine.tank, "the size of the gasoline tank", "set.tank"),
        (site.elevation, "the site's elevation", f"sites.{key}.elevation"),
        (site.hottest, "the hottest day it runs", f"sites.{key}.hottest"),
        (site.coldest, "the coldest night it runs", f"sites.{key}.coldest"),
        (plan.job.load.planned, "what it must carry", "load.planned"),
    ]
    return tuple(Question(text, path) for fact, text, path in asked if fact is None)


def intake_items(plan: Plan) -> Iterator[Item]:
    """Open questions, tasks of the walk-round, cylinders to weigh, what the utility knows."""
    for question in plan.of(open_questions):
        yield Item(f"ask.{question.path}", UNKNOWN, question.text, "method", question.path)
    yield from _identity(plan.job)
    yield from _of_tasks(plan.of(walk_tasks))
    yield from _cylinders(plan.job)
    yield from _utility(plan.job)
    yield from _exhaust(plan.job)


def _identity(job: Job) -> Iterator[Item]:
    if not identity(job.set):
        text = "a serial, frame or engine number, from plate or casting"
        yield Item("identity", UNKNOWN, text, "hand_over", "set.serial")
    if job.set.faults.strip():
        text = "faults the owner tells of, looked into before quoting"
        yield confirm_item(job, "faults", TO_DO, text, "method", holds=False)


def _of_tasks(tasks: tuple[Task, ...]) -> Iterator[Item]:
    for task in tasks:
        text = task.title + (" (on order)" if task.decision is Decision.ORDER else "")
        yield Item(
            f"task.{task.key}", TO_DO, text, task.holds, task.path, task.done, task.by, holds=True
        )


def _cylinders(job: Job) -> Iterator[Item]:
    for name, site in sorted(job.sites.items()):
        for key, cylinder in sorted(site.cylinders.items()):
            if cylinder.weighed is None:
                path = f"sites.{name}.cylinders.{key}.weighed"
                where = site.name or "the site"
                yield Item(
                    f"weigh.{name}.{key}", UNWEIGHED,
                    f"cylinder {cylinder.size} lb at {where}: weigh it before the visit",
                    "first_start", path,
                )  # fmt: skip


def _exhaust(job: Job) -> Iterator[Item]:
    """A sketch judges what stands behind the exhaust only when its bearing is told."""
    for name, site in sorted(job.sites.items()):
        kinds = {one.kind for one in site.sketch.items.values()}
        behind = kinds & {"opening", "cylinder", "remote_tank"}
        if "set" in kinds and behind and site.sketch.exhaust is None:
            text = f"where the exhaust blows, on the sketch of {site.name or 'the site'}"
            yield Item(
                f"exhaust.{name}", UNKNOWN, text, "first_start", f"sites.{name}.sketch.exhaust",
                holds=True, acts=True,
            )  # fmt: skip


def _utility(job: Job) -> Iterator[Item]:
    for name, site in sorted(job.sites.items()):
        for key, gas in sorted(site.gases.items()):
            at = f"sites.{name}.gases.{key}"
            trained = gas.kind in job.trains
            house = comes_from(gas.kind, FuelSource.HOUSE)
            if house and gas.pressure is None and not trained:
                text = "pressure at the stub, from the utility or a manometer"
                yield Item(f"pressure.{name}.{key}", UNKNOWN, text, "fuel_path", f"{at}.pressure")
            if gas.distance is None and not trained:
                text = "distance from gas stub to set"
                yield Item(f"distance.{name}.{key}", UNKNOWN, text, "fuel_path", f"{at}.distance")
            if gas.rise is None and comes_from(gas.kind, FuelSource.DIGESTER):
                text = "height of the set above the digester's outlet (a low line holds water)"
                yield Item(f"rise.{name}.{key}", UNKNOWN, text, "fuel_path", f"{at}.rise")
