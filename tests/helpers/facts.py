"""Other values a job could hold at a path, found from its schema: for tests that flip facts."""

import typing
from collections.abc import Iterator
from enum import Enum
from typing import Any, get_args, get_origin

from pydantic import BaseModel, ValidationError

from gentle_ember.core.job.change import Change, apply
from gentle_ember.core.job.facts import Fact, quantity_at
from gentle_ember.core.job.job import Job

WHOLE: dict[str, list[Any]] = {
    "faces": [{}, {"f1": {"name": "panel", "room": {"value": 0.1}, "behind": "nothing"}}],
    "cylinders": [{}, {"c1": {"size": "20"}}],
    "gases": [
        {},
        {"g1": {"kind": "natural_gas", "pressure": {"value": 1744.0}}},
        {"g1": {"kind": "biogas"}},
    ],
    "appliances": [
        {},
        {"a1": {"kind": "pump", "running": {"value": 900.0}}},
        {"a1": {"kind": "resistive", "running": {"value": 900.0}}},
    ],
    "sites": [{"s1": {}}, {"s1": {}, "s2": {"elevation": {"value": 3000.0}}}],
}
WHOLE["size"] = ["20", "100"]
STEPS = 12


def with_value(job: Job, path: str, value: Any) -> Job | None:
    """The job with something else at a path; None where it can't be."""
    try:
        document, _ = apply(job.model_dump(mode="json"), [Change(path, value)])
        return Job.model_validate(document)
    except (ValidationError, ValueError):
        return None


def annotation_at(path: list[str]) -> Any:
    here: Any = Job
    for key in path:
        if get_origin(here) is dict:
            here = get_args(here)[1]
        elif isinstance(here, type) and issubclass(here, BaseModel):
            here = here.model_fields[key].annotation
    return here


def others(path: str) -> Iterator[Any]:
    """Values worth trying at a path."""
    keys = path.split(".")
    if keys[-1] in WHOLE:
        yield from WHOLE[keys[-1]]
        return
    spec = quantity_at(Job, keys)
    if spec is not None:
        yield None
        for step in range(STEPS + 1):
            yield {"value": spec.low + (spec.high - spec.low) * (step / STEPS) ** 3}
        return
    for one in get_args(annotation_at(keys)) or (annotation_at(keys),):
        if one is type(None):
            yield None
        elif one is bool:
            yield from (True, False)
        elif one is int:
            yield from (1, 2, 2001, 2019)
        elif one is str:
            yield from ("", "something told", "D171")
        elif isinstance(one, type) and issubclass(one, Enum):
            yield from (member.value for member in one)
        elif get_origin(one) is typing.Literal or not isinstance(one, type):
            yield from get_args(one) or (one,)
        elif issubclass(one, Fact):
            yield None
    if keys[0] == "findings":
        yield from ({"look": look} for look in ("good", "watch", "bad", "not_looked"))


def variants(job: Job, path: str) -> Iterator[Job]:
    """Valid jobs that differ from this one at a path only."""
    for value in others(path):
        other = with_value(job, path, value)
        if other is not None and other != job:
            yield other
