"""The stages in working order, and what the job as a whole comes to: lists, gate, Route.

`STAGES` is the one list of stages; everything here loops over it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.choices import CHOICES
from gentle_ember.core.job.job import Job, StageRecord, StageState, WaitsFor
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import (
    Act,
    Caution,
    Item,
    Plan,
    Question,
    Refusal,
    Severity,
    Stage,
    anew,
)
from gentle_ember.core.stages.first_start.stage import STAGE as FIRST_START
from gentle_ember.core.stages.fit.stage import STAGE as FIT
from gentle_ember.core.stages.fuel_path.stage import STAGE as FUEL_PATH
from gentle_ember.core.stages.hand_over.stage import STAGE as HAND_OVER
from gentle_ember.core.stages.intake.stage import STAGE as INTAKE
from gentle_ember.core.stages.load_test.stage import STAGE as LOAD_TEST
from gentle_ember.core.stages.logbook.stage import STAGE as LOGBOOK
from gentle_ember.core.stages.method.stage import STAGE as METHOD
from gentle_ember.core.stages.prove_tight.proof import left_to_prove
from gentle_ember.core.stages.prove_tight.stage import STAGE as PROVE_TIGHT

STAGES: tuple[Stage, ...] = (
    INTAKE, METHOD, FUEL_PATH, FIT, PROVE_TIGHT, FIRST_START, LOAD_TEST, HAND_OVER, LOGBOOK,
)  # fmt: skip
NAMES: dict[str, str] = {stage.key: stage.name for stage in STAGES}
BEFORE_IT_RUNS = frozenset(list(NAMES)[: list(NAMES).index("first_start") + 1])
"""Stages whose stops forbid every act with the machine."""
OWN = {"stages": anew}
"""What belongs to no stage: the record of the stages themselves."""
ON_DEMAND = frozenset(path for stage in STAGES for path in stage.on_demand)
COMPUTED = frozenset(path for stage in STAGES for path in stage.computed)

WAITS: dict[WaitsFor, str] = {WaitsFor(str(key)): text for key, text in CHOICES["waits"]}


@dataclass(frozen=True, slots=True)
class RouteStage:
    """A stage as the Route shows it; `state` is one of done, stop, blocked, open, …"""

    key: str
    name: str
    state: str
    detail: str


def initials_of(name: str) -> str:
    """Up to three initials of a name.

    >>> initials_of("Runa Kestle")
    'RK'
    """
    return "".join(part[0].upper() for part in name.split()[:3])


def sign_off_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """Stages newly signed off as done while something holds them, with what it is."""
    for key, stage in plan.job.stages.items():
        was = before.stages.get(key, StageRecord()).state
        if stage.state is not StageState.DONE or was is StageState.DONE:
            continue
        for text in (
            *(c.text for c in plan.of(cautions) if c.stage == key and c.severity is Severity.STOP),
            *(item.text for item in holding(plan.of(open_items), key)),
        ):
            yield Refusal(f"stages.{key}", f"Still open, and holds this stage: {text}")


def holding(ready: tuple[Item, ...], stage: str) -> tuple[Item, ...]:
    """Open items of the readiness list that keep a stage from being signed off."""
    return tuple(item for item in ready if item.stage == stage and item.holds and not item.done)


def current_stage(job: Job) -> str:
    """The first stage that is not done; the logbook when all are."""
    for key in NAMES:
        if job.stages.get(key, StageRecord()).state is not StageState.DONE:
            return key
    return "logbook"


def waits_for(job: Job) -> WaitsFor:
    """What the job waits for: that of its earliest waiting stage."""
    for key in NAMES:
        stage = job.stages.get(key, StageRecord())
        if stage.state is StageState.WAITING:
            return stage.waits_for
    return WaitsFor.NOTHING


def route(plan: Plan) -> tuple[RouteStage, ...]:
    """Every stage with its state and a line of detail."""
    return tuple(_stage(plan, key, name) for key, name in NAMES.items())


def _stage(plan: Plan, key: str, name: str) -> RouteStage:
    job, found, ready = plan.job, plan.of(cautions), plan.of(open_items)
    stage = job.stages.get(key, StageRecord())
    stops = [c for c in found if c.stage == key and c.severity is Severity.STOP]
    mind = [c for c in found if c.stage == key and c.severity is Severity.CAUTION]
    asked = [q for q in plan.of(questions) if q.stage == key]
    held = holding(ready, key)
    counts = []
    if stops:
        counts.append(f"{len(stops)} stop" + "s" * (len(stops) > 1))
    if held:
        counts.append(f"{len(held)} to settle")
    if asked:
        counts.append(f"{len(asked)} open question" + "s" * (len(asked) > 1))
    if mind and not stops:
        counts.append(f"{len(mind)} caution" + "s" * (len(mind) > 1))
    detail = ", ".join(counts[:2])
    if stops:
        return RouteStage(key, name, "stop", detail)
    if stage.state is StageState.DONE:
        signed = f"by {initials_of(stage.by)}" if stage.by else "done"
        return RouteStage(key, name, "done", f"{signed}, {detail}" if detail else signed)
    if stage.state is StageState.WAITING:
        return RouteStage(key, name, "waiting", f"waits for {WAITS[stage.waits_for]}")
    if held and key == current_stage(job):
        return RouteStage(key, name, "blocked", f"blocked: {detail}")
    if asked and (stage.state is StageState.UNDER_WAY or key == current_stage(job)):
        return RouteStage(key, name, "open", detail)
    if stage.state is StageState.UNDER_WAY:
        return RouteStage(key, name, "under_way", detail or "under way")
    return RouteStage(key, name, "not_started", detail)


def questions(plan: Plan) -> tuple[Question, ...]:
    """What the job does not say yet."""
    return tuple(one for stage in STAGES for one in stage.questions(plan))


def open_items(plan: Plan) -> tuple[Item, ...]:
    """What is not known, not at hand, not weighed, or waits for somebody: one list for the job."""
    return tuple(one for stage in STAGES for one in stage.items(plan))


def cautions(plan: Plan) -> tuple[Caution, ...]:
    """Stops, cautions and what always stands, stops first."""
    found = [one for stage in STAGES for one in stage.cautions(plan)]
    return tuple(sorted(found, key=lambda one: list(Severity).index(one.severity)))


def contradictions(job: Job) -> tuple[Refusal, ...]:
    """Facts of a job that can't both be true; never taken, whoever sends them."""
    unknown = (
        Refusal(f"stages.{name}", "There is no such stage.")
        for name in job.stages
        if name not in NAMES
    )
    return (*(one for stage in STAGES for one in stage.contradictions(job)), *unknown)


def refusals(before: Job, plan: Plan) -> tuple[Refusal, ...]:
    """What a write may not do: every write passes here, whoever makes it and by whatever way."""
    signed = sign_off_refusals(before, plan) if plan.job.stages != before.stages else ()
    done = [act for stage in STAGES for act in stage.acts(before, plan)]
    return (
        *signed,
        *(one for act in done for one in _held_against(act, plan)),
        *(one for stage in STAGES for one in stage.refusals(before, plan)),
    )


def _held_against(act: Act, plan: Plan) -> Iterator[Refusal]:
    for text in forbids(plan, act.fuel):
        yield Refusal(act.path, f"{act.what}: {text}")


def forbids(plan: Plan, fuel: str) -> tuple[str, ...]:
    """What of the whole job forbids an act with the machine on a fuel: what was not judged holds.

    A gas needs a train that could be judged and is proven tight. No act is done while a stop
    stands of any stage up to the first start, but for another fuel's own train.
    """
    found: list[str] = []
    if fuel != FuelKey.GASOLINE:
        left = plan.of(left_to_prove).get(fuel)
        if left is None:
            found.append(
                "its train was not judged. Give the running rating, a method and a train first."
            )
        elif left:
            found.append(f"not proven tight. {'; '.join(left)}.")
    others = tuple(
        f"{kind}.{other}." for kind in ("train", "proof.leak") for other in FuelKey if other != fuel
    )
    found += [
        one.text for one in plan.of(cautions)
        if one.severity is Severity.STOP and one.stage in BEFORE_IT_RUNS
        and not one.key.startswith(others)
    ]  # fmt: skip
    return tuple(found)


def implied(before: Job, plan: Plan) -> tuple[Change, ...]:
    """What a write brings with it."""
    return tuple(one for stage in STAGES for one in stage.follows(before, plan))


def copied(job: Job) -> Job:
    """A new job for a set like this one at the same sites; nothing in it is done or consented."""
    made: dict[str, Any] = {}
    for owned in (*(stage.owns for stage in STAGES), OWN):
        for name, copy in owned.items():
            if copy is anew:
                made[name] = Job.model_fields[name].get_default(call_default_factory=True)
            else:
                made[name] = copy(getattr(job, name))
    return job.model_copy(update=made)
