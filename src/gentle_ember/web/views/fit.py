"""The fit sheet, its lists and the marks; lengths within sentences in both systems."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Literal

from pydantic import Field

from gentle_ember.core.job.ends import SEALING
from gentle_ember.core.job.facts import Key
from gentle_ember.core.job.handling import HANDLING
from gentle_ember.core.job.marks import Edge
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.lists import comes_back, fastener_map, to_take
from gentle_ember.core.stages.fit.marks.mount import MOUNTED, MountPlan, mount_plans, mountable
from gentle_ember.core.stages.fit.marks.place import CLEARANCES_M, NAMES, OTHER_M, box_of
from gentle_ember.core.stages.fit.sheet import JointState, SheetStep, fit_sheet, joint_key
from gentle_ember.core.stages.fit.smell import drill
from gentle_ember.core.stages.fit.step import StepMeasure
from gentle_ember.core.stages.fit.times import LearnedTime, minutes
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.fuel_path.trains import job_trains, parts_of
from gentle_ember.units.display import show_value, tape
from gentle_ember.units.registry import System
from gentle_ember.web.views.base import (
    AssumedOut,
    BothOut,
    FigureOut,
    Request,
    View,
    both,
    figure,
)
from gentle_ember.web.views.parts import count_of


class MeasureOut(BothOut):
    """A length or turns the step is about."""

    label: str
    value: float
    draw: str
    tolerance: str


class TorqueOut(BothOut):
    """How tight, and where that comes from."""

    source: str


class StepOut(View):
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


class UndoneOut(View):
    """Work done that the sheet no longer has."""

    key: str
    what: str
    by: str
    on: str


class JointStateOut(View):
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


class TakeOut(View):
    """A tool, a consumable or a part to take along."""

    key: str
    what: str
    kind: Literal["tool", "consumable", "part"]
    count: BothOut | None
    uses: list[str]
    packed: bool
    by: str


class FastenerOut(View):
    """A place of the fastener map."""

    key: str
    where: str
    note: str


class BackOut(View):
    """A part somebody gets back."""

    key: str
    what: str
    why: str


class DoOut(View):
    """One thing to do at once."""

    key: str
    text: str


class SmellOut(View):
    """What to do when gas is smelled."""

    at_once: list[DoOut]
    next: list[str]


class FitOut(View):
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


class OffsetOut(BothOut):
    """A distance from an edge."""

    edge: Literal["left", "right", "top", "bottom"]


class HoleOut(View):
    """A hole as marked."""

    name: str
    x_m: float
    y_m: float
    diameter_m: float
    size: str
    across: OffsetOut | None
    upright: OffsetOut | None


class BlockerOut(BothOut):
    """What is in the way, and by how much."""

    what: str
    why: str
    path: str


class ObstacleOut(View):
    """A thing on the face, as drawn: left, lower, right, upper side [m]."""

    key: str
    kind: str
    name: str
    side: Literal["front", "behind"]
    box: list[float]


class PassOut(View):
    """A pass of the drill."""

    bit: str
    size: str
    do: str


class MountOut(View):
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


class WantingOut(View):
    """A part that still wants a place."""

    part: str
    name: str
    number: str


class ThingOut(BothOut):
    """A kind of thing on a face, and what a part keeps off it."""

    kind: str
    name: str


class MarksOut(View):
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


_SAID = re.compile(r"⟨([-0-9.e]+) (\w+)⟩")


def said(text: str) -> BothOut:
    """A sentence in both systems, the lengths it holds in each one's units."""
    return BothOut(us=_said(text, "us"), metric=_said(text, "metric"))


def _said(text: str, system: System) -> str:
    def shown(found: re.Match[str]) -> str:
        return " ".join(show_value(float(found[1]), found[2], system)).strip()

    return _SAID.sub(shown, text)


def fit(planned: Plan, learned: Mapping[str, LearnedTime]) -> FitOut:
    """The sheet with its lists."""
    found = planned.of(fit_sheet)
    photos: dict[str, list[str]] = {}
    for key, entry in planned.job.attachments.items():
        if entry.subject.startswith("fit."):
            photos.setdefault(entry.subject, []).append(key)
    parts = parts_of(planned.job, planned.catalog)
    names = {key: f"{part.number} {part.name}" for key, part in parts.items()}
    return FitOut(
        steps=[_step(one, learned, names, photos) for one in found.steps],
        next=found.next.step.key if found.next else "",
        done=len(found.steps) - len(found.open),
        total=len(found.steps),
        whole=figure(found.whole(learned)) if found.steps else None,
        left=figure(found.left(learned)) if found.steps else None,
        undone=[
            UndoneOut(key=one.key, what=one.what, by=one.record.by, on=one.record.on)
            for one in found.undone
        ],
        joints=[_joint(one) for one in found.joints],
        take=[
            TakeOut(
                key=one.key,
                what=one.what,
                kind=one.kind,
                count=count_of(one.line.part, one.line.count) if one.line else None,
                uses=list(one.uses),
                packed=one.packed.done,
                by=one.packed.by,
            )
            for one in to_take(found, planned.of(parts_list))
        ],
        fasteners=[
            FastenerOut(key=one.key, where=one.where, note=one.note) for one in fastener_map(found)
        ],
        back=[BackOut(key=one.key, what=one.what, why=one.why) for one in comes_back(found.case)],
        photos=photos,
    )


def _step(
    one: SheetStep,
    learned: Mapping[str, LearnedTime],
    names: Mapping[str, str],
    photos: Mapping[str, list[str]],
) -> StepOut:
    step = one.step
    held = learned.get(step.kind, LearnedTime())
    return StepOut(
        key=step.key, kind=step.kind, phase=str(step.phase), place=str(step.place),
        state=one.state, held=said(one.held), must=step.must, waits=list(one.waits),
        what=said(step.what), why=said(step.why), caution=said(step.caution),
        good=said(step.good), bad=said(step.bad), photo=step.photo,
        photos=len(photos.get(f"fit.steps.{step.key}", ())),
        tools=list(step.tools), takes=list(step.takes),
        parts=[names.get(key, key) for key in step.parts],
        joint=step.joint, fuel=_fuel(step.fuel),
        measures=[_measure(measure) for measure in step.measures],
        torque=None if step.torque is None else TorqueOut(
            us=_torque(step.torque.low_nm, step.torque.high_nm, "us"),
            metric=_torque(step.torque.low_nm, step.torque.high_nm, "metric"),
            source=step.torque.source,
        ),
        secured=str(step.secured) if step.secured else "",
        minutes=round(minutes(step.minutes, held), 1), learned=held.count,
        opens=bool(step.back), subject=step.subject,
    )  # fmt: skip


def _fuel(key: str) -> str:
    return HANDLING[FuelKey(key)].train if key else ""


def _torque(low: float, high: float, system: System) -> str:
    ends = [show_value(value, "torque", system, 3) for value in (low, high)]
    text = ends[0][0] if low == high else f"{ends[0][0]}–{ends[1][0]}"
    return f"{text} {ends[0][1]}"


def _measure(one: StepMeasure) -> MeasureOut:
    shown = both(one.value, one.kind)
    if one.draw == "offset":
        shown = BothOut(us=tape(one.value, "us"), metric=tape(one.value, "metric"))
    return MeasureOut(
        label=one.label, **dict(shown), value=one.value, draw=one.draw, tolerance=one.tolerance
    )


def _joint(one: JointState) -> JointStateOut:
    how = SEALING[one.joint.seal]
    return JointStateOut(
        key=joint_key(one.joint.key), fuel=_fuel(one.joint.fuel),
        title=one.joint.title, letter=how.letter, seal=how.name, step=one.step,
        made=one.made, fitter=one.joint.fitter, on_day=one.joint.on_day,
        passed=one.passed, void=one.void, by=one.tight.by, on=one.tight.on,
        subject=one.subject,
    )  # fmt: skip


def marks(planned: Plan) -> MarksOut:
    """Mounts worked out, and parts that still want one."""
    placed = {one.part.key for one in planned.of(mount_plans) if one.part is not None}
    wanting = {
        part.key: part
        for one in planned.of(job_trains).values()
        for _, _, part in one.case.of(*MOUNTED)
        if mountable(part) and part.key not in placed
    }
    return MarksOut(
        mounts=[_mount(one) for one in planned.of(mount_plans)],
        wanting=[WantingOut(part=part.key, name=part.name, number=part.number)
                    for part in wanting.values()],
        things=[
            ThingOut(kind=kind, name=name,
                     **dict(both(CLEARANCES_M.get(kind, OTHER_M), "small_length")))
            for kind, name in NAMES.items()
        ],
    )  # fmt: skip


def _mount(one: MountPlan) -> MountOut:
    mount, shape = one.mount, one.shape
    return MountOut(
        key=one.key,
        name=mount.name,
        part=f"{one.part.number} {one.part.name}" if one.part else "",
        ready=one.ready,
        drilled=one.drilled,
        missing=[AssumedOut(text=text, path=path) for text, path in one.missing],
        stops=[AssumedOut(text=text, path=path) for text, path in one.stops],
        blockers=[
            BlockerOut(what=b.what, why=b.why, path=b.path, **dict(both(b.short_m, "small_length")))
            for b in one.blockers
        ],
        wide_m=mount.wide.value if mount.wide else None,
        high_m=mount.high.value if mount.high else None,
        center=list(one.center) if one.center else None,
        computed=mount.left is None or mount.up is None,
        body=[shape.across_m, shape.up_m] if shape else None,
        wrench_m=shape.wrench_m if shape else None,
        needs_behind=both(shape.behind_m, "small_length") if shape else None,
        holes=[
            HoleOut(
                name=hole.name, x_m=hole.x_m, y_m=hole.y_m,
                diameter_m=hole.diameter_m, size=f"{hole.diameter_m * 1e3:.3g} mm",
                across=_offset(hole.across), upright=_offset(hole.upright),
            )
            for hole in one.holes
        ],
        obstacles=[
            ObstacleOut(key=key, kind=thing.kind, name=thing.name or NAMES[thing.kind],
             side=thing.side, box=list(box))
            for key, thing in mount.obstacles.items()
            if (box := box_of(thing)) is not None
        ],
        room=figure(one.room) if one.room else None,
        tightest=one.tightest,
        bolt=figure(one.bolt) if one.bolt else None,
        thread=one.thread.name if one.thread else "",
        wrench=one.thread.wrench if one.thread else "",
        play=both(one.thread.play_m, "small_length") if one.thread else None,
        passes=[
            PassOut(bit=cut.bit, size=f"{cut.diameter_m * 1e3:.3g} mm", do=cut.do)
            for cut in one.passes
        ],
        depth=both(one.depth.stop_m, "small_length") if one.depth.stop_m else None,
        behind=one.behind,
        thick=both(one.thick_m, "small_length"),
    )  # fmt: skip


def _offset(found: tuple[Edge, float] | None) -> OffsetOut | None:
    if found is None:
        return None
    return OffsetOut(edge=found[0], us=tape(found[1], "us"), metric=tape(found[1], "metric"))


def lengths(found: MountPlan, system: System) -> dict[str, str]:
    """Distances of each hole in words, for the printed template."""
    words = {}
    for hole in found.holes:
        ends = [
            f"{tape(one[1], system)} from the {one[0]} edge"
            for one in (hole.across, hole.upright)
            if one is not None
        ]
        words[hole.name] = ", ".join(ends)
    return words


def smell(planned: Plan) -> SmellOut:
    """What to do when gas is smelled; with every answer, for it is one press away everywhere."""
    found = planned.of(drill)
    return SmellOut(
        at_once=[DoOut(key=key, text=text) for key, text in found.at_once],
        next=list(found.next),
    )
