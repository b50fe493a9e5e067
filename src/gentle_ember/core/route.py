"""The Route: each stage of a job with its state, and what the job as a whole waits for."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core.cautions import Caution, Severity
from gentle_ember.core.job import STAGES, Job, Stage, StageState, WaitsFor
from gentle_ember.core.readiness import Item

WAITS: dict[WaitsFor, str] = {
    WaitsFor.NOTHING: "ready to work on",
    WaitsFor.PARTS: "parts",
    WaitsFor.OWNER: "the owner",
    WaitsFor.FITTER: "a licensed fitter",
    WaitsFor.TEST: "a test day",
    WaitsFor.CORE_RETURN: "return of the core",
}


@dataclass(frozen=True, slots=True)
class Question:
    """Something the job does not say yet, and the field that answers it."""

    text: str
    path: str
    stage: str = "intake"


@dataclass(frozen=True, slots=True)
class RouteStage:
    """A stage as the Route shows it; `state` is one of done, stop, blocked, open, …"""

    key: str
    name: str
    state: str
    detail: str


def questions(job: Job) -> tuple[Question, ...]:
    """What intake has not answered, in the order a person finds it."""
    machine, key = job.set, job.site
    site = job.sites[key]
    asked = [
        (machine.running, "the running rating, from the data plate", "set.running"),
        (machine.starting, "the starting rating", "set.starting"),
        (machine.tank, "the size of the gasoline tank", "set.tank"),
        (site.elevation, "the site's elevation", f"sites.{key}.elevation"),
        (site.hottest, "the hottest day it runs", f"sites.{key}.hottest"),
        (site.coldest, "the coldest night it runs", f"sites.{key}.coldest"),
        (job.load.planned, "what it must carry", "load.planned"),
    ]
    return tuple(Question(text, path) for fact, text, path in asked if fact is None)


def initials_of(name: str) -> str:
    """Up to three initials of a name.

    >>> initials_of("Runa Kestle")
    'RK'
    """
    return "".join(part[0].upper() for part in name.split()[:3])


def sign_off_stops(
    before: Job, after: Job, found: tuple[Caution, ...], ready: tuple[Item, ...]
) -> list[tuple[str, str]]:
    """Stages newly signed off as done while something holds them, with what it is."""
    return [
        (key, text)
        for key, stage in after.stages.items()
        if stage.state is StageState.DONE
        and before.stages.get(key, Stage()).state is not StageState.DONE
        for text in [
            *(c.text for c in found if c.stage == key and c.severity is Severity.STOP),
            *(item.text for item in holding(ready, key)),
        ]
    ]


def holding(ready: tuple[Item, ...], stage: str) -> tuple[Item, ...]:
    """Open items of the readiness list that keep a stage from being signed off."""
    return tuple(item for item in ready if item.stage == stage and item.holds and not item.done)


def current_stage(job: Job) -> str:
    """The first stage that is not done; the logbook when all are."""
    for key in STAGES:
        if job.stages.get(key, Stage()).state is not StageState.DONE:
            return key
    return "logbook"


def waits_for(job: Job) -> WaitsFor:
    """What the job waits for: that of its earliest waiting stage."""
    for key in STAGES:
        stage = job.stages.get(key, Stage())
        if stage.state is StageState.WAITING:
            return stage.waits_for
    return WaitsFor.NOTHING


def route(job: Job, found: tuple[Caution, ...], ready: tuple[Item, ...]) -> tuple[RouteStage, ...]:
    """Every stage with its state and a line of detail."""
    return tuple(_stage(job, key, name, found, ready) for key, name in STAGES.items())


def _stage(
    job: Job, key: str, name: str, found: tuple[Caution, ...], ready: tuple[Item, ...]
) -> RouteStage:
    stage = job.stages.get(key, Stage())
    stops = [c for c in found if c.stage == key and c.severity is Severity.STOP]
    mind = [c for c in found if c.stage == key and c.severity is Severity.CAUTION]
    asked = [q for q in questions(job) if q.stage == key]
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
