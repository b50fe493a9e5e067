"""Trains with a fixed gas jet in place of a load screw: what it gives, which is asked for, when it
is proven."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.mixture import SET_TO, Metered, jet_takes, through_jet
from gentle_ember.core.physics.orifice import orifice_for, orifice_pa
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.first_start.gate import looks
from gentle_ember.core.stages.first_start.metering.settings import gas_metering, metering_items
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fuel_path.mixture import fixed_jet, jet_by_probe, metered
from gentle_ember.core.stages.fuel_path.proposals import options, propose
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.fuel_path.trains import TrainSection, train_section
from gentle_ember.core.stages.hand_over.moving import moves
from gentle_ember.core.stages.load_test.advice import RunEvidence, advise
from tests.helpers.sets import CATALOG, fact, job_of, output_of

JETS = {part.key: part for part in CATALOG.parts.values() if part.kind == "gas_jet"}
KITS = {"small": "inverter-34-jets", "inverter": "inverter-42-jets"}


def section(size: str = "small", fuel: str = "propane", jet: str = "", **told) -> TrainSection:
    """A kit's train, with one jet of the catalog where one is named."""
    job = job_of(size, **told)
    source = {"propane": "cylinder", "natural_gas": "utility"}[fuel]
    template = TEMPLATES[f"spacer_adapter-{source}"]
    kit = CATALOG.kits[KITS[size]].contents
    found = propose(job, output_of(job), CATALOG, fuel, template, kit=kit).proposals[0]
    if not jet:
        return found.section
    slots = {
        key: slot.model_copy(update={"part": jet}) if slot.role == "load_screw" else slot
        for key, slot in found.train.slots.items()
    }
    train = found.train.model_copy(update={"slots": slots})
    made = train_section(job, output_of(job), CATALOG, fuel, train)
    assert made is not None
    return made


def job_with(found: TrainSection, readings: dict | None = None) -> Job:
    case = found.case
    key = f"s1-{case.name}"
    return Job.model_validate(case.job.model_dump() | {
        "trains": {case.name: case.train.model_dump()},
        "choice": {"methods": ["spacer_adapter"]},
        "parts": {part.key: part.model_dump() for _, part in case.known()},
        "metering": {key: {"readings": readings or {}}},
    })  # fmt: skip


@given(st.floats(1e-5, 2e-3), st.floats(0.6, 2.2), st.floats(1e-3, 0.02))
def test_a_hole_and_what_it_takes_are_each_others_inverse(mass, density, hole):
    assert orifice_for(mass, density, orifice_pa(mass, density, hole)) == pytest.approx(hole)


@given(st.floats(300, 2000), st.floats(10, 200), st.floats(0, 100), st.floats(0.8, 1.2),
       st.booleans())  # fmt: skip
def test_the_jet_that_may_take_so_much_gives_the_mixture_asked_for(signal, opens, path, lam, even):
    of = Metered(signal, opens, path, 0.2)
    takes = jet_takes(of, lam, smooth=even)
    if takes > 0:
        assert through_jet(of, takes, smooth=even) == pytest.approx(lam)


def test_no_suction_over_the_opening_draws_no_gas():
    assert through_jet(Metered(90.0, 100.0, 10.0, 0.2), 50.0, smooth=True) == math.inf


@pytest.mark.parametrize("size", KITS)
@pytest.mark.parametrize("fuel", ["propane", "natural_gas"])
def test_of_a_kits_jets_the_smallest_that_is_not_too_small_goes_in(size, fuel):
    jet = fixed_jet(section(size, fuel).case)
    assert jet is not None
    assert jet.wanted is not None
    holes = [JETS[key].orifice_m for key in CATALOG.kits[KITS[size]].contents if key in JETS]
    large = [hole for hole in holes if hole >= jet.wanted.value]
    assert jet.part.orifice_m == min(large, default=max(holes))
    assert jet.lam.value <= SET_TO + 1e-9 or not large
    assert jet.lam.band.low < jet.lam.value < jet.lam.band.high


def test_without_a_kit_nobody_is_given_a_jet_but_it_may_be_put_in():
    job = job_of("small")
    template = TEMPLATES["spacer_adapter-cylinder"]
    fresh = propose(job, output_of(job), CATALOG, "propane", template).proposals
    assert all(one.part.kind != "gas_jet" for found in fresh for one in found.section.case.parts)
    train = fresh[0].train
    screw = next(key for key, slot in train.slots.items() if slot.role == "load_screw")
    there = options(job, output_of(job), CATALOG, "propane", train, screw)
    # What can be set comes first; of jets the smallest that is not too small, the rest behind it.
    by_jet = [one.jet is not None for one in there if one.swap.mates]
    assert True in by_jet
    assert by_jet == sorted(by_jet)
    lams = [one.jet.lam.value for one in there if one.jet and one.swap.mates
            and not any(t.stops for t in one.section.troubles)]  # fmt: skip
    assert lams[0] == max(lam for lam in lams if lam <= SET_TO)


def test_a_larger_hole_is_richer_and_the_mixture_over_load_follows_it():
    lams = []
    for key in ("pv-gj-103", "pv-gj-104", "pv-gj-105"):
        found = section(jet=key)
        jet, of = fixed_jet(found.case), metered(found.case)
        assert jet is not None
        assert of is not None
        assert of.set_to == jet.lam.value
        lams.append(jet.lam.value)
    assert lams == sorted(lams, reverse=True)


@pytest.mark.parametrize(
    ("jet", "stops", "says"),
    [("pv-gj-101", True, "too small"), ("pv-gj-110", True, "too large"),
     ("pv-gj-102", False, "likely too small"), ("pv-gj-103", False, "")],
)  # fmt: skip
def test_only_a_jet_wrong_at_every_end_of_the_band_is_a_stop(jet, stops, says):
    said = [one for one in section(jet=jet).troubles if one.rule == "gas_jet"]
    assert [one.stops for one in said] == ([] if not says else [stops])
    assert all(says in one.text for one in said)


def test_each_gas_has_its_own_jet_and_one_is_told_of():
    gas, other = section(), section(fuel="natural_gas")
    job = Job.model_validate(gas.case.job.model_dump() | {
        "trains": {one.case.name: one.case.train.model_dump() for one in (gas, other)},
    })  # fmt: skip
    train = job.trains["natural_gas"]
    found = train_section(job, output_of(job), CATALOG, "natural_gas", train)
    assert found is not None
    assert "jet_by_gas" in {one.rule for one in found.troubles}


def judged(reading: dict | None, **told):
    found = section(**told)
    jet = fixed_jet(found.case)
    assert jet is not None
    job = job_with(found, {} if reading is None else {jet.part.key: reading})
    planned = plan(job, CATALOG)
    return planned, planned.of(gas_metering)[0]


GOOD = {"output": fact(1500.0), "lam": fact(0.95), "by": "RK"}


@pytest.mark.parametrize(
    ("reading", "says"),
    [
        (None, "not proven"),
        ({**GOOD, "output": fact(400.0)}, "too little load"),
        ({**GOOD, "ran": "hunting"}, "ran hunting"),
        ({**GOOD, "lam": fact(1.2)}, "too small: λ 1.20"),
        ({**GOOD, "lam": fact(0.7)}, "too large: λ 0.70"),
        ({**GOOD, "lam": None}, "neither λ nor the plug"),
        ({**GOOD, "lam": None, "plug": "light"}, "too small: the plug light"),
        ({**GOOD, "lam": None, "plug": "sooty"}, "too large: the plug sooty"),
        ({**GOOD, "plug": "light"}, "too small"),
        ({**GOOD, "lam": {"value": 0.95, "origin": "simulated"}}, "simulated bench only"),
        (GOOD, ""),
        ({**GOOD, "lam": None, "plug": "tan"}, ""),
    ],
)
def test_a_jet_holds_the_stage_until_it_was_read_under_load(reading, says):
    planned, gas = judged(reading)
    assert not gas.screw
    assert says in gas.jet_says
    assert bool(gas.jet_says) is bool(says)
    held = [item for item in metering_items(planned.of(gas_metering)) if item.holds]
    assert any(item.key.endswith(".jet") for item in held) is bool(says)
    # Once it is proven, what is looked at after it holds in its turn.
    assert any(item.key.endswith(".checks") for item in held) is not bool(says)


def test_a_reading_of_another_jet_proves_nothing():
    found = section()
    job = job_with(found, {"pv-gj-105": GOOD})
    assert "not proven" in plan(job, CATALOG).of(gas_metering)[0].jet_says


def test_the_probe_asks_for_the_hole_that_would_have_given_the_right_mixture():
    """A jet that reads as the estimate says is answered as the estimate would."""
    found = section(jet="pv-gj-102")
    jet = fixed_jet(found.case)
    assert jet is not None
    read = Fact(value=SET_TO, origin=Origin.MEASURED)
    right = jet_by_probe(found.case, jet, read, "a")
    assert right is not None
    assert right.value == pytest.approx(jet.part.orifice_m)
    lean = jet_by_probe(found.case, jet, Fact(value=1.2, origin=Origin.MEASURED), "a")
    assert lean is not None
    assert right.value < lean.band.low < lean.value < lean.band.high
    # Hose and inlet alone would be too much: no hole helps.
    wide = section(jet="pv-gj-110")
    large = fixed_jet(wide.case)
    assert large is not None
    assert jet_by_probe(wide.case, large, Fact(value=1.8, origin=Origin.MEASURED), "a") is None


def test_the_gate_asks_which_jet_is_in_and_nobody_speaks_of_a_screw():
    planned, _ = judged(None)
    keys = {look.key for look in looks(planned.job, "propane", section())}
    assert "gas_jet" in keys
    assert "screw" not in keys


def test_a_run_on_a_jet_is_answered_by_a_jet():
    lean = advise(RunEvidence(True, 1.2, None, 1.0, False, None, None, gas_jet=True))
    rich = advise(RunEvidence(True, 0.7, None, 1.0, False, None, None, gas_jet=True))
    assert (lean.what, rich.what) == ("jet_up", "jet_down")


def test_moved_uphill_the_jet_is_judged_there():
    found = section()
    job = job_with(found)
    high = job.sites["s1"].model_dump() | {"elevation": fact(3000.0)}
    job = Job.model_validate(
        job.model_dump() | {"sites": {"s1": job.sites["s1"].model_dump(), "s2": high}}
    )
    up = next(one for one in moves(plan(job, CATALOG)) if one.start.key == "s1-propane")
    here = fixed_jet(found.case)
    assert here is not None
    assert up.screw is None
    assert up.lam is not None
    assert up.lam.value != pytest.approx(here.lam.value, rel=0.01)
    asked = {one.key for one in up.again}
    assert "jet_read" in asked
    assert "swept" not in asked


def test_what_meters_is_called_by_what_it_is():
    role = TEMPLATES["spacer_adapter-cylinder"].role("load_screw")
    assert role is not None
    screw = next(part for part in CATALOG.parts.values() if part.kind == "load_screw")
    assert role.called(screw) == "load screw"
    assert role.called(JETS["pv-gj-104"]) == "gas jet"
    steps = plan(job_with(section()), CATALOG).of(fit_sheet).steps
    said = " ".join(one.step.what for one in steps)
    assert "gas jet" in said
    assert "load screw" not in said
