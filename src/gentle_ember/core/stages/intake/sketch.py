"""The site sketch: distances and stand-offs between what stands where, measured as it is drawn."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rounding, exact
from gentle_ember.core.job.site import Site, SketchItem
from gentle_ember.core.stage import Plan

LEAST_OPENING_M, LEAST_CYLINDER_M = 6.0, 1.5
EXHAUST_HALF_ANGLE, EXHAUST_REACH_M = 45.0, 6.0
"""A cylinder within this angle of the exhaust's bearing and this near is behind the exhaust."""

DISTANCE = Method(
    "sketch-distance",
    "Distance on the sketch",
    "√(Δx² + Δy²) between the marks",
    "plane geometry; stand-offs: 6 m (20 ft) from openings, 1.5 m (5 ft, verify) from a cylinder",
    "distances",
)
NAMES = {
    "set": "set",
    "opening": "opening",
    "cylinder": "cylinder",
    "stub": "gas stub",
    "remote_tank": "remote tank",
}


@dataclass(frozen=True, slots=True)
class Measure:
    """A distance from the set, what it must at least be [m], and what is wrong with it."""

    key: str
    figure: Figure
    least_m: float | None
    trouble: str = ""
    path: str = ""

    @property
    def good(self) -> bool:
        """Whether nothing is wrong with it."""
        return not self.trouble


def bearing(of: SketchItem, to: SketchItem) -> float:
    """Degrees clockwise from the top of the sketch, where y grows downward.

    >>> a, b = SketchItem(kind="set", x=0, y=5), SketchItem(kind="stub", x=5, y=5)
    >>> bearing(a, b)
    90.0
    """
    return math.degrees(math.atan2(to.x - of.x, of.y - to.y)) % 360.0


def apart(one: float, other: float) -> float:
    """Angle between two bearings [degrees], 0 to 180.

    >>> apart(350.0, 20.0)
    30.0
    """
    return abs((one - other + 180.0) % 360.0 - 180.0)


def distance(one: SketchItem, other: SketchItem) -> float:
    """Distance between two marks [m]."""
    return math.hypot(one.x - other.x, one.y - other.y)


def least_distances(site: Site) -> dict[str, float]:
    """Stand-offs asked of this site [m]: the defaults, or as set with a note."""
    return {
        "opening": site.least_opening.value if site.least_opening else LEAST_OPENING_M,
        "cylinder": site.least_cylinder.value if site.least_cylinder else LEAST_CYLINDER_M,
        "remote_tank": LEAST_CYLINDER_M,
    }


def measures(site: Site, at: str) -> tuple[Measure, ...]:
    """Every distance from the set; none until the set is on the sketch."""
    items = sorted(site.sketch.items.items())
    machine = next((item for _, item in items if item.kind == "set"), None)
    if machine is None:
        return ()
    least = least_distances(site)
    return tuple(
        _measure(site, machine, item, f"{at}.sketch.items.{key}", key, least.get(item.kind))
        for key, item in items
        if item.kind != "set"
    )


def _measure(
    site: Site, machine: SketchItem, item: SketchItem, path: str, key: str, least: float | None
) -> Measure:
    meters = distance(machine, item)
    name = item.name or NAMES[item.kind]
    inputs = [
        Input("set, across and down", f"{machine.x:.1f} m, {machine.y:.1f} m", "text"),
        Input(f"{name}, across and down", f"{item.x:.1f} m, {item.y:.1f} m", "text"),
    ]
    if least is not None:
        inputs.append(Input("least asked", least, "length", Origin.TABLE))
    figure = Figure(
        f"sketch.{key}",
        f"set to {name}",
        meters,
        "length",
        DISTANCE,
        exact(meters),
        tuple(inputs),
        rounding=Rounding.DOWN,
        warnings=("Taken from the sketch: measure it on site.",),
        narrows=("a tape on site",),
    )
    return Measure(
        key, figure, least, "; ".join(_troubles(site, machine, item, meters, least)), path
    )


def _troubles(
    site: Site, machine: SketchItem, item: SketchItem, meters: float, least: float | None
) -> Iterator[str]:
    if least is not None and meters < least:
        yield "too near"
    exhaust, wind = site.sketch.exhaust, site.sketch.wind
    toward = bearing(machine, item)
    blown = exhaust is not None and apart(exhaust, toward) <= EXHAUST_HALF_ANGLE
    if blown and item.kind in ("cylinder", "remote_tank") and meters < EXHAUST_REACH_M:
        yield "behind the exhaust"
    if item.kind == "opening":
        if blown and meters < 2 * EXHAUST_REACH_M:
            yield "the exhaust blows at it"
        down_wind = wind is not None and apart((wind + 180.0) % 360.0, toward) <= EXHAUST_HALF_ANGLE
        if down_wind and meters < 2 * EXHAUST_REACH_M:
            yield "the wind carries exhaust to it"


def site_measures(plan: Plan) -> tuple[Measure, ...]:
    """Distances on the sketch of the site looked at."""
    return measures(plan.site, f"sites.{plan.job.site}")
