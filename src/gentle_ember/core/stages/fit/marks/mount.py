"""A mount worked out: the place, holes from edges a tape hooks on, bolts, drilling, what blocks."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np

from gentle_ember.core.base.cached import remember
from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rounding, exact
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.generator import Face
from gentle_ember.core.job.marks import Edge, Mount, Obstacle
from gentle_ember.core.job.part import Part, PartClass
from gentle_ember.core.physics.fasteners import Thread, bolt_length, depth_behind, thread_of
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.marks.drill import Depth, Pass, depth, passes, widened
from gentle_ember.core.stages.fit.marks.place import (
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
from gentle_ember.core.stages.fuel_path.trains import parts_of

PLACE = Method(
    "mount-place",
    "Place on the face",
    "the place whose least room over every distance to keep is largest",
    "every whole millimeter of the face tried; distances as listed on this page",
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


OF_FACE = "of_face"
"""Key of what stands behind the whole face, as Intake tells."""
NO_STOP = Depth(None)


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
    stops: tuple[tuple[str, str], ...]
    """Why it must not be done so, and the path that says it."""
    bolt: Figure | None
    thick_m: float
    center: tuple[float, float] | None = None
    holes: tuple[Hole, ...] = ()
    blockers: tuple[Blocker, ...] = ()
    room: Figure | None = None
    """Least room left round it."""
    tightest: str = ""
    passes: tuple[Pass, ...] = ()
    depth: Depth = NO_STOP
    behind: str = ""

    @property
    def thread(self) -> Thread | None:
        """Of its bolts."""
        return self.shape.thread if self.shape else None

    @property
    def ready(self) -> bool:
        """Whether it may be marked and drilled."""
        return self.center is not None and not self.stops and not self.blockers

    @property
    def drilled(self) -> bool:
        """Whether it takes holes at all; a clamp on a tube takes none."""
        return self.mount.face == "panel"


def _shape(mount: Mount, part: Part | None, bolt: Figure | None, thick: float) -> Shape | None:
    """A part's body and holes from the catalog; None where it states none."""
    if part is None:
        return None
    if part.hole_m is not None:
        return Shape(
            part.body_across_m or part.hole_m + 16e-3,
            part.body_up_m or part.hole_m + 16e-3,
            part.body_out_m or 0.03,
            (),
            None,
            part.hole_m + PLAY_M,
            0.5 * part.hole_m + 8e-3,
            part.behind_m or 0.03,
        )
    if part.bolt_m is None:
        return None
    thread = thread_of(part.bolt_m)
    dx, dy = 0.5 * (part.bolts_across_m or 0.0), 0.5 * (part.bolts_up_m or 0.0)
    before = FLANGE_M + _stand(mount) + thick + thread.washer_thick_m
    behind = depth_behind(thread, bolt.value if bolt else 0.0, before)
    return Shape(
        part.body_across_m or 2 * dx + 0.02,
        part.body_up_m or 2 * dy + 0.04,
        part.body_out_m or 0.05,
        tuple(dict.fromkeys(((-dx, -dy), (dx, -dy), (-dx, dy), (dx, dy)))),
        thread,
        None,
        thread.wrench_circle_m,
        max(behind, part.behind_m or 0.0),
    )


def as_in_hand(mount: Mount, part: Part | None) -> Part | None:
    """A part with its holes as they were measured on it, where somebody did."""
    if part is None or not mount.holes or mount.bolt is None:
        return part
    return part.model_copy(update={
        "bolt_m": mount.bolt.value, "hole_m": None,
        "bolts_across_m": mount.bolts_across.value if mount.bolts_across else None,
        "bolts_up_m": mount.bolts_up.value if mount.bolts_up else None,
    })  # fmt: skip


def on_face(mount: Mount, faces: Mapping[str, Face]) -> Mount:
    """A mount with what Intake measured of its face: room behind, and what stands there."""
    face = faces.get(mount.of_face)
    if face is None:
        return mount
    more: dict[str, object] = {"name": mount.name or face.name}
    if mount.room is None:
        more["room"] = face.room
    kinds = {one.kind for one in mount.obstacles.values() if one.side == "behind"}
    if face.behind in ("tank", "wiring", "structure", "exhaust") and face.behind not in kinds:
        # Nobody said where it is: it counts behind the whole face.
        zero = Fact(value=0.0, origin=Origin.ASSUMED)
        behind = Obstacle(kind=face.behind, side="behind", left=zero, up=zero, wide=mount.wide,
                          high=mount.high, away=face.room)  # fmt: skip
        more["obstacles"] = {**mount.obstacles, OF_FACE: behind}
    return mount.model_copy(update=more)


def mountable(part: Part) -> bool:
    """Whether a part is fixed to the set by bolts or a hole of its own."""
    return part.bolt_m is not None or part.hole_m is not None


def _missing(at: str, mount: Mount, part: Part | None) -> list[tuple[str, str]]:
    found = []
    if part is None:
        found.append(("which part goes here", f"{at}.part"))
    elif mount.holes and mount.bolt is None:
        found.append(("its bolts, measured on the part", f"{at}.bolt"))
    elif not mountable(part):
        found.append(
            (f"{part.name} states no mounting holes: measure them on the part", f"{at}.holes")
        )
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
    thick = sum(one.thickness.value for one in mount.layers.values() if one.thickness)
    held = sum(one.thickness.value for one in mount.layers.values()
               if one.thickness and one.hole is None)  # fmt: skip
    stops = list(_unfit(at, mount, part))
    bolt = None
    try:
        bolt = _bolt(mount, part, held)
    except QuantityError:
        stops.append(("No bolt of the series is as long.", f"{at}.stand_off"))
    shape = _shape(mount, part, bolt, held)
    stops += _skins(at, mount, shape)
    missing = tuple(_missing(at, mount, part))
    known = MountPlan(key, mount, part, shape, missing, tuple(stops), bolt, thick)
    if missing or shape is None or mount.wide is None or mount.high is None:
        return known
    return _placed(known, at, shape, (mount.wide.value, mount.high.value))


def _unfit(at: str, mount: Mount, part: Part | None) -> Iterator[tuple[str, str]]:
    """Why the part does not go on such a face at all."""
    if part is not None and part.upright and not mount.stands:
        yield f"{part.name} works upright only: this face lies.", f"{at}.stands"
    if part is not None and part.hole_m and mount.face == "tube":
        yield f"{part.name} needs a panel, not a tube.", f"{at}.face"


def _skins(at: str, mount: Mount, shape: Shape | None) -> Iterator[tuple[str, str]]:
    """What is wrong with skins whose holes differ: nut and wrench must pass a wider one."""
    wide = {key: one.hole.value for key, one in mount.layers.items() if one.hole is not None}
    if shape is None or not shape.holes or not wide or mount.face != "panel":
        return
    own = max(diameter for _, _, diameter in shape.holes)
    if len(wide) == len(mount.layers):
        yield "Every skin's hole is wider than the part: nothing is left to hold it.", (
            f"{at}.layers")  # fmt: skip
    for key, hole in wide.items():
        path = f"{at}.layers.{key}.hole"
        if hole < own - 1e-6:
            yield f"This skin's hole is narrower than the {own * 1e3:.1f} mm the part takes.", path
        elif hole < 2 * shape.wrench_m:
            yield (
                f"Nut and wrench don't pass this skin's hole: it takes "
                f"{math.ceil(2e3 * shape.wrench_m)} mm, or the part's own hole.", path,
            )  # fmt: skip


def _placed(known: MountPlan, at: str, shape: Shape, size: tuple[float, float]) -> MountPlan:
    """The place on a face that is measured, its holes, and what stops or blocks it."""
    mount, stops = known.mount, list(known.stops)
    if mount.face == "panel" and mount.room and mount.room.value < shape.behind_m:
        short = (shape.behind_m - mount.room.value) * 1e3
        text = f"Nut and wrench need {math.ceil(short)} mm more room behind the face."
        stops.append((text, f"{at}.room"))
    if mount.left is not None and mount.up is not None:
        center: tuple[float, float] | None = (mount.left.value, mount.up.value)
        blockers: tuple[Blocker, ...] | None = None
    else:
        x, y = grid(*size)
        asked = conditions(mount, shape, at, x, y)
        center = best(x, y, asked)
        blockers = () if center is not None else in_the_way(asked)
    if center is None:
        return replace(known, stops=tuple(stops), blockers=blockers or ())
    there = conditions(mount, shape, at, *(np.array([[one]]) for one in center))
    room = _room(there)
    holes = _holes(mount, shape, center, size) if mount.face == "panel" else ()
    if any(hole.across is None or hole.upright is None for hole in holes):
        stops.append(("No edge a tape can hook on: say which edges it can.", f"{at}.hooks"))
    behind, near = _behind(mount, holes)
    deep = depth(known.thick_m, behind, near) if holes else NO_STOP
    if deep.refused:
        stops.append((deep.refused, f"{at}.obstacles"))
    layers = [(str(one.material), one.thickness.value) for one in mount.layers.values()
              if one.thickness]  # fmt: skip
    wide = [(str(one.material), one.hole.value) for one in mount.layers.values() if one.hole]
    return replace(
        known,
        stops=tuple(stops),
        center=center,
        holes=holes,
        blockers=in_the_way(there) if blockers is None and room.value < -1e-9 else (),
        room=room,
        tightest=min(there, key=_left).what,
        passes=(*passes(layers, holes[0].diameter_m), *widened(wide)) if holes else (),
        depth=deep,
        behind=behind,
    )


def _left(one: Condition) -> float:
    return float(one.room.flat[0])


def _stand(mount: Mount) -> float:
    return mount.stand_off.value if mount.stand_off else 0.0


def _bolt(mount: Mount, part: Part | None, thick: float) -> Figure | None:
    """The bolt's length; None for what sits in one hole, or is clamped round a tube."""
    if part is None or part.bolt_m is None or mount.face == "tube":
        return None
    thread = thread_of(part.bolt_m)
    length = bolt_length(thread, thick + FLANGE_M + _stand(mount))
    return Figure(
        "mount.bolt",
        f"{thread.name} bolt",
        length,
        "bolt_length",
        BOLT,
        exact(length),
        (
            Input("layers", thick, "small_length"),
            Input("foot or bracket", FLANGE_M, "small_length", Origin.ASSUMED),
            Input("stand-off", _stand(mount), "small_length"),
            Input("nut", thread.nut_m, "small_length", Origin.TABLE),
            Input("washers", 2 * thread.washer_thick_m, "small_length", Origin.TABLE),
        ),
        rounding=Rounding.UP,
    )


def _room(there: list[Condition]) -> Figure:
    """Least room left at a place, over every distance to keep."""
    ranked = sorted(there, key=_left)
    value = _left(ranked[0])
    return Figure(
        "mount.room",
        "Room to spare",
        value,
        "small_length",
        PLACE,
        exact(value),
        tuple(
            Input(f"{one.what}: {one.why}", _left(one), "small_length", path=one.path)
            for one in ranked[:6]
        ),
        rounding=Rounding.DOWN,
    )


def _holes(
    mount: Mount, shape: Shape, center: tuple[float, float], size: tuple[float, float]
) -> tuple[Hole, ...]:
    wide, high = size
    found = []
    for at, (dx, dy, diameter) in enumerate(shape.holes):
        x, y = center[0] + dx, center[1] + dy
        sides: tuple[tuple[Edge, float], ...] = (("left", x), ("right", wide - x))
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


def _behind(mount: Mount, holes: tuple[Hole, ...]) -> tuple[str, float | None]:
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
    PartClass.FUEL_HALF,
    PartClass.SELECTOR,
    PartClass.LOCK_OFF,
    PartClass.PUMP,
)
"""Classes that are fixed to the set, in the order they are looked at."""


def mount_plans(plan: Plan) -> tuple[MountPlan, ...]:
    """Every part that is mounted, its place worked out or what hinders it."""
    parts = parts_of(plan.job, plan.catalog)
    faces = plan.job.set.faces
    return tuple(
        _told_at(plan_mount(key, on_face(one, faces), as_in_hand(one, parts.get(one.part))))
        for key, one in plan.job.marks.items()
    )


def _told_at(found: MountPlan) -> MountPlan:
    """What Intake told of the face is changed there."""
    here = f"marks.{found.key}.obstacles.{OF_FACE}"
    there = f"set.faces.{found.mount.of_face}.behind"
    blockers = tuple(
        replace(one, path=there) if one.path.startswith(here) else one for one in found.blockers
    )
    return replace(found, blockers=blockers)
