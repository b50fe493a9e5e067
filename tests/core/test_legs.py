"""Two legs: what each carries, wherever loads nobody placed are best put."""

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.estimates.defaults import STARTING, machine
from gentle_ember.core.estimates.legs import leg_loads, leg_over
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.job import Job, Load
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.plan import plan
from gentle_ember.core.route import cautions
from gentle_ember.core.stages.intake.contradictions import contradictions
from tests.helpers.jobs import fact
from tests.helpers.sets import CATALOG, job_of


def loads(*rows: tuple[float, str] | tuple[float, str, str]) -> Load:
    listed = {
        f"a{at}": {
            "name": f"load {at}", "running": fact(watts), "leg": leg,
            "kind": more[0] if more else "resistive",
        }
        for at, (watts, leg, *more) in enumerate(rows, 1)
    }  # fmt: skip
    return Load.model_validate({"appliances": listed})


def on(load: Load, volts: float = 240.0, kind: str = "frame") -> Job:
    whole = job_of(kind).model_dump()
    whole["set"] |= {"running": fact(5000.0), "starting": fact(6250.0), "volts": fact(volts),
                     "hertz": fact(60.0)}  # fmt: skip
    return Job.model_validate(whole).model_copy(update={"load": load})


def legs(job: Job) -> dict[str, float]:
    return {one.name: one.carries.value for one in leg_loads(job.set, job.load)}


def said(job: Job) -> dict[str, str]:
    found = plan(job, CATALOG).of(cautions)
    return {one.key: one.text for one in found if one.key.startswith("legs.")}


def test_a_load_that_fits_the_set_but_not_its_leg_is_not_carried():
    job = on(loads((4200.0, "a")))
    output = plan(job, CATALOG).of(output_here)
    assert output is not None
    assert output.of(FuelKey.GASOLINE).running.value > 4200.0
    assert not any(one.carries_planned for one in output.fuels)
    assert "4,200 W and gives 2,500 W" in said(job)["legs.a"]


@pytest.mark.parametrize(
    ("rows", "expected"),
    [
        ([(4200.0, "both")], {"a": 2100.0, "b": 2100.0}),
        ([(2000.0, "a"), (2200.0, "b")], {"a": 2000.0, "b": 2200.0}),
        ([(2000.0, "a"), (1000.0, "both")], {"a": 2500.0, "b": 500.0}),
        ([(2000.0, "b"), (1000.0, ""), (500.0, "")], {"a": 1500.0, "b": 2000.0}),
    ],
)
def test_each_leg_carries_its_own_and_half_of_what_is_on_both(rows, expected):
    job = on(loads(*rows))
    assert legs(job) == pytest.approx(expected)
    assert not leg_over(job.set, job.load)
    assert said(job) == {}


def test_what_is_exactly_a_legs_share_is_carried_and_a_watt_more_is_not():
    assert not leg_over(on(Load()).set, loads((2500.0, "a")))
    assert leg_over(on(Load()).set, loads((2501.0, "a")))


def test_a_set_with_one_leg_has_none_to_tell():
    assert leg_loads(on(Load(), volts=120.0).set, loads((4200.0, "a"))) == ()
    assert leg_loads(on(Load()).set, Load()) == ()


def test_what_may_wait_is_not_counted():
    load = loads((2000.0, "a"), (2000.0, "a"))
    waiting = load.appliances["a2"].model_copy(update={"must_run": False})
    spared = load.model_copy(update={"appliances": {**load.appliances, "a2": waiting}})
    assert leg_over(on(Load()).set, load) and not leg_over(on(Load()).set, spared)


def test_the_hardest_start_on_a_leg_is_held_against_half_of_what_the_set_starts():
    job = on(loads((900.0, "a", "pump"), (1000.0, "b")))
    start = 900.0 * STARTING[job.load.appliances["a1"].kind]
    assert start > 6250.0 / 2
    assert "start that motor first" in said(job)["legs.a.start"]
    assert "legs.b.start" not in said(job)
    soft = on(loads((900.0, "a", "soft_started"), (1000.0, "b")))
    assert said(soft) == {}


def test_a_figure_of_a_leg_lists_its_loads_and_says_what_is_guessed():
    placed, unplaced = on(loads((2000.0, "a"))), on(loads((2000.0, "")))
    (one, _), (other, _) = leg_loads(placed.set, placed.load), leg_loads(unplaced.set,
                                                                         unplaced.load)  # fmt: skip
    assert [row.label for row in one.carries.inputs] == ["load 1", "a leg gives"]
    assert not one.carries.estimated and other.carries.estimated


def test_a_load_nobody_placed_contradicts_no_set_with_one_leg():
    refused = {one.path for one in contradictions(on(loads((500.0, "b")), volts=120.0))}
    assert "load.appliances.a1.leg" in refused
    for leg in ("", "a"):
        found = {one.path for one in contradictions(on(loads((500.0, leg)), volts=120.0))}
        assert "load.appliances.a1.leg" not in found


watts = st.floats(min_value=10.0, max_value=3000.0)
places = st.sampled_from(["", "a", "b", "both"])


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(watts, places), min_size=1, max_size=7))
def test_a_leg_is_told_over_only_when_no_way_round_would_do(rows):
    job = on(loads(*rows))
    free = [at for at, (_, leg) in enumerate(rows) if not leg]
    fits = False
    for legs_tried in product("ab", repeat=len(free)):
        tried = list(rows)
        for at, leg in zip(free, legs_tried, strict=True):
            tried[at] = (rows[at][0], leg)
        full = {name: sum(w * (0.5 if leg == "both" else leg == name) for w, leg in tried)
                for name in "ab"}  # fmt: skip
        fits = fits or max(full.values()) <= 2500.0
    assert leg_over(job.set, job.load) is not fits
    assert sum(legs(job).values()) == pytest.approx(sum(w for w, _ in rows))


@settings(max_examples=20, deadline=None)
@given(st.lists(watts, min_size=13, max_size=18))
def test_many_loads_are_placed_without_a_load_lost(many):
    job = on(loads(*((one, "") for one in many)))
    assert sum(legs(job).values()) == pytest.approx(sum(many))
    spread = abs(legs(job)["a"] - legs(job)["b"])
    assert spread <= max(many) + 1e-6


def test_the_rating_of_a_leg_is_half_of_the_sets():
    job = on(loads((100.0, "a")))
    rated = machine(job.set)
    assert rated is not None
    assert [one.limit_w for one in leg_loads(job.set, job.load)] == [rated.rated.value / 2] * 2
