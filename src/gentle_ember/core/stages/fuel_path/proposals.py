"""Trains to choose from: solved anew, repaired, from a kit, with another part, on another day."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part, PartClass, end
from gentle_ember.core.job.train import AS_FOUND, Train
from gentle_ember.core.physics.mixture import SET_TO
from gentle_ember.core.stages.fuel_path.case import Asked, ask
from gentle_ember.core.stages.fuel_path.edit import (
    Swap,
    is_half,
    kept,
    lengths,
    pair_at,
    partner,
    swap,
    train_of,
    with_roles,
)
from gentle_ember.core.stages.fuel_path.ladder import ladder
from gentle_ember.core.stages.fuel_path.mixture import FixedJet, fixed_jet
from gentle_ember.core.stages.fuel_path.search import Impossible, Solution, alternatives, solve
from gentle_ember.core.stages.fuel_path.templates import (
    LOAD_SCREW,
    SET_HALF,
    SET_SIDE,
    SUPPLY_HALF,
    TEMPLATES,
    Template,
)
from gentle_ember.core.stages.fuel_path.trains import TrainSection, section_of, train_section
from gentle_ember.core.stages.fuel_path.trouble import TrainCase


@dataclass(frozen=True, slots=True)
class Proposal:
    """A train to take or leave, computed, with how many parts it changes."""

    train: Train
    section: TrainSection
    changes: int


@dataclass(frozen=True, slots=True)
class Proposed:
    """Proposals, best first; without any, what makes it impossible and what comes nearest."""

    proposals: tuple[Proposal, ...]
    impossible: Impossible | None = None


def propose(
    job: Job,
    output: OutputSection,
    catalog: Catalog,
    name: str,
    template: Template,
    *,
    old: Train | None = None,
    kit: Mapping[str, float] | None = None,
) -> Proposed:
    """Trains of a template: fresh, as near as can be to an old one, or from a kit's parts.

    Args:
        job: the job.
        output: what the fuels put out.
        catalog: the parts.
        name: the train's key in the job.
        template: which train.
        old: a train to repair.
        kit: parts to prefer.
    """
    asked = ask(job, output, catalog, template)
    keep: dict[str, str] = {}
    if old is not None:
        old = with_roles(old, asked.template, catalog.parts)
        keep = _with_shared(kept(old, catalog.shelf), shared(job, name, template))
        limits = replace(asked.limits, lengths=_long_enough(lengths(old), asked))
        asked = replace(asked, limits=limits)
    elif kit is not None:
        keep = _with_right_jet(
            job, output, catalog, name, asked, _from_kit(kit, asked.template, catalog), kit
        )
    else:
        keep = shared(job, name, template)
    best = solve(catalog.shelf, asked.wanted(keep))
    if isinstance(best, Impossible):
        return Proposed((), best)
    others = alternatives(catalog.shelf, asked.wanted(keep), best)
    found = []
    for solution in (best, *others):
        proposal = _proposal(job, output, catalog, name, asked, solution, old)
        if proposal is not None:
            found.append(proposal)
    return Proposed(tuple(found))


def shared(job: Job, name: str, template: Template) -> dict[str, str]:
    """Parts on the set that another gas's train has already, by role: one set takes one of each."""
    for other, train in job.trains.items():
        held = TEMPLATES.get(train.template)
        if other in (name, AS_FOUND) or held is None or held.method != template.method:
            continue
        return {
            slot.role: slot.part
            for slot in train.slots.values()
            if slot.role in SET_SIDE and slot.part
        }
    return {}


def _with_shared(keep: dict[str, str], there: Mapping[str, str]) -> dict[str, str]:
    """What to keep of a train, where the other gas's parts on the set go before its own.

    With another half on the set, the supply half of before mates with nothing.
    """
    if there.get(SET_HALF.key, keep.get(SET_HALF.key)) != keep.get(SET_HALF.key):
        keep = {role: part for role, part in keep.items() if role != SUPPLY_HALF.key}
    return {**keep, **there}


def _long_enough(cut: Mapping[str, float], asked: Asked) -> dict[str, float]:
    """Lengths already cut, but not where they don't reach."""
    short = {
        role.key
        for role in asked.template.roles
        if role.reach and cut.get(role.key, 0.0) < asked.limits.distance_m
    }
    return {role: length for role, length in cut.items() if role not in short}


def _from_kit(kit: Mapping[str, float], template: Template, catalog: Catalog) -> dict[str, str]:
    """Which part of a kit could fill each role."""
    found = {}
    for role in template.roles:
        for key in kit:
            part = catalog.parts.get(key)
            if part is None or part.kind not in role.kinds:
                continue
            if role.half and not _is_half(part, role.half):
                continue
            found[role.key] = key
            break
    return found


def _with_right_jet(
    job: Job,
    output: OutputSection,
    catalog: Catalog,
    name: str,
    asked: Asked,
    keep: dict[str, str],
    kit: Mapping[str, float],
) -> dict[str, str]:
    """What is kept of a kit, with its smallest gas jet that is not too small here."""
    jets = [
        key for key in kit
        if key in catalog.parts and catalog.parts[key].kind is PartClass.GAS_JET
    ]  # fmt: skip
    if len(jets) < 2 or keep.get(LOAD_SCREW.key) not in jets:
        return keep
    first = solve(catalog.shelf, asked.wanted({**keep, LOAD_SCREW.key: jets[0]}))
    if isinstance(first, Impossible):
        return keep
    section = train_section(job, output, catalog, name, train_of(asked.template, first.parts))
    jet = fixed_jet(section.case) if section is not None else None
    if jet is None or jet.wanted is None:
        return keep
    holes = {key: catalog.parts[key].orifice_m or 0.0 for key in jets}
    large = [key for key in jets if holes[key] >= jet.wanted.value]
    best = min(large, key=lambda key: holes[key]) if large else max(jets, key=lambda k: holes[k])
    return {**keep, LOAD_SCREW.key: best}


def _is_half(part: Part, half: str) -> bool:
    way = part.outlet if half == "supply" else part.inlet
    return bool(way) and end(way).system in ("gas", "fuel")


def _proposal(
    job: Job,
    output: OutputSection,
    catalog: Catalog,
    name: str,
    asked: Asked,
    solution: Solution,
    old: Train | None,
) -> Proposal | None:
    train = train_of(asked.template, solution.parts, old)
    section = train_section(job, output, catalog, name, train)
    if section is None:
        return None
    return Proposal(train, section, solution.cost[0])


@dataclass(frozen=True)
class Option:
    """What could stand at a slot, a part or both halves of a coupler, with the train it makes."""

    parts: tuple[Part, ...]
    swap: Swap
    section: TrainSection
    price: float
    """What it adds to the price of the train."""

    @cached_property
    def jet(self) -> FixedJet | None:
        """What a gas jet put there gives."""
        is_jet = any(part.kind is PartClass.GAS_JET for part in self.parts)
        return fixed_jet(self.section.case) if is_jet else None


def options(
    job: Job,
    output: OutputSection,
    catalog: Catalog,
    name: str,
    train: Train,
    key: str,
    *,
    all_of_class: bool = False,
) -> list[Option]:
    """What could stand at a slot: parts of its class that mate, and what each would change.

    Args:
        job: the job.
        output: what the fuels put out.
        catalog: the parts.
        name: the train's key in the job.
        train: the train.
        key: the slot.
        all_of_class: also those that don't mate.

    Raises:
        KeyError: the train has no such slot.
    """
    slot = train.slots[key]
    held = {**catalog.parts, **job.parts}.get(slot.part)
    template = ask_template(job, output, catalog, train)
    if template is None:
        return []
    role = template.template.role(slot.role)
    kinds = role.kinds if role is not None else (held.kind,) if held else tuple(PartClass)
    now = train_section(job, output, catalog, name, train)
    pair = pair_at(train, key, {**catalog.parts, **job.parts}) if is_half(held) else None
    found = []
    for part in (part for kind in kinds for part in catalog.shelf.by_class[kind]):
        if part.use_instead or (not part.takes(template.template.fuel) and not all_of_class):
            continue
        for at, parts in _puts(part, key, pair, catalog, alone=all_of_class):
            changed = swap(train, at, parts, catalog.shelf, template.template.fuel)
            if not changed.mates and not all_of_class:
                continue
            section = train_section(job, output, catalog, name, changed.train)
            if section is not None and now is not None:
                price = round(section.price - now.price, 2)
                found.append(Option(parts, changed, section, price))
    by_jet = held is not None and held.kind is PartClass.GAS_JET
    return sorted(
        found,
        key=lambda one: (
            not one.swap.mates,
            # A jet can't be set: it comes behind what can, until one is in.
            (one.jet is not None) is not by_jet,
            sum(t.stops for t in one.section.troubles),
            len(one.section.troubles),
            # Of jets the smallest that is not too small comes first.
            (one.jet.lam.value > SET_TO, abs(one.jet.lam.value - SET_TO)) if one.jet else (),
            one.price,
        ),
    )


def _puts(
    part: Part, key: str, pair: tuple[str, str] | None, catalog: Catalog, *, alone: bool
) -> Iterator[tuple[str, tuple[Part, ...]]]:
    """Where a part would be put and what with: halves of a coupler go in together."""
    if pair is None:
        yield key, (part,)
        return
    other = partner(part, catalog.shelf)
    if part.outlet.startswith(("gas:", "fuel:")) and other is not None:
        yield pair[0], (part, other)
    if alone:
        yield key, (part,)


def ask_template(job: Job, output: OutputSection, catalog: Catalog, train: Train) -> Asked | None:
    """Everything the job says about a train's template."""
    template = TEMPLATES.get(train.template)
    return None if template is None else ask(job, output, catalog, template)


@dataclass(frozen=True, slots=True)
class WhatIf:
    """The train as it would be with one thing otherwise."""

    key: str
    title: str
    section: TrainSection
    train: Train | None
    """The train to take over; None where only the weather differs."""


def what_ifs(
    job: Job, output: OutputSection, catalog: Catalog, section: TrainSection
) -> Iterator[WhatIf]:
    """A longer hose, the next bore, a full-bore coupler, a cold day."""
    case = section.case
    yield from _hoses(job, output, catalog, case)
    yield from _full_bore(job, output, catalog, case)
    cold = replace(case.asked.demand, coldest_k=case.asked.demand.coldest_k - 10.0)
    asked = replace(case.asked, demand=cold)
    found = ladder(case.parts, asked.supply, cold, asked.limits.flow_factor)
    colder = replace(case, asked=asked, ladder=found)
    yield WhatIf("cold", "10 K colder", section_of(colder), None)


def _hoses(job: Job, output: OutputSection, catalog: Catalog, case: TrainCase) -> Iterator[WhatIf]:
    hoses = case.of(PartClass.GAS_HOSE, PartClass.FUEL_HOSE)
    if not hoses:
        return
    _, one, hose = max(hoses, key=lambda found: case.ladder.of(found[1].key).lost("full"))
    if hose.by_length:
        twice = Fact(value=2 * one.length_m, typed=f"{2 * one.length_m:g} m")
        slots = {**case.train.slots, one.key: one.slot.model_copy(update={"length": twice})}
        train = case.train.model_copy(update={"slots": slots})
        section = train_section(job, output, catalog, case.name, train)
        if section is not None:
            yield WhatIf("longer", f"{hose.name.split(',')[0]} twice as long", section, train)
        return
    same = [
        part
        for part in catalog.shelf.by_class[hose.kind]
        if (part.inlet, part.outlet, part.bore_m) == (hose.inlet, hose.outlet, hose.bore_m)
        and (part.length_m or 0) > (hose.length_m or 0)
        and not part.use_instead
    ]
    wider = [
        part
        for part in catalog.shelf.by_class[hose.kind]
        if (part.bore_m or 0) > (hose.bore_m or 0)
        and (part.length_m or 0) >= (hose.length_m or 0)
        and part.takes(case.asked.demand.fuel.key)
        and not part.use_instead
    ]
    longer = min(same, key=lambda part: part.length_m or 0, default=None)
    broader = min(
        wider, key=lambda part: (part.bore_m or 0, part.length_m or 0, part.price), default=None
    )
    for key, title, part in (("longer", "longer hose", longer), ("bore", "next bore", broader)):
        if part is not None:
            yield from _swapped(job, output, catalog, case, one.key, part, key, title)


def _full_bore(
    job: Job, output: OutputSection, catalog: Catalog, case: TrainCase
) -> Iterator[WhatIf]:
    """A full-bore coupler of the same thread in place of a stemmed one, everything else kept."""
    halves = case.of(PartClass.GAS_HALF)
    if len(halves) != 2 or all(part.full_bore for _, _, part in halves):
        return
    first = halves[0]
    fuel = case.asked.demand.fuel.key
    for part in sorted(catalog.shelf.by_class[PartClass.GAS_HALF], key=lambda one: one.price):
        other = partner(part, catalog.shelf)
        if not part.full_bore or part.inlet != first[2].inlet or other is None:
            continue
        if not part.takes(fuel) or part.use_instead:
            continue
        changed = swap(case.train, first[1].key, (part, other), catalog.shelf, fuel)
        section = train_section(job, output, catalog, case.name, changed.train)
        if changed.mates and section is not None:
            yield WhatIf("full_bore", "full-bore coupler", section, changed.train)
            return


def _swapped(
    job: Job,
    output: OutputSection,
    catalog: Catalog,
    case: TrainCase,
    slot: str,
    part: Part,
    key: str,
    title: str,
) -> Iterator[WhatIf]:
    changed = swap(case.train, slot, (part,), catalog.shelf, case.asked.demand.fuel.key)
    section = train_section(job, output, catalog, case.name, changed.train)
    if changed.mates and section is not None:
        yield WhatIf(key, f"{title}: {part.name}", section, changed.train)
