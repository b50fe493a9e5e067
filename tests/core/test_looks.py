"""The looks of the start gate and what the owner is told: each one holds until somebody did it."""

from __future__ import annotations

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.route import holds_signing, open_items, refusals
from gentle_ember.core.stage import Item, Plan
from gentle_ember.core.stages.first_start.gate import When, looks
from gentle_ember.core.stages.first_start.starts import first_starts
from gentle_ember.core.stages.fuel_path.trains import trains_to_build
from gentle_ember.core.stages.hand_over.stage import TOLD
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG
from tests.helpers.sound import put, signed, sound

NAMES = [name for name, case in CASES.items() if case[2]]


def asked(when: When) -> list[tuple[str, str]]:
    """Every look of a time of every sound job: its case, and its key."""
    return [
        (name, look.key)
        for name in NAMES
        for one in Plan(sound(name), CATALOG).of(first_starts)
        for look, _ in one.looks
        if look.when is when and one.trained
    ]


def fuel_of(job: Job) -> str:
    return next(iter(job.trains))


def start_refused(job: Job) -> list[str]:
    """What a start on the job's fuel is answered."""
    after = put(job, f"starts.{fuel_of(job)}.attempts.a1", {"result": "runs"})
    return [one.text for one in refusals(job, Plan(after, CATALOG))]


def proven(job: Job, *, but: str = "") -> Job:
    """The job started once on its fuel, all it is proven by found good but one."""
    fuel = fuel_of(job)
    job = put(job, f"starts.{fuel}.attempts.a1", {"result": "runs"})
    for one in Plan(job, CATALOG).of(first_starts):
        if not one.trained:
            continue
        for look, _ in one.looks:
            if look.when is When.AFTER and look.key != but:
                job = put(job, f"starts.{fuel}.looked.{look.key}", {"state": "good", "by": "RK"})
    return job


def holds(job: Job, stage: str) -> list[str]:
    """What keeps a stage of the job from being signed, those before it signed."""
    plan = Plan(signed(job, but=stage), CATALOG)
    return [one.text for one in plan.of(holds_signing)[stage]]


def item(job: Job, key: str) -> Item | None:
    return next((one for one in Plan(job, CATALOG).of(open_items) if one.key == key), None)


@pytest.mark.parametrize(("name", "key"), asked(When.BEFORE))
@pytest.mark.parametrize("state", ["", "bad"])
def test_no_start_while_one_look_of_the_gate_is_not_good(name: str, key: str, state: str):
    job = sound(name)
    assert not start_refused(job)
    missed = put(job, f"starts.{fuel_of(job)}.looked.{key}", {"state": state})
    (told,) = start_refused(missed)
    assert told.endswith("1 of its start gate open.")


@pytest.mark.parametrize(("name", "key"), asked(When.AFTER))
def test_no_signature_while_one_thing_is_not_proven(name: str, key: str):
    job = sound(name)
    assert not [text for text in holds(proven(job), "first_start") if "proven" in text]
    left = [text for text in holds(proven(job, but=key), "first_start") if "proven" in text]
    assert len(left) == 1
    assert left[0].endswith("1 thing not proven")


def look_keys(name: str, fuel: str) -> set[str]:
    """Keys of the looks of a fuel, with the train of one of the cases."""
    job = sound(name)
    section = Plan(job, CATALOG).of(trains_to_build)[fuel_of(job)]
    return {look.key for look in looks(job, fuel, section)}


@pytest.mark.parametrize(
    ("key", "fuels"),
    [
        ("cylinder", {"propane"}),
        ("cylinder_sound", {"propane"}),
        ("opened", {"propane"}),
        ("line", {"natural_gas", "biogas"}),
        ("sulfide", {"biogas"}),
        ("outlet_capped", {"natural_gas"}),
        ("hoses", {"propane", "natural_gas", "biogas"}),
        ("vents", {"propane", "natural_gas", "biogas"}),
        ("warm_soap", {"propane", "natural_gas", "biogas"}),
        ("stall", {"propane", "natural_gas", "biogas"}),
        ("filled", {"gasoline"}),
        ("vent", {"gasoline"}),
        ("outdoors", set(FuelKey)),
        ("boot", set(FuelKey)),
        ("cleaner", set(FuelKey)),
    ],
)
def test_a_look_is_asked_of_the_fuels_it_belongs_to_and_of_no_other(key: str, fuels: set[str]):
    of = {
        "propane": look_keys("spacer", "propane"),
        "natural_gas": look_keys("twin", "natural_gas"),
        "biogas": look_keys("twin", "biogas"),
        "gasoline": look_keys("pump", "gasoline"),
    }
    assert set(of) == set(FuelKey)
    assert {fuel for fuel, found in of.items() if key in found} == {str(fuel) for fuel in fuels}


@pytest.mark.parametrize("name", NAMES)
def test_looks_of_a_fuel_have_keys_of_their_own(name: str):
    for one in Plan(sound(name), CATALOG).of(first_starts):
        keys = [look.key for look, _ in one.looks]
        assert len(keys) == len(set(keys))


@pytest.mark.parametrize("name", NAMES)
def test_the_owner_is_told_what_belongs_to_the_method_before_it_is_handed_over(name: str):
    job = sound(name)
    kind = "tank" if fuel_of(job) == "gasoline" else "gas"
    for key, belongs, text in TOLD:
        found = item(job, key)
        assert (found is not None) is (belongs == kind), key
        if found is None:
            continue
        assert found.text == text
        assert found.holds
        assert not found.done
        assert text in holds(job, "hand_over")
        told = put(job, found.path, {"done": True, "by": "RK"})
        assert text not in holds(told, "hand_over")


@pytest.mark.parametrize("name", NAMES)
def test_what_hangs_on_the_houses_meter_is_looked_at_under_full_load(name: str):
    job = sound(name)
    found = item(job, "appliances")
    assert (found is not None) is (fuel_of(job) == FuelKey.NATURAL_GAS)
    if found is None:
        return
    assert found.text in holds(job, "load_test")
    looked = put(job, found.path, {"done": True, "by": "RK"})
    assert found.text not in holds(looked, "load_test")
