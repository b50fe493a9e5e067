"""The site sketch: distances and stand-offs between what stands where, measured as it is drawn."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rounding, exact
from gentle_ember.core.job.site import Site, SketchItem
from gentle_ember.core.stage import Plan

LEAST_OPENING_M, LEAST_CYLINDER_M = 6.0, 1.5
FLOOR_OPENING_M, FLOOR_CYLINDER_M = 3.0, 0.9
"""Nobody's reason goes under these."""
LEAST_STUB_M = 0.9
"""A gas meter's or service regulator's vent from the set, a source of ignition; 3 ft by code."""
CYLINDER_OPENING_M = 0.9
"""A cylinder's relief valve from an opening below it; 3 ft by code, 5 ft from what ignites."""
EXHAUST_HALF_ANGLE, EXHAUST_REACH_M = 45.0, 6.0
"""A cylinder within this angle of the exhaust's bearing and this near is behind the exhaust."""

DISTANCE = Method(
    "sketch-distance",
    "Distance on the sketch",
    "√(Δx² + Δy²) between the marks",
    "plane geometry; stand-offs: set to openings 6 m (20 ft), to a cylinder 1.5 m (5 ft), to a "
    "gas meter or its regulator's vent 0.9 m (3 ft); cylinder to openings 0.9 m (3 ft); verify "
    "with local code",
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
class Distance:
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
        "stub": LEAST_STUB_M,
    }


def measures(site: Site, at: str) -> tuple[Distance, ...]:
    """Every distance from the set; none until the set is on the sketch."""
    items = sorted(site.sketch.items.items())
    machine = next((item for _, item in items if item.kind == "set"), None)
    if machine is None:
        return ()
    least = least_distances(site)
    from_set = tuple(
        _measure(site, machine, item, f"{at}.sketch.items.{key}", key, least.get(item.kind))
        for key, item in items
        if item.kind != "set"
    )
    openings = [(key, item) for key, item in items if item.kind == "opening"]
    return from_set + tuple(
        _between(item, other, f"{at}.sketch.items.{key}", f"{key}-{place}")
        for key, item in items
        if item.kind == "cylinder"
        for place, other in openings
    )


def _between(cylinder: SketchItem, opening: SketchItem, path: str, key: str) -> Distance:
    """A cylinder from an opening, into which what its relief valve lets out would sink."""
    names = cylinder.name or NAMES["cylinder"], opening.name or NAMES["opening"]
    figure = _figure(key, names, cylinder, opening, CYLINDER_OPENING_M)
    trouble = "too near" if figure.value < CYLINDER_OPENING_M else ""
    return Distance(key, figure, CYLINDER_OPENING_M, trouble, path)


def _measure(
    site: Site, machine: SketchItem, item: SketchItem, path: str, key: str, least: float | None
) -> Distance:
    figure = _figure(key, ("set", item.name or NAMES[item.kind]), machine, item, least)
    found = "; ".join(_troubles(site, machine, item, figure.value, least))
    return Distance(key, figure, least, found, path)


def _figure(
    key: str, names: tuple[str, str], one: SketchItem, other: SketchItem, least: float | None
) -> Figure:
    meters = distance(one, other)
    inputs = [
        Input(f"{name}, across and down", f"{at.x:.1f} m, {at.y:.1f} m", "text")
        for name, at in zip(names, (one, other), strict=True)
    ]
    if least is not None:
        inputs.append(Input("least asked", least, "length", Origin.TABLE))
    return Figure(
        f"sketch.{key}",
        f"{names[0]} to {names[1]}",
        meters,
        "length",
        DISTANCE,
        exact(meters),
        tuple(inputs),
        rounding=Rounding.DOWN,
        warnings=("Taken from the sketch: measure it on site.",),
        narrows=("a tape on site",),
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


def site_measures(plan: Plan) -> tuple[Distance, ...]:
    """Distances on the sketch of the site looked at."""
    return measures(plan.site, f"sites.{plan.job.site}")
