"""What a setting of the load screw costs in fuel and CO, beside the leanest that will do.

The middle of the plateau is rich of what burns all of the gas. It buys a start, a load step and a
mixture that leans toward part load; the leanest that loses 1 % of output saves gas and smells less.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding, spread
from gentle_ember.core.job.metering import Ran, Taken
from gentle_ember.core.physics.exhaust import MONOXIDE, UNEVEN, monoxide
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.physics.mixture import Metered
from gentle_ember.core.stages.first_start.metering.curve import Array, Curves
from gentle_ember.core.stages.first_start.metering.sweep import EIGHTH, FINE, on_screw
from gentle_ember.core.stages.fuel_path.mixture import lam_at

BEST_LAMBDA, BEST_BAND = 0.90, 0.04
"""λ of most output of a small engine on gas, and how far it may be off, where no probe was read."""
PROBE_BAND = 0.03
GIVES_UP = 0.01
"""Output the leaner of the two settings gives up [1]."""
LEANEST = 1.05
"""No setting is leaner than this, whatever it loses: it would miss before part load [1]."""
BEST_OF = 0.995
SET_LAMBDA = Method(
    "setting-lambda", "λ of a setting", "λ = (turns · λ where it is known) / turns",
    "gas goes with the screw's opening; a probe's readings, else most output taken as λ 0.90",
    "metering",
)  # fmt: skip
SET_FUEL = Method(
    "setting-fuel", "Fuel for the same work", "(λ lean · output lean) / (λ · output)",
    "same air with the throttle open, so fuel goes with 1/λ; output by the sweep's curve",
    "metering",
)  # fmt: skip
SET_LOST = Method(
    "setting-lost", "Output given up", "1 − output there / most output, by the sweep's curve",
    "the middle of all curves that fit the readings", "metering",
)  # fmt: skip
LEAN_DROPPED = Method(
    "lean-drop", "Lean drop",
    "leanest with 99.5 % of the best, an eighth of a turn back; a sixteenth below one turn",
    "practice: leaned until the speed sags, then back a little", "metering",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Cost:
    """One setting: where, λ at full and half load, what it gives up, what it burns and leaves."""

    key: str
    name: str
    turns: float
    lam: Figure
    lam_half: Figure | None
    lost: Figure
    fuel: Figure
    monoxide: Figure


def probed_product(taken: Sequence[Taken]) -> float | None:
    """turns · λ by the readings with a probe; None without one [turns]."""
    found = [one.turns * one.lam for one in taken if one.lam and one.ran is not Ran.DIED]
    return sum(found) / len(found) if found else None


def leanest_allowed(curves: Curves, taken: Sequence[Taken]) -> float:
    """The leanest place no setting goes past: λ 1.05 by the probe, or by most output [turns]."""
    probed = probed_product(taken)
    best = float(curves.turns[int(curves.mean.argmax())])
    return (BEST_LAMBDA * best if probed is None else probed) / LEANEST


def lean_drop(curves: Curves, taken: Sequence[Taken]) -> float:
    """The setting of a practiced hand without figures: leanest of the best, then back a little;
    never leaner than λ 1.05 [turns]."""
    height = curves.mean
    good = curves.turns[height >= BEST_OF * height.max()]
    lean = float(good.min())
    return max(lean + (EIGHTH if lean >= 1.0 else FINE), leanest_allowed(curves, taken))


def costs(
    fuel: FuelKey, curves: Curves, setting: float, taken: Sequence[Taken], throat: Metered | None
) -> tuple[Cost, ...]:
    """A setting, and the leanest that gives up 1 % of output, side by side; the leanest first.

    Args:
        fuel: the gas.
        curves: what the readings say of the whole curve.
        setting: where it is to be locked, as a hand sets it [turns].
        taken: the readings.
        throat: for λ at half load; None where nothing is metered by one.
    """
    height = curves.mean / curves.mean.max()
    best = float(curves.turns[int(height.argmax())])
    probed = probed_product(taken)
    product = BEST_LAMBDA * best if probed is None else probed
    good = curves.turns[(height >= 1 - GIVES_UP) & (curves.turns >= leanest_allowed(curves, taken))]
    leanest = on_screw(float(good.min()), plateau=0.0) if len(good) else setting
    places = [("leanest", "Leanest that gives up 1 %", leanest), ("set", "As set", setting)]
    if leanest >= setting:
        places = places[1:]
    first = places[0][2]
    return tuple(
        _cost(key, name, at, first, fuel, curves.turns, height, product, probed is not None, throat)
        for key, name, at in places
    )


def _cost(
    key: str, name: str, at: float, first: float, fuel: FuelKey, turns: Array, height: Array,
    product: float, probed: bool, throat: Metered | None,
) -> Cost:  # fmt: skip
    lam, share = product / at, PROBE_BAND if probed else BEST_BAND
    inputs = (
        Input("turns", at, "turns"),
        Input("turns · λ", product, "turns", Origin.MEASURED if probed else Origin.ASSUMED),
    )
    probe = ("a probe in the exhaust",)
    band = spread(lam, share)
    shown = Figure(f"cost.{key}.lam", "λ at full load", lam, "ratio", SET_LAMBDA, band, inputs,
                   rounding=Rounding.UP, estimated=not probed, narrows=probe)  # fmt: skip
    here, there = (float(np.interp(place, turns, height)) for place in (at, first))
    lost = max(0.0, 1 - here)
    burnt = (product / first * there) / (lam * here)
    most = monoxide(fuel, min(2.0, max(0.6, band.low))) + UNEVEN
    left = monoxide(fuel, min(2.0, max(0.6, lam))) + UNEVEN
    return Cost(
        key, name, at, shown, _at_half(key, throat, lam, band, inputs),
        Figure(f"cost.{key}.lost", "output given up", lost, "share", SET_LOST,
               Band(max(0.0, lost - 0.003), lost + 0.003), inputs[:1], rounding=Rounding.UP,
               estimated=True, narrows=("another reading near it",)),
        Figure(f"cost.{key}.fuel", "fuel for the same work", burnt, "share", SET_FUEL,
               spread(burnt, 0.01), inputs, rounding=Rounding.UP, estimated=True, narrows=probe),
        Figure(f"cost.{key}.co", "CO in the exhaust", left, "share", MONOXIDE,
               Band(UNEVEN, most) if left > UNEVEN else Band(UNEVEN, max(UNEVEN, most)),
               (Input("λ at full load", lam, "ratio"),), rounding=Rounding.UP, estimated=True,
               narrows=("a CO meter in the exhaust",)),
    )  # fmt: skip


def _at_half(
    key: str, throat: Metered | None, lam: float, band: Band, inputs: tuple[Input, ...]
) -> Figure | None:
    if throat is None:
        return None
    found = [lam_at(replace(throat, set_to=one), 0.5) for one in (band.low, lam, band.high)]
    low, middle, high = sorted(found)
    return Figure(
        f"cost.{key}.half", "λ at half load", middle, "ratio", SET_LAMBDA, Band(low, high),
        inputs, rounding=Rounding.UP, estimated=True,
        narrows=("a probe in the exhaust, at half load",),
    )  # fmt: skip


def of_each(found: tuple[Cost, ...]) -> Iterator[Figure]:
    """Every figure of the settings side by side."""
    for one in found:
        yield from (one.lam, one.lost, one.fuel, one.monoxide)
        if one.lam_half is not None:
            yield one.lam_half
