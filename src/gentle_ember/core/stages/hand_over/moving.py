"""The move sheet: the same set at another place or on another gas, and what must be done there.

A screw locked here meters other gas through thinner air there: how far it is turned follows from
the two places' own ladders, the regulator's opening depression and the mixture over load. What was
proven here is proven anew there.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import permutations

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.run_times import run_times
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.physics.mixture import RIGHT, SET_TO, Metered, drawn
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.metering.sweep import EIGHTH, on_screw
from gentle_ember.core.stages.fuel_path.mixture import FixedJet, fixed_jet, metered
from gentle_ember.core.stages.fuel_path.trains import TrainSection, at_hand, trains_to_build
from gentle_ember.core.stages.load_test.jets import jets_here

MOVE_SCREW = Method(
    "move-screw", "Load screw at another place",
    "turns there = turns here · λ with it as it is / λ here",
    "the mixture over load of both places at full load, pulses smoothed and followed", "move",
)  # fmt: skip
MOVED_LAMBDA = Method(
    "move-lambda", "λ there with the screw as it is",
    "λ here · (air there / here) / (gas there / here); gas ∝ AFR · √ρ · mean √(signal − opening)",
    "gas through an opening left alone goes with √ρ and what the signal has to spare", "move",
)  # fmt: skip
LAM_MATTERS = 0.02
"""A mixture that moves by less is left alone, and proven there all the same [1]."""
FAR_UP_M = 300.0
"""Difference in elevation from which a load test is made anew [m]."""


PROVEN_THERE: dict[str, str] = {
    "soaped": "Every joint parted for the way, and the one at the source: soaped under gas.",
    "distances": "Distances: 20 ft (6 m) from any opening, exhaust away from people, CO alarm on.",
    "lock_up": "Lock-up and pressure of the regulators on this gas; the hose of the other gas off.",
    "start": "First start on {fuel} there, the start gate gone through.",
    "swept": "Load screw: {turned}swept or read by a probe under load there, then locked.",
    "jet_read": "Gas jet: the one for this gas in, read by a probe or the plug under load there.",
    "looks": "No load, eco and a load step looked at again.",
    "load_test": "Load test: 20 minutes near what it gives there, the plug after it.",
    "tag": "The setting, the place and the date on the tag at the screw.",
    "jet_tag": "The jet tagged with its number and elevation; the other one tied to the set.",
}
"""What may have to be proven at another place, in the order to do it."""


@dataclass(frozen=True, slots=True)
class MovePlace:
    """A site with one of the fuels it has."""

    site: str
    fuel: FuelKey

    @property
    def key(self) -> str:
        """As metering and load tests name it."""
        return f"{self.site}-{self.fuel}"


@dataclass(frozen=True, slots=True)
class Beside:
    """A figure here and there."""

    label: str
    here: Figure
    there: Figure


@dataclass(frozen=True, slots=True)
class ToProve:
    """One thing that is proven there: its key stays, however it is worded."""

    key: str
    text: str


@dataclass(frozen=True, slots=True)
class MoveSheet:
    """One way from a place to another: what to turn, what differs, what is proven again."""

    start: MovePlace
    goal: MovePlace
    screw: Figure | None
    """Where the load screw belongs there; None where nothing is metered by one."""
    lam: Figure | None
    """λ there with the screw as it is here."""
    eighths: int
    """Eighths of a turn to open it; shut where negative."""
    says: str
    rows: tuple[Beside, ...]
    again: tuple[ToProve, ...]
    stops: tuple[str, ...]
    """What stops it there."""


def places(plan: Plan) -> tuple[MovePlace, ...]:
    """Every site with each fuel of the job it has, gasoline where it is kept."""
    job = plan.job
    found = []
    for key, site in job.sites.items():
        for fuel in FuelKey:
            if fuel is FuelKey.GASOLINE:
                if site.gasoline and (job.wants.keep_gasoline or fuel in job.trains):
                    found.append(MovePlace(key, fuel))
            elif fuel in job.trains and at_hand(site, fuel):
                found.append(MovePlace(key, fuel))
    return tuple(found)


def moves(plan: Plan) -> tuple[MoveSheet, ...]:
    """Every way between two places of the job: a gas to a gas, gasoline to gasoline."""
    return tuple(
        _move(plan, start, goal)
        for start, goal in permutations(plan.of(places), 2)
        if _alike(start, goal)
    )


def one_move(plan: Plan, start: str, goal: str) -> MoveSheet | None:
    """The way between two places by their keys; None where there is none."""
    by_key = {one.key: one for one in plan.of(places)}
    here, there = by_key.get(start), by_key.get(goal)
    if here is None or there is None or here == there or not _alike(here, there):
        return None
    return _move(plan, here, there)


def _alike(start: MovePlace, goal: MovePlace) -> bool:
    return (start.fuel is FuelKey.GASOLINE) == (goal.fuel is FuelKey.GASOLINE)


def _move(plan: Plan, start: MovePlace, goal: MovePlace) -> MoveSheet:
    here, there = plan.at(start.site), plan.at(goal.site)
    first, second = _train(here, start.fuel), _train(there, goal.fuel)
    lam = screw = None
    if first is not None and second is not None:
        lam, screw = _screw(plan.job, start, goal, first, second)
    jet = fixed_jet(second.case) if second is not None else None
    if jet is None:
        eighths, says = _turned(plan.job, start, goal, screw, lam)
    else:
        lam, screw, eighths, says = jet.lam, None, 0, _jet_there(jet)
    return MoveSheet(
        start, goal, screw, lam, eighths, says, tuple(_rows(here, there, start, goal)),
        tuple(_again(plan.job, start, goal, eighths, jet)), tuple(_stops(second)),
    )  # fmt: skip


def _jet_there(jet: FixedJet) -> str:
    """What is said of a fixed jet at another place."""
    low, high = RIGHT
    if low <= jet.lam.value <= high:
        return "The gas jet stays; a probe or the plug under load there decides."
    size = f" About {jet.wanted.value * 1e3:.1f} mm is asked for." if jet.wanted else ""
    side = "small: lean" if jet.lam.value > high else "large: rich"
    return f"The gas jet is likely too {side} there.{size} Change it, soap its joints, read it."


def _train(plan: Plan, fuel: FuelKey) -> TrainSection | None:
    return plan.of(trains_to_build).get(fuel)


def _passed(of: Metered, section: TrainSection, *, smooth: bool) -> float:
    """Gas through an opening left alone at full load [kg/s, of one opening]."""
    return drawn(of, smooth=smooth) * math.sqrt(section.case.asked.demand.gas_density)


def _screw(
    job: Job, start: MovePlace, goal: MovePlace, first: TrainSection, second: TrainSection
) -> tuple[Figure | None, Figure | None]:
    """λ there with the screw as it is, and where it belongs there."""
    of, to = metered(first.case), metered(second.case)
    record = job.metering.get(start.key)
    if of is None or to is None:
        return None, None
    one, other = first.case.asked.demand, second.case.asked.demand
    air = other.air_kg_s() / one.air_kg_s()
    ends = []
    for smooth in (True, False):
        before, after = _passed(of, first, smooth=smooth), _passed(to, second, smooth=smooth)
        wanted = one.fuel.air_fuel_ratio / other.fuel.air_fuel_ratio
        ends.append(SET_TO * air * wanted * before / after if after > 0 else 9.0)
    low, high = min(ends), min(9.0, max(ends))
    middle = (low + high) / 2
    inputs = (
        Input("λ here, at full load", SET_TO, "ratio", Origin.ASSUMED),
        Input("air there over here", air),
        Input("signal here", of.signal_pa, "pressure"),
        Input("signal there", to.signal_pa, "pressure"),
        Input("suction that opens the regulator there", to.opening_pa, "pressure"),
        Input("gas density there over here", other.gas_density / one.gas_density),
    )
    narrows = ("a probe in the exhaust at full load, there", "a U-tube at the throat, here")
    lam = Figure(
        f"move.{start.key}.{goal.key}.lam", "λ there with the screw as it is", middle, "ratio",
        MOVED_LAMBDA, Band(low, high), inputs, rounding=Rounding.UP, estimated=True,
        narrows=narrows,
    )  # fmt: skip
    if record is None or record.locked is None or middle >= 9.0:
        return lam, None
    turns = record.locked.value
    screw = Figure(
        f"move.{start.key}.{goal.key}.turns", "load screw there", turns * middle / SET_TO, "turns",
        MOVE_SCREW, Band(turns * low / SET_TO, turns * high / SET_TO),
        (Input("locked here", turns, "turns", record.locked.origin, f"metering.{start.key}.locked"),
         *inputs),
        estimated=True, narrows=("the sweep there, which decides",),
    )  # fmt: skip
    return lam, screw


def _turned(
    job: Job, start: MovePlace, goal: MovePlace, screw: Figure | None, lam: Figure | None
) -> tuple[int, str]:
    """Eighths to turn it by, and what is said of it."""
    known = job.metering.get(goal.key)
    if known is not None and known.proven and known.locked is not None:
        record = job.metering.get(start.key)
        here = record.locked.value if record and record.locked else None
        turns = known.locked.value
        by = 0 if here is None else round((turns - here) / EIGHTH)
        return by, f"It was set there before: {turns:.2f} turns. Back to that, then prove it."
    if lam is None:
        return 0, ""
    if lam.value >= 9.0:
        return 0, "The signal there does not open the regulator: a tighter throat, or it starves."
    if screw is None:
        return 0, "Not locked here yet: nothing to turn from. It begins there with a sweep."
    by = round((on_screw(screw.value, plateau=0.0) - on_screw(_locked(job, start), plateau=0.0))
               / EIGHTH)  # fmt: skip
    if abs(lam.value / SET_TO - 1) < LAM_MATTERS or by == 0:
        return 0, "The screw stays where it is; the sweep there decides."
    way = "Open" if by > 0 else "Shut"
    return by, f"{way} it by {_parts(abs(by))} of a turn, then sweep there."


def _locked(job: Job, start: MovePlace) -> float:
    locked = job.metering[start.key].locked
    return locked.value if locked else 0.0


def _parts(eighths: int) -> str:
    whole, left = divmod(eighths, 8)
    part = {0: "", 1: "1/8", 2: "1/4", 3: "3/8", 4: "1/2", 5: "5/8", 6: "3/4", 7: "7/8"}[left]
    return "-".join(one for one in (str(whole) if whole else "", part) if one)


def _rows(here: Plan, there: Plan, start: MovePlace, goal: MovePlace) -> Iterator[Beside]:
    one, other = here.of(output_here), there.of(output_here)
    if one is not None and other is not None:
        a, b = one.of(start.fuel), other.of(goal.fuel)
        yield Beside("Puts out, steady", a.running, b.running)
        yield Beside("For a moment", a.starting, b.starting)
    runs, others = here.of(run_times), there.of(run_times)
    if runs is not None and others is not None:
        flows = {full.fuel: full.flow for full in runs.full_load}
        flows_there = {full.fuel: full.flow for full in others.full_load}
        if start.fuel in flows and goal.fuel in flows_there:
            yield Beside("Fuel at full load", flows[start.fuel], flows_there[goal.fuel])
        lasts = {run.key: run for run in runs.runs if run.fuel is start.fuel and run.figure}
        for run in others.runs:
            match = lasts.get(run.key)
            if run.fuel is goal.fuel and run.figure and match and match.figure:
                yield Beside(f"Runs: {run.label}", match.figure, run.figure)
    first, second = _train(here, start.fuel), _train(there, goal.fuel)
    if first is not None and second is not None:
        if first.tightest and second.tightest:
            yield Beside("Tightest place of the train", first.tightest, second.tightest)
        if first.signal and second.signal:
            yield Beside("Throat's signal, full load", first.signal, second.signal)
    if goal.fuel is FuelKey.GASOLINE:
        jets, jets_there = here.of(jets_here), there.of(jets_here)
        if jets.wanted and jets_there.wanted:
            yield Beside("Main jet asked for", jets.wanted[0], jets_there.wanted[0])
        if jets.as_it_is and jets_there.as_it_is:
            yield Beside("λ with the jet in it", jets.as_it_is, jets_there.as_it_is)
        if jets.coldest and jets_there.coldest:
            yield Beside("λ on the coldest night", jets.coldest, jets_there.coldest)


def _again(
    job: Job, start: MovePlace, goal: MovePlace, eighths: int, jet: FixedJet | None
) -> Iterator[ToProve]:
    """What is proven there before it is left running."""
    gas, other = goal.fuel is not FuelKey.GASOLINE, goal.fuel is not start.fuel
    elevations = [job.sites[place.site].elevation for place in (start, goal)]
    far = None in elevations or abs(
        (elevations[0].value if elevations[0] else 0.0)
        - (elevations[1].value if elevations[1] else 0.0)
    ) >= FAR_UP_M  # fmt: skip
    asked = {
        "soaped": gas, "distances": gas, "lock_up": gas and other, "start": True,
        "swept": gas and jet is None, "jet_read": jet is not None,
        "looks": gas, "load_test": far or other, "tag": gas, "jet_tag": not gas,
    }  # fmt: skip
    turned = "turned, so " if eighths else ""
    for key, text in PROVEN_THERE.items():
        if asked[key]:
            yield ToProve(key, text.format(fuel=NAMES[goal.fuel], turned=turned))


def _stops(section: TrainSection | None) -> Iterator[str]:
    for one in section.troubles if section else ():
        if one.stops:
            yield one.text
