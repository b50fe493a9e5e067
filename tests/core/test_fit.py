"""The fit sheet: what it asks for by school, its order, what changes undo, what it learns."""

import math
import re
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.job.ends import SEALING
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.lists import comes_back, fastener_map, to_take
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fit.step import GATES, OrderError, Phase, Place, Step, ordered
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.fuel_path.search import Impossible, solve
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.intake.walk_round import walk_tasks
from tests.helpers.fits import (
    CASES,
    EXCHANGED,
    MEASURED,
    SPACER,
    fitted,
    sheet,
    steps,
)
from tests.helpers.sets import CATALOG, SIZES, asked, fact, job_of
from tests.helpers.trains import SHELF

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
    first_close = [place[step.key] for step in found if step.phase is Phase.CLOSE]
    assert not first_close or max(place[step.key] for step in working) < min(first_close)


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
    counts = {
        way: {line.part.kind: line.count for line in Plan(
            fitted(*SPACER, **facts, fit={"studs": way}), CATALOG).of(parts_list).lines}
        for way in ("longer", "back_out", "extend")
    }  # fmt: skip
    assert counts["longer"]["stud"] == 2
    assert "stud" not in counts["back_out"]
    assert counts["extend"]["stud_extension"] == 2
    out = longer["stud-1"].measures[0].value
    assert out >= 16e-3 + short - 1e-9


def test_studs_that_reach_once_squeezed_are_drawn_together_and_no_others() -> None:
    """Past the stack a nut of 5 mm and a pitch of 1 mm; gaskets of 1 mm lie 0.3 mm thicker."""
    stack = {"flange": fact(3e-3), "washers": fact(1.5e-3), "gaskets": fact(1e-3)}
    bare = steps(fitted(*SPACER, set__studs=MEASURED, set__stack=stack))
    plate = next(m.value for m in bare["plate"].measures)
    reaches = 3e-3 + 1.5e-3 + 1e-3 + plate + 6e-3

    def made(over: float, studs: str = ""):
        out = {**MEASURED, "stick_out": fact(reaches + over)}
        return fitted(*SPACER, set__studs=out, set__stack=stack, fit={"studs": studs})

    drawn = steps(made(0.1e-3))
    assert "Draw the stack together" in drawn["stud-1"].what
    assert "stud-2" not in drawn
    assert drawn["stud-1"].measures[0].value == pytest.approx(0.2e-3)
    assert "plate" in drawn["stud-1"].after
    assert "stud-1" not in drawn["plate"].after
    assert "stud-1" not in steps(made(0.4e-3))
    assert "Swap" in steps(made(-0.1e-3))["stud-1"].what
    # Chosen where squeezing is not enough, it holds.
    short = made(-0.1e-3, "pull")
    held = next(one for one in sheet(short).steps if one.step.key == "stud-1")
    assert "lacks a full nut" in held.held
    fine = next(one for one in sheet(made(0.1e-3, "pull")).steps if one.step.key == "stud-1")
    assert not fine.held


def test_a_loop_behind_a_bulkhead_follows_the_least_bend() -> None:
    job = fitted("inverter", ["spacer_adapter"], {"propane": "spacer_adapter-cylinder"})
    run = next(one for one in steps(job).values() if one.kind == "run" and len(one.measures) == 2)
    bend = SHELF.parts[run.parts[0]].bend_m
    assert bend is not None
    assert run.measures[1].value == pytest.approx(math.pi * bend)


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
    job = fitted(*SPACER, fit={"packed": {"magnetic_tray": {"done": True, "by": "RK"}}})
    planned = Plan(job, CATALOG)
    rows = to_take(planned.of(fit_sheet), planned.of(parts_list))
    named = {row.what for row in rows}
    for one in planned.of(fit_sheet).steps:
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
    assert next(task for task in Plan(job, CATALOG).of(walk_tasks) if task.key == "gaskets").done


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


@pytest.mark.parametrize(
    ("depth", "metal", "held"),
    [(fact(22e-3), "aluminum", False), (fact(12e-3), "aluminum", True), (None, "iron", True)],
)
def test_a_stud_is_not_backed_out_of_a_casting_that_may_not_hold_it(
    depth: Any, metal: str, held: bool
) -> None:
    job = fitted(*SPACER, fit={"studs": "back_out"}, set__stack={
        "flange": fact(3e-3), "washers": fact(1.5e-3), "gaskets": fact(1e-3)},
        set__studs={**MEASURED, "stick_out": fact(16e-3), "thread_depth": depth,
                    "metal": metal})  # fmt: skip
    found = next(one for one in sheet(job).steps if one.step.key == "stud-1")
    assert bool(found.held) is held


def gap(**plug):
    job = fitted(*CASES["spacer"], set__plug=plug)
    step = next(one.step for one in sheet(job).steps if one.step.key == "plug_gap")
    return step, tuple(round(one.value * 1e3, 3) for one in step.measures)


def test_the_plug_is_gapped_by_the_makers_figure_for_gas_where_there_is_one():
    usual, (least, most) = gap()
    assert (least, most) == (0.508, 0.635)
    assert "if there is none" in usual.why
    told, ends = gap(gap_gas=fact(0.6e-3), type="R7", heat="7", resistor=True)
    assert ends == (0.55, 0.65)
    assert "Spark plug R7 out" in told.what
    assert "this is the maker's gap for gas" in told.why
    assert "colder heat range than 7, with its resistor." in told.why
    # Another gap is another step: what was ticked by the usual one is done again.
    assert told.subject != usual.subject


@pytest.mark.parametrize(("size", "part"), [("1/4", "1/4"), ("5/16", "5/16"), ("unknown", "1/4")])
def test_shut_off_hose_and_clamps_fit_the_sets_own_line(size, part):
    job = fitted(*CASES["spacer"], set__fuel_line=size, set__shut_off=False)
    made = Plan(job, CATALOG).of(parts_list)
    (valve,) = [one.part for one in made.lines if one.part.kind == "fuel_valve"]
    assert valve.inlet == f"barb:{part}:m"
    clamps = [one for one in made.lines if one.part.inlet == f"barb:{part}:f"
              and one.part.kind == "clamp"]  # fmt: skip
    assert sum(one.count for one in clamps) >= 2
    asked = "set.fuel_line" in {path for _, path in made.open_questions}
    assert asked is (size == "unknown")


def test_what_plugs_into_the_old_carburetor_goes_over_to_the_new_one() -> None:
    plugs = {"connectors": "choke motor", "gasket": "both"}
    told = steps(fitted(*EXCHANGED, set__carburetor=plugs))
    assert "choke motor" in told["connectors"].what
    assert "insulator and both gaskets" in told["carburetor_off"].what
    plain = steps(fitted(*EXCHANGED))
    assert "connectors" not in plain
    assert "gaskets and insulator" in plain["carburetor_off"].what
    assert "connectors" not in steps(fitted(*SPACER, set__carburetor={"connectors": "heater"}))
