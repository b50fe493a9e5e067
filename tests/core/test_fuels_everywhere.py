"""A fuel is whole: a table by fuel knows every fuel, or every gas, or says whom it leaves out."""

import importlib
import pkgutil

import pytest
from pydantic import ValidationError

import gentle_ember
from gentle_ember.core import stages
from gentle_ember.core.job.choices import CHOICES
from gentle_ember.core.job.handling import HANDLING, PIPED, FuelSource, of_source
from gentle_ember.core.job.job import Wants
from gentle_ember.core.job.site import Gas
from gentle_ember.core.physics.fuels import AIR_KG_KMOL, FACTS, LETTERS, NAMES, FuelKey, usual
from gentle_ember.core.physics.output import fuel_field_factor
from gentle_ember.core.quick.answers import ANSWERS
from gentle_ember.core.stages.fit.case import SHORT
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.method.base import GASES
from gentle_ember.core.stages.method.registry import SCHOOLS
from gentle_ember.web.published import lists
from gentle_ember.web.views.bench import BenchPath
from gentle_ember.web.views.job import EventsQuery

ALL = set(FuelKey)
AIR_PER_OXYGEN = 1 / 0.2095


def tables():
    for found in pkgutil.walk_packages(gentle_ember.__path__, "gentle_ember."):
        if ".migrations" in found.name or found.name.endswith("__main__"):
            continue
        module = importlib.import_module(found.name)
        for name, value in vars(module).items():
            if isinstance(value, dict) and value and all(isinstance(k, FuelKey) for k in value):
                yield name, value


@pytest.mark.parametrize(("name", "table"), [pytest.param(*one, id=one[0]) for one in tables()])
def test_a_table_by_fuel_knows_every_fuel_or_every_gas(name, table):
    assert set(table) in (ALL, set(GASES)), name


def test_gasoline_is_the_only_fuel_that_is_no_gas():
    assert ALL - set(GASES) == {FuelKey.GASOLINE}


def test_letters_names_and_short_names_tell_fuels_apart():
    trains = {fuel: one.train for fuel, one in HANDLING.items()}
    for table in (LETTERS, NAMES, SHORT, trains):
        assert {FuelKey(key) for key in table} == ALL
        assert len(set(table.values())) == len(ALL)


def test_a_job_can_ask_for_every_gas_and_have_it_on_site():
    assert set(map(str, GASES)) <= set(Wants.model_fields)
    told = {str(one.kind) for one in (Gas(kind=gas) for gas in PIPED)}
    assert told | set(map(str, of_source(FuelSource.CYLINDER))) == set(map(str, GASES))
    for fuel in ALL - set(PIPED):
        with pytest.raises(ValidationError, match="no site has a pipe of this"):
            Gas(kind=fuel)


def test_every_gas_has_a_school_and_every_fuel_a_train():
    gives = {key for school in SCHOOLS.values() for key in school.gives}
    assert set(map(str, GASES)) <= gives
    assert {template.fuel for template in TEMPLATES.values()} == ALL


def test_the_service_and_the_page_know_every_fuel():
    assert [one["key"] for one in lists()["FUELS"]] == [str(fuel) for fuel in FuelKey]
    for fuel in FuelKey:
        assert BenchPath(job_id="a", fuel=fuel).fuel is fuel
        assert EventsQuery(bench=fuel).bench == fuel
    assert EventsQuery(bench="").bench == ""


@pytest.mark.parametrize("fuel", GASES)
def test_a_usual_gas_is_one_that_can_be(fuel):
    gas, facts = usual(fuel), FACTS[fuel]
    assert gas.key is fuel
    assert 0 < gas.flammable_low < gas.flammable_high < 1
    assert gas.lhv_j_kg < gas.hhv_j_kg
    assert 1.05 < facts.heats < 1.7
    assert 5e-6 < facts.viscosity < 2e-5
    # Air for what burns, by moles of its carbon and hydrogen, against the air it is said to need.
    moles = (facts.carbon + facts.hydrogen / 4) * AIR_PER_OXYGEN
    weight = 12.011 * facts.carbon + 1.008 * facts.hydrogen + 44.010 * facts.inert
    assert moles * AIR_KG_KMOL / weight == pytest.approx(gas.air_fuel_ratio, rel=0.06)
    low, stated, high = facts.field or (0.6, fuel_field_factor(gas), 1.0)
    assert low < stated < high


def test_lists_of_fuels_in_forms_name_fuels_and_no_more():
    known = set(map(str, FuelKey))
    for answer in ANSWERS.values():
        for field in answer.fields:
            values = {str(value) for value, _ in field.options or ()}
            if values & known and field.name in ("fuel", "gas"):
                assert values <= known, (answer.key, field.name)
    for name, rows in CHOICES.items():
        values = {row[0] for row in rows}
        if len(values & known) > 1:
            assert values - {""} <= known, name


def test_each_stage_of_the_registry_is_a_folder():
    folders = {one.name for one in pkgutil.iter_modules(stages.__path__) if one.ispkg}
    assert {stage["key"] for stage in lists()["STAGES"]} == folders
