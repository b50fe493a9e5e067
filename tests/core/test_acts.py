"""What is done with the machine is held against the whole job, whichever way it is written.

A sound job, fitted and proven; one danger planted; every act refused. The danger taken away again,
every act is open.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.job.job import Job
from gentle_ember.core.route import BEFORE_IT_RUNS, NAMES, refusals
from gentle_ember.core.stage import Plan, Refusal
from gentle_ember.core.stages.first_start.gate import When
from gentle_ember.core.stages.first_start.starts import first_starts
from tests.helpers.fits import SPACER, fitted, locked, soaped, with_
from tests.helpers.sets import CATALOG, fact
from tests.helpers.trains import part

Document = dict[str, Any]


def proven() -> Job:
    """A propane spacer job: fitted, every joint passed, the start gate ticked."""
    job = locked(soaped(fitted(*SPACER)))
    (start,) = Plan(job, CATALOG).of(first_starts)
    looked = {one.key: {"state": "good", "by": "RK"} for one, _ in start.looks
              if one.when is When.BEFORE}  # fmt: skip
    return with_(job, starts={"propane": {"looked": looked}})


SOUND = proven()


def put(job: Job, path: str, value: Any) -> Job:
    document = job.model_dump(mode="json")
    here = document
    *above, last = path.split(".")
    for key in above:
        here = here.setdefault(key, {})
    here[last] = value
    return Job.model_validate(document)


ACTS: dict[str, tuple[str, Any]] = {
    "start": ("starts.propane.attempts.a1", {"result": "runs"}),
    "reading": ("metering.s1-propane.readings.r1",
                {"turns": fact(1.2), "output": fact(2000.0)}),
    "lock": ("metering.s1-propane.locked", fact(1.4)),
    "load": ("load_tests.s1-propane.runs.r1", {"held": fact(2500.0)}),
}  # fmt: skip


def refused(job: Job, act: str) -> list[Refusal]:
    path, value = ACTS[act]
    after = put(job, path, value)
    return list(refusals(job, Plan(after, CATALOG)))


def near(job: Job) -> Job:
    return put(job, "sites.s1.cylinders.c1.distance", fact(0.3))


def overfilled(job: Job) -> Job:
    return put(job, "sites.s1.cylinders.c1.fill", fact(10.9))


def smelled(job: Job) -> Job:
    return put(job, "fit.smelled.g1", {"by": "RK", "on": "2026-11-25T10:00:00Z"})


def find_stopped(job: Job) -> Job:
    return put(job, "fit.finds.f1", {"what": "cracked manifold", "decision": "stop"})


def crankcase(job: Job) -> Job:
    return put(job, "findings.oil_smell", {"look": "bad"})


def unrated(job: Job) -> Job:
    return put(job, "set.running", None)


def unchosen(job: Job) -> Job:
    return put(job, "choice.methods", [])


def without_train(job: Job) -> Job:
    return put(job, "trains", {})


def grill(job: Job) -> Job:
    key = part("grill regulator, 11")
    changed = put(job, "trains.propane.slots.regulator.part", key)
    return put(changed, f"parts.{key}", CATALOG.parts[key].model_dump(mode="json"))


def leaking(job: Job) -> Job:
    joint = next(iter(job.proof.soaped.values())).joint
    return put(job, "proof.soaped.z9", {"joint": joint, "found": "foam"})


def creeping(job: Job) -> Job:
    return put(job, "proof.lock_up.propane", {"state": "grows"})


def on_the_sketch(job: Job) -> Job:
    items = {
        "a": {"kind": "set", "x": 5.0, "y": 5.0},
        "b": {"kind": "cylinder", "x": 5.4, "y": 5.0},
    }
    return put(job, "sites.s1.sketch.items", items)


DANGERS: list[Callable[[Job], Job]] = [
    near, overfilled, smelled, find_stopped, crankcase, unrated, unchosen, without_train, grill,
    leaking, creeping, on_the_sketch,
]  # fmt: skip


@pytest.mark.parametrize("act", ACTS)
def test_a_sound_job_is_never_stopped(act: str):
    assert refused(SOUND, act) == []


@pytest.mark.parametrize("act", ACTS)
@pytest.mark.parametrize("danger", DANGERS, ids=[one.__name__ for one in DANGERS])
def test_no_act_past_a_danger_and_every_act_once_it_is_gone(danger, act: str):
    found = refused(danger(SOUND), act)
    path = ACTS[act][0]
    assert found
    assert any(path.startswith(one.path) for one in found), (path, found)
    assert all(one.text.startswith(("No start", "No reading", "No setting", "No load"))
               for one in found if path.startswith(one.path))  # fmt: skip
    assert refused(SOUND, act) == []


@settings(max_examples=25)
@given(st.lists(st.sampled_from(DANGERS), min_size=2, max_size=4, unique=True),
       st.sampled_from(sorted(ACTS)))  # fmt: skip
def test_dangers_together_never_open_the_way(dangers, act: str):
    job = SOUND
    for plant in dangers:
        job = plant(job)
    assert refused(job, act)


@pytest.mark.parametrize("act", ["reading", "lock", "load"])
def test_the_simulated_bench_may_run_whenever_one_likes(act: str):
    path, value = ACTS[act]

    def simulated(held: Any) -> Any:
        if isinstance(held, dict):
            if "origin" in held:
                return {**held, "origin": "simulated"}
            return {key: simulated(one) for key, one in held.items()}
        return held

    after = put(smelled(SOUND), path, simulated(value))
    assert list(refusals(smelled(SOUND), Plan(after, CATALOG))) == []


def test_what_was_done_before_a_danger_came_up_stays_and_can_be_taken_out():
    path, value = ACTS["start"]
    started = put(SOUND, path, value)
    later = smelled(started)
    assert list(refusals(started, Plan(later, CATALOG))) == []
    document = later.model_dump(mode="json")
    del document["starts"]["propane"]["attempts"]["a1"]
    assert list(refusals(later, Plan(Job.model_validate(document), CATALOG))) == []


def test_a_stop_of_another_fuels_train_holds_only_that_fuel():
    gas = {**grill(SOUND).trains["propane"].model_dump(mode="json")}
    other = put(SOUND, "trains.natural_gas", {**gas, "template": "spacer_adapter-utility"})
    found = [one.text for one in refused(other, "start")]
    assert not any("Natural gas train" in text for text in found)


def test_the_stages_whose_stops_forbid_an_act_end_with_the_first_start():
    order = list(NAMES)
    assert set(order[: order.index("first_start") + 1]) == BEFORE_IT_RUNS


def test_a_train_that_was_not_judged_holds_its_stage():
    signed = {"state": "done", "by": "RK"}
    bare = unrated(SOUND)
    after = put(bare, "stages.fuel_path", signed)
    found = list(refusals(bare, Plan(after, CATALOG)))
    assert any("not judged" in one.text for one in found)
    judged = put(SOUND, "stages.fuel_path", signed)
    assert not any("not judged" in one.text for one in refusals(SOUND, Plan(judged, CATALOG)))
