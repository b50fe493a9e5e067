"""What to switch on for a load test: near the fuel's output, never over, the legs balanced."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import permutations
from typing import Literal

import numpy as np

from gentle_ember.core.base.cached import remember
from gentle_ember.core.base.figure import Method

LEAST, AIM = 0.80, 0.92
"""Share of the fuel's output here a test counts from, and what is aimed at: room for the day."""
NEAR, MOST_NODES = 0.02, 100
"""Share of the aim a plan may lie from the best one, and how far the search may go: counted in
nodes and not in seconds, so that a busy machine gives the same plan."""
BALANCE_WEIGHT = 0.6
"""How much a watt between the legs counts against a watt off the aim."""

BANK = Method(
    "load-bank", "Loads to switch on",
    "least |Σ watts − aim| + 0.6·(fullest leg − emptiest), Σ ≤ output, each leg ≤ its share of the "
    "rating",
    "integer program over what is at hand (scipy.optimize.milp)", "load-test",
)  # fmt: skip


Leg = Literal["a", "b", "c", "both"]
NAMED: tuple[Leg, ...] = ("a", "b", "c")


@dataclass(frozen=True, slots=True)
class BankLoad:
    """Something to load a set with: its draw [W], how many there are, and which legs it can go on.

    `leg` is a, b or c for one that can't be moved, both for one across all legs, any otherwise.
    """

    key: str
    name: str
    watts: float
    count: int
    leg: Leg | Literal["any"] = "any"


@dataclass(frozen=True, slots=True)
class Switched:
    """A load switched on: how many of it, and on which leg."""

    load: BankLoad
    count: int
    leg: Leg

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


@remember(64)
def plan_bank(loads: tuple[BankLoad, ...], output_w: float, rating_w: float, legs: int) -> Bank:
    """The loads to switch on.

    Args:
        loads: what is at hand.
        output_w: what the fuel gives here [W]; never exceeded.
        rating_w: the set's running rating [W]; each leg carries its share of it.
        legs: one, two, or three phases.

    Returns:
        The plan nearest to the aim; nothing switched on when nothing fits.

    >>> heater = BankLoad("h", "heater", 1500.0, 4)
    >>> found = plan_bank((heater,), 5000.0, 6000.0, 2)
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
    legs_w = tuple(_on_leg(on, name, legs) for name in NAMED[:legs])
    least = LEAST * output_w
    return Bank(on, total, legs_w, total >= least, max(0.0, least - total))


def _legs(load: BankLoad, legs: int) -> tuple[Leg, ...]:
    if legs == 1:
        return ("a",)
    return NAMED[:legs] if load.leg == "any" else (load.leg,)


def _on_leg(on: Sequence[Switched], leg: str, legs: int) -> float:
    return sum(one.watts * _share(one.leg, leg, legs) for one in on)


def _share(place: str, leg: str, legs: int) -> float:
    return 1 / legs if place == "both" else float(place == leg)


def _solve(
    places: Sequence[tuple[BankLoad, str]],
    loads: Sequence[BankLoad],
    output_w: float,
    rating_w: float,
    legs: int,
) -> list[int]:
    """How many on each place: integers, with what is off the aim and out of balance as costs."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    n = len(places)
    watts = np.array([load.watts for load, _ in places])
    names = NAMED[:legs]
    on_leg = {
        name: np.array([load.watts * _share(leg, name, legs) for load, leg in places])
        for name in names
    }
    # Three more unknowns after the counts: how far off the aim, how far out of balance, and a one
    # whose cost is the aim, so that the gap at which the search ends is a share of it.
    wide = np.append(watts, np.zeros(3))
    off, lean = np.eye(n + 3)[n], np.eye(n + 3)[n + 1]
    aim = AIM * output_w
    rows = [wide, wide + off, wide - off]
    low = [-np.inf, aim, -np.inf]
    high = [output_w, np.inf, aim]
    for one, other in permutations(names, 2):
        rows.append(np.append(on_leg[one] - on_leg[other], np.zeros(3)) - lean)
        low.append(-np.inf)
        high.append(0.0)
    for name in names:
        rows.append(np.append(on_leg[name], np.zeros(3)))
        low.append(-np.inf)
        high.append(rating_w / legs)
    for load in loads:
        mine = [float(one is load) for one, _ in places]
        if any(mine):
            rows.append(np.append(mine, np.zeros(3)))
            low.append(-np.inf)
            high.append(load.count)
    # Of two equal plans the one with fewer plugs to push in.
    found = milp(
        np.append(np.ones(n), [1.0, BALANCE_WEIGHT, aim]),
        constraints=LinearConstraint(np.array(rows), np.array(low), np.array(high)),
        integrality=np.append(np.ones(n), np.zeros(3)),
        bounds=Bounds(
            np.append(np.zeros(n + 2), 1.0),
            np.append([load.count for load, _ in places], [np.inf, np.inf, 1.0]),
        ),
        options={"mip_rel_gap": NEAR, "node_limit": MOST_NODES},
    )
    if found.x is None:
        return [0] * n
    return [round(value) for value in found.x[:n]]
