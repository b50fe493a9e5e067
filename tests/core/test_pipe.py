"""Gas pipe: published sizing tables, the four questions as inverses, thin air, refusals."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.estimates.pipe import PipeCase, Solve, pipe_answer
from gentle_ember.core.physics import pipe
from gentle_ember.core.physics.fuels import GASOLINE_E0, PROPANE, biogas, natural_gas

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
