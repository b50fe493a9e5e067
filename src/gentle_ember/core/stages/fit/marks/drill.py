"""How a hole is drilled: punch, pilot, the bit each layer wants, and when to stop."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

STEP_MOST_M = 3e-3
"""Sheet up to this is opened with a step drill; it centers itself and leaves no burr to tear."""
SAW_FROM_M = 20e-3
PILOT_M, SMALL_PILOT_M = 3e-3, 2.5e-3
PAST_M = 1e-3
"""How far past the last layer a depth stop lets the drill go."""
TANK_ROOM_M = 8e-3
"""With a tank behind, less room than this is not drilled at all."""


@dataclass(frozen=True, slots=True)
class Pass:
    """One pass: what goes into the chuck, how wide, and how it is done."""

    bit: str
    diameter_m: float
    do: str


def passes(layers: Sequence[tuple[str, float]], hole_m: float) -> tuple[Pass, ...]:
    """Passes from pilot to final hole.

    Args:
        layers: material and thickness [m], from the front.
        hole_m: final diameter [m].

    >>> [(one.bit, round(one.diameter_m * 1e3, 1)) for one in passes([("steel", 1.5e-3)], 6.6e-3)]
    [('twist drill', 3.0), ('step drill', 6.6)]
    >>> passes([("plastic", 3e-3)], 22e-3)[-1].bit
    'hole saw'
    """
    pilot = PILOT_M if hole_m >= 5e-3 else SMALL_PILOT_M
    thick = sum(thickness for _, thickness in layers)
    materials = {material for material, _ in layers}
    soft = materials <= {"plastic", "composite"}
    first = "Punch first, slow, square to the face."
    found = [Pass("twist drill", pilot, "Slow, no pressure." if soft else f"{first} Cutting oil.")]
    if hole_m >= SAW_FROM_M:
        back = "Slow; wood behind so that it does not tear out." if soft else "Slow, oil, in turns."
        found.append(Pass("hole saw", hole_m, back))
    elif thick <= STEP_MOST_M:
        found.append(Pass("step drill", hole_m, "Step by step; stop at the marked step."))
    else:
        if hole_m > 8e-3:
            found.append(Pass("twist drill", round(0.6 * hole_m, 4), "Opens the way."))
        bit = "brad-point drill" if soft else "twist drill"
        found.append(Pass(bit, hole_m, "Ease off as it breaks through."))
    return tuple(found)


def widened(layers: Sequence[tuple[str, float]]) -> tuple[Pass, ...]:
    """Passes for skins whose hole is wider than the part's, after the hole through all of them.

    Args:
        layers: material and the hole wanted [m] of each such skin, from the front.

    >>> [(one.bit, one.diameter_m) for one in widened([("plastic", 0.03), ("steel", 0.012)])]
    [('hole saw', 0.03), ('step drill', 0.012)]
    """
    return tuple(
        Pass(
            "hole saw" if hole >= SAW_FROM_M else "step drill", hole,
            f"The {material} skin alone, from its own side, a plug in the first hole to guide it; "
            "stop before the next skin.",
        )
        for material, hole in layers
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Depth:
    """How deep the drill may go: the stop, and whether it may be drilled at all."""

    stop_m: float | None
    """Where the depth stop is set; None where nothing behind asks for one."""
    refused: str = ""


def depth(thick_m: float, behind: str, room_m: float | None) -> Depth:
    """What a tank or wiring behind asks for.

    Args:
        thick_m: all layers [m].
        behind: what is behind the holes: tank, wiring, structure, or nothing.
        room_m: free room behind the last layer there [m]; None when not measured.

    >>> depth(1.5e-3, "tank", 0.004).refused
    'A tank 4 mm behind: too near to drill. Move the part, or take the tank off first.'
    """
    if behind not in ("tank", "wiring"):
        return Depth(None)
    if behind == "tank":
        if room_m is None:
            return Depth(None, "A tank behind, its distance not measured: measure before drilling.")
        if room_m < TANK_ROOM_M:
            return Depth(
                None,
                f"A tank {room_m * 1e3:.0f} mm behind: too near to drill. Move the part, or take "
                "the tank off first.",
            )
    return Depth(thick_m + PAST_M)
