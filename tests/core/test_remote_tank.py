"""The remote tank by its size, and the own tank's branch to the selector: joints, parts, proof."""

from __future__ import annotations

from typing import Any

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import end
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fuel_path.gasoline_rules import own_branch
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.fuel_path.proposals import propose
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.fuel_path.trains import TrainSection, train_section
from gentle_ember.core.stages.prove_tight.proof import tightness
from tests.helpers.fits import GRAVITY, PUMP, fitted
from tests.helpers.sets import CATALOG, fact, job_of, output_of
from tests.helpers.trains import part


def job_with(line: str = "1/4", volume: float | None = None) -> Job:
    document = job_of("frame").model_dump()
    document["set"]["fuel_line"] = line
    if volume is not None:
        document["sites"]["s1"]["remote_tank"]["volume"] = fact(volume)
    return Job.model_validate(document)


def proposed(job: Job, method: str = "remote_tank_gravity") -> TrainSection:
    found = propose(job, output_of(job), CATALOG, "gasoline", TEMPLATES[method])
    return found.proposals[0].section


@pytest.mark.parametrize("method", ["remote_tank_gravity", "remote_tank_pump"])
@pytest.mark.parametrize(
    ("volume", "holds"),
    [(None, 11.4), (0.0112, 11.4), (0.0225, 22.7), (0.030, 45.4), (0.045, 45.4)],
)
def test_the_tank_of_the_size_typed_is_taken_else_the_next_larger(method, volume, holds):
    case = proposed(job_with(volume=volume), method).case
    assert case.parts[0].part is not None
    assert case.parts[0].part.volume_m3 == pytest.approx(holds / 1e3)


def test_a_tank_of_another_size_than_typed_is_told_of_and_run_times_keep_the_sites():
    job = job_with(volume=0.0225)
    section = proposed(job)
    assert "tank_size" not in {one.rule for one in section.troubles}
    slots = {**section.case.train.slots}
    slots["source"] = slots["source"].model_copy(update={"part": part("remote fuel tank, 3 gal")})
    train = section.case.train.model_copy(update={"slots": slots})
    found = train_section(job, output_of(job), CATALOG, "gasoline", train)
    assert found is not None
    said = next(one for one in found.troubles if one.rule == "tank_size")
    assert not said.stops
    assert [round(one.value * 1e3, 1) for one in said.amounts] == [11.4, 22.5]


@pytest.mark.parametrize("line", ["1/4", "5/16"])
@pytest.mark.parametrize("method", ["remote_tank_gravity", "remote_tank_pump"])
def test_selector_inlet_and_branch_have_the_size_of_the_sets_own_line(line, method):
    case = proposed(job_with(line), method).case
    outlet, hose, side = own_branch(case)
    assert [one.part is not None for one in (outlet, hose, side)] == [True] * 3
    sizes = {end(text).size for one in (outlet, hose) if one.part
             for text in (one.part.inlet, one.part.outlet) if text}  # fmt: skip
    assert sizes == {line}
    assert "own_branch" not in {one.rule for one in proposed(job_with(line), method).troubles}


def test_a_hose_forced_over_another_barb_is_a_stop():
    job = job_with("1/4")
    case = proposed(job).case
    wide = Job.model_validate(job.model_dump() | {"set": job.set.model_dump() | {
        "fuel_line": "5/16"}})  # fmt: skip
    found = train_section(wide, output_of(wide), CATALOG, "gasoline", case.train)
    assert found is not None
    said = next(one for one in found.troubles if one.rule == "own_branch")
    assert said.stops
    assert "5/16 in" in said.text


@pytest.mark.parametrize("case", [GRAVITY, PUMP], ids=["gravity", "pump"])
def test_the_branch_is_made_bought_and_proven_with_the_rest(case):
    job = fitted(*case)
    planned = plan(job, CATALOG)
    steps = {one.step.key: one.step for one in planned.of(fit_sheet).steps}
    made = [steps["j-g-own_hose"], steps["j-g-own_side"]]
    assert [one.joint for one in made] == ["gasoline.own_hose", "gasoline.own_side"]
    assert all(one.must and one.secured == "clamp" for one in made)
    proof = planned.of(tightness)[0]
    joints = {one.state.joint.key for zone in proof.zones for one in zone.joints}
    assert {"gasoline.own_hose", "gasoline.own_side"} <= joints
    uses = {use for line in planned.of(parts_list).lines for use in line.uses}
    assert "own tank to selector" in uses


def amounts(job: Job) -> dict[str, float]:
    return {line.part.key: line.count for line in plan(job, CATALOG).of(parts_list).lines}


def test_a_hose_that_stays_on_the_own_tank_is_neither_bought_nor_made_again():
    job = fitted(*GRAVITY)
    kept = fitted(*GRAVITY)
    document: dict[str, Any] = kept.model_dump()
    document["trains"]["gasoline"]["own"] = {"kept": True}
    kept = Job.model_validate(document)
    new, old = amounts(job), amounts(kept)
    hose = own_branch(proposed(job_with()).case)[1].slot.part
    assert new[hose] - old[hose] == pytest.approx(0.4)
    clamps = {key for key in new if CATALOG.parts[key].kind == "clamp"}
    assert sum(new[key] for key in clamps) - sum(old[key] for key in clamps) == 1
    joints = [one.joint for one in plan(kept, CATALOG).of(fit_sheet).joints]
    there = {one.key: one.there for one in joints if one.key.startswith("gasoline.own_")}
    assert there == {"gasoline.own_hose": True, "gasoline.own_side": False}


def test_a_selector_that_is_there_has_its_branch_already():
    document: dict[str, Any] = fitted(*GRAVITY).model_dump()
    slots = document["trains"]["gasoline"]["slots"]
    key = next(key for key, one in slots.items() if one["role"] == "selector")
    slots[key]["there"] = True
    there = Job.model_validate(document)
    planned = plan(there, CATALOG)
    joints = [one.joint for one in planned.of(fit_sheet).joints]
    own = {one.key: one.there for one in joints if one.key.startswith("gasoline.own_")}
    assert own == {"gasoline.own_hose": True, "gasoline.own_side": True}
    uses = {use for line in planned.of(parts_list).lines for use in line.uses}
    assert "own tank to selector" not in uses
    # It is soaped all the same: a joint nobody made is proven like one somebody did.
    proven = {one.state.joint.key for zone in planned.of(tightness)[0].zones
              for one in zone.joints}  # fmt: skip
    assert set(own) <= proven


def test_what_is_cut_for_the_branch_is_what_was_measured():
    document = fitted(*GRAVITY).model_dump()
    document["trains"]["gasoline"]["own"] = {"length": fact(1.1)}
    long = Job.model_validate(document)
    hose = own_branch(proposed(job_with()).case)[1].slot.part
    assert amounts(long)[hose] - amounts(fitted(*GRAVITY))[hose] == pytest.approx(0.7)


def test_without_a_selector_there_is_no_branch():
    case = proposed(job_with()).case
    slots = {key: one for key, one in case.train.slots.items() if one.role != "selector"}
    train = case.train.model_copy(update={"slots": slots})
    found = train_section(case.job, output_of(case.job), CATALOG, "gasoline", train)
    assert found is not None
    assert own_branch(found.case) == ()


def test_a_panel_half_is_mounted_and_mates_with_the_tanks_half():
    panel = CATALOG.parts[part("rill fuel coupler, 1/4 in, set half for a panel")]
    plain = CATALOG.parts[part("rill fuel coupler, 1/4 in, set half")]
    assert panel.hole_m is not None
    assert panel.inlet == plain.inlet
    assert plain.hole_m is None
