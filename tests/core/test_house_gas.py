"""House gas by a quick outlet and a hose, who joins to it, and where it is taken off."""

from __future__ import annotations

from typing import Any

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fuel_path.case import default_template
from gentle_ember.core.stages.fuel_path.proposals import propose
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.fuel_path.trains import TrainSection
from gentle_ember.core.stages.method.networks import states_with
from gentle_ember.core.stages.method.stage import method_items
from tests.helpers.sets import CATALOG, fact, job_of, output_of
from tests.helpers.trains import part, put, section


def job_with(**gas: Any) -> Job:
    document = job_of("frame", stub="3/4", pressure=1740.0).model_dump()
    document["sites"]["s1"]["gases"]["g1"] |= gas
    document["wants"]["natural_gas"] = True
    return Job.model_validate(document)


def outlet(job: Job, source: str = "utility_outlet") -> TrainSection:
    template = TEMPLATES[f"spacer_adapter-{source}"]
    return propose(job, output_of(job), CATALOG, "natural_gas", template).proposals[0].section


def chosen(job: Job, found: TrainSection) -> Job:
    return Job.model_validate(job.model_dump() | {
        "trains": {"natural_gas": found.case.train.model_dump()},
        "choice": {"methods": ["spacer_adapter"]},
        "parts": {one.key: one.model_dump() for _, one in found.case.known()},
    })  # fmt: skip


def rules(found: TrainSection) -> set[str]:
    return {one.rule for one in found.troubles}


def test_a_site_with_an_outlet_gets_a_hose_on_it_and_no_pipe():
    job = job_with(take_off="outlet")
    template = default_template(job, "spacer_adapter", found_fuel())
    assert template is not None
    assert template.source == "utility_outlet"
    found = outlet(job)
    kinds = [one.part.kind for one in found.case.parts if one.part is not None]
    assert "pipe" not in kinds
    assert kinds.count("gas_half") == 4
    assert not any(one.stops for one in found.troubles)
    assert "take_off" not in rules(found)
    assert "take_off" in rules(outlet(job, "utility"))


def found_fuel():
    return TEMPLATES["spacer_adapter-utility"].fuel


def test_only_what_a_fitter_made_is_left_to_his_test():
    job = job_with(take_off="outlet")
    by_fitter = chosen(job, outlet(job))
    joints = [one.joint for one in plan(by_fitter, CATALOG).of(fit_sheet).joints]
    last = max(at for at, one in enumerate(joints) if one.fitter)
    assert joints[last].after.slot.role == "outlet_half"
    assert all(one.fitter for one in joints[: last + 1])
    owner = job_with(take_off="outlet", tapped="owner")
    by_owner = chosen(owner, outlet(owner))
    assert not any(one.joint.fitter for one in plan(by_owner, CATALOG).of(fit_sheet).joints)


@pytest.mark.parametrize(("who", "says"), [("fitter", "licensed fitter"), ("owner", "local code")])
def test_whoever_joins_to_the_house_somebodys_word_is_asked_for(who, says):
    job = job_with(take_off="stub", tapped=who)
    asked = {one.key: one for one in method_items(plan(chosen(job, outlet(job)), CATALOG))}
    fitter = next(one for key, one in asked.items() if "fitter" in key)
    assert says in fitter.text
    assert fitter.acts


@pytest.mark.parametrize(
    ("gas", "kind"),
    [
        ({"take_off": "meter", "tapped": "owner"}, "stop"),
        ({"take_off": "meter"}, ""),
        ({"take_off": "appliance"}, "not_known"),
        ({"take_off": "appliance", "appliances": fact(2e4)}, ""),
        ({"take_off": "stub", "tapped": "owner"}, ""),
        ({}, ""),
    ],
)
def test_a_take_off_is_judged_by_where_it_is_and_who_makes_it(gas, kind):
    said = [one for one in outlet(job_with(**gas), "utility").troubles if one.rule == "take_off"]
    assert [str(one.severity) for one in said] == ([kind] if kind else [])


def test_a_hose_parted_at_either_end_must_close_at_both():
    """A half that stays open at the set's end lets gas out though the wall's closes."""
    job = job_with(take_off="outlet")
    tight = chosen(job, outlet(job))
    found = outlet(job)
    open_half, plug = part("mere coupler|3/4 in, supply"), part("mere coupler|3/4 in, set half")
    train = put(put(found.case.train, "supply_half", part=open_half), "set_half", part=plug)
    leaky = chosen(job, section(job, train, "natural_gas"))

    def escapes(which: Job) -> bool:
        columns = states_with(plan(which, CATALOG), ("spacer_adapter",)).columns
        on_gas = next(one for one in columns if one.state.key == "natural_gas")
        return any(
            fault.key == "escapes" for slip in on_gas.slips for fault in slip.faults
            if slip.control == "natural_gas_coupler"
        )  # fmt: skip

    assert escapes(leaky)
    assert not escapes(tight)
