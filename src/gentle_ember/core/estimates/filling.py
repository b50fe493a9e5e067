"""The air an engine's cylinders can draw, by their size and speed, against what its fuel wants."""

from __future__ import annotations

import math

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, spread
from gentle_ember.core.estimates.defaults import Machine, fuel_line
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.physics import air
from gentle_ember.core.physics.fuel_use import INVERTERS, SetClass
from gentle_ember.core.physics.fuels import GASOLINES
from gentle_ember.core.physics.output import LAMBDA_AS_JETTED

MOST_FILLING = 0.85
"""Volumetric efficiency no small air-cooled engine of the trade comes past, throttle open [1]."""
USUAL_FILLING = (0.50, 1.00)
"""Past these the rating, the displacement or the class is not right, with its band counted [1]."""
FILLING_BAND = 0.20
FILLING = Method(
    "filling", "Volumetric efficiency at the rating",
    "air of the rated load / (displacement × speed / 2 × density)",
    "air by the fuel line and λ as jetted; two-pole alternators turn 3,600 or 3,000 rpm, "
    "four-pole ones half of that", "air",
)  # fmt: skip


def cycles_per_s(generator: GeneratorSet) -> float | None:
    """Intake strokes of one cylinder a second at the set's frequency; None where it varies."""
    if generator.set_class in INVERTERS:
        return None
    if generator.bare:
        return generator.rated_speed.value / (4 * math.pi) if generator.rated_speed else None
    fifty = generator.hertz is not None and generator.hertz.value < 55
    turns = 50.0 if fifty else 60.0
    return turns / (4 if generator.set_class is SetClass.LOW_SPEED else 2)


def swept_m3_s(generator: GeneratorSet) -> float | None:
    """Volume its cylinders sweep as they draw [m³/s]; None where size or speed is not known."""
    cycles = cycles_per_s(generator)
    if generator.displacement is None or cycles is None:
        return None
    return generator.displacement.value * cycles


def most_air_kg_s(generator: GeneratorSet, density: float) -> float | None:
    """The most air its cylinders draw at a density [kg/s]; None where it can't be told."""
    swept = swept_m3_s(generator)
    return None if swept is None else MOST_FILLING * swept * density


def filling_at_rating(generator: GeneratorSet, resolved: Machine) -> Figure | None:
    """How full its cylinders must be at the rating; None where size or speed is not known."""
    swept = swept_m3_s(generator)
    if swept is None:
        return None
    gasoline = GASOLINES[generator.gasoline]
    burnt = fuel_line(generator, resolved.rated.value).fuel_w(resolved.rated.value)
    drawn = burnt / gasoline.lhv_j_kg * gasoline.air_fuel_ratio * LAMBDA_AS_JETTED
    pressure = air.pressure(resolved.rating_elevation.value)
    density = air.density(pressure, resolved.rating_temperature.value)
    size = generator.displacement
    value = drawn / (swept * density)
    return Figure(
        "set.filling", "cylinders filled at the rating", value, "ratio", FILLING,
        spread(value, FILLING_BAND),
        (resolved.rated.input,
         Input("displacement", size.value if size else 0.0, "displacement",
               size.origin if size else Origin.ASSUMED, "set.displacement"),
         Input("air for its fuel at that load", drawn, "mass_flow"),
         Input("density of the rating's air", density, "density")),
        estimated=True, narrows=("fuel weighed near the rating",),
    )  # fmt: skip
