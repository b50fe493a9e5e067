"""One reading of a sweep, and what it is read by."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Signal(StrEnum):
    """What a sweep is read by."""

    OUTPUT = "output"
    """Most output held before the throttle is fully open [W]: more is better."""
    SPEED = "speed"
    """Engine speed at a load that opens the throttle fully [1/s or rpm]: more is better."""
    THROTTLE = "throttle"
    """Throttle opening at a steady load [1]: less is better."""


class Ran(StrEnum):
    """How it ran while the reading was taken."""

    SMOOTH = "smooth"
    HUNTING = "hunting"
    ROUGH = "rough"
    DIED = "died"


@dataclass(frozen=True, slots=True)
class Taken:
    """A reading: the screw [turns from the seat], the signal, its standard error, how it ran."""

    turns: float
    value: float
    sigma: float
    ran: Ran = Ran.SMOOTH
    lam: float | None = None
    """Air over stoichiometric air, where a probe is in the exhaust [1]."""
