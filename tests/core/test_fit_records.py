"""What was done on a fit sheet: what changes undo, what holds it, what it learns."""

from typing import Any

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.route import cautions, implied, open_items
from gentle_ember.core.stage import Plan, Severity
from gentle_ember.core.stages.fit.sheet import joint_key
from gentle_ember.core.stages.fit.times import LearnedTime, learn, minutes, whole
from gentle_ember.core.stages.fuel_path.edit import swap
from tests.helpers.fits import SPACER, fitted, records, sheet
from tests.helpers.sets import CATALOG
from tests.helpers.trains import SHELF


def test_a_changed_train_says_what_is_undone_and_keeps_what_stands() -> None:
    job = fitted(*SPACER)
    done = records(job)
    job = job.model_copy(update={"fit": job.fit.model_validate({"steps": done})})
    assert not sheet(job).open
    held = job.trains["propane"]
    other = next(
        one for one in CATALOG.parts.values()
        if one.kind == "load_screw" and one.key != held.slots["load_screw"].part
    )  # fmt: skip
    changed = swap(held, "load_screw", (other,), SHELF, "propane").train
    job = job.model_copy(update={"trains": {"propane": changed}})
    after = sheet(job)
    stale = {one.step.key for one in after.open if one.state == "stale"}
    assert stale
    touched = {changed.slots["load_screw"].part, held.slots["load_screw"].part}
    for one in after.open:
        assert one.state == "open" or touched & set(one.step.parts)
    gone = {one.key for one in after.undone}
    assert gone == set(done) - {one.step.key for one in after.steps}
    assert {one.step.key for one in after.steps if one.state == "done"} >= {
        "plate", "air_cleaner_off", "cover" if "cover" in done else "plug_boot",
    }  # fmt: skip


def test_a_joint_opened_again_loses_its_leak_pass() -> None:
    job = fitted(*SPACER)
    joint = next(one for one in sheet(job).joints if one.step)
    tight = {
        joint_key(joint.joint.key): {
            "passed": True, "by": "RK", "on": "2026-11-25T11:00:00Z",
            "of": f"{joint.joint.subject}@2026-11-25T10:00:00Z",
        }
    }  # fmt: skip

    def after(**change: Any) -> Any:
        done = records(job)
        done[joint.step] = {**done[joint.step], **change}
        fit = job.fit.model_validate({"steps": done, "tight": tight})
        found = sheet(job.model_copy(update={"fit": fit})).joints
        return next(one for one in found if one.joint.key == joint.joint.key)

    assert after().passed
    assert after(state="open").void == "opened again"
    assert after(on="2026-11-25T12:00:00Z").void == "made again after it passed"
    assert not after(of="something else").passed
    key = next(iter(tight))
    tight[key]["of"] = "other parts"
    assert after().void == "other parts are here now"


def test_smelled_gas_and_undecided_finds_hold_the_fit() -> None:
    job = fitted(*SPACER, fit={
        "smelled": {"g1": {"step": "plate", "by": "RK", "on": "2026-11-25T10:00:00Z"}},
        "finds": {"f1": {"what": "cracked bracket"}, "f2": {"what": "split block",
                                                            "decision": "stop"}},
        "left": {"h1": {"what": "6 mm, left panel", "state": "abandoned"}},
    })  # fmt: skip
    planned = Plan(job, CATALOG)
    stops = {one.key for one in planned.of(cautions) if one.severity is Severity.STOP
             and one.stage == "fit"}  # fmt: skip
    assert {"fit.smell.g1", "fit.find.f2"} <= stops
    held = {one.key for one in planned.of(open_items) if one.holds and not one.done}
    assert {"fit.find.f1", "fit.left.h1"} <= held
    cleared = {**job.fit.smelled["g1"].model_dump(), "cause": "loose flare", "cleared_by": "RK",
               "cleared_on": "2026-11-25T10:30:00Z"}  # fmt: skip
    fit = job.fit.model_validate({"smelled": {"g1": cleared}})
    again = Plan(job.model_copy(update={"fit": fit}), CATALOG)
    assert not [one for one in again.of(cautions) if one.key.startswith("fit.smell")]


def test_times_are_drawn_from_the_book_toward_the_shop() -> None:
    slow = learn([("stud", 1200.0)] * 30)["stud"]
    assert 10.0 < minutes(10.0, learn([("stud", 1200.0)])["stud"]) < minutes(10.0, slow) < 20.0
    assert minutes(10.0, LearnedTime()) == 10.0
    assert learn([("stud", 1.0), ("stud", 1e6)]) == {}
    plain = whole("x", [("stud", 10.0)] * 4, {})
    taught = whole("x", [("stud", 10.0)] * 4, {"stud": slow})
    assert plain.value == pytest.approx(2400.0)
    assert taught.value > plain.value
    assert plain.band.low < plain.value < plain.band.high


def test_nothing_is_ticked_past_a_stop() -> None:
    job = fitted(*SPACER)
    assert not [one for one in sheet(job).steps if one.held]
    bad = swap(
        job.trains["propane"], "regulator",
        (next(one for one in SHELF.by_class["first_stage"] if one.inlet == "cyl:hand:m"),),
        SHELF, "propane",
    ).train  # fmt: skip
    found = sheet(job.model_copy(update={"trains": {"propane": bad}})).steps
    assert {bool(one.held) for one in found if one.step.joint} == {True}
    assert not any(one.held for one in found if not one.step.joint)
    smelled = fitted(*SPACER, fit={"smelled": {"g1": {"by": "RK"}}})
    assert all(one.held for one in sheet(smelled).steps)


def noted(undoes: tuple[str, ...], before: Job) -> list[str]:
    """Steps that noting a find with these opens again."""
    document = before.model_dump(mode="json")
    document["fit"]["finds"] = {"f1": {"what": "gasket cut", "undoes": list(undoes), "by": "RK"}}
    return [one.path for one in implied(before, Plan(Job.model_validate(document), CATALOG))
            if one.path.startswith("fit.steps.")]  # fmt: skip


def test_a_find_opens_again_what_it_undoes_and_nothing_else() -> None:
    done = {key: {"state": "done", "by": "RK"} for key in ("plate", "gear")}
    job = fitted(*SPACER, fit={"steps": done})
    assert noted(("plate",), job) == ["fit.steps.plate"]
    assert noted((), job) == []
    # One that is open already stays open; noted once, it does not open it again when it is edited.
    assert noted(("bowl_drain",), job) == []
    document = job.model_dump(mode="json")
    document["fit"]["finds"] = {"f1": {"what": "gasket cut", "undoes": ["plate"], "by": "RK"}}
    again = Job.model_validate(document)
    document["fit"]["finds"]["f1"]["reason"] = "ordered"
    edited = Plan(Job.model_validate(document), CATALOG)
    assert not [one for one in implied(again, edited) if one.path.startswith("fit.steps.")]
