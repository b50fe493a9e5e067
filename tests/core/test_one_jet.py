"""One jet decision: sheet, bill, jets page and load test name the same jet, one that is sold."""

import dataclasses

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.estimates.jets import decided, jet_decision, pick, school_pick
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.route import cautions, copied, implied
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.load_test.jets import jets_here
from gentle_ember.core.stages.method.judged import judged_methods
from tests.helpers.sets import CATALOG, fact, job_of
from tests.helpers.sound import put

SOLD = tuple(sorted(float(one.jet) for one in CATALOG.parts.values() if one.jet))


def up(elevation=2450.0, **jets) -> Job:
    """A set whose 90 was made for sea level, at an elevation."""
    job = put(job_of("frame"), "choice.methods", ["rejet"])
    job = put(job, "set.carburetor.jetted_at", fact(0.0))
    told = {"stamped": {"number": fact(90.0)}, "marking": "hundredths", "made_on": "e10"}
    job = put(job, "set.carburetor.jets", {**told, **jets})
    return put(job, f"sites.{job.site}.elevation", fact(elevation))


def named(job: Job) -> set[float]:
    """The jet named by each place that names one."""
    planned = Plan(job, CATALOG)
    step = next(one.step for one in planned.of(fit_sheet).steps if one.step.key == "jet_in")
    bill = [
        float(line.part.jet)
        for line in planned.of(parts_list).lines
        if line.part.kind is PartClass.JET and "main jet" in line.uses
    ]
    return {float(step.of[0]), *bill, planned.of(jets_here).decision.number}


@given(st.floats(300.0, 3500.0), st.sampled_from(["hundredths", "flow"]))
def test_every_place_names_the_same_jet_and_it_is_sold_and_not_leaner(elevation, marking):
    job = up(elevation, marking=marking)
    found = decided(job, CATALOG)
    if found.number is None:
        assert found.wanted[0].value > max(SOLD)
        return
    assert named(job) == {found.number}
    assert found.number in SOLD
    assert found.number >= found.wanted[0].value - 1e-9


def test_without_the_stamped_number_nothing_is_decided_and_the_bill_asks():
    job = up(stamped={"number": None})
    assert decided(job, CATALOG).number is None
    asked = dict(Plan(job, CATALOG).of(parts_list).open_questions)
    assert "set.carburetor.jets.stamped.number" in asked.values()


def test_where_every_jet_sold_is_smaller_none_is_named():
    job = up(0.0, found="lean", stamped={"number": fact(max(SOLD))})
    assert decided(job, CATALOG).number is None
    lean = up(0.0, found_lam=fact(1.20), stamped={"number": fact(max(SOLD))})
    assert decided(lean, CATALOG).number is None
    missing = Plan(lean, CATALOG).of(parts_list).missing
    assert "main jet: none of the catalog is large enough" in missing


@pytest.mark.parametrize(("found", "side"), [("rich", -1), ("lean", 1)])
def test_a_set_that_runs_rich_at_home_is_a_re_jet_like_any_other(found, side):
    job = up(0.0, found=found)
    school = Plan(job, CATALOG).of(judged_methods).of("rejet")
    assert any(f"Runs {found} as found" in one.text for one in school.reasons)
    number = decided(job, CATALOG).number
    beside = [one for one in SOLD if (one - 90.0) * side > 0]
    assert number == (max(beside) if side < 0 else min(beside))
    assert named(job) == {number}
    # What the plug says is no λ: none is foretold from the number alone.
    assert Plan(job, CATALOG).of(jets_here).as_it_is is None


def test_a_measured_mixture_goes_before_what_the_plug_looked_like():
    job = up(0.0, found="lean", found_lam=fact(0.80))
    found = decided(job, CATALOG)
    assert found.wanted[0].key == "jets.found"
    assert found.wanted[0].value == pytest.approx(90.0 * (0.80 / 0.90) ** 0.5, abs=0.1)
    assert Plan(job, CATALOG).of(jets_here).as_it_is.value == pytest.approx(0.80)
    suits = up(0.0, found_lam=fact(0.90))
    rejet = Plan(suits, CATALOG).of(judged_methods).of("rejet")
    assert any("the jet in it suits" in one.text for one in rejet.reasons)


def after(what, jet=85.0, lam=0.80, **more) -> tuple[Job, Job]:
    """A run with a jet before and after something was decided of it."""
    run = {
        "jet": fact(jet), "opened": "yes",
        "readings": {
            f"m{n}": {"after": fact(n * 300.0), "output": fact(3000.0), "lam": fact(lam)}
            for n in range(5)
        },
    }  # fmt: skip
    job = put(up(**more), "load_tests", {"s1-gasoline": {"runs": {"r1": run}}})
    return job, put(job, "load_tests.s1-gasoline.runs.r1.decided", {"what": what, "by": "Runa"})


def followed(before: Job, now: Job) -> Job:
    for change in implied(before, Plan(now, CATALOG)):
        now = put(now, change.path, change.value)
    return now


def test_after_smaller_the_sheet_the_parts_and_the_page_follow():
    before, now = after("jet_down")
    now = followed(before, now)
    number = decided(now, CATALOG).number
    assert number < 85.0
    assert named(now) == {number}
    assert "its run with 85" in decided(now, CATALOG).why


def test_against_its_advice_the_next_size_sold_is_taken_and_keeping_clears_it():
    before, now = after("jet_up")
    now = followed(before, now)
    assert decided(now, CATALOG).number == min(one for one in SOLD if one > 85.0)
    kept = put(now, "load_tests.s1-gasoline.runs.r1.decided.what", "keep")
    kept = followed(now, kept)
    assert kept.set.carburetor.jets.chosen.number is None
    fitted = put(kept, "set.carburetor.jets.fitted.number", fact(85.0))
    assert decided(fitted, CATALOG).number == 85.0
    down = put(put(fitted, "set.carburetor.jets.fitted_for", fact(2450.0)),
               "sites.s1.elevation", fact(100.0))  # fmt: skip
    assert decided(down, CATALOG).number == 90.0, "what was kept up there says nothing down here"


def test_what_was_settled_on_up_here_says_nothing_down_there_and_nothing_in_a_copy():
    job = up()
    chosen = put(job, "set.carburetor.jets.chosen.number", fact(82.0))
    chosen = followed(job, chosen)
    assert chosen.set.carburetor.jets.chosen.elevation.value == 2450.0
    assert decided(chosen, CATALOG).number == 82.0
    down = put(chosen, "sites.s1.elevation", fact(0.0))
    assert decided(down, CATALOG).number == 90.0
    assert copied(chosen).set.carburetor.jets.chosen.number is None
    assert copied(chosen).set.carburetor.jets.stamped == chosen.set.carburetor.jets.stamped


@pytest.mark.parametrize(("number", "severity"), [(85.0, None), (80.0, "caution"), (75.0, "stop")])
def test_a_jet_settled_on_that_is_lean_here_is_told_and_stops(number, severity):
    job = up()
    chosen = followed(job, put(job, "set.carburetor.jets.chosen.number", fact(number)))
    told = {one.key: str(one.severity) for one in Plan(chosen, CATALOG).of(cautions)}
    assert told.get("jets.chosen") == severity


def test_a_run_on_the_simulated_bench_settles_no_jet_and_puts_none_in():
    before, now = after("jet_down", jet=82.0)
    document = now.model_dump(mode="json")
    run = document["load_tests"]["s1-gasoline"]["runs"]["r1"]
    for reading in run["readings"].values():
        reading["output"]["origin"] = "simulated"
    now = Job.model_validate(document)
    assert followed(before, now).set.carburetor.jets.chosen.number is None
    assert decided(now, CATALOG).in_it == 90.0
    assert 82.0 not in decided(now, CATALOG).tried


def test_a_school_that_is_refused_comes_to_no_jet():
    job = up(3400.0)
    found = Plan(job, CATALOG).of(jet_decision)
    for one in found.wanted:
        refused = any(text.startswith("Refused") for text in one.warnings)
        assert (school_pick(job, one, found) is None) is (refused or one.value > max(SOLD))


def test_one_at_hand_is_taken_before_one_is_ordered_unless_it_runs_rich():
    job = up()
    asked = decided(job, CATALOG).wanted[0].value
    assert pick(job, asked, (86.0,), (85.0, 86.0)) == 86.0
    assert pick(job, asked, (90.0,), (85.0, 90.0)) == 85.0, "90 up here is far too rich"
    assert pick(job, asked, (), (85.0,)) == 85.0
    order = dataclasses.replace(decided(job, CATALOG), at_hand=(), in_it=90.0)
    assert order.to_order


def put_in(job: Job, number: float) -> Job:
    return put(job, "fit.steps", {"jet_in": {"state": "done", "by": "Runa", "of": f"{number:g}"}})


def jet_step(job: Job):
    return next(one for one in Plan(job, CATALOG).of(fit_sheet).steps if one.step.key == "jet_in")


def test_the_run_after_the_sheet_begins_with_the_jet_the_sheet_put_in():
    job = up()
    assert decided(job, CATALOG).in_it == 90.0
    done = put_in(job, 85.0)
    assert decided(done, CATALOG).in_it == 85.0
    assert Plan(done, CATALOG).of(jets_here).in_it == 85.0
    assert decided(put_in(job, 85.0), CATALOG).number == 85.0
    assert jet_step(done).state == "done"


def test_another_jet_decided_on_opens_the_step_and_one_that_ran_closes_it():
    """Whoever put it in and ran it has nothing left to put in."""
    before, now = after("jet_down")
    now = put_in(followed(before, now), 85.0)
    number = decided(now, CATALOG).number
    assert jet_step(now).state == "stale"
    ran = put(now, "load_tests.s1-gasoline.runs.r2", {"jet": fact(number)})
    assert decided(ran, CATALOG).in_it == number
    assert jet_step(ran).state == "done"
    kept = put(put(ran, "set.carburetor.jets.fitted.number", fact(number)),
               "set.carburetor.jets.chosen", {})  # fmt: skip
    assert jet_step(kept).state == "done"
