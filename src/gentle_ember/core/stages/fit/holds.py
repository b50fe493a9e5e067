"""What holds a step, what of the fitting keeps a stage from being signed off, and what it stops."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from gentle_ember.core.job.fit import StepRecord
from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import TO_DO, Caution, Item, Plan, Refusal, Severity
from gentle_ember.core.stages.fit.marks.mount import MountPlan
from gentle_ember.core.stages.fit.sheet import Sheet, fit_sheet
from gentle_ember.core.stages.fit.smell import SMELLED


def fit_items(found: Sheet) -> Iterator[Item]:
    """Open steps, stale ones, and work the sheet no longer has."""
    if found.open:
        stale = sum(one.state == "stale" for one in found.open)
        text = f"{len(found.open)} of {len(found.steps)} steps of the fit sheet open"
        if stale:
            text += f", {stale} of them undone by a change"
        yield Item("fit.steps", TO_DO, text, "fit", "fit.steps", holds=True)
    for one in found.undone:
        text = f"no longer on the sheet, take it out or say why it stays: {one.what}"
        yield Item(f"fit.undone.{one.key}", TO_DO, text, "fit", f"fit.steps.{one.key}", holds=True)


def tick_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """Steps newly ticked or skipped while a stop holds them, with the stop.

    A note on a step settled earlier settles nothing anew.
    """
    for one in plan.of(fit_sheet).steps:
        was = before.fit.steps.get(one.step.key, StepRecord())
        settled = (one.record.state, one.record.of)
        if one.held and one.record.state != "open" and settled != (was.state, was.of):
            yield Refusal(f"fit.steps.{one.step.key}", one.held)


def find_items(job: Job) -> Iterator[Item]:
    """Finds in the middle of the work that nobody has decided."""
    for key, one in job.fit.finds.items():
        if one.decision == "open":
            text = f"found mid-job, to be decided: {one.what}"
            yield Item(f"fit.find.{key}", TO_DO, text, "fit", f"fit.finds.{key}", holds=True)
        elif one.decision == "order":
            text = f"ordered for what was found: {one.what}"
            yield Item(f"fit.find.{key}", TO_DO, text, "fit", f"fit.finds.{key}", holds=True)
    for key, hole in job.fit.left.items():
        if hole.kind == "hole" and hole.state == "abandoned":
            text = f"abandoned hole, to be closed: {hole.what}"
            yield Item(f"fit.left.{key}", TO_DO, text, "fit", f"fit.left.{key}", holds=True)


def fit_cautions(job: Job) -> Iterator[Caution]:
    """Gas that was smelled and not cleared; a find that stops the job."""
    for key, smell in job.fit.smelled.items():
        if not smell.cleared:
            yield Caution(
                f"fit.smell.{key}",
                Severity.STOP,
                "fit",
                SMELLED,
                f"fit.smelled.{key}",
            )
    for key, one in job.fit.finds.items():
        if one.decision == "stop":
            yield Caution(
                f"fit.find.{key}", Severity.STOP, "fit", f"Stopped: {one.what}", f"fit.finds.{key}"
            )


def mount_cautions(mounts: Iterable[MountPlan]) -> Iterator[Caution]:
    """Places that can't be, and places that are dangerous to drill."""
    for one in mounts:
        name = one.part.name.split(",")[0] if one.part else one.mount.name or "mount"
        name = name[0].upper() + name[1:]
        for text, path in one.stops:
            yield Caution(f"marks.{one.key}", Severity.STOP, "fit", f"{name}: {text}", path)
        if one.blockers and not one.stops:
            ways = ", ".join(blocker.what for blocker in one.blockers)
            yield Caution(
                f"marks.{one.key}", Severity.CAUTION, "fit",
                f"{name}: no place on this face, in the way: {ways}.", one.blockers[0].path,
            )  # fmt: skip
