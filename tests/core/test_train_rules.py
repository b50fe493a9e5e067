"""Every rule of a train finds its fault."""

import pytest

from gentle_ember.core.base.quantities import INCH_WC_PA, PSI_PA
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.first_start.gate import looks as gate_looks
from gentle_ember.core.stages.fuel_path.edit import insert, swap, turn, without
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
    changed,
    part,
    put,
    section,
    stops,
)


def test_the_train_as_solved_has_no_fault_at_all() -> None:
    assert not section(PROPANE_JOB, PROPANE_TRAIN).troubles
    assert not stops(GAS_JOB, GAS_TRAIN, "natural_gas")
    assert not stops(TANK_JOB, TANK_TRAIN, "gasoline")


FAULTS: list[tuple[str, Train]] = [
    ("over_pressure", changed("regulator", "first stage|hand wheel")),
    ("grill", changed("regulator", "grill regulator, 11")),
    ("joint", changed("regulator", "two-stage|160 kBTU/h, left-hand").model_copy()),
    ("coupler_turned", turn(PROPANE_TRAIN, "supply_half", SHELF.parts)),
    ("no_valve", without(PROPANE_TRAIN, "near_shut_off")),
    ("stall", without(PROPANE_TRAIN, "demand")),
    ("upright", put(PROPANE_TRAIN, "demand", upright=False)),
    ("upright", put(PROPANE_TRAIN, "source", upright=False)),
    ("sealing", put(PROPANE_TRAIN, "run_hose", seal="tape")),
    ("reach", without(without(PROPANE_TRAIN, "run_hose"), "hose")),
    ("intake", changed("adapter", "studs 54x8")),
    ("hose_class", changed("run_hose", "vapor hose, 3/8")),
    ("hose_class", changed("hose", "fuel hose, 1/4")),
    ("fuel", changed("demand", "scrubber")),
    ("weak_signal", put(PROPANE_TRAIN, "vapor_hose", length=fact(60.0))),
]


@pytest.mark.parametrize(("rule", "train"), FAULTS, ids=[f"{n}-{r}" for n, (r, _) in
                                                         enumerate(FAULTS)])  # fmt: skip
def test_each_fault_is_found(rule: str, train: Train) -> None:
    job, again = PROPANE_JOB, Train.model_validate(train.model_dump())
    if rule == "joint":
        job = job_of("frame", cylinder="100")
        again = put(PROPANE_TRAIN, "source", part="site-cyl-t")
        again = put(again, "regulator", part=part("two-stage|90 kBTU/h, hand"))
    assert rule in stops(job, again)


def test_faults_of_single_devices() -> None:
    large = job_of("large")
    train = put(built(large, "spacer_adapter-cylinder"), "regulator",
                part=part("two-stage|90 kBTU/h, hand"))  # fmt: skip
    assert "rated_flow" in stops(large, train)
    twin = job_of("frame", two=True)
    two = built(twin, "spacer_adapter-check_pigtails")
    assert "open_port" in stops(twin, put(two, "manifold", capped=False))
    hot = put(two, "run_hose", part=part("fuel hose, 1/4"), length=fact(3.0))
    assert "clamp" not in stops(twin, hot)
    first = built(job_of("great"), "two_barrel_adapter-two_stages")
    clamped = insert(first, "first", Slot(part=part("barb, 1/2|1/2 in NPT male")), SHELF.parts)
    assert "clamp" in stops(job_of("great"), clamped)
    assert "rating" in stops(PROPANE_JOB, insert(PROPANE_TRAIN, "source", Slot(part=part(
        "LP hose, 1/2|2 ft (0.6 m), flare")), SHELF.parts))  # fmt: skip


def test_cautions_stand_where_they_apply() -> None:
    stemmed = swap(
        GAS_TRAIN, "supply_half",
        (SHELF.parts[part("beck|supply half")], SHELF.parts[part("beck|set half")]),
        SHELF, FuelKey.NATURAL_GAS,
    )  # fmt: skip
    assert stemmed.mates
    assert "stemmed" in cautions(GAS_JOB, stemmed.train, "natural_gas")
    assert "starved" in stops(GAS_JOB, stemmed.train, "natural_gas")
    unknown = insert(PROPANE_TRAIN, "hose", Slot(unknown="a gray box"), SHELF.parts)
    assert "unknown" in cautions(PROPANE_JOB, unknown)
    near = PROPANE_TRAIN.model_copy(update={"past_exhaust": True, "through_cover": True})
    assert {"exhaust", "strain_relief"} <= cautions(PROPANE_JOB, near)
    open_half = swap(
        GAS_TRAIN, "supply_half",
        (SHELF.parts[part("mere|3/4|supply half")], SHELF.parts[part("mere|3/4|set half")]),
        SHELF, FuelKey.NATURAL_GAS,
    )  # fmt: skip
    assert "coupler_open" in cautions(GAS_JOB, open_half.train, "natural_gas")
    vented = SHELF.parts[part("line regulator")].model_copy(update={"vent": "open"})
    two_psi = job_of("large", pressure=2 * PSI_PA, distance=8.0)
    train = built(two_psi, "spacer_adapter-utility_2psi")
    line = put(train, "line", part=vented.key)
    own = two_psi.model_copy(update={"parts": {vented.key: vented}})
    assert "vent" in cautions(own, line, "natural_gas")


def test_a_starved_device_names_the_part_that_takes_most_and_how_much_is_short() -> None:
    hose = SHELF.parts[part("LP hose, 3/8|10 ft (3 m), NPT")]
    starved = swap(GAS_TRAIN, "hose", (hose,), SHELF, FuelKey.NATURAL_GAS).train
    found = next(
        one for one in section(GAS_JOB, starved, "natural_gas").troubles if one.rule == "starved"
    )
    assert hose.name in found.text
    amounts = {one.label: one.value for one in found.amounts}
    assert amounts["short by"] > 0
    assert amounts[f"lost in {hose.name}"] > 3 * INCH_WC_PA


@pytest.mark.parametrize(
    ("rule", "facts"),
    [
        ("over_pressure", {"rise": fact(0.5)}),
        ("starved", {"rise": fact(-0.05)}),
        ("high_loop", {"rise": fact(0.3), "high_loop": fact(0.2)}),
    ],
)
def test_gravity_levels(rule: str, facts: dict[str, object]) -> None:
    document = TANK_JOB.model_dump(mode="json")
    document["sites"]["s1"]["remote_tank"] |= facts
    assert rule in stops(Job.model_validate(document), TANK_TRAIN, "gasoline")


def test_gasoline_valves_couplers_and_tanks() -> None:
    assert "tank_valve" in stops(TANK_JOB, without(TANK_TRAIN, "tank_valve"), "gasoline")
    assert "coupler_turned" in stops(
        TANK_JOB, turn(TANK_TRAIN, "fuel_supply_half", SHELF.parts), "gasoline"
    )
    shut = TANK_JOB.set.model_copy(update={"shut_off": False})
    open_set = TANK_JOB.model_copy(update={"set": shut})
    assert "two_tanks" in stops(open_set, without(TANK_TRAIN, "selector"), "gasoline")
    low = TANK_JOB.model_dump(mode="json")
    low["sites"]["s1"]["remote_tank"]["low_loop"] = fact(0.6)
    assert "low_loop" in cautions(Job.model_validate(low), TANK_TRAIN, "gasoline")
    deep = job_of("small", rise=-0.7)
    pumped = built(job_of("small", rise=-0.4), "remote_tank_pump")
    assert "starved" in stops(deep, pumped, "gasoline")
    crossed = put(TANK_TRAIN, "fuel_set_half", part=part("runnel|1/4|set half"))
    if "rill" in SHELF.parts[TANK_TRAIN.slots["fuel_supply_half"].part].name:
        assert "joint" in stops(TANK_JOB, crossed, "gasoline")


def test_two_gases_need_a_coupler_each() -> None:
    job = GAS_JOB.model_copy(update={"trains": {"propane": PROPANE_TRAIN}})
    bare = without(without(GAS_TRAIN, "supply_half"), "set_half")
    assert "two_gases" in stops(job, bare, "natural_gas")
    half = GAS_TRAIN.slots["set_half"].part
    shared = job.model_copy(
        update={"trains": {"propane": put(PROPANE_TRAIN, "set_half", part=half)}}
    )
    assert "two_gases" not in stops(shared, GAS_TRAIN, "natural_gas")
    assert "two_gases" in stops(job, GAS_TRAIN, "natural_gas")


@pytest.mark.parametrize(
    ("named", "told", "says"),
    [
        ({"families": ("D171",)}, {"engine_family": "d171"}, ""),
        ({"families": ("D171",)}, {"engine_family": "W420"}, "not for this set"),
        ({"families": ("D171",)}, {}, "not told"),
        ({"models": ("Linnet",), "first_year": 2010}, {"model": "Linnet", "year": 2012}, ""),
        ({"models": ("Linnet",), "first_year": 2010}, {"model": "Linnet", "year": 2005},
         "not for this set"),
        ({"last_year": 2009}, {"year": 2009}, ""),
        ({"last_year": 2009}, {}, "sets of other years"),
        ({"trims": ("electric choke",)}, {"trim": "plain"}, "not for this set"),
    ],
)  # fmt: skip
def test_a_part_made_for_some_sets_goes_on_those_alone(named, told, says) -> None:
    document = PROPANE_JOB.model_dump()
    document["set"] |= told
    key = PROPANE_TRAIN.slots["adapter"].part
    changed_part = SHELF.parts[key].model_copy(update=named)
    document["parts"] = {key: changed_part.model_dump()}
    job = Job.model_validate(document)
    said = [one for one in section(job, PROPANE_TRAIN).troubles if one.rule == "for_set"]
    assert [says in one.text for one in said] == ([True] if says else [])
    # What is not told holds, at the field that tells it; another set is a stop.
    assert all(one.holds and one.path.startswith("set.") if "not told" in one.text else one.stops
               for one in said)  # fmt: skip
    limits = section(job, PROPANE_TRAIN).case.asked.limits
    assert (says in limits.why_unfit(None, changed_part)) if says else (
        limits.why_unfit(None, changed_part) == "")  # fmt: skip


def two_gases(half: str = "") -> Job:
    """Propane and natural gas on one set, each with its hose."""
    gas = built(PROPANE_JOB, "spacer_adapter-utility")
    if not half:
        key = next(key for key, one in gas.slots.items() if one.role == "set_half")
        gas = put(gas, key, part=PROPANE_TRAIN.slots["set_half"].part)
    trains = {"propane": PROPANE_TRAIN.model_dump(), "natural_gas": gas.model_dump()}
    return Job.model_validate(PROPANE_JOB.model_dump() | {"trains": trains})


def test_one_coupler_for_two_gases_is_told_of_tagged_and_read_before_a_start() -> None:
    job = two_gases()
    for fuel in ("propane", "natural_gas"):
        said = [one for one in section(job, job.trains[fuel], fuel).troubles
                if one.rule == "one_family"]  # fmt: skip
        assert len(said) == 1
        assert not said[0].stops
        assert said[0].slot == "set_half"
        looks = {one.key for one in gate_looks(job, fuel, section(job, job.trains[fuel], fuel))}
        assert "hose_on" in looks
    assert "one_family" not in cautions(PROPANE_JOB, PROPANE_TRAIN)
    alone = section(PROPANE_JOB, PROPANE_TRAIN)
    assert "hose_on" not in {one.key for one in gate_looks(PROPANE_JOB, "propane", alone)}


@pytest.mark.parametrize(
    ("slot", "on", "kind"),
    [
        ("regulator", "frame", "stop"),
        ("regulator", "cover", "stop"),
        ("regulator", "cylinder", ""),
        ("demand", "cover", "caution"),
        ("demand", "cylinder", "caution"),
        ("demand", "frame", ""),
        ("demand", "", ""),
    ],
)
def test_a_regulator_sits_only_where_it_can(slot: str, on: str, kind: str) -> None:
    found = section(PROPANE_JOB, put(PROPANE_TRAIN, slot, on=on))
    said = {str(one.severity) for one in found.troubles if one.rule == "mounted"}
    assert (kind in said) if kind else not said
