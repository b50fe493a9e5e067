"""First start as a stage of the job: the starts themselves, and metering."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import RECORD, Item, Page, Plan, Refusal, Stage, anew
from gentle_ember.core.stages.first_start.metering.settings import (
    gas_metering,
    metering_items,
    metering_refusals,
)
from gentle_ember.core.stages.first_start.starts import (
    attempt_refusals,
    first_starts,
    start_cautions,
    start_items,
)


def items(plan: Plan) -> Iterator[Item]:
    """Fuels not started or not proven, gases not set, not proven, not looked at."""
    yield from start_items(plan.of(first_starts))
    yield from metering_items(plan.of(gas_metering))


def refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """No start, no reading and no lock on a fuel that must not run yet."""
    if plan.job.starts != before.starts:
        yield from attempt_refusals(before, plan)
    if plan.job.metering != before.metering:
        yield from metering_refusals(before, plan)


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
    cautions=lambda plan: start_cautions(plan.of(first_starts)),
    refusals=refusals,
)
