"""Fit as a stage of the job."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.job import Job, StageRecord, StageState
from gentle_ember.core.stage import RECORD, Caution, Item, Page, Plan, Stage, anew
from gentle_ember.core.stages.fit.holds import (
    evidence_items,
    find_items,
    fit_cautions,
    fit_items,
    intake_items,
    mount_cautions,
    tick_refusals,
)
from gentle_ember.core.stages.fit.marks.mount import mount_plans
from gentle_ember.core.stages.fit.sheet import fit_sheet


def _begun(plan: Plan) -> bool:
    """Whether the fitting has begun, so that its sheet holds the stage."""
    stage = plan.job.stages.get("fit", blank(StageRecord))
    return bool(plan.job.fit.steps) or stage.state is not StageState.NOT_STARTED


def items(plan: Plan) -> Iterator[Item]:
    """Open steps once the fitting has begun, and finds nobody has decided."""
    if _begun(plan):
        yield from fit_items(plan.of(fit_sheet))
        yield from intake_items(plan.of(fit_sheet))
        yield from evidence_items(plan)
    yield from find_items(plan.job)


def reopened(before: Job, plan: Plan) -> Iterator[Change]:
    """Steps a find undoes are open again, from the moment it is noted."""
    steps = plan.job.fit.steps
    for key, find in plan.job.fit.finds.items():
        was = before.fit.finds.get(key)
        for step in find.undoes:
            if (was is None or step not in was.undoes) and step in steps:
                yield Change(f"fit.steps.{step}", remove=True)


def cautions(plan: Plan) -> Iterator[Caution]:
    """Places that can't be, gas that was smelled, finds that stop the job."""
    yield from mount_cautions(plan.of(mount_plans))
    yield from fit_cautions(plan.job)


STAGE = Stage(
    "fit",
    "Fit",
    owns={"marks": anew, "fit": anew},
    pages=(
        Page("sheet", "Sheet", ("fit",), ("fit",)),
        Page("take", "Take along", ("fit",), ("fit.packed",)),
        Page("marks", "Marks", ("marks",), ("marks",)),
        Page(
            "map",
            "Screws and holes",
            ("fit",),
            ("fit.fasteners", "fit.left", "fit.back", "fit.gaskets", "fit.nuts"),
        ),
        Page("joints", "Joints", ("fit",)),
        RECORD,
        Page("bench", "Bench mode", ("fit",), tab=False),
    ),
    computed=frozenset(("fit.tight",)),
    items=items,
    cautions=cautions,
    refusals=tick_refusals,
    follows=reopened,
)
