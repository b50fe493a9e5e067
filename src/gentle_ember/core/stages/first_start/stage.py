"""First start as a stage of the job: the starts themselves, and metering."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import RECORD, Act, Item, Page, Plan, Stage, anew
from gentle_ember.core.stages.first_start.compared import compared
from gentle_ember.core.stages.first_start.metering.settings import (
    gas_metering,
    metering_done,
    metering_items,
)
from gentle_ember.core.stages.first_start.starts import (
    attempts_made,
    first_starts,
    smells_noted,
    start_cautions,
    start_items,
)


def items(plan: Plan) -> Iterator[Item]:
    """Fuels not started or not proven, gases not set, not proven, not looked at."""
    yield from start_items(plan.of(first_starts))
    yield from metering_items(plan.of(gas_metering))


def acts(before: Job, plan: Plan) -> Iterator[Act]:
    """Starts, readings of the machine, screws locked."""
    if plan.job.starts != before.starts:
        yield from attempts_made(before, plan)
    if plan.job.metering != before.metering:
        yield from metering_done(before, plan)


def follows(before: Job, plan: Plan) -> Iterator[Change]:
    """Gas smelled at a start is taken down as such."""
    if plan.job.starts != before.starts:
        yield from smells_noted(before, plan)


STAGE = Stage(
    "first_start",
    "First start",
    owns={"starts": anew, "metering": anew},
    pages=(
        Page("start", "Start", ("starts",), ("starts",)),
        Page("metering", "Metering", ("metering",), ("metering",)),
        RECORD,
    ),
    on_demand=frozenset(("starts", "metering")),
    items=items,
    cautions=lambda plan: (*start_cautions(plan.job, plan.of(first_starts)), *compared(plan)),
    acts=acts,
    follows=follows,
)
