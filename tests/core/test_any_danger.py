"""Every method and source: a sound job is never stopped, a planted danger never passes."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.route import cautions, forbids, refusals
from gentle_ember.core.stage import Doing, Plan
from gentle_ember.core.stages.fit.sheet import fit_sheet
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound

NAMES = [name for name, case in CASES.items() if case[2]]
Danger = Callable[[Job, str], Job | None]


def fuel_of(job: Job) -> str:
    return next(iter(job.trains))


def starts(job: Job) -> list[str]:
    """What is refused of a start on the job's fuel."""
    fuel = fuel_of(job)
    after = put(job, f"starts.{fuel}.attempts.a1", {"result": "runs"})
    return [one.text for one in refusals(job, Plan(after, CATALOG))]


def signs(job: Job, stage: str) -> list[str]:
    after = put(job, f"stages.{stage}", {"state": "done", "by": "RK"})
    return [one.text for one in refusals(job, Plan(after, CATALOG))]


def slot_of(job: Job, *kinds: PartClass) -> tuple[str, str] | None:
    """A slot of the job's train with a part of these classes, and the part's key."""
    train = job.trains[fuel_of(job)]
    for key, slot in train.slots.items():
        if slot.part in CATALOG.parts and CATALOG.parts[slot.part].kind in kinds:
            return key, slot.part
    return None


def changed(job: Job, found: tuple[str, str] | None, **facts: Any) -> Job | None:
    if found is None:
        return None
    return put(job, f"parts.{found[1]}", {**job.parts[found[1]].model_dump(mode="json"), **facts})


def no_limits(job: Job, fuel: str) -> Job | None:
    return changed(job, slot_of(job, PartClass.DEMAND, PartClass.TANK_VALVE, PartClass.SHUT_OFF),
                   rating_pa=None, most_pa=None)  # fmt: skip


def overpressured(job: Job, fuel: str) -> Job | None:
    return changed(job, slot_of(job, PartClass.DEMAND), most_pa=100.0)


def too_small(job: Job, fuel: str) -> Job | None:
    return changed(job, slot_of(job, PartClass.DEMAND, PartClass.TWO_STAGE), rated_w=500.0)


def another_fuel(job: Job, fuel: str) -> Job | None:
    return changed(job, slot_of(job, PartClass.SHUT_OFF, PartClass.TANK_VALVE), gases=["biogas"])


def unknown(job: Job, fuel: str) -> Job | None:
    keys = list(job.trains[fuel].slots)
    at = f"trains.{fuel}.slots.{keys[len(keys) // 2]}"
    return put(put(job, f"{at}.part", ""), f"{at}.unknown", "a brass thing")


def without_end(job: Job, fuel: str) -> Job | None:
    document = job.model_dump(mode="json")
    slots = document["trains"][fuel]["slots"]
    slots.pop(list(slots)[-1])
    return Job.model_validate(document)


def without_source(job: Job, fuel: str) -> Job | None:
    document = job.model_dump(mode="json")
    slots = document["trains"][fuel]["slots"]
    slots.pop(next(iter(slots)))
    return Job.model_validate(document)


def leaking(job: Job, fuel: str) -> Job | None:
    joint = Plan(job, CATALOG).of(fit_sheet).joints[-1].joint.key
    return put(job, "proof.soaped.zz", {"joint": joint, "found": "foam"})


def unlooked(job: Job, fuel: str) -> Job | None:
    return put(job, "proof.soaped", {})


def smelled(job: Job, fuel: str) -> Job | None:
    return put(job, "fit.smelled.g1", {"by": "RK"})


def crankcase(job: Job, fuel: str) -> Job | None:
    return put(job, "findings.oil_smell", {"look": "bad"})


def find_stops(job: Job, fuel: str) -> Job | None:
    return put(job, "fit.finds.f1", {"what": "cracked tank", "decision": "stop"})


def unrated(job: Job, fuel: str) -> Job | None:
    return put(job, "set.running", None)


def no_method(job: Job, fuel: str) -> Job | None:
    return put(job, "choice.methods", [])


def gate_open(job: Job, fuel: str) -> Job | None:
    return put(job, f"starts.{fuel}.looked.outdoors", {"state": "bad", "by": "RK"})


def no_permit(job: Job, fuel: str) -> Job | None:
    return put(job, "confirmed.fitter", {}) if fuel == FuelKey.NATURAL_GAS else None


def no_number(job: Job, fuel: str) -> Job | None:
    if fuel != FuelKey.NATURAL_GAS:
        return None
    return put(job, "confirmed.fitter", {"done": True, "by": "PM", "number": " "})


def near(job: Job, fuel: str) -> Job | None:
    return put(job, "sites.s1.cylinders.c1.distance", fact(0.5))


def lean(job: Job, fuel: str) -> Job | None:
    """Jetted for the mountains and run in the valley: of gasoline only."""
    if fuel != "gasoline":
        return None
    far = put(job, "set.carburetor.jetted_at", fact(3500.0))
    return put(far, "sites.s1.elevation", fact(0.0))


def high_tank(job: Job, fuel: str) -> Job | None:
    if "remote_tank_gravity" not in job.choice.methods:
        return None
    return put(job, "sites.s1.remote_tank.rise", fact(2.5))


def sealed_wrong(job: Job, fuel: str) -> Job | None:
    keys = list(job.trains[fuel].slots)
    return put(job, f"trains.{fuel}.slots.{keys[1]}.seal", "plumbers_tape")


def too_cold_for_the_film(job: Job, fuel: str) -> Job | None:
    if fuel == "gasoline":
        return None
    return put(job, f"proof.how.{fuel}", {"by": "soap", "air": fact(263.0)})


def creeping(job: Job, fuel: str) -> Job | None:
    if fuel == "gasoline":
        return None
    return put(job, f"proof.pressures.{fuel}", {"static": fact(1700.0), "later": fact(2600.0)})


DANGERS: list[Danger] = [
    no_limits, overpressured, too_small, another_fuel, unknown, without_end, without_source,
    leaking, unlooked, smelled, crankcase, find_stops, unrated, no_method, gate_open, no_permit,
    no_number, near, lean, high_tank, sealed_wrong, too_cold_for_the_film, creeping,
]  # fmt: skip


def planted(name: str) -> Iterator[tuple[Danger, Job]]:
    job = sound(name)
    for danger in DANGERS:
        made = danger(job, fuel_of(job))
        if made is not None:
            yield danger, made


@pytest.mark.parametrize("name", NAMES)
def test_a_jet_too_lean_holds_gasoline_and_every_signature_and_leaves_the_gas(name: str):
    job = lean(sound(name), "gasoline")
    assert job is not None
    plan = Plan(job, CATALOG)
    assert any("lean" in one.text for one in forbids(plan, "gasoline"))
    assert any("lean" in text for text in signs(job, "hand_over"))
    if (fuel := fuel_of(job)) != "gasoline":
        assert not any("lean" in one.text for one in forbids(plan, fuel))


@pytest.mark.parametrize("name", NAMES)
def test_a_sound_job_may_start_and_is_never_stopped(name: str):
    job = sound(name)
    assert [one.text for one in Plan(job, CATALOG).of(cautions) if one.severity == "stop"] == []
    assert starts(job) == []
    for doing in Doing:
        if doing is not Doing.NEAR_RATING:
            assert forbids(Plan(job, CATALOG), fuel_of(job), doing, "s1") == ()


@pytest.mark.parametrize("name", NAMES)
def test_no_planted_danger_reaches_a_start_or_a_signature(name: str):
    seen = 0
    for danger, job in planted(name):
        assert starts(job), danger.__name__
        for stage in ("first_start", "hand_over"):
            assert signs(job, stage), (danger.__name__, stage)
        seen += 1
    assert seen >= 16
    assert starts(sound(name)) == []


@settings(max_examples=40)
@given(st.sampled_from(NAMES), st.lists(st.sampled_from(DANGERS), min_size=2, max_size=5))
def test_dangers_heaped_on_each_other_never_open_the_way(name: str, dangers: list[Danger]):
    job, some = sound(name), False
    for danger in dangers:
        made = danger(job, fuel_of(job))
        if made is not None and made.trains[fuel_of(made)].slots:
            job, some = made, True
    if some:
        assert starts(job)


@pytest.mark.parametrize("name", NAMES)
def test_each_refusal_says_something_a_person_can_do(name: str):
    for danger, job in planted(name):
        for text in starts(job):
            assert text.startswith(("No start on ", "Still open")), danger.__name__
            assert text.rstrip().endswith((".", "!")), text


@pytest.mark.parametrize("name", NAMES)
def test_what_is_of_another_fuel_alone_holds_no_start_on_gasoline(name: str):
    """A gas train that leaks keeps nobody from running on the set's own tank with the gas shut."""
    job = sound(name)
    if fuel_of(job) == "gasoline":
        return
    leaky = leaking(job, fuel_of(job))
    assert leaky is not None
    assert forbids(Plan(leaky, CATALOG), FuelKey.GASOLINE, Doing.RUN, "s1") == ()
    assert forbids(Plan(leaky, CATALOG), fuel_of(job), Doing.RUN, "s1")


def test_the_makers_own_gas_runs_once_somebody_has_soaped_it():
    """A factory dual-fuel set has no train of this job's for propane, and is loaded on it too."""
    job = put(sound("second"), "confirmed.factory_gas", {})
    load = put(job, "load_tests.s1-propane.runs.r1", {"held": fact(2000.0)})
    refused = [one.text for one in refusals(job, Plan(load, CATALOG))]
    assert len(refused) == 1
    assert "as the factory made it" in refused[0]
    seen = put(job, "confirmed.factory_gas", {"done": True, "by": "RK"})
    after = put(load, "confirmed.factory_gas", {"done": True, "by": "RK"})
    assert list(refusals(seen, Plan(after, CATALOG))) == []
    plain = sound("twin")
    other = put(plain, "load_tests.s1-propane.runs.r1", {"held": fact(2000.0)})
    assert any("not judged" in one.text for one in refusals(plain, Plan(other, CATALOG)))
