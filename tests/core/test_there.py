"""What is on the set already, and what stands in the way of what is to go on it."""

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.route import contradictions, open_items
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fit.steps.mounts import way_step
from gentle_ember.core.stages.fuel_path.edit import stands, train_of, turn, without
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.fuel_path.search import Placed
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.hand_over.record import record
from gentle_ember.core.stages.prove_tight.proof import left_to_prove
from tests.helpers.fits import CASES, fitted, sheet, steps, with_
from tests.helpers.sets import CATALOG
from tests.helpers.sound import put

GAS = [name for name, case in CASES.items() if case[2] and "gasoline" not in case[2]]


def standing(name: str, *but: PartClass) -> Job:
    """A conversion that is on the set already, but for parts of some classes."""
    job = fitted(*CASES[name])
    for fuel, train in job.trains.items():
        for key, slot in train.slots.items():
            there = job.parts[slot.part].kind not in but
            job = put(job, f"trains.{fuel}.slots.{key}.there", there)
    return job


def bought(job: Job) -> set[str]:
    return {line.part.key for line in Plan(job, CATALOG).of(parts_list).lines}


@pytest.mark.parametrize("name", GAS)
def test_what_stands_is_neither_ordered_nor_put_in_again_but_is_still_proven(name):
    job = standing(name)
    own = {slot.part for train in job.trains.values() for slot in train.slots.values()}
    assert not bought(job) & own
    again = {"plate", "carburetor_on", "mixer_on", "air_cleaner_off", "lock_off_lead"}
    made = steps(job)
    assert not again & set(made)
    assert not [one for one in made.values() if one.joint and one.kind != "confirm"]
    fuel = next(iter(job.trains))
    # That it stands says nothing of it being tight: every joint waits for its look.
    assert Plan(job, CATALOG).of(left_to_prove)[fuel]
    assert len(sheet(job).joints) == len(sheet(fitted(*CASES[name])).joints)


def test_a_job_of_one_coupler_is_a_job_of_one_coupler():
    whole, job = fitted(*CASES["spacer"]), standing("spacer", PartClass.GAS_HALF)
    halves = {
        slot.part for slot in job.trains["propane"].slots.values()
        if job.parts[slot.part].kind is PartClass.GAS_HALF
    }  # fmt: skip
    own = {slot.part for slot in job.trains["propane"].slots.values()}
    assert bought(job) & own == halves
    joints = {one.joint for one in steps(job).values() if one.joint}
    every = {one.joint for one in steps(whole).values() if one.joint}
    assert joints < every
    slots = job.trains["propane"].slots
    names = list(slots)
    for joint in joints:
        at = names.index(joint.partition(".")[2])
        assert {slots[names[at]].part, slots[names[at - 1]].part} & halves


def test_a_joint_between_parts_that_stay_is_made_again_where_somebody_says_so():
    job = standing("spacer")
    key = list(job.trains["propane"].slots)[-2]
    again = put(job, f"trains.propane.slots.{key}.remade", value=True)
    assert [one.joint for one in steps(again).values() if one.joint] == [f"propane.{key}"]


def test_a_repair_keeps_what_stands_and_makes_a_wrong_joint_again():
    job = fitted(*CASES["spacer"])
    train = job.trains["propane"]
    names = list(train.slots)
    wrong = names[-2]
    for key in names:
        job = put(job, f"trains.propane.slots.{key}.there", value=True)
    job = put(job, f"trains.propane.slots.{wrong}.seal", "plumbers_tape")
    job = put(job, f"trains.propane.slots.{names[1]}.note", "bent, but sound")
    old = job.trains["propane"]
    placed = [
        Placed(job.parts[slot.part], slot.role, slot.length.value if slot.length else 0.0,
               slot.turned)
        for slot in old.slots.values()
    ]  # fmt: skip
    other = next(
        part for part in CATALOG.parts.values()
        if part.kind is PartClass.DEMAND and part.key != old.slots["demand"].part
    )  # fmt: skip
    placed = [Placed(other, one.role, 0.0) if one.role == "demand" else one for one in placed]
    made = train_of(TEMPLATES[old.template], placed, old)
    by_part = {slot.part: slot for slot in made.slots.values()}
    assert not made.slots["demand"].there
    kept = [slot for slot in made.slots.values() if slot.part != other.key]
    assert all(slot.there for slot in kept)
    assert by_part[old.slots[wrong].part].remade
    assert by_part[old.slots[names[1]].part].note == "bent, but sound"
    assert sum(slot.remade for slot in kept) == 1


def test_a_part_that_stands_in_one_place_and_is_new_in_another_is_not_taken_for_there():
    """The same hose twice: the new one is laid, capped and mounted like any other."""
    job = standing("twin")
    slots = job.trains["natural_gas"].slots
    by_part: dict[str, list[str]] = {}
    for key, slot in slots.items():
        by_part.setdefault(slot.part, []).append(key)
    twice = next(keys for keys in by_part.values() if len(keys) > 1)
    assert slots[twice[0]].part in sheet(job).case.there
    other = put(job, f"trains.natural_gas.slots.{twice[0]}.there", value=False)
    assert slots[twice[0]].part not in sheet(other).case.there


def edited(op, key):
    job = standing("spacer")
    train, parts = job.trains["propane"], job.parts
    made = turn(train, key, parts) if op == "turn" else without(train, key)
    names = list(train.slots)
    return made, names[names.index(key) + 1]


@pytest.mark.parametrize("op", ["turn", "remove"])
def test_what_is_turned_or_taken_out_leaves_joints_to_be_made_again(op):
    train = standing("spacer").trains["propane"]
    key = list(train.slots)[-3]
    made, after = edited(op, key)
    assert made.slots[after].remade
    assert op == "remove" or made.slots[key].remade
    assert sum(slot.remade for slot in made.slots.values()) == (2 if op == "turn" else 1)


def test_a_train_as_found_is_kept_whole_and_only_its_new_parts_are_new():
    job = fitted(*CASES["spacer"])
    found = job.trains["propane"]
    kept = stands(found, job.parts)
    assert all(slot.there for slot in kept.slots.values())
    assert not any(slot.remade for slot in kept.slots.values())
    names = list(found.slots)
    taped = job
    for key, seal in ((names[-2], "plumbers_tape"), (names[1], None)):
        taped = put(taped, f"trains.propane.slots.{key}.seal", seal)
    wrong = stands(taped.trains["propane"], job.parts)
    assert [key for key, slot in wrong.slots.items() if slot.remade] == [names[-2]]
    assert wrong.slots[names[-2]].seal is None
    changed = kept.model_copy(update={"slots": {
        **kept.slots, names[3]: kept.slots[names[3]].model_copy(update={"there": False}),
    }})  # fmt: skip
    assert not stands(changed, job.parts).slots[names[3]].there
    strange = put(job, f"trains.propane.slots.{names[3]}.part", "")
    assert not stands(strange.trains["propane"], job.parts).slots[names[3]].there


def blocked(what="canister", remedy="move", **more) -> Job:
    job = fitted(*CASES["spacer"])
    told = {"what": what, "name": f"the {what}'s own name", "remedy": remedy, **more}
    return put(job, "set.in_the_way", {"w1": told})


@pytest.mark.parametrize(
    "what", ["canister", "cover", "breather", "air_box", "exhaust", "wiring", "other"]
)
@pytest.mark.parametrize("remedy", ["move", "replace", "cut"])
def test_what_stands_in_the_way_is_a_step_before_anything_is_mounted(what, remedy):
    job = blocked(what, remedy, undo="yes")
    never = remedy == "cut" and what in ("canister", "exhaust")
    assert bool(contradictions(job)) is never
    order = [one.step for one in Plan(job, CATALOG).of(fit_sheet).steps]
    (step,) = [one for one in order if one.key == way_step("w1")]
    assert f"the {what}'s own name" in step.what
    assert step.photo
    missing = Plan(job, CATALOG).of(parts_list).missing
    assert any("that clears" in one for one in missing) is (remedy == "replace")


def test_nothing_in_the_way_is_left_undecided():
    def asked(job):
        return {one.path: one for one in Plan(job, CATALOG).of(open_items)}

    open_ = asked(blocked(remedy="none"))["set.in_the_way.w1.remedy"]
    assert open_.holds
    assert asked(blocked())["set.in_the_way.w1.undo"].holds
    assert "set.in_the_way.w1.undo" not in asked(blocked(undo="yes"))
    agreed = "confirmed.undone"
    plain = blocked("cover", "move", undo="yes")
    assert (agreed in asked(blocked("cover", "move", undo="no"))) is True
    assert agreed in asked(blocked("cover", "cut", undo="yes"))
    assert (agreed in asked(plain)) is (agreed in asked(fitted(*CASES["spacer"])))


def test_the_record_says_what_became_of_it_and_whether_it_can_be_undone():
    job = blocked("wiring", "cut", undo="partly")
    step = steps(job)[way_step("w1")]
    done = {"state": "done", "by": "Runa Kestle", "of": step.subject, "what": step.what}
    job = with_(job, fit={"steps": {step.key: done}})
    rows = [row for one in Plan(job, CATALOG).of(record) for row in one.rows]
    (row,) = [row for row in rows if row.label == "was in the way"]
    assert row.text == "the wiring's own name, cut: in part"
    assert row.by == "Runa Kestle"


def test_what_stands_at_a_face_is_a_step_too():
    job = put(fitted(*CASES["spacer"]), "set.faces",
              {"f1": {"name": "left panel", "stands": "tool tray", "remedy": "move"}})  # fmt: skip
    assert "tool tray" in steps(job)[way_step("face-f1")].what
    told = put(job, "set.faces.f1.remedy", "none")
    assert way_step("face-f1") not in steps(told)
