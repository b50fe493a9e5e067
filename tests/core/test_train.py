"""Ladder, rules, edits, parts list and kits of trains."""

from dataclasses import replace

import fluids
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.fuels import PROPANE, FuelKey, natural_gas
from gentle_ember.core.hose import gas_drop
from gentle_ember.core.house import House, size_house
from gentle_ember.core.job import Job
from gentle_ember.core.joints import Seal, join
from gentle_ember.core.kit import check_kit
from gentle_ember.core.method.base import Case
from gentle_ember.core.method.gas import gas_here
from gentle_ember.core.part import PartClass, end
from gentle_ember.core.pins import outdated, pin_changes
from gentle_ember.core.pipe import NOMINAL_M, capacity, pipe_gas
from gentle_ember.core.plan import plan
from gentle_ember.core.quantities import INCH_WC_PA, PSI_PA, STANDARD_PRESSURE_PA
from gentle_ember.core.sections.fuel_path import TrainSection, train_section
from gentle_ember.core.train.bom import Source, bill, cheaper_or_sooner
from gentle_ember.core.train.case import ask
from gentle_ember.core.train.edit import insert, swap, train_of, turn, with_roles, without
from gentle_ember.core.train.flow import outlet_abs
from gentle_ember.core.train.gasoline import profile
from gentle_ember.core.train.ladder import regulated
from gentle_ember.core.train.proposals import propose, what_ifs
from gentle_ember.core.train.shelf import Shelf
from gentle_ember.core.train.solver import Solution, solve
from gentle_ember.core.train.templates import TEMPLATES
from gentle_ember.core.trains import Slot, Train
from tests.core.sets import CATALOG, asked, fact, job_of, output_of

SHELF = CATALOG.shelf


def built(job: Job, template: str) -> Train:
    question = asked(job, template)
    answer = solve(SHELF, question.wanted())
    assert isinstance(answer, Solution)
    return train_of(question.template, answer.parts)


def section(job: Job, train: Train, name: str = "propane") -> TrainSection:
    found = train_section(job, output_of(job), CATALOG, name, train)
    assert found is not None
    return found


def stops(job: Job, train: Train, name: str = "propane") -> set[str]:
    return {one.rule for one in section(job, train, name).troubles if one.stops}


def cautions(job: Job, train: Train, name: str = "propane") -> set[str]:
    return {one.rule for one in section(job, train, name).troubles if not one.stops}


def part(words: str, **wanted: object) -> str:
    """Key of the first part of whose name every word is part."""
    return next(
        one.key
        for one in SHELF.parts.values()
        if all(word in one.name for word in words.split("|"))
        and all(getattr(one, name) == value for name, value in wanted.items())
    )


def put(train: Train, key: str, **more: object) -> Train:
    slot = Slot.model_validate({**train.slots[key].model_dump(), **more})
    return train.model_copy(update={"slots": {**train.slots, key: slot}})


PROPANE_JOB = job_of("frame")
PROPANE_TRAIN = built(PROPANE_JOB, "spacer_adapter-cylinder")
GAS_JOB = job_of("large", distance=22.0)
GAS_TRAIN = built(GAS_JOB, "spacer_adapter-utility")
TANK_JOB = job_of("small", rise=0.3)
TANK_TRAIN = built(TANK_JOB, "remote_tank_gravity")


@pytest.mark.parametrize(
    ("upstream", "downstream", "seal"),
    [
        ("npt:1/2:f", "npt:1/2:m", Seal.TAPE),
        ("flare:3/8:m", "flare:3/8:f", Seal.DRY),
        ("barb:3/8:m", "barb:3/8:f", Seal.CLAMP),
        ("cyl:both:f", "cyl:hand:m", Seal.HAND),
        ("cyl:both:f", "cyl:lh:m", Seal.WRENCH),
        ("cyl:lh:f", "cyl:lh:m", Seal.WRENCH),
        ("gas:tarn 1/2:f", "gas:tarn 1/2:m", Seal.CLICK),
        ("studs:42x6:m", "studs:42x6:f", Seal.GASKET),
    ],
)
def test_joints_that_mate_say_how_they_seal(upstream: str, downstream: str, seal: Seal) -> None:
    joint = join(end(upstream), end(downstream))
    assert joint.mates
    assert joint.seal is seal
    assert joint.sealing.never


@pytest.mark.parametrize(
    ("upstream", "downstream", "why"),
    [
        ("npt:1/2:f", "npt:3/8:m", "another size"),
        ("npt:1/2:f", "flare:1/2:m", "two systems"),
        ("npt:1/2:m", "npt:1/2:m", "both are male"),
        ("cyl:lh:f", "cyl:hand:m", "tall cylinder's valve has another thread"),
        ("fuel:rill 1/4:f", "fuel:runnel 1/4:m", "look alike"),
        ("studs:42x6:m", "studs:44x6:f", "another pattern"),
    ],
)
def test_joints_that_do_not_mate_say_why(upstream: str, downstream: str, why: str) -> None:
    joint = join(end(upstream), end(downstream))
    assert not joint.mates
    assert why in joint.why


@given(st.floats(2e3, 60e3), st.sampled_from([6.4e-3, 9.5e-3, 12.7e-3, 19e-3]))
def test_small_drops_are_those_of_darcy(heat: float, bore: float) -> None:
    for fuel in (PROPANE, natural_gas()):
        inlet = STANDARD_PRESSURE_PA + 11 * INCH_WC_PA
        mass = heat / fuel.lhv_j_kg
        lost = inlet - outlet_abs(fuel, inlet, mass, bore, 1.0, 0.5, 288.15)
        if lost < 0.02 * inlet:
            # Darcy's density is at 1 atm, this one's where the gas is.
            there = gas_drop(fuel, heat, bore, 1.0, 0.5) * STANDARD_PRESSURE_PA / (inlet - lost / 2)
            assert lost == pytest.approx(there, rel=2e-3)


def test_large_drops_are_those_of_isothermal_flow() -> None:
    inlet, bore, length, mass = STANDARD_PRESSURE_PA + 10 * PSI_PA, 6.4e-3, 7.6, 0.0018
    outlet = outlet_abs(PROPANE, inlet, mass, bore, length, 0.0, 288.15)
    assert outlet < 0.9 * inlet
    friction = fluids.friction_factor(
        Re=4 * mass / (3.141592653589793 * bore * 8.0e-6), eD=30e-6 / bore
    )
    # The formula's ρ/P₁ is 1/(R·T), so its density is the inlet's.
    density = PROPANE.density_kg_m3 * inlet / STANDARD_PRESSURE_PA
    other = fluids.isothermal_gas(
        rho=density, fd=friction, P1=inlet, P2=outlet, L=length, D=bore, m=None
    )
    assert mass == pytest.approx(other, rel=1e-3)


def test_a_regulator_droops_locks_up_and_never_gives_more_than_it_gets() -> None:
    one = next(p for p in SHELF.by_class[PartClass.TWO_STAGE] if p.rated_w)
    assert regulated(one, 500e3, 0.0) == pytest.approx(11 * INCH_WC_PA * 1.2)
    assert regulated(one, 500e3, one.rated_w or 0) == pytest.approx(
        11 * INCH_WC_PA * (1 - one.droop)
    )
    assert regulated(one, 1000.0, 0.0) == 1000.0


@given(st.floats(0.3, 40.0), st.floats(0.1, 30.0))
def test_a_longer_hose_never_delivers_more(length: float, more: float) -> None:
    hose = part("vapour hose, 1/2")
    train = put(GAS_TRAIN, "vapour_hose", part=hose, length=fact(length))
    longer = put(train, "vapour_hose", length=fact(length + more))
    for key in ("pipe", "vapour_hose"):
        one = put(GAS_TRAIN, key, length=fact(length)) if key == "pipe" else train
        other = put(GAS_TRAIN, key, length=fact(length + more)) if key == "pipe" else longer
        before, after = (
            section(GAS_JOB, Train.model_validate(t.model_dump()), "natural_gas").case.ladder
            for t in (one, other)
        )
        for load in ("idle", "half", "full"):
            if key == "pipe":
                assert after.of("demand").inlet[load] <= before.of("demand").inlet[load] + 1e-9
            else:
                assert after.needs[load] >= before.needs[load] - 1e-9


def test_the_train_as_solved_has_no_fault_at_all() -> None:
    assert not section(PROPANE_JOB, PROPANE_TRAIN).troubles
    assert not stops(GAS_JOB, GAS_TRAIN, "natural_gas")
    assert not stops(TANK_JOB, TANK_TRAIN, "gasoline")


def changed(slot: str, words: str) -> Train:
    return put(PROPANE_TRAIN, slot, part=part(words))


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
    ("hose_class", changed("run_hose", "vapour hose, 3/8")),
    ("hose_class", changed("hose", "fuel hose, 1/4")),
    ("fuel", changed("demand", "scrubber")),
    ("weak_signal", put(PROPANE_TRAIN, "vapour_hose", length=fact(60.0))),
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
    assert "bare_manifold" in stops(twin, without(two, "pigtail"))
    hot = put(two, "run_hose", part=part("fuel hose, 1/4"), length=fact(3.0))
    assert "clamp" not in stops(twin, hot)
    first = built(job_of("great"), "two_barrel_adapter-two_stages")
    clamped = insert(first, "first", Slot(part=part("barb, 1/2|1/2 in NPT male")), "x")
    assert "clamp" in stops(job_of("great"), clamped)
    assert "rating" in stops(PROPANE_JOB, insert(PROPANE_TRAIN, "source", Slot(part=part(
        "LP hose, 1/2|0.6 m, flare")), "x"))  # fmt: skip


def test_cautions_stand_where_they_apply() -> None:
    stemmed = swap(
        GAS_TRAIN, "supply_half",
        (SHELF.parts[part("beck|supply half")], SHELF.parts[part("beck|set half")]),
        SHELF, FuelKey.NATURAL_GAS,
    )  # fmt: skip
    assert stemmed.mates
    assert "stemmed" in cautions(GAS_JOB, stemmed.train, "natural_gas")
    assert "starved" in stops(GAS_JOB, stemmed.train, "natural_gas")
    unknown = insert(PROPANE_TRAIN, "hose", Slot(unknown="a grey box"), "x")
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
    hose = SHELF.parts[part("LP hose, 3/8|3 m, NPT")]
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


def test_the_route_profile_says_when_a_blocked_vent_stalls() -> None:
    found = profile(section(TANK_JOB, TANK_TRAIN, "gasoline").case)
    assert found.full_surface_m == pytest.approx(found.outlet_m + 0.25)
    assert 0.02 < found.vent.value < 0.05
    assert found.margin.value > 0


def test_two_gases_need_a_coupler_each() -> None:
    job = GAS_JOB.model_copy(update={"trains": {"propane": PROPANE_TRAIN}})
    bare = without(without(GAS_TRAIN, "supply_half"), "set_half")
    assert "two_gases" in stops(job, bare, "natural_gas")
    assert "two_gases" not in stops(job, GAS_TRAIN, "natural_gas")


def test_turning_twice_and_swapping_back_change_nothing() -> None:
    for key in ("supply_half", "set_half", "run_hose"):
        once = turn(PROPANE_TRAIN, key, SHELF.parts)
        assert once != PROPANE_TRAIN
        assert turn(once, key, SHELF.parts) == PROPANE_TRAIN
    held = SHELF.parts[PROPANE_TRAIN.slots["run_hose"].part]
    other = SHELF.parts[part("LP hose, 1/2|3 m, NPT")]
    there = swap(PROPANE_TRAIN, "run_hose", (other,), SHELF, FuelKey.PROPANE)
    assert there.mates
    assert there.added
    back = swap(there.train, "run_hose", (held,), SHELF, FuelKey.PROPANE)
    keys = [slot.part for slot in back.train.slots.values()]
    assert keys == [slot.part for slot in PROPANE_TRAIN.slots.values()]


def test_parts_of_a_found_train_get_their_roles() -> None:
    bare = Train(
        template="spacer_adapter-cylinder",
        slots={f"p{n}": Slot(part=s.part) for n, s in enumerate(PROPANE_TRAIN.slots.values())},
    )
    template = ask(PROPANE_JOB, output_of(PROPANE_JOB), CATALOG,
                   TEMPLATES["spacer_adapter-cylinder"]).template  # fmt: skip
    named = with_roles(bare, template, SHELF.parts)
    assert [s.role for s in named.slots.values()] == [s.role for s in PROPANE_TRAIN.slots.values()]


def test_a_bad_conversion_is_repaired_with_what_is_good_in_it_kept() -> None:
    bad = changed("regulator", "first stage|hand wheel").model_copy(update={"found": True})
    bad = without(bad, "near_shut_off")
    assert {"over_pressure", "no_valve"} <= stops(PROPANE_JOB, bad)
    answer = propose(PROPANE_JOB, output_of(PROPANE_JOB), CATALOG, "as_found",
                     TEMPLATES["spacer_adapter-cylinder"], old=bad)  # fmt: skip
    best = answer.proposals[0]
    assert not [one for one in best.section.troubles if one.stops]
    assert best.changes == 2
    for role in ("demand", "load_screw", "adapter", "run_hose"):
        assert best.train.slots[role].part == bad.slots[role].part


def test_what_if_a_longer_hose_is_never_better_and_a_full_bore_never_worse() -> None:
    stemmed = swap(
        GAS_TRAIN, "supply_half",
        (SHELF.parts[part("beck|supply half")], SHELF.parts[part("beck|set half")]),
        SHELF, FuelKey.NATURAL_GAS,
    ).train  # fmt: skip
    now = section(GAS_JOB, stemmed, "natural_gas")
    found = {one.key: one for one in what_ifs(GAS_JOB, output_of(GAS_JOB), CATALOG, now)}
    assert {"longer", "bore", "full_bore", "cold"} <= set(found)
    assert now.tightest is not None

    def margin(key: str) -> float:
        figure = found[key].section.tightest
        assert figure is not None
        return figure.value

    assert margin("longer") < now.tightest.value < margin("bore")
    assert margin("full_bore") > now.tightest.value


def _billed(job: Job, **trains: Train) -> Job:
    job = job.model_copy(update={"trains": trains, "wants": job.wants})
    for change in pin_changes(job, CATALOG.parts):
        key = change.path.removeprefix("parts.")
        job = job.model_copy(update={"parts": {**job.parts, key: CATALOG.parts[key]}})
    return job


def test_the_bill_counts_clamps_gaskets_caps_and_metres() -> None:
    job = _billed(PROPANE_JOB, propane=PROPANE_TRAIN)
    lines = {line.part.key: line for line in plan(job, CATALOG).bill.lines}
    by_class = {
        kind: [one for one in lines.values() if one.part.kind is kind] for kind in PartClass
    }
    assert [one.count for one in by_class[PartClass.GASKET]] == [2]
    assert sum(one.count for one in by_class[PartClass.CLAMP]) == 2
    assert by_class[PartClass.VAPOUR_HOSE][0].count == pytest.approx(0.5)
    assert by_class[PartClass.CYLINDER][0].source is Source.SITE
    assert by_class[PartClass.CYLINDER][0].price == 0
    assert by_class[PartClass.SEALANT][0].count == 1


def test_two_gases_share_what_stands_on_the_set() -> None:
    twin = job_of("twin", two=True, distance=5.0)
    propane = built(twin, "two_barrel_adapter-check_pigtails")
    job = twin.model_copy(update={"trains": {"propane": propane}})
    second = propose(job, output_of(job), CATALOG, "natural_gas",
                     TEMPLATES["two_barrel_adapter-utility"]).proposals[0].train  # fmt: skip
    assert second.slots["adapter"].part == propane.slots["adapter"].part
    both = plan(_billed(twin, propane=propane, natural_gas=second), CATALOG).bill
    count = {line.part.kind: line.count for line in both.lines}
    assert count[PartClass.ADAPTER] == 1
    assert count[PartClass.LOAD_SCREW] == 2
    assert count[PartClass.PIGTAIL] == 2


def test_a_kit_is_checked_for_what_is_missing_and_left_over() -> None:
    job = _billed(job_of("inverter"), propane=built(job_of("inverter"), "spacer_adapter-cylinder"))
    found = check_kit(CATALOG.kits["many-sets"], plan(job, CATALOG).bill, CATALOG.parts)
    over = {entry.part.name: entry.what_for for entry in found.left_over}
    assert any("studs 34x5" in name for name in over)
    assert over["spacer adapter, studs 34x5, throat 13 mm"] == "for studs 34x5"
    assert any(entry.part.kind is PartClass.TWO_STAGE for entry in found.missing)
    assert any(entry.part.kind is PartClass.DEMAND for entry in found.covers)
    assert found.missing_price > 0


def test_a_train_is_built_from_a_kit_as_far_as_it_goes() -> None:
    job, kit = job_of("inverter"), CATALOG.kits["inverter-42"]
    answer = propose(job, output_of(job), CATALOG, "propane",
                     TEMPLATES["spacer_adapter-cylinder"], kit=kit.contents)  # fmt: skip
    used = {slot.part for slot in answer.proposals[0].train.slots.values()}
    assert len(used & set(kit.contents)) >= 6


def test_a_stand_in_does_at_least_as_much() -> None:
    job = _billed(GAS_JOB, natural_gas=GAS_TRAIN)
    for line in bill(job, [section(job, GAS_TRAIN, "natural_gas").case], (), CATALOG.parts).lines:
        for other in cheaper_or_sooner(line, CATALOG.parts):
            slot = next((k for k, s in GAS_TRAIN.slots.items() if s.part == line.part.key), None)
            if slot is not None:
                again = put(GAS_TRAIN, slot, part=other.key)
                assert not stops(GAS_JOB, again, "natural_gas")


def test_a_job_keeps_its_parts_when_the_catalog_moves_on() -> None:
    job = _billed(PROPANE_JOB, propane=PROPANE_TRAIN)
    assert not outdated(job, CATALOG.parts)
    key = PROPANE_TRAIN.slots["demand"].part
    dearer = CATALOG.parts[key].model_copy(update={"price": 999.0, "stock": 77})
    assert outdated(job, {**CATALOG.parts, key: dearer}) == {key: ("price",)}
    moved = replace(CATALOG, parts={**CATALOG.parts, key: dearer})
    assert plan(job, moved).bill.price == plan(job, CATALOG).bill.price
    gone = {k: one for k, one in CATALOG.parts.items() if k != key}
    assert outdated(job, gone)[key] == ("no longer in the catalog",)


def test_a_meter_is_never_called_enough_with_the_set_left_out() -> None:
    gas = pipe_gas(natural_gas())
    bare = size_house(House(), gas, 40e3, 50e3, 0.0, told_w=30e3)
    assert bare.total_w == pytest.approx(70e3)
    assert bare.meter_enough is False
    drawn = House.model_validate(
        {
            "sections": {
                "p1": {"length": fact(12.0)},
                "p2": {"parent": "p1", "length": fact(6.0), "load": fact(20e3)},
                "p3": {"parent": "p1", "length": fact(15.0)},
            },
            "stub": "p3",
        }
    )
    found = size_house(drawn, gas, 40e3, 90e3, 0.0)
    loads = {one.key: one.load.value for one in found.sections}
    assert loads == pytest.approx({"p1": 60e3, "p2": 20e3, "p3": 40e3})
    assert found.longest_m == pytest.approx(27.0)
    assert found.meter_enough
    for one in found.sections:
        assert one.wanted is not None
        passes = capacity(gas, NOMINAL_M[one.wanted], 0.5 * INCH_WC_PA, 27.0) * gas.hhv_j_m3
        assert passes >= one.load.value
    round_way = House.model_validate(
        {"sections": {"a": {"parent": "b"}, "b": {"parent": "a"}}, "stub": "a"}
    )
    assert "round way" in dict(size_house(round_way, gas, 1.0, None, 0.0).faults)["a"]


def test_verdicts_are_judged_anew_from_the_real_train() -> None:
    digester = job_of("large", pressure=3 * INCH_WC_PA, distance=8.0)
    before = {reason.text for reason in gas_here(Case(digester))}
    assert any("a blower, or" in text for text in before)
    train = built(digester, "spacer_adapter-digester")
    after = {reason.text for reason in gas_here(Case(_billed(digester, biogas=train)))}
    assert "Supply is under 4 in w.c.; its train has a blower." in after
    assert "Its train scrubs the gas and drains its water." in after
    plate = SHELF.parts[PROPANE_TRAIN.slots["adapter"].part].thickness_m
    assert Case(PROPANE_JOB).plate_m is None
    assert Case(_billed(PROPANE_JOB, propane=PROPANE_TRAIN)).plate_m == plate


def test_a_part_no_longer_sold_is_cautioned_and_not_proposed() -> None:
    key = PROPANE_TRAIN.slots["demand"].part
    gone = SHELF.parts[key].model_copy(update={"use_instead": "PV-D-900"})
    own = PROPANE_JOB.model_copy(update={"parts": {key: gone}})
    assert "old" in cautions(own, PROPANE_TRAIN)
    answer = solve(Shelf([*(p for p in SHELF.parts.values() if p.key != key), gone]),
                   asked(PROPANE_JOB, "spacer_adapter-cylinder").wanted())  # fmt: skip
    assert isinstance(answer, Solution)
    assert key not in [one.part.key for one in answer.parts]
