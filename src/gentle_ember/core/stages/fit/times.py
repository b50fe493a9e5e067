"""How long a step takes: the book's figure, drawn toward what this shop took before."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding

WEIGHT = 3.0
"""The book's figure counts as this many of the shop's own."""
SPREAD = 1.6
"""A step of a kind takes up to this many times, or this fraction of, its usual time."""
LEAST_S, MOST_S = 15, 4 * 3600
"""Outside of this a record says more about the clock than about the work."""
METHOD = Method(
    "fit-time",
    "Bench time",
    "exp((3·ln book + Σ ln own) ÷ (3 + n)) for each kind of step, times how many",
    "log-normal times with the book's figure as a prior worth three records",
    "fit-times",
)


@dataclass(frozen=True, slots=True)
class LearnedTime:
    """What a shop took for a kind of step: how often, and the sum of logarithms of minutes."""

    count: int = 0
    log_sum: float = 0.0


def learn(records: Iterable[tuple[str, float]]) -> dict[str, LearnedTime]:
    """Times by kind of step.

    Args:
        records: kind and seconds of each step done; what can't be a step's time is left out.

    >>> learn([("stud", 600.0), ("stud", 1e9)])["stud"].count
    1
    """
    found: dict[str, LearnedTime] = {}
    for kind, seconds in records:
        if LEAST_S <= seconds <= MOST_S:
            held = found.get(kind, LearnedTime())
            found[kind] = LearnedTime(held.count + 1, held.log_sum + math.log(seconds / 60.0))
    return found


def minutes(book: float, learned: LearnedTime | None) -> float:
    """Minutes a step is expected to take.

    >>> round(minutes(10.0, None), 2), round(minutes(10.0, LearnedTime(3, 3 * math.log(20.0))), 2)
    (10.0, 14.14)
    """
    if learned is None or not learned.count:
        return book
    total = WEIGHT * math.log(book) + learned.log_sum
    return math.exp(total / (WEIGHT + learned.count))


def whole(
    label: str, steps: Iterable[tuple[str, float]], times: Mapping[str, LearnedTime]
) -> Figure:
    """Bench time of some steps [s], with its band.

    Args:
        label: what it is the time of.
        steps: kind and book's minutes of each.
        times: what the shop took.
    """
    total, variance, own, number = 0.0, 0.0, 0, 0
    for kind, book in steps:
        expected = minutes(book, times.get(kind)) * 60.0
        total += expected
        variance += (expected * (SPREAD - 1.0)) ** 2
        own += times.get(kind, LearnedTime()).count
        number += 1
    # Delays of one afternoon go together more than steps of many: half of each.
    spread = 0.5 * math.sqrt(variance) + 0.15 * total
    return Figure(
        "fit.time",
        label,
        total,
        "duration",
        METHOD,
        Band(max(0.0, total - spread), total + 1.5 * spread),
        (
            Input("steps", float(number), "count"),
            Input("times of this shop they rest on", float(own), "count", Origin.MEASURED),
            Input("book's figure counts as", WEIGHT, "count", Origin.ASSUMED),
        ),
        rounding=Rounding.UP,
        estimated=True,
        narrows=("time the steps: bench mode does it by itself",),
    )
