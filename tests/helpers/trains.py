"""Trains the tests change: propane, natural gas and a remote tank, as solved."""

from gentle_ember.core.job.job import Job
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.stages.fuel_path.edit import train_of
from gentle_ember.core.stages.fuel_path.search import Solution, solve
from gentle_ember.core.stages.fuel_path.trains import TrainSection, train_section
from tests.helpers.sets import CATALOG, asked, job_of, output_of

SHELF = CATALOG.shelf


def built(job: Job, template: str) -> Train:
    question = asked(job, template)
    answer = solve(SHELF, question.wanted())
    assert isinstance(answer, Solution)
    return train_of(question.template, answer.parts)


def section(job: Job, train: Train, name: str = "propane") -> TrainSection:
    found = train_section(job, output_of(job), CATALOG, name, train)
    assert found is not None
    return found


def stops(job: Job, train: Train, name: str = "propane") -> set[str]:
    return {one.rule for one in section(job, train, name).troubles if one.stops}


def cautions(job: Job, train: Train, name: str = "propane") -> set[str]:
    return {one.rule for one in section(job, train, name).troubles if not one.stops}


def part(words: str, **wanted: object) -> str:
    """Key of the first part of whose name every word is part."""
    return next(
        one.key
        for one in SHELF.parts.values()
        if all(word in one.name for word in words.split("|"))
        and all(getattr(one, name) == value for name, value in wanted.items())
    )


def put(train: Train, key: str, **more: object) -> Train:
    slot = Slot.model_validate({**train.slots[key].model_dump(), **more})
    return train.model_copy(update={"slots": {**train.slots, key: slot}})


PROPANE_JOB = job_of("frame")


PROPANE_TRAIN = built(PROPANE_JOB, "spacer_adapter-cylinder")


GAS_JOB = job_of("large", distance=22.0)


GAS_TRAIN = built(GAS_JOB, "spacer_adapter-utility")


TANK_JOB = job_of("small", rise=0.3)


TANK_TRAIN = built(TANK_JOB, "remote_tank_gravity")


def changed(slot: str, words: str) -> Train:
    return put(PROPANE_TRAIN, slot, part=part(words))
