"""The fit sheet: what it asks for by school, its order, what changes undo, what it learns."""

import math
import re
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.cautions import Severity
from gentle_ember.core.fit.lists import comes_back, fastener_map, to_take
from gentle_ember.core.fit.order import OrderError, ordered
from gentle_ember.core.fit.sheet import Sheet, joint_key
from gentle_ember.core.fit.step import GATES, Phase, Place, Step
from gentle_ember.core.fit.times import Learned, learn, minutes, whole
from gentle_ember.core.job import Job
from gentle_ember.core.joints import SEALING
from gentle_ember.core.plan import Plan
from gentle_ember.core.train.edit import swap
from gentle_ember.core.train.impossible import Impossible
from gentle_ember.core.train.solver import solve
from gentle_ember.core.train.templates import TEMPLATES
from tests.core.sets import CATALOG, SIZES, asked, fact, job_of
from tests.core.trains import SHELF, built

MEASURED: dict[str, Any] = {
    "pitch": fact(1e-3), "stick_out": fact(30e-3), "nut_height": fact(5e-3),
    "thread_depth": fact(14e-3), "metal": "aluminium",
}  # fmt: skip


def fitted(size: str, methods: list[str], trains: dict[str, str], **more: Any) -> Job:
    """A job with methods chosen and trains built; `set__…` sets facts of the set, `fit` its fit."""
    plain = {name: more.pop(name) for name in list(more) if name.startswith("set__")}
    fit, marks = more.pop("fit", {}), more.pop("marks", {})
    job = job_of(size, **more)
    document = job.model_dump(mode="json")
    document["choice"]["methods"] = methods
    document["fit"], document["marks"] = fit, marks
    made = {fuel: built(job, template) for fuel, template in trains.items()}
    document["trains"] = {fuel: train.model_dump(mode="json") for fuel, train in made.items()}
    document["parts"] = {
        slot.part: CATALOG.parts[slot.part].model_dump(mode="json")
        for train in made.values()
        for slot in train.slots.values()
    }
    for path, value in plain.items():
        here = document
        *parents, last = path.split("__")
        for key in parents:
            here = here[key]
        if isinstance(value, dict) and isinstance(here.get(last), dict):
            here[last] = {**here[last], **value}
        else:
            here[last] = value
    return Job.model_validate(document)


def sheet(job: Job) -> Sheet:
    return Plan(job, CATALOG).fit


def steps(job: Job) -> dict[str, Step]:
    return {one.step.key: one.step for one in sheet(job).steps}


SPACER = ("frame", ["spacer_adapter"], {"propane": "spacer_adapter-cylinder"})
TWIN = ("twin", ["two_barrel_adapter"], {"natural_gas": "two_barrel_adapter-utility"})
MULTI = ("frame", ["multi_fuel_carburetor"], {"propane": "multi_fuel_carburetor-cylinder"})
GRAVITY = ("small", ["remote_tank_gravity"], {"gasoline": "remote_tank_gravity"})
PUMP = ("small", ["remote_tank_pump"], {"gasoline": "remote_tank_pump"})
SECOND = ("dual", ["second_gas"], {"natural_gas": "second_gas-utility"})
EXCHANGED = ("frame", ["exchanged_carburetor"], {"propane": "exchanged_carburetor-cylinder"})
SNORKEL = ("frame", ["snorkel"], {"propane": "snorkel-cylinder"})
CASES: dict[str, tuple[Any, ...]] = {
    "spacer": SPACER, "twin": TWIN, "multi": MULTI, "gravity": GRAVITY, "pump": PUMP,
    "second": SECOND, "exchanged": EXCHANGED, "snorkel": SNORKEL,
    "rejet": ("small", ["rejet"], {}),
}  # fmt: skip

PARTICULARS: dict[str, tuple[set[str], dict[str, Any]]] = {
    "plate": ({"spacer", "twin"}, {}),
    "tee_branch": ({"twin"}, {}),
    "lock_off_lead": ({"twin"}, {}),
    "lock_off_ground": ({"twin"}, {}),
    "port_cap": ({"second"}, {}),
    "mixer_on": ({"snorkel"}, {}),
    "carburetor_off": ({"multi", "exchanged"}, {}),
    "linkage_photo": ({"multi", "exchanged"}, {}),
    "core_kept": ({"exchanged"}, {}),
    "valve_room": ({"multi"}, {}),
    "jet_out": ({"rejet"}, {}),
    "jet_tag": ({"rejet"}, {}),
    "levels": ({"gravity"}, {"rise": 0.3}),
    "pulse_line": ({"pump"}, {}),
    "vents": ({"gravity", "pump"}, {}),
    "plug_gap": ({"spacer", "twin", "multi", "second", "exchanged", "snorkel"}, {}),
    "stud-1": ({"spacer", "twin"}, {"set__studs": MEASURED, "set__stack": {
        "flange": fact(18e-3)}}),
    "breather_longer": ({"spacer", "twin"}, {"set__stack": {"breather_slack": fact(2e-3)}}),
    "canister": ({"gravity", "pump"}, {"set__tank_vent": "canister"}),
    "connector": ({"multi", "exchanged"}, {"set__carburetor__fuel_solenoid": True}),
    "cover": ({"gravity", "pump", "rejet"}, {}),
    "shut_off_fit": ({"spacer", "twin", "second", "exchanged", "snorkel"},
                     {"set__shut_off": False}),
}  # fmt: skip


@pytest.mark.parametrize("key", PARTICULARS)
def test_a_schools_particulars_appear_only_where_it_is_chosen(key: str) -> None:
    wanted, facts = PARTICULARS[key]
    rise = {"rise": facts["rise"]} if "rise" in facts else {}
    plain = {name: value for name, value in facts.items() if name != "rise"}
    found = {
        name for name, case in CASES.items()
        if key in steps(fitted(*case, **plain, **(rise if name == "gravity" else {})))
    }  # fmt: skip
    assert found == wanted


def test_small_practice_stands_on_every_sheet() -> None:
    for case in CASES.values():
        found = steps(fitted(*case))
        assert {"stop_switch", "plug_boot", "battery", "gear", "photos_before", "count"} <= set(
            found
        )
        assert "safety glasses" in found["gear"].tools
        for step in found.values():
            assert step.what.endswith(".")
            assert step.why or step.kind == "own"
            assert re.fullmatch(r"[a-z0-9_-]{1,40}", step.key)
    no_battery = steps(fitted(*SPACER, set__electric_start=False))
    assert "battery" not in no_battery


@pytest.mark.parametrize("name", CASES)
def test_the_order_opens_each_place_once_and_closes_in_reverse(name: str) -> None:
    job = fitted(*CASES[name], set__studs=MEASURED, set__stack={
        "flange": fact(18e-3), "air_cleaner": "third_bolt"})  # fmt: skip
    found = [one.step for one in sheet(job).steps]
    place = {step.key: at for at, step in enumerate(found)}
    assert len(place) == len(found)
    for step in found:
        assert all(place[key] < place[step.key] for key in step.after)
    gated = [at for at, step in enumerate(found) if step.phase in GATES]
    assert gated == list(range(len(gated)))
    opened = [step.key for step in found if step.back]
    closed = [step.of[0] for step in found if step.phase is Phase.CLOSE]
    assert closed == opened[::-1]
    working = [step for step in found if step.phase in (Phase.OPEN, Phase.WORK)]
    first_close = min(place[step.key] for step in found if step.phase is Phase.CLOSE)
    assert max(place[step.key] for step in working) < first_close


@given(st.lists(st.tuples(st.integers(0, 11), st.sampled_from(list(Place)),
                          st.lists(st.integers(0, 11), max_size=3)), max_size=12))  # fmt: skip
def test_any_order_keeps_what_depends_on_what(drawn: list[Any]) -> None:
    made = {
        str(number): Step(
            str(number), "x", Phase.WORK, place, "w", "y", 1,
            after=tuple(str(one) for one in after if one < number),
        )
        for number, place, after in drawn
    }  # fmt: skip
    found = ordered(made.values())
    assert {step.key for step in found} == set(made)
    seen: set[str] = set()
    for step in found:
        assert set(step.after) <= seen
        seen.add(step.key)


def test_steps_in_a_circle_are_refused() -> None:
    one = Step("a", "x", Phase.WORK, Place.AIR, "w", "y", 1, after=("b",))
    other = Step("b", "x", Phase.WORK, Place.AIR, "w", "y", 1, after=("a",))
    with pytest.raises(OrderError, match="a"):
        ordered((one, other))


def test_studs_are_swapped_one_at_a_time_or_backed_out_by_computed_turns() -> None:
    facts = {"set__studs": MEASURED, "set__stack": {
        "flange": fact(3e-3), "washers": fact(1.5e-3), "gaskets": fact(1e-3)}}  # fmt: skip
    facts["set__studs"] = {**MEASURED, "stick_out": fact(16e-3)}
    longer = steps(fitted(*SPACER, **facts))
    assert longer["stud-2"].after[-1] == "stud-1"
    assert "stud-2" in longer["plate"].after
    plate = next(m.value for m in longer["plate"].measures)
    short = 3e-3 + 1.5e-3 + 1e-3 + plate + 5e-3 + 1e-3 - 16e-3
    assert short > 0
    backed = steps(fitted(*SPACER, **facts, fit={"studs": "back_out"}))
    turns = backed["stud-1"].measures[0].value
    assert turns == math.ceil(4 * short / 1e-3 - 1e-9) / 4
    assert "must" in backed["stud-1"].why or "stays in the casting" in backed["stud-1"].why
    counts = {
        way: {line.part.kind: line.count for line in Plan(
            fitted(*SPACER, **facts, fit={"studs": way}), CATALOG).bill.lines}
        for way in ("longer", "back_out", "extend")
    }  # fmt: skip
    assert counts["longer"]["stud"] == 2
    assert "stud" not in counts["back_out"]
    assert counts["extend"]["stud_extension"] == 2
    out = longer["stud-1"].measures[0].value
    assert out >= 16e-3 + short - 1e-9


def test_a_loop_behind_a_bulkhead_follows_the_least_bend() -> None:
    job = fitted("inverter", ["spacer_adapter"], {"propane": "spacer_adapter-cylinder"})
    run = next(one for one in steps(job).values() if one.kind == "run" and len(one.measures) == 2)
    bend = SHELF.parts[run.parts[0]].bend_m
    assert bend is not None
    assert run.measures[1].value == pytest.approx(math.pi * bend)


def records(job: Job, *, up_to: str = "", on: str = "2026-11-25T10:00:00Z") -> dict[str, Any]:
    found = {}
    for one in sheet(job).steps:
        if one.step.key == up_to:
            break
        found[one.step.key] = {
            "state": "done", "by": "RK", "on": on, "seconds": 120, "of": one.step.subject,
            "what": one.step.what[:200],
        }  # fmt: skip
    return found


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
    assert after().void == "other parts stand here now"


def test_smelled_gas_and_undecided_finds_hold_the_fit() -> None:
    job = fitted(*SPACER, fit={
        "smelled": {"g1": {"step": "plate", "by": "RK", "on": "2026-11-25T10:00:00Z"}},
        "finds": {"f1": {"what": "cracked bracket"}, "f2": {"what": "split block",
                                                            "decision": "stop"}},
        "left": {"h1": {"what": "6 mm, left panel", "state": "abandoned"}},
    })  # fmt: skip
    planned = Plan(job, CATALOG)
    stops = {one.key for one in planned.cautions if one.severity is Severity.STOP
             and one.stage == "fit"}  # fmt: skip
    assert {"fit.smell.g1", "fit.find.f2"} <= stops
    held = {one.key for one in planned.readiness if one.holds and not one.done}
    assert {"fit.find.f1", "fit.left.h1"} <= held
    cleared = {**job.fit.smelled["g1"].model_dump(), "cause": "loose flare", "cleared_by": "RK",
               "cleared_on": "2026-11-25T10:30:00Z"}  # fmt: skip
    fit = job.fit.model_validate({"smelled": {"g1": cleared}})
    again = Plan(job.model_copy(update={"fit": fit}), CATALOG)
    assert not [one for one in again.cautions if one.key.startswith("fit.smell")]


def test_screws_counted_on_the_map_stand_in_the_step_that_closes() -> None:
    job = fitted("inverter", ["spacer_adapter"], {"propane": "spacer_adapter-cylinder"}, fit={
        "fasteners": {"cover": {"count": 7, "size": "M5 × 16", "first": "rear left",
                                "hidden": "one under the plug", "secured": "locker"}}})  # fmt: skip
    rows = {one.key for one in fastener_map(sheet(job))}
    assert {"cover", "air_cleaner_off"} <= rows
    back = steps(job)["back-cover"]
    for words in ("7 × M5 × 16", "rear left", "one under the plug"):
        assert words in back.why
    assert back.secured == "thread-locker"


def test_every_tool_of_a_step_is_on_the_list_and_kept_when_ticked() -> None:
    job = fitted(*SPACER, fit={"packed": {"magnetic-tray": {"done": True, "by": "RK"}}})
    planned = Plan(job, CATALOG)
    rows = to_take(planned.fit, planned.bill)
    named = {row.what for row in rows}
    for one in planned.fit.steps:
        assert set(one.step.tools) <= named
        assert set(one.step.takes) <= named
    assert len({row.key for row in rows}) == len(rows)
    assert next(row for row in rows if row.what == "magnetic tray").packed.done


def test_what_comes_back_follows_from_the_method() -> None:
    assert {row.key for row in comes_back(sheet(fitted(*EXCHANGED)).case)} == {"core"}
    assert {row.key for row in comes_back(sheet(fitted(*CASES["rejet"])).case)} == {"jet"}


def test_work_found_and_steps_added_are_on_the_sheet_and_tick_the_task() -> None:
    job = fitted(*SPACER, fit={"added": {"a1": {"what": "Fit the owner's clock",
                                                "after": "plate"}}})  # fmt: skip
    findings = {"gaskets": {"look": "bad", "decision": "replace"}}
    job = job.model_validate({**job.model_dump(mode="json"), "findings": findings})
    found = [one.step.key for one in sheet(job).steps]
    assert "task-gaskets" in found
    assert found.index("own-a1") > found.index("plate")
    done = {"task-gaskets": {"state": "done", "by": "RK"}}
    job = job.model_copy(update={"fit": job.fit.model_validate({"steps": done})})
    assert next(task for task in Plan(job, CATALOG).tasks if task.key == "gaskets").done


def test_times_are_drawn_from_the_book_toward_the_shop() -> None:
    slow = learn([("stud", 1200.0)] * 30)["stud"]
    assert 10.0 < minutes(10.0, learn([("stud", 1200.0)])["stud"]) < minutes(10.0, slow) < 20.0
    assert minutes(10.0, Learned()) == 10.0
    assert learn([("stud", 1.0), ("stud", 1e6)]) == {}
    plain = whole("x", [("stud", 10.0)] * 4, {})
    taught = whole("x", [("stud", 10.0)] * 4, {"stud": slow})
    assert plain.value == pytest.approx(2400.0)
    assert taught.value > plain.value
    assert plain.band.low < plain.value < plain.band.high


def test_a_licensed_fitters_joints_are_confirmed_not_made() -> None:
    job = fitted("large", ["spacer_adapter"], {"natural_gas": "spacer_adapter-utility"},
                 distance=22.0)  # fmt: skip
    found = sheet(job)
    made = {one.joint.after.slot.role for one in found.joints if one.step}
    assert not made & {"shut_off", "pipe"}
    assert "fitter-natural_gas" in {one.step.key for one in found.steps}


@pytest.mark.parametrize("template", sorted(TEMPLATES))
def test_every_school_class_and_source_has_a_whole_sheet(template: str) -> None:
    seen = 0
    site: dict[str, Any] = {"two": True, "distance": 2.5}
    if template.endswith("digester_plain"):
        site["pressure"] = 2600.0
    for size in SIZES:
        base = job_of(size, **site)
        if isinstance(solve(SHELF, asked(base, template).wanted()), Impossible):
            continue
        seen += 1
        chosen = TEMPLATES[template]
        job = fitted(size, [chosen.method], {str(chosen.fuel): template}, **site)
        found = sheet(job)
        steps_of = [one.step for one in found.steps]
        place = {step.key: at for at, step in enumerate(steps_of)}
        assert len(place) == len(steps_of)
        for step in steps_of:
            assert all(place[key] < place[step.key] for key in step.after), (size, step.key)
        taken_off = [step.key for step in steps_of if step.back]
        assert [step.of[0] for step in steps_of if step.phase is Phase.CLOSE] == taken_off[::-1]
        made = [step for step in steps_of if step.joint]
        for joint in found.joints:
            mine = [step for step in made if step.joint == joint.joint.key]
            assert len(mine) == (0 if joint.joint.fitter or joint.joint.on_day else 1)
            for step in mine:
                how = SEALING[joint.joint.seal]
                assert (step.why, step.caution) == (how.do, how.never)
        cautions = " ".join(step.caution for step in steps_of)
        if chosen.fuel == "gasoline":
            assert "overfills" in cautions
        elif any(step.kind == "run" for step in steps_of):
            assert "exhaust" in cautions
    assert seen, template


def test_changing_one_part_changes_only_the_steps_that_depend_on_it() -> None:
    job = fitted(*SPACER)
    held = job.trains["propane"]
    before = steps(job)
    tried = 0
    for key, slot in held.slots.items():
        part = SHELF.parts[slot.part]
        for other in SHELF.by_class[part.kind]:
            if other.key == part.key or (other.inlet, other.outlet) != (part.inlet, part.outlet):
                continue
            slots = {**held.slots, key: slot.model_copy(update={"part": other.key})}
            train = held.model_copy(update={"slots": slots})
            after = steps(job.model_copy(update={"trains": {"propane": train}}))
            for name in before.keys() | after.keys():
                if before.get(name) == after.get(name):
                    continue
                touched = {*getattr(before.get(name), "parts", ()),
                           *getattr(after.get(name), "parts", ())}  # fmt: skip
                depends = touched & {part.key, other.key}
                waits = {*getattr(before.get(name), "after", ())} ^ {
                    *getattr(after.get(name), "after", ())
                }
                assert depends or waits, (key, name)
            tried += 1
            break
    assert tried >= 3


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
