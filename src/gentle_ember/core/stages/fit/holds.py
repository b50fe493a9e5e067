"""What holds a step, what of the fitting keeps a stage from being signed off, and what it stops."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.fit import StepRecord
from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import (
    NOTED,
    TO_DO,
    Caution,
    Item,
    Plan,
    Refusal,
    Severity,
    confirm_item,
)
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
        was = before.fit.steps.get(one.step.key, blank(StepRecord))
        settled = (one.record.state, one.record.of)
        if one.step.must and one.record.state == "skipped" and was.state != "skipped":
            text = "This step is not skipped: what comes after it rests on it."
            yield Refusal(f"fit.steps.{one.step.key}", text)
        if one.held and one.record.state != "open" and settled != (was.state, was.of):
            yield Refusal(f"fit.steps.{one.step.key}", one.held)


@dataclass(frozen=True, slots=True)
class PhotoEvidence:
    """A photo the sheet asked for with a step that was done: what it shows, how many there are."""

    step: str
    shows: str
    taken: int
    why_none: str

    @property
    def missing(self) -> bool:
        """Whether there is neither a photo nor a word why there is none."""
        return not self.taken and not self.why_none


def evidence(plan: Plan) -> tuple[PhotoEvidence, ...]:
    """Photos asked for with steps that were done, in the order of the sheet."""
    taken = [one.subject for one in plan.job.attachments.values()]
    return tuple(
        PhotoEvidence(
            one.step.key, one.step.photo, taken.count(f"fit.steps.{one.step.key}"),
            one.record.note.strip(),
        )
        for one in plan.of(fit_sheet).steps
        if one.step.photo and one.record.state == "done"
    )  # fmt: skip


def evidence_items(plan: Plan) -> Iterator[Item]:
    """Photos that are missing before it is handed over, as proof of what nobody sees again.

    One word why there are none settles them all; a step's own note settles its own.
    """
    missing = [one.shows for one in plan.of(evidence) if one.missing]
    if missing:
        more = f" and {len(missing) - 2} more" if len(missing) > 2 else ""
        text = (
            f"photos the sheet asked for, of {'; '.join(missing[:2])}{more}: taken, or a word why "
            "there are none"
        )
        yield confirm_item(
            plan.job, "photos", NOTED, text, "hand_over", number="why there are none"
        )


INTAKE_OPENED = frozenset(("plate", "carburetor_on", "mixer_on"))
"""Steps after which the intake is sealed by gaskets and nuts of this job."""


def intake_items(found: Sheet) -> Iterator[Item]:
    """Gaskets and nuts at the intake, said by whoever closed it."""
    if not any(one.step.key in INTAKE_OPENED for one in found.steps):
        return
    fit = found.case.job.fit
    for name, said, text in (
        ("gaskets", fit.gaskets, "gaskets at the intake: new ones, or the old once more"),
        ("nuts", fit.nuts, "nuts at the intake: full on every stud, or short"),
    ):
        if not said:
            yield Item(f"fit.{name}", NOTED, text, "fit", f"fit.{name}", holds=True, acts=True)


def find_items(job: Job) -> Iterator[Item]:
    """Finds in the middle of the work, and things in the way, that nobody has decided."""
    for key, one in job.fit.finds.items():
        if one.decision == "open":
            text = f"found mid-job, to be decided: {one.what}"
            yield Item(f"fit.find.{key}", TO_DO, text, "fit", f"fit.finds.{key}", holds=True)
        elif one.decision == "order":
            text = f"ordered for what was found: {one.what}"
            yield Item(f"fit.find.{key}", TO_DO, text, "fit", f"fit.finds.{key}", holds=True)
    for key, way in job.set.in_the_way.items():
        named, at = way.name or way.what.replace("_", " "), f"set.in_the_way.{key}"
        if way.remedy == "none":
            text = f"in the way, to be decided: {named}"
            yield Item(f"fit.way.{key}", TO_DO, text, "fit", f"{at}.remedy", holds=True)
        elif way.undo == "unknown":
            text = f"whether it can be put back as it was: {named}"
            yield Item(f"fit.way.{key}", NOTED, text, "fit", f"{at}.undo", holds=True)
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
                proving_settles=True,
            )
    if job.fit.gaskets == "reused":
        text = (
            "Gaskets used a second time at the intake: they leak air, and it runs lean and hot. "
            "Put new ones in."
        )
        yield Caution("fit.gaskets", Severity.STOP, "fit", text, "fit.gaskets")
    if job.fit.nuts == "short":
        text = "A nut at the intake is not full on its stud: it works loose. Longer studs first."
        yield Caution("fit.nuts", Severity.STOP, "fit", text, "fit.nuts")
    for key, one in job.fit.finds.items():
        if one.decision == "stop":
            yield Caution(
                f"fit.find.{key}",
                Severity.STOP,
                "fit",
                f"Stopped by what was found: {one.what.rstrip('.')}. Put it right, then decide "
                "again.",
                f"fit.finds.{key}",
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
