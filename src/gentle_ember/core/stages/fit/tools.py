"""Tools with their sizes: wrenches by thread, by pipe size, and what the bench always has."""

from __future__ import annotations

from gentle_ember.core.job.part import End, System
from gentle_ember.core.physics.fasteners import thread_of

NPT_FLATS: dict[str, str] = {
    "1/8": "7/16 in",
    "1/4": "9/16 in",
    "3/8": "11/16 in",
    "1/2": "7/8 in",
    "3/4": "1-1/16 in",
    "1": "1-3/8 in",
    "1-1/4": "1-3/4 in",
}
"""Usual hexagon of a brass fitting by pipe size."""
FLARE_FLATS: dict[str, str] = {
    "1/4": "9/16 in",
    "5/16": "5/8 in",
    "3/8": "3/4 in",
    "1/2": "7/8 in",
    "5/8": "1-1/16 in",
}
"""Usual hexagon of a 45° flare nut by tube size."""


def socket(diameter_m: float) -> str:
    """The socket for a nut on this stud.

    >>> socket(0.006)
    '10 mm socket'
    """
    return thread_of(diameter_m).wrench.replace("wrench", "socket")


def joint_tools(one: End, other: End) -> tuple[str, ...]:
    """What makes up a joint, with sizes.

    >>> from gentle_ember.core.job.part import end
    >>> joint_tools(end("flare:3/8:m"), end("flare:3/8:f"))
    ('3/4 in flare-nut wrench', '3/4 in wrench to hold')
    """
    if one.system is System.FLARE:
        flats = FLARE_FLATS.get(one.size, one.size)
        return f"{flats} flare-nut wrench", f"{flats} wrench to hold"
    if one.system is System.NPT:
        flats = NPT_FLATS.get(one.size, one.size)
        return f"{flats} wrench", "pipe wrench or wrench to hold"
    if System.BARB in (one.system, other.system):
        return ("5/16 in nut driver", "hose cutter")
    if one.system is System.CYLINDER and "lh" in (one.size, other.size):
        return ("7/8 in wrench",)
    if one.system is System.HORN:
        return ("flat screwdriver",)
    return ()
