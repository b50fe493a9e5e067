"""Joints, ladder, edits, repairs and what-ifs of trains."""

import fluids
import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.quantities import INCH_WC_PA, PSI_PA, STANDARD_PRESSURE_PA
from gentle_ember.core.job.ends import Seal, join
from gentle_ember.core.job.part import PartClass, end
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.physics.fuels import PROPANE, FuelKey, natural_gas
from gentle_ember.core.physics.hose import gas_drop
from gentle_ember.core.stages.fuel_path.case import ask
from gentle_ember.core.stages.fuel_path.edit import swap, turn, with_roles, without
from gentle_ember.core.stages.fuel_path.gasoline_rules import profile
from gentle_ember.core.stages.fuel_path.ladder import outlet_abs, regulated
from gentle_ember.core.stages.fuel_path.proposals import propose, what_ifs
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from tests.helpers.sets import CATALOG, fact, output_of
from tests.helpers.trains import (
    GAS_JOB,
    GAS_TRAIN,
    PROPANE_JOB,
    PROPANE_TRAIN,
    SHELF,
    TANK_JOB,
    TANK_TRAIN,
    changed,
    part,
    put,
    section,
    stops,
)


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
    hose = part("vapor hose, 1/2")
    train = put(GAS_TRAIN, "vapor_hose", part=hose, length=fact(length))
    longer = put(train, "vapor_hose", length=fact(length + more))
    for key in ("pipe", "vapor_hose"):
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


def test_the_route_profile_says_when_a_blocked_vent_stalls() -> None:
    found = profile(section(TANK_JOB, TANK_TRAIN, "gasoline").case)
    assert found.full_surface_m == pytest.approx(found.outlet_m + 0.25)
    assert 0.02 < found.vent.value < 0.05
    assert found.margin.value > 0


def test_turning_twice_and_swapping_back_change_nothing() -> None:
    for key in ("supply_half", "set_half", "run_hose"):
        once = turn(PROPANE_TRAIN, key, SHELF.parts)
        assert once != PROPANE_TRAIN
        assert turn(once, key, SHELF.parts) == PROPANE_TRAIN
    held = SHELF.parts[PROPANE_TRAIN.slots["run_hose"].part]
    other = SHELF.parts[part("LP hose, 1/2|10 ft (3 m), NPT")]
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
