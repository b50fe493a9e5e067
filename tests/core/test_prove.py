"""Proving tight: every joint in one zone, nothing tight before all of it is, one leak undoes it."""

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.route import cautions, implied, refusals
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.sheet import fit_sheet, joint_key
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.prove_tight.proof import tightness
from tests.helpers.fits import fitted, locked, records, soaped, with_
from tests.helpers.sets import CATALOG, fact

ORDER = ("cylinder", "middle", "low", "suction")
SIZE = {
    "two_barrel_adapter": "twin", "second_gas": "dual", "remote_tank_gravity": "small",
    "remote_tank_pump": "small",
}  # fmt: skip
NAMES = [
    "spacer_adapter-cylinder", "spacer_adapter-two_stages", "snorkel-check_pigtails",
    "multi_fuel_carburetor-changeover", "exchanged_carburetor-cylinder",
    "two_barrel_adapter-utility", "second_gas-utility", "spacer_adapter-utility_2psi",
    "spacer_adapter-digester", "remote_tank_gravity",
    "remote_tank_pump",
]  # fmt: skip


def job_with(name: str) -> Job:
    template = TEMPLATES[name]
    two = name.endswith(("check_pigtails", "changeover"))
    return fitted(
        SIZE.get(template.method, "frame"), [template.method], {str(template.fuel): name}, two=two,
        pressure=13800.0 if name.endswith("2psi") else None,
    )  # fmt: skip


def gas_of(job: Job):
    (one,) = Plan(job, CATALOG).of(tightness)
    return one


def stops(job: Job) -> list[str]:
    return [one.text for one in Plan(job, CATALOG).of(cautions) if one.severity == "stop"]


@pytest.mark.parametrize("name", NAMES)
def test_every_joint_stands_in_one_zone_from_the_source_on(name):
    job = job_with(name)
    one, joints = gas_of(job), Plan(job, CATALOG).of(fit_sheet).joints
    found = [joint.state.joint.key for zone in one.zones for joint in zone.joints]
    assert sorted(found) == sorted(joint.joint.key for joint in joints)
    zones = [zone.key.removeprefix(f"{one.fuel}-") for zone in one.zones]
    if one.fuel == "gasoline":
        assert zones == ["gasoline"]
    else:
        assert zones == [zone for zone in ORDER if zone in zones]
        built_in = name.startswith("multi_fuel_carburetor")
        assert ("suction" in zones or built_in) is one.locks
        assert [zone.can_decay for zone in one.zones] == [zone == "low" for zone in zones]


@pytest.mark.parametrize("name", NAMES)
def test_it_is_tight_when_every_joint_passed_and_the_regulator_locks_up(name):
    job = job_with(name)
    assert not gas_of(job).tight
    passed = soaped(job)
    if gas_of(job).locks:
        assert gas_of(passed).left == ("lock-up of the demand regulator not checked",)
        passed = locked(passed)
    assert gas_of(passed).left == ()
    assert not [text for text in stops(passed) if "leak" in text]


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("found", ["bubbles", "foam"])
def test_one_leak_anywhere_is_a_stop_until_the_joint_is_soaped_again(name, found):
    job = locked(soaped(job_with(name)))
    joints = [joint.state.joint for zone in gas_of(job).zones for joint in zone.joints]
    for joint in (joints[0], joints[len(joints) // 2], joints[-1]):
        looks = {
            **job.model_dump(mode="json")["proof"]["soaped"],
            "a": {"joint": joint.key, "found": found},
        }
        leaking = with_(job, proof={"soaped": looks})
        assert gas_of(leaking).left == (f"leaks: {joint.title}",)
        assert any(joint.title in text and "leaks" in text for text in stops(leaking))
        looks["b"] = {"joint": joint.key, "found": "holds", "repair": "made anew"}
        assert gas_of(with_(job, proof={"soaped": looks})).tight


def test_a_pass_nobody_looked_for_is_no_pass():
    job = locked(soaped(job_with("spacer_adapter-cylinder")))
    unseen = job.model_copy(update={"proof": job.proof.model_copy(update={"soaped": {}})})
    joints = len(Plan(unseen, CATALOG).of(fit_sheet).joints)
    assert gas_of(unseen).left == (f"{joints} of {joints} joints not proven tight",)


def test_a_look_brings_its_pass_and_a_leak_takes_it():
    job = with_(job_with("spacer_adapter-cylinder"), fit={})
    made = with_(job, fit={"steps": records(job)})
    joint = Plan(made, CATALOG).of(fit_sheet).joints[0].joint.key
    place = f"fit.tight.{joint_key(joint)}"

    def looked(found):
        look = {"l1": {"joint": joint, "found": found, "by": "RK"}}
        after = with_(made, proof={"soaped": look})
        return {one.path: one.value for one in implied(made, Plan(after, CATALOG))}

    holds, foams = looked("holds"), looked("foam")
    assert holds[place]["passed"] and holds[place]["by"] == "RK" and holds[place]["of"]
    assert not foams[place]["passed"]


def test_a_joint_that_is_not_made_or_not_there_is_not_looked_at():
    job = job_with("spacer_adapter-cylinder")
    joints = Plan(job, CATALOG).of(fit_sheet).joints
    unmade = next(one.joint.key for one in joints if not one.made and not one.joint.on_day)
    for joint, says in ((unmade, "not made yet"), ("propane.nowhere", "no such joint")):
        after = with_(job, proof={"soaped": {"l1": {"joint": joint, "found": "holds"}}})
        found = list(refusals(job, Plan(after, CATALOG)))
        assert {one.path for one in found} == {"proof.soaped.l1"}
        assert any(says in one.text for one in found)


def test_a_joint_made_again_is_to_be_soaped_again():
    job = locked(soaped(job_with("spacer_adapter-cylinder")))
    joint = next(one for one in Plan(job, CATALOG).of(fit_sheet).joints if one.step)
    steps = job.model_dump(mode="json")["fit"]["steps"]
    remade = {**steps, joint.step: {**steps[joint.step], "on": "2026-11-25T16:00:00Z"}}
    again = with_(job, fit={"steps": remade})
    assert gas_of(again).left == (
        f"1 of {len(Plan(job, CATALOG).of(fit_sheet).joints)} joints not proven tight",
    )
    opened = {**steps, joint.step: {**steps[joint.step], "state": "open"}}
    assert not gas_of(with_(job, fit={"steps": opened})).tight


def test_a_regulator_that_passes_gas_at_rest_is_a_stop():
    job = locked(soaped(job_with("spacer_adapter-cylinder")), "grows")
    assert gas_of(job).left == ("the demand regulator passes gas at rest: its lock-up fails",)
    assert any("not a storage shut-off" in text for text in stops(job))


@pytest.mark.parametrize(
    ("after", "kelvin", "says"),
    [
        (2735.0, 290.0, ""),
        (1500.0, 290.0, "it leaks"),
        # 0.3 K colder takes some 106 Pa: the temperature told, nothing was lost.
        (2739.0 - 106.0, 289.7, ""),
        # The same pressure 0.4 K warmer hides a leak of 142 Pa: too near to what must be ruled out.
        (2739.0, 290.4, "inconclusive"),
        (2739.0, 292.0, "inconclusive"),
        (1500.0, 292.0, "inconclusive"),
    ],
)
def test_a_decay_counts_with_its_temperature_and_holds_the_zone(after, kelvin, says):
    zone = {
        "volume": fact(2e-3), "before": fact(2739.0), "after": fact(after), "seconds": fact(900.0),
        "before_k": fact(290.0), "after_k": fact(kelvin),
    }  # fmt: skip
    job = locked(soaped(job_with("spacer_adapter-cylinder")))
    tested = gas_of(with_(job, proof={"zones": {"propane-low": zone}}))
    assert tested.tight is (says == ""), tested.left
    assert says in "".join(tested.left)
    # Emptied, a reading that leaked is still one that tells nothing.
    half = gas_of(with_(job, proof={"zones": {"propane-low": {**zone, "after": None}}}))
    assert "inconclusive" in half.left[0]
