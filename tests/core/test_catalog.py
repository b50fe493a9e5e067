"""The shipped catalog: whole, valid, and every part of use in some train or list that passes."""

import itertools
from collections.abc import Iterator
from dataclasses import replace
from functools import cache

import pytest

from gentle_ember.catalog.rows import COLUMNS, read_row, write_row
from gentle_ember.core.catalog import opposite, ways_of
from gentle_ember.core.job.ends import mates
from gentle_ember.core.job.part import Part, PartClass, end
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.fuel_path.case import Asked
from gentle_ember.core.stages.fuel_path.edit import insert, train_of
from gentle_ember.core.stages.fuel_path.search import Solution, solve
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES, Role, Template
from gentle_ember.core.stages.fuel_path.trains import train_section
from tests.helpers.sets import CATALOG, SIZES, asked, job_of, output_of

SHELF = CATALOG.shelf
VARIANTS = (
    {},
    {"distance": 22.0},
    {"distance": 3.4},
    {"distance": 5.5},
    {"distance": 7.2},
    {"distance": 0.5},
    {"cylinder": "100"},
    {"two": True},
    {"two": True, "cylinder": "100"},
    {"stub": "1/2"},
    {"stub": "3/4"},
    {"stub": "1"},
    {"stub": "1-1/4", "distance": 60.0},
    {"rise": -0.4},
)
IN_TRAINS = {kind for one in TEMPLATES.values() for role in one.roles for kind in role.kinds}
IN_TRAINS.add(PartClass.BULKHEAD)
PARTS = [part for part in CATALOG.parts.values() if part.kind in IN_TRAINS]
FITTINGS = SHELF.by_class[PartClass.FITTING]
BRIDGED = (
    ("inverter", 0), ("large", 0), ("large", 11), ("large", 12), ("twin", 0), ("twin", 12),
    ("small", 13), ("wide", 0), ("larger", 0), ("frame", 0),
)  # fmt: skip
"""Sets and sites tried for each fitting."""


def test_the_catalog_is_as_large_and_as_wide_as_asked() -> None:
    assert len(CATALOG.parts) >= 260
    patterns = {part.outlet for part in SHELF.by_class[PartClass.ADAPTER]}
    assert len(patterns) >= 10
    for kind in PartClass:
        assert SHELF.by_class[kind], f"no {kind} in the catalog"
    sizes = {end(part.inlet).size for part in FITTINGS if part.inlet.startswith("npt")}
    assert {"1/8", "1/4", "3/8", "1/2", "3/4", "1", "1-1/4"} <= sizes
    families = {end(p.outlet).size.split(" ")[0] for p in SHELF.by_class[PartClass.GAS_HALF]
                if p.outlet.startswith("gas:")}  # fmt: skip
    assert len(families) >= 4


def test_every_row_reads_back_as_it_was_written() -> None:
    for part in CATALOG.parts.values():
        row = write_row(part)
        assert list(row) == list(COLUMNS)
        again = read_row(dict(row), 2)
        assert isinstance(again, Part), again
        for name in Part.model_fields:
            one, other = getattr(part, name), getattr(again, name)
            assert one == pytest.approx(other) if isinstance(one, float) else one == other


@cache
def _asked(size: str, variant: int, template: str) -> Asked:
    return asked(job_of(size, **VARIANTS[variant]), template)


def _suits(template: Template, size: str) -> bool:
    two = SIZES[size][5] == "two_barrel"
    return template.fuel is FuelKey.GASOLINE or two is (template.method == "two_barrel_adapter")


def _places(part: Part) -> Iterator[tuple[Asked, Role]]:
    """Where a part could stand: templates, sets and sites of which none rules it out."""
    for variant in range(len(VARIANTS)):
        for template in TEMPLATES.values():
            if not part.takes(template.fuel):
                continue
            for size in SIZES:
                if not _suits(template, size):
                    continue
                found = _asked(size, variant, template.key)
                for role in found.template.roles:
                    if part.kind in role.kinds and found.limits.fits(role, part):
                        yield found, role


@pytest.mark.parametrize("part", PARTS, ids=lambda part: part.number)
def test_every_part_stands_in_some_train_that_solves(part: Part) -> None:
    for tried, (found, role) in enumerate(_places(part)):
        limits = replace(found.limits, source="") if part.site else found.limits
        wanted = replace(found, limits=limits).wanted(only={role.key: frozenset({part.key})})
        answer = solve(SHELF, wanted)
        if isinstance(answer, Solution):
            assert part in [one.part for one in answer.parts]
            return
        assert tried < 400, f"{part.number} {part.name}: in no train"
    raise AssertionError(f"{part.number} {part.name}: no set or site it is for")


def _chains(fitting: Part, fuel: FuelKey) -> Iterator[tuple[tuple[str, str], list[Slot]]]:
    """Ways a fitting bridges two ends, alone or with one other: open end, last end, slots."""
    others = [part for part in FITTINGS if part.takes(fuel) and part is not fitting]
    for _, inlet, outlet, turned in ways_of(fitting):
        own = Slot(part=fitting.key, turned=turned)
        yield (opposite(inlet), outlet), [own]
        for other in others:
            for _, entry, leaves, flipped in ways_of(other):
                slot = Slot(part=other.key, turned=flipped)
                if mates(end(outlet), end(entry)):
                    yield (opposite(inlet), leaves), [own, slot]
                if mates(end(leaves), end(inlet)):
                    yield (opposite(entry), outlet), [slot, own]


def _pairs(
    fuel: FuelKey, chains: dict[tuple[str, str], list[Slot]]
) -> Iterator[tuple[str, int, Asked, Role, Part, Role, Part, list[Slot]]]:
    """Two parts that could stand one after the other and that a chain of fittings joins."""
    for template in TEMPLATES.values():
        if template.fuel is not fuel:
            continue
        for size, variant in BRIDGED:
            if not _suits(template, size):
                continue
            found = _asked(size, variant, template.key)
            for role, after in itertools.pairwise(found.template.roles):
                for first in SHELF.ways(role.kinds):
                    if not first[0].takes(fuel) or not found.limits.fits(role, first[0]):
                        continue
                    for second in SHELF.ways(after.kinds):
                        takes = second[1]
                        chain = chains.get((first[2], opposite(takes))) if takes else None
                        if chain and second[0].takes(fuel) and found.limits.fits(after, second[0]):
                            yield size, variant, found, role, first[0], after, second[0], chain


@pytest.mark.parametrize("fitting", FITTINGS, ids=lambda part: part.number)
def test_every_fitting_bridges_two_parts_of_a_train_that_passes(fitting: Part) -> None:
    for fuel in (fuel for fuel in FuelKey if fitting.takes(fuel)):
        chains: dict[tuple[str, str], list[Slot]] = {}
        for ends, chain in _chains(fitting, fuel):
            chains.setdefault(ends, chain)
        seen = set()
        for size, variant, found, role, first, after, second, chain in _pairs(fuel, chains):
            if (role.key, first.key, second.key) in seen or len(seen) > 60:
                continue
            seen.add((role.key, first.key, second.key))
            only = {role.key: frozenset({first.key}), after.key: frozenset({second.key})}
            answer = solve(SHELF, found.wanted(only=only))
            if not isinstance(answer, Solution):
                continue
            train = _with(train_of(found.template, answer.parts), role.key, after.key, chain)
            job = job_of(size, **VARIANTS[variant])
            section = train_section(job, output_of(job), CATALOG, str(fuel), train)
            if section is not None and not any(one.stops for one in section.troubles):
                return
    raise AssertionError(f"{fitting.number} {fitting.name}: bridges nothing that passes")


def _with(train: Train, one: str, other: str, chain: list[Slot]) -> Train:
    """The train with a chain of fittings between two of its parts."""
    names = list(train.slots)
    between = names[names.index(one) + 1 : names.index(other)]
    train = train.model_copy(
        update={"slots": {k: slot for k, slot in train.slots.items() if k not in between}}
    )
    for slot in reversed(chain):
        train = insert(train, one, slot, SHELF.parts)
    return train


def test_what_stands_in_no_train_is_kept_for_some_work() -> None:
    for part in CATALOG.parts.values():
        if part.kind not in IN_TRAINS and part.kind is not PartClass.FITTING:
            assert part.for_task or part.kind is PartClass.GRILL, part.number
