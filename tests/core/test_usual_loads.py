"""Usual loads: each is a load the job takes, starts no softer than it runs, and is said once."""

import pytest

from gentle_ember.core.estimates.defaults import STARTING, starting_w
from gentle_ember.core.job.job import Appliance
from gentle_ember.core.job.usual_loads import USUAL_LOADS


def as_listed(one):
    """The load as the page adds it."""
    facts = {"running": one.running_w, "starting": one.starting_w,
             "power_factor": one.power_factor}  # fmt: skip
    return Appliance.model_validate({
        "name": one.name, "kind": one.kind, "leg": "both" if one.both_legs else "",
        **{key: {"value": value, "origin": "assumed"} for key, value in facts.items()
           if value is not None},
    })  # fmt: skip


@pytest.mark.parametrize("one", USUAL_LOADS, ids=lambda one: one.name)
def test_a_usual_load_is_one_the_job_takes(one):
    listed = as_listed(one)
    assert listed.must_run
    assert listed.running.value == one.running_w
    assert starting_w(listed) >= one.running_w
    motor = STARTING[one.kind] > 1.0
    assert motor is (one.starting_w is not None)
    if motor:
        # Never softer than a third of what its kind is taken to start with.
        assert one.starting_w >= one.running_w * max(2.0, STARTING[one.kind] / 2)
    assert 0.5 <= (one.power_factor or 1.0) <= 1.0


def test_names_are_told_apart():
    names = [one.name for one in USUAL_LOADS]
    assert len(set(names)) == len(names) >= 20
