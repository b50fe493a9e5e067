"""One set's measurements taken together: what it is, how well that is known, what to read next.

A weighing tells of the fuel line, a probe of the mixture, a U-tube of the throat, a load held of
the engine; but each tells a little of the others too, for the air a cylinder of known size can
draw ties them. What is known before anything was read are the product's own estimates with their
bands; see `physics.together` for how readings narrow them.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from gentle_ember.core.base.figure import (
    Band,
    Figure,
    Input,
    Method,
    Origin,
    Rounding,
)
from gentle_ember.core.estimates.defaults import (
    CLOCKED_ERROR,
    Machine,
    fuels_here,
    machine,
    run_time_points,
    site_air,
    weighed_points,
)
from gentle_ember.core.estimates.first_settings import by_power
from gentle_ember.core.estimates.measured import held, output_here
from gentle_ember.core.estimates.output import running_w
from gentle_ember.core.job.facts import simulated
from gentle_ember.core.job.handling import WEIGHED, FuelSource, comes_from
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics.fuel_use import (
    INVERTERS,
    SCALE_READS_TO,
    weighing_error,
)
from gentle_ember.core.physics.fuels import NAMES, FuelKey
from gentle_ember.core.physics.mixture import (
    SET_TO,
    Metered,
)
from gentle_ember.core.physics.output import LAMBDA_AS_JETTED
from gentle_ember.core.physics.together import (
    Array,
    Estimate,
    gradient,
    take_together,
    without_strays,
)
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.demand import ReadUnderLoad, read_under_load
from gentle_ember.core.stages.fuel_path.mixture import metered
from gentle_ember.core.stages.fuel_path.trains import TrainSection, trains_to_build
from gentle_ember.core.stages.load_test.set_model import (
    FULL,
    HALF,
    Candidate,
    OnFuel,
    SetModel,
    SetReading,
)
from gentle_ember.core.stages.load_test.tests import load_tests_here

JOINT = Method(
    "joint-estimate", "Readings taken together",
    "least Σ (reading − expected)²/σ² + Σ (unknown − before)²/σ²; band ± 2 standard errors",
    "Gauss–Newton on logarithms, with the estimates' own bands as what is known before",
    "joint-estimate",
)  # fmt: skip
FILLING_TIE = 0.03
"""How far that of two fuels of one engine, and this reckoning of it, may differ: σ of the log."""
LAM_ERROR, SUCTION_ERROR, HELD_ERROR, HERTZ_ERROR, RUN_TIME_ERROR = 0.02, 0.03, 0.02, 0.003, 0.05
TURN_ERROR = 0.06
"""How well a screw's turns are counted [turns]."""
OPEN = 0.9
"""Throttle at which what is held is all there is [1]."""
FULL_RATING = 0.97
"""Share of the running rating past which the alternator limits, and nothing is learned."""
UNBOUND_W = 1e6
"""A rating no engine comes to: what is left is the engine's own limit [W]."""
AS_GOOD = 1.25
"""Readings that leave no more than this times what the best leaves are as good."""
WORTH = 0.9
"""A next reading is named when it leaves less than this share of a band."""


@dataclass(frozen=True, slots=True)
class ShownAsked:
    """Something asked of a set: which, in the kind it is shown in, and which end is unsafe."""

    key: str
    label: str
    kind: str
    rounding: Rounding = Rounding.NEAREST


@dataclass(frozen=True, slots=True)
class Narrowed:
    """What the best next reading would leave of a figure's band: ± share of it [1]."""

    by: Candidate
    to: float


@dataclass(frozen=True, slots=True)
class Told:
    """One figure asked for: as estimated before, taken together, and what narrows it most."""

    asked: ShownAsked
    fuel: str
    before: Band
    figure: Figure
    share: float
    """Half-width of its band over itself [1]."""
    share_before: float
    next: Narrowed | None


@dataclass(frozen=True, slots=True)
class Unlike:
    """A reading that does not go with the others, and what they foretell in its place."""

    label: str
    path: str
    kind: str
    read: float
    foretold: float


@dataclass(frozen=True)
class SetEstimate:
    """Every figure asked for, the readings behind them, those that do not belong."""

    told: tuple[Told, ...]
    readings: int
    unlike: tuple[Unlike, ...]
    next: Candidate | None
    """The reading that narrows the figures most, taken over all of them."""


def _model(plan: Plan, fuels: Sequence[FuelKey], resolved: Machine) -> SetModel:
    job = plan.job
    here = site_air(plan.site, job.site)
    at_site = fuels_here(job.set, plan.site, job.site)
    output, trains = plan.of(output_here), plan.of(trains_to_build)
    unbound = replace(resolved, rated=replace(resolved.rated, value=UNBOUND_W))
    found: dict[FuelKey, OnFuel] = {}
    for key in fuels:
        fuel, section = at_site[key].fuel, trains.get(key)
        rich = output.of(key).mixture_lambda if output else None
        record = job.metering.get(f"{job.site}-{key}")
        throat, reckoned = _throat(section)
        screw = section is not None and bool(section.case.of(PartClass.LOAD_SCREW))
        shaft = job.set.shaft_power.value if job.set.shaft_power else None
        start = by_power(resolved, shaft, fuel, job.set.barrels).value * SET_TO if screw else 0.0
        locked = record.locked.value if record and record.proven and record.locked else 0.0
        by_gas = throat.set_to if throat is not None else SET_TO
        lam = by_gas if key is not FuelKey.GASOLINE else (rich or LAMBDA_AS_JETTED)
        limit = running_w(unbound, here, fuel, job.schools)
        found[key] = OnFuel(fuel, limit, lam, throat, reckoned, start, locked)
    return SetModel(job, resolved, here, found)


def _throat(section: TrainSection | None) -> tuple[Metered | None, float]:
    """A train's throat as a steady flow draws on it, and the air that was reckoned with [kg/s]."""
    of = metered(section.case) if section is not None else None
    if section is None or of is None:
        return None, 0.0
    demand = section.case.asked.demand
    over = demand.suction.over_steady if demand.suction else 1.0
    return replace(of, signal_pa=of.signal_pa / over, as_read=False), demand.air_kg_s()


def _looked(plan: Plan, model: SetModel) -> Iterator[SetReading]:
    """Every reading of this set that the estimate takes; nothing simulated."""
    job = plan.job
    for key, point in run_time_points(job.set):
        yield SetReading(
            "fuel", FuelKey.GASOLINE, point.electrical_w, math.log(point.fuel_w), RUN_TIME_ERROR,
            "run time of the data sheet", f"set.run_times.{key}",
        )  # fmt: skip
    for key, fuel, point in weighed_points(job.set):
        if fuel in model.fuels:
            where = "weigh_ins" if key in job.set.weigh_ins else "clocked"
            what = "fuel weighed" if where == "weigh_ins" else "gas by the clocked meter"
            yield SetReading("fuel", fuel, point.electrical_w, math.log(point.fuel_w), point.sigma,
                         f"{NAMES[fuel]}: {what}", f"set.{where}.{key}")  # fmt: skip
    for fuel in model.fuels:
        yield from _of_fuel(plan, model, fuel)


def _of_fuel(plan: Plan, model: SetModel, fuel: FuelKey) -> Iterator[SetReading]:
    job, name = plan.job, NAMES[fuel]
    one = model.fuels[fuel]
    best = held(job, fuel, job.site)
    if best is not None and best.watts < FULL_RATING * model.resolved.rated.value:
        unbound = replace(model.resolved, rated=replace(model.resolved.rated, value=UNBOUND_W))
        day = model.here if best.outside is None else site_air(
            plan.site.model_copy(update={"hottest": best.outside}), job.site
        )  # fmt: skip
        day_w = running_w(unbound, day, one.fuel, job.schools)
        yield SetReading("held", fuel, best.watts, math.log(best.watts), HELD_ERROR,
                     f"{name}: most it held, throttle open", best.path, day_w=day_w)  # fmt: skip
    for read in read_under_load(job, fuel):
        yield from _of_reading(model, fuel, read)
    record = job.metering.get(f"{job.site}-{fuel}")
    for key, taken in record.readings.items() if record and one.turns else ():
        if taken.turns and taken.lam and not simulated(taken):
            sigma = math.hypot(LAM_ERROR, TURN_ERROR / taken.turns.value)
            at = f"metering.{job.site}-{fuel}.readings.{key}.lam"
            yield SetReading("lam", fuel, 0.0, math.log(taken.lam.value), sigma,
                         f"{name}, in the sweep: λ", at, taken.turns.value)  # fmt: skip
    if one.locked:
        yield SetReading(
            "locked", fuel, 0.0, math.log(one.locked), TURN_ERROR / one.locked,
            f"{name}: load screw locked", f"metering.{job.site}-{fuel}.locked",
        )  # fmt: skip
    if "filling" in model.at:
        yield SetReading(
            "filling", fuel, 0.0, 0.0, FILLING_TIE,
            f"{name}: air its displacement draws", "set.displacement",
        )  # fmt: skip


def _of_reading(model: SetModel, fuel: FuelKey, read: ReadUnderLoad) -> Iterator[SetReading]:
    one, name, watts = read.reading, NAMES[fuel], read.watts
    limit = model.fuels[fuel].limit_w
    wide = one.throttle is not None and one.throttle.value >= OPEN
    if one.lam is not None:
        turns = read.run.turns.value if read.run.turns else 0.0
        at = 0.0 if wide or watts >= FULL * limit else watts
        yield SetReading("lam", fuel, at, math.log(one.lam.value), LAM_ERROR, f"{name}: λ",
                     f"{read.path}.lam", turns)  # fmt: skip
    if one.suction is not None and one.suction.value > 0 and model.fuels[fuel].throat:
        yield SetReading("suction", fuel, watts, math.log(one.suction.value), SUCTION_ERROR,
                     f"{name}: suction at the throat", f"{read.path}.suction")  # fmt: skip
    plate, inverter = model.job.set.hertz, model.job.set.set_class in INVERTERS
    if one.hertz is not None and one.hertz.value > 0 and plate is not None and not inverter:
        yield SetReading("speed", fuel, watts, math.log(one.hertz.value / plate.value), HERTZ_ERROR,
                     f"{name}: frequency", f"{read.path}.hertz")  # fmt: skip


def _candidates(model: SetModel) -> Iterator[Candidate]:
    """What could be read next on each fuel."""
    for key, one in model.fuels.items():
        name = NAMES[key]
        for share, load in ((1.0, "full"), (HALF, "half")):
            watts = one.limit_w * share
            if key in WEIGHED:
                hours = 1.0
                middle = np.array([unknown.middle for unknown in model.unknowns])
                burnt = model.fuel_w(middle, key, watts) * 3600 * hours / one.fuel.lhv_j_kg
                sigma = weighing_error(
                    burnt, SCALE_READS_TO, chilled=comes_from(key, FuelSource.CYLINDER)
                )
                text = f"weigh an hour on {name} at {load} load"
                yield Candidate("fuel", key, watts, sigma, text, 75.0)
            else:
                text = f"clock the meter ten minutes on {name} at {load} load"
                yield Candidate("fuel", key, watts, CLOCKED_ERROR, text, 15.0)
            at = 0.0 if share == 1.0 else watts
            if share == 1.0 or one.throat:
                text = f"a probe in the exhaust on {name} at {load} load"
                yield Candidate("lam", key, at, LAM_ERROR, text, 10.0)
        if one.throat:
            text = f"a U-tube at the throat on {name} at full load"
            yield Candidate("suction", key, one.limit_w, SUCTION_ERROR, text, 10.0)
        if one.limit_w < FULL_RATING * model.resolved.rated.value:
            text = f"the most it holds on {name}, throttle open"
            yield Candidate("held", key, one.limit_w, HELD_ERROR, text, 15.0)


SET_ASKED = (
    ShownAsked("shaft", "shaft power on gasoline, as it was rated", "power", Rounding.DOWN),
    ShownAsked("filling", "volumetric efficiency, throttle open", "ratio"),
    ShownAsked("throat", "suction at the throat over a steady flow's", "ratio"),
)
FUEL_ASKED = (
    ShownAsked("limit", "the engine's own limit, hottest day", "power", Rounding.DOWN),
    ShownAsked("full", "fuel at that limit (LHV)", "heat_rate", Rounding.UP),
    ShownAsked("half", "fuel at half of it (LHV)", "heat_rate", Rounding.UP),
    ShownAsked("suction", "suction at the throat, full load", "pressure", Rounding.DOWN),
    ShownAsked("lam_half", "λ at half load", "ratio", Rounding.UP),
    ShownAsked("turns", f"load screw at λ {SET_TO:g}, full load", "turns"),
)


def _has(model: SetModel, key: str, fuel: FuelKey | None) -> bool:
    """Whether a figure means anything on this set."""
    if fuel is None:
        return key in model.at or key == "shaft"
    one = model.fuels[fuel]
    if key in ("suction", "lam_half"):
        return one.throat is not None
    return bool(one.turns) if key == "turns" else True


def joint_estimate(plan: Plan) -> SetEstimate | None:
    """Every reading of this set on this site taken together; None until it has a rating and a fuel.

    Readings on other sites stay out: other air, other screw.
    """
    resolved = machine(plan.job.set)
    tests = plan.of(load_tests_here)
    if resolved is None or not tests:
        return None
    model = _model(plan, [one.fuel for one in tests], resolved)
    looked = list(_looked(plan, model))
    read = np.array([one.value for one in looked])
    sigma = np.array([one.sigma for one in looked])

    def foretold(unknowns: Array) -> Array:
        return np.array([model.foretold(unknowns, one) for one in looked])

    found, odd = without_strays(model.unknowns, foretold, read, sigma)
    before = take_together(model.unknowns, lambda _: np.empty(0), np.empty(0), np.empty(0))
    offered = list(_candidates(model))
    slopes = [model.slope(found.at, one) for one in offered]
    inputs = tuple(_inputs(looked))
    told = tuple(
        _told(model, one, fuel, found, before, offered, slopes, inputs)
        for fuel in (None, *model.fuels)
        for one in (SET_ASKED if fuel is None else FUEL_ASKED)
        if _has(model, one.key, fuel)
    )
    return SetEstimate(
        told, sum(1 for one in looked if one.of not in ("locked", "filling")),
        tuple(_unlike(model, found, looked[n]) for n in odd if looked[n].of in KIND_OF),
        _best(told),
    )  # fmt: skip


KIND_OF = {"fuel": "heat_rate", "held": "power", "lam": "ratio", "suction": "pressure"}


def _unlike(model: SetModel, found: Estimate, one: SetReading) -> Unlike:
    foretold = math.exp(model.foretold(found.at, one))
    return Unlike(one.label, one.path, KIND_OF[one.of], math.exp(one.value), foretold)


def _inputs(looked: Sequence[SetReading]) -> Iterator[Input]:
    for one in looked:
        if one.of in KIND_OF:
            yield Input(one.label, math.exp(one.value), KIND_OF[one.of], Origin.MEASURED, one.path)


def _told(
    model: SetModel, asked: ShownAsked, fuel: FuelKey | None, found: Estimate, before: Estimate,
    offered: Sequence[Candidate], slopes: Sequence[Array], inputs: tuple[Input, ...],
) -> Told:  # fmt: skip
    def of(unknowns: Array) -> float:
        return model.asked(unknowns, asked.key, fuel)

    slope = gradient(of, found.at)
    width = 2 * math.sqrt(max(0.0, float(slope @ found.covariance @ slope)))
    value, first = math.exp(of(found.at)), math.exp(of(before.at))
    first_width = 2 * before.spread(of)
    ends = Band(value * math.exp(-width), value * math.exp(width))
    left = [2 * found.narrowed(slope, to, one.sigma) for one, to in
            zip(offered, slopes, strict=True)]  # fmt: skip
    narrowed = None
    if left and min(left) < WORTH * width:
        # Of those about as good, one on the same fuel, the quickest.
        enough = [n for n, one in enumerate(left) if one <= AS_GOOD * min(left)]
        best = min(enough, key=lambda n: (offered[n].fuel is not fuel, offered[n].minutes))
        narrowed = Narrowed(offered[best], math.expm1(left[best]))
    figure = Figure(
        f"joint.{fuel or 'set'}.{asked.key}", asked.label, value, asked.kind, JOINT, ends,
        (Input("estimated before", first, asked.kind),
         Input("readings it rests on", float(len(inputs)), "count"), *inputs),
        rounding=asked.rounding, estimated=True,
        narrows=(narrowed.by.text if narrowed else "the same readings taken again",),
    )  # fmt: skip
    wide = Band(first * math.exp(-first_width), first * math.exp(first_width))
    return Told(
        asked, str(fuel or ""), wide, figure, math.expm1(width), math.expm1(first_width), narrowed
    )


def _best(told: Sequence[Told]) -> Candidate | None:
    """The reading most figures would be narrowed by, by how much of their bands it takes."""
    gain: dict[str, float] = {}
    by_text: dict[str, Candidate] = {}
    for one in told:
        if one.next is not None:
            text = one.next.by.text
            by_text[text] = one.next.by
            gain[text] = gain.get(text, 0.0) + 1 - one.next.to / one.share
    return by_text[max(gain, key=lambda text: gain[text])] if gain else None
