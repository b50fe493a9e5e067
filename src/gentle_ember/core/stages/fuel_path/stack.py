"""The stack from air cleaner to engine: what makes its studs reach, and its layers as they lie."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Figure, Origin
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part, PartClass
from gentle_ember.core.physics import studs
from gentle_ember.core.physics.fasteners import thread_of
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.judged import stud_figures
from gentle_ember.core.stages.method.stack import adapter_m, joint_of, outward_m, stud_count


@dataclass(frozen=True, slots=True)
class StudWork:
    """What is done to each stud, and the part it takes; `held_m` is thread in the casting [m]."""

    way: Literal["longer", "back_out", "extend", "pull"]
    joint: studs.StudJoint
    short_m: float
    held_m: float
    measured: bool
    """Whether the thread in the casting was measured; twice the diameter is taken when not."""
    part: Part | None
    turns: float
    least_m: float
    """Thread the casting must keep [m]."""

    @property
    def left_m(self) -> float:
        """Thread that stays in the casting once it is backed out [m]."""
        return studs.thread_left(self.held_m, self.turns, self.joint.pitch_m)

    @property
    def pulls_out(self) -> bool:
        """Whether backing out would leave, or may leave, too little thread in the casting."""
        return self.way == "back_out" and (not self.measured or self.left_m < self.least_m)

    @property
    def lacks_m(self) -> float:
        """What drawing the stack together leaves short of a full nut [m]."""
        return studs.shortfall(self.joint) if self.way == "pull" else 0.0

    @property
    def out_m(self) -> float:
        """How far it stands out then [m]; of an extension, the least it must."""
        if self.way == "back_out":
            return self.joint.stick_out_m + self.turns * self.joint.pitch_m
        if self.way == "longer" and self.part is not None and self.part.length_m is not None:
            return self.part.length_m - self.held_m
        return self.joint.stick_out_m + self.short_m


def stud_work(job: Job, joint: studs.StudJoint, parts: Iterable[Part]) -> StudWork | None:
    """What makes the studs reach: as somebody chose, else longer ones, else extensions.

    Args:
        job: the job.
        joint: the stack on the studs, with the plate in it.
        parts: the catalog.

    Returns:
        None where a full nut goes on with a pitch showing, the gaskets not even squeezed.
    """
    draws = studs.pulled(joint)
    if studs.full_nut(joint) and not draws:
        return None
    depth = job.set.studs.thread_depth
    held = depth.value if depth else 2 * joint.diameter_m
    thread = thread_of(joint.diameter_m).diameter_m
    fitting = [part for part in parts if part.thread_m == thread and not part.use_instead]
    try:
        wanted = studs.longer_stud(joint, held)
    except QuantityError:
        wanted = float("inf")
    longer = min(
        (part for part in fitting
         if part.kind is PartClass.STUD and (part.length_m or 0.0) >= wanted - 1e-9),
        key=lambda part: (part.length_m, part.price), default=None,
    )  # fmt: skip
    extension = min(
        (part for part in fitting if part.kind is PartClass.STUD_EXTENSION),
        key=lambda part: part.price, default=None,
    )  # fmt: skip
    way = job.fit.studs or ("pull" if draws else "longer" if longer is not None else "extend")
    short = draws or studs.shortfall(joint)
    part = {"longer": longer, "extend": extension, "back_out": None, "pull": None}[way]
    turns = studs.turns_out(short, joint.pitch_m)
    least = studs.least_in_casting(joint.diameter_m, job.set.studs.metal)
    return StudWork(way, joint, short, held, depth is not None, part, turns, least)


INSULATOR_M = 5e-3


@dataclass(frozen=True, slots=True)
class StackLayer:
    """One layer: what it is, how thick [m], whether that was measured, what to mind."""

    key: str
    name: str
    kind: str
    thickness_m: float | None
    origin: Origin
    path: str
    mind: str = ""
    new: bool = False
    """Whether the conversion adds it."""


@dataclass(frozen=True, slots=True)
class StackView:
    """Layers from the air cleaner inward, the stud through them, what is beside them."""

    layers: tuple[StackLayer, ...]
    joint: studs.StudJoint | None
    beside: tuple[tuple[str, str], ...]
    """Spacer, breather, bracket, cover: what and what to do."""
    figures: tuple[Figure, ...]
    missing: tuple[tuple[str, str], ...]
    """What must be measured for the studs, and its path."""
    count: int
    """Studs."""


def _layer(
    key: str,
    name: str,
    kind: str,
    fact: Fact | None,
    usual: float | None,
    path: str,
    mind: str = "",
    *,
    new: bool = False,
) -> StackLayer:
    if fact is not None:
        return StackLayer(key, name, kind, fact.value, fact.origin, path, mind, new)
    return StackLayer(key, name, kind, usual, Origin.ASSUMED, path, mind, new)


def stack_view(job: Job) -> StackView:
    """The stack of the set as it will be, with the part its train has."""
    case = Case(job)
    machine, stack = job.set, job.set.stack
    mixer = case.mixer
    plate = mixer is not None and mixer.kind is PartClass.ADAPTER
    asks_plate = plate or (
        mixer is None
        and any(key in job.choice.methods for key in ("spacer_adapter", "two_barrel_adapter"))
    )
    each = (stack.gaskets.value if stack.gaskets else studs.GASKETS_M) / 2
    origin = stack.gaskets.origin if stack.gaskets else Origin.ASSUMED
    flat = "One, not doubled; its hole pattern to the plate, its orientation photographed."

    def gasket(key: str, *, new: bool) -> StackLayer:
        return StackLayer(key, "gasket", "gasket", each, origin, "set.stack.gaskets", flat, new)

    layers = [
        _layer(
            "flange",
            "air cleaner flange",
            "cleaner",
            stack.flange,
            None,
            "set.stack.flange",
            "Closed and sealed: a demand regulator needs its suction.",
        ),
        gasket("gasket_out", new=False),
    ]
    if asks_plate:
        name = mixer.name if mixer is not None else "adapter"
        thickness = adapter_m(stack, case.plate_m)
        layers += [
            StackLayer(
                "adapter",
                name,
                "adapter",
                thickness,
                Origin.DATA_SHEET if mixer is not None else Origin.ASSUMED,
                "trains" if mixer is not None else "set.stack.adapter",
                "Arrow with the air, toward the engine; never between carburetor and engine.",
                new=True,
            ),
            gasket("gasket_in", new=True),
        ]
    carburetor = mixer.name if mixer is not None and not plate else "carburetor"
    layers += [
        StackLayer(
            "carburetor",
            carburetor,
            "carburetor",
            None,
            Origin.ASSUMED,
            "set.carburetor.type",
            "Choke lever and links move freely; links and spring remembered by photo.",
            new=mixer is not None and not plate,
        ),
        gasket("gasket_carburetor", new=mixer is not None and not plate),
        StackLayer(
            "insulator",
            "insulator",
            "insulator",
            INSULATOR_M,
            Origin.ASSUMED,
            "set.stack",
            "Its slot lines up with the pulse or vacuum hole.",
        ),
        gasket("gasket_engine", new=False),
        StackLayer("engine", "engine", "engine", None, Origin.ASSUMED, "set.studs.metal"),
    ]
    plate_m = case.plate_m if plate else (None if asks_plate else 0.0)
    joint = joint_of(machine, max(plate_m, 1e-6) if plate_m is not None else None)
    if not asks_plate:
        joint = None
    missing = [
        (text, path)
        for fact, text, path in (
            (machine.studs.spacing, "distance between the studs", "set.studs.spacing"),
            (machine.studs.diameter, "stud diameter", "set.studs.diameter"),
            (machine.studs.pitch, "stud pitch", "set.studs.pitch"),
            (machine.studs.stick_out, "how far the studs stick out", "set.studs.stick_out"),
            (stack.flange, "air-cleaner flange", "set.stack.flange"),
        )
        if fact is None
    ]
    figures = stud_figures(case, "stack") if joint is not None else ()
    return StackView(
        tuple(layers),
        joint,
        tuple(_beside(job, asks_plate, case)),
        figures,
        tuple(missing),
        stud_count(machine),
    )


def _beside(job: Job, plate: bool, case: Case) -> list[tuple[str, str]]:
    if not plate:
        return []
    stack = job.set.stack
    out = outward_m(stack, case.plate_m)
    found = []
    if stack.air_cleaner == "third_bolt":
        found.append(("third bolt", f"spacer of {out * 1e3:.1f} mm behind it"))
    rooms = (
        (stack.breather_slack, "breather", "reaches", "extend it by {} mm"),
        (stack.bracket_room, "choke lever and bracket", "clear", "relieve or space by {} mm"),
        (stack.cover_room, "cover", "closes", "relief or spacers of {} mm"),
    )
    for fact, name, good, short in rooms:
        if fact is None:
            found.append((name, "not measured"))
        elif fact.value < out:
            found.append((name, short.format(f"{(out - fact.value) * 1e3:.1f}")))
        else:
            found.append((name, good))
    return found
