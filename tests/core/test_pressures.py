"""Pressures read at the inlet, the fluid and the air: what they stop, and what they leave open."""

from __future__ import annotations

from typing import Any

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.route import cautions, open_items
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.prove_tight.pressures import InletProof, inlet_pressures
from gentle_ember.core.stages.prove_tight.proof import near_saturation
from tests.core.test_acts import SOUND, put, refused
from tests.helpers.fits import GRAVITY, MULTI, SECOND, SPACER, TWIN, fitted
from tests.helpers.sets import CATALOG, fact

INCH = 249.08891


def inlet(job: Job) -> InletProof:
    (found,) = Plan(job, CATALOG).of(inlet_pressures).values()
    return found


EXPECTED = inlet(SOUND)


def told(**inches: float | None) -> Job:
    read = {name: None if value is None else fact(value * INCH) for name, value in inches.items()}
    return put(SOUND, "proof.pressures.propane", read)


def found(job: Job) -> dict[str, str]:
    """What the readings say, by the last part of the key, with how hard it holds."""
    return {
        one.key.removeprefix("proof.pressures.propane."): str(one.severity)
        for one in Plan(job, CATALOG).of(cautions)
        if one.key.startswith("proof.pressures.")
    }


def test_readings_as_the_ladder_expects_them_say_nothing():
    still, full = EXPECTED.still_pa / INCH, EXPECTED.full_pa / INCH
    assert found(told(static=still, later=still * 1.02, full=full)) == {}
    assert found(SOUND) == {}


@pytest.mark.parametrize(("read", "says"), [
    ({"static": 20.0}, {"over": "stop", "differs.static": "caution"}),
    ({"static": 277.0}, {"over": "stop", "differs.static": "caution"}),
    ({"static": 12.0, "later": 13.8}, {"creep": "stop"}),
    ({"static": 12.0, "later": 30.0}, {"creep": "stop", "over": "stop"}),
    ({"static": 12.0, "later": 12.3}, {}),
    ({"full": 2.0}, {"starved": "stop", "differs.full": "caution"}),
    ({"static": 7.0}, {"differs.static": "caution"}),
])  # fmt: skip
def test_what_a_manometer_finds_out(read: dict[str, float], says: dict[str, str]):
    assert found(told(**read)) == says


@pytest.mark.parametrize("act", ["start", "reading", "lock", "load"])
def test_too_much_pressure_or_a_creeping_stage_forbids_every_run(act: str):
    for read in ({"static": 277.0}, {"static": 12.0, "later": 30.0}):
        assert refused(told(**read), act)
    assert refused(told(static=12.0, later=12.1), act) == []


def still_open(job: Job, stage: str) -> set[str]:
    return {
        one.path for one in Plan(job, CATALOG).of(open_items)
        if one.holds and not one.done and one.stage == stage and one.path.startswith("proof.")
    }  # fmt: skip


def test_each_reading_is_asked_for_at_its_stage_until_it_is_there():
    at = "proof.pressures.propane"
    assert {f"{at}.static", f"{at}.later"} <= still_open(SOUND, "prove_tight")
    assert f"{at}.full" in still_open(SOUND, "load_test")
    read = told(static=12.0, later=12.1, full=9.0)
    assert not {path for path in still_open(read, "prove_tight") if path.startswith(at)}
    assert f"{at}.full" not in still_open(read, "load_test")


@pytest.mark.parametrize(("case", "metered"), [
    (SPACER, True), (TWIN, True), (MULTI, True), (SECOND, True), (GRAVITY, False),
])  # fmt: skip
def test_every_gas_train_is_read_where_its_gas_is_metered(case: tuple[Any, ...], metered: bool):
    found_ = Plan(fitted(*case), CATALOG).of(inlet_pressures)
    assert bool(found_) is metered
    for one in found_.values():
        assert one.still_pa > one.full_pa > 0


def test_a_reading_stands_as_a_figure_beside_the_ladder():
    (static, full) = inlet(told(static=12.0, full=9.0)).figures
    assert static.value == pytest.approx(12 * INCH)
    assert [one.name for one in static.rivals] == ["the ladder"]
    assert full.rivals[0].value == pytest.approx(EXPECTED.full_pa)


def how(**more: Any) -> Job:
    return put(SOUND, "proof.how.propane", more)


@pytest.mark.parametrize(("fluid", "kelvin", "shows"), [
    ("leak_fluid", 274.0, True), ("leak_fluid", 272.0, False), ("soap", 272.0, False),
    ("winter_fluid", 255.0, True), ("winter_fluid", 240.0, False), ("detector", 240.0, True),
])  # fmt: skip
def test_a_frozen_film_proves_nothing(fluid: str, kelvin: float, shows: bool):
    job = how(by=fluid, air=fact(kelvin))
    assert (refused(job, "start") == []) is shows


def test_with_what_it_was_looked_at_is_asked():
    at = "proof.how.propane"
    assert {f"{at}.by", f"{at}.air"} <= still_open(SOUND, "prove_tight")
    detector = how(by="detector", air=fact(283.0))
    assert f"{at}.detector" in still_open(detector, "prove_tight")
    named = how(by="detector", air=fact(283.0), detector="no. 4, calibrated in May")
    assert f"{at}.detector" not in still_open(named, "prove_tight")
    gauged = put(named, "proof.zones.propane-low", {"by": "RK"})
    assert f"{at}.gauge" in still_open(gauged, "prove_tight")


def test_household_soap_is_minded():
    keys = [one.key for one in Plan(how(by="soap"), CATALOG).of(cautions)]
    assert "proof.how.propane.by" in keys
    assert "proof.how.propane.by" not in [
        one.key for one in Plan(how(by="leak_fluid"), CATALOG).of(cautions)
    ]


@pytest.mark.parametrize(("gauge_pa", "kelvin", "near"), [
    (2739.0, 288.15, False), (2739.0, 231.0, True), (630e3, 288.15, True), (500e3, 288.15, False),
])  # fmt: skip
def test_propane_near_its_own_vapor_pressure_hides_a_leak(gauge_pa, kelvin, near):
    assert near_saturation(gauge_pa, kelvin) is near
