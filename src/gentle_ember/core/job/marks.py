"""A face a part is mounted on, as measured with a tape from edges it can hook on."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.job.facts import Fact, Key, Model, Name, Quantity

Edge = Literal["left", "right", "top", "bottom"]
EDGES: tuple[Edge, ...] = ("left", "right", "top", "bottom")


class Obstacle(Model):
    """Something before or behind the face: a rectangle on it, and how far off it stands."""

    kind: Literal[
        "exhaust", "plug", "pull_rope", "filter", "wheel", "handle", "wiring", "tank",
        "structure", "fold", "other",
    ] = "other"  # fmt: skip
    name: Name = ""
    side: Literal["front", "behind"] = "behind"
    left: Annotated[Fact | None, Quantity("small_length", "From the left edge", -1.0, 3.0)] = None
    up: Annotated[Fact | None, Quantity("small_length", "From the lower edge", -1.0, 3.0)] = None
    wide: Annotated[Fact | None, Quantity("small_length", "Width", 1e-3, 3.0)] = None
    high: Annotated[Fact | None, Quantity("small_length", "Height", 1e-3, 3.0)] = None
    away: Annotated[Fact | None, Quantity("small_length", "Off the face", 0.0, 1.0)] = None
    """Room between it and the face; it is taken as touching when not said."""


class PanelLayer(Model):
    """One layer the drill goes through, from the front."""

    material: Literal["steel", "aluminum", "plastic", "composite"] = "steel"
    thickness: Annotated[Fact | None, Quantity("small_length", "Thickness", 2e-4, 30e-3)] = None
    hole: Annotated[Fact | None, Quantity("small_length", "Hole in it, if another", 1e-3, 0.2)] = (
        None
    )
    """Where this skin's hole is wider than the part's: the nut goes through it and bears on the
    others."""


class Mount(Model):
    """A part to be mounted, the face it goes on, and what is round it."""

    name: Name = ""
    part: Key | Literal[""] = ""
    of_face: Key | Literal[""] = ""
    """The set's face it goes on, as Intake measured it: its room and what is behind count here."""
    holes: Literal["", "measured", "transferred"] = ""
    """Whose holes: the catalog's, measured on the part in hand, or marked through the part."""
    bolts_across: Annotated[
        Fact | None, Quantity("small_length", "Its holes, across", 0.0, 0.5)
    ] = None
    bolts_up: Annotated[Fact | None, Quantity("small_length", "Its holes, up", 0.0, 0.5)] = None
    bolt: Annotated[Fact | None, Quantity("small_length", "Its bolts", 3e-3, 12e-3)] = None
    face: Literal["panel", "tube"] = "panel"
    wide: Annotated[Fact | None, Quantity("small_length", "Width of the face", 10e-3, 3.0)] = None
    high: Annotated[Fact | None, Quantity("small_length", "Height of the face", 10e-3, 3.0)] = None
    """Of a tube: its diameter."""
    hooks: Annotated[tuple[Edge, ...], Field(max_length=4)] = EDGES
    """Edges a tape can hook on."""
    stands: bool = True
    """Whether the face stands upright."""
    layers: Annotated[dict[Key, PanelLayer], Field(max_length=5)] = {}
    room: Annotated[Fact | None, Quantity("small_length", "Room behind", 0.0, 1.0)] = None
    obstacles: Annotated[dict[Key, Obstacle], Field(max_length=20)] = {}
    reach: Literal["front", "left", "right", "top", "bottom"] = "front"
    """From where a hand gets at primer and load screw."""
    stand_off: Annotated[Fact | None, Quantity("small_length", "Stand-off", 0.0, 0.1)] = None
    left: Annotated[
        Fact | None, Quantity("small_length", "Center from the left edge", 0.0, 3.0)
    ] = None
    up: Annotated[Fact | None, Quantity("small_length", "Center from the lower edge", 0.0, 3.0)] = (
        None
    )
    """Where somebody wants its center; the best place is computed when not said."""
