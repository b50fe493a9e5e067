"""The fit sheet, its lists and the marks as they are answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from gentle_ember.core.job.facts import Key
from gentle_ember.web.schemas import FigureOut, Request, System
from gentle_ember.web.schemas_catalog import AssumedOut
from gentle_ember.web.schemas_path import BothOut


class MeasureOut(BaseModel):
    """A length or turns the step is about."""

    label: str
    us: str
    metric: str
    value: float
    draw: str
    tolerance: str


class TorqueOut(BaseModel):
    """How tight, and where that comes from."""

    us: str
    metric: str
    source: str


class StepOut(BaseModel):
    """A step of the fit sheet as it stands."""

    key: str
    kind: str
    phase: str
    place: str
    state: Literal["open", "next", "done", "skipped", "stale"]
    held: BothOut
    """The stop that keeps it from being ticked or skipped."""
    must: bool
    """Whether it can't be skipped."""
    waits: list[str]
    """Keys of the steps before it that are still open."""
    what: BothOut
    why: BothOut
    caution: BothOut
    good: BothOut
    bad: BothOut
    photo: str
    photos: int
    tools: list[str]
    takes: list[str]
    parts: list[str]
    joint: str
    fuel: str
    measures: list[MeasureOut]
    torque: TorqueOut | None
    secured: str
    minutes: float
    learned: int
    """How many times of this shop the minutes rest on."""
    opens: bool
    subject: str
    """What the step is about: kept with the record when it is done."""


class UndoneOut(BaseModel):
    """Work done that the sheet no longer has."""

    key: str
    what: str
    by: str
    on: str


class JointStateOut(BaseModel):
    """A joint and its leak pass."""

    key: str
    fuel: str
    title: str
    letter: str
    seal: str
    step: str
    made: bool
    fitter: bool
    on_day: bool
    passed: bool
    void: str
    by: str
    on: str
    subject: str


class TakeOut(BaseModel):
    """A tool, a consumable or a part to take along."""

    key: str
    what: str
    kind: Literal["tool", "consumable", "part"]
    count: str
    uses: list[str]
    packed: bool
    by: str


class FastenerOut(BaseModel):
    """A place of the fastener map."""

    key: str
    where: str
    note: str


class BackOut(BaseModel):
    """A part somebody gets back."""

    key: str
    what: str
    why: str


class DoOut(BaseModel):
    """One thing to do at once."""

    key: str
    text: str


class SmellOut(BaseModel):
    """What to do when gas is smelled."""

    at_once: list[DoOut]
    next: list[str]


class FitOut(BaseModel):
    """The fit sheet with its lists."""

    steps: list[StepOut]
    next: str
    done: int
    total: int
    whole: FigureOut | None
    left: FigureOut | None
    undone: list[UndoneOut]
    joints: list[JointStateOut]
    take: list[TakeOut]
    fasteners: list[FastenerOut]
    back: list[BackOut]
    photos: dict[str, list[str]]
    """Keys of photos by what they show."""


class OffsetOut(BaseModel):
    """A distance from an edge."""

    edge: Literal["left", "right", "top", "bottom"]
    us: str
    metric: str


class HoleOut(BaseModel):
    """A hole as marked."""

    name: str
    x_m: float
    y_m: float
    diameter_m: float
    size: str
    across: OffsetOut | None
    upright: OffsetOut | None


class BlockerOut(BaseModel):
    """What is in the way, and by how much."""

    what: str
    why: str
    path: str
    us: str
    metric: str


class ObstacleOut(BaseModel):
    """A thing on the face, as drawn: left, lower, right, upper side [m]."""

    key: str
    kind: str
    name: str
    side: Literal["front", "behind"]
    box: list[float]


class PassOut(BaseModel):
    """A pass of the drill."""

    bit: str
    size: str
    do: str


class MountOut(BaseModel):
    """A mount worked out."""

    key: str
    name: str
    part: str
    ready: bool
    drilled: bool
    missing: list[AssumedOut]
    stops: list[AssumedOut]
    blockers: list[BlockerOut]
    wide_m: float | None
    high_m: float | None
    center: list[float] | None
    computed: bool
    body: list[float] | None
    wrench_m: float | None
    needs_behind: BothOut | None
    holes: list[HoleOut]
    obstacles: list[ObstacleOut]
    room: FigureOut | None
    tightest: str
    bolt: FigureOut | None
    thread: str
    wrench: str
    play: BothOut | None
    passes: list[PassOut]
    depth: BothOut | None
    behind: str
    thick: BothOut


class WantingOut(BaseModel):
    """A part that still wants a place."""

    part: str
    name: str
    number: str


class ThingOut(BaseModel):
    """A kind of thing on a face, and what a part keeps off it."""

    kind: str
    name: str
    us: str
    metric: str


class MarksOut(BaseModel):
    """Mounts worked out, and parts that want one."""

    mounts: list[MountOut]
    wanting: list[WantingOut]
    things: list[ThingOut]


class DrawingPath(Request):
    """A mount's drawing."""

    job_id: str = Field(max_length=36)
    key: Key
    form: Literal["pdf", "svg", "dxf"]


class DrawingQuery(Request):
    """On which sheet, in which units; whole draws the whole face."""

    sheet: Literal["a4", "letter"] = "letter"
    system: System = "us"
    whole: bool = False


class LabelPath(Request):
    """The panel label."""

    job_id: str = Field(max_length=36)
    form: Literal["pdf", "svg"]
