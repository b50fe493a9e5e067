"""Everything that was read, taken together: least squares with priors, and what to read next.

Unknowns carry what is known of them before anything was read (a middle and a standard error);
readings are compared with what the unknowns foretell of them. The unknowns that fit best, their
covariance, and what one more reading would take away follow by Gauss and Newton.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Foretold = Callable[[Array], Array]
"""What unknowns (n,) foretell of readings (m,)."""

STRAY = 3.0
"""A reading this many standard errors from what all the others say does not belong to them."""
VAGUE = 3.0
"""How much less is made of what was known before, while strays are looked for."""
MOST_STRAYS = 3
"""Readings left out as strays at most: with more, it is not they that are wrong."""
STEP = 1e-4


@dataclass(frozen=True, slots=True)
class Unknown:
    """Something not known of a set, as a number about which readings tell.

    `middle` and `sigma` are what is known before: a normal spread, of a logarithm mostly.
    """

    key: str
    middle: float
    sigma: float


@dataclass(frozen=True)
class Estimate:
    """The unknowns that fit best (n,), their covariance (n, n), how far off each reading (m,).

    All by the slopes where they fit best: as good as what is foretold is straight within a band.
    """

    at: Array
    covariance: Array
    off: Array
    """Readings less what is foretold, in standard errors of the reading."""
    slopes: Array
    """What is foretold of each reading by each unknown, in standard errors of it (m, n)."""

    def spread(self, foretold: Callable[[Array], float]) -> float:
        """Standard error of something that follows from the unknowns, in its own unit."""
        slope = gradient(foretold, self.at)
        return math.sqrt(max(0.0, float(slope @ self.covariance @ slope)))

    def with_reading(
        self, foretold: Callable[[Array], float], reading: Callable[[Array], float], sigma: float
    ) -> float:
        """Standard error of the same, had one more thing been read.

        Args:
            foretold: what is asked, by the unknowns.
            reading: what the reading would give, by the unknowns.
            sigma: the reading's standard error, in its own unit.
        """
        asked, told = gradient(foretold, self.at), gradient(reading, self.at)
        return self.narrowed(asked, told, sigma)

    def narrowed(self, asked: Array, told: Array, sigma: float) -> float:
        """The same by slopes that were worked out already, each of shape (n,)."""
        shared = float(asked @ self.covariance @ told)
        now = float(asked @ self.covariance @ asked)
        noise = float(told @ self.covariance @ told) + sigma**2
        return math.sqrt(max(0.0, now - shared**2 / noise))


def gradient(of: Callable[[Array], float], at: Array) -> Array:
    """Slopes of a number by each unknown, shape (n,), by central differences."""
    found = np.empty_like(at)
    for n in range(len(at)):
        step = np.zeros_like(at)
        step[n] = STEP
        found[n] = (of(at + step) - of(at - step)) / (2 * STEP)
    return found


def take_together(
    unknowns: Sequence[Unknown],
    foretold: Foretold,
    read: Array,
    sigma: Array,
) -> Estimate:
    """The unknowns that fit priors and readings best.

    Args:
        unknowns: n of them.
        foretold: what they foretell of each reading, (n,) to (m,).
        read: the readings (m,), in the units of what is foretold.
        sigma: standard error of each (m,).

    >>> line = lambda at: np.array([at[0], at[0] + at[1], at[0] + 2 * at[1]])
    >>> vague = [Unknown("a", 0.0, 100.0), Unknown("b", 0.0, 100.0)]
    >>> found = take_together(vague, line, np.array([1.0, 3.0, 5.0]), np.full(3, 0.1))
    >>> [round(float(one), 2) for one in found.at]
    [1.0, 2.0]
    """
    from scipy.optimize import least_squares

    middles = np.array([one.middle for one in unknowns])
    widths = np.array([one.sigma for one in unknowns])

    # Counted from where they were expected, in standard errors: the search begins at nought.
    def left(steps: Array) -> Array:
        at = middles + widths * steps
        return np.concatenate([steps, (foretold(at) - read) / sigma]) if len(read) else steps

    def slopes(steps: Array) -> Array:
        rows = np.eye(len(steps))
        if not len(read):
            return rows
        at = middles + widths * steps
        columns, here = [], foretold(at)
        for n, width in enumerate(widths):
            step = np.zeros_like(at)
            step[n] = STEP
            columns.append((foretold(at + step) - here) / STEP * width / sigma)
        return np.concatenate([rows, np.array(columns).T])

    found = least_squares(left, np.zeros(len(middles)), jac=slopes, method="lm")
    steps: Array = np.asarray(found.x, dtype=np.float64)
    slope = slopes(steps)
    covariance: Array = np.asarray(np.linalg.inv(slope.T @ slope), dtype=np.float64)
    off: Array = -left(steps)[len(middles) :]
    return Estimate(
        middles + widths * steps, covariance * np.outer(widths, widths), off,
        slope[len(middles) :] / widths,
    )  # fmt: skip


def without_strays(
    unknowns: Sequence[Unknown], foretold: Foretold, read: Array, sigma: Array
) -> tuple[Estimate, tuple[int, ...]]:
    """The same, with readings left out that do not go with the others, the worst first.

    Each is held against what all the others foretell of it, their own uncertainty counted: by
    leverage, the studentized residual of known σ. What was known before counts little there: a
    set may well be unlike its class, and a reading that says so is not wrong for it.

    Returns:
        The estimate by those that are left, and the places of those that are not.
    """
    vague = [replace(one, sigma=VAGUE * one.sigma) for one in unknowns]
    left = list(range(len(read)))
    out: list[int] = []
    while True:
        keep = np.array(left, dtype=np.intp)

        def these(at: Array, keep: NDArray[np.intp] = keep) -> Array:
            return foretold(at)[keep]

        found = take_together(vague, these, read[keep], sigma[keep])
        if not left or len(out) == MOST_STRAYS:
            break
        leverage = np.einsum("mi,ij,mj->m", found.slopes, found.covariance, found.slopes)
        apart = np.abs(found.off) / np.sqrt(np.maximum(1 - leverage, 1e-9))
        worst = int(apart.argmax())
        if apart[worst] <= STRAY:
            break
        out.append(left.pop(worst))
    return take_together(unknowns, these, read[keep], sigma[keep]), tuple(out)
