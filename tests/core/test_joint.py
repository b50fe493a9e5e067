"""The joint estimate of a set: what single readings give by hand, and what it says of itself."""

import math

import numpy as np
import pytest

from gentle_ember.core.physics.fuels import PROPANE, FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.trains import trains_to_build
from gentle_ember.core.stages.load_test import joint as rules
from gentle_ember.core.stages.load_test.joint import joint_estimate
from gentle_ember.core.stages.load_test.set_model import SetReading
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound

AT = "load_tests.s1-propane"
HOUR = 3600.0


def asked(job):
    found = joint_estimate(Plan(job, CATALOG))
    assert found is not None
    return found


def figures(job):
    return {one.figure.key.removeprefix("joint."): one for one in asked(job).told}


def with_readings(job, *readings, run=None, fuel="propane"):
    taken = {f"a{n}": {"after": fact(60.0 * (n + 1)), **one} for n, one in enumerate(readings)}
    return put(job, f"load_tests.s1-{fuel}", {"runs": {"r1": {"readings": taken, **(run or {})}}})


def weighed(job, key, burnt_kg, watts, scale=0.005):
    """An hour weighed in."""
    return put(job, f"set.weigh_ins.{key}", {
        "fuel": "propane", "before": fact(15.0), "after": fact(15.0 - burnt_kg),
        "energy": fact(watts * HOUR), "duration": fact(HOUR), "scale": fact(scale),
    })  # fmt: skip


@pytest.fixture
def spacer():
    return sound("spacer")


def test_before_anything_is_read_the_estimates_stand(spacer):
    found = asked(spacer)
    assert (found.readings, found.unlike) == (0, ())
    by_key = {one.figure.key: one for one in found.told}
    engine = by_key["joint.propane.limit"]
    assert engine.share == pytest.approx(engine.share_before, rel=0.05)
    for one in found.told:
        assert one.figure.band.low < one.figure.value < one.figure.band.high
        assert one.share <= one.share_before * 1.001
        assert one.figure.method.page == "joint-estimate"


def test_no_rating_or_no_fuel_gives_no_estimate(spacer):
    assert joint_estimate(Plan(put(spacer, "set.running", None), CATALOG)) is None


def test_a_weighed_hour_outweighs_its_class(spacer):
    """1.20 kg in an hour at full load: 15.4 kW, by hand, against the class's 19.8 kW ± 24 %."""
    limit = figures(spacer)["propane.limit"].figure.value
    burnt_w = 1.20 * PROPANE.lhv_j_kg / HOUR
    found = figures(weighed(spacer, "w1", 1.20, limit))["propane.full"]
    # Weighed to 1.2 % and 2.5 % of frost, the class to 10 %: nearly all is the weighing's.
    assert found.figure.value == pytest.approx(burnt_w, rel=0.04)
    assert found.share < 0.40 * found.share_before


def test_a_held_output_is_the_engines_limit_on_a_hotter_day(spacer):
    job = with_readings(spacer, run={"held": fact(2500.0), "outside": fact(303.15)})
    found = figures(job)
    # Its own hottest day: what was held, drawn a little to the estimate of ± 13 %.
    assert found["propane.limit"].figure.value == pytest.approx(2500.0, rel=0.03)
    assert found["propane.limit"].figure.value > 2500.0
    cold = put(job, f"{AT}.runs.r1.outside", fact(268.15))
    assert figures(cold)["propane.limit"].figure.value < found["propane.limit"].figure.value
    # One engine: what propane showed narrows gasoline, too.
    assert found["gasoline.limit"].share < found["gasoline.limit"].share_before


def test_a_tube_and_a_probe_tell_pulses_from_a_wrong_throat(spacer):
    """A U-tube gives the mean suction; λ at half load says whether the gas follows the pulses."""
    limit = figures(spacer)["propane.limit"].figure.value

    def read(suction, *more):
        full = {"output": fact(limit), "suction": fact(suction), "lam": fact(0.95)}
        return figures(with_readings(spacer, full, *more))

    for suction, lam in ((330.0, 1.05), (900.0, 0.98)):
        only = read(suction)
        assert only["propane.suction"].figure.value == pytest.approx(suction, rel=0.06)
        assert only["propane.suction"].share < 0.2
        both = read(suction, {"output": fact(limit / 2), "lam": fact(lam)})
        assert both["propane.lam_half"].figure.value == pytest.approx(lam, abs=0.02)
        assert both["propane.lam_half"].share < only["propane.lam_half"].share


def test_lambda_at_known_turns_places_the_screw(spacer):
    job = put(spacer, "metering.s1-propane", {"readings": {
        "m1": {"turns": fact(1.0), "lam": fact(1.10), "output": fact(2400.0)},
        "m2": {"turns": fact(1.3), "lam": fact(0.846), "output": fact(2450.0)},
    }})  # fmt: skip
    found = figures(job)["propane.turns"]
    # turns · λ is 1.10 both times: λ 0.95 stands at 1.10 / 0.95 turns.
    assert found.figure.value == pytest.approx(1.10 / 0.95, rel=0.01)
    assert found.share < 0.12


def test_simulated_and_rough_readings_are_left_out(spacer):
    limit = figures(spacer)["propane.limit"].figure.value
    bench = {"value": 400.0, "origin": "simulated"}
    job = with_readings(
        spacer, {"output": fact(limit), "suction": bench},
        {"output": fact(limit), "suction": fact(400.0), "ran": "hunting"},
    )  # fmt: skip
    assert asked(job).readings == 0


def test_one_weighing_against_two_is_named_and_left_out(spacer):
    limit = figures(spacer)["propane.limit"].figure.value
    job = spacer
    for key, share in (("w1", 1.0), ("w2", 0.5)):
        job = weighed(job, key, 1.40 * (0.4 + 0.6 * share), share * limit)
    sound_ = asked(job)
    assert sound_.unlike == ()
    stray = asked(weighed(job, "w3", 2.60, limit))
    assert [one.path for one in stray.unlike] == ["set.weigh_ins.w3"]
    value = {one.figure.key: one.figure.value for one in stray.told}["joint.propane.full"]
    assert value == pytest.approx(1.40 * PROPANE.lhv_j_kg / HOUR, rel=0.04)
    assert stray.unlike[0].read == pytest.approx(2.60 * PROPANE.lhv_j_kg / HOUR)


def test_the_next_reading_named_really_narrows_most(spacer):
    """Each reading that could be taken, really taken as foretold: none leaves a narrower band."""
    first = figures(spacer)["propane.full"]
    assert first.next is not None
    assert "weigh" in first.next.by.text
    taken = weighed(spacer, "w1", first.figure.value * HOUR / PROPANE.lhv_j_kg,
                    figures(spacer)["propane.limit"].figure.value, scale=0.05)  # fmt: skip
    then = figures(taken)["propane.full"].share
    assert then == pytest.approx(first.next.to, rel=0.25)


def test_displacement_ties_fuel_to_air(spacer):
    """The air a cylinder of known size can draw narrows a fuel line nobody weighed."""
    without = figures(put(spacer, "set.displacement", None))
    known = figures(spacer)
    assert "set.filling" in known
    assert "set.filling" not in without
    assert known["propane.full"].share < 0.85 * without["propane.full"].share
    assert 0.6 < known["set.filling"].figure.value < 0.95


@pytest.mark.parametrize("name", ["spacer", "second", "twin", "multi", "gravity", "exchanged"])
def test_every_kind_of_job_has_an_estimate_that_hangs_together(name):
    found = asked(sound(name))
    for one in found.told:
        assert math.isfinite(one.figure.value)
        assert one.figure.value > 0
        if one.next is not None:
            assert one.next.to < one.share


def test_its_bands_hold_what_they_say(spacer):
    """Sets drawn from what is known before, read with the errors stated: the truth lies within
    two standard errors about as often as it should."""
    plan = Plan(spacer, CATALOG)
    model = rules._model(plan, [FuelKey.PROPANE, FuelKey.GASOLINE], rules.machine(spacer.set))
    rng = np.random.default_rng(20)
    limit = model.fuels[FuelKey.PROPANE].limit_w
    kinds = [
        ("fuel", limit, 0.03), ("fuel", limit / 2, 0.04), ("lam", 0.0, 0.02),
        ("suction", limit, 0.03), ("held", 0.0, 0.02),
    ]  # fmt: skip
    inside = total = 0
    for _ in range(60):
        truth = np.array([rng.normal(one.middle, one.sigma) for one in model.unknowns])
        looked = [
            SetReading(of, FuelKey.PROPANE, watts, 0.0, sigma, "", "") for of, watts, sigma in kinds
        ]
        read = np.array([model.foretold(truth, one) + rng.normal(0, one.sigma) for one in looked])
        sigma = np.array([one.sigma for one in looked])
        found = rules.take_together(
            model.unknowns,
            lambda at, looked=looked: np.array([model.foretold(at, one) for one in looked]),
            read, sigma,
        )  # fmt: skip
        for key in ("limit", "full", "half"):

            def of(at, key=key):
                return model.asked(at, key, FuelKey.PROPANE)

            total += 1
            inside += abs(of(found.at) - of(truth)) <= 2 * found.spread(of)
    assert 0.90 <= inside / total <= 0.995


def test_a_tube_at_the_throat_is_learned_by_the_ladder(spacer):
    """Read three times the steady suction, the ladder and the mixture go by that."""

    def train(job):
        return Plan(job, CATALOG).of(trains_to_build)["propane"]

    before = train(spacer)
    steady = before.case.ladder.signals["full"]
    read = with_readings(spacer, {"output": fact(2700.0), "suction": fact(3 * steady)})
    after = train(read)
    told = after.case.asked.demand.suction
    assert told is not None
    assert (told.readings, told.path) == (1, f"{AT}.runs.r1.readings.a0.suction")
    # By the same fuel line at both loads: suction goes with the square of the air.
    demand = before.case.asked.demand
    drawn = _fuel_at(before, 2700.0) / demand.fuel.lhv_j_kg * demand.fuel.air_fuel_ratio
    at_load = min(drawn, demand.most_air_kg_s)
    assert told.over_steady == pytest.approx(3 * (demand.air_kg_s() / at_load) ** 2, rel=0.02)
    signal = after.signal
    assert signal.value == pytest.approx(told.over_steady * steady, rel=1e-6)
    assert signal.band.high / signal.value - 1 == pytest.approx(0.08)
    assert not signal.estimated
    assert before.signal.estimated
    assert before.signal.band.high / before.signal.value - 1 == pytest.approx(0.30)


def _fuel_at(section, watts):
    """Fuel at a load on the straight line through idle and full [W]."""
    demand = section.case.asked.demand
    idle, half, full = demand.watts["idle"], demand.watts["half"], demand.watts["full"]
    assert half == pytest.approx((idle + full) / 2)
    full_load = Plan(sound("spacer"), CATALOG).of(rules.output_here).of(FuelKey.PROPANE).running
    return idle + (full - idle) * watts / full_load.value


def test_a_tube_on_the_bench_or_at_another_site_teaches_nothing(spacer):
    bench = {"value": 900.0, "origin": "simulated"}
    for job in (
        with_readings(spacer, {"output": fact(2700.0), "suction": bench}),
        put(spacer, "load_tests.s9-propane", {"runs": {"r1": {"readings": {
            "a": {"output": fact(2700.0), "suction": fact(900.0)}}}}}),
    ):  # fmt: skip
        section = Plan(job, CATALOG).of(trains_to_build)["propane"]
        assert section.case.asked.demand.suction is None
