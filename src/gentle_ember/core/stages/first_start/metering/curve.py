"""What the readings of a sweep say of the whole curve: a Gaussian process over the screw.

Nothing is assumed of an engine beyond what any screw shares: the mixture goes with the logarithm
of the opening, the curve is smooth there, and it falls off to both sides of a best place.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from gentle_ember.core.job.metering import Taken

Array = NDArray[np.float64]

LEVEL = 0.98
"""What counts as the plateau: this share of the best or more."""
FLOOR = 0.65
"""Below this share of the best a reading only says "far down": how far is of no use."""
FAR_SIGMA = 0.08
CLEARLY = 0.95
"""Below this share of the best a reading bounds the plateau: it lies to the other side."""
SAMPLES = 160
POINTS = 161
LENGTHS = (0.16, 0.22, 0.3, 0.45)
"""Over how much of the screw's logarithm the curve bends."""
SWING = (0.02, 0.05, 0.12)
"""How far it departs from a plain parabola, as a share of the best."""
JITTER = 1e-4
DRIFT = 0.003
"""How far an engine may drift from one reading to the next, as a share of the best: σ."""
HAND = 0.04
"""How well a hand sets a screw: σ [turns]."""
PRIOR_MEAN = np.array([0.97, 0.0, -0.35])
PRIOR_SD = np.array([0.06, 0.25, 0.35])
"""Height, tilt and bend of the parabola about the start, as shares of the best."""


@dataclass(frozen=True)
class Curves:
    """Curves that fit the readings, and the two ends of the plateau of each.

    `turns` is the grid (n,), `heights` shares of the best reading (samples, n), `lean` and `rich`
    the ends of each sample (samples,) [turns]; an end at the grid's end is one not seen.
    """

    turns: Array
    heights: Array
    lean: Array
    rich: Array
    noise: float
    """Standard error of a next reading, as a share of the best."""
    drift: float = 0.0
    """What it drifted by from one reading to the next, as a share of the best."""

    def lost(self, places: Array, at: float) -> Array:
        """Output each curve loses at a setting against its own best one, (samples,) [1].

        Args:
            places: each curve's own setting (samples,) [turns].
            at: the setting that is made [turns].
        """
        rows = np.arange(len(self.heights))
        own = self.heights[rows, np.abs(self.turns - places[:, None]).argmin(axis=1)]
        here = self.heights[:, int(np.abs(self.turns - at).argmin())]
        lost: Array = np.maximum(0.0, own - here) / self.heights.max(axis=1)
        return lost

    @property
    def mean(self) -> Array:
        """The middle of all curves (n,)."""
        middle: Array = self.heights.mean(axis=0)
        return middle

    def gain(self) -> Array:
        """How much of the ends' variance a reading at each place would take away (n,) [turns²]."""
        heights = self.heights - self.mean
        spread = (heights**2).mean(axis=0) + self.noise**2
        taken = np.zeros_like(self.turns)
        for ends in (self.lean, self.rich):
            shared = ((ends - ends.mean())[:, None] * heights).mean(axis=0)
            taken += shared**2 / spread
        return taken


def fit(readings: Sequence[Taken], start: float, span: tuple[float, float]) -> Curves:
    """Curves through a sweep's readings.

    Args:
        readings: one or more, each with a value above nought and its standard error.
        start: where the screw was expected to be right [turns].
        span: least and greatest opening looked at [turns].
    """
    best = max(one.value for one in readings)
    low, high = bounds(readings, span)
    order = np.array([float(n) for n, one in enumerate(readings) if low <= one.turns <= high])
    order -= order[-1]
    readings = [one for one in readings if low <= one.turns <= high]
    grid = np.linspace(math.log(low), math.log(high), POINTS)
    at = np.log([one.turns for one in readings])
    share = np.array([one.value / best for one in readings])
    noise = np.array([max(one.sigma / best, 5e-4) for one in readings])
    far = share < FLOOR
    share, noise = np.where(far, FLOOR, share), np.where(far, FAR_SIGMA, noise)
    # A hand's error tells most where the curve is steep: by the bend that is usual.
    steep = 2 * abs(PRIOR_MEAN[2]) * np.abs(at - at[int(share.argmax())])
    taken = _Readings(at, share, np.hypot(noise, HAND * steep / np.exp(at)), order)
    length, swing = max(
        ((length, swing) for length in LENGTHS for swing in SWING),
        key=lambda pair: _evidence(taken, math.log(start), *pair),
    )
    mean, covariance, drift = _posterior(grid, taken, math.log(start), length, swing)
    heights = mean + _normals() @ _root(covariance)
    lean, rich = _ends(np.exp(grid), heights)
    return Curves(np.exp(grid), heights, lean, rich, float(np.min(noise)), drift)


@dataclass(frozen=True)
class _Readings:
    """Readings as the process takes them: all of shape (m,)."""

    at: Array
    """Logarithm of the turns."""
    share: Array
    noise: Array
    order: Array
    """Which after which, the last nought: what drifts is nought now."""

    def covariance(self, start: float, length: float, swing: float) -> Array:
        """Of the readings with each other, drift and noise counted (m, m)."""
        drifted = DRIFT**2 * np.outer(self.order, self.order)
        curve = _kernel(self.at, self.at, start, length, swing)
        return np.asarray(curve + drifted + np.diag(self.noise**2))


def bounds(readings: Sequence[Taken], span: tuple[float, float]) -> tuple[float, float]:
    """Between which openings the plateau must lie: the nearest readings clearly below the best."""
    top = max(readings, key=lambda one: one.value)
    below = [one.turns for one in readings if one.value < CLEARLY * top.value]
    low = max((turns for turns in below if turns < top.turns), default=span[0])
    high = min((turns for turns in below if turns > top.turns), default=span[1])
    return low, high


def _kernel(left: Array, right: Array, start: float, length: float, swing: float) -> Array:
    """Matern 5/2 about a parabola whose own height, tilt and bend are uncertain."""
    apart = math.sqrt(5) * np.abs(left[:, None] - right[None, :]) / length
    smooth = swing**2 * (1 + apart + apart**2 / 3) * np.exp(-apart)
    return np.asarray(smooth + (_basis(left, start) * PRIOR_SD**2) @ _basis(right, start).T)


def _basis(at: Array, start: float) -> Array:
    off = at - start
    return np.stack([np.ones_like(off), off, off**2], axis=1)


def _posterior(
    grid: Array, taken: _Readings, start: float, length: float, swing: float
) -> tuple[Array, Array, float]:
    """Mean and covariance of the curve as it is now, and what it drifts by a reading."""
    from scipy.linalg import cho_factor, cho_solve

    factor = cho_factor(taken.covariance(start, length, swing), lower=True)
    cross = _kernel(grid, taken.at, start, length, swing)
    off = cho_solve(factor, taken.share - _basis(taken.at, start) @ PRIOR_MEAN)
    mean = _basis(grid, start) @ PRIOR_MEAN + cross @ off
    covariance = _kernel(grid, grid, start, length, swing) - cross @ cho_solve(factor, cross.T)
    return mean, covariance, float(DRIFT**2 * taken.order @ off)


def _evidence(taken: _Readings, start: float, length: float, swing: float) -> float:
    from scipy.linalg import cho_factor, cho_solve

    factor = cho_factor(taken.covariance(start, length, swing), lower=True)
    off = taken.share - _basis(taken.at, start) @ PRIOR_MEAN
    return float(-0.5 * off @ cho_solve(factor, off) - np.log(np.diag(factor[0])).sum())


def _root(covariance: Array) -> Array:
    """A root of the covariance, a hundredth of a percent added so that it has one."""
    jitter = JITTER**2 * np.eye(len(covariance))
    return np.asarray(np.linalg.cholesky(covariance + jitter).T)


@lru_cache(maxsize=1)
def _normals() -> Array:
    return np.random.default_rng(20261).standard_normal((SAMPLES, POINTS))


def _ends(turns: Array, heights: Array) -> tuple[Array, Array]:
    """Where each curve crosses the level to both sides of its best place."""
    best = heights.argmax(axis=1)
    level = LEVEL * heights.max(axis=1)
    columns = np.arange(heights.shape[1])
    below = heights < level[:, None]
    left = np.where(below & (columns < best[:, None]), columns, -1).max(axis=1)
    right = np.where(below & (columns > best[:, None]), columns, len(columns)).min(axis=1)
    rows = np.arange(len(heights))

    def crossing(outside: Array, inside: Array) -> Array:
        low, high = heights[rows, outside], heights[rows, inside]
        share = np.clip((level - low) / np.where(high == low, 1.0, high - low), 0.0, 1.0)
        return np.asarray(turns[outside] + share * (turns[inside] - turns[outside]))

    lean = np.where(left < 0, turns[0], crossing(np.maximum(left, 0), np.maximum(left, 0) + 1))
    last = len(columns) - 1
    outside = np.minimum(right, last)
    rich = np.where(right > last, turns[-1], crossing(outside, outside - 1))
    return lean, rich
