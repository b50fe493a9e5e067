"""What to switch on for a load test: near the fuel's output, never over, the legs balanced."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

from gentle_ember.core.figure import Method

LEAST, AIM = 0.80, 0.92
"""Share of the fuel's output here a test counts from, and what is aimed at: room for the day."""
BALANCE_WEIGHT = 0.6
"""How much a watt between the legs counts against a watt off the aim."""

BANK = Method(
    "load-bank", "Loads to switch on",
    "least |Σ watts − aim| + 0.6·|leg A − leg B|, Σ ≤ output, each leg ≤ its share of the rating",
    "integer programme over what is at hand (scipy.optimize.milp)", "load-test",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Load:
    """Something to load a set with: its draw [W], how many there are, and which legs it can go on.

    `leg` is a or b for one that can't be moved, both for one across both legs, any otherwise.
    """

    key: str
    name: str
    watts: float
    count: int
    leg: str = "any"


@dataclass(frozen=True, slots=True)
class Switched:
    """A load switched on: how many of it, and on which leg."""

    load: Load
    count: int
    leg: str

    @property
    def watts(self) -> float:
        """What they draw together [W]."""
        return self.count * self.load.watts


@dataclass(frozen=True, slots=True)
class Bank:
    """A plan of loads: what goes on where, what it comes to, and whether that counts as a test."""

    on: tuple[Switched, ...]
    total_w: float
    legs_w: tuple[float, ...]
    enough: bool
    short_w: float
    """What is missing to a load that counts [W]; nought when there is enough."""


def plan_bank(loads: Sequence[Load], output_w: float, rating_w: float, legs: int) -> Bank:
    """The loads to switch on.

    Args:
        loads: what is at hand.
        output_w: what the fuel gives here [W]; never exceeded.
        rating_w: the set's running rating [W]; each leg carries its share of it.
        legs: one or two.

    Returns:
        The plan nearest to the aim; nothing switched on when nothing fits.

    >>> heater = Load("h", "heater", 1500.0, 4)
    >>> found = plan_bank([heater], 5000.0, 6000.0, 2)
    >>> found.total_w, sorted(found.legs_w), found.enough
    (4500.0, [1500.0, 3000.0], True)
    """
    places = [
        (load, leg)
        for load in loads
        if 0 < load.watts <= output_w and load.count > 0
        for leg in _legs(load, legs)
    ]
    if not places:
        return Bank((), 0.0, (0.0,) * legs, False, LEAST * output_w)
    chosen = _solve(places, loads, output_w, rating_w, legs)
    on = tuple(
        Switched(load, count, leg)
        for (load, leg), count in zip(places, chosen, strict=True)
        if count
    )
    total = sum(one.watts for one in on)
    legs_w = tuple(_on_leg(on, name) for name in ("a", "b")[:legs])
    least = LEAST * output_w
    return Bank(on, total, legs_w, total >= least, max(0.0, least - total))


def _legs(load: Load, legs: int) -> tuple[str, ...]:
    if legs == 1:
        return ("a",)
    return ("a", "b") if load.leg == "any" else (load.leg,)


def _on_leg(on: Sequence[Switched], leg: str) -> float:
    return sum(one.watts * _share(one.leg, leg) for one in on)


def _share(place: str, leg: str) -> float:
    return 0.5 if place == "both" else float(place == leg)


def _solve(
    places: Sequence[tuple[Load, str]],
    loads: Sequence[Load],
    output_w: float,
    rating_w: float,
    legs: int,
) -> list[int]:
    """How many on each place: integers, with what is off the aim and out of balance as costs."""
    n = len(places)
    watts = np.array([load.watts for load, _ in places])
    tilt = np.array([load.watts * (_share(leg, "a") - _share(leg, "b")) for load, leg in places])
    if legs == 1:
        tilt = np.zeros(n)
    # Two more unknowns after the counts: how far off the aim, how far out of balance.
    off, lean = np.eye(n + 2)[n], np.eye(n + 2)[n + 1]
    wide = np.concatenate([watts, [0.0, 0.0]])
    tilted = np.concatenate([tilt, [0.0, 0.0]])
    rows = [wide, wide + off, wide - off, tilted - lean, -tilted - lean]
    aim = AIM * output_w
    low = [-np.inf, aim, -np.inf, -np.inf, -np.inf]
    high = [output_w, np.inf, aim, 0.0, 0.0]
    for leg in ("a", "b")[:legs]:
        rows.append(
            np.concatenate([[load.watts * _share(at, leg) for load, at in places], [0.0, 0.0]])
        )
        low.append(-np.inf)
        high.append(rating_w / legs)
    for load in loads:
        mine = np.array([float(one is load) for one, _ in places])
        if mine.any():
            rows.append(np.concatenate([mine, [0.0, 0.0]]))
            low.append(-np.inf)
            high.append(load.count)
    # The least thing counts too: of two equal plans the one with fewer plugs to push in.
    cost = np.concatenate([np.full(n, 1.0), [1.0, BALANCE_WEIGHT]])
    found = milp(
        cost,
        constraints=LinearConstraint(np.array(rows), np.array(low), np.array(high)),
        integrality=np.concatenate([np.ones(n), [0, 0]]),
        bounds=Bounds(0, np.concatenate([[load.count for load, _ in places], [np.inf, np.inf]])),
    )
    if found.x is None:
        return [0] * n
    return [round(value) for value in found.x[:n]]
