"""Parts list, kits, pins and verdicts of trains."""

from dataclasses import replace

import pytest

from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.catalog import Shelf
from gentle_ember.core.job.house import House
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.job.part_copies import outdated, pin_changes
from gentle_ember.core.job.train import Train
from gentle_ember.core.physics.fuels import FuelKey, natural_gas
from gentle_ember.core.physics.pipe import NOMINAL_M, capacity, pipe_gas
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.fuel_path.edit import swap
from gentle_ember.core.stages.fuel_path.house import size_house
from gentle_ember.core.stages.fuel_path.parts_list import (
    Source,
    bill,
    cheaper_or_sooner,
    check_kit,
    parts_list,
)
from gentle_ember.core.stages.fuel_path.proposals import propose
from gentle_ember.core.stages.fuel_path.search import Solution, solve
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.gas import gas_here
from tests.helpers.sets import CATALOG, asked, fact, job_of, output_of
from tests.helpers.trains import (
    GAS_JOB,
    GAS_TRAIN,
    PROPANE_JOB,
    PROPANE_TRAIN,
    SHELF,
    built,
    cautions,
    part,
    put,
    section,
    stops,
)


def _billed(job: Job, **trains: Train) -> Job:
    job = job.model_copy(update={"trains": trains, "wants": job.wants})
    for change in pin_changes(job, CATALOG.parts):
        key = change.path.removeprefix("parts.")
        job = job.model_copy(update={"parts": {**job.parts, key: CATALOG.parts[key]}})
    return job


def test_the_bill_counts_clamps_gaskets_caps_and_meters() -> None:
    job = _billed(PROPANE_JOB, propane=PROPANE_TRAIN)
    lines = {line.part.key: line for line in plan(job, CATALOG).of(parts_list).lines}
    by_class = {
        kind: [one for one in lines.values() if one.part.kind is kind] for kind in PartClass
    }
    assert [one.count for one in by_class[PartClass.GASKET]] == [2]
    assert sum(one.count for one in by_class[PartClass.CLAMP]) == 2
    assert by_class[PartClass.VAPOR_HOSE][0].count == pytest.approx(0.5)
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
    both = plan(_billed(twin, propane=propane, natural_gas=second), CATALOG).of(parts_list)
    count = {line.part.kind: line.count for line in both.lines}
    assert count[PartClass.ADAPTER] == 1
    assert count[PartClass.LOAD_SCREW] == 2
    assert count[PartClass.PIGTAIL] == 2


def test_a_coupler_half_that_only_one_gas_can_use_is_cautioned_and_mended() -> None:
    twin = job_of("twin", two=True, distance=5.0)
    gas = built(twin, "two_barrel_adapter-utility")
    stemmed = swap(
        built(twin, "two_barrel_adapter-check_pigtails"), "supply_half",
        (SHELF.parts[part("beck|supply half")], SHELF.parts[part("beck|set half")]),
        SHELF, FuelKey.PROPANE,
    ).train  # fmt: skip
    job = twin.model_copy(update={"trains": {"propane": stemmed, "natural_gas": gas}})
    assert "two_gases" in stops(job, stemmed)
    template = TEMPLATES["two_barrel_adapter-check_pigtails"]
    best = propose(job, output_of(job), CATALOG, "propane", template, old=stemmed).proposals[0]
    assert best.train.slots["set_half"].part == gas.slots["set_half"].part
    assert "two_gases" not in stops(job, best.train)


def test_a_kit_is_checked_for_what_is_missing_and_left_over() -> None:
    job = _billed(job_of("inverter"), propane=built(job_of("inverter"), "spacer_adapter-cylinder"))
    found = check_kit(CATALOG.kits["many-sets"], plan(job, CATALOG).of(parts_list), CATALOG.parts)
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
    assert plan(job, moved).of(parts_list).price == plan(job, CATALOG).of(parts_list).price
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
