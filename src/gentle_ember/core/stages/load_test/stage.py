"""Load test as a stage of the job, with the main jet it decides."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import RECORD, Act, Caution, Page, Plan, Stage, anew
from gentle_ember.core.stages.load_test.jets import jet_cautions, jets_here
from gentle_ember.core.stages.load_test.tests import (
    load_cautions,
    load_items,
    load_tests_here,
    loads_put_on,
)


def cautions(plan: Plan) -> Iterator[Caution]:
    """What the last readings stop, and places where the jet in it is lean."""
    yield from load_cautions(plan.of(load_tests_here))
    if plan.job.set.carburetor.jets.fitted.number:
        yield from jet_cautions(plan.of(jets_here))


def acts(before: Job, plan: Plan) -> Iterator[Act]:
    """Loads put on the machine."""
    if plan.job.load_tests != before.load_tests:
        yield from loads_put_on(before, plan)


STAGE = Stage(
    "load_test",
    "Load test",
    owns={"load_tests": anew},
    pages=(
        Page("test", "Load test", ("load_tests", "jets"), ("load_tests",)),
        Page("jets", "Jets", ("jets", "load_tests"), ("set.carburetor.jets.fitted",)),
        RECORD,
    ),
    on_demand=frozenset(("load_tests",)),
    items=lambda plan: load_items(plan.of(load_tests_here)),
    cautions=cautions,
    acts=acts,
)
