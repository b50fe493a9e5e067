"""Studs and spacing: thread left for the nut, turns to back out, longer studs, breather reach."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Method
from gentle_ember.core.base.quantities import check

ENGAGEMENT = Method(
    "stud-engagement",
    "Thread left for the nut",
    "min(nut height, stick-out − flange − washers − adapter − gaskets − 1 pitch)",
    "bolted-joint practice: a full nut and one pitch showing; the stud's chamfered end carries "
    "nothing; 0.8 d is the least a nut of standard height needs",
    "studs",
)
BACK_OUT = Method(
    "stud-back-out",
    "Turns to back a stud out",
    "turns = shortfall ÷ pitch; what stays in the casting ≥ 1.0 d (iron) or 1.5 d (aluminum)",
    "screw-thread geometry; least engagement by metal, machinists' practice",
    "studs",
)
CAUTION_SHARE = 0.8
LEAST_IN_CASTING: dict[str, float] = {"iron": 1.0, "aluminum": 1.5}
"""Least thread in the casting over the stud's diameter [1]; unknown metal is taken as aluminum."""
STANDARD_LENGTHS_M: tuple[float, ...] = tuple(
    n * 1e-3 for n in (*range(20, 60, 5), *range(60, 161, 10))
)
LOOSE = 1.3
"""How much thicker gaskets are before they are squeezed [1]; paper gives about a quarter."""
ADAPTER_M, GASKETS_M, WASHERS_M = 12e-3, 1.0e-3, 1.5e-3


@dataclass(frozen=True, slots=True)
class StudJoint:
    """The stack on a stud past the carburetor [m]."""

    diameter_m: float
    pitch_m: float
    stick_out_m: float
    nut_height_m: float
    flange_m: float
    washers_m: float = WASHERS_M
    adapter_m: float = ADAPTER_M
    gaskets_m: float = GASKETS_M

    def __post_init__(self) -> None:
        check("stud diameter", "small_length", self.diameter_m, 3e-3, 16e-3)
        check("stud pitch", "small_length", self.pitch_m, 0.3e-3, 2.5e-3)
        if self.pitch_m >= 0.3 * self.diameter_m:
            raise QuantityError(
                "stud pitch", "small_length", self.pitch_m, 0.3e-3, 0.3 * self.diameter_m
            )

    @property
    def stack_m(self) -> float:
        """What the stud must reach through before the nut begins [m]."""
        return self.flange_m + self.washers_m + self.adapter_m + self.gaskets_m

    @property
    def past_stack_m(self) -> float:
        """Stud left past the stack, negative when it doesn't reach through [m]."""
        return self.stick_out_m - self.stack_m


def engagement(joint: StudJoint) -> float:
    """Thread that carries in the nut [m]: the stud's chamfered end, one pitch, carries nothing.

    >>> [round(engagement(StudJoint(6e-3, 1e-3, s, 5e-3, 18e-3)) * 1e3, 2) for s in (0.037, 0.045)]
    [3.5, 5.0]
    """
    return max(0.0, min(joint.nut_height_m, joint.past_stack_m - joint.pitch_m))


def full_nut(joint: StudJoint) -> bool:
    """Whether a full nut goes on with one pitch showing.

    >>> full_nut(StudJoint(6e-3, 1e-3, 38.5e-3, 5e-3, 18e-3))
    True
    >>> full_nut(StudJoint(6e-3, 1e-3, 38e-3, 5e-3, 18e-3))
    False
    """
    return shortfall(joint) <= 1e-9


def shortfall(joint: StudJoint) -> float:
    """How much longer the stud must stand out for a full nut and one pitch showing [m].

    >>> round(shortfall(StudJoint(6e-3, 1e-3, 34e-3, 5e-3, 18e-3)) * 1e3, 2)
    4.5
    """
    return max(0.0, joint.nut_height_m + joint.pitch_m - joint.past_stack_m)


def pulled(joint: StudJoint) -> float:
    """How far nuts must draw the stack together before a full nut is on [m]; nought where it is on
    with the gaskets as they lie, or where drawing is not enough.

    >>> round(pulled(StudJoint(6e-3, 1e-3, 38.6e-3, 5e-3, 18e-3)) * 1e3, 2)
    0.2
    >>> pulled(StudJoint(6e-3, 1e-3, 38e-3, 5e-3, 18e-3)), pulled(
    ...     StudJoint(6e-3, 1e-3, 39e-3, 5e-3, 18e-3))
    (0.0, 0.0)
    """
    loose = replace(joint, gaskets_m=joint.gaskets_m * LOOSE)
    return shortfall(loose) if full_nut(joint) else 0.0


def cautioned(joint: StudJoint) -> bool:
    """Whether the nut is only partly on but carries at least 0.8 diameters.

    >>> cautioned(StudJoint(6e-3, 1e-3, 38.4e-3, 5e-3, 18e-3))
    True
    """
    return not full_nut(joint) and engagement(joint) >= CAUTION_SHARE * joint.diameter_m - 1e-9


def turns_out(shortfall_m: float, pitch_m: float) -> float:
    """Turns that back a stud out by a shortfall, up to the next quarter turn.

    >>> turns_out(4.5e-3, 1e-3)
    4.5
    """
    return math.ceil(4 * shortfall_m / pitch_m - 1e-9) / 4


def thread_left(thread_depth_m: float, turns: float, pitch_m: float) -> float:
    """Thread left in the casting after backing out [m].

    >>> round(thread_left(14e-3, 4.5, 1e-3) * 1e3, 1)
    9.5
    """
    return max(0.0, thread_depth_m - turns * pitch_m)


def least_in_casting(diameter_m: float, metal: str) -> float:
    """Thread the casting must keep [m].

    >>> round(least_in_casting(6e-3, "aluminum") * 1e3, 1)
    9.0
    """
    return LEAST_IN_CASTING.get(metal, LEAST_IN_CASTING["aluminum"]) * diameter_m


def longer_stud(joint: StudJoint, thread_depth_m: float) -> float:
    """Shortest standard stud that gives a full nut and one pitch, its thread in the casting kept.

    Args:
        joint: the stack.
        thread_depth_m: thread in the casting [m].

    Raises:
        QuantityError: longer than any stud of the series.

    >>> round(longer_stud(StudJoint(6e-3, 1e-3, 34e-3, 5e-3, 18e-3), 12e-3) * 1e3)
    55
    """
    wanted = thread_depth_m + joint.stack_m + joint.nut_height_m + joint.pitch_m
    for length in STANDARD_LENGTHS_M:
        if length >= wanted - 1e-9:
            return length
    raise QuantityError("stud length", "small_length", wanted, 0.0, STANDARD_LENGTHS_M[-1])
