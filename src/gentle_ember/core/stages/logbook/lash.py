"""How fast the exhaust valve's seat wears, by the lash found at each look, and what is left of it.

Lash closes as the seat recedes: what it was set to less what is found next, over the hours on gas
between. A feeler tells a lash to a step of 0.025 mm (0.001 in), so two looks tell their difference
to 1.4 of them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date
from itertools import pairwise

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.job.logbook import HOUR_S, Logbook
from gentle_ember.core.physics.fuels import GASES
from gentle_ember.core.stages.logbook.hours import RunHours

FEELER_M = 0.0254e-3
"""One step of a set of feelers [m]."""
LEAST_M = 0.05e-3
"""Lash under which the valve may stay open hot and burn [m]; the set's manual comes first."""
PER_S = 100 * HOUR_S
GAS: frozenset[str] = frozenset(map(str, GASES))
"""Fuels that wear the seat; hours of a fuel nobody told are left out, which makes the wear more."""
RECESSION = Method(
    "lash-trend", "Wear of the exhaust seat",
    "Σ (lash left − lash found next) / Σ hours on gas between",
    "lash closes as the seat recedes; each look told to a feeler's step of 0.025 mm (0.001 in)",
    "upkeep",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class LashTrend:
    """Wear in 100 h on gas, what lash was left at the last look, and how long that lasts [s].

    `lasts_s` counts from the last look, by the upper end of the wear, `left_s` from now; both
    None while none shows.
    """

    wear: Figure
    left_m: float
    lasts_s: float | None
    left_s: float | None
    looks: int


def _looks(log: Logbook) -> list[tuple[date, float, float]]:
    """Each look with its day, the lash found and the lash it was left at [m]."""
    found = []
    for one in log.upkeep.values():
        if one.task == "lash" and one.on and one.lash is not None:
            left = one.set_to.value if one.set_to else one.lash.value
            found.append((date.fromisoformat(one.on), one.lash.value, left))
    return sorted(found, key=lambda look: look[0])


def _hours(runs: tuple[RunHours, ...], since: date, until: date) -> float:
    return sum(
        one.seconds or 0.0 for one in runs
        if one.day and since <= one.day < until and one.run.fuel in GAS
    )  # fmt: skip


def _since(runs: tuple[RunHours, ...], look: date) -> float:
    """What may have worn it since a look: what nobody said the fuel or the day of, too."""
    return sum(
        one.seconds or 0.0 for one in runs
        if one.run.fuel in GAS | {""} and (one.day is None or one.day >= look)
    )  # fmt: skip


def lash_trend(log: Logbook, runs: tuple[RunHours, ...]) -> LashTrend | None:
    """The wear as the looks tell it; None before two looks with gas burnt between them."""
    looks = _looks(log)
    worn = ran = 0.0
    settings = 1
    for (since, _, left), (until, found, then) in pairwise(looks):
        worn += left - found
        ran += _hours(runs, since, until)
        settings += then != found
    if len(looks) < 2 or ran <= 0:
        return None
    settings -= looks[-1][2] != looks[-1][1]
    off = FEELER_M * math.sqrt(2 * max(1, settings)) / ran
    value = worn / ran
    high = value + off
    left_m = looks[-1][2]
    wear = Figure(
        "lash.wear", "exhaust seat wears, in 100 h on gas", value * PER_S, "clearance",
        RECESSION,
        Band((value - off) * PER_S, high * PER_S),
        (
            Input("lash closed, all looks together", worn, "clearance", Origin.MEASURED),
            Input("hours on gas between", ran, "duration", Origin.OWNER),
            Input("looks", float(len(looks)), "count", Origin.MEASURED),
        ),
        rounding=Rounding.UP, estimated=True, narrows=("lash measured at the next look",),
    )  # fmt: skip
    lasts = max(0.0, left_m - LEAST_M) / high if high > 0 else None
    left_s = None if lasts is None else lasts - _since(runs, looks[-1][0])
    return LashTrend(wear, left_m, lasts, left_s, len(looks))


def lash_left(log: Logbook, runs: tuple[RunHours, ...]) -> float | None:
    """How long the set may run before its lash may be used up [s]; None while no wear shows."""
    found = lash_trend(log, runs)
    return found.left_s if found else None
