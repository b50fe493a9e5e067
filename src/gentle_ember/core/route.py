"""The stages in working order, and what the job as a whole comes to: lists, gate, Route.

`STAGES` is the one list of stages; everything here loops over it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.choices import CHOICES
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.job import REMOTE_TANKS, Job, StageRecord, StageState, WaitsFor
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import (
    NOTED,
    SOMEBODY,
    TO_DO,
    UNKNOWN,
    UNWEIGHED,
    Act,
    Caution,
    Doing,
    Hold,
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
from gentle_ember.core.stages.prove_tight.proof import factory_gas, left_to_prove
from gentle_ember.core.stages.prove_tight.stage import STAGE as PROVE_TIGHT

STAGES: tuple[Stage, ...] = (
    INTAKE, METHOD, FUEL_PATH, FIT, PROVE_TIGHT, FIRST_START, LOAD_TEST, HAND_OVER, LOGBOOK,
)  # fmt: skip
NAMES: dict[str, str] = {stage.key: stage.name for stage in STAGES}
BEFORE_IT_RUNS = frozenset(list(NAMES)[: list(NAMES).index("first_start") + 1])
"""Stages whose stops forbid every act with the machine."""
BEFORE_GAS = BEFORE_IT_RUNS - {"first_start"}
"""Stages whose stops forbid opening the source on a train that is being proven."""
NEVER_LEFT_OUT = ("intake", "fuel_path", "prove_tight", "first_start")
"""Stages on which somebody's safety rests: signed, never left out."""
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


OPEN_WORDS = {
    UNKNOWN: "not given", TO_DO: "not done", UNWEIGHED: "not weighed", SOMEBODY: "not confirmed",
    NOTED: "not seen yet",
}  # fmt: skip
"""How an open item reads where it forbids something."""
PASSED = (StageState.DONE, StageState.LEFT_OUT)


def passed(job: Job, stage: str) -> bool:
    """Whether a stage was signed, or left out on purpose."""
    return job.stages.get(stage, blank(StageRecord)).state in PASSED


def sign_off_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """Stages newly signed off, or left out, while something holds them, with what it is."""
    for key, stage in plan.job.stages.items():
        if key not in NAMES or stage.state not in PASSED:
            continue
        if stage.state is before.stages.get(key, blank(StageRecord)).state:
            continue
        left_out = stage.state is StageState.LEFT_OUT
        for hold in plan.of(holds_leaving_out if left_out else holds_signing)[key]:
            yield Refusal(f"stages.{key}", f"Still open, and holds this stage: {hold.text}")
        if not stage.by.strip():
            yield Refusal(f"stages.{key}", "Say who signs it.")
        if left_out and not stage.note.strip():
            yield Refusal(f"stages.{key}", "Say in the note why it is left out.")


def signature_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """Names newly put under a stage's record while something but the signing itself holds it."""
    for stage in STAGES:
        for place in stage.signs(before, plan):
            for hold in before_signing(plan, stage):
                yield Refusal(place, f"Not signed while this is open: {hold.text}")


def before_signing(plan: Plan, stage: Stage) -> tuple[Hold, ...]:
    """What a stage's record waits for before names are put under it: all but those names."""
    own = {one.path for one in stage.items(plan) if one.key == "sealed"}
    return tuple(one for one in plan.of(holds_signing)[stage.key] if one.path not in own)


def holds_signing(plan: Plan) -> dict[str, tuple[Hold, ...]]:
    """What keeps each stage from being signed, in words; empty where it may be.

    A stage rests on those before it: on their signatures, and on nothing of theirs having been
    opened again.
    """
    ready, found = plan.of(open_items), plan.of(cautions)
    order = list(NAMES)
    held: dict[str, tuple[Hold, ...]] = {}
    for at, key in enumerate(order):
        before = set(order[: at + 1])
        holds = [
            Hold(
                f"{NAMES[one]} comes first, and is neither signed nor left out on purpose.",
                f"stages.{one}",
            )
            for one in order[:at]
            if not passed(plan.job, one)
        ]
        holds += [
            Hold(one.text, one.path or "")
            for one in found
            if one.stage in before and one.severity is Severity.STOP
        ]
        holds += [
            Hold(item.text, item.path)
            for one in order[: at + 1]
            if one == key or passed(plan.job, one)
            for item in holding(ready, one)
        ]
        held[key] = tuple(dict.fromkeys(holds))
    return held


def holds_leaving_out(plan: Plan) -> dict[str, tuple[Hold, ...]]:
    """What keeps each stage from being left out on purpose; never past a stop."""
    order = list(NAMES)
    held: dict[str, tuple[Hold, ...]] = {}
    for at, key in enumerate(order):
        if key in NEVER_LEFT_OUT:
            held[key] = (Hold("this stage is never left out: somebody's safety rests on it."),)
            continue
        stops = (c for c in plan.of(cautions) if c.severity is Severity.STOP)
        held[key] = tuple(
            Hold(one.text, one.path or "") for one in stops if one.stage in order[: at + 1]
        )
    return held


def holding(ready: tuple[Item, ...], stage: str) -> tuple[Item, ...]:
    """Open items of the readiness list that keep a stage from being signed off."""
    return tuple(item for item in ready if item.stage == stage and item.holds and not item.done)


def current_stage(job: Job) -> str:
    """The first stage that is neither signed nor left out; the logbook when all are."""
    return next((key for key in NAMES if not passed(job, key)), "logbook")


def handed_over(job: Job) -> bool:
    """Whether every stage up to the hand-over is signed or left out: the set is in service."""
    return current_stage(job) == "logbook"


def waits_for(job: Job) -> WaitsFor:
    """What the job waits for: that of its earliest waiting stage."""
    for key in NAMES:
        stage = job.stages.get(key, blank(StageRecord))
        if stage.state is StageState.WAITING:
            return stage.waits_for
    return WaitsFor.NOTHING


def route(plan: Plan) -> tuple[RouteStage, ...]:
    """Every stage with its state and a line of detail."""
    return tuple(_stage(plan, key, name) for key, name in NAMES.items())


def _stage(plan: Plan, key: str, name: str) -> RouteStage:
    job, found, ready = plan.job, plan.of(cautions), plan.of(open_items)
    stage = job.stages.get(key, blank(StageRecord))
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
    if stage.state is StageState.LEFT_OUT:
        return RouteStage(key, name, "left_out", f"left out by {initials_of(stage.by)}")
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


_HARDNESS = {severity: at for at, severity in enumerate(Severity)}


def cautions(plan: Plan) -> tuple[Caution, ...]:
    """Stops, cautions and what always stands, stops first."""
    found = [one for stage in STAGES for one in stage.cautions(plan)]
    return tuple(sorted(found, key=lambda one: _HARDNESS[one.severity]))


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
        *signature_refusals(before, plan),
        *(one for act in done for one in _held_against(act, plan)),
        *(one for stage in STAGES for one in stage.refusals(before, plan)),
    )


def _held_against(act: Act, plan: Plan) -> Iterator[Refusal]:
    for hold in (*forbids(plan, act.fuel, act.doing, act.site), *act.own):
        yield Refusal(act.path, f"{act.what}: {hold.text}")


def forbids(plan: Plan, fuel: str, doing: Doing = Doing.RUN, site: str = "") -> tuple[Hold, ...]:
    """What of the whole job forbids an act with the machine on a fuel: what was not judged holds.

    A gas needs a train that could be judged, and to run on it one that is proven tight; gasoline
    needs the same of a remote tank. Nothing is done while something is not known that it rests
    on, nor while a stop stands of any stage before it, but for another fuel's own train.

    Args:
        plan: of the whole job.
        fuel: the fuel it is done on.
        doing: what kind of act it is.
        site: where it is done; empty for one that every site must allow.
    """
    found: list[Hold] = []
    left = plan.of(left_to_prove).get(fuel)
    remote = REMOTE_TANKS & set(plan.job.choice.methods)
    if not plan.job.choice.methods and (left is not None or fuel != FuelKey.GASOLINE):
        found.append(
            Hold("no method is chosen, so that nothing of the set was judged.", "choice.methods")
        )
    trained = not factory_gas(plan.job, fuel) and (fuel != FuelKey.GASOLINE or remote)
    if left is None and trained:
        found.append(
            Hold(
                "its train was not judged. Give the running rating, a method and a train first.",
                "trains" if plan.job.set.running else "set.running",
            )
        )
    elif left and doing is not Doing.LET_IN:
        found.append(Hold(f"not proven tight. {'; '.join(left)}.", f"proof.{fuel}"))
    stages = BEFORE_GAS if doing is Doing.LET_IN else BEFORE_IT_RUNS
    waits = stages | {"load_test"} if doing is Doing.NEAR_RATING else stages
    found += [
        Hold(one.text, one.path or "") for one in plan.of(cautions)
        if one.severity is Severity.STOP and one.stage in stages
        and not (one.proving_settles and doing is Doing.LET_IN)
        and one.fuel in ("", fuel)
        and (not site or one.site in ("", site))
    ]  # fmt: skip
    found += [
        Hold(f"{OPEN_WORDS[one.kind]}: {one.text}.", one.path)
        for one in plan.of(open_items)
        if one.acts
        and not one.done
        and one.stage in waits
        and one.fuel in ("", fuel)
        and (not site or one.site in ("", site))
    ]
    return tuple(dict.fromkeys(found))


@dataclass(frozen=True, slots=True)
class Unearned:
    """A signature or an act of a job from elsewhere that is not allowed here as it stands."""

    refusal: Refusal
    back: Change
    """The write that takes it out of the job."""


def unearned(job: Job, plan: Plan) -> tuple[Unearned, ...]:
    """Signatures and acts of a job from elsewhere that would not be allowed here as it stands."""
    blank = Job(title=job.title, sites=job.sites, site=job.site)
    signed = (
        Unearned(one, _unsigned(job, one.path.removeprefix("stages.")))
        for one in sign_off_refusals(blank, plan)
    )
    done = (
        Unearned(one, act.back)
        for stage in STAGES
        for act in stage.acts(blank, plan)
        for one in _held_against(act, plan)
    )
    return (*signed, *done)


def _unsigned(job: Job, stage: str) -> Change:
    """A stage under way again, its note naming the signature that was not taken over."""
    record = job.stages[stage]
    said = f"Signature of {record.by or 'nobody'}{f', {record.on}' if record.on else ''}"
    note = f"{record.note} {said} not taken over on import.".strip()
    update = {"state": StageState.UNDER_WAY, "by": "", "on": "", "note": note}
    return Change(f"stages.{stage}", record.model_copy(update=update).model_dump(mode="json"))


def implied(before: Job, plan: Plan) -> tuple[Change, ...]:
    """What a write brings with it."""
    return tuple(one for stage in STAGES for one in stage.follows(before, plan))


def next_on_set(job: Job, job_id: str) -> Job:
    """A new job on the very set of another, with its logbook carried on; nothing else is done."""
    log = job.logbook.model_copy(update={"before": job_id, "ended": "", "ended_as": ""})
    title = f"{job.title[:110]}, next job"
    return copied(job).model_copy(update={"title": title, "logbook": log})


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
