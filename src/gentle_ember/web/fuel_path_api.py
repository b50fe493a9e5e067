"""The fuel path: solve, repair, swap, turn, bridge; answers are trains the page then saves."""

from __future__ import annotations

from flask import Response

from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.job.train import AS_FOUND, Slot, Train
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.edit import (
    NoBridgeError,
    bridged,
    insert,
    stands,
    turn,
    without,
)
from gentle_ember.core.stages.fuel_path.proposals import options, propose
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.fuel_path.trains import parts_of
from gentle_ember.store.errors import FieldError, InvalidJobError, NotFoundError
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.services import services
from gentle_ember.web.views.proposals import (
    EditIn,
    EditOut,
    ImpossibleOut,
    OptionsIn,
    OptionsOut,
    ProposalsOut,
    ProposeIn,
    TrainPath,
    option,
    proposal,
)

api = blueprint("fuel_path", "fuel path", "/api/jobs/<job_id>/trains/<name>", 404, 422)


def _planned(job_id: str) -> tuple[Plan, OutputSection]:
    planned = services().plan(services().jobs.get(job_id))
    output = planned.of(output_here)
    if output is None:
        text = "Give the running rating first: flows are worked out from it."
        raise InvalidJobError([FieldError("set.running", text)])
    return planned, output


def _train(planned: Plan, name: str) -> Train:
    train = planned.job.trains.get(name)
    if train is None:
        raise NotFoundError("There is no such train.")
    return train


@api.post("/propose", responses={200: ProposalsOut})
def propose_train(path: TrainPath, body: ProposeIn) -> Response:
    """Work out a train: fresh, repaired with the fewest changes, or from a kit."""
    planned, output = _planned(path.job_id)
    template = TEMPLATES.get(body.template)
    if template is None:
        raise InvalidJobError([FieldError("template", "There is no such train.")])
    catalog = services().catalog
    kit = catalog.kits.get(body.kit)
    if body.mode == "kit" and kit is None:
        raise InvalidJobError([FieldError("kit", "There is no such kit.")])
    said = kit.judged(planned.job.set) if body.mode == "kit" and kit else None
    if said is not None and said.fits is False:
        raise InvalidJobError([FieldError("kit", f"It is not for this set: {said.why}.")])
    answer = propose(
        planned.job,
        output,
        catalog,
        path.name,
        template,
        old=_old(planned, path.name) if body.mode == "repair" else None,
        kit=kit.contents if body.mode == "kit" and kit is not None else None,
    )
    found = answer.impossible
    return sent(
        ProposalsOut(
            proposals=[proposal(one, answer.proposals[0]) for one in answer.proposals],
            impossible=None
            if found is None
            else ImpossibleOut(
                role=found.role.title,
                why=found.why,
                nearest=[one.part.name for one in found.nearest],
                relaxed=found.relaxed,
            ),
        )
    )


def _old(planned: Plan, name: str) -> Train:
    """A train to repair; what was found on the set is there already."""
    train = _train(planned, name)
    kept = stands(train, parts_of(planned.job, services().catalog))
    return kept.model_copy(update={"found": True}) if name == AS_FOUND else train


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
    return sent(OptionsOut([option(one, train) for one in found]))


@api.post("/edit", responses={200: EditOut})
def edit(path: TrainPath, body: EditIn) -> Response:
    """A train with a part turned, taken out, put in, or a joint bridged; nothing is saved."""
    planned, _ = _planned(path.job_id)
    train = _train(planned, path.name)
    parts = parts_of(planned.job, services().catalog)
    if body.op == "keep":
        return _answer(stands(train, parts))
    if body.op != "insert" and body.slot not in train.slots:
        raise NotFoundError("There is no such place in this train.")
    if body.op == "turn":
        return _answer(turn(train, body.slot, parts))
    if body.op == "remove":
        return _answer(without(train, body.slot))
    if body.op == "insert":
        return _answer(insert(train, body.slot, body.put or Slot(), parts))
    template = TEMPLATES[train.template]
    try:
        return _answer(bridged(train, body.slot, services().catalog.shelf, template.fuel))
    except NoBridgeError as error:
        raise InvalidJobError([FieldError("slot", str(error))]) from None


def _answer(train: Train) -> Response:
    return sent(EditOut(train=train))
