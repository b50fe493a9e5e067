"""Sound jobs of every method and source: told, fitted, proven, their start gates good."""

from __future__ import annotations

from functools import cache
from typing import Any

from gentle_ember.core.job.job import Job
from gentle_ember.core.route import NAMES, open_items
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.gate import When
from gentle_ember.core.stages.first_start.starts import first_starts
from tests.helpers.fits import CASES, fitted, soaped, with_
from tests.helpers.sets import CATALOG, fact

Document = dict[str, Any]
TOLD: dict[str, Any] = {
    "distance": fact(2.0), "high_loop": fact(0.0), "depth": fact(0.2), "rise": fact(0.3),
    "pressure": fact(1744.0), "air_horn": fact(42e-3), "gas_port": "3/8", "upright": True,
    "capped": True, "gaskets": "new", "nuts": "full",
}  # fmt: skip


def put(job: Job, path: str, value: Any) -> Job:
    """The job with one place of it otherwise."""
    document = job.model_dump(mode="json")
    here = document
    *above, last = path.split(".")
    for key in above:
        here = here.setdefault(key, {})
    here[last] = value
    return Job.model_validate(document)


def answered(job: Job) -> Job:
    """Whatever holds an act told, as a technician would who looked."""
    for _ in range(4):
        asked = [one for one in Plan(job, CATALOG).of(open_items) if one.acts and not one.done]
        if not asked:
            return job
        for one in asked:
            last = one.path.rpartition(".")[2]
            if last == "stub":
                job = put(job, one.path, stub_of(job))
            elif one.path.startswith("confirmed."):
                job = put(job, one.path, {"done": True, "by": "PM", "number": "PM-118"})
            else:
                job = put(job, one.path, TOLD[last])
    raise AssertionError([one.text for one in asked])


def stub_of(job: Job) -> str:
    """The thread of the stub a train was built for."""
    slots = next(iter(job.trains.values())).slots
    key = next(iter(slots.values())).part
    return key.removeprefix("site-stub-").removeprefix("site-dig-").replace("-", "/", 1)


@cache
def sound(name: str) -> Job:
    """A job of one of `CASES`, ready for its first start on every fuel of it."""
    case = CASES[name]
    bare = fitted(*case)
    wants = {fuel: True for fuel in bare.trains if fuel != "gasoline"}
    job = soaped(answered(with_(bare, wants=wants)))
    document = job.model_dump(mode="json")
    document["proof"]["lock_up"] = {
        fuel: {"state": "still", "by": "RK"} for fuel in job.trains if fuel != "gasoline"
    }
    job = answered(Job.model_validate(document))
    looked = {
        one.fuel: {"looked": {look.key: {"state": "good", "by": "RK"} for look, _ in one.looks
                              if look.when is When.BEFORE}}
        for one in Plan(job, CATALOG).of(first_starts)
    }  # fmt: skip
    return with_(job, starts=looked)


def signed(job: Job, *, but: str = "") -> Job:
    """The job with every stage before one signed, as far as a document goes."""
    stages = {}
    for key in NAMES:
        if key == but:
            break
        stages[key] = {"state": "done", "by": "RK"}
    return put(job, "stages", stages)
