"""Fuel-path section: each train with its ladder, its troubles and its tightest place."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from gentle_ember.core.base.figure import (
    Band,
    Figure,
    Input,
    Origin,
    Rival,
    Rounding,
    spread,
)
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.job.handling import HANDLING, FuelSource, comes_from
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part, PartClass, end
from gentle_ember.core.job.site import RemoteTank, Site, gases_here
from gentle_ember.core.job.train import AS_FOUND, Train
from gentle_ember.core.physics import pipe
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.physics.venturi import SIGNAL, SIGNAL_BAND
from gentle_ember.core.stage import UNKNOWN, Caution, Item, Plan
from gentle_ember.core.stages.fuel_path.case import ask
from gentle_ember.core.stages.fuel_path.ladder import LADDER, fitted, ladder
from gentle_ember.core.stages.fuel_path.rules import judge
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.core.stages.fuel_path.trouble import TrainCase, Trouble


@dataclass(frozen=True, slots=True)
class TrainSection:
    """One train, computed: the case it was judged as, its faults, the tightest place."""

    case: TrainCase
    troubles: tuple[Trouble, ...]
    tightest: Figure | None
    signal: Figure | None

    @property
    def price(self) -> float:
        """Price of its parts, what is on the site already left out."""
        return sum(
            part.price
            * (one.length_m if part.by_length else 1)
            * (self.case.asked.limits.counts or {}).get(one.slot.role, 1)
            for one, part in self.case.known()
            if not part.site
        )


def parts_of(job: Job, catalog: Catalog) -> Mapping[str, Part]:
    """The parts a job's trains are made of: as pinned, else as the catalog has them."""
    return {**catalog.parts, **job.parts}


def train_case(
    job: Job, output: OutputSection, catalog: Catalog, name: str, train: Train
) -> TrainCase | None:
    """A train as the rules see it; None for a template nobody knows."""
    template = TEMPLATES.get(train.template)
    if template is None:
        return None
    asked = ask(job, output, catalog, template)
    known = parts_of(job, catalog)
    parts = fitted(train, known)
    found = ladder(parts, asked.supply, asked.demand, asked.limits.flow_factor)
    return TrainCase(job, name, train, parts, asked, found, known)


def train_section(
    job: Job, output: OutputSection, catalog: Catalog, name: str, train: Train
) -> TrainSection | None:
    """A train with its ladder, troubles and tightest place."""
    case = train_case(job, output, catalog, name, train)
    return None if case is None else section_of(case)


def section_of(case: TrainCase) -> TrainSection:
    """A case with its troubles and its tightest place."""
    return TrainSection(case, judge(case), _tightest(case), _signal(case))


def fuel_path(job: Job, output: OutputSection | None, catalog: Catalog) -> dict[str, TrainSection]:
    """Every train of the job, computed; empty until there is a rating."""
    if output is None:
        return {}
    found = {
        name: train_section(job, output, catalog, name, train)
        for name, train in job.trains.items()
        if train.slots
    }
    return {name: one for name, one in found.items() if one is not None}


def _inputs(case: TrainCase) -> tuple[Input, ...]:
    asked, demand = case.asked, case.asked.demand
    given = asked.supply
    sources: tuple[Input, ...] = (Input("supply", "cylinder at the coldest", "text"),)
    if given.pressure_pa is not None:
        still = given.pressure_pa + given.lost_pa
        origin = Origin.ASSUMED if given.assumed else Origin.OWNER
        sources = (Input("at the source", still, "pressure", origin),)
    if given.lost_pa:
        origin = Origin.COMPUTED if given.lost_told else Origin.ASSUMED
        sources += (Input("lost in the house's pipe at flow", given.lost_pa, "pressure", origin),)
    return (
        Input("fuel at full load, upper end (HHV)", demand.heat_hhv(), "heat_rate"),
        *sources,
        Input("elevation", demand.elevation_m, "elevation"),
        Input("hottest day", demand.hottest_k, "temperature"),
        Input("coldest night", demand.coldest_k, "temperature"),
        *(Input("taken", text, "text", Origin.ASSUMED, path) for text, path in asked.assumed),
    )


def _tightest(case: TrainCase) -> Figure | None:
    """The smallest margin of any device at full load: what arrives less what it needs."""
    worst: tuple[float, str, float, float] | None = None
    for one, part in case.known():
        if part.least_pa is None:
            continue
        arrives = case.ladder.of(one.key).inlet["full"]
        margin = arrives - part.least_pa
        if worst is None or margin < worst[0]:
            worst = (margin, part.name, arrives, part.least_pa)
    if worst is None:
        return None
    margin, name, arrives, needs = worst
    spare = max(abs(arrives) * 0.1, 10.0)
    return Figure(
        f"path.{case.name}.margin",
        f"tightest, {name}",
        margin,
        "pressure",
        LADDER,
        Band(margin - spare, margin + spare),
        (
            Input("arrives at full load", arrives, "pressure"),
            Input("it needs", needs, "pressure"),
            *_inputs(case),
        ),
        _second_opinion(case, margin),
        Rounding.DOWN,
        estimated=True,
        narrows=("a manometer at the device, at full load", "measured lengths and bores"),
    )


def _second_opinion(case: TrainCase, margin: float) -> tuple[Rival, ...]:
    """The margin with the fixed pipe's drop by another equation; none without fixed pipe."""
    demand = case.asked.demand
    flow = demand.mass("full") / demand.fuel.density_kg_m3
    change = 0.0
    for _, one, part in case.of(PartClass.PIPE):
        lost = case.ladder.of(one.key).lost("full")
        if part.bore_m is None or not 1.0 < lost < pipe.PRESSURE_LIMIT_PA:
            return ()
        passes = pipe.second_opinion(pipe.pipe_gas(demand.fuel), part.bore_m, lost, one.length_m)
        passes *= pipe.thin_air(demand.elevation_m)
        # Flow goes with the root of the drop.
        change += lost - lost * (flow / passes) ** 2
    return (Rival("pipe by Spitzglass, low pressure", margin + change),) if change else ()


def _signal(case: TrainCase) -> Figure | None:
    signals = case.ladder.signals
    if signals is None:
        return None
    value, read = signals["full"], case.asked.demand.suction
    told = () if read is None else (
        Input("read over steady, by U-tube", read.over_steady, "ratio", Origin.MEASURED, read.path),
    )  # fmt: skip
    return Figure(
        f"path.{case.name}.signal",
        "throat's signal at full load",
        value,
        "pressure",
        SIGNAL,
        spread(value, SIGNAL_BAND if read is None else read.band),
        (
            *told,
            Input("air at full load", case.asked.demand.air_kg_s(), "mass_flow"),
            Input("opening and losses need", case.ladder.needs["full"], "pressure"),
            *_inputs(case),
        ),
        rounding=Rounding.DOWN,
        estimated=read is None,
        narrows=("a U-tube at the throat's port, near full load",),
    )


ON_GASOLINE_TOO = frozenset(("open_inlet", "open_port"))
"""Rules of a train as found whose faults are a danger on gasoline as well."""


def trains_everywhere(plan: Plan) -> dict[str, dict[str, TrainSection]]:
    """Each site's trains as judged there: the one looked at, and those that have the fuel."""
    found = {plan.job.site: plan.of(job_trains)}
    for key, site in plan.job.sites.items():
        if key != plan.job.site:
            found[key] = {
                name: one for name, one in plan.at(key).of(job_trains).items()
                if name != AS_FOUND and at_hand(site, one.case.asked.template.fuel)
            }  # fmt: skip
    return found


def at_hand(site: Site, fuel: FuelKey) -> bool:
    """Whether a site says that it has this fuel for a train."""
    if comes_from(fuel, FuelSource.TANK):
        return site.remote_tank != RemoteTank()
    return fuel in gases_here(site)


@dataclass(frozen=True, slots=True)
class TroubleAt:
    """A fault of a job's train, and where it holds."""

    fuel: FuelKey
    words: str
    """Of which train, and where if not everywhere."""
    trouble: Trouble
    site: str = ""
    """The only site it holds at; empty for what holds wherever the train is judged."""
    found: bool = False
    """Whether it is somebody else's train, as it was found."""

    @property
    def path(self) -> str:
        """Where it is settled."""
        return self.trouble.path or f"trains.{AS_FOUND if self.found else self.fuel}"

    @property
    def any_fuel(self) -> bool:
        """Whether it is a danger on gasoline as well."""
        return self.trouble.rule in ON_GASOLINE_TOO

    @property
    def caution_key(self) -> str:
        """Under which it is a caution of the job."""
        one = self.trouble
        if self.found and self.any_fuel:
            return f"found.{one.rule}"
        kept = f"train.{self.fuel}.{'found.' if self.found else ''}{one.rule}.{one.slot}"
        return f"{kept}@{self.site}" if self.site else kept


def train_troubles(plan: Plan) -> tuple[TroubleAt, ...]:
    """Every fault of every train at every site; one that holds everywhere once.

    Somebody else's train counts until this job has one of its own for that fuel.
    """
    return tuple(_troubles(plan))


def _troubles(plan: Plan) -> Iterator[TroubleAt]:
    everywhere = plan.of(trains_everywhere)
    for name, here in plan.of(job_trains).items():
        fuel = here.case.asked.template.fuel
        if name == AS_FOUND:
            if not own_train(plan.job, fuel):
                yield from (TroubleAt(fuel, "As found", one, found=True) for one in here.troubles)
            continue
        words, judged = HANDLING[fuel].train, {
            site: {(one.rule, one.slot, one.text): one for one in trains[name].troubles}
            for site, trains in everywhere.items()
            if name in trains
        }  # fmt: skip
        seen: dict[tuple[str, str, str], Trouble] = {}
        for found in judged.values():
            seen |= found
        for key, one in seen.items():
            at = [site for site, found in judged.items() if key in found]
            if len(at) == len(judged):
                yield TroubleAt(fuel, words, one)
                continue
            for site in at:
                where = plan.job.sites[site].name or "one of the sites"
                yield TroubleAt(fuel, f"{words} at {where}", judged[site][key], site)


def own_train(job: Job, fuel: FuelKey) -> bool:
    """Whether this job has a train of its own for a fuel."""
    train = job.trains.get(str(fuel))
    return train is not None and bool(train.slots)


def train_cautions(plan: Plan) -> Iterator[Caution]:
    """Each fault of each train, as a caution of the job; what is not known is an open item."""
    for at in plan.of(train_troubles):
        if not at.trouble.holds:
            yield Caution(
                at.caution_key, at.trouble.severity, "fuel_path", f"{at.words}: {at.trouble.text}",
                at.path, at.site, "" if at.found and at.any_fuel else str(at.fuel),
            )  # fmt: skip


def not_known_items(plan: Plan) -> Iterator[Item]:
    """What a train's verdict rests on and nobody has said: nothing is done on it before."""
    seen: set[str] = set()
    for at in plan.of(train_troubles):
        one = at.trouble
        said = one.text.rstrip(".")
        if one.rule == "assumed":
            said = f"{said.removeprefix('Assumed: ')}, assumed"
        text = f"{at.words}: {said}"
        if one.holds and text not in seen:
            seen.add(text)
            yield Item(
                f"known.{at.fuel}.{one.rule}.{one.slot}.{at.site}.{at.path}", UNKNOWN, text,
                "fuel_path", at.path, holds=True, acts=True,
                fuel="" if at.found and at.any_fuel else str(at.fuel), site=at.site,
            )  # fmt: skip


def site_connections(path: Mapping[str, TrainSection]) -> tuple[tuple[str, str], ...]:
    """Each train's joint with what is on the site already, in words."""
    found = []
    for name, section in path.items():
        parts = section.case.parts
        if name == AS_FOUND or len(parts) < 2:
            continue
        source, first = parts[0].part, parts[1].part
        if source is None or first is None or not source.outlet or not first.inlet:
            continue
        found.append(
            (name, f"{source.name}, {end(source.outlet).text}, takes {first.name}, "
             f"{end(first.inlet).text}")
        )  # fmt: skip
    return tuple(found)


def job_trains(plan: Plan) -> dict[str, TrainSection]:
    """Every train of the job with its ladder and its faults, somebody else's too."""
    return fuel_path(plan.job, plan.of(output_here), plan.catalog)


def trains_to_build(plan: Plan) -> dict[str, TrainSection]:
    """The trains of this job; not what was found on the set."""
    return {name: one for name, one in plan.of(job_trains).items() if name != AS_FOUND}
