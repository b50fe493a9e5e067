"""A mount worked out: the place, holes from edges a tape hooks on, bolts, drilling, what blocks."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core.errors import QuantityError
from gentle_ember.core.figure import Figure, Input, Method, Origin, Rounding, exact
from gentle_ember.core.marks.drill import Depth, Pass, depth, passes
from gentle_ember.core.marks.fastening import Thread, bolt_length, depth_behind, thread_of
from gentle_ember.core.marks.place import (
    NAMES,
    Blocker,
    Condition,
    Shape,
    best,
    box_of,
    conditions,
    grid,
    in_the_way,
)
from gentle_ember.core.marks.records import Edge, Mount
from gentle_ember.core.memo import remember
from gentle_ember.core.part import Part, PartClass

PLACE = Method(
    "mount-place",
    "Place on the face",
    "the place whose least room over every distance to keep is largest",
    "every whole millimetre of the face tried; distances as this page's list says",
    "marks",
)
BOLT = Method(
    "mount-bolt",
    "Bolt length",
    "layers + flange + stand-off + two washers + full nut + two pitches, next length sold",
    "ISO 4032 nuts, ISO 7089 washers, ISO 888 lengths",
    "marks",
)
FLANGE_M = 3e-3
"""Usual thickness of a part's foot or bracket, until it is measured."""
PLAY_M = 0.5e-3
"""How much wider than its thread the hole of a bulkhead is."""


@dataclass(frozen=True, slots=True)
class Hole:
    """A hole, as marked: from which edges, how far, how wide."""

    name: str
    x_m: float
    y_m: float
    diameter_m: float
    across: tuple[Edge, float] | None
    """Edge a tape hooks on sideways, and the distance [m]; None where no edge can be hooked."""
    upright: tuple[Edge, float] | None


@dataclass(frozen=True, slots=True)
class MountPlan:
    """What follows from a mount: where to, how, or why not."""

    key: str
    mount: Mount
    part: Part | None
    shape: Shape | None
    missing: tuple[tuple[str, str], ...]
    """What must be measured first, and its path."""
    centre: tuple[float, float] | None
    holes: tuple[Hole, ...]
    blockers: tuple[Blocker, ...]
    stops: tuple[tuple[str, str], ...]
    """Why it must not be done so, and the path that says it."""
    room: Figure | None
    """Least room left round it."""
    tightest: str
    bolt: Figure | None
    thread: Thread | None
    passes: tuple[Pass, ...]
    depth: Depth
    behind: str
    thick_m: float

    @property
    def ready(self) -> bool:
        """Whether it may be marked and drilled."""
        return self.centre is not None and not self.stops and not self.blockers

    @property
    def drilled(self) -> bool:
        """Whether it takes holes at all; a clamp on a tube takes none."""
        return self.mount.face == "panel"


def shape_of(part: Part, bolt_m: float, before_m: float) -> Shape | None:
    """A part's body and holes from the catalog; None where it states none.

    Args:
        part: the part.
        bolt_m: length of its bolts [m].
        before_m: from under their heads to the back of the last layer [m].
    """
    if part.hole_m is not None:
        wrench = 0.5 * part.hole_m + 8e-3
        return Shape(
            part.body_across_m or part.hole_m + 16e-3,
            part.body_up_m or part.hole_m + 16e-3,
            part.body_out_m or 0.03,
            (),
            None,
            part.hole_m + PLAY_M,
            wrench,
            part.behind_m or 0.03,
        )
    if part.bolt_m is None:
        return None
    thread = thread_of(part.bolt_m)
    dx, dy = 0.5 * (part.bolts_across_m or 0.0), 0.5 * (part.bolts_up_m or 0.0)
    bolts = dict.fromkeys(((-dx, -dy), (dx, -dy), (-dx, dy), (dx, dy)))
    return Shape(
        part.body_across_m or 2 * dx + 0.02,
        part.body_up_m or 2 * dy + 0.04,
        part.body_out_m or 0.05,
        tuple(bolts),
        thread,
        None,
        thread.wrench_circle_m,
        max(depth_behind(thread, bolt_m, before_m), part.behind_m or 0.0),
    )


def mountable(part: Part) -> bool:
    """Whether a part is fixed to the set by bolts or a hole of its own."""
    return part.bolt_m is not None or part.hole_m is not None


def _missing(at: str, mount: Mount, part: Part | None) -> list[tuple[str, str]]:
    found = []
    if part is None:
        found.append(("which part goes here", f"{at}.part"))
    elif not mountable(part):
        found.append((f"{part.name} states no mounting holes", f"{at}.part"))
    tube = mount.face == "tube"
    if mount.wide is None:
        found.append(("length of the tube" if tube else "width of the face", f"{at}.wide"))
    if mount.high is None:
        found.append(("diameter of the tube" if tube else "height of the face", f"{at}.high"))
    if not tube:
        if not mount.layers:
            found.append(("material and thickness of the face", f"{at}.layers"))
        found += [
            ("thickness of a layer", f"{at}.layers.{key}.thickness")
            for key, layer in mount.layers.items()
            if layer.thickness is None
        ]
        if mount.room is None:
            found.append(("room behind the face", f"{at}.room"))
    found += [
        (f"where the {one.name or NAMES[one.kind]} is", f"{at}.obstacles.{key}")
        for key, one in mount.obstacles.items()
        if box_of(one) is None
    ]
    return found


@remember(64)
def plan_mount(key: str, mount: Mount, part: Part | None) -> MountPlan:
    """Work out a mount: the best place, or the one asked for, checked.

    Args:
        key: its key in the job.
        mount: the face as measured.
        part: what goes on it; None while nobody says.
    """
    at = f"marks.{key}"
    missing = _missing(at, mount, part)
    layers = [
        (str(one.material), one.thickness.value)
        for one in mount.layers.values()
        if one.thickness is not None
    ]
    thick = sum(thickness for _, thickness in layers)
    thread = thread_of(part.bolt_m) if part and part.bolt_m else None
    stand = mount.stand_off.value if mount.stand_off else 0.0
    bolt = None
    stops: list[tuple[str, str]] = []
    before = FLANGE_M + stand + thick
    if thread is not None:
        before += thread.washer_thick_m
        try:
            bolt = _bolt(thread, thick, stand, mount.face)
        except QuantityError:
            stops.append(("No bolt of the series is as long.", f"{at}.stand_off"))
    shape = shape_of(part, bolt.value if bolt else 0.0, before) if part else None
    if part is not None and part.upright and not mount.stands:
        stops.append((f"{part.name} works upright only: this face lies.", f"{at}.stands"))
    if part is not None and part.hole_m and mount.face == "tube":
        stops.append((f"{part.name} wants a panel, not a tube.", f"{at}.face"))
    if missing or shape is None or mount.wide is None or mount.high is None:
        return MountPlan(
            key, mount, part, shape, tuple(missing), None, (), (), tuple(stops), None, "",
            bolt, thread, (), Depth(None), "", thick,
        )  # fmt: skip
    if mount.room and mount.face == "panel" and mount.room.value < shape.behind_m:
        short = (shape.behind_m - mount.room.value) * 1e3
        stops.append(
            (f"Nut and wrench want {short:.0f} mm more room behind the face.", f"{at}.room")
        )
    wide, high = mount.wide.value, mount.high.value
    x, y = grid(wide, high)
    asked = conditions(mount, shape, at, x, y)
    wanted = _wanted(mount)
    if wanted is None:
        centre = best(x, y, asked)
        blockers = in_the_way(asked) if centre is None else ()
    else:
        centre, blockers = wanted, _broken(mount, shape, at, wanted)
    room, tightest = (None, "") if centre is None else _room(mount, shape, at, centre)
    holes = _holes(mount, shape, centre) if centre is not None and mount.face == "panel" else ()
    if any(hole.across is None or hole.upright is None for hole in holes):
        stops.append(("No edge a tape can hook on: say which edges it can.", f"{at}.hooks"))
    behind, near = _behind(mount, holes, shape)
    deep = depth(thick, behind, near) if holes else Depth(None)
    if deep.refused:
        stops.append((deep.refused, f"{at}.obstacles"))
    cut = passes(layers, holes[0].diameter_m) if holes and layers else ()
    return MountPlan(
        key, mount, part, shape, (), centre, holes, blockers, tuple(stops), room, tightest,
        bolt, thread, cut, deep, behind, thick,
    )  # fmt: skip


def _bolt(thread: Thread, thick: float, stand: float, face: str) -> Figure | None:
    if face == "tube":
        return None
    clamped = thick + FLANGE_M + stand
    return Figure(
        "mount.bolt",
        f"{thread.name} bolt",
        bolt_length(thread, clamped),
        "bolt_length",
        BOLT,
        exact(bolt_length(thread, clamped)),
        (
            Input("layers", thick, "small_length"),
            Input("foot or bracket", FLANGE_M, "small_length", Origin.ASSUMED),
            Input("stand-off", stand, "small_length"),
            Input("nut", thread.nut_m, "small_length", Origin.TABLE),
            Input("washers", 2 * thread.washer_thick_m, "small_length", Origin.TABLE),
        ),
        rounding=Rounding.UP,
    )


def _wanted(mount: Mount) -> tuple[float, float] | None:
    if mount.left is None or mount.up is None:
        return None
    return mount.left.value, mount.up.value


def _at(mount: Mount, shape: Shape, at: str, centre: tuple[float, float]) -> list[Condition]:
    import numpy as np

    return conditions(mount, shape, at, np.array([[centre[0]]]), np.array([[centre[1]]]))


def _broken(
    mount: Mount, shape: Shape, at: str, centre: tuple[float, float]
) -> tuple[Blocker, ...]:
    worst: dict[str, Blocker] = {}
    for one in _at(mount, shape, at, centre):
        short = -float(one.room[0, 0])
        if short > 1e-9 and short > worst.get(one.what, Blocker("", 0.0, "", "")).short_m:
            worst[one.what] = Blocker(one.what, short, one.path, one.why)
    return tuple(worst.values())


def _room(
    mount: Mount, shape: Shape, at: str, centre: tuple[float, float]
) -> tuple[Figure | None, str]:
    found = _at(mount, shape, at, centre)
    if not found:
        return None, ""
    least = min(found, key=lambda one: float(one.room[0, 0]))
    value = float(least.room[0, 0])
    return (
        Figure(
            "mount.room",
            "Room to spare",
            value,
            "small_length",
            PLACE,
            exact(value),
            tuple(
                Input(f"{one.what}: {one.why}", float(one.room[0, 0]), "small_length",
                      path=one.path)
                for one in sorted(found, key=lambda one: float(one.room[0, 0]))[:6]
            ),
            rounding=Rounding.DOWN,
        ),
        least.what,
    )  # fmt: skip


def _holes(mount: Mount, shape: Shape, centre: tuple[float, float]) -> tuple[Hole, ...]:
    if mount.wide is None or mount.high is None:
        return ()
    wide, high = mount.wide.value, mount.high.value
    sides: tuple[tuple[Edge, float], ...] = ()
    found = []
    for at, (dx, dy, diameter) in enumerate(shape.holes):
        x, y = centre[0] + dx, centre[1] + dy
        sides = (("left", x), ("right", wide - x))
        ends: tuple[tuple[Edge, float], ...] = (("bottom", y), ("top", high - y))
        found.append(
            Hole(
                "ABCDEFGH"[at],
                x,
                y,
                diameter,
                min((one for one in sides if one[0] in mount.hooks),
                    key=lambda one: one[1], default=None),
                min((one for one in ends if one[0] in mount.hooks),
                    key=lambda one: one[1], default=None),
            )
        )  # fmt: skip
    return tuple(found)


def _behind(mount: Mount, holes: tuple[Hole, ...], shape: Shape) -> tuple[str, float | None]:
    """What is behind the holes that a drill must not reach, and how near it is."""
    found: list[tuple[str, float | None]] = []
    for one in mount.obstacles.values():
        box = box_of(one)
        if one.side != "behind" or one.kind not in ("tank", "wiring") or box is None:
            continue
        left, low, right, top = box
        near = 0.02
        if any(left - near <= hole.x_m <= right + near and low - near <= hole.y_m <= top + near
               for hole in holes):  # fmt: skip
            found.append((one.kind, one.away.value if one.away else None))
    found.sort(key=lambda one: (one[0] != "tank", one[1] if one[1] is not None else -1.0))
    return found[0] if found else ("", None)


MOUNTED = (
    PartClass.DEMAND,
    PartClass.BULKHEAD,
    PartClass.SELECTOR,
    PartClass.LOCK_OFF,
    PartClass.PUMP,
)
"""Classes that are fixed to the set, in the order they are looked at."""
