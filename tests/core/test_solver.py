"""The search for trains against brute force, and its answers against the rules."""

import itertools
import random
from collections.abc import Iterator
from dataclasses import replace

import pytest

from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.catalog import Shelf, bridge, resistance, ways_of
from gentle_ember.core.job.ends import mates
from gentle_ember.core.job.part import Part, PartClass, end
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.fuel_path.edit import train_of
from gentle_ember.core.stages.fuel_path.ladder import Supply, past, step
from gentle_ember.core.stages.fuel_path.search import (
    Impossible,
    Solution,
    WantedPlace,
    alternatives,
    solve,
)
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES, Role, Template
from gentle_ember.core.stages.fuel_path.trains import train_section
from tests.helpers.sets import CATALOG, SIZES, asked, job_of, output_of

SHELF = CATALOG.shelf
ROLES = (
    Role("source", "source", (PartClass.STUB,)),
    Role("valve", "valve", (PartClass.SHUT_OFF,)),
    Role("hose", "hose", (PartClass.GAS_HOSE,)),
    Role("demand", "demand regulator", (PartClass.DEMAND,)),
)
SMALL = Template("small", "small", FuelKey.NATURAL_GAS, "spacer_adapter", "utility", ROLES)
SIZES_IN = ("3/8", "1/2", "3/4")


def _catalog(dice: random.Random) -> list[Part]:
    """A small catalog in which wide parts are dear, so that pressure and price pull apart."""

    def part(key: str, kind: PartClass, inlet: str, outlet: str, **more: object) -> Part:
        return Part.model_validate(
            {
                "key": key, "number": key, "name": key, "maker": "m", "kind": kind,
                "inlet": inlet, "outlet": outlet, "price": round(dice.uniform(1, 60), 2),
                "stock": dice.choice((0, 1, 4)), "rating_pa": 1e6, **more,
            }
        )  # fmt: skip

    def size() -> str:
        return dice.choice(SIZES_IN)

    def bore() -> float:
        return dice.choice((6e-3, 8e-3, 10e-3, 13e-3))

    found = [part("stub", PartClass.STUB, "", f"npt:{size()}:f", site=True)]
    for n in range(4):
        a = size()
        found.append(part(f"v{n}", PartClass.SHUT_OFF, f"npt:{a}:f", f"npt:{size()}:f",
                          bore_m=bore(), k=dice.uniform(0.1, 9)))  # fmt: skip
    for n in range(5):
        found.append(
            part(f"h{n}", PartClass.GAS_HOSE, f"npt:{size()}:m", f"npt:{size()}:m", crimped=True,
                 bore_m=bore(), length_m=dice.choice((0.6, 1.5, 3.0)))
        )  # fmt: skip
    for n in range(3):
        found.append(part(f"d{n}", PartClass.DEMAND, f"npt:{size()}:f", "npt:1/2:f", bore_m=12e-3,
                          least_pa=dice.uniform(2, 6.5) * INCH_WC_PA, most_pa=14 * INCH_WC_PA,
                          opening_pa=60.0, rated_w=1e6))  # fmt: skip
    for n in range(6):
        ends = (dice.choice("mf"), dice.choice("mf"))
        found.append(
            part(f"f{n}", PartClass.FITTING, f"npt:{size()}:{ends[0]}", f"npt:{size()}:{ends[1]}",
                 bore_m=bore(), k=dice.uniform(0.1, 6))
        )  # fmt: skip
    return found


def _wanted(dice: random.Random) -> WantedPlace:
    question = asked(job_of("large"), "spacer_adapter-utility")
    limits = replace(question.limits, intake="", distance_m=0.0, source="")
    return WantedPlace(SMALL, Supply(7 * INCH_WC_PA), question.demand, limits, {}, {})


def _every_chain(parts: list[Part]) -> Iterator[list[tuple[Part, str, str]]]:
    """Every train there is: each role filled each way, with up to two fittings before it."""
    by_kind = {kind: [p for p in parts if p.kind is kind] for kind in PartClass}
    fittings = [way[:3] for part in by_kind[PartClass.FITTING] for way in ways_of(part)]
    between = [[], *[[one] for one in fittings], *map(list, itertools.product(fittings, fittings))]

    def grow(done: list[tuple[Part, str, str]], depth: int) -> Iterator[list]:
        if depth == len(ROLES):
            yield done
            return
        for part in by_kind[ROLES[depth].kinds[0]]:
            for way in ways_of(part):
                for chain in between:
                    links = [done[-1], *chain, way[:3]]
                    if all(mates(end(a[2]), end(b[1])) for a, b in itertools.pairwise(links)):
                        yield from grow([*done, *chain, way[:3]], depth + 1)

    for source in by_kind[PartClass.STUB]:
        yield from grow([(source, "", source.outlet)], 1)


def _brute(parts: list[Part], wanted: WantedPlace) -> tuple[int, float, int] | None:
    """Cost of the best train by trying them all."""
    best = None
    mass = wanted.demand.mass("full")
    for chain in _every_chain(parts):
        pressure, good = wanted.supply.at(wanted.demand, "full"), True
        for part, _, _ in chain:
            if part.least_pa is not None and pressure < part.least_pa:
                good = False
                break
            if part.kind is PartClass.FITTING:
                pressure = past(wanted.demand.fuel, pressure, mass, resistance(part),
                                wanted.demand.ambient_pa, wanted.demand.hottest_k)  # fmt: skip
            else:
                pressure = step(part, part.length_m or 0.0, pressure, mass, wanted.demand)
        if good:
            bought = [part for part, _, _ in chain if not part.site]
            cost = (
                len(chain) - 1,
                round(sum(part.price for part in bought), 2),
                sum(part.stock < 1 for part in bought),
            )
            best = cost if best is None or cost < best else best
    return best


@pytest.mark.parametrize("seed", range(60))
def test_the_search_finds_what_trying_everything_finds(seed: int) -> None:
    dice = random.Random(seed)
    parts, wanted = _catalog(dice), _wanted(dice)
    answer = solve(Shelf(parts), wanted)
    best = _brute(parts, wanted)
    if best is None:
        assert isinstance(answer, Impossible)
        assert answer.why
    else:
        assert isinstance(answer, Solution)
        assert answer.cost[0] == 0
        assert (answer.cost[1], pytest.approx(answer.cost[2]), answer.cost[3]) == best


def test_pressure_binds_in_many_of_those() -> None:
    binds = 0
    for seed in range(60):
        dice = random.Random(seed)
        parts, wanted = _catalog(dice), _wanted(dice)
        shelf = Shelf(parts)
        loose = solve(shelf, replace(wanted, ignore_pressure=True))
        strict = solve(shelf, wanted)
        binds += isinstance(loose, Solution) and (
            isinstance(strict, Impossible) or strict.cost != loose.cost
        )
    assert binds >= 8


METHODS = [key for key, one in TEMPLATES.items()]


@pytest.mark.parametrize("key", METHODS)
def test_every_school_source_and_size_solves_or_says_why(key: str) -> None:
    solved = 0
    for size in SIZES:
        job = job_of(size, two="pigtail" in key or "changeover" in key,
                     pressure=8 * INCH_WC_PA if key.endswith("digester_plain") else None,
                     rise=-0.4 if key == "remote_tank_pump" else None)  # fmt: skip
        question = asked(job, key)
        answer = solve(SHELF, question.wanted())
        if isinstance(answer, Impossible):
            assert answer.why.endswith(".")
            assert answer.role in question.template.roles
            continue
        solved += 1
        train = train_of(question.template, answer.parts)
        section = train_section(job, output_of(job), CATALOG, str(question.template.fuel), train)
        assert section is not None
        assert not [one for one in section.troubles if one.stops]
    assert solved, f"{key} solves for no set at all"


def test_alternatives_pass_too_and_differ_from_the_best() -> None:
    question = asked(job_of("inverter"), "spacer_adapter-cylinder")
    best = solve(SHELF, question.wanted())
    assert isinstance(best, Solution)
    others = alternatives(SHELF, question.wanted(), best)
    assert len(others) == 3
    for one in others:
        assert one.cost >= best.cost
        assert [p.part.key for p in one.parts] != [p.part.key for p in best.parts]


def test_a_repair_keeps_what_can_stay() -> None:
    question = asked(job_of("large", distance=22.0), "spacer_adapter-utility")
    best = solve(SHELF, question.wanted())
    assert isinstance(best, Solution)
    keep = {one.role: one.part.key for one in best.parts if one.role}
    stemmed = next(p.key for p in SHELF.parts.values() if p.name.startswith("beck")
                   and p.outlet.startswith("gas"))  # fmt: skip
    answer = solve(SHELF, question.wanted({**keep, "supply_half": stemmed}))
    assert isinstance(answer, Solution)
    assert answer.cost[0] == 1
    assert {one.role: one.part.key for one in answer.parts if one.role} == keep


def test_impossible_names_the_role_and_the_reason() -> None:
    job = job_of("large").model_copy(deep=True)
    spacing = job.set.studs.model_copy(
        update={"spacing": job.set.studs.spacing.model_copy(update={"value": 0.071})}
    )
    odd = job.model_copy(update={"set": job.set.model_copy(update={"studs": spacing})})
    answer = solve(SHELF, asked(odd, "spacer_adapter-cylinder").wanted())
    assert isinstance(answer, Impossible)
    assert answer.role.key == "adapter"
    assert "stud pattern 71x8" in answer.why
    far = solve(SHELF, asked(job_of("larger", distance=7.2), "spacer_adapter-cylinder").wanted())
    assert isinstance(far, Impossible)
    assert "gets less at full flow than it needs" in far.why
    assert far.nearest


def test_bridge_joins_two_ends_with_the_fewest_fittings() -> None:
    direct = bridge(SHELF, "npt:1/2:f", "npt:1/2:m", FuelKey.PROPANE)
    assert direct == [()]
    ways = bridge(SHELF, "npt:3/4:f", "flare:3/8:f", FuelKey.PROPANE)
    assert ways
    for way in ways:
        opened = "npt:3/4:f"
        for part in way:
            entry = next(w for w in ways_of(part) if mates(end(opened), end(w[1])))
            opened = entry[2]
        assert mates(end(opened), end("flare:3/8:f"))
    assert len(ways[0]) == min(len(way) for way in ways)
    assert bridge(SHELF, "studs:42x6:m", "npt:1/2:f", FuelKey.PROPANE) == []
