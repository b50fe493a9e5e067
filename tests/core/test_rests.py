"""What a pass rests on: planted near-misses are found, what is far off or told is not named."""

import pytest

from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.job.change import Change, apply
from gentle_ember.core.job.job import Job
from gentle_ember.core.rests import JUDGED, assumed_facts, what_it_rests_on
from gentle_ember.core.route import STAGES
from gentle_ember.core.stage import Plan, Severity
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound


def rests(job):
    return {one.fact.path: one for one in what_it_rests_on(Plan(job, CATALOG))}


def stops(job):
    plan = Plan(job, CATALOG)
    return {
        one.key
        for stage in STAGES if stage.key in JUDGED
        for one in stage.cautions(plan) if one.severity is Severity.STOP
    }  # fmt: skip


def with_value(job, path, value):
    document, _ = apply(job.model_dump(mode="json"), [Change(path, {"value": value})])
    return Job.model_validate(document)


# A re-jet is held wrong, too, where nothing needs one: its verdict turns twice.
@pytest.mark.parametrize("name", [name for name in CASES if name != "rejet"])
def test_where_it_turns_it_really_turns(name):
    """By a plan of its own: just past the place it stops, halfway to what is taken it holds."""
    job = sound(name)
    before = stops(job)
    for one in what_it_rests_on(Plan(job, CATALOG)):
        at = one.fact.at or one.fact.path
        if at.startswith("load.") or any("can't" in text for text in one.stops):
            continue
        there = with_value(job, at, one.turns_at)
        assert stops(there) - before
        short = one.fact.value + 0.4 * (one.turns_at - one.fact.value)
        assert not stops(with_value(job, at, short)) - before
        assert 0 < one.nearness <= 1
        figure = one.figure
        assert figure.value == one.turns_at
        assert figure.inputs[0].path == one.fact.path


def test_a_pressure_read_without_flow_is_named_first():
    """The twin's regulator has 0.1 in w.c. to spare: an inch lost before the stub starves it."""
    found = what_it_rests_on(Plan(sound("twin"), CATALOG))
    first = found[0]
    assert first.fact.label == "Pressure at the stub at flow, all appliances on"
    assert 0 < first.fact.value - first.turns_at < 1.0 * INCH_WC_PA
    assert any("starves" in text for text in first.stops)
    assert not first.above
    assert [one.nearness for one in found] == sorted(one.nearness for one in found)


def test_what_is_told_is_asked_no_more():
    job = sound("gravity")
    assert "set.carburetor.jetted_at" in rests(job)
    told = put(job, "set.carburetor.jetted_at", fact(0.0))
    assert "set.carburetor.jetted_at" not in rests(told)
    still_assumed = put(told, "set.carburetor.jetted_at", {"value": 0.0, "origin": "assumed"})
    assert "set.carburetor.jetted_at" in rests(still_assumed)


def test_what_stops_already_is_not_said_again():
    """A fact can only turn what holds: a stop there already rests on nothing."""
    job = put(sound("gravity"), "set.carburetor.jetted_at", {"value": 2500.0, "origin": "assumed"})
    assert any(key.startswith("lean") or "lean" in key for key in stops(job))
    assert "set.carburetor.jetted_at" not in rests(job)


def test_a_motor_nobody_timed_decides_whether_it_starts():
    job = put(sound("spacer"), "load", {
        "planned": fact(1500.0),
        "appliances": {"p1": {"name": "sump pump", "kind": "pump", "running": fact(900.0),
                              "must_run": True}},
    })  # fmt: skip
    one = rests(job)["load.appliances.p1.starting"]
    assert one.fact.label == "Starting watts, sump pump"
    assert one.above
    assert any("can't start" in text for text in one.stops)
    told = put(job, "load.appliances.p1.starting", fact(2000.0))
    assert "load.appliances.p1.starting" not in rests(told)


def test_every_assumed_fact_can_be_tried_at_its_ends():
    """No end lies outside what its field allows: such a try would say nothing, silently."""
    seen = set()
    for name in CASES:
        job = sound(name)
        for one in assumed_facts(job):
            seen.add(one.path.rpartition(".")[2])
            for end in one.ends:
                assert with_value(job, one.at or one.path, end)
                assert end != one.value
    assert {"jetted_at", "house", "planned", "hhv", "specific_gravity"} <= seen


def test_nothing_chosen_rests_on_nothing():
    bare = Job.model_validate({"title": "x", "set": {"running": fact(3000.0)}, "sites": {"s1": {}}})
    assert what_it_rests_on(Plan(bare, CATALOG)) == ()
