"""Where a part fits on a face: every place tried, each distance that must be kept as a field.

A place is the part's center [m] from the face's lower left corner. Each condition gives, for all
places at once, how much room is left over what it asks for (negative: how much is missing). A
place is good where all are kept; the best is where the least of them is largest.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from gentle_ember.core.job.marks import Mount, Obstacle
from gentle_ember.core.physics.fasteners import Thread

Field = NDArray[Any]
CLEARANCES_M: dict[str, float] = {
    "exhaust": 0.150,
    "plug": 0.060,
    "pull_rope": 0.060,
    "filter": 0.030,
    "wheel": 0.040,
    "handle": 0.050,
    "fold": 0.005,
}
"""What a part keeps off each kind of thing before the face: heat, a boot and fingers, a rope's
swing, a filter that must come off, a tire, a hand. Adjustable by measuring the thing larger."""
OTHER_M = 0.015
BEHIND_M = 0.003
"""What a wrench keeps off things behind the face."""
HAND_M = 0.060
"""Room before primer and load screw for a gloved hand."""
ENOUGH_M = 0.060
"""Room beyond this makes a place no better."""
MOST_CELLS = 160_000


@dataclass(frozen=True, slots=True)
class Shape:
    """What is mounted: its body, its bolts round the center, its one large hole. Meters."""

    across_m: float
    up_m: float
    out_m: float
    bolts: tuple[tuple[float, float], ...]
    thread: Thread | None
    hole_m: float | None
    wrench_m: float
    """Radius a wrench sweeps behind each hole."""
    behind_m: float
    """Depth taken behind the last layer."""

    @property
    def holes(self) -> tuple[tuple[float, float, float], ...]:
        """Every hole: its place from the center and its diameter."""
        if self.hole_m is not None:
            return ((0.0, 0.0, self.hole_m),)
        if self.thread is None:
            return ()
        return tuple((x, y, self.thread.hole_m) for x, y in self.bolts)


@dataclass(frozen=True, slots=True)
class Blocker:
    """A condition that can't be kept: what asks for it, how much is missing, what would help."""

    what: str
    short_m: float
    path: str
    why: str


@dataclass(frozen=True, slots=True)
class Condition:
    """One distance to keep: who asks, why, where it stands in the job, room left at each place."""

    what: str
    why: str
    path: str
    room: Field


def grid(wide_m: float, high_m: float) -> tuple[Field, Field]:
    """Places tried, on whole millimeters so that a tape can find them; coarser on large faces."""
    step = 1e-3 * max(1, math.ceil(math.sqrt(wide_m * high_m / MOST_CELLS) * 1e3))
    x = np.arange(0.0, wide_m + 1e-9, step)
    y = np.arange(0.0, high_m + 1e-9, step)
    return np.meshgrid(x, y)


def conditions(mount: Mount, shape: Shape, at: str, x: Field, y: Field) -> list[Condition]:
    """Every distance to keep, at every place.

    Args:
        mount: the face; width and height known.
        shape: what is mounted.
        at: the mount's path in the job.
        x, y: places, as `grid` gives them [m].
    """
    found = list(_edges(mount, shape, at, x, y))
    for key, one in mount.obstacles.items():
        box = box_of(one)
        if box is None:
            continue
        path = f"{at}.obstacles.{key}"
        name = one.name or NAMES[one.kind]
        if one.side == "front":
            found += _before(mount, shape, one, name, box, path, x, y)
        else:
            found += _behind(shape, one, name, box, path, x, y)
    return found


NAMES = {
    "exhaust": "exhaust",
    "plug": "spark plug",
    "pull_rope": "pull rope",
    "filter": "air filter",
    "wheel": "wheel",
    "handle": "handle",
    "wiring": "wiring",
    "tank": "tank",
    "structure": "sub-structure",
    "fold": "fold of the sheet",
    "other": "something",
}

Box = tuple[float, float, float, float]


def box_of(one: Obstacle) -> Box | None:
    """Left, lower, right and upper side of an obstacle; None until all four are measured."""
    if not (one.left and one.up and one.wide and one.high):
        return None
    left, low = one.left.value, one.up.value
    return left, low, left + one.wide.value, low + one.high.value


def _edges(mount: Mount, shape: Shape, at: str, x: Field, y: Field) -> Iterator[Condition]:
    wide, high = _size(mount)
    if mount.face == "tube":
        reach = max((abs(dx) for dx, _ in shape.bolts), default=0.5 * shape.across_m)
        room = np.minimum(x, wide - x) - reach - 0.015
        yield Condition(
            "end of the tube", "A clamp needs straight tube on both sides.", f"{at}.wide", room
        )
        yield Condition("middle of the tube", "A clamp goes round it.", f"{at}.high",
                        5e-4 - np.abs(y - 0.5 * high))  # fmt: skip
        return
    for dx, dy, hole in shape.holes:
        washer = 0.5 * shape.thread.washer_m if shape.thread else 0.5 * hole + 4e-3
        keep = max(2 * hole if shape.thread else 0.5 * hole + 8e-3, washer + 1e-3)
        room = np.minimum(
            np.minimum(x + dx, wide - x - dx), np.minimum(y + dy, high - y - dy)
        ) - keep  # fmt: skip
        yield Condition(
            "edge of the face", "A hole nearer than two diameters tears out.", f"{at}.wide", room
        )
    inside = np.minimum(
        np.minimum(x, wide - x) - 0.5 * shape.across_m, np.minimum(y, high - y) - 0.5 * shape.up_m
    )
    yield Condition("edge of the face", "The body would cover it.", f"{at}.wide", inside)


def _before(
    mount: Mount, shape: Shape, one: Obstacle, name: str, box: Box, path: str, x: Field, y: Field
) -> Iterator[Condition]:
    away = one.away.value if one.away else 0.0
    keep = CLEARANCES_M.get(one.kind, OTHER_M)
    stand = mount.stand_off.value if mount.stand_off else 0.0
    half = (0.5 * shape.across_m, 0.5 * shape.up_m)
    if away < shape.out_m + stand + keep:
        yield Condition(
            name,
            KEEPS.get(one.kind, "It is in the way there."),
            path,
            _apart(x, y, half, box) - keep,
        )
    if mount.reach == "front" and away < shape.out_m + stand + HAND_M:
        yield Condition(
            name, "A hand must reach primer and load screw.", path, _apart(x, y, half, box) - 5e-3
        )
    if mount.reach != "front" and away < shape.out_m + stand:
        hx, hy = half
        dx = {"left": -1, "right": 1}.get(mount.reach, 0) * (hx + 0.5 * HAND_M)
        dy = {"bottom": -1, "top": 1}.get(mount.reach, 0) * (hy + 0.5 * HAND_M)
        zone = (0.5 * HAND_M if dx else hx, 0.5 * HAND_M if dy else hy)
        yield Condition(
            name,
            "A hand must reach primer and load screw.",
            path,
            _apart(x + dx, y + dy, zone, box),
        )


KEEPS = {
    "exhaust": "Heat: 150 mm, or a shield between.",
    "plug": "The boot comes off by hand.",
    "pull_rope": "The rope swings.",
    "filter": "It must come off for service.",
    "wheel": "It turns and throws stones.",
    "handle": "A hand holds it.",
}


def _behind(
    shape: Shape, one: Obstacle, name: str, box: Box, path: str, x: Field, y: Field
) -> Iterator[Condition]:
    if one.away is not None and one.away.value >= shape.behind_m:
        return
    for dx, dy, hole in shape.holes:
        radius = max(shape.wrench_m, 0.5 * hole)
        room = _apart(x + dx, y + dy, (0.0, 0.0), box) - radius - BEHIND_M
        yield Condition(name, "Nut and wrench need room behind.", path, room)


def _apart(x: Field, y: Field, half: tuple[float, float], box: Box) -> Field:
    """Distance between a rectangle at each place and a box; negative by how deep they overlap."""
    left, low, right, top = box
    dx = np.maximum(left - (x + half[0]), (x - half[0]) - right)
    dy = np.maximum(low - (y + half[1]), (y - half[1]) - top)
    outside = np.hypot(np.maximum(dx, 0.0), np.maximum(dy, 0.0))
    return np.where((dx < 0) & (dy < 0), np.maximum(dx, dy), outside)


def _size(mount: Mount) -> tuple[float, float]:
    if mount.wide is None or mount.high is None:
        raise ValueError("the face is not measured")
    return mount.wide.value, mount.high.value


def best(x: Field, y: Field, found: Sequence[Condition]) -> tuple[float, float] | None:
    """The place with most room round it, the nearest to the middle among equals; None without."""
    if not found:
        return float(x.mean()), float(y.mean())
    least = np.minimum.reduce([one.room for one in found])
    if float(least.max()) < -1e-9:
        return None
    middle = np.hypot(x - x.mean(), y - y.mean())
    score = np.minimum(least, ENOUGH_M) - 0.05 * middle
    score[least < -1e-9] = -np.inf
    at = int(np.argmax(score))
    return round(float(x.flat[at]), 6), round(float(y.flat[at]), 6)


def in_the_way(found: Sequence[Condition]) -> tuple[Blocker, ...]:
    """Which conditions make it impossible: each that alone, were it gone, would leave a place.

    When no single one does, those broken at the place that breaks the fewest, and by the least.
    """
    rooms: dict[str, Field] = {}
    for one in found:
        held = rooms.get(one.what)
        rooms[one.what] = one.room if held is None else np.minimum(held, one.room)
    broken = np.sum([room < -1e-9 for room in rooms.values()], axis=0)
    least = np.minimum.reduce(list(rooms.values()))
    fewest = int(broken.min())

    def at_best(among: Field) -> int:
        return int(np.argmax(np.where(among, least, -np.inf)))

    if fewest > 1:
        at = at_best(broken == fewest)
        return tuple(
            _blocker(what, float(room.flat[at]), at, found)
            for what, room in rooms.items()
            if room.flat[at] < -1e-9
        )
    alone = []
    for what, room in rooms.items():
        among = (broken == 1) & (room < -1e-9)
        if among.any():
            at = at_best(among)
            alone.append(_blocker(what, float(room.flat[at]), at, found))
    return tuple(alone)


def _blocker(what: str, room: float, at: int, found: Sequence[Condition]) -> Blocker:
    worst = min((one for one in found if one.what == what), key=lambda one: one.room.flat[at])
    return Blocker(what, -room, worst.path, worst.why)
