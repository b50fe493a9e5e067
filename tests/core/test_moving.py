"""The move sheet: by hand, there and back, and what must be proven at arrival."""

import copy
import math
from datetime import date

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.physics.mixture import SET_TO
from gentle_ember.core.route import cautions, implied, refusals
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.trains import trains_to_build
from gentle_ember.core.stages.hand_over.arrivals import arrived
from gentle_ember.core.stages.hand_over.moving import moves, places
from gentle_ember.core.stages.hand_over.seals import work
from tests.helpers.fits import fitted
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound

LOCKED = {"turns": fact(1.5), "output": fact(3000.0)}


def two_sites(name="spacer", elevation=2450.0, **more):
    """A sound job at home, and the same site again far up."""
    document = sound(name).model_dump(mode="json")
    far = copy.deepcopy(document["sites"]["s1"])
    document["sites"]["s1"]["name"] = "Home"
    height = far["elevation"] if elevation is None else fact(elevation)
    document["sites"]["s2"] = {**far, "name": "Ridge", "elevation": height, **more}
    document["metering"] = {"s1-propane": {"locked": fact(1.5), "readings": {"a": LOCKED}}}
    return Job.model_validate(document)


def found(job, start="s1-propane", goal="s2-propane"):
    plan = Plan(job, CATALOG)
    return next(one for one in plan.of(moves) if (one.start.key, one.goal.key) == (start, goal))


def train(job, site):
    return Plan(job, CATALOG).at(site).of(trains_to_build)["propane"].case


def test_up_the_ridge_it_is_leaner_by_what_the_opening_keeps():
    job = two_sites()
    here, there = (train(job, site) for site in ("s1", "s2"))
    opening = 62.0
    one, other = here.ladder.signals["full"], there.ladder.signals["full"]
    air = there.asked.demand.air_kg_s() / here.asked.demand.air_kg_s()
    thin = math.sqrt(there.asked.demand.gas_density / here.asked.demand.gas_density)
    smooth = SET_TO * air / (thin * math.sqrt((other - opening) / (one - opening)))
    move = found(job)
    # One end by hand: pulses smoothed out. The other is nearer to no change at all.
    assert max(move.lam.band.high, move.lam.band.low) == pytest.approx(smooth, rel=1e-3)
    assert SET_TO < move.lam.value < smooth
    assert move.screw.value == pytest.approx(1.5 * move.lam.value / SET_TO)
    assert move.screw.inputs[0].path == "metering.s1-propane.locked"


def test_nothing_moves_where_nothing_differs():
    document = two_sites(elevation=None).model_dump(mode="json")
    # Nothing measured at home but the lock: a measured output would be home's alone.
    document["metering"]["s1-propane"]["readings"] = {}
    move = found(Job.model_validate(document))
    assert move.lam.value == pytest.approx(SET_TO, rel=1e-6)
    assert move.eighths == 0
    assert move.says == "The screw stays where it is; the sweep there decides."
    for row in move.rows:
        assert row.here.value == pytest.approx(row.there.value)
    assert not any("Load test" in one.text for one in move.again)


def test_there_and_back_is_where_it_began():
    job = two_sites()
    there, back = found(job), found(job, "s2-propane", "s1-propane")
    assert there.lam.value / SET_TO * back.lam.value / SET_TO == pytest.approx(1.0, abs=0.01)
    assert back.says.startswith("It was set there before: 1.50 turns.")


def test_to_another_gas_the_screw_opens_by_area_and_more_is_proven():
    both = {"propane": "two_barrel_adapter-cylinder", "natural_gas": "two_barrel_adapter-utility"}
    document = fitted("twin", ["two_barrel_adapter"], both).model_dump(mode="json")
    document["metering"] = {"s1-propane": {"locked": fact(2.0), "readings": {"a": LOCKED}}}
    twin = Job.model_validate(document)
    move = found(twin, "s1-propane", "s1-natural_gas")
    # Natural gas wants 1.56 times the area at the same signal.
    assert move.screw.value / 2.0 == pytest.approx(1.56, rel=0.12)
    assert move.eighths == pytest.approx((move.screw.value - 2.0) * 8, abs=1.0)
    assert move.says.startswith("Open it by ")
    assert any("Lock-up and pressure" in one.text for one in move.again)
    assert any("Load test" in one.text for one in move.again)


def test_gasoline_goes_by_its_jet_and_the_coldest_night():
    move = found(two_sites(), "s1-gasoline", "s2-gasoline")
    assert move.screw is None
    labels = [row.label for row in move.rows]
    assert "λ on the coldest night" in labels
    night = move.rows[labels.index("λ on the coldest night")]
    assert night.there.value < night.here.value
    assert any("jet tagged" in one.text for one in move.again)


def test_gas_and_gasoline_are_no_move_of_each_other():
    plan = Plan(two_sites(), CATALOG)
    assert {one.key for one in plan.of(places)} == {
        "s1-gasoline", "s1-propane", "s2-gasoline", "s2-propane",
    }  # fmt: skip
    pairs = {(one.start.key, one.goal.key) for one in plan.of(moves)}
    assert pairs == {
        ("s1-gasoline", "s2-gasoline"), ("s2-gasoline", "s1-gasoline"),
        ("s1-propane", "s2-propane"), ("s2-propane", "s1-propane"),
    }  # fmt: skip


def test_one_place_has_nowhere_to_go():
    job = sound("gravity")
    assert all(one.start.fuel is FuelKey.GASOLINE for one in Plan(job, CATALOG).of(moves))
    assert len(Plan(job, CATALOG).of(moves)) == 0


def test_what_a_site_has_not_is_no_place():
    job = two_sites(cylinders={})
    assert "s2-propane" not in {one.key for one in Plan(job, CATALOG).of(places)}


def test_not_locked_here_it_begins_with_a_sweep_there():
    document = two_sites().model_dump(mode="json")
    document["metering"] = {}
    move = found(Job.model_validate(document))
    assert move.screw is None
    assert move.says == "Not locked here yet: nothing to turn from. It begins there with a sweep."


def test_what_stops_it_there_is_said():
    """A hose from a cylinder six meters off does not reach: the sheet says so before the drive."""
    job = two_sites(cylinders={"c1": {"size": "20", "distance": fact(40.0)}})
    move = found(job)
    assert any("reach" in one for one in move.stops)
    assert found(job, "s2-propane", "s1-propane").stops == ()


def test_a_throat_that_no_longer_opens_the_regulator_is_said():
    document = two_sites(elevation=5000.0).model_dump(mode="json")
    for part in document["parts"].values():
        if part.get("opening_pa"):
            part["opening_pa"] = 400.0
            part["kind"] = part["kind"]
    move = found(Job.model_validate(document))
    assert move.lam is None or move.lam.value >= 1.2


# It arrived


def moved(**arrivals):
    held = {"hand_over": {"arrivals": {
        key: {"start": start, "goal": goal, "on": on} for key, (start, goal, on) in arrivals.items()
    }}}  # fmt: skip
    job = two_sites()
    return Job.model_validate({**job.model_dump(), **held})


def told(job):
    return [one.text for one in Plan(job, CATALOG).of(cautions) if one.key == "hand_over.arrival"]


def test_what_the_sheet_asks_for_there_is_a_task_each_until_it_is_proven():
    job = moved(v1=("s1-propane", "s2-propane", "2026-11-20"))
    last = Plan(job, CATALOG).of(arrived)
    assert [(one.key, one.text) for one in last.asked] == [
        (one.key, one.text) for one in found(job).again
    ]
    assert last.left == len(last.asked) > 3
    assert f"{last.left} of {last.left} are not proven" in told(job)[0]
    for n, one in enumerate(last.asked, 1):
        job = put(job, f"hand_over.arrivals.v1.proven.{one.key}", "RK")
        assert Plan(job, CATALOG).of(arrived).left == len(last.asked) - n
    assert told(job) == []


def test_the_last_arrival_counts_and_home_is_one_too():
    job = moved(v1=("s1-propane", "s2-propane", "2026-11-20"),
                v2=("s2-propane", "s1-propane", "2026-11-22"))  # fmt: skip
    assert Plan(job, CATALOG).of(arrived).record.goal == "s1-propane"
    same_day = moved(v1=("s1-propane", "s2-propane", "2026-11-20"),
                     v10=("s2-propane", "s1-propane", "2026-11-20"))  # fmt: skip
    assert Plan(same_day, CATALOG).of(arrived).record.goal == "s1-propane"


def test_a_way_that_is_no_more_asks_for_nothing_and_what_was_signed_stays_signed():
    gone = moved(v1=("s1-propane", "s9-propane", "2026-11-20"))
    assert Plan(gone, CATALOG).of(arrived) is None and told(gone) == []
    assert told(two_sites()) == []
    assert work(moved(v1=("s1-propane", "s2-propane", "2026-11-20"))) == work(two_sites())


def test_it_is_looked_at_where_it_arrived_and_what_is_proven_keeps_its_place():
    before = two_sites()
    after = put(before, "hand_over.arrivals.v1", {"start": "s1-propane", "goal": "s2-propane",
                                                  "on": "2026-11-20"})  # fmt: skip
    (site,) = [one for one in implied(before, Plan(after, CATALOG)) if one.path == "site"]
    assert site.value == "s2"
    there = put(after, "site", "s2")
    again = put(there, "hand_over.arrivals.v1.proven.swept", "RK")
    assert implied(there, Plan(again, CATALOG)) == ()
    # Another wording of a line is the same thing proven.
    swept = next(one for one in Plan(again, CATALOG).of(arrived).asked if one.key == "swept")
    assert swept.by == "RK"


@pytest.mark.parametrize(
    ("record", "field"),
    [
        ({"start": "s1-propane", "goal": "s9-propane"}, "goal"),
        ({"start": "s1-propane", "goal": "s1-propane"}, "goal"),
        ({"start": "s1-gasoline", "goal": "s2-propane"}, "goal"),
        ({"start": "s1-propane", "goal": "s2-propane", "on": "2027-03-01"}, "on"),
    ],
)
def test_an_arrival_that_can_not_be_is_refused_at_its_field(record, field):
    before = two_sites()
    after = put(before, "hand_over.arrivals.v1", record)
    found = refusals(before, Plan(after, CATALOG, today=date(2026, 11, 27)))
    assert f"hand_over.arrivals.v1.{field}" in {one.path for one in found}
