"""Fuel path as a stage of the job: its trains, what they need on the site, what is on order."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.dates import HOSE_YEARS, dated
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import AGING
from gentle_ember.core.job.part_copies import pin_changes
from gentle_ember.core.job.train import AS_FOUND, Train
from gentle_ember.core.stage import (
    NOTED,
    RECORD,
    TO_DO,
    UNKNOWN,
    Caution,
    Item,
    Page,
    Plan,
    Refusal,
    Severity,
    Stage,
    anew,
    confirm_item,
    dated_caution,
    kept,
)
from gentle_ember.core.stages.fuel_path.parts_list import Source, parts_list
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.fuel_path.trains import (
    job_trains,
    not_known_items,
    own_train,
    site_connections,
    train_cautions,
)


def contradictions(job: Job) -> Iterator[Refusal]:
    """Trains of a kind that is none, or of another fuel."""
    for name, train in job.trains.items():
        template, path = TEMPLATES.get(train.template), f"trains.{name}"
        if template is None:
            yield Refusal(f"{path}.template", "There is no such kind of train.")
        elif name not in (template.fuel, AS_FOUND):
            yield Refusal(
                f"{path}.template",
                f"That kind of train is for {template.fuel.replace('_', ' ')}, not for {name}.",
            )


def fuel_path_items(plan: Plan) -> Iterator[Item]:
    """Each train's joint on the site to be looked at, and parts on order."""
    found = plan.of(job_trains)
    for name, train in plan.job.trains.items():
        if train.slots and name not in found:
            text = f"{name.replace('_', ' ')} train not judged: give the running rating first"
            yield Item(f"judged.{name}", UNKNOWN, text, "fuel_path", "set.running", holds=True)
    yield from not_known_items(plan)
    yield from _found_off(plan)
    kit = plan.catalog.kits.get(plan.job.kit)
    said = kit.judged(plan.job.set) if kit else None
    if kit and said and said.fits is None:
        text = f"whether “{kit.name}” is for this set hangs on it: {said.why}"
        yield Item("kit.not_known", UNKNOWN, text, "fuel_path", said.path, holds=True)
    yield from _connections(plan.job, site_connections(found))
    orders = tuple(
        (line.here(plan.job.arrived), line.part.days)
        for line in (plan.of(parts_list).lines if found else ())
        if line.source is Source.ORDER
    )
    yield from _orders(orders)


def fuel_path_cautions(plan: Plan) -> Iterator[Caution]:
    """Faults of the trains, hoses whose rubber is past its years, a kit that is ruled out."""
    yield from train_cautions(plan)
    yield from _kit_cautions(plan)
    for name, train in plan.job.trains.items():
        fuel = str(TEMPLATES[train.template].fuel)
        for key, slot in train.slots.items():
            part = plan.job.parts.get(slot.part)
            if part is None or part.kind not in AGING or not slot.made or plan.today is None:
                continue
            found = dated_caution(
                f"hose.{name}.{key}", part.name, dated(slot.made, HOSE_YEARS, plan.today),
                "replace it.", f"trains.{name}.slots.{key}.made", "fuel_path", fuel,
            )  # fmt: skip
            if found is not None:
                yield found


def _kit_cautions(plan: Plan) -> Iterator[Caution]:
    """A kit its maker rules out for this set is not fitted to it."""
    kit = plan.catalog.kits.get(plan.job.kit)
    if kit is None:
        return
    said = kit.judged(plan.job.set)
    if said.fits is False:
        text = f"“{kit.name}” is not for this set: {said.why}. Another kit, or part by part."
        yield Caution("kit.ruled_out", Severity.STOP, "fuel_path", text, "kit")


def _found_off(plan: Plan) -> Iterator[Item]:
    """Somebody else's conversion is off the set before this job's own is proven on it."""
    found = plan.of(job_trains).get(AS_FOUND)
    if found is None or not own_train(plan.job, found.case.asked.template.fuel):
        return
    if not any(one.stops or one.holds for one in found.troubles):
        return
    text = "the conversion found on the set is off, or rebuilt as this job's train"
    yield confirm_item(plan.job, "found_off", TO_DO, text, "fit", acts=True)


def _connections(job: Job, connections: tuple[tuple[str, str], ...]) -> Iterator[Item]:
    """A hose that does not mate on the day loses the visit: each joint on the site, looked at."""
    for name, text in connections:
        yield confirm_item(
            job, f"connect_{name}", NOTED, f"on the site: {text}", "fit", holds=False
        )


def _orders(orders: tuple[tuple[bool, int], ...]) -> Iterator[Item]:
    waiting = [days for here, days in orders if not here]
    if orders:
        text = (
            f"{len(waiting)} of {len(orders)} ordered parts not here, the last in "
            f"{max(waiting)} days" if waiting else f"all {len(orders)} ordered parts are here"
        )  # fmt: skip
        yield Item("orders", TO_DO, text, "fit", "arrived", not waiting)


def part_copies(before: Job, plan: Plan) -> list[Change]:
    """The job's own copies of the parts its trains use, in step with the trains."""
    job = plan.job
    if job.trains == before.trains and job.parts == before.parts:
        return []
    return pin_changes(job, plan.catalog.parts)


def _without_found(trains: Any) -> dict[str, Train]:
    """What was found on the other machine is not on this one."""
    return {name: one for name, one in trains.items() if name != AS_FOUND}


STAGE = Stage(
    "fuel_path",
    "Fuel path",
    owns={"trains": _without_found, "parts": kept, "kit": kept, "arrived": anew},
    computed=frozenset(("parts",)),
    pages=(
        Page("train", "Train", ("path",), ("trains", "parts")),
        Page("stack", "Stack", ("stack",)),
        Page("parts", "Parts list", ("bill",), ("arrived", "kit")),
        Page("house", "House pipe", ("house",), ("sites.*.gases.*.house",)),
        Page("found", "As found", ("path",), ("trains.as_found",)),
        Page("ready", "Readiness", ("rests",), ("confirmed",)),
        RECORD,
    ),
    contradictions=contradictions,
    items=fuel_path_items,
    follows=part_copies,
    cautions=fuel_path_cautions,
)
