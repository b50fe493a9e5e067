"""Build the scenario through the services a person uses: typed quantities, logged changes."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

from gentle_ember.catalog import load
from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.job import Job
from gentle_ember.core.shop import UNNAMED
from gentle_ember.demo.fits import FITS
from gentle_ember.demo.handed import HANDED, handing
from gentle_ember.demo.loads import LOADS
from gentle_ember.demo.meterings import METERINGS, STARTS
from gentle_ember.demo.proofs import PROOFS
from gentle_ember.demo.scenario import FRONT, JOBS, PEOPLE
from gentle_ember.demo.service import logbooks
from gentle_ember.demo.steps import Step
from gentle_ember.demo.trains import TRAINS
from gentle_ember.demo.walks import WALKS
from gentle_ember.store import people
from gentle_ember.store.database import open_engine
from gentle_ember.store.jobs import JobStore, open_jobs
from gentle_ember.store.upgrade import bring_up
from gentle_ember.store.wanted import Wanted, read_changes

FIRST: dict[str, Any] = {"sites": {"s1": {"name": ""}}}


def seed(data: Path) -> int:
    """Build what is not there yet; a second run changes nothing.

    Returns:
        How many jobs the scenario has.
    """
    bring_up(data)
    jobs = open_jobs(open_engine(data), load())
    with jobs.writing.begin() as session:
        for name, units in PEOPLE.items():
            people.remember(session, name, units)
    if jobs.taught.front == UNNAMED:
        jobs.put_front(FRONT)
    for demo in reversed(JOBS):
        key = f"demo-{demo.key}"
        stored = jobs.create({**FIRST, "title": demo.title}, demo.who, key)
        if stored.revision > 1:
            continue
        *described, last = demo.steps
        steps = [*described, *WALKS.get(demo.key, ())]
        count = 0

        def write(step: dict[str, Step], job_id: str = stored.id, who: str = demo.who,
                  key: str = key) -> None:  # fmt: skip
            nonlocal count
            changes = read_changes([_wanted(path, value) for path, value in step.items()], "us")
            jobs.change(job_id, changes, base=count + 1, key=f"{key}-{count:03d}", who=who)
            count += 1

        for step in steps:
            write(step)
        for step in _work(demo.key, jobs, stored.id):
            write(step)
        write(last)
        for step in _after(demo.key, jobs, stored.id):
            write(step)
    return len(JOBS)


def _work(key: str, jobs: JobStore, job_id: str) -> Iterator[dict[str, Step]]:
    """What was done on the machine, each from the job as it stands by then."""

    def now() -> Job:
        return jobs.get(job_id).job

    catalog = jobs.catalog
    for train in TRAINS.get(key, ()):
        yield train.step(now(), catalog)
    if fitted := FITS.get(key):
        yield from fitted.steps(now(), catalog)
        if ticked := fitted.ticked(now(), catalog):
            yield ticked
    if proven := PROOFS.get(key):
        yield from proven.steps(now(), catalog)
    if started := STARTS.get(key):
        yield started.step(now(), catalog)
    for metered in METERINGS.get(key, ()):
        yield from metered.steps()
    for loaded in LOADS.get(key, ()):
        yield from loaded.steps()


def _after(key: str, jobs: JobStore, job_id: str) -> Iterator[dict[str, Step]]:
    """What came once its stages were signed: handed over, in service."""
    if handed := HANDED.get(key):
        yield from handing(handed, lambda: jobs.get(job_id).job, jobs.catalog)
    yield from logbooks().get(key, ())


def _wanted(path: str, value: Step) -> Wanted:
    if isinstance(value, tuple):
        typed, origin = value
        return Wanted(path, typed=typed, origin=Origin(origin))
    return Wanted(path, value=value)
