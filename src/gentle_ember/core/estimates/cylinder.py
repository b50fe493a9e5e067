"""Cylinder section: hours to empty and to starve, mass left behind, chill curve, what helps."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from gentle_ember.core.base.cached import remember
from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding, exact
from gentle_ember.core.physics import air
from gentle_ember.core.physics.cylinder import (
    CHILL,
    CONTENTS,
    FIRST_STAGE_MINIMUM_PA,
    SHELTERS,
    Chill,
    CylinderSize,
    chill,
    continuous_draw,
    starvation_temperature,
)
from gentle_ember.core.physics.fuel_use import WILLANS, Willans
from gentle_ember.core.physics.fuels import PROPANE
from gentle_ember.core.physics.supply import MASS_DRAW, mass_draw

LONGEST_S = 30 * 86400.0
LONGEST_STEP_S = 1.5 * 3600.0
FIRST_PASS, PASSES, CLEAR_K = 20, 3, 3.0
U_ENDS = (0.75, 1.35)
NARROWS = (
    "weigh the cylinder before and after a run (contents and fuel use)",
    "frost height after an hour under load (heat taken from the air)",
)
GAIN = Method(
    "cylinder-gain", "Gain", "run with the change − run as it is", "the two runs", "cylinder"
)


@dataclass(frozen=True, slots=True)
class CylinderCase:
    """One question: this many of this size, this full [kg each], at this air, at this load [W]."""

    size: CylinderSize
    count: int
    contents_kg: float
    ambient_k: float
    load_w: float
    line: Willans
    elevation_m: float = 0.0
    shelter: str = "still_air"
    contents_origin: Origin = Origin.ASSUMED
    first_stage_minimum_pa: float = FIRST_STAGE_MINIMUM_PA

    @property
    def lowest_k(self) -> float:
        """Starvation temperature [K]."""
        return starvation_temperature(self.elevation_m, self.first_stage_minimum_pa)


@dataclass(frozen=True, slots=True)
class Help:
    """Something that would lengthen the run: what, the hours it gives, and the gain [s]."""

    key: str
    label: str
    run: Figure
    gain_s: float

    @property
    def gain(self) -> Figure:
        """The gain with its working."""
        return Figure(
            f"gain.{self.key}",
            f"gain: {self.label}",
            self.gain_s,
            "duration",
            GAIN,
            exact(self.gain_s),
            (Input("run with it", self.run.value, "duration"),),
            rounding=Rounding.DOWN,
            estimated=True,
            narrows=self.run.narrows,
        )


@dataclass(frozen=True, slots=True)
class CylinderAnswer:
    """All a technician asks of a cylinder under a load."""

    case: CylinderCase
    run: Figure
    to_empty: Figure
    to_starve: Figure | None
    left: Figure
    contents: Figure
    draw: Figure
    continuous: Figure
    coldest: Figure
    starves_at: Figure
    dew_k: float
    curve: Chill


def course(
    case: CylinderCase,
    steps: int,
    fuel_scale: float = 1.0,
    u_scale: float = 1.0,
    near_s: float | None = None,
) -> Chill:
    """The chill of each cylinder when the draw is shared evenly, in about `steps` steps.

    A first pass finds about when it ends, unless `near_s` tells, so that a cylinder that starves
    early is stepped as finely as one that empties.
    """
    draw = mass_draw(case.line.fuel_w(case.load_w) * fuel_scale, PROPANE) / case.count
    horizon = LONGEST_S if draw <= 0 else min(LONGEST_S, 1.02 * case.contents_kg / draw + 60.0)

    def to(end_s: float, count: int) -> Chill:
        # A step much longer than the cylinder's own time constant would not settle.
        count = max(count, math.ceil(end_s / LONGEST_STEP_S))
        return chill(
            case.size,
            case.contents_kg,
            draw,
            case.ambient_k,
            case.lowest_k,
            SHELTERS[case.shelter] * u_scale,
            step_s=end_s / count,
            horizon_s=end_s,
        )

    if near_s is None:
        first = to(horizon, FIRST_PASS)
        if first.starved_s is None and min(first.temperatures_k) > case.lowest_k + CLEAR_K:
            return first if steps <= FIRST_PASS else to(horizon, steps)
        near_s = first.ended_s
    for _ in range(PASSES):
        end = min(horizon, max(60.0, 1.25 * near_s))
        found = to(end, steps)
        if found.starved_s is not None or end >= horizon:
            return found
        near_s = found.ended_s
    return to(horizon, steps)


@dataclass(frozen=True, slots=True)
class CylinderRun:
    """How long the gas comes; what stays behind where it ends by being too cold."""

    figure: Figure
    left: Figure | None

    @property
    def too_cold(self) -> bool:
        """Whether it ends by being too cold, and not by being empty."""
        return self.left is not None


@remember(1024)
def cylinder_run(case: CylinderCase, key: str, label: str) -> CylinderRun:
    """How long the gas comes: until empty or until too cold, whichever is first."""
    stated = course(case, 40)
    band = case.line.band_at(case.load_w)
    value = stated.ended_s
    low = course(case, 20, 1 + band, U_ENDS[0], 0.8 * value).ended_s
    high = course(case, 20, 1 - band, U_ENDS[1], 1.3 * value).ended_s
    run = Figure(
        key,
        label,
        value,
        "duration",
        CHILL,
        Band(min(low, value), max(high, value)),
        case_inputs(case),
        rounding=Rounding.DOWN,
        estimated=True,
        narrows=NARROWS,
    )
    if stated.starved_s is None:
        return CylinderRun(run, None)
    left_kg = stated.left_kg * case.count
    left = Figure(
        f"left.{key.removeprefix('run.')}",
        "left behind, too cold to boil",
        left_kg,
        "mass",
        CHILL,
        exact(left_kg),
        run.inputs,
        rounding=Rounding.UP,
        estimated=True,
        narrows=NARROWS,
    )
    return CylinderRun(run, left)


def case_inputs(case: CylinderCase) -> tuple[Input, ...]:
    """The inputs every figure of a cylinder shares."""
    return (
        Input("cylinders", float(case.count), "count"),
        Input("size", case.size.name, "text", Origin.TABLE),
        Input("propane in each", case.contents_kg, "mass", case.contents_origin),
        Input("air temperature", case.ambient_k, "temperature"),
        Input("load", case.load_w, "power"),
        Input("fuel power at that load (LHV)", case.line.fuel_w(case.load_w), "heat_rate"),
        Input("heat transfer coefficient", SHELTERS[case.shelter], "conductance", Origin.TABLE),
        Input("first-stage minimum", case.first_stage_minimum_pa, "pressure", Origin.TABLE),
        Input("elevation", case.elevation_m, "elevation"),
    )


def answer(case: CylinderCase, humidity: float | None = None) -> CylinderAnswer:
    """Everything about one cylinder case.

    Args:
        case: size, fill, air, load.
        humidity: relative humidity for the dew point [1]; 0.6 when not known.
    """
    inputs = case_inputs(case)
    curve = course(case, 400)
    band = case.line.band_at(case.load_w)
    fuel_w = case.line.fuel_w(case.load_w)
    draw = mass_draw(fuel_w, PROPANE)
    low, high = course(case, 120, 1 + band, U_ENDS[0]), course(case, 120, 1 - band, U_ENDS[1])
    to_empty = LONGEST_S if draw <= 0 else case.count * case.contents_kg / draw
    hold = case.count * continuous_draw(
        case.size, case.contents_kg, case.ambient_k, case.lowest_k, SHELTERS[case.shelter]
    )

    def figure(
        key: str,
        label: str,
        value: float,
        kind: str,
        ends: Band,
        rounding: Rounding,
        method: Method = CHILL,
        narrows: tuple[str, ...] = NARROWS,
    ) -> Figure:
        return Figure(
            key,
            label,
            value,
            kind,
            method,
            ends,
            inputs,
            rounding=rounding,
            estimated=narrows is NARROWS,
            narrows=narrows,
        )

    to_starve = None
    if curve.starved_s is not None:
        value = curve.starved_s
        top = high.starved_s if high.starved_s is not None else to_empty / (1 - band)
        ends = Band(min(low.ended_s, value), max(top, value))
        to_starve = figure(
            "cylinder.starve", "until too cold", value, "duration", ends, Rounding.DOWN
        )
    lefts = sorted(case.count * c.left_kg for c in (low, curve, high))
    coldest = min(curve.temperatures_k)
    coldests = sorted((coldest, min(low.temperatures_k), min(high.temperatures_k)))
    weighed = 0.0 if case.contents_origin is Origin.MEASURED else 0.10
    total = case.count * case.contents_kg
    return CylinderAnswer(
        case,
        cylinder_run(case, "cylinder.run", "runs").figure,
        figure(
            "cylinder.empty",
            "until empty",
            to_empty,
            "duration",
            Band(to_empty / (1 + band), to_empty / (1 - band)),
            Rounding.DOWN,
            MASS_DRAW,
        ),
        to_starve,
        figure(
            "cylinder.left",
            "left behind",
            case.count * curve.left_kg,
            "mass",
            Band(lefts[0], lefts[2]),
            Rounding.UP,
        ),
        figure(
            "cylinder.contents",
            "propane at the start",
            total,
            "mass",
            Band(total * (1 - weighed), total),
            Rounding.DOWN,
            CONTENTS,
        ),
        figure(
            "cylinder.draw",
            "draw",
            draw,
            "mass_flow",
            Band(draw * (1 - band), draw * (1 + band)),
            Rounding.UP,
            WILLANS,
        ),
        figure(
            "cylinder.continuous",
            "can be drawn continuously while this full",
            hold,
            "mass_flow",
            Band(hold * U_ENDS[0], hold * U_ENDS[1]),
            Rounding.DOWN,
        ),
        figure(
            "cylinder.coldest",
            "liquid gets down to",
            coldest,
            "temperature",
            Band(coldests[0], coldests[2]),
            Rounding.DOWN,
        ),
        figure(
            "cylinder.starves_at",
            "too cold below",
            case.lowest_k,
            "temperature",
            Band(case.lowest_k, case.lowest_k),
            Rounding.UP,
            narrows=("the first stage's own least inlet pressure, from its maker",),
        ),
        air.dew_point(min(max(case.ambient_k, 233.15), 323.15), humidity or 0.6),
        curve,
    )


def helps(case: CylinderCase, sizes: dict[str, CylinderSize]) -> list[Help]:
    """What would lengthen the run, best first; never a flame, the exhaust or a heater."""
    now = cylinder_run(case, "cylinder.run", "runs").figure.value
    tried: list[tuple[str, str, CylinderCase]] = []
    larger = [s for s in sizes.values() if s.nominal_kg > case.size.nominal_kg * 1.05]
    if larger:
        size = min(larger, key=lambda s: s.nominal_kg)
        share = case.contents_kg / case.size.full_kg
        contents = min(size.nominal_kg, share * size.full_kg)
        label = f"the next size, {size.name}, as full"
        tried.append(("bigger", label, replace(case, size=size, contents_kg=contents)))
    tried.append(
        (
            "second",
            "one more alongside, on check-valve pigtails",
            replace(case, count=case.count + 1),
        )
    )
    if case.shelter != "breeze":
        tried.append(("breeze", "out in a breeze, off the ground", replace(case, shelter="breeze")))
    if case.contents_kg < 0.98 * case.size.full_kg:
        tried.append(("full", "filled", replace(case, contents_kg=case.size.full_kg)))
    tried.append(("sun", "air 5 K warmer: sun, or by day", _warmer(case)))
    tried.append(("load", "a quarter less load", replace(case, load_w=0.75 * case.load_w)))
    found = []
    for key, label, other in tried:
        run = cylinder_run(other, f"help.{key}", label).figure
        if run.value > now * 1.02:
            found.append(Help(key, label, run, run.value - now))
    return sorted(found, key=lambda entry: -entry.gain_s)


def _warmer(case: CylinderCase) -> CylinderCase:
    return replace(case, ambient_k=min(case.ambient_k + 5.0, 325.0))
