"""Factory dual-fuel: its own propane beside the gas this job adds, by port or by plate."""

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.route import contradictions, forbids, open_items
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.starts import first_starts
from gentle_ember.core.stages.fit.lists import comes_back
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.intake.questions import asked
from gentle_ember.core.stages.intake.walk_round import checks, tasks
from gentle_ember.core.stages.load_test.jets import jets_here
from gentle_ember.core.stages.load_test.tests import load_tests_here
from gentle_ember.core.stages.method.judged import judged_methods
from gentle_ember.core.stages.method.networks import fuel_states, two_gases
from tests.helpers.fits import CASES, fitted, sheet, steps
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put

PLATE = ("frame", ["spacer_adapter"], {"natural_gas": "spacer_adapter-utility"})


def dual(case=PLATE, **wants: bool) -> Job:
    job = put(fitted(*case), "set.factory_gas", value=True)
    for name in ("propane", "natural_gas"):
        job = put(job, f"wants.{name}", wants.get(name, name == "natural_gas"))
    return job


@pytest.mark.parametrize(("propane", "natural_gas", "verdict"), [
    (True, True, "fits_with_work"), (True, False, "does_not_fit"),
])  # fmt: skip
def test_a_plate_takes_the_other_gas_and_never_the_factorys_own(propane, natural_gas, verdict):
    job = dual(propane=propane, natural_gas=natural_gas)
    spacer = Plan(job, CATALOG).of(judged_methods).of("spacer_adapter")
    told = [one for one in spacer.reasons if one.path == "set.set_class"]
    assert [str(one.verdict) for one in told] == [verdict]
    for other in ("snorkel", "exchanged_carburetor", "multi_fuel_carburetor"):
        assert Plan(job, CATALOG).of(judged_methods).of(other).verdict == "does_not_fit"


def test_both_gases_have_inlets_of_their_own_and_no_state_has_two():
    planned = Plan(dual(propane=True), CATALOG)
    columns = planned.of(fuel_states).columns
    assert {"propane", "natural_gas"} <= {one.state.key for one in columns}
    assert all(one.safe for one in columns if one.state.running)
    assert len(columns[0].network.inlets) == 2
    both = planned.of(two_gases)
    assert both is None or len(both.slips) > 1, "one slip alone must not let two gases in"


def test_its_own_propane_is_soaped_started_and_loaded_where_it_is_wanted():
    def starts(job):
        return {one.fuel: one for one in Plan(job, CATALOG).of(first_starts)}

    wanted, not_wanted = dual(propane=True), dual()
    assert starts(wanted)["propane"].holds
    assert not starts(wanted)["propane"].trained
    assert not starts(not_wanted)["propane"].holds
    assert {"selector", "other_capped"} <= {look.key for look, _ in starts(wanted)["propane"].looks}
    held = forbids(Plan(wanted, CATALOG), FuelKey.PROPANE)
    assert any("as the factory made it" in one.text for one in held)
    tested = {one.fuel: one for one in Plan(wanted, CATALOG).of(load_tests_here)}
    assert tested[FuelKey.PROPANE].holds
    assert FuelKey.PROPANE not in {
        one.fuel for one in Plan(not_wanted, CATALOG).of(load_tests_here)
    }
    open_ = {one.path for one in Plan(wanted, CATALOG).of(open_items) if one.holds}
    assert "starts.propane" in open_
    plain = fitted(*CASES["spacer"])
    assert all(one.trained or one.own_tank for one in Plan(plain, CATALOG).of(first_starts))


def test_its_regulator_is_looked_at_and_replaced_when_it_fails():
    job = dual()
    assert "factory_regulator" in {one.key for one in checks(job)}
    bad = put(job, "findings", {"factory_regulator": {"look": "bad", "decision": "replace"}})
    (task,) = [one for one in tasks(bad) if one.key == "factory_regulator"]
    assert "its maker's own" in task.title
    assert "factory_regulator" not in {one.key for one in checks(fitted(*CASES["spacer"]))}


def rejet(set_class: str) -> Job:
    job = put(fitted("inverter", ["rejet"], {}), "set.set_class", set_class)
    job = put(job, "set.factory_gas", value=True)
    return put(job, "set.carburetor.jets.orifice", fact(1.9e-3))


@pytest.mark.parametrize("set_class", ["inverter_small", "inverter", "open_frame"])
def test_an_altitude_kit_on_a_dual_fuel_set_of_any_class_changes_its_orifice_too(set_class):
    job = put(rejet(set_class), "sites.s1.elevation", fact(2400.0))
    assert contradictions(job) == ()
    made = steps(job)
    assert {"jet_in", "orifice_in", "orifice_tag"} <= set(made)
    assert ("cover" in made) is set_class.startswith("inverter")
    assert any("orifice" in text for text in Plan(job, CATALOG).of(parts_list).missing)
    assert {row.key for row in comes_back(sheet(job).case)} == {"jet", "orifice"}
    assert Plan(job, CATALOG).of(jets_here).orifice.value < 1.9e-3
    # At home only its jet is changed: the orifice suits where it was made for.
    home = put(put(job, "sites.s1.elevation", fact(20.0)), "set.carburetor.jetted_at", fact(0.0))
    assert "orifice_in" not in steps(home)
    assert not any("orifice" in text for text in Plan(home, CATALOG).of(parts_list).missing)


def test_that_a_set_is_made_for_propane_is_asked_of_every_class_but_its_own():
    def paths(job):
        return {one.path for one in asked(job)}

    assert "set.factory_gas" in paths(fitted(*CASES["spacer"]))
    assert "set.factory_gas" not in paths(fitted(*CASES["second"]))
    assert "set.gas_port" in paths(rejet("inverter"))
    assert "set.studs.spacing" in paths(dual()), "a plate needs its studs, dual-fuel or not"
