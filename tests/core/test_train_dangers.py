"""Dangers planted in trains that were sound: each is found, and with it gone nothing is said."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.stages import fuel_path
from gentle_ember.core.stages.fuel_path.edit import insert, without
from tests.helpers.sets import fact, job_of
from tests.helpers.trains import (
    GAS_JOB,
    GAS_TRAIN,
    PROPANE_JOB,
    PROPANE_TRAIN,
    SHELF,
    TANK_JOB,
    TANK_TRAIN,
    built,
    cautions,
    part,
    put,
    section,
    stops,
)

RULES = Path(fuel_path.__file__).parent
TESTS = Path(__file__).parent
DIGESTER = job_of("frame", distance=6.0)
BIOGAS = built(DIGESTER, "spacer_adapter-digester")
PUMPED_JOB = job_of("small", rise=-0.4)
PUMPED = built(PUMPED_JOB, "remote_tank_pump")


def own(job: Job, key: str, **facts: object) -> Job:
    """The job with its own copy of a part, some of it otherwise."""
    changed = SHELF.parts[key].model_copy(update=facts)
    return job.model_copy(update={"parts": {**job.parts, key: changed}})


def with_facts(job: Job, at: str, **facts: object) -> Job:
    document = job.model_dump(mode="json")
    here = document
    for key in at.split("."):
        here = here[key]
    here |= facts
    return Job.model_validate(document)


def test_every_rule_of_trains_has_a_danger_planted_for_it():
    rules = {
        node.args[0].value
        for path in RULES.glob("*rules.py")
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, ast.Call)
        and getattr(node.func, "id", "") in ("stop", "mind")
        and isinstance(node.args[0], ast.Constant)
    }
    planted = "".join(
        (TESTS / name).read_text(encoding="utf-8")
        for name in ("test_train_rules.py", "test_train_dangers.py", "test_train.py")
    )
    assert len(rules) > 30
    assert {rule for rule in rules if f'"{rule}"' not in planted} == set()


def test_brass_before_the_scrubber_is_a_stop_and_behind_it_is_not():
    keys = list(BIOGAS.slots)
    at = next(n for n, key in enumerate(keys)
              if SHELF.parts[BIOGAS.slots[key].part].kind == "scrubber")  # fmt: skip

    def brassy(place: int) -> set[str]:
        return stops(own(DIGESTER, BIOGAS.slots[keys[place]].part, brass=True), BIOGAS, "biogas")

    assert "brass" not in stops(DIGESTER, BIOGAS, "biogas")
    assert "brass" in brassy(at - 1)
    assert "brass" not in brassy(at + 1)


def test_wet_gas_without_a_drip_leg_is_minded():
    drip = next(key for key, slot in BIOGAS.slots.items()
                if SHELF.parts[slot.part].kind == "drip_leg")  # fmt: skip
    assert "drip" not in cautions(DIGESTER, BIOGAS, "biogas")
    assert "drip" in cautions(DIGESTER, without(BIOGAS, drip), "biogas")


def test_a_long_hose_connector_outdoors_is_minded_on_natural_gas_alone():
    hose = next(key for key, slot in GAS_TRAIN.slots.items()
                if SHELF.parts[slot.part].kind == "gas_hose")  # fmt: skip
    assert "connector" not in cautions(GAS_JOB, GAS_TRAIN, "natural_gas")
    long = own(GAS_JOB, GAS_TRAIN.slots[hose].part, length_m=6.0)
    assert "connector" in cautions(long, GAS_TRAIN, "natural_gas")
    propane = own(PROPANE_JOB, PROPANE_TRAIN.slots["run_hose"].part, length_m=6.0)
    assert "connector" not in cautions(propane, PROPANE_TRAIN)


def test_a_lock_off_without_a_battery_stays_shut():
    twin = job_of("twin")
    train = built(twin, "two_barrel_adapter-utility")
    assert any(SHELF.parts[slot.part].kind == "lock_off" for slot in train.slots.values())
    assert "lock_off_power" not in cautions(twin, train, "natural_gas")
    bare = with_facts(twin, "set", electric_start=False)
    assert "lock_off_power" in cautions(bare, train, "natural_gas")


def test_two_cylinders_where_the_train_takes_one():
    assert "one_of_two" not in cautions(PROPANE_JOB, PROPANE_TRAIN)
    assert "one_of_two" in cautions(job_of("frame", two=True), PROPANE_TRAIN)


def test_both_gases_use_the_same_parts_on_the_set():
    job = job_of("frame")
    gas = built(job, "spacer_adapter-utility")
    slot = next(key for key, one in PROPANE_TRAIN.slots.items() if one.role == "demand")
    both = job.model_copy(update={"trains": {"propane": PROPANE_TRAIN, "natural_gas": gas}})
    other = next(key for key, one in SHELF.parts.items()
                 if one.kind == "demand" and key != gas.slots["demand"].part)  # fmt: skip
    differs = both.model_copy(
        update={"trains": {"propane": put(PROPANE_TRAIN, slot, part=other), "natural_gas": gas}}
    )
    same = put(PROPANE_TRAIN, slot, part=gas.slots["demand"].part)
    alike = both.model_copy(update={"trains": {"propane": same, "natural_gas": gas}})

    def differing(job: Job) -> set[str]:
        found = section(job, gas, "natural_gas").troubles
        return {one.slot for one in found if one.rule == "one_set"}

    assert "demand" in differing(differs)
    assert "demand" not in differing(alike)


@pytest.mark.parametrize(("rise", "valve", "danger"), [
    (-0.4, False, False), (0.2, False, True), (0.2, True, False),
])  # fmt: skip
def test_a_pump_below_its_tank_siphons_unless_a_valve_breaks_it(rise, valve, danger):
    job = job_of("small", rise=rise)
    for slot in PUMPED.slots.values():
        if SHELF.parts[slot.part].anti_siphon:
            job = own(job, slot.part, anti_siphon=valve)
    assert ("siphon" in stops(job, PUMPED, "gasoline")) is danger


def test_a_tank_that_can_not_breathe_is_a_stop():
    tank = TANK_TRAIN.slots["source"].part
    assert "tank_vent" not in stops(TANK_JOB, TANK_TRAIN, "gasoline")
    assert "tank_vent" in stops(own(TANK_JOB, tank, vent=""), TANK_TRAIN, "gasoline")


def test_gas_hose_on_gasoline_is_a_stop():
    line = next(key for key, slot in TANK_TRAIN.slots.items()
                if SHELF.parts[slot.part].kind == "fuel_hose")  # fmt: skip
    gas = part("LP hose, 3/8")
    assert "hose_class" not in stops(TANK_JOB, TANK_TRAIN, "gasoline")
    assert "hose_class" in stops(TANK_JOB, put(TANK_TRAIN, line, part=gas), "gasoline")


def test_a_tight_throat_costs_gasoline_power_and_is_said():
    adapter = PROPANE_TRAIN.slots["adapter"].part
    assert "tight_throat" not in cautions(PROPANE_JOB, PROPANE_TRAIN)
    throat = SHELF.parts[adapter].throat_m
    assert throat
    tight = own(PROPANE_JOB, adapter, throat_m=0.55 * throat)
    assert "tight_throat" in cautions(tight, PROPANE_TRAIN)


def test_a_valve_far_from_its_coupler_is_minded_and_none_at_all_is_a_stop():
    valve = "near_shut_off"
    keys = list(PROPANE_TRAIN.slots)
    assert keys.index(valve) < keys.index("supply_half")
    assert "valve_far" not in cautions(PROPANE_JOB, PROPANE_TRAIN)
    hose = part("LP hose, 3/8")
    far = insert(PROPANE_TRAIN, valve, Slot(part=hose), SHELF.parts)
    assert list(far.slots).index(valve) < list(far.slots).index("supply_half")
    assert "valve_far" in cautions(own(PROPANE_JOB, hose, length_m=9.0), far)
    assert "no_valve" in stops(PROPANE_JOB, without(PROPANE_TRAIN, valve))


@pytest.mark.parametrize(("coldest", "danger"), [(266.15, False), (225.0, True)])
def test_rubber_and_diaphragms_outside_their_range_are_minded(coldest: float, danger: bool):
    job = with_facts(PROPANE_JOB, "sites.s1", coldest=fact(coldest))
    assert ("weather" in cautions(job, PROPANE_TRAIN)) is danger


def test_a_part_no_longer_sold_is_minded():
    demand = PROPANE_TRAIN.slots["demand"].part
    assert "old" not in cautions(PROPANE_JOB, PROPANE_TRAIN)
    old = own(PROPANE_JOB, demand, use_instead="PV-999")
    assert "old" in cautions(old, PROPANE_TRAIN)
    (said,) = [one for one in section(old, PROPANE_TRAIN).troubles if one.rule == "old"]
    assert "PV-999" in said.text


SOUND: list[tuple[str, Job, Train]] = [
    ("propane", PROPANE_JOB, PROPANE_TRAIN),
    ("natural_gas", GAS_JOB, GAS_TRAIN),
    ("biogas", DIGESTER, BIOGAS),
    ("gasoline", TANK_JOB, TANK_TRAIN),
    ("gasoline", PUMPED_JOB, PUMPED),
]


@pytest.mark.parametrize(("fuel", "job", "train"), SOUND, ids=[one[0] for one in SOUND])
def test_a_sound_train_is_never_stopped_and_says_why_of_every_caution(
    fuel: str, job: Job, train: Train
):
    assert stops(job, train, fuel) == set()
    for one in section(job, train, fuel).troubles:
        assert one.text.endswith((".", "!"))
        assert one.why.endswith(".")


@pytest.mark.parametrize(("fuel", "job", "train"), SOUND, ids=[one[0] for one in SOUND])
def test_without_any_one_part_a_sound_train_is_never_better(fuel: str, job: Job, train: Train):
    """Taking out a part may break a joint or open a danger; it never quiets one that stood."""
    before = {one.rule for one in section(job, train, fuel).troubles}
    quieted = {
        "strain_relief", "exhaust", "connector", "old", "weather", "low_loop", "tight_throat",
        "coupler_open",
    }  # fmt: skip
    for key in list(train.slots)[1:]:
        bare = without(train, key)
        if not bare.slots:
            continue
        after = {one.rule for one in section(job, bare, fuel).troubles}
        assert before - after <= quieted, key
