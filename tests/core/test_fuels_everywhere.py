"""A fuel is whole: a table by fuel knows every fuel, or every gas, or says whom it leaves out."""

import importlib
import pkgutil
from typing import get_args

import pytest

import gentle_ember
from gentle_ember.core import stages
from gentle_ember.core.job.choices import CHOICES
from gentle_ember.core.job.job import Wants
from gentle_ember.core.job.site import Gas
from gentle_ember.core.physics.fuels import LETTERS, NAMES, FuelKey
from gentle_ember.core.quick.answers import ANSWERS
from gentle_ember.core.stages.fit.case import SHORT
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.method.base import GASES
from gentle_ember.core.stages.method.registry import SCHOOLS
from gentle_ember.web.published import lists
from gentle_ember.web.views.bench import BenchPath
from gentle_ember.web.views.job import EventsQuery

ALL = set(FuelKey)
LEFT_OUT = {"FIELD_FACTORS": {FuelKey.BIOGAS}}
"""Biogas's field factor goes with its methane: it is natural gas's, scaled."""


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
    assert set(table) | LEFT_OUT.get(name, set()) in (ALL, set(GASES))


def test_gasoline_is_the_only_fuel_that_is_no_gas():
    assert ALL - set(GASES) == {FuelKey.GASOLINE}


def test_letters_names_and_short_names_tell_fuels_apart():
    for table in (LETTERS, NAMES, SHORT):
        assert {FuelKey(key) for key in table} == ALL
        assert len(set(table.values())) == len(ALL)


def test_a_job_can_ask_for_every_gas_and_have_it_on_site():
    assert set(map(str, GASES)) <= set(Wants.model_fields)
    piped = set(get_args(Gas.model_fields["kind"].annotation))
    assert piped | {"propane"} == set(map(str, GASES))


def test_every_gas_has_a_school_and_every_fuel_a_train():
    gives = {key for school in SCHOOLS.values() for key in school.gives}
    assert set(map(str, GASES)) <= gives
    assert {template.fuel for template in TEMPLATES.values()} == ALL


def test_the_service_and_the_page_know_every_fuel():
    assert [one["key"] for one in lists()["FUELS"]] == [str(fuel) for fuel in FuelKey]
    benches = set(get_args(BenchPath.model_fields["fuel"].annotation))
    assert benches == set(map(str, FuelKey))
    assert set(get_args(EventsQuery.model_fields["bench"].annotation)) == benches | {""}


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
