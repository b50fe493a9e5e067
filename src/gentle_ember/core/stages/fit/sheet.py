"""The fit sheet: steps in order, each as it stands, what a changed train undid, and the time."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from gentle_ember.core.base.figure import Figure
from gentle_ember.core.estimates.jets import jet_decision
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.fit import StepRecord, Tight
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.case import FitCase, key_of
from gentle_ember.core.stages.fit.marks.mount import mount_plans
from gentle_ember.core.stages.fit.smell import SMELLED
from gentle_ember.core.stages.fit.step import GATES, Step, ordered
from gentle_ember.core.stages.fit.steps import (
    air,
    carburetor,
    finish,
    gas,
    joints,
    mounts,
    prepare,
    tank,
)
from gentle_ember.core.stages.fit.times import LearnedTime, whole
from gentle_ember.core.stages.fuel_path.trains import parts_of, trains_to_build
from gentle_ember.core.stages.intake.walk_round import must_be_put_right, walk_tasks

RETIRED = ("back-plug_boot", "back-battery")
"""Steps older sheets had: boot and battery go on at the start gate now, after the leak test."""
PARTS = (
    prepare.prepare,
    prepare.drain,
    prepare.covers,
    mounts.mounts,
    finish.found_work,
    air.air,
    carburetor.carburetor,
    tank.tank,
    joints.steps,
    gas.gas,
    finish.added,
)
"""Where steps come from, in the order places are gone to when nothing else decides."""


StepState = Literal["open", "next", "done", "skipped", "stale"]


@dataclass(frozen=True, slots=True)
class SheetStep:
    """A step as it stands: open, next, done, skipped, or stale since the sheet changed."""

    step: Step
    state: StepState
    record: StepRecord
    waits: tuple[str, ...]
    """Keys of the steps before it that are still open."""
    held: str = ""
    """The stop that keeps it from being ticked or skipped; empty when nothing does."""


@dataclass(frozen=True, slots=True)
class Undone:
    """Work that was done and that the sheet no longer has: to be taken out or let be."""

    key: str
    what: str
    record: StepRecord


@dataclass(frozen=True, slots=True)
class JointState:
    """A joint: whether it is made, whether it passed a leak test, and why that no longer counts."""

    joint: joints.JointAt
    step: str
    """Its step on the sheet; empty for what is made on the day or by the fitter."""
    made: bool
    tight: Tight
    void: str
    subject: str
    """What a pass is given to: the parts, and the making of it."""

    @property
    def passed(self) -> bool:
        """Whether its leak pass counts."""
        return self.tight.passed and not self.void


@dataclass(frozen=True)
class Sheet:
    """The whole sheet."""

    case: FitCase
    steps: tuple[SheetStep, ...]
    undone: tuple[Undone, ...]

    @property
    def next(self) -> SheetStep | None:
        """The step to do now."""
        return next((one for one in self.steps if one.state == "next"), None)

    @property
    def open(self) -> tuple[SheetStep, ...]:
        """What is still to be done."""
        return tuple(one for one in self.steps if one.state in ("open", "next", "stale"))

    def whole(self, times: Mapping[str, LearnedTime]) -> Figure:
        """Bench time of all steps, by what the shop took before."""
        return whole("Bench time", [(s.step.kind, s.step.minutes) for s in self.steps], times)

    def left(self, times: Mapping[str, LearnedTime]) -> Figure:
        """Bench time of what is open."""
        return whole("Time left", [(s.step.kind, s.step.minutes) for s in self.open], times)

    @cached_property
    def joints(self) -> tuple[JointState, ...]:
        """Every joint of the trains, in the order of the flow."""
        return tuple(_joints(self))


def steps_of(case: FitCase) -> tuple[Step, ...]:
    """Every step of a job in order: open, work, close up in reverse, finish."""
    if not case.methods:
        return ()
    main = ordered(step for part in PARTS for step in part(case))
    closed = tuple(finish.closing(case, main))
    last = closed[-1].key if closed else main[-1].key
    return (*main, *closed, *finish.finish(case, last))


def sheet(case: FitCase) -> Sheet:
    """The sheet of a job with what was done on it."""
    steps = steps_of(case)
    holds = holding(case)
    records = case.job.fit.steps
    settled = {step.key for step in steps if _settled(step, records.get(step.key))}
    keys = {step.key for step in steps}
    found: list[SheetStep] = []
    given = False
    for step in steps:
        record = records.get(step.key, blank(StepRecord))
        waits = tuple(key for key in step.after if key in keys and key not in settled)
        state = _state(step, record)
        if state in ("open", "stale") and not waits and not given:
            state, given = "next" if state == "open" else state, True
        found.append(SheetStep(step, state, record, waits, holds(step)))
    undone = tuple(
        Undone(key, record.what or key, record)
        for key, record in records.items()
        if key not in keys and record.state == "done" and key not in RETIRED
    )
    return Sheet(case, tuple(found), undone)


def _state(step: Step, record: StepRecord) -> StepState:
    if record.state == "done":
        return "done" if record.of == step.subject else "stale"
    return record.state


def _settled(step: Step, record: StepRecord | None) -> bool:
    return record is not None and _state(step, record) in ("done", "skipped")


def _joints(found: Sheet) -> Iterator[JointState]:
    by_joint = {one.step.joint: one for one in found.steps if one.step.joint}
    for at in joints.joints(found.case.trains):
        one = by_joint.get(at.key)
        tight = found.case.job.fit.tight.get(joint_key(at.key), blank(Tight))
        made = one.state == "done" if one else not at.on_day
        subject = f"{at.subject}@{one.record.on if one else ''}"[:200]
        void = _void(at, one, tight, subject)
        yield JointState(at, one.step.key if one else "", made, tight, void, subject)


def joint_key(key: str) -> str:
    """A joint's key in the job, from train and slot.

    >>> joint_key("natural_gas.near_shut_off")
    'natural_gas-near_shut_off'
    """
    return key.replace(".", "-")[:40]


def _void(at: joints.JointAt, one: SheetStep | None, tight: Tight, subject: str) -> str:
    """Why a leak pass no longer counts; empty while it does.

    A making of a joint is told by its stamp being another one, never by which is later: clocks of
    two phones may be an hour apart.
    """
    if not tight.passed:
        return ""
    if not tight.of.startswith(f"{at.subject}@"):
        return "other parts are here now"
    if one is not None and one.state != "done":
        return "opened again"
    return "" if tight.of == subject else "made again after it passed"


def fit_sheet(plan: Plan) -> Sheet:
    """The fit sheet of this set, method and trains, with what was done on it."""
    job = plan.job
    parts = parts_of(job, plan.catalog)
    case = FitCase(
        job, plan.of(trains_to_build), parts, plan.of(walk_tasks), plan.of(mount_plans),
        job.choice.methods, plan.of(jet_decision),
    )  # fmt: skip
    return sheet(case)


UNJUDGED = ("unknown", "limits")
"""Rules of a part nobody can judge: none of its train's joints is made before it is known."""
DEAD = (
    "This set does not run. Put right what the walk-round found, and prove it on gasoline, before "
    "anything is fitted to it."
)
PULLS_OUT = (
    "Backed out so far the stud may pull its thread out of the casting: measure the thread in it, "
    "or choose longer studs."
)
LACKS = "Drawn together it still lacks a full nut with a pitch showing: longer studs or extensions."


def holding(case: FitCase) -> Callable[[Step], str]:
    """Why a step must not be done now, as a function of the step; empty when it may.

    Gas not cleared, or a find that stops the job, holds every step; a stop of a train holds its
    joints; a place that must not be drilled holds its mount; a stud that would pull out its own.
    """
    everything = ""
    if any(not smell.cleared for smell in case.job.fit.smelled.values()):
        everything = SMELLED
    for find in case.job.fit.finds.values():
        if find.decision == "stop":
            everything = everything or f"Stopped: {find.what}"
    trains = {
        fuel: next((one.text for one in train.troubles if one.stops or one.rule in UNJUDGED), "")
        for fuel, train in case.trains.items()
    }
    pulls_out = case.stud_work is not None and case.stud_work.pulls_out
    lacks = case.stud_work is not None and case.stud_work.lacks_m > 0
    dead = must_be_put_right(case.job)
    places = {key_of("place", one.key): one.stops[0][0] for one in case.mounts if one.stops}

    def held(step: Step) -> str:
        if step.kind == "stud" and pulls_out:
            return everything or PULLS_OUT
        if step.kind == "stud" and lacks:
            return everything or LACKS
        if dead and step.phase not in GATES and step.kind not in ("task", "own"):
            return everything or DEAD
        train = trains.get(step.fuel, "") if step.joint else ""
        return (
            everything
            or places.get(step.key, "")
            or (train and f"Not before the train is put right: {train}")
        )

    return held
