"""What a load screw and a jet are first set to, before anything was measured on the set."""

from __future__ import annotations

from gentle_ember.core.base.figure import Figure, Input, Origin, spread
from gentle_ember.core.estimates.defaults import EFFICIENCY, Machine, leaner_by_fuel
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.fuels import (
    PROPANE,
    Fuel,
)
from gentle_ember.core.physics.load_screw import HORSEPOWER_W, SCREW_START, area_ratio

POWER_BAND = 0.40


def by_power(machine: Machine, shaft_w: float | None, fuel: Fuel, barrels: int) -> Figure:
    """A quarter turn per shaft horsepower, shared by the barrels; other gases by area.

    Args:
        machine: the set as resolved.
        shaft_w: shaft power as told [W]; None takes the rating over the alternator's efficiency.
        fuel: the gas.
        barrels: load screws that share the engine.
    """
    shaft = shaft_w or machine.rated.value / EFFICIENCY
    ratio = area_ratio(PROPANE, fuel)
    turns = 0.25 * shaft / HORSEPOWER_W * ratio / barrels
    inputs = (
        Input("shaft power", shaft, "power", Origin.OWNER if shaft_w else Origin.COMPUTED,
              "set.shaft_power"),
        Input("area ratio to propane", ratio, "ratio"),
        Input("load screws", barrels, "count"),
    )  # fmt: skip
    return Figure(
        "start.power", "quarter turn per shaft hp", turns, "turns", SCREW_START,
        spread(turns, POWER_BAND), inputs, estimated=True,
        narrows=("the shaft power, from the engine's plate", "the maker's preset"),
    )  # fmt: skip


def by_density_at(job: Job, elevation_m: float) -> float | None:
    """Number the density rule asks for at an elevation; None until the jet's number is known."""
    numbers, made = job.set.carburetor.jets, job.set.carburetor.jetted_at
    number = numbers.made_with
    if number is None:
        return None
    made_ratio = jets.density_ratio(made.value if made else 0.0)
    ratio = jets.density_ratio(elevation_m)
    number_here = jets.by_density(number.value, made_ratio, ratio, bore=numbers.by_bore)
    return jets.for_fuel(number_here, leaner_by_fuel(job.set), bore=numbers.by_bore)
