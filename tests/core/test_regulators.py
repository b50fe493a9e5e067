"""A cylinder's regulator passes less as its inlet falls: the seat, the rule, the run time."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.catalog.rows import write_row
from gentle_ember.core.base.quantities import PSI_PA, STANDARD_PRESSURE_PA
from gentle_ember.core.estimates.run_times import cylinder_question, cylinders_regulator
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import CYLINDER_FED, PartClass
from gentle_ember.core.physics import air
from gentle_ember.core.physics.cylinder import starvation_temperature
from gentle_ember.core.physics.supply import (
    RATED_AT_PA,
    STARVES_AT_MOST_PA,
    regulator_capacity,
    starving_inlet,
)
from gentle_ember.core.stages.fuel_path.ladder import Zone
from gentle_ember.core.stages.fuel_path.limits import refuses
from gentle_ember.documents.parts_csv import parts_csv, read_parts
from tests.helpers.sets import CATALOG, asked, fact, job_of
from tests.helpers.trains import PROPANE_TRAIN, part, put, section, stops

SEA = STANDARD_PRESSURE_PA
RATED = 46_900.0
gauge = st.floats(min_value=0.0, max_value=1.7e6)
heat = st.floats(min_value=5e3, max_value=150e3)
places = st.floats(min_value=0.0, max_value=3500.0)


def at(celsius: float) -> Job:
    """A mid-size open frame set whose site gets this cold."""
    given_job = job_of("frame", cylinder="100").model_dump()
    given_job["sites"]["s1"]["coldest"] = fact(celsius + 273.15)
    return Job.model_validate(given_job)


# Absolute pressures: (10 + 14.7) of (30 + 14.7) psi leave 55 % of the rating.
@pytest.mark.parametrize(
    ("psi", "share"), [(30, 1.0), (60, 1.0), (10, 24.7 / 44.7), (0, 14.7 / 44.7), (-14.7, 0.0)]
)
def test_what_it_passes_goes_with_the_absolute_pressure_before_it(psi, share):
    passes = regulator_capacity(RATED, RATED_AT_PA, psi * PSI_PA, SEA)
    assert passes / RATED == pytest.approx(share, abs=2e-3)


def test_a_draw_of_102_on_a_rating_of_160_starves_at_minus_26():
    least = starving_inlet(102.0, 160.0, RATED_AT_PA, 10 * PSI_PA, SEA)
    assert least / PSI_PA == pytest.approx(13.8, abs=0.05)
    assert starvation_temperature(0.0, least) - 273.15 == pytest.approx(-25.9, abs=0.1)
    assert starvation_temperature(0.0) - 273.15 == pytest.approx(-29.6, abs=0.1)


@given(draw=heat, rated=heat, where=places)
def test_the_inlet_it_starves_at_just_passes_the_draw(draw, rated, where):
    here = air.pressure(where)
    least = starving_inlet(draw, rated, RATED_AT_PA, -here, here)
    passes = regulator_capacity(rated, RATED_AT_PA, least, here)
    if least < STARVES_AT_MOST_PA:
        assert passes == pytest.approx(min(draw, rated), rel=1e-9)


@given(inlet=gauge, more=gauge, where=places)
def test_it_never_passes_more_than_rated_nor_less_for_more_pressure(inlet, more, where):
    here = air.pressure(where)
    one = regulator_capacity(RATED, RATED_AT_PA, inlet, here)
    other = regulator_capacity(RATED, RATED_AT_PA, inlet + more, here)
    assert 0 <= one <= other <= RATED


@given(draw=heat, least=gauge)
def test_the_makers_least_inlet_always_stands(draw, least):
    assert starving_inlet(draw, RATED, RATED_AT_PA, least, SEA) >= least


def test_a_regulator_far_too_small_starves_at_once_and_breaks_nothing():
    least = starving_inlet(150e3, 4e3, RATED_AT_PA, 69e3, SEA)
    assert least == STARVES_AT_MOST_PA
    assert starvation_temperature(0.0, least) > 288.0


def test_only_what_a_cylinder_feeds_is_cut_back():
    for one in CATALOG.parts.values():
        if one.rated_w is None:
            assert one.passes_w(0.0, SEA) is None
        elif one.kind in CYLINDER_FED:
            assert one.passes_w(0.0, SEA) < one.rated_w
            assert one.passes_w(200 * PSI_PA, SEA) == one.rated_w
        else:
            assert one.passes_w(0.0, SEA) == one.rated_w


def test_a_rating_stated_at_another_inlet_is_taken_at_that():
    usual = CATALOG.parts[part("two-stage|160 kBTU/h, hand")]
    stated = usual.model_copy(update={"rated_at_pa": 100 * PSI_PA})
    assert usual.rated_inlet_pa == RATED_AT_PA
    assert stated.passes_w(30 * PSI_PA, SEA) < usual.passes_w(30 * PSI_PA, SEA)


def test_the_inlet_of_a_rating_leaves_and_comes_back_as_csv():
    usual = CATALOG.parts[part("two-stage|160 kBTU/h, hand")]
    stated = usual.model_copy(update={"rated_at_pa": 100 * PSI_PA})
    assert write_row(usual)["rated_at"] == ""
    (back,) = read_parts(parts_csv([stated]).encode(), {}).parts
    assert back.rated_at_pa == pytest.approx(100 * PSI_PA, rel=1e-3)


def enough_until_it_is_cold() -> tuple[str, float]:
    """A two-stage regulator that carries full load at its rated inlet, and by how much."""
    heat = asked(at(-7.0), "spacer_adapter-cylinder").demand.heat_hhv()
    fitting = sorted(
        (one.rated_w / heat, key)
        for key, one in CATALOG.parts.items()
        if one.kind is PartClass.TWO_STAGE and one.inlet == "cyl:hand:m" and one.rated_w > heat
    )
    share, key = fitting[0]
    return key, share


def test_a_regulator_that_carries_full_load_in_the_mild_is_stopped_in_the_cold():
    key, _ = enough_until_it_is_cold()
    train = put(PROPANE_TRAIN, "regulator", part=key)
    assert "rated_flow" not in stops(at(-7.0), train)
    assert "rated_flow" in stops(at(-38.0), train)
    (found,) = (one for one in section(at(-38.0), train).troubles if one.rule == "rated_flow")
    assert "at what the cylinder gives in the cold" in found.text
    assert [one.label for one in found.amounts] == ["full load", "passes", "gets"]


def test_the_solver_does_not_propose_what_the_rule_would_stop():
    key, _ = enough_until_it_is_cold()
    one = CATALOG.parts[key]
    for celsius, why in ((-7.0, ""), (-30.0, "rated for less flow than full load takes")):
        demand = asked(at(celsius), "spacer_adapter-cylinder").demand
        free = one.model_copy(update={"least_pa": None})
        found = refuses(
            free, Zone.CYLINDER, demand.cylinder_pa("full"), demand.cylinder_pa("none"),
            demand.mass("full"), demand,
        )  # fmt: skip
        assert found == why


def run_through(rated_share: float) -> tuple[float, float]:
    """Starving temperature [K] and least inlet [Pa] through a regulator of a share of the draw."""
    job = at(-12.0)
    site, catalog = job.sites["s1"], CATALOG
    cylinder = site.cylinders["c1"]
    bare = cylinder_question(job.set, site, "s1", cylinder, job.load, 5000.0, catalog)
    draw = bare.line.fuel_w(bare.load_w) * 50.35 / 46.35
    small = CATALOG.parts[part("two-stage|160 kBTU/h, hand")].model_copy(
        update={"rated_w": draw / rated_share}
    )
    case = cylinder_question(
        job.set, site, "s1", cylinder, job.load, 5000.0, catalog, regulator=small
    )
    return case.lowest_k, case.first_stage_minimum_pa


def test_a_small_regulator_starves_warmer_and_a_large_one_as_its_maker_says():
    shares = [0.2, 0.5, 0.64, 0.8, 1.0]
    temperatures, inlets = zip(*(run_through(one) for one in shares), strict=True)
    assert list(temperatures) == sorted(temperatures)
    assert temperatures[-1] > temperatures[0]
    assert inlets[0] == CATALOG.parts[part("two-stage|160 kBTU/h, hand")].least_pa
    for share, inlet in zip(shares[2:], inlets[2:], strict=True):
        here = air.pressure(200.0)
        assert inlet + here == pytest.approx(share * (RATED_AT_PA + SEA), rel=1e-3)


def test_the_jobs_own_regulator_is_the_one_its_cylinder_empties_through():
    job = at(-12.0)
    assert cylinders_regulator(job) is None
    pinned = {
        slot.part: CATALOG.parts[slot.part] for slot in PROPANE_TRAIN.slots.values() if slot.part
    }
    whole = job.model_copy(update={"trains": {"propane": PROPANE_TRAIN}, "parts": pinned})
    found = cylinders_regulator(whole)
    assert found is not None and found.kind in CYLINDER_FED
