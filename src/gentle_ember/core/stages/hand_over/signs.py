"""Signs of the cards: strokes on a field of 24 by 24, x and y by turns from its upper left.

They are this product's own, and say the same in black on wet paper as on a screen.
"""

from __future__ import annotations

import math

FIELD = 24
Strokes = tuple[tuple[int, ...], ...]


def _arc(x: float, y: float, radius: float, start: float, stop: float) -> tuple[int, ...]:
    """Part of a circle as a line of short steps, its angles in degrees clockwise from the right."""
    steps = max(4, round(abs(stop - start) / 15))
    angles = (math.radians(start + (stop - start) * n / steps) for n in range(steps + 1))
    return tuple(
        round(at)
        for angle in angles
        for at in (x + radius * math.cos(angle), y + radius * math.sin(angle))
    )


SIGNS: dict[str, Strokes] = {
    # A box ticked.
    "before": ((4, 4, 20, 4, 20, 20, 4, 20, 4, 4), (8, 12, 11, 16, 17, 7)),
    # The recoil starter, its rope and handle.
    "start": (_arc(9, 9, 6, 0, 360), (9, 9, 20, 20), (17, 23, 23, 17)),
    # Eight sides with a bar across.
    "stop": ((8, 3, 16, 3, 21, 8, 21, 16, 16, 21, 8, 21, 3, 16, 3, 8, 8, 3), (8, 12, 16, 12)),
    # Under a roof.
    "store": (
        (2, 11, 12, 3, 22, 11), (5, 10, 5, 21, 19, 21, 19, 10), (9, 21, 9, 15, 15, 15, 15, 21),
    ),
    # One way and the other.
    "over": ((3, 8, 20, 8), (15, 3, 21, 8, 15, 13), (21, 17, 4, 17), (9, 12, 3, 17, 9, 22)),
    # A dial and its needle.
    "runs": (_arc(12, 15, 9, 180, 360), (12, 15, 17, 9), (3, 20, 21, 20)),
    # What rises.
    "smell": tuple((x, 21, x - 2, 16, x + 2, 11, x - 2, 6, x, 3) for x in (6, 12, 18)),
    # A disc that sounds.
    "alarm": (_arc(7, 12, 3, 0, 360), _arc(7, 12, 9, -50, 50), _arc(7, 12, 14, -40, 40)),
    # A flame.
    "fire": (
        (13, 2, 17, 8, 19, 14, 17, 19, 12, 22, 7, 19, 5, 14, 9, 10, 10, 6, 13, 2),
        (12, 21, 9, 17, 12, 13, 15, 17, 12, 21),
    ),
    # Six arms.
    "frost": (
        (12, 2, 12, 22), (3, 7, 21, 17), (3, 17, 21, 7), (9, 4, 12, 7, 15, 4),
        (9, 20, 12, 17, 15, 20),
    ),
    # A can with its spout.
    "fill": ((4, 9, 15, 9, 15, 22, 4, 22, 4, 9), (7, 9, 7, 5, 12, 5, 12, 9), (15, 12, 22, 5)),
    # A circle struck through.
    "never": (_arc(12, 12, 10, 0, 360), (5, 5, 19, 19)),
}  # fmt: skip
