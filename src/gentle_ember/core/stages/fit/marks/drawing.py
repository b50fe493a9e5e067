"""Drawings at true size: one geometry, from which PDF, SVG and DXF are written. Meters, y up."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.stages.fit.marks.mount import Hole, MountPlan
from gentle_ember.core.stages.fit.marks.place import Shape


class DrawingLayer(StrEnum):
    """What a line stands for."""

    HOLES = "HOLES"
    CENTERS = "CENTERS"
    BODY = "BODY"
    EDGES = "EDGES"
    RULER = "RULER"
    NOTES = "NOTES"


@dataclass(frozen=True, slots=True)
class Stroke:
    """A straight line."""

    x1: float
    y1: float
    x2: float
    y2: float
    layer: DrawingLayer


@dataclass(frozen=True, slots=True)
class Circle:
    """A circle by center and radius."""

    x: float
    y: float
    radius: float
    layer: DrawingLayer


@dataclass(frozen=True, slots=True)
class Text:
    """A text by its start (or middle), with the height of its letters."""

    x: float
    y: float
    text: str
    height: float
    middle: bool = False
    bold: bool = False
    layer: DrawingLayer = DrawingLayer.NOTES


@dataclass(frozen=True, slots=True)
class Drawing:
    """A sheet of a size with what is on it."""

    title: str
    wide: float
    high: float
    shapes: tuple[Stroke | Circle | Text, ...]


SHEETS: dict[str, tuple[float, float]] = {"a4": (0.210, 0.297), "letter": (0.2159, 0.2794)}
MARGIN_M = 0.012
RULER_ROOM_M = 0.030
HEAD_M = 0.024


class TooLargeError(ValueError):
    """A pattern that does not go onto a sheet at true size."""


def template(found: MountPlan, title: str, sheet: str, lengths: dict[str, str]) -> Drawing:
    """The drill template of a mount on a sheet, at true size, with rulers to check the printer.

    The part's body, its holes with crosses, and those edges of the face that come onto the sheet.

    Args:
        found: the mount, its place known.
        title: what is at the head.
        sheet: `a4` or `letter`.
        lengths: distances from edges in words, by hole name.

    Raises:
        TooLargeError: the holes don't go onto the sheet.
    """
    if found.shape is None or found.center is None or found.mount.wide is None:
        raise TooLargeError("The place is not known yet.")
    wide, high = SHEETS[sheet]
    room = (wide - 2 * MARGIN_M, high - 2 * MARGIN_M - HEAD_M - RULER_ROOM_M)
    reach = _reach(found.holes, found.center)
    if 2 * reach[0] > room[0] or 2 * reach[1] > room[1]:
        raise TooLargeError(
            "The holes lie further apart than this sheet is wide: take the SVG or DXF instead."
        )
    cx, cy = 0.5 * wide, MARGIN_M + RULER_ROOM_M + 0.5 * room[1]
    frame = (MARGIN_M, MARGIN_M + RULER_ROOM_M, wide - MARGIN_M, cy + 0.5 * room[1])
    shapes: list[Stroke | Circle | Text] = [*_body(found.shape, cx, cy, frame)]
    shapes += _edges(found, cx, cy, frame)
    for hole in found.holes:
        x, y = cx + hole.x_m - found.center[0], cy + hole.y_m - found.center[1]
        shapes += _hole(hole, x, y)
    top = high - MARGIN_M
    shapes += [
        Text(MARGIN_M, top - 0.006, title, 0.005, bold=True),
        Text(MARGIN_M, top - 0.012, "Print at 100 %. Measure both rulers before marking.", 0.003),
    ]
    words = [f"{hole.name}: {lengths.get(hole.name, '')}" for hole in found.holes]
    shapes += [
        Text(MARGIN_M, top - 0.017 - 0.0042 * at, text, 0.003) for at, text in enumerate(words[:3])
    ]
    shapes += _rulers(wide)
    return Drawing(title, wide, high, tuple(shapes))


def plate(found: MountPlan, title: str) -> Drawing:
    """The whole face with its holes, for a cutter: as large as the face is.

    Raises:
        TooLargeError: the place is not known.
    """
    if found.shape is None or found.center is None or not found.mount.wide or not found.mount.high:
        raise TooLargeError("The place is not known yet.")
    wide, high = found.mount.wide.value, found.mount.high.value
    edges = ((0.0, 0.0, wide, 0.0), (wide, 0.0, wide, high), (wide, high, 0.0, high),
             (0.0, high, 0.0, 0.0))  # fmt: skip
    shapes: list[Stroke | Circle | Text] = [Stroke(*one, DrawingLayer.EDGES) for one in edges]
    shapes += _body(found.shape, *found.center, (0.0, 0.0, wide, high))
    for hole in found.holes:
        shapes += _hole(hole, hole.x_m, hole.y_m)
    return Drawing(title, wide, high, tuple(shapes))


def _reach(holes: tuple[Hole, ...], center: tuple[float, float]) -> tuple[float, float]:
    return (
        max((abs(h.x_m - center[0]) + 0.5 * h.diameter_m for h in holes), default=0.0),
        max((abs(h.y_m - center[1]) + 0.5 * h.diameter_m for h in holes), default=0.0),
    )


Frame = tuple[float, float, float, float]


def _body(shape: Shape, cx: float, cy: float, frame: Frame) -> list[Stroke]:
    x1, x2 = cx - 0.5 * shape.across_m, cx + 0.5 * shape.across_m
    y1, y2 = cy - 0.5 * shape.up_m, cy + 0.5 * shape.up_m
    sides = ((x1, y1, x2, y1), (x2, y1, x2, y2), (x2, y2, x1, y2), (x1, y2, x1, y1))
    cut = [_clip(one, frame) for one in sides]
    return [Stroke(*one, DrawingLayer.BODY) for one in cut if one is not None]


def _clip(line: Frame, frame: Frame) -> Frame | None:
    """What of a level or upright line lies inside the frame."""
    x1, y1, x2, y2 = line
    left, low, right, top = frame
    if max(x1, x2) < left or min(x1, x2) > right or max(y1, y2) < low or min(y1, y2) > top:
        return None
    held = [min(max(x, left), right) for x in (x1, x2)]
    kept = [min(max(y, low), top) for y in (y1, y2)]
    return held[0], kept[0], held[1], kept[1]


def _edges(found: MountPlan, cx: float, cy: float, frame: Frame) -> list[Stroke | Circle | Text]:
    """Edges of the face that come onto the sheet, to lay it on."""
    if found.center is None or found.mount.wide is None or found.mount.high is None:
        return []
    x0, y0 = cx - found.center[0], cy - found.center[1]
    x1, y1 = x0 + found.mount.wide.value, y0 + found.mount.high.value
    shapes: list[Stroke | Circle | Text] = []
    for line, name in (
        ((x0, y0, x0, y1), "left edge"),
        ((x1, y0, x1, y1), "right edge"),
        ((x0, y0, x1, y0), "lower edge"),
        ((x0, y1, x1, y1), "upper edge"),
    ):
        kept = _clip(line, frame)
        if kept is None:
            continue
        shapes.append(Stroke(*kept, DrawingLayer.EDGES))
        shapes.append(Text(kept[0] + 0.002, min(kept[3] + 0.002, frame[3] - 0.004), name, 0.0025))
    return shapes


def _hole(hole: Hole, x: float, y: float) -> list[Stroke | Circle | Text]:
    arm = 0.5 * hole.diameter_m + 0.004
    return [
        Circle(x, y, 0.5 * hole.diameter_m, DrawingLayer.HOLES),
        Stroke(x - arm, y, x + arm, y, DrawingLayer.CENTERS),
        Stroke(x, y - arm, x, y + arm, DrawingLayer.CENTERS),
        Text(
            x, y - arm - 0.005, f"{hole.name}  ⌀ {hole.diameter_m * 1e3:.3g} mm", 0.003, middle=True
        ),
    ]


def _rulers(wide: float) -> list[Stroke | Circle | Text]:
    """100 mm and 4 in, to see whether the printer kept the size."""
    shapes: list[Stroke | Circle | Text] = []
    for y, length, step, every, name in (
        (MARGIN_M + 0.018, 0.100, 0.010, 5, "100 mm"),
        (MARGIN_M + 0.004, 0.1016, 0.0254 / 4, 4, "4 in"),
    ):
        x = 0.5 * (wide - length)
        shapes.append(Stroke(x, y, x + length, y, DrawingLayer.RULER))
        for at in range(round(length / step) + 1):
            tall = 0.005 if at % every == 0 else 0.003
            shapes.append(Stroke(x + at * step, y, x + at * step, y + tall, DrawingLayer.RULER))
        shapes.append(Text(x + length + 0.003, y + 0.001, name, 0.003))
    return shapes
