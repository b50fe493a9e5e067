"""Logbook as a stage of the job: the set in service, its runs and its upkeep."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import RECORD, Caution, Page, Plan, Refusal, Stage, anew
from gentle_ember.core.stages.logbook.hours import (
    logbook_contradictions,
    logbook_refusals,
    twice_cautions,
)
from gentle_ember.core.stages.logbook.stock import stock_contradictions
from gentle_ember.core.stages.logbook.upkeep import upkeep_cautions
from gentle_ember.core.stages.logbook.watch import watch_cautions


def cautions(plan: Plan) -> Iterator[Caution]:
    """What is overdue, and a use of fuel that rose."""
    yield from upkeep_cautions(plan)
    yield from watch_cautions(plan)
    yield from twice_cautions(plan)


def contradictions(job: Job) -> Iterator[Refusal]:
    """What can't be so, of runs and of what is at hand."""
    yield from logbook_contradictions(job)
    yield from stock_contradictions(job)


STAGE = Stage(
    "logbook",
    "Logbook",
    owns={"archived": anew, "logbook": anew},
    pages=(
        Page("runs", "Runs", ("logbook",), ("logbook.runs", "logbook")),
        Page("upkeep", "Upkeep", ("logbook",), ("logbook.upkeep",)),
        Page("stock", "Stock", ("logbook",), ("logbook.cylinders", "logbook.cans")),
        RECORD,
    ),
    contradictions=contradictions,
    refusals=logbook_refusals,
    cautions=cautions,
)
