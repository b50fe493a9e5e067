"""How studs that are too short are made to reach: decided once, for sheet and parts list alike."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from gentle_ember.core import studs
from gentle_ember.core.errors import QuantityError
from gentle_ember.core.job import Job
from gentle_ember.core.marks.fastening import thread_of
from gentle_ember.core.part import Part, PartClass


@dataclass(frozen=True, slots=True)
class StudWork:
    """What is done to each stud, and the part it takes; `held_m` is thread in the casting [m]."""

    way: Literal["longer", "back_out", "extend"]
    joint: studs.Joint
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
    def out_m(self) -> float:
        """How far it stands out then [m]; of an extension, the least it must."""
        if self.way == "back_out":
            return self.joint.stick_out_m + self.turns * self.joint.pitch_m
        if self.way == "longer" and self.part is not None and self.part.length_m is not None:
            return self.part.length_m - self.held_m
        return self.joint.stick_out_m + self.short_m


def stud_work(job: Job, joint: studs.Joint, parts: Iterable[Part]) -> StudWork | None:
    """What makes the studs reach: as somebody chose, else longer ones, else extensions.

    Args:
        job: the job.
        joint: the stack on the studs, with the plate in it.
        parts: the catalog.

    Returns:
        None where a full nut goes on with a pitch showing as they are.
    """
    if studs.full_nut(joint):
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
    way = job.fit.studs or ("longer" if longer is not None else "extend")
    short = studs.shortfall(joint)
    part = {"longer": longer, "extend": extension, "back_out": None}[way]
    turns = studs.turns_out(short, joint.pitch_m)
    least = studs.least_in_casting(joint.diameter_m, job.set.studs.metal)
    return StudWork(way, joint, short, held, depth is not None, part, turns, least)
