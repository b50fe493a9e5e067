"""Fuel use: a Willans line from data-sheet run times, the shop's weigh-ins, or the class."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check


class SetClass(StrEnum):
    """Class of set, as a technician sorts them."""

    INVERTER_SMALL = "inverter_small"
    INVERTER = "inverter"
    OPEN_FRAME = "open_frame"
    V_TWIN = "v_twin"
    LOW_SPEED = "low_speed"
    DUAL_FUEL = "dual_fuel"
    ENGINE = "engine"
    """An engine without an alternator: its watts are those of its shaft."""


INVERTERS = (SetClass.INVERTER_SMALL, SetClass.INVERTER)

CLASS_DEFAULTS: dict[SetClass, tuple[float, float]] = {
    SetClass.INVERTER_SMALL: (0.165, 0.20),
    SetClass.INVERTER: (0.175, 0.18),
    SetClass.OPEN_FRAME: (0.17, 0.40),
    SetClass.V_TWIN: (0.20, 0.40),
    SetClass.LOW_SPEED: (0.24, 0.30),
    SetClass.DUAL_FUEL: (0.17, 0.40),
    SetClass.ENGINE: (0.21, 0.40),
}
"""Full-load efficiency on LHV and the no-load share of full-load fuel, band ± 20 %.

A bare engine's is at its shaft: an open frame's over its alternator's 0.82."""

BAND_DEFAULT, BAND_ONE_POINT, BAND_DATA_SHEET, BAND_WEIGHED = 0.20, 0.12, 0.10, 0.05
BAND_MOST = 0.30
"""A line carried far past its runs is held to this: a class's own is not further off [1]."""

WILLANS = Method(
    key="fuel-use-willans",
    name="Willans line",
    formula="fuel power = a + b · electrical power, on the lower heating value",
    source="Willans' straight line; class defaults or least squares on run times and weigh-ins",
    page="fuel-use",
)


@dataclass(frozen=True, slots=True)
class Point:
    """Fuel power [W, LHV] taken at an electrical power [W]."""

    electrical_w: float
    fuel_w: float
    weighed: bool = False
    sigma: float = 0.0
    """Standard error of the fuel power, as far as it is known [1]."""


SCALE_READS_TO = 0.05
"""What a hanging scale reads to where nobody says [kg]."""
FROST = 0.03
"""What frost and dew on a chilled cylinder may weigh, wiped before it is weighed [kg]."""
METERED = 0.01
"""Standard error of the energy delivered [1]."""


def weighing_error(burnt_kg: float, reads_to_kg: float, *, chilled: bool) -> float:
    """Standard error of fuel that was weighed before and after, as a share of it [1].

    Two weighings, each good to what the scale reads to; a chilled cylinder gathers frost.

    Args:
        burnt_kg: weight lost.
        reads_to_kg: smallest step of the scale.
        chilled: whether it is a cylinder that cools as it is emptied.

    >>> round(weighing_error(1.0, 0.05, chilled=True), 3)
    0.077
    >>> round(weighing_error(3.0, 0.005, chilled=False), 3)
    0.01
    """
    check("fuel weighed", "mass", burnt_kg, 1e-6, 1e4)
    scale = math.sqrt(2) * reads_to_kg / burnt_kg
    return math.hypot(math.hypot(scale, FROST / burnt_kg if chilled else 0.0), METERED)


@dataclass(frozen=True, slots=True)
class Willans:
    """fuel power = a_w + b · P; `band` is the relative half-width [1]."""

    a_w: float
    b: float
    band: float
    basis: str
    runs: int = 0
    """Runs it was fitted through; none for a class's line, or one scaled by one load."""
    mean_w: float = 0.0
    """Mean load of those runs [W]."""
    spread_w2: float = 0.0
    """Sum of the squares of their loads about the mean [W²]."""

    def band_at(self, electrical_w: float) -> float:
        """Relative half-width at a load [1]: wider where no run was near.

        The band is that of one run. Least squares tell the line's own at a load by the runs'
        distance from it; a class's line is never that far off, so it is held to `BAND_MOST`.

        >>> line = fit([Point(500, 9_000), Point(1250, 12_000)], SetClass.OPEN_FRAME, 5000.0)
        >>> [round(line.band_at(load), 2) for load in (875.0, 1250.0, 2500.0, 5000.0)]
        [0.1, 0.1, 0.19, 0.3]
        """
        if self.runs < 2 or self.spread_w2 <= 0:
            return self.band
        reach = math.sqrt(1 / self.runs + (electrical_w - self.mean_w) ** 2 / self.spread_w2)
        off = self.band * reach * self.fuel_w(self.mean_w) / self.fuel_w(electrical_w)
        return max(self.band, min(BAND_MOST, off))

    def fuel_w(self, electrical_w: float) -> float:
        """Fuel power [W, LHV] at an electrical power [W].

        >>> Willans(2000.0, 4.0, 0.2, "").fuel_w(1000.0)
        6000.0
        """
        check("load", "power", electrical_w, 0.0, 1e6)
        return self.a_w + self.b * electrical_w


def class_line(set_class: SetClass, rated_w: float) -> Willans:
    """The class's default line.

    Args:
        set_class: class of set.
        rated_w: running rating [W].

    >>> line = class_line(SetClass.OPEN_FRAME, 5000.0)
    >>> round(5000.0 / line.fuel_w(5000.0), 3), round(line.fuel_w(0.0) / line.fuel_w(5000.0), 2)
    (0.17, 0.4)
    """
    check("running rating", "power", rated_w, 1.0, 1e6)
    efficiency, idle_share = CLASS_DEFAULTS[set_class]
    full = rated_w / efficiency
    basis = "class default"
    return Willans(idle_share * full, (1 - idle_share) * full / rated_w, BAND_DEFAULT, basis)


def fit(points: list[Point], set_class: SetClass, rated_w: float) -> Willans:
    """Least squares through run times or weigh-ins, with a ≥ 0 and b ≥ 0.

    Weighed points, when there are two or more at clearly different loads, are used alone: they
    are this very set. One usable load scales the class's line to pass through it.

    Args:
        points: electrical and fuel power [W].
        set_class: class, for the shape of the line where one point can't give it.
        rated_w: running rating [W].

    Raises:
        QuantityError: a point that yields more than 40 % or less than 2 % efficiency under load.

    >>> line = fit([Point(1000, 6000), Point(2000, 10000)], SetClass.INVERTER, 2000.0)
    >>> round(line.a_w), round(line.b, 2)
    (2000, 4.0)
    """
    if not points:
        return class_line(set_class, rated_w)
    for point in points:
        check("load of a run", "power", point.electrical_w, 0.0, 1e6)
        check("fuel power of a run", "heat_rate", point.fuel_w, 1.0, 1e7)
        if point.electrical_w > 0.4 * point.fuel_w:
            share = point.electrical_w / point.fuel_w
            raise QuantityError("efficiency of a run", "share", share, 0.0, 0.4)
    weighed = [p for p in points if p.weighed]
    chosen = weighed if _spread(weighed, rated_w) else points
    band = BAND_WEIGHED if chosen is weighed else BAND_DATA_SHEET
    if not _spread(chosen, rated_w):
        line = class_line(set_class, rated_w)
        scale = sum(p.fuel_w for p in chosen) / sum(line.fuel_w(p.electrical_w) for p in chosen)
        basis = "class shape through one load"
        read = max(p.sigma for p in chosen)
        return Willans(line.a_w * scale, line.b * scale, max(BAND_ONE_POINT, 2 * read), basis)
    matrix = np.array([[1.0, p.electrical_w / rated_w] for p in chosen])
    target = np.array([p.fuel_w / rated_w for p in chosen])
    # Runs count by how well each was weighed; alike where nothing tells them apart.
    errors = np.array([max(p.sigma, band / 2) for p in chosen])
    weight = errors.min() / errors
    band = max(band, 2 * math.sqrt(float((weight**2 * errors**2).sum() / (weight**2).sum())))
    from scipy.optimize import nnls

    solution, _ = nnls(matrix * weight[:, None], target * weight)
    residual = float(np.max(np.abs(matrix @ solution - target) / target))
    basis = f"{len(chosen)} {'weigh-ins' if chosen is weighed else 'run times'}"
    a_w, b = float(solution[0]) * rated_w, float(solution[1])
    loads = np.array([p.electrical_w for p in chosen])
    about = float(((loads - loads.mean()) ** 2).sum())
    return Willans(a_w, b, max(band, residual), basis, len(chosen), float(loads.mean()), about)


def _spread(points: list[Point], rated_w: float) -> bool:
    """Whether the loads lie far enough apart to give a slope."""
    loads = [p.electrical_w for p in points]
    return len(loads) >= 2 and max(loads) - min(loads) >= 0.15 * rated_w
