"""Bolts, washers, nuts and the room a wrench takes, by thread. All lengths in meters."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core.base.errors import QuantityError

LENGTHS_M: tuple[float, ...] = tuple(
    n * 1e-3 for n in (8, 10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 70, 80, 90, 100)
)
"""Lengths bolts are sold in (ISO 888)."""
SHOWING_PITCHES = 2.0


@dataclass(frozen=True, slots=True)
class Thread:
    """A metric thread with what goes with it.

    Clearance holes: ISO 273, medium. Across flats and nut heights: ISO 4032. Washers: ISO 7089.
    """

    diameter_m: float
    pitch_m: float
    hole_m: float
    across_flats_m: float
    nut_m: float
    washer_m: float
    washer_thick_m: float
    torque_nm: float
    """Usual for property class 8.8, dry, on thin metal: about a third of proof."""

    @property
    def name(self) -> str:
        """As it is called."""
        return f"M{self.diameter_m * 1e3:g}"

    @property
    def wrench(self) -> str:
        """The wrench for its nut."""
        return f"{self.across_flats_m * 1e3:g} mm wrench"

    @property
    def wrench_circle_m(self) -> float:
        """Radius a ring wrench sweeps round the nut: its wall is about a third of the nut."""
        return 0.5 * self.across_flats_m * 1.7

    @property
    def play_m(self) -> float:
        """How much wider the hole is than the bolt."""
        return self.hole_m - self.diameter_m


THREADS: dict[str, Thread] = {
    thread.name: thread
    for thread in (
        Thread(4e-3, 0.7e-3, 4.5e-3, 7e-3, 3.2e-3, 9e-3, 0.8e-3, 2.0),
        Thread(5e-3, 0.8e-3, 5.5e-3, 8e-3, 4.7e-3, 10e-3, 1.0e-3, 4.0),
        Thread(6e-3, 1.0e-3, 6.6e-3, 10e-3, 5.2e-3, 12e-3, 1.6e-3, 7.0),
        Thread(8e-3, 1.25e-3, 9.0e-3, 13e-3, 6.8e-3, 16e-3, 1.6e-3, 16.0),
        Thread(10e-3, 1.5e-3, 11.0e-3, 16e-3, 8.4e-3, 20e-3, 2.0e-3, 32.0),
    )
}


def thread_of(diameter_m: float) -> Thread:
    """The thread a measured diameter belongs to.

    >>> thread_of(0.0059).name, thread_of(0.006).wrench
    ('M6', '10 mm wrench')
    """
    return min(THREADS.values(), key=lambda one: abs(one.diameter_m - diameter_m))


def bolt_length(thread: Thread, clamped_m: float) -> float:
    """Shortest bolt as sold through what is clamped, two washers, a full nut and two pitches.

    Args:
        thread: the bolt's.
        clamped_m: everything between the washers [m].

    Raises:
        QuantityError: longer than any bolt of the series.

    >>> round(bolt_length(THREADS["M6"], 3.5e-3) * 1e3)
    16
    """
    wanted = clamped_m + 2 * thread.washer_thick_m + thread.nut_m + SHOWING_PITCHES * thread.pitch_m
    for length in LENGTHS_M:
        if length >= wanted - 1e-9:
            return length
    raise QuantityError("bolt length", "small_length", wanted, 0.0, LENGTHS_M[-1])


def depth_behind(thread: Thread, bolt_m: float, before_m: float) -> float:
    """How far bolt, nut and wrench stand out behind the last layer [m].

    Args:
        thread: the bolt's.
        bolt_m: its length [m].
        before_m: from under its head to the back of the last layer [m].
    """
    return max(bolt_m - before_m, thread.washer_thick_m + thread.nut_m) + 3e-3
