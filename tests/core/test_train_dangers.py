"""Dangers planted in trains that were sound: each is found, and with it gone nothing is said."""

from __future__ import annotations

import ast
from itertools import pairwise
from pathlib import Path

import pytest

from gentle_ember.core.job.ends import join
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import end
from gentle_ember.core.job.train import AS_FOUND, Slot, Train
from gentle_ember.core.physics.cylinder import sun_warms
from gentle_ember.core.physics.propane import saturation_pressure
from gentle_ember.core.stages import fuel_path
from gentle_ember.core.stages.fuel_path.edit import insert, without
from tests.helpers.sets import asked, fact, job_of
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
        for path in (*RULES.glob("*rules.py"), RULES / "mixture.py")
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
        if isinstance(node, ast.Call)
        and getattr(node.func, "id", "") in ("stop", "mind", "not_known")
        and isinstance(node.args[0], ast.Constant)
    }
    planted = "".join(
        (TESTS / name).read_text(encoding="utf-8")
        for name in (
            "test_train_rules.py",
            "test_train_dangers.py",
            "test_train.py",
            "test_gas_jets.py",
            "test_house_gas.py",
            "test_remote_tank.py",
        )
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


def test_a_cylinder_in_the_sun_presses_more_than_on_the_hottest_day_in_shade():
    keys = list(PROPANE_TRAIN.slots)
    first = next(PROPANE_TRAIN.slots[key].part for key in keys
                 if SHELF.parts[PROPANE_TRAIN.slots[key].part].most_pa)  # fmt: skip
    demand = section(PROPANE_JOB, PROPANE_TRAIN, "propane").case.asked.demand
    still = demand.cylinder_pa("none")
    sunny = saturation_pressure(demand.hottest_k + sun_warms()) - demand.ambient_pa
    assert sunny > 1.15 * still
    for most, said in ((still + 1.0, True), (sunny - 1.0, True), (sunny + 1.0, False)):
        job = own(PROPANE_JOB, first, most_pa=most)
        assert ("sun" in cautions(job, PROPANE_TRAIN, "propane")) is said
        assert "sun" not in stops(job, PROPANE_TRAIN, "propane")
    # One that takes less than the hottest day in shade is stopped, not minded.
    assert "sun" not in cautions(own(PROPANE_JOB, first, most_pa=still - 1e4), PROPANE_TRAIN,
                                 "propane")  # fmt: skip


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


INVERTER = job_of("inverter")
IN_CASE = built(INVERTER, "spacer_adapter-cylinder")


def test_a_part_inside_a_running_case_must_stand_its_heat():
    """30 °C outside makes some 55 °C inside: 50 is too little, 60 is enough."""
    key = IN_CASE.slots["demand"].part
    for most, said in ((323.15, True), (333.15, False)):
        assert ("case_heat" in cautions(own(INVERTER, key, hottest_k=most), IN_CASE)) is said
    frame = own(PROPANE_JOB, PROPANE_TRAIN.slots["demand"].part, hottest_k=323.15)
    assert "case_heat" not in cautions(frame, PROPANE_TRAIN)


@pytest.mark.parametrize(
    ("vents", "said"),
    [("unknown", False), ("none", True), ("high", True), ("low", False), ("both", False)],
)
def test_propane_that_leaks_in_a_case_must_find_a_way_out_low_down(vents: str, *, said: bool):
    job = with_facts(INVERTER, "set.stack", case_vents=vents)
    assert ("case_vents" in cautions(job, IN_CASE)) is said
    open_frame = with_facts(PROPANE_JOB, "set.stack", case_vents=vents)
    assert "case_vents" not in cautions(open_frame, PROPANE_TRAIN)


def test_a_source_turned_round_joins_nothing_and_is_said_so():
    job = job_of("large", distance=22.0, stub="3/4")
    train = built(job, "spacer_adapter-utility")
    turned = put(train, next(iter(train.slots)), turned=True)
    said = [one.text for one in section(job, turned, "natural_gas").troubles
            if one.rule == "other_source"]  # fmt: skip
    assert len(said) == 1
    assert "a source turned round" in said[0]


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


@pytest.mark.parametrize("name", ["propane", "natural_gas", "gasoline"])
def test_a_train_without_its_ends_is_a_stop(name: str):
    job, train = {"propane": (PROPANE_JOB, PROPANE_TRAIN), "natural_gas": (GAS_JOB, GAS_TRAIN),
                  "gasoline": (TANK_JOB, TANK_TRAIN)}[name]  # fmt: skip
    keys = list(train.slots)
    assert "no_source" in stops(job, without(train, keys[0]), name)
    assert "no_end" in stops(job, without(train, keys[-1]), name)


def test_train_and_site_agree_on_what_it_begins_with():
    tall = job_of("frame", cylinder="100")
    assert "other_source" in stops(tall, PROPANE_TRAIN)
    both = with_facts(tall, "sites.s1.cylinders",
                      c2={"size": "20", "distance": fact(2.0)})  # fmt: skip
    assert "other_source" not in stops(both, PROPANE_TRAIN)
    thin = job_of("large", distance=22.0, stub="1/2")
    wide = job_of("large", distance=22.0, stub="3/4")
    made = built(thin, "spacer_adapter-utility")
    assert "other_source" not in stops(thin, made, "natural_gas")
    assert "other_source" in stops(wide, made, "natural_gas")


def held(job: Job, train: Train, name: str = "propane") -> dict[str, str]:
    """What is not known of a train, by rule, with where it is said."""
    return {one.rule: one.path for one in section(job, train, name).troubles if one.holds}


@pytest.mark.parametrize("slot", ["regulator", "demand", "run_hose", "supply_half", "adapter"])
def test_an_own_part_without_its_makers_limits_is_not_known(slot: str):
    key = PROPANE_TRAIN.slots[slot].part
    part_ = SHELF.parts[key]
    bare = own(PROPANE_JOB, key, most_pa=None, rating_pa=None, rated_w=None)
    assert ("limits" in held(bare, PROPANE_TRAIN)) is (part_.kind != "adapter")
    assert "limits" not in held(PROPANE_JOB, PROPANE_TRAIN)


def test_the_solver_takes_no_part_whose_limits_nobody_states():
    key = PROPANE_TRAIN.slots["demand"].part
    unstated = SHELF.parts[key].model_copy(
        update={"key": "mine", "most_pa": None, "rating_pa": None, "price": 0.0}
    )
    question = asked(PROPANE_JOB, "spacer_adapter-cylinder")
    role = question.template.role("demand")
    assert role is not None
    assert question.limits.fits(role, SHELF.parts[key])
    assert "not stated" in question.limits.why_unfit(role, unstated)


def test_an_unknown_part_holds_whatever_stands_next_to_it():
    for key in list(PROPANE_TRAIN.slots)[1:]:
        blind = put(PROPANE_TRAIN, key, part="", unknown="something brass")
        assert "unknown" in held(PROPANE_JOB, blind), key
    valve = put(TANK_TRAIN, "tank_valve", part="", unknown="a valve, perhaps")
    assert "tank_valve" in held(TANK_JOB, valve, "gasoline")
    assert "tank_valve" in stops(TANK_JOB, without(TANK_TRAIN, "tank_valve"), "gasoline")


@pytest.mark.parametrize(("at", "name", "path"), [
    ("sites.s1.gases.g1", "pressure", "sites.s1.gases.g1.pressure"),
    ("sites.s1.gases.g1", "distance", "sites.s1.gases.g1.distance"),
    ("sites.s1.gases.g1", "stub", "sites.s1.gases.g1.stub"),
    ("set.studs", "spacing", "set.studs.spacing"),
])  # fmt: skip
def test_what_the_site_does_not_say_is_asked_and_not_taken_for_safe(at, name, path):
    told = job_of("large", distance=22.0, stub="3/4", pressure=1744.0)
    train = built(told, "spacer_adapter-utility")
    assert "assumed" not in held(told, train, "natural_gas")
    silent = with_facts(told, at, **{name: "unknown" if name == "stub" else None})
    assert held(silent, train, "natural_gas")["assumed"] == path


def test_a_gravity_line_whose_height_nobody_told_is_not_known():
    assert held(TANK_JOB, TANK_TRAIN, "gasoline")["high_loop"].endswith("high_loop")
    flat = with_facts(TANK_JOB, "sites.s1.remote_tank", high_loop=fact(0.0))
    assert "high_loop" not in held(flat, TANK_TRAIN, "gasoline")


def test_two_cylinders_without_a_check_between_them():
    twin = job_of("frame", two=True)
    train = built(twin, "spacer_adapter-check_pigtails")
    tail, tee = (train.slots[one].part for one in ("pigtail", "manifold"))
    assert "bare_manifold" not in stops(twin, train) | set(held(twin, train))
    plain = own(own(twin, tail, check=False), tee, check=False)
    assert "bare_manifold" in stops(plain, train)
    silent = own(own(twin, tail, check=None), tee, check=None)
    assert "bare_manifold" in held(silent, train)
    assert "bare_manifold" not in stops(own(twin, tail, check=False), train)


def test_an_electric_lock_off_is_no_demand_regulator():
    twin = job_of("twin")
    train = built(twin, "two_barrel_adapter-utility")
    assert "stall" not in stops(twin, train, "natural_gas")
    valve = next(one.part for one in train.slots.values()
                 if SHELF.parts[one.part].kind == "lock_off")  # fmt: skip
    bare = without(train, "demand")
    assert "stall" in stops(own(twin, valve, stalls=True), bare, "natural_gas")


def test_short_connectors_in_a_row_are_one_long_one():
    hose = next(key for key, slot in GAS_TRAIN.slots.items()
                if SHELF.parts[slot.part].kind == "gas_hose")  # fmt: skip
    part_ = GAS_TRAIN.slots[hose].part
    job = own(GAS_JOB, part_, length_m=2.4)
    assert "connector" not in cautions(job, GAS_TRAIN, "natural_gas")
    row = insert(GAS_TRAIN, hose, Slot(part=part_), SHELF.parts)
    assert "connector" in cautions(job, row, "natural_gas")


def test_a_tee_before_the_demand_regulator_lets_a_second_gas_on():
    half = PROPANE_TRAIN.slots["set_half"].part
    other = put(GAS_TRAIN, "set_half", part=half)
    job = job_of("frame").model_copy(
        update={"trains": {"propane": PROPANE_TRAIN, "natural_gas": other}}
    )
    tee = next(key for key, one in SHELF.parts.items() if one.kind == "tee")
    teed = insert(PROPANE_TRAIN, "set_half", Slot(part=tee), SHELF.parts)
    assert "two_gases" not in stops(job, PROPANE_TRAIN)
    assert "two_gases" in stops(job, teed)
    alone = job.model_copy(update={"trains": {"propane": teed}})
    assert "two_gases" not in stops(alone, teed)


def test_a_regulator_vent_without_a_screen_is_minded():
    key = PROPANE_TRAIN.slots["regulator"].part
    assert "open_vent" not in cautions(PROPANE_JOB, PROPANE_TRAIN)
    assert "open_vent" in cautions(own(PROPANE_JOB, key, vent="open"), PROPANE_TRAIN)


def as_found(**more: object) -> Train:
    """The propane train as somebody else's, all of it looked at."""
    seals: dict[str, object] = {}
    for (_, before), (key, after) in pairwise(PROPANE_TRAIN.slots.items()):
        ends = SHELF.parts[before.part].outlet, SHELF.parts[after.part].inlet
        seals[key] = join(end(ends[0]), end(ends[1])).seal
    train = PROPANE_TRAIN.model_copy(update={"found": True, "inlet": "hose_on", **more})
    for key in train.slots:
        train = put(train, key, upright=True, capped=True, seal=seals.get(key))
    return train


def test_somebody_elses_train_is_known_only_where_somebody_looked():
    assert held(PROPANE_JOB, as_found(), AS_FOUND) == {}
    assert "open_inlet" in held(PROPANE_JOB, as_found(inlet=""), AS_FOUND)
    assert "open_inlet" in stops(PROPANE_JOB, as_found(inlet="open"), AS_FOUND)
    for name, rule in (("upright", "upright"), ("seal", "sealing")):
        for key in list(PROPANE_TRAIN.slots)[1:]:
            part_ = SHELF.parts[PROPANE_TRAIN.slots[key].part]
            unseen = put(as_found(), key, **{name: None})
            asked_ = name == "seal" or part_.upright
            assert (rule in held(PROPANE_JOB, unseen, AS_FOUND)) is asked_, (name, key)


def test_plumbers_tape_on_a_gas_thread_is_told_from_the_right_one():
    taped = next(key for key, slot in as_found().slots.items() if slot.seal == "tape")
    wrong = put(as_found(), taped, seal="plumbers_tape")
    assert "sealing" not in stops(PROPANE_JOB, as_found(), AS_FOUND)
    assert "sealing" in stops(PROPANE_JOB, wrong, AS_FOUND)


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


def test_a_tank_too_low_for_the_needles_seat_is_minded():
    high = with_facts(TANK_JOB, "sites.s1.remote_tank", rise=fact(0.5))
    assert "needle_seat" not in cautions(high, TANK_TRAIN, "gasoline")
    low = with_facts(TANK_JOB, "sites.s1.remote_tank", rise=fact(0.01))
    assert "needle_seat" in cautions(low, TANK_TRAIN, "gasoline")
    assert "needle_seat" not in cautions(PUMPED_JOB, PUMPED, "gasoline")


def test_a_regulator_that_opens_hard_is_minded_for_part_load():
    demand = next(slot.part for slot in PROPANE_TRAIN.slots.values()
                  if SHELF.parts[slot.part].opening_pa)  # fmt: skip
    easy = own(PROPANE_JOB, demand, opening_pa=10.0)
    assert "part_load" not in cautions(easy, PROPANE_TRAIN)
    assert "part_load" in cautions(own(PROPANE_JOB, demand, opening_pa=250.0), PROPANE_TRAIN)
