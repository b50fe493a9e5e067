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

from gentle_ember.core.job.change import apply
from gentle_ember.core.job.job import Job
from gentle_ember.core.route import (
    BEFORE_IT_RUNS,
    NAMES,
    NEVER_LEFT_OUT,
    cautions,
    implied,
    refusals,
    route,
    unearned,
)
from gentle_ember.core.stage import Plan, Refusal
from gentle_ember.core.stages.first_start.gate import When
from gentle_ember.core.stages.first_start.starts import first_starts
from tests.helpers.fits import GRAVITY, SPACER, fitted, locked, soaped, with_
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put
from tests.helpers.trains import part

Document = dict[str, Any]


def proven() -> Job:
    """A propane spacer job: fitted, every joint passed, the start gate ticked."""
    job = locked(soaped(fitted(*SPACER)))
    start, *_ = Plan(job, CATALOG).of(first_starts)
    looked = {one.key: {"state": "good", "by": "RK"} for one, _ in start.looks
              if one.when is When.BEFORE}  # fmt: skip
    return with_(job, starts={"propane": {"looked": looked}})


SOUND = proven()


ACTS: dict[str, tuple[str, Any]] = {
    "start": ("starts.propane.attempts.a1", {"result": "runs"}),
    "reading": ("metering.s1-propane.readings.r1",
                {"turns": fact(1.2), "output": fact(2000.0)}),
    "lock": ("metering.s1-propane.locked", fact(1.4)),
    "load": ("load_tests.s1-propane.runs.r1", {"held": fact(2500.0)}),
    "change-over": ("starts.propane.change_over", fact(40.0)),
    "let in": ("proof.lock_up.propane", {"state": "still", "by": "OM"}),
}  # fmt: skip
FINDING = ("smelled", "leaking", "creeping", "near", "crankcase", "on_the_sketch", "unlooked")
"""Dangers that keep nobody from soaping: they are of running, or only more soaping clears them."""


def refused(job: Job, act: str) -> list[Refusal]:
    path, value = ACTS[act]
    if act == "let in":
        job = put(job, path, {"state": "grows"} if creeping_in(job) else {})
    after = put(job, path, value)
    return list(refusals(job, Plan(after, CATALOG)))


def creeping_in(job: Job) -> bool:
    return job.proof.lock_up["propane"].state == "grows"


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


def unlimited(job: Job) -> Job:
    key = job.trains["propane"].slots["demand"].part
    part_ = {**job.parts[key].model_dump(mode="json"), "most_pa": None, "rating_pa": None}
    return put(job, f"parts.{key}", part_)


def unknown_part(job: Job) -> Job:
    slot = "trains.propane.slots.regulator"
    return put(put(job, f"{slot}.part", ""), f"{slot}.unknown", "brass thing")


def untold_distance(job: Job) -> Job:
    return put(job, "sites.s1.cylinders.c1.distance", None)


def lying(job: Job) -> Job:
    return put(job, "trains.propane.slots.source.upright", False)


def unseen_upright(job: Job) -> Job:
    return put(job, "trains.propane.slots.source.upright", None)


def gaskets_again(job: Job) -> Job:
    return put(job, "fit.gaskets", "reused")


def short_nut(job: Job) -> Job:
    return put(job, "fit.nuts", "short")


def no_shut_off(job: Job) -> Job:
    return put(job, "set.shut_off", False)


def fuel_switch(job: Job) -> Job:
    return put(job, "set.run_switch", "fuel")


def somebody_elses(job: Job) -> Job:
    found = job.trains["propane"].model_dump(mode="json")
    return put(job, "trains.as_found", {**found, "found": True, "inlet": "open"})


def unlooked(job: Job) -> Job:
    items = {
        "a": {"kind": "set", "x": 5.0, "y": 5.0},
        "b": {"kind": "cylinder", "x": 9.0, "y": 5.0},
    }
    return put(job, "sites.s1.sketch.items", items)


def elsewhere_starved(job: Job) -> Job:
    """Another of its sites, so high and hot that the same train no longer carries it."""
    site = job.model_dump(mode="json")["sites"]["s1"]
    tall = {**site, "name": "Far yard", "cylinders": {"c1": {"size": "100", "distance": fact(2.0)}}}
    return put(job, "sites.s2", tall)


DANGERS: list[Callable[[Job], Job]] = [
    near, overfilled, smelled, find_stopped, crankcase, unrated, unchosen, without_train, grill,
    leaking, creeping, on_the_sketch, unlimited, unknown_part, untold_distance, lying,
    unseen_upright, gaskets_again, short_nut, no_shut_off, fuel_switch, somebody_elses, unlooked,
]  # fmt: skip


@pytest.mark.parametrize("act", ACTS)
def test_a_sound_job_is_never_stopped(act: str):
    assert refused(SOUND, act) == []


@pytest.mark.parametrize("act", ACTS)
@pytest.mark.parametrize("danger", DANGERS, ids=[one.__name__ for one in DANGERS])
def test_no_act_past_a_danger_and_every_act_once_it_is_gone(danger, act: str):
    found = refused(danger(SOUND), act)
    path = ACTS[act][0]
    if act == "let in" and danger.__name__ in FINDING:
        assert found == []
        return
    assert found
    assert any(path.startswith(one.path) for one in found), (path, found)
    assert all(one.text.startswith(("No start", "No reading", "No setting", "No load",
                                    "No change-over", "No propane let in"))
               for one in found if path.startswith(one.path))  # fmt: skip
    assert refused(SOUND, act) == []


@settings(max_examples=25)
@given(st.lists(st.sampled_from(DANGERS), min_size=2, max_size=4, unique=True),
       st.sampled_from(sorted(ACTS)))  # fmt: skip
def test_dangers_together_never_open_the_way(dangers, act: str):
    job = SOUND
    for plant in dangers:
        job = plant(job)
    if act != "let in" or any(one.__name__ not in FINDING for one in dangers):
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


def attempts(job: Job, *made: dict[str, Any]) -> list[Refusal]:
    """What is refused of the last of these attempts, the others noted before it."""
    before = job
    for number, one in enumerate(made[:-1]):
        before = put(before, f"starts.propane.attempts.a{number}", one)
    after = put(before, f"starts.propane.attempts.a{len(made)}", made[-1])
    return list(refusals(before, Plan(after, CATALOG)))


PRIMED = {"presses": 4, "seconds": 4, "hiss": "heard", "result": "nothing"}


@pytest.mark.parametrize(("first", "second", "taken"), [
    ("2026-11-25T10:00:00Z", "2026-11-25T10:01:00Z", False),
    ("2026-11-25T10:00:00Z", "2026-11-25T10:29:59Z", False),
    ("2026-11-25T10:00:00Z", "2026-11-25T10:30:00Z", True),
    ("", "2026-11-25T10:30:00Z", False),
    ("2026-11-25T10:00:00Z", "", False),
])  # fmt: skip
def test_no_start_within_the_wait_after_too_much_prime(first: str, second: str, taken: bool):
    found = attempts(SOUND, {**PRIMED, "on": first}, {"result": "runs", "on": second})
    assert (found == []) is taken
    assert all("Over-primed" in one.text for one in found)


def test_gas_smelled_at_a_start_is_taken_down_and_stops_what_comes_next():
    smelt = {"result": "smells", "by": "RK", "on": "2026-11-25T10:00:00Z"}
    assert attempts(near(SOUND), smelt) == []
    after = put(SOUND, "starts.propane.attempts.a1", smelt)
    brought = {one.path: one.value for one in implied(SOUND, Plan(after, CATALOG))}
    assert brought["fit.smelled.propane-a1"]["on"] == "2026-11-25T10:00:00Z"
    job = put(after, "fit.smelled.propane-a1", brought["fit.smelled.propane-a1"])
    again = put(job, "starts.propane.attempts.a2", {"result": "runs", "on": "2026-11-25T12:00:00Z"})
    assert any("smelled" in one.text for one in refusals(job, Plan(again, CATALOG)))


def test_gas_smelled_at_load_is_taken_down_too():
    run = {"readings": {"m1": {"output": fact(2000.0), "smell": "gas", "by": "RK"}}}
    after = put(near(SOUND), "load_tests.s1-propane.runs.r1", run)
    assert list(refusals(near(SOUND), Plan(after, CATALOG))) == []
    brought = [one.path for one in implied(near(SOUND), Plan(after, CATALOG))]
    assert any(path.startswith("fit.smelled.") for path in brought)


def test_a_leak_is_taken_down_whatever_stands():
    joint = next(iter(SOUND.proof.soaped.values())).joint
    for danger in DANGERS:
        if danger in (without_train, unrated, unchosen, somebody_elses, unknown_part):
            continue
        before = danger(SOUND)
        after = put(before, "proof.soaped.zz", {"joint": joint, "found": "foam"})
        assert list(refusals(before, Plan(after, CATALOG))) == [], danger.__name__


GRAVITY_JOB = put(fitted(*GRAVITY), "sites.s1.remote_tank",
                  {"rise": fact(0.3), "distance": fact(1.0), "depth": fact(0.2),
                   "high_loop": fact(0.0)})  # fmt: skip


def proven_tank() -> Job:
    job = soaped(GRAVITY_JOB)
    start, *_ = Plan(job, CATALOG).of(first_starts)
    looked = {one.key: {"state": "good", "by": "RK"} for one, _ in start.looks
              if one.when is When.BEFORE}  # fmt: skip
    return with_(job, starts={"gasoline": {"looked": looked}})


TANK = proven_tank()


def started_on_gasoline(job: Job) -> list[Refusal]:
    after = put(job, "starts.gasoline.attempts.a1", {"result": "runs"})
    return list(refusals(job, Plan(after, CATALOG)))


def test_gasoline_from_a_remote_tank_is_held_to_the_same():
    assert started_on_gasoline(TANK) == []
    joint = next(iter(TANK.proof.soaped.values())).joint
    weeping = put(TANK, "proof.soaped.zz", {"joint": joint, "found": "bubbles"})
    assert any("leaks" in one.text for one in started_on_gasoline(weeping))
    unproven = put(TANK, "proof.soaped", {})
    assert any("not proven tight" in one.text for one in started_on_gasoline(unproven))
    high = put(TANK, "sites.s1.remote_tank.rise", fact(1.5))
    assert started_on_gasoline(high)
    untold = put(TANK, "sites.s1.remote_tank.high_loop", None)
    assert any("how high" in one.text.lower() for one in started_on_gasoline(untold))
    weep_load = put(weeping, "load_tests.s1-gasoline.runs.r1", {"held": fact(1500.0)})
    assert list(refusals(weeping, Plan(weep_load, CATALOG)))


def test_a_new_engine_is_broken_in_before_it_is_loaded_near_its_rating():
    new = put(SOUND, "set.brand_new", True)
    looked = {"starts.propane.looked.gasoline_off": {"state": "good"}}
    for path, value in looked.items():
        new = put(new, path, value)
    gentle = put(new, "load_tests.s1-propane.runs.r1", {"held": fact(1500.0)})
    hard = put(new, "load_tests.s1-propane.runs.r1", {"held": fact(3300.0)})
    assert list(refusals(new, Plan(gentle, CATALOG))) == []
    assert any("broken in" in one.text for one in refusals(new, Plan(hard, CATALOG)))
    done = put(new, "confirmed.break_in", {"done": True, "by": "RK"})
    after = put(hard, "confirmed.break_in", {"done": True, "by": "RK"})
    assert list(refusals(done, Plan(after, CATALOG))) == []


def test_another_site_it_runs_at_is_judged_whichever_is_looked_at():
    two = elsewhere_starved(SOUND)
    there = [one for one in Plan(two, CATALOG).of(cautions) if one.severity == "stop"]
    assert {one.site for one in there} == {"s2"}
    assert "Far yard" in there[0].text
    looked_at = put(two, "site", "s2")
    again = [one for one in Plan(looked_at, CATALOG).of(cautions) if one.severity == "stop"]
    assert {one.text for one in again} == {one.text for one in there}
    assert refused(two, "start")
    assert refused(two, "reading") == []
    signed_ = put(two, "stages.fuel_path", {"state": "done", "by": "RK"})
    assert any("Far yard" in one.text for one in refusals(two, Plan(signed_, CATALOG)))


def test_what_another_site_does_not_say_holds_what_is_done_there_and_a_start_anywhere():
    site = SOUND.model_dump(mode="json")["sites"]["s1"]
    two = put(SOUND, "sites.s2", {**site, "name": "Far yard", "cylinders": {"c1": {"size": "20"}}})
    assert refused(two, "reading") == []
    assert any("Far yard" in one.text for one in refused(two, "start"))
    there = put(two, "metering.s2-propane.locked", fact(1.4))
    assert any("Far yard" in one.text for one in refusals(two, Plan(there, CATALOG)))
    told = put(two, "sites.s2.cylinders.c1.distance", fact(2.0))
    assert refused(told, "start") == []


def sign(job: Job, stage: str, **more: str) -> list[str]:
    record = {"state": "done", "by": "RK", **more}
    after = put(job, f"stages.{stage}", record)
    return [one.text for one in refusals(job, Plan(after, CATALOG))]


def test_a_stage_is_signed_when_those_it_rests_on_are():
    for at, stage in enumerate(NAMES):
        missing = [text for text in sign(SOUND, stage) if "comes first" in text]
        assert len(missing) == at
    job = put(SOUND, "stages.intake", {"state": "done", "by": "RK"})
    assert not any("Intake" in text for text in sign(job, "method"))
    assert any("Say who" in text for text in sign(job, "method", by=" "))


@pytest.mark.parametrize("danger", [near, overfilled, smelled, grill, leaking, gaskets_again])
def test_a_stop_holds_every_signature_that_rests_on_its_stage(danger):
    job = danger(SOUND)
    stop = next(one for one in Plan(job, CATALOG).of(cautions) if one.severity == "stop")
    order = list(NAMES)
    for at, stage in enumerate(order):
        told = any(stop.text in text for text in sign(job, stage))
        assert told is (order.index(stop.stage) <= at), (stop.stage, stage)


@pytest.mark.parametrize("stage", list(NAMES))
def test_a_stage_is_left_out_for_a_reason_by_somebody_and_never_past_a_stop(stage: str):
    why = {"state": "left_out", "note": "Owner has it load-tested elsewhere."}
    never = stage in NEVER_LEFT_OUT
    assert (sign(SOUND, stage, **why) == []) is not never
    if never:
        return
    assert any("why" in text for text in sign(SOUND, stage, state="left_out"))
    assert any("who" in text for text in sign(SOUND, stage, **{**why, "by": ""}))
    held = sign(overfilled(SOUND), stage, **why)
    assert any("overfilled" in text for text in held)


def test_a_stage_left_out_lets_the_next_be_signed_and_shows_on_the_route():
    job = SOUND
    for stage in list(NAMES)[:3]:
        job = put(job, f"stages.{stage}", {"state": "done", "by": "RK"})
    left = {"state": "left_out", "by": "Runa Kestle", "note": "Fitted by the owner."}
    job = put(job, "stages.fit", left)
    assert not any("comes first" in text for text in sign(job, "prove_tight"))
    shown = {one.key: one for one in Plan(job, CATALOG).of(route)}
    assert (shown["fit"].state, shown["fit"].detail) == ("left_out", "left out by RK")


@pytest.mark.parametrize("act", ACTS)
@pytest.mark.parametrize("danger", DANGERS, ids=[one.__name__ for one in DANGERS])
def test_what_an_import_may_not_bring_is_taken_out_by_the_acts_own_word(danger, act: str):
    path, value = ACTS[act]
    job = put(danger(SOUND), path, value)
    found = [one for one in unearned(job, Plan(job, CATALOG))
             if path.startswith(one.refusal.path)]  # fmt: skip
    if act == "let in" and danger.__name__ in FINDING:
        assert found == []
        return
    assert found
    document = job.model_dump(mode="json")
    without, back = apply(document, [found[0].back])
    left = Job.model_validate(without)
    assert not [one for one in unearned(left, Plan(left, CATALOG))
                if path.startswith(one.refusal.path)]  # fmt: skip
    assert apply(without, back)[0] == document


def test_a_signature_taken_back_says_in_its_note_whose_it_was():
    record = {"state": "done", "by": "RK", "on": "2026-11-20", "note": "All fine."}
    job = put(smelled(SOUND), "stages.hand_over", record)
    found = next(one.back for one in unearned(job, Plan(job, CATALOG))
                 if one.refusal.path == "stages.hand_over")  # fmt: skip
    assert found.value["state"] == "under_way"
    assert (found.value["by"], found.value["on"]) == ("", "")
    assert found.value["note"] == (
        "All fine. Signature of RK, 2026-11-20 not taken over on import."
    )
