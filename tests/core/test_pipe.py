"""Gas pipe: published sizing tables, the four questions as inverses, thin air, refusals."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.estimates.pipe import PipeCase, Solve, pipe_answer
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import pipe
from gentle_ember.core.physics.fuels import GASOLINE_E0, PROPANE, biogas, natural_gas
from gentle_ember.core.physics.pipe import pipe_gas
from gentle_ember.core.stages.fuel_path.house import size_house
from tests.helpers.sets import asked, fact, job_of
from tests.helpers.trains import built, section

NATURAL, LP = pipe.pipe_gas(natural_gas()), pipe.pipe_gas(PROPANE)
HALF_INCH_WC = 0.5 * INCH_WC_PA
# gas, nominal, feet, published capacity (ft³/h of natural gas, kBTU/h of propane), drop 0.5 in w.c.
TABLE = [
    (NATURAL, "1/2", 10, 172), (NATURAL, "1-1/4", 20, 957), (NATURAL, "3/4", 30, 199),
    (NATURAL, "1", 50, 284), (NATURAL, "1-1/2", 80, 677), (NATURAL, "3/4", 100, 104),
    (NATURAL, "1", 150, 157), (NATURAL, "2", 200, 794),
    (LP, "1", 10, 1150), (LP, "1/2", 20, 200), (LP, "3/4", 40, 287), (LP, "1-1/4", 50, 985),
]  # fmt: skip


@pytest.mark.parametrize(("gas", "nominal", "feet", "published"), TABLE)
def test_published_capacities_within_two_percent(gas, nominal, feet, published):
    flow = pipe.capacity(gas, pipe.NOMINAL_M[nominal], HALF_INCH_WC, feet * pipe.FOOT_M)
    thousand_btu_h = flow * gas.hhv_j_m3 / 0.29307107 / 1000
    found = flow / pipe.FT3_H_M3_S if gas is NATURAL else thousand_btu_h
    assert found == pytest.approx(published, rel=0.02)


bores, lengths = st.floats(0.01, 0.08), st.floats(2.0, 150.0)
flows, heights = st.floats(2e-4, 0.01), st.floats(0.0, 3000.0)


@given(bores, lengths, st.floats(20.0, 400.0), heights)
def test_the_four_questions_are_inverses(bore, length, drop, elevation):
    flow = pipe.capacity(NATURAL, bore, drop, length, elevation)
    assert pipe.bore(NATURAL, flow, drop, length, elevation) == pytest.approx(bore)
    assert pipe.drop(NATURAL, bore, flow, length, elevation) == pytest.approx(drop)
    assert pipe.length(NATURAL, bore, flow, drop, elevation) == pytest.approx(length)


@given(bores, lengths, st.floats(1.01, 3.0), heights)
def test_longer_or_higher_never_passes_more(bore, length, more, elevation):
    here = pipe.capacity(LP, bore, 100.0, length, elevation)
    assert pipe.capacity(LP, bore, 100.0, length * more, elevation) < here
    assert pipe.capacity(LP, bore, 100.0, length, elevation + 500.0) < here
    assert pipe.capacity(LP, bore * more, 100.0, length, elevation) > here


def test_second_opinion_is_of_the_same_size_and_lower_on_small_pipe():
    small = pipe.NOMINAL_M["1/2"]
    ours = pipe.capacity(NATURAL, small, HALF_INCH_WC, 6.0)
    theirs = pipe.second_opinion(NATURAL, small, HALF_INCH_WC, 6.0)
    assert 0.6 < theirs / ours < 1.0


def test_the_size_wanted_passes_the_demand_and_the_one_below_does_not():
    case = PipeCase(NATURAL, Solve.BORE, 131e3 * 0.29307107, "3/4", HALF_INCH_WC, 22.0, 140.0)
    found = pipe_answer(case)
    assert found.nominal == "1"
    sizes = list(pipe.NOMINAL_M)
    for nominal, enough in (("1", True), (sizes[sizes.index("1") - 1], False)):
        sized = PipeCase(NATURAL, Solve.FLOW, case.heat_w, nominal, HALF_INCH_WC, 22.0, 140.0)
        assert pipe_answer(sized).enough is enough
    assert pipe_answer(PipeCase(LP, Solve.BORE, 4e6, "1", 10.0, 900.0)).nominal is None


def test_biogas_by_the_general_factor_lies_between_its_neighbors():
    gas = pipe.pipe_gas(biogas(0.6))
    assert NATURAL.cr < gas.cr < LP.cr
    with pytest.raises(QuantityError):
        pipe.pipe_gas(GASOLINE_E0)
    with pytest.raises(QuantityError, match="pressure drop"):
        pipe.capacity(NATURAL, 0.02, 2e4, 10.0)


def stub_job(pressure: float, house: dict[str, object] | None = None, **more: object) -> Job:
    whole = job_of("large", stub="3/4", pressure=pressure, **more).model_dump()
    if house is not None:
        whole["sites"]["s1"]["gases"]["g1"]["house"] = house
    return Job.model_validate(whole)


TREE = {
    "stub": "b",
    "sections": {
        "a": {"name": "meter to tee", "length": fact(6.0), "size": "1"},
        "b": {"name": "tee to stub", "parent": "a", "length": fact(9.0), "size": "3/4"},
        "c": {"name": "furnace", "parent": "a", "length": fact(4.0), "size": "3/4",
              "load": fact(29_300.0)},
    },
}  # fmt: skip


def test_a_house_takes_what_its_sections_take_on_the_way_to_the_stub():
    job = stub_job(1744.0, TREE)
    case = asked(job, "spacer_adapter-utility")
    house = job.sites["s1"].gases["g1"].house
    sized = size_house(house, pipe_gas(case.demand.fuel), case.demand.heat_hhv(), None, 200.0)
    along = {one.key: one.drop.band.high for one in sized.sections if one.drop}
    assert case.supply.lost_pa == pytest.approx(along["a"] + along["b"])
    assert case.supply.lost_told
    assert case.supply.at(case.demand, "none") == 1744.0
    assert case.supply.at(case.demand, "full") == pytest.approx(1744.0 - along["a"] - along["b"])


def test_other_appliances_that_run_take_more_before_the_stub():
    alone = {**TREE, "sections": {key: TREE["sections"][key] for key in "ab"}}
    lost = [asked(stub_job(1744.0, one), "spacer_adapter-utility").supply.lost_pa
            for one in (alone, TREE)]  # fmt: skip
    assert lost[1] > lost[0] > 0


@pytest.mark.parametrize(
    ("house", "lost", "told"),
    [
        (None, 0.5 * INCH_WC_PA, False),
        ({"allowed": fact(60.0)}, 60.0, True),
        ({**TREE, "sections": {"b": {"size": "3/4"}}}, 0.5 * INCH_WC_PA, False),
    ],
)
def test_an_undrawn_house_takes_what_such_piping_is_sized_for(house, lost, told):
    supply = asked(stub_job(1744.0, house), "spacer_adapter-utility").supply
    assert (supply.lost_pa, supply.lost_told) == (pytest.approx(lost), told)


def test_a_line_at_two_psi_and_a_cylinder_have_no_house_before_them():
    assert asked(stub_job(13_790.0), "spacer_adapter-utility_2psi").supply.lost_pa == 0
    assert asked(stub_job(1744.0), "spacer_adapter-cylinder").supply.lost_pa == 0


def test_what_the_house_takes_is_missing_at_the_engine():
    """A train is judged on the pressure that flows, not on the one read with nothing running."""
    free, tight = (
        section(stub_job(1244.0, {"allowed": fact(pa)}),
                built(stub_job(1244.0), "spacer_adapter-utility"), "natural_gas")
        for pa in (10.0, 130.0)
    )  # fmt: skip
    margins = [one.tightest.value for one in (free, tight) if one.tightest]
    assert margins[0] - margins[1] == pytest.approx(120.0, rel=0.05)


def test_a_gas_keeps_its_name_and_its_own_constants():
    for fuel in (natural_gas(), PROPANE, biogas(0.6)):
        gas = pipe_gas(fuel)
        assert (gas.key, gas.name) == (fuel.key, fuel.name)
    assert pipe_gas(PROPANE).specific_gravity == 1.50
    assert pipe_gas(natural_gas()).cr == pytest.approx(0.6094, rel=1e-3)
    for fuel in (natural_gas(), biogas(0.6)):
        gas = pipe_gas(fuel)
        assert (gas.hhv_j_m3, gas.specific_gravity) == (fuel.hhv_j_m3, fuel.specific_gravity)


def test_the_codes_constant_goes_with_gravity_as_its_formula_has_it():
    """Cr = 0.00354·S·T·(Z/S)^0.152, so that a heavier gas of one viscosity takes S^0.848."""
    light, heavy = (pipe_gas(natural_gas(specific_gravity=s)).cr for s in (0.55, 0.75))
    assert heavy / light == pytest.approx((0.75 / 0.55) ** 0.848)
    gas = pipe_gas(biogas(0.6))
    wanted = 0.00354 * gas.specific_gravity * 520.0 * (0.0127 / gas.specific_gravity) ** 0.152
    assert gas.cr == pytest.approx(wanted)


@given(st.sampled_from([NATURAL, LP]), st.sampled_from(["1/2", "3/4", "1"]))
def test_without_a_height_it_is_sea_level(gas, nominal):
    bore, flow = pipe.NOMINAL_M[nominal], 1e-3
    assert pipe.capacity(gas, bore, 100.0, 10.0) == pipe.capacity(gas, bore, 100.0, 10.0, 0.0)
    assert pipe.bore(gas, flow, 100.0, 10.0) == pipe.bore(gas, flow, 100.0, 10.0, 0.0)
    assert pipe.drop(gas, bore, flow, 10.0) == pipe.drop(gas, bore, flow, 10.0, 0.0)
    assert pipe.length(gas, bore, flow, 100.0) == pipe.length(gas, bore, flow, 100.0, 0.0)


@pytest.mark.parametrize("name", ["1/2", "3/4", "1", "1-1/4"])
def test_a_bore_that_is_a_size_takes_that_size_and_a_hair_more_the_next(name):
    inside = pipe.NOMINAL_M[name]
    assert pipe.next_nominal(inside) == name
    assert pipe.next_nominal(inside + 1e-5) != name
