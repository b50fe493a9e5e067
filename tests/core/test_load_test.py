"""Load tests: loads to switch on, time that counts, plug and λ judged, jets, what was learned."""

import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.estimates.measured import fuel_used, lessons_taught, output_here
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.load_test import LoadReading, Run
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.fuel_use import SetClass, class_line
from gentle_ember.core.physics.fuels import PROPANE, FuelKey, biogas, natural_gas
from gentle_ember.core.route import cautions
from gentle_ember.core.shop import Lesson, Shop, learn
from gentle_ember.core.stage import Plan, Severity
from gentle_ember.core.stages.load_test.advice import RunEvidence, advise
from gentle_ember.core.stages.load_test.bank import AIM, LEAST, BankLoad, plan_bank
from gentle_ember.core.stages.load_test.jets import jets_here
from gentle_ember.core.stages.load_test.plug import CHART, Leaning, read_plug
from gentle_ember.core.stages.load_test.tests import load_cautions, load_items, load_tests_here
from gentle_ember.core.stages.load_test.watch import Nameplate, at_load, remarks
from tests.helpers.sets import CATALOG, fact, job_of

PLATE = Nameplate(5000.0, 120.0, 60.0, 2, False, True)
LOADS = (
    BankLoad("a", "heater", 1500.0, 3), BankLoad("b", "kettle", 1000.0, 1),
    BankLoad("c", "lamp", 400.0, 2),
    BankLoad("d", "range", 1800.0, 1, "both"), BankLoad("e", "fridge", 300.0, 1, "b"),
)  # fmt: skip


def reading(minutes, watts, **more):
    return LoadReading.model_validate(
        {"after": fact(minutes * 60), "output": fact(watts),
         **{name: fact(value) if isinstance(value, float) else value
            for name, value in more.items()}}
    )  # fmt: skip


def searched(loads, output_w, rating_w):
    """The least cost of any plan, by trying every one of them."""
    places = [
        [(0, 0)] + [
            (a, b)
            for a, b in itertools.product(range(one.count + 1), repeat=2)
            if 0 < a + b <= one.count and (one.leg != "b" or a == 0)
            and (one.leg != "both" or b == 0)
        ]
        for one in loads
    ]  # fmt: skip
    best = math.inf
    for chosen in itertools.product(*places):
        total = tilt = plugs = 0.0
        for one, (a, b) in zip(loads, chosen, strict=True):
            total += one.watts * (a + b)
            plugs += a + b
            tilt += 0.0 if one.leg == "both" else one.watts * (a - b)
        legs = ((total + tilt) / 2, (total - tilt) / 2)
        if total <= output_w and max(legs) <= rating_w / 2:
            best = min(best, abs(total - AIM * output_w) + 0.6 * abs(tilt) + plugs)
    return best


@pytest.mark.parametrize("output_w", [900.0, 1700.0, 2600.0, 3350.0, 4100.0, 4800.0])
def test_the_loads_are_as_good_as_any_plain_search_finds_and_never_too_much(output_w):
    found = plan_bank(LOADS, output_w, 5000.0, 2)
    assert found.total_w <= output_w
    assert max(found.legs_w) <= 2500.0
    assert sum(found.legs_w) == pytest.approx(found.total_w)
    assert found.enough is (found.total_w >= LEAST * output_w)
    tilt = abs(found.legs_w[0] - found.legs_w[1])
    plugs = sum(one.count for one in found.on)
    cost = abs(found.total_w - AIM * output_w) + 0.6 * tilt + plugs
    assert cost <= searched(LOADS, output_w, 5000.0) + 0.02 * 2 * AIM * output_w
    assert all(one.leg == "b" for one in found.on if one.load.key == "e")


@given(
    st.lists(st.tuples(st.floats(50, 3000), st.integers(1, 4)), max_size=6),
    st.floats(300, 9000), st.sampled_from([1, 2, 3]),
)  # fmt: skip
def test_any_loads_give_a_plan_that_overloads_nothing(loads, output_w, legs):
    given_ = tuple(BankLoad(str(n), "x", watts, count) for n, (watts, count) in enumerate(loads))
    found = plan_bank(given_, output_w, 6000.0, legs)
    assert found.total_w <= output_w + 1e-6
    assert all(one <= 6000.0 / legs + 1e-6 for one in found.legs_w)
    assert found.enough or found.short_w > 0


def test_three_phases_are_loaded_alike():
    heaters = (BankLoad("h", "heater", 500.0, 9),)
    found = plan_bank(heaters, 5000.0, 6000.0, 3)
    assert found.legs_w == (1500.0, 1500.0, 1500.0)
    across = plan_bank((BankLoad("m", "motor", 3000.0, 1, "both"),), 3300.0, 6000.0, 3)
    assert across.legs_w == (1000.0, 1000.0, 1000.0)
    read = LoadReading.model_validate(
        {f"{what}_{leg}": fact(value) for leg in "abc" for what, value in
         (("volts", 120.0), ("amps", 10.0 + 4 * (leg == "c")))}
    )  # fmt: skip
    assert read.watts == pytest.approx(4080.0)
    plate = Nameplate(5000.0, 120.0, 60.0, 3, False, True)
    assert "The legs are not balanced: move a load over." in [one.text for one in
                                                             remarks(read, plate)]  # fmt: skip
    low = read.model_copy(update={"volts_c": read.volts_a.model_copy(update={"value": 90.0})})
    assert any("leg C" in one.text for one in remarks(low, plate))


def test_only_time_between_readings_at_load_counts_and_gaps_are_cut():
    steady = [reading(m, 4000.0) for m in (0, 6, 12, 18, 25)]
    assert at_load(steady, 3500.0) == 25 * 60
    assert at_load(list(reversed(steady)), 3500.0) == 25 * 60
    dipped = [reading(0, 4000.0), reading(6, 2000.0), reading(12, 4000.0), reading(20, 4000.0)]
    assert at_load(dipped, 3500.0) == 8 * 60
    assert at_load([reading(0, 4000.0), reading(55, 4000.0)], 3500.0) == 10 * 60
    died = [reading(0, 4000.0), reading(8, 4000.0, ran="died")]
    assert at_load(died, 3500.0) == 0


@pytest.mark.parametrize(
    ("shown", "severity", "words"),
    [
        ({"volts_a": 112.0}, Severity.CAUTION, "Volts on leg A 7 % under"),
        ({"volts_b": 105.0}, Severity.STOP, "Volts on leg B"),
        ({"hertz": 56.0}, Severity.CAUTION, "Frequency 6.7 % low"),
        ({"hertz": 52.0}, Severity.STOP, "Frequency"),
        ({"lam": 1.2}, Severity.CAUTION, "lean on gas"),
        ({"lam": 0.75}, Severity.CAUTION, "rich"),
        ({"exhaust": 1000.0}, Severity.CAUTION, "700 °C"),
        ({"air_co": 50e-6}, Severity.CAUTION, "50 ppm"),
        ({"air_co": 120e-6}, Severity.STOP, "Move everyone away"),
        ({"amps_a": 20.0, "amps_b": 10.0}, Severity.CAUTION, "not balanced"),
        ({"output": 5300.0}, Severity.CAUTION, "Over the running rating"),
        ({"smell": "gas"}, Severity.STOP, "source shut"),
        ({"ran": "hunting"}, Severity.CAUTION, "Hunting"),
    ],
)
def test_a_reading_says_what_is_not_as_it_should_be(shown, severity, words):
    found = list(remarks(reading(1, shown.pop("output", 4000.0), **shown), PLATE))
    assert [(one.severity, words in one.text) for one in found] == [(severity, True)]
    assert not list(remarks(reading(1, 4000.0, volts_a=119.0, hertz=59.0, lam=0.97), PLATE))


def test_a_plug_is_evidence_only_when_it_went_in_clean_and_ran_long_enough():
    for one in CHART:
        for gas in (True, False):
            found = read_plug(one.key, gas=gas, before="new", seconds=1500)
            assert not found.why_not
            late = read_plug(one.key, gas=gas, before="new", seconds=600)
            old = read_plug(one.key, gas=gas, before="as_was", seconds=1500)
            too_hot = found.leaning is Leaning.TOO_LEAN
            assert late.counts is old.counts is too_hot
    assert read_plug("soot", gas=True, before="new", seconds=1500).leaning is Leaning.OTHER
    assert read_plug("nothing", gas=True, before="new", seconds=1500) is None


def evidence(**more):
    usual = {"gas": False, "lam": None, "plug": None, "held_share": None, "hunting": False,
             "jet": 85.0, "turns": None, "at_hand": (78.0, 80.0, 82.0, 88.0, 90.0)}  # fmt: skip
    return RunEvidence(**{**usual, **more})


def plug(key, *, gas=False):
    return read_plug(key, gas=gas, before="new", seconds=1500)


@pytest.mark.parametrize(
    ("seen", "what", "jet"),
    [
        (evidence(lam=0.90), "keep", 85.0),
        (evidence(lam=0.98), "jet_up", 90.0),
        (evidence(lam=1.05), "jet_up", 90.0),
        (evidence(lam=0.80), "jet_down", 82.0),
        (evidence(lam=0.80, plug=plug("white")), "put_right", None),
        (evidence(lam=0.80, plug=plug("gray")), "put_right", None),
        (evidence(lam=1.00, plug=plug("soot")), "put_right", None),
        (evidence(lam=0.90, plug=plug("gray")), "jet_up", 88.0),
        (evidence(lam=0.80, plug=plug("tan")), "keep", 85.0),
        (evidence(plug=plug("soot")), "jet_down", 82.0),
        (evidence(plug=plug("gray")), "jet_up", 88.0),
        (evidence(plug=plug("oily"), lam=0.8), "put_right", None),
        (evidence(lam=0.90, held_share=0.8), "put_right", None),
        (evidence(lam=0.90, ready=False), "", None),
        (evidence(lam=0.80, at_hand=(70.0, 72.0)), "keep", 85.0),
    ],
)
def test_the_leanest_sign_decides_and_a_smaller_jet_needs_every_sign(seen, what, jet):
    found = advise(seen)
    assert (found.what, found.jet) == (what, jet)
    assert found.reasons
    assert found.stop is (seen.lam == 1.05 or bool(seen.plug and seen.plug.leaning == "too_lean"))


@pytest.mark.parametrize("gas", [False, True])
def test_a_probe_and_a_plug_that_disagree_change_nothing(gas):
    """Neither is followed: a jet by the wrong one of the two burns a piston."""
    found = advise(evidence(gas=gas, turns=2.0, lam=0.72, plug=plug("blistered", gas=gas)))
    assert (found.what, found.jet, found.turns) == ("put_right", None, None)
    assert "disagree" in found.reasons[0]
    assert "Measure both again" in found.reasons[0]
    assert found.stop


@given(st.floats(0.6, 1.3), st.booleans())
def test_the_jet_advised_never_makes_it_leaner_than_wanted(lam, bore):
    at_hand = tuple(float(n) for n in range(60, 121))
    found = advise(evidence(lam=lam, at_hand=at_hand, bore=bore))
    if found.what in ("jet_up", "jet_down") and 60 < found.jet < 120:
        assert found.expects == pytest.approx(jets.lambda_with(lam, 85.0, found.jet, bore=bore))
        assert found.expects <= 0.9 + 1e-9
        # The next smaller one would have been leaner than wanted.
        assert jets.lambda_with(lam, 85.0, found.jet - 1, bore=bore) > 0.9 or found.jet == 86.0


def test_gas_screws_follow_lambda_and_the_plug():
    lean = advise(evidence(gas=True, jet=None, turns=2.0, lam=1.16))
    assert (lean.what, round(lean.turns, 2)) == ("screw_out", 2.39)
    rich = advise(evidence(gas=True, jet=None, turns=2.0, lam=0.80))
    assert (rich.what, round(rich.turns, 2)) == ("screw_in", 1.65)
    right = evidence(gas=True, jet=None, turns=2.0, lam=0.97, plug=plug("gray", gas=True))
    assert advise(right).what == "keep"


def set_up_high(fuel="gasoline", methods=("rejet",), **run):
    """A set up at 2,450 m, with one run of a load test where one is given."""
    job = job_of("frame").model_dump(mode="json")
    job["choice"]["methods"] = list(methods)
    job["sites"]["s1"]["elevation"] = fact(2450.0)
    job["set"]["carburetor"]["jetted_at"] = fact(0.0)
    job["set"]["carburetor"]["jets"]["stamped"]["number"] = fact(90.0)
    job["set"]["carburetor"]["jets"]["made_on"] = "e10"
    job["load_tests"] = {f"s1-{fuel}": {"runs": {"r1": run}}} if run else {}
    return type(job_of("frame")).model_validate(job)


def of(planned, fuel="gasoline"):
    return next(one for one in planned.of(load_tests_here) if one.fuel == fuel)


def full_run(share=0.9, jet=85.0, lam=0.9, throttle=0.93, what="keep", **more):
    """A run of 24 minutes that counts, unless told otherwise."""
    watts = share * of(Plan(set_up_high(), CATALOG)).expected.value
    return {
        "jet": fact(jet),
        "readings": {
            f"m{n}": {"after": fact(n * 360.0), "output": fact(watts), "lam": fact(lam),
                      "throttle": fact(throttle)}
            for n in range(5)
        },
        "plug": {"before": "new", "after": "tan"},
        "decided": {"what": what}, **more,
    }  # fmt: skip


def test_a_stage_waits_until_a_run_counts_is_kept_and_nothing_stops_it():
    def left(**run):
        found = Plan(set_up_high(**run), CATALOG).of(load_tests_here)
        return [item.text for item in load_items(found) if "gasoline" in item.text]

    assert left(**full_run()) == []
    short = full_run()
    short["readings"] = {name: short["readings"][name] for name in ("m0", "m1")}
    assert "6 of 20 minutes" in left(**short)[0]
    assert "throttle not seen" in left(**full_run(throttle=0.5))[0]
    assert left(**full_run(throttle=0.5, opened="yes")) == []
    assert "not decided" in left(**full_run(what=""))[0]
    assert "the run after it is open" in left(**full_run(what="jet_down"))[0]
    assert left(**full_run(share=0.5))
    lean = full_run(lam=1.05)
    assert left(**lean)
    against = full_run(lam=0.98)
    assert "give the reason" in left(**against)[0]
    against["decided"]["reason"] = "Next jet at hand is two sizes up; plug tan."
    assert left(**against) == []
    stops = load_cautions(Plan(set_up_high(**lean), CATALOG).of(load_tests_here))
    assert any(one.severity is Severity.STOP for one in stops)
    simulated = full_run()
    simulated["readings"]["m0"]["output"]["origin"] = "simulated"
    assert "simulated bench only" in left(**simulated)[0]


def test_what_was_measured_replaces_the_estimate_and_teaches_the_shop():
    plain = Plan(set_up_high(), CATALOG)
    before = plain.of(output_here).of(FuelKey.GASOLINE).running
    job = set_up_high(**full_run(share=0.86, outside=fact(298.15)))
    planned = Plan(job, CATALOG)
    now = planned.of(output_here).of(FuelKey.GASOLINE)
    assert now.running.value == pytest.approx(0.86 * before.value, rel=0.02)
    assert now.running.value <= 0.86 * before.value + 1e-6
    assert now.running.rivals[0].value == before.value
    assert not now.running.estimated
    shown = planned.of(output_here).rating.value + sum(one.value for one in now.steps)
    assert shown == pytest.approx(now.running.value, abs=2.0)
    assert plain.of(lessons_taught) == ()
    (lesson,) = planned.of(lessons_taught)
    assert (lesson.quantity, lesson.fuel) == ("output", "gasoline")
    assert lesson.ratio == pytest.approx(0.86, abs=0.02)
    taught = Shop(learn([lesson] * 4))
    rival = (
        Plan(set_up_high(), CATALOG, taught).of(output_here).of(FuelKey.GASOLINE).running.rivals[0]
    )
    assert 0.86 * before.value < rival.value < 0.93 * before.value
    assert "4 sets" in rival.note


@given(st.lists(st.floats(0.7, 1.3), min_size=1, max_size=30))
def test_few_sets_are_drawn_to_the_estimate_and_many_are_believed(ratios):
    found = learn(Lesson("output", "inverter", "propane", 100.0, 100 * one) for one in ratios)
    (one,) = found.values()
    assert one.n == len(ratios)
    near, far = sorted((abs(math.log(one.shrunk)), abs(math.log(one.mean))))
    assert near == pytest.approx(abs(math.log(one.shrunk)), abs=1e-9)
    assert far >= near - 1e-9
    many = learn(
        Lesson("output", "inverter", "propane", 100.0, 100 * ratio)
        for ratio in ratios for _ in range(200)
    )  # fmt: skip
    (sure,) = many.values()
    assert abs(math.log(sure.shrunk / sure.mean)) <= abs(math.log(one.shrunk / one.mean)) + 1e-9


def test_the_jet_page_asks_each_school_and_warns_of_coming_down():
    planned = Plan(set_up_high(), CATALOG)
    by = {one.key: one.value for one in planned.of(jets_here).wanted}
    assert by["jets.density"] == pytest.approx(84.7, abs=0.1)
    assert by["jets.step"] == pytest.approx(79.95, abs=0.1)
    assert by["jets.kit"] == 82.0
    assert planned.of(jets_here).decision.number == 85.0
    assert planned.of(jets_here).as_it_is.value == pytest.approx(0.797, abs=0.002)
    down = {one.place: one for one in planned.of(jets_here).below}
    assert down["sea level"].figure.value == pytest.approx(0.90 * (90 / 85) ** 2, abs=0.01)
    assert down["sea level"].state == "caution"
    flow = set_up_high()
    marked = flow.model_dump(mode="json")
    marked["set"]["carburetor"]["jets"]["marking"] = "flow"
    density = Plan(type(flow).model_validate(marked), CATALOG).of(jets_here).wanted[0]
    assert density.value == pytest.approx(90 * 0.7852**0.5, abs=0.2)


def test_a_kept_jet_is_what_the_output_is_worked_out_with():
    job = set_up_high().model_dump(mode="json")
    rich = (
        Plan(type(set_up_high()).model_validate(job), CATALOG).of(output_here).of(FuelKey.GASOLINE)
    )
    job["set"]["carburetor"]["jets"]["fitted"] = {"number": fact(85.0)}
    job["set"]["carburetor"]["jets"]["fitted_for"] = fact(2450.0)
    kept = Plan(type(set_up_high()).model_validate(job), CATALOG)
    assert kept.of(output_here).of(FuelKey.GASOLINE).running.value > rich.running.value
    assert kept.of(jets_here).in_it == 85.0
    job["sites"]["s2"] = {"name": "Valley", "elevation": fact(200.0)}
    below = Plan(type(set_up_high()).model_validate(job), CATALOG)
    assert any("At Valley the jet 85 in it is lean" in one.text for one in below.of(cautions))
    away = Plan(type(set_up_high()).model_validate({**job, "site": "s2"}), CATALOG)
    assert away.of(lessons_taught) == kept.of(lessons_taught)
    assert {one.quantity for one in kept.of(lessons_taught)} == {"jet"}


def test_a_run_is_kept_as_it_was_typed():
    kept = Run.model_validate(full_run())
    assert Run.model_validate(kept.model_dump(mode="json")) == kept


def run_of(**more):
    return of(Plan(set_up_high(**full_run(**more)), CATALOG)).last


def test_energy_is_what_lies_under_the_readings():
    steady = run_of()
    watts = next(iter(steady.record.readings.values())).output.value
    assert steady.energy.value == pytest.approx(watts * 4 * 360)
    assert steady.span_s == 4 * 360
    falling = full_run()
    falling["readings"]["m4"]["output"] = fact(0.0)
    fell = of(Plan(set_up_high(**falling), CATALOG)).last
    assert fell.energy.value == pytest.approx(watts * (3 * 360 + 180))


def test_a_kept_run_makes_facts_only_when_it_counts_and_the_run_after_follows_the_advice():
    job = set_up_high(**full_run())
    last = of(Plan(job, CATALOG)).last
    kept = last.keeps(job, "s1-gasoline")
    assert kept["set.carburetor.jets.fitted.number"].value == 85.0
    assert kept["set.carburetor.jets.fitted_for"].value == 2450.0
    assert run_of(throttle=0.5).keeps(job, "s1-gasoline") == {}
    rich = {"lam": 0.79, "jet": 90.0, "plug": {"before": "new", "after": "soot"}}
    assert run_of(what="jet_down", **rich).again == (85.0, None)
    assert run_of(what="put_right", **rich).again == (90.0, None)


def test_another_jet_on_the_bench_is_a_bore_whatever_the_numbers_say():
    marked = set_up_high(**full_run(jet=80.0)).model_dump(mode="json")
    marked["set"]["carburetor"]["jets"]["marking"] = "flow"
    flow = of(Plan(type(set_up_high()).model_validate(marked), CATALOG)).last
    assert run_of(jet=80.0).jet_ratio == pytest.approx(80 / 90)
    assert flow.jet_ratio == pytest.approx((80 / 90) ** 0.5)


def test_fuel_weighed_or_clocked_on_a_run_is_held_against_its_class():
    def used(**measured):
        job = set_up_high().model_dump(mode="json")
        job["set"] |= measured
        return fuel_used(Job.model_validate(job), "s1-propane-t1")

    line = class_line(SetClass.OPEN_FRAME, 3600.0)
    burnt = 0.9 * line.fuel_w(2400.0) * 1440.0 / PROPANE.lhv_j_kg
    weighed = {"fuel": "propane", "before": fact(15.0), "after": fact(15.0 - burnt),
               "energy": fact(2400.0 * 1440.0), "duration": fact(1440.0)}  # fmt: skip
    found = used(weigh_ins={"s1-propane-t1": weighed})
    assert found.value == pytest.approx(0.9)
    assert found.band.low < 0.9 < found.band.high
    gas = natural_gas()
    flow = 1.1 * line.fuel_w(2400.0) / gas.lhv_j_kg / gas.density_kg_m3
    clocked = {"fuel": "natural_gas", "flow": fact(flow), "load": fact(2400.0)}
    assert used(clocked={"s1-propane-t1": clocked}).value == pytest.approx(1.1)
    lean_gas = {**clocked, "fuel": "biogas", "heating": fact(biogas(0.5).hhv_j_m3)}
    told = used(clocked={"s1-propane-t1": lean_gas})
    untold = used(clocked={"s1-propane-t1": {**lean_gas, "heating": None}})
    assert told.value / untold.value == pytest.approx(0.5 / 0.6)
    assert "heating value (HHV)" in {one.label for one in told.inputs}
    assert used(weigh_ins={"another": weighed}) is None
    simulated = {**weighed, "after": {**weighed["after"], "origin": "simulated"}}
    assert used(weigh_ins={"s1-propane-t1": simulated}) is None
