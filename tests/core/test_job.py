"""Changes, contradictions, the Route and the plan of a job."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from gentle_ember.catalog import load
from gentle_ember.core.base.errors import ChangeError
from gentle_ember.core.base.figure import Band, Figure, Method
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.run_times import every_run_time, run_times
from gentle_ember.core.job.change import Change, apply, overlap
from gentle_ember.core.job.facts import Fact, quantity_at
from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.route import (
    cautions,
    contradictions,
    current_stage,
    questions,
    refusals,
    route,
    waits_for,
)
from tests.helpers.jobs import fact, job, whole

CATALOG = load()
METHOD = Method("m", "m", "f", "s", "output")


JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.text(max_size=5),
    lambda inner: st.dictionaries(st.sampled_from("abc"), inner, max_size=3),
    max_leaves=6,
)


@given(
    st.dictionaries(st.sampled_from("abc"), JSON, min_size=1),
    st.lists(st.tuples(st.sampled_from(["a", "b", "c", "a.b", "b.c"]), JSON, st.booleans())),
)
def test_inverse_of_any_change_leads_back(document, entries):
    changes = [Change(path, value, remove) for path, value, remove in entries]
    try:
        new, back = apply(document, changes)
    except ChangeError:
        return
    assert apply(new, back)[0] == document


def test_a_change_below_nothing_is_refused():
    with pytest.raises(ChangeError, match=r"set\.nowhere\.deep"):
        apply({"set": {}}, [Change("set.nowhere.deep", 1)])


def test_overlap_is_by_place():
    mine = [Change("set.running"), Change("sites.s1.name")]
    assert overlap(mine, [Change("sites.s1.elevation")]) == []
    assert overlap(mine, [Change("sites")]) == ["sites.s1.name"]


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"set__starting": fact(2000.0)}, "set.starting"),
        ({"set__shaft_power": fact(2500.0)}, "set.shaft_power"),
        (
            {"set__shaft_power": fact(4000.0), "set__alternator_efficiency": fact(0.55)},
            "set.alternator_efficiency",
        ),
        ({"sites__s1__coldest": fact(310.0)}, "sites.s1.hottest"),
        ({"set__run_times": {"r1": {"load": fact(5000.0)}}}, "set.run_times.r1.load"),
        (
            {"set__weigh_ins": {"w1": {"before": fact(9.0), "after": fact(9.5)}}},
            "set.weigh_ins.w1.after",
        ),
        (
            {"sites__s1__cylinders": {"c1": {"weighed": fact(7.0), "tare": fact(8.0)}}},
            "sites.s1.cylinders.c1.weighed",
        ),
        ({"site": "s9"}, "site"),
        ({"stages__dance": {}}, "stages.dance"),
    ],
)
def test_contradictions_name_their_field(changes, path):
    assert list(contradictions(whole())) == []
    assert path in [clash.path for clash in contradictions(whole(**changes))]


@pytest.mark.parametrize("value", [-5000.0, 0.0, 1e9, float("nan"), float("inf")])
def test_absurd_ratings_are_refused_at_their_field(value):
    with pytest.raises(ValidationError) as caught:
        job(set__running=fact(value))
    assert caught.value.errors()[0]["loc"][:2] == ("set", "running")


def test_quantities_are_found_by_path():
    spec = quantity_at(Job, ["sites", "s1", "cylinders", "c3", "tare"])
    assert spec is not None
    assert (spec.kind, spec.label) == ("mass", "Stamped tare (TW)")
    assert quantity_at(Job, ["set", "maker"]) is None
    assert quantity_at(Job, ["set", "nothing"]) is None


def test_plan_of_an_empty_job_asks_instead_of_failing():
    empty = plan(job(), CATALOG)
    assert empty.of(output_here) is None
    assert empty.of(run_times) is None
    assert [question.path for question in empty.of(questions)][:2] == [
        "set.running",
        "set.starting",
    ]
    assert empty.of(route)[0].state == "open"


def test_plan_is_pure_and_kept_for_its_job():
    job = whole()
    one, two = plan(job, CATALOG), plan(whole(), CATALOG)
    assert plan(job, CATALOG) is one
    assert one.of(output_here) == two.of(output_here)
    other = plan(whole(load__largest_start=fact(3400.0)), CATALOG)
    assert other.of(output_here) is not one.of(output_here)


def test_every_figure_has_its_working():
    planned = plan(whole(), CATALOG)
    assert planned.of(output_here) and planned.of(every_run_time)
    figures = [planned.of(output_here).rating]
    for entry in planned.of(output_here).fuels:
        figures += [entry.running, entry.starting, *entry.steps]
    figures += [run.figure for run in planned.of(every_run_time).runs if run.figure]
    figures += [
        one for full in planned.of(every_run_time).full_load for one in (full.flow, full.heat)
    ]
    assert len(figures) > 30
    for figure in figures:
        assert figure.method.formula and figure.method.source and figure.inputs
        assert figure.band.low <= figure.value <= figure.band.high
        assert figure.narrows or not figure.estimated


def test_a_figure_outside_its_band_cannot_be_made():
    with pytest.raises(ValueError, match="band"):
        Figure("k", "l", 5.0, "power", METHOD, Band(6.0, 7.0))
    with pytest.raises(ValueError, match="crossed"):
        Band(2.0, 1.0)


def test_missing_facts_widen_the_band():
    known = plan(
        whole(set__shaft_power=fact(3700.0), set__alternator_efficiency=fact(0.82)), CATALOG
    )
    unknown = plan(whole(), CATALOG)
    spans = [
        running.band.high - running.band.low
        for one in (known, unknown)
        for running in (one.of(output_here).fuels[1].running,)
    ]
    assert spans[0] < spans[1]


def test_a_cold_cylinder_is_a_caution_and_an_overfull_one_a_stop():
    cold = plan(whole(sites__s1__coldest=fact(250.0)), CATALOG)
    assert "starve.c1.coldest" in [caution.key for caution in cold.of(cautions)]
    overfull = whole(sites__s1__cylinders={"c1": {"size": "20", "fill": fact(10.5)}})
    found = plan(overfull, CATALOG)
    assert (found.of(cautions)[0].severity, found.of(cautions)[0].stage) == ("stop", "intake")
    assert found.of(route)[0].state == "stop"
    signed = Job.model_validate(
        {**overfull.model_dump(), "stages": {"intake": {"state": "done", "by": "R K"}}}
    )
    assert {one.path for one in refusals(overfull, plan(signed, CATALOG))} == {"stages.intake"}


def test_lean_as_jetted_is_a_stop():
    down_from_high = whole(set__carburetor__jetted_at=fact(3000.0), sites__s1__elevation=fact(0.0))
    lean = [c for c in plan(down_from_high, CATALOG).of(cautions) if c.key == "lean.s1"]
    assert [c.severity for c in lean] == ["stop"]


def test_standing_cautions_follow_what_is_on_site():
    plain = {c.key for c in plan(whole(), CATALOG).of(cautions)}
    with_gas = whole(sites__s1__gases={"g": {"kind": "biogas"}, "n": {"kind": "natural_gas"}})
    gassed = {c.key for c in plan(with_gas, CATALOG).of(cautions)}
    assert {"standing.co", "standing.backfeed", "standing.cylinder"} <= plain
    assert gassed - plain >= {"standing.biogas", "standing.fitter"}


def test_a_load_no_fuel_carries_is_said_and_not_computed():
    heavy = plan(whole(load__planned=fact(2900.0)), CATALOG)
    assert heavy.of(run_times)
    by_key = {run.key: run for run in heavy.of(run_times).runs}
    assert by_key["c1.coldest"].figure is None
    assert "can't carry" in by_key["c1.coldest"].why_not
    assert "load.propane" in [caution.key for caution in heavy.of(cautions)]


def test_route_and_waiting():
    stages = {
        "intake": {"state": "done", "by": "Runa Kestle"},
        "method": {"state": "waiting", "waits_for": "owner"},
    }
    staged = whole(stages=stages)
    shown = plan(staged, CATALOG).of(route)
    assert [stage.state for stage in shown[:3]] == ["done", "waiting", "not_started"]
    assert shown[0].detail.startswith("by RK")
    assert shown[1].detail == "waits for the owner"
    assert current_stage(staged) == "method"
    assert waits_for(staged) == "owner"


def test_several_sites_are_planned_one_at_a_time():
    both = whole(
        sites__s2={"name": "up", "elevation": fact(2400.0), "hottest": fact(300.0)},
    )
    low = plan(both, CATALOG).of(output_here)
    high = plan(both.model_copy(update={"site": "s2"}), CATALOG).of(output_here)
    assert low and high
    assert high.fuels[0].running.value < low.fuels[0].running.value


def test_measured_weighing_beats_the_assumed_fill():
    weighed = whole(
        sites__s1__cylinders={"c1": {"size": "20", "weighed": fact(12.0), "tare": fact(8.0)}}
    )
    runs = plan(weighed, CATALOG).of(run_times)
    full = plan(whole(), CATALOG).of(run_times)
    assert runs and full and runs.runs[1].figure and full.runs[1].figure
    assert runs.runs[1].figure.value < full.runs[1].figure.value


def test_a_size_the_catalog_lacks_is_named():
    gone = plan(whole(), Catalog({}))
    assert any("no cylinder" in caution.text for caution in gone.of(cautions))


def test_facts_keep_what_was_typed():
    told = Fact(value=610.0, typed="2000 ft")
    assert told.origin == "owner"
    assert Fact.model_validate(told.model_dump()) == told
