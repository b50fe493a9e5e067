"""Kits and the sets their makers name: by family, model, trim and years; what is not told holds."""

import dataclasses

import pytest

from gentle_ember.core.catalog import Kit, SetsNamed
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Job
from gentle_ember.core.route import cautions, open_items
from gentle_ember.core.stage import Plan
from tests.helpers.fits import CASES, fitted
from tests.helpers.sets import CATALOG
from tests.helpers.sound import put

KIT = Kit(
    key="k", name="Kit",
    not_for=(SetsNamed(families=("D171",), trims=("electric choke",), why="its choke motor"),
             SetsNamed(models=("Box",), years=(1990, 2009), why="no room")),
)  # fmt: skip
ONLY = Kit(key="o", name="Only", only_for=(SetsNamed(families=("D171", "W420")),))


@pytest.mark.parametrize(
    ("told", "fits", "path"),
    [
        ({"engine_family": "d171 ", "trim": "Electric Choke", "model": "Linnet"}, False, ""),
        ({"engine_family": "D171", "trim": "plain", "model": "Linnet"}, True, ""),
        ({"engine_family": "D171", "model": "Linnet"}, None, "set.trim"),
        ({"trim": "electric choke", "model": "Linnet"}, None, "set.engine_family"),
        ({"engine_family": "W420", "model": "box", "year": 1999}, False, ""),
        ({"engine_family": "W420", "model": "box", "year": 2010}, True, ""),
        ({"engine_family": "W420", "model": "box"}, None, "set.year"),
        ({"engine_family": "W420", "model": "Duo"}, True, ""),
    ],
)
def test_a_rule_out_needs_every_fact_it_names(told, fits, path):
    said = KIT.judged(GeneratorSet(**told))
    assert said.fits is fits
    assert said.path == path
    assert fits is not False or said.why


def test_sets_under_other_badges_are_one_engine_to_a_kit():
    assert ONLY.judged(GeneratorSet(maker="Wexlet", model="Duo", engine_family="w420")).fits
    assert ONLY.judged(GeneratorSet(maker="Drovane", engine_family="X9")).fits is False
    assert ONLY.judged(GeneratorSet(maker="Drovane")).fits is None
    assert Kit(key="a", name="Any").judged(GeneratorSet()).fits


def with_kit(kit: Kit, **told: object) -> Plan:
    job: Job = put(fitted(*CASES["spacer"]), "kit", kit.key)
    for name, value in told.items():
        job = put(job, f"set.{name}", value)
    catalog = dataclasses.replace(CATALOG, kits={**CATALOG.kits, kit.key: kit})
    return Plan(job, catalog)


def test_a_kit_that_is_ruled_out_stops_the_job_and_one_not_known_holds_it():
    ruled = with_kit(ONLY, engine_family="X9")
    stops = {one.key: one for one in ruled.of(cautions)}
    assert stops["kit.ruled_out"].severity == "stop"
    open_ = {one.key: one for one in with_kit(ONLY).of(open_items)}
    assert open_["kit.not_known"].holds
    assert open_["kit.not_known"].path == "set.engine_family"
    sound = with_kit(ONLY, engine_family="D171")
    assert "kit.ruled_out" not in {one.key for one in sound.of(cautions)}
    assert "kit.not_known" not in {one.key for one in sound.of(open_items)}


def test_the_shipped_rule_outs_name_sets_and_say_why():
    named = [one for kit in CATALOG.kits.values() for one in (*kit.not_for, *kit.only_for)]
    assert named
    assert all(one.why and (one.families or one.models or one.trims) for one in named)
