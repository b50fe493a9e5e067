"""The fuel path: solve, repair, swap, turn, bridge; answers are trains the page then saves."""

from __future__ import annotations

from collections.abc import Mapping

from flask import Response, jsonify
from flask_openapi3 import APIBlueprint, Tag

from gentle_ember.core.facts import Fact
from gentle_ember.core.figure import Origin
from gentle_ember.core.fuels import FuelKey
from gentle_ember.core.part import Part, PartClass, end
from gentle_ember.core.plan import Plan
from gentle_ember.core.sections.fuel_path import parts_of
from gentle_ember.core.sections.output import OutputSection
from gentle_ember.core.train.case import template_of
from gentle_ember.core.train.edit import between, insert, turn, without
from gentle_ember.core.train.limits import FUEL_HOSE_M, VAPOUR_HOSE_M
from gentle_ember.core.train.proposals import ask_template, options, propose
from gentle_ember.core.trains import Slot, Train
from gentle_ember.store.errors import FieldError, InvalidJobError, NotFoundError
from gentle_ember.web import present_path
from gentle_ember.web.problems import Problem
from gentle_ember.web.schemas_path import (
    EditIn,
    EditOut,
    OptionsIn,
    OptionsOut,
    ProposalsOut,
    ProposeIn,
    TrainPath,
)
from gentle_ember.web.services import services

api = APIBlueprint(
    "fuel_path",
    __name__,
    url_prefix="/api/jobs/<job_id>/trains/<name>",
    abp_tags=[Tag(name="fuel path")],
    abp_responses={404: Problem, 422: Problem},
)


def _planned(job_id: str) -> tuple[Plan, OutputSection]:
    planned = services().plan(services().jobs.get(job_id).job)
    if planned.output is None:
        text = "Give the running rating first: flows are worked out from it."
        raise InvalidJobError([FieldError("set.running", text)])
    return planned, planned.output


def _train(planned: Plan, name: str) -> Train:
    train = planned.job.trains.get(name)
    if train is None:
        raise NotFoundError("There is no such train.")
    return train


@api.post("/propose", responses={200: ProposalsOut})
def propose_train(path: TrainPath, body: ProposeIn) -> Response:
    """Work out a train: fresh, repaired with the fewest changes, or from a kit."""
    planned, output = _planned(path.job_id)
    template = template_of(body.template)
    if template is None:
        raise InvalidJobError([FieldError("template", "There is no such train.")])
    catalog = services().catalog
    kit = catalog.kits.get(body.kit)
    answer = propose(
        planned.job,
        output,
        catalog,
        path.name,
        template,
        old=_train(planned, path.name) if body.mode == "repair" else None,
        kit=kit.contents if body.mode == "kit" and kit is not None else None,
    )
    found = answer.impossible
    return jsonify(
        {
            "proposals": [
                present_path.proposal(one, answer.proposals[0]) for one in answer.proposals
            ],
            "impossible": None
            if found is None
            else {
                "role": found.role.title,
                "why": found.why,
                "nearest": [one.part.name for one in found.nearest],
                "relaxed": found.relaxed,
            },
        }
    )


@api.post("/options", responses={200: OptionsOut})
def slot_options(path: TrainPath, body: OptionsIn) -> Response:
    """What could stand at a slot, and what each part would change."""
    planned, output = _planned(path.job_id)
    train = _train(planned, path.name)
    if body.slot not in train.slots:
        raise NotFoundError("There is no such place in this train.")
    found = options(
        planned.job,
        output,
        services().catalog,
        path.name,
        train,
        body.slot,
        all_of_class=body.everything,
    )
    return jsonify([present_path.option(one, train) for one in found])


@api.post("/edit", responses={200: EditOut})
def edit(path: TrainPath, body: EditIn) -> Response:
    """A train with a part turned, taken out, put in, or a joint bridged; nothing is saved."""
    planned, output = _planned(path.job_id)
    train = _train(planned, path.name)
    parts = parts_of(planned.job, services().catalog)
    if body.op != "insert" and body.slot not in train.slots:
        raise NotFoundError("There is no such place in this train.")
    if body.op == "turn":
        return _answer(turn(train, body.slot, parts))
    if body.op == "remove":
        return _answer(without(train, body.slot))
    if body.op == "insert":
        slot = _cut(body.put or Slot(), parts)
        return _answer(insert(train, body.slot, slot, slot.role or "part"))
    asked = ask_template(planned.job, output, services().catalog, train)
    fuel = asked.template.fuel if asked else FuelKey.PROPANE
    return _answer(_bridged(train, body.slot, fuel))


def _cut(slot: Slot, parts: Mapping[str, Part]) -> Slot:
    """A slot with a usual length, for what is sold by the metre and nobody measured yet."""
    part = parts.get(slot.part)
    if part is None or not part.by_length or slot.length is not None:
        return slot
    usual = VAPOUR_HOSE_M if part.kind is PartClass.VAPOUR_HOSE else FUEL_HOSE_M
    fact = Fact(value=usual, origin=Origin.ASSUMED, typed=f"{usual:g} m")
    return slot.model_copy(update={"length": fact})


def _answer(train: Train) -> Response:
    return jsonify({"train": train.model_dump(mode="json")})


def _bridged(train: Train, slot: str, fuel: FuelKey) -> Train:
    """The train with fittings before a slot, so that it mates with what stands there."""
    names = list(train.slots)
    at = names.index(slot)
    shelf = services().catalog.shelf
    before = shelf.parts.get(train.slots[names[at - 1]].part) if at else None
    here = shelf.parts.get(train.slots[slot].part)
    if before is None or here is None:
        text = "One of the two parts is not known: nothing can be chosen between them."
        raise InvalidJobError([FieldError("slot", text)])
    opened = before.inlet if train.slots[names[at - 1]].turned else before.outlet
    takes = here.outlet if train.slots[slot].turned else here.inlet
    found = between(shelf, opened, takes, fuel) if opened and takes else None
    if found is None:
        ends = f"{end(opened).text} and {end(takes).text}" if opened and takes else "these parts"
        text = f"Nothing in the catalog joins {ends}: choose another part."
        raise InvalidJobError([FieldError("slot", text)])
    after = names[at - 1]
    for part, turned in found.fittings:
        held = set(train.slots)
        train = insert(train, after, Slot(part=part.key, turned=turned), "fitting")
        after = next(key for key in train.slots if key not in held)
    return train
