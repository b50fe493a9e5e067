"""Facts of a job that cannot both be true, each with the field to mend and a plain sentence."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.errors import ContradictionError
from gentle_ember.core.facts import Fact
from gentle_ember.core.job import STAGES, GeneratorSet, Job, Site


def contradictions(job: Job) -> list[ContradictionError]:
    """Every contradiction in a job; empty when its facts go together."""
    found = [*_of_set(job.set), *_of_structure(job)]
    for key, site in job.sites.items():
        found.extend(_of_site(site, f"sites.{key}"))
    return found


def _more(a: Fact | None, b: Fact | None) -> bool:
    """Whether both are known and the first is greater."""
    return a is not None and b is not None and a.value > b.value


def _of_set(machine: GeneratorSet) -> Iterator[ContradictionError]:
    running, shaft, efficiency = (
        machine.running,
        machine.shaft_power,
        machine.alternator_efficiency,
    )
    if _more(running, machine.starting):
        yield ContradictionError(
            "set.starting", "The starting rating can't be below the running rating."
        )
    if _more(running, shaft):
        yield ContradictionError(
            "set.shaft_power", "The running rating is more than the shaft power gives."
        )
    elif running and shaft and efficiency and shaft.value * efficiency.value < 0.8 * running.value:
        yield ContradictionError(
            "set.alternator_efficiency",
            "Shaft power times this efficiency stays far below the running rating.",
        )
    for key, run in machine.run_times.items():
        if run.load and running and run.load.value > 1.1 * running.value:
            yield ContradictionError(
                f"set.run_times.{key}.load", "The load of this run is over the running rating."
            )
    for key, weighing in machine.weigh_ins.items():
        if weighing.before and weighing.after and not _more(weighing.before, weighing.after):
            yield ContradictionError(
                f"set.weigh_ins.{key}.after", "The weight after is not below the weight before."
            )


def _of_site(site: Site, path: str) -> Iterator[ContradictionError]:
    if _more(site.coldest, site.hottest):
        yield ContradictionError(f"{path}.hottest", "The hottest is below the coldest.")
    for name, at_hand in site.cylinders.items():
        if _more(at_hand.tare, at_hand.weighed):
            yield ContradictionError(
                f"{path}.cylinders.{name}.weighed", "It weighs less than its stamped tare."
            )


def _of_structure(job: Job) -> Iterator[ContradictionError]:
    if job.site not in job.sites:
        yield ContradictionError("site", "This site is not one of the job's sites.")
    for name in job.stages:
        if name not in STAGES:
            yield ContradictionError(f"stages.{name}", "There is no such stage.")
