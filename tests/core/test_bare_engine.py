"""A bare engine: by shaft power and speed, loaded by what it drives, nothing electrical asked."""

import math

import pytest

from gentle_ember.core.estimates.defaults import legs_of, machine
from gentle_ember.core.estimates.filling import cycles_per_s
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.load_test import LoadReading
from gentle_ember.core.physics.fuel_use import SetClass, class_line
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.route import contradictions, open_items
from gentle_ember.core.stage import Plan, Severity
from gentle_ember.core.stages.first_start.starts import first_starts
from gentle_ember.core.stages.hand_over.cards import WHILE_IT_RUNS, cards
from gentle_ember.core.stages.intake.questions import asked
from gentle_ember.core.stages.intake.walk_round import checks
from gentle_ember.core.stages.load_test.tests import load_tests_here
from gentle_ember.core.stages.load_test.watch import Nameplate, remarks
from gentle_ember.instruments.setup import setup_of
from tests.helpers.fits import CASES, fitted
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put

RPM = math.tau / 60


def engine(**told: object) -> Job:
    job = put(fitted(*CASES["spacer"]), "set.set_class", "engine")
    for name, value in {"rated_speed": fact(2800 * RPM), "drives": "pump", **told}.items():
        job = put(job, f"set.{name}", value)
    return job


def test_its_watts_are_those_of_its_shaft():
    job = engine(shaft_power=fact(4200.0))
    resolved = machine(job.set)
    assert resolved.engine_w == 4200.0
    assert resolved.engine_high_w == 4200.0
    frame = machine(put(job, "set.set_class", "open_frame").set)
    assert frame.engine_w < resolved.engine_w
    gas = Plan(job, CATALOG).of(output_here).of(FuelKey.PROPANE).running
    assert 0.7 * 3600.0 < gas.value < 4200.0
    # The same fuel turns the same shaft, whatever hangs on it.
    shaft = class_line(SetClass.ENGINE, 5000.0).fuel_w(5000.0)
    assert shaft == pytest.approx(class_line(SetClass.OPEN_FRAME, 4100.0).fuel_w(4100.0), rel=0.02)


def test_its_air_is_drawn_at_its_own_speed():
    assert cycles_per_s(engine().set) == pytest.approx(2800 / 60 / 2)
    assert cycles_per_s(engine(rated_speed=None).set) is None
    assert legs_of(engine(phases=3).set) == 1
    bench = setup_of(Plan(engine(), CATALOG), FuelKey.PROPANE, 1)
    assert bench.engine.speed_hz == pytest.approx(2800 / 60)


@pytest.mark.parametrize(("name", "value"), [
    ("volts", fact(120.0)), ("hertz", fact(60.0)), ("apparent", fact(4000.0)),
    ("alternator_efficiency", fact(0.8)), ("outlets", {"o1": {"name": "front"}}),
])  # fmt: skip
def test_nothing_electrical_is_said_of_it(name, value):
    assert contradictions(engine()) == ()
    (told,) = contradictions(engine(**{name: value}))
    assert told.path == f"set.{name}"
    assert "no alternator" in told.text


def test_what_is_asked_and_looked_at_is_what_it_drives():
    frame = fitted(*CASES["spacer"])

    def look(job):
        return {one.key for one in checks(job)}

    assert "driven" in look(engine())
    assert not {"cords", "ground"} & look(engine())
    assert {"cords", "ground"} <= look(frame)
    assert "driven" not in look(frame)
    assert {"set.rated_speed", "set.drives"} <= {one.path for one in asked(engine())}
    assert "set.rated_speed" not in {one.path for one in asked(frame)}
    open_ = {one.path: one for one in Plan(engine(), CATALOG).of(open_items)}
    assert open_["confirmed.driven_safe"].acts
    assert "pump" in open_["confirmed.driven_safe"].text
    assert not {"confirmed.load_joined", "confirmed.neutral", "confirmed.gfci"} & set(open_)


def test_it_is_started_let_go_of_what_it_drives_and_governed_by_its_speed():
    (one,) = [one for one in Plan(engine(), CATALOG).of(first_starts) if one.trained]
    looks = {look.key: look.text for look, _ in one.looks}
    assert looks["unloaded"].startswith("Clutch out")
    assert "tachometer" in looks["governor"]
    assert "Hz" not in looks["governor"]


def test_it_is_loaded_by_what_it_drives():
    (test,) = [one for one in Plan(engine(), CATALOG).of(load_tests_here) if one.fuel == "propane"]
    assert not test.loads
    assert test.least.value == pytest.approx(0.8 * test.expected.value, rel=0.1)
    assert test.plate.speed == pytest.approx(2800 * RPM)


@pytest.mark.parametrize(("rpm", "severity"), [
    (2800, None), (2730, None), (2600, Severity.CAUTION), (2300, Severity.STOP),
    (3300, Severity.STOP),
])  # fmt: skip
def test_a_speed_that_falls_or_races_is_told(rpm, severity):
    plate = Nameplate(3600.0, 120.0, 60.0, 1, False, True, 2800 * RPM)
    found = list(remarks(LoadReading.model_validate({"speed": fact(rpm * RPM)}), plate))
    assert [one.severity for one in found] == ([severity] if severity else [])
    electric = Nameplate(3600.0, 120.0, 60.0, 1, False, True)
    assert not list(remarks(LoadReading.model_validate({"speed": fact(rpm * RPM)}), electric))


def test_its_card_speaks_of_clutch_and_guard_and_of_no_cord():
    def lines(job):
        made = Plan(job, CATALOG).of(cards).cards
        return [line for card in made if card.fuel == "propane" for one in card.blocks
                for line in one.lines]  # fmt: skip

    said = " ".join(lines(engine()))
    assert "Clutch out" in said
    assert "guard" in said
    assert not any(word in said for word in ("Breaker", "cord", "outlet", "plugged"))
    assert set(WHILE_IT_RUNS) <= set(lines(fitted(*CASES["spacer"])))
