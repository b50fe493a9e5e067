"""Load test as a stage of the job, with the main jet it decides."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import RECORD, Act, Caution, Item, Page, Plan, Stage, anew
from gentle_ember.core.stages.load_test.jets import (
    jet_cautions,
    jet_settled,
    jets_here,
    lean_jet,
    settled_here,
)
from gentle_ember.core.stages.load_test.tests import (
    break_in_items,
    house_items,
    joined_items,
    load_cautions,
    load_items,
    load_tests_here,
    loads_put_on,
    smells_noted,
)


def cautions(plan: Plan) -> Iterator[Caution]:
    """What the last readings stop, and places where the jet in it is lean."""
    yield from load_cautions(plan.of(load_tests_here))
    yield from lean_jet(plan)
    if plan.job.set.carburetor.jets.fitted.number:
        yield from jet_cautions(plan.of(jets_here))


def items(plan: Plan) -> Iterator[Item]:
    """Fuels not loaded or not settled, how the load is joined on, a new engine to break in."""
    yield from load_items(plan.of(load_tests_here))
    yield from break_in_items(plan.job)
    yield from joined_items(plan.job)
    yield from house_items(plan.job)


def follows(before: Job, plan: Plan) -> Iterator[Change]:
    """Gas smelled at load is taken down as such; another jet decided on is the one to go in."""
    if plan.job.load_tests != before.load_tests:
        yield from smells_noted(before, plan)
        yield from jet_settled(before, plan)
    if plan.job.set != before.set:
        yield from settled_here(before, plan)


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
        Page("joint", "Joint estimate", ("joint",)),
        RECORD,
    ),
    on_demand=frozenset(("load_tests",)),
    items=items,
    follows=follows,
    cautions=cautions,
    acts=acts,
)
