"""Run-on and change-over against what is expected, and how often the shop found vents failed."""

from __future__ import annotations

import pytest

from gentle_ember.core.base.figure import Figure
from gentle_ember.core.estimates.measured import lessons_of
from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.route import cautions
from gentle_ember.core.shop import Lesson, Shop, Taught, counted
from gentle_ember.core.stages.first_start.compared import compared, expected, run_on
from gentle_ember.core.stages.fuel_path.trains import trains_to_build
from tests.helpers.fits import MULTI, SPACER, fitted
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put


def spacer(**more) -> Job:
    return put(fitted(*SPACER, **more), "wants", {"propane": True, "keep_gasoline": True})


def runs_on(job: Job) -> Figure:
    found = run_on(plan(job, CATALOG).of(trains_to_build)["propane"])
    assert found is not None
    return found


def said(job: Job) -> list[str]:
    return [one.text for one in compared(plan(job, CATALOG))]


def test_what_a_hose_holds_over_the_airs_pressure_is_burnt_in_a_moment():
    """By hand: π/4 · 9.5 mm² · 3 m at 11 in w.c. is 5.7 mL, in a set that burns some 0.1 g/s."""
    found = runs_on(spacer())
    assert 0.01 < found.value < 1.0
    assert found.band.high == pytest.approx(3 * found.value + 3.0)
    assert runs_on(spacer(distance=6.0)).value > found.value


@pytest.mark.parametrize(("seconds", "tells"), [(2.0, False), (45.0, True)])
def test_a_set_that_runs_on_has_a_valve_that_passes(seconds, tells):
    job = put(spacer(), "starts", {"propane": {"died_after": fact(seconds)}})
    texts = said(job)
    assert bool(texts) is tells
    assert all("the valve passes" in text for text in texts)
    # It is a caution of the job like any other.
    assert any("ran on" in one.text for one in cautions(plan(job, CATALOG))) is tells


def test_a_change_over_counts_the_bowl_only_where_it_is_run_dry():
    dry, drained = spacer(), spacer()
    drained = put(drained, "ways.bowl", "drained")
    first, second = (expected(plan(job, CATALOG), "propane")[1] for job in (dry, drained))
    assert first is not None
    assert second is not None
    assert first.value > second.value
    assert input_of(first, "float bowl") == pytest.approx(0.25 * 212e-6)


@pytest.mark.parametrize(("seconds", "tells"), [(4.0, "the least"), (180.0, ""), (1700.0, "most")])
def test_a_change_over_too_quick_or_too_slow_is_asked_about(seconds, tells):
    job = put(spacer(), "starts", {"propane": {"change_over": fact(seconds)}})
    texts = said(job)
    assert (len(texts) == 1 and tells in texts[0]) if tells else not texts


def test_nothing_is_expected_of_what_is_not_there():
    planned = plan(spacer(), CATALOG)
    assert expected(planned, "natural_gas") == (None, None)
    multi = plan(put(fitted(*MULTI), "wants", {"propane": True, "keep_gasoline": False}), CATALOG)
    assert expected(multi, "propane")[1] is None


def looked(look: str, kind: str = "cap_lever") -> Job:
    job = put(spacer(), "set", {**spacer().set.model_dump(), "tank_vent": kind})
    return put(job, "findings", {"vent": {"look": look, "by": "RK"}})


@pytest.mark.parametrize(
    ("look", "kind", "teaches"),
    [("good", "cap_lever", [0.0]), ("bad", "canister", [1.0]), ("watch", "cap_lever", []),
     ("not_looked", "cap_lever", []), ("bad", "unknown", [])],
)  # fmt: skip
def test_a_vent_teaches_once_it_was_looked_at_and_its_type_is_known(look, kind, teaches):
    found = [one for one in lessons_of(looked(look, kind)) if one.quantity == "vent"]
    assert [one.measured for one in found] == teaches
    assert all(one.set_class == kind for one in found)


def vents(failed: int, good: int) -> list[Lesson]:
    return [Lesson("vent", "cap_lever", "", 1.0, float(n < failed)) for n in range(failed + good)]


def test_a_vents_failure_rate_is_the_shops_own_with_a_band_that_narrows():
    few, many = (Shop({}, vents=counted(vents(n, 9 * n))) for n in (1, 10))
    rates = [shop.vent_fails("cap_lever", "lever on the cap") for shop in (few, many)]
    assert all(one is not None for one in rates)
    one, ten = (rate for rate in rates if rate is not None)
    # (1 + ½) / 11 and (10 + ½) / 101, by hand.
    assert one.value == pytest.approx(1.5 / 11)
    assert ten.value == pytest.approx(10.5 / 101)
    assert one.band.low < ten.band.low < 0.1 < ten.band.high < one.band.high
    assert Shop({}).vent_fails("cap_lever", "lever on the cap") is None
    assert few.vent_fails("canister", "canister") is None


def test_a_job_is_told_what_the_others_saw_never_its_own():
    lesson = tuple(vents(1, 0))
    taught = Taught({"a": lesson, "b": lesson})
    assert taught.but("a").vents["cap_lever"].looked == 1
    assert taught.all().vents["cap_lever"].looked == 2
    again = taught.renewed({"a": lesson, "b": lesson, "c": tuple(vents(0, 1))})
    assert again.but("a") is not taught.but("a")
    assert again.but("a").vents["cap_lever"].looked == 2


def loads(**drawn) -> Job:
    return put(spacer(), "load", {"appliances": {
        "a1": {"name": " Well pump ", "kind": "pump", **drawn}}})  # fmt: skip


def test_what_a_load_drew_by_the_meter_is_offered_on_the_next_job_first():
    """Only what was measured teaches, under one name however it was typed."""
    assumed = {"value": 900.0, "origin": "assumed"}
    assert not [one for one in lessons_of(loads(running=assumed)) if one.quantity == "load"]
    told = [lessons_of(loads(running=fact(watts), starting=fact(3 * watts)))
            for watts in (900.0, 1000.0)]  # fmt: skip
    kettle = Lesson("load", "kettle", "resistive", 0.0, 1480.0)
    taught = Taught({"a": told[0], "b": told[1], "c": (kettle,)})
    first, second = taught.but("d").loads
    assert (first.name, first.kind, first.times) == ("well pump", "pump", 2)
    assert first.running_w == pytest.approx(950.0)
    # The hardest start counts: a set must take it.
    assert first.starting_w == 3000.0
    assert (second.name, second.starting_w) == ("kettle", None)
    assert [one.name for one in taught.but("c").loads] == ["well pump"]
    assert taught.but("a").loads[0].times in (1, 2)
    assert sum(one.times for one in taught.but("a").loads) == 2


def input_of(found, label: str) -> float:
    return next(one.value for one in found.inputs if one.label == label)


def test_run_on_is_what_the_hose_before_the_regulator_holds_over_the_flow_without_load():
    """Each hose of the train by hand; what lies after the demand regulator is left out."""
    section = plan(spacer(), CATALOG).of(trains_to_build)["propane"]
    found = run_on(section)
    assert found is not None
    held, parts = 0.0, list(section.case.parts)
    at = next(n for n, one in enumerate(parts) if one.part and one.part.kind == "demand")
    for one in parts[:at]:
        if one.part and one.part.kind in ("gas_hose", "pigtail", "pipe"):
            rung = section.case.ladder.of(one.key)
            area = 3.14159265 * (one.part.bore_m or 0.0) ** 2 / 4
            held += area * one.length_m * rung.inlet["idle"] / section.case.asked.demand.ambient_pa
    demand = section.case.asked.demand
    burns = demand.watts["idle"] / demand.fuel.lhv_j_kg
    assert input_of(found, "gas held, at the air's pressure") == pytest.approx(held)
    assert found.value == pytest.approx(held * demand.gas_density / burns)
    assert found.band.low == 0.0


@pytest.mark.parametrize("bowl", ["run_dry", "drained"])
def test_a_change_over_by_hand(bowl):
    """Least: a small bowl at half load and quick hands; most: a large one idling and slow ones."""
    _, found = expected(plan(put(spacer(), "ways.bowl", bowl), CATALOG), "propane")
    assert found is not None
    moves, holds = input_of(found, "moves"), input_of(found, "float bowl") / 0.25
    idle = input_of(found, "gasoline without load")
    half = input_of(found, "gasoline at half load")
    assert idle < half < 3 * idle
    dry = (0.12 / half, 0.25 / idle, 0.45 / idle) if bowl == "run_dry" else (0.0, 0.0, 0.0)
    kilos = holds * 742.0
    assert found.band.low == pytest.approx(dry[0] * kilos + 5 * moves, rel=0.02)
    assert found.value == pytest.approx(dry[1] * kilos + 15 * moves, rel=0.02)
    assert found.band.high == pytest.approx(dry[2] * kilos + 40 * moves, rel=0.02)


def test_what_is_asked_about_stands_at_its_field_and_its_fuel():
    log = {"gasoline": {"died_after": fact(900.0)},
           "propane": {"died_after": fact(45.0), "change_over": fact(1700.0)}}  # fmt: skip
    found = list(compared(plan(put(spacer(), "starts", log), CATALOG)))
    assert [(one.path, one.fuel, one.stage) for one in found] == [
        ("starts.propane.died_after", "propane", "first_start"),
        ("starts.propane.change_over", "propane", "first_start"),
    ]
    assert found[0].text.startswith("Propane: it ran on 45 s")
    high = runs_on(spacer()).band.high
    exact = put(spacer(), "starts", {"propane": {"died_after": fact(high)}})
    assert said(exact) == []
