"""What a job keeps of metering: readings of a sweep, where the screw was locked, what was checked.

Settings belong to a site and a gas; the seat they are counted from is noted with them.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.facts import By, Fact, Key, Model, Note, Quantity, simulated
from gentle_ember.core.job.fit import Stamp


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


class SweepReading(Model):
    """A reading of the sweep; which of the signals is used, the sweep says."""

    turns: Annotated[Fact | None, Quantity("turns", "Load screw", 0.02, 40.0)] = None
    output: Annotated[Fact | None, Quantity("power", "Output held", 0.0, 60e3)] = None
    speed: Annotated[Fact | None, Quantity("speed", "Engine speed", 0.0, 1200.0)] = None
    throttle: Annotated[Fact | None, Quantity("share", "Throttle", 0.0, 1.0)] = None
    lam: Annotated[Fact | None, Quantity("ratio", "λ", 0.3, 3.0)] = None
    plug: Literal["", "light", "tan", "sooty"] = ""
    """The plug after it, where a fixed jet is judged by it."""
    sigma: Annotated[float, Field(ge=0, le=0.2)] = 0.0
    """Standard error as a share of the signal, where an instrument averaged it."""
    ran: Ran = Ran.SMOOTH
    by: By = ""
    on: Stamp = ""

    def read_by(self, signal: Signal) -> Fact | None:
        """The fact a sweep read by this signal takes from it."""
        found: Fact | None = getattr(self, str(signal))
        return found


class Tried(Model):
    """Something looked at after the setting: no load, eco, a load step, idle, the locked nut."""

    state: Literal["", "good", "bad"] = ""
    note: Note = ""
    by: By = ""
    on: Stamp = ""
    origin: Origin = Origin.MEASURED
    at: Annotated[float | None, Field(ge=0.0, le=40.0)] = None
    """Where the screw was locked when it was looked at [turns]."""


class Metering(Model):
    """The metering of one gas on one site."""

    signal: Signal = Signal.OUTPUT
    school: Literal["power", "area", "preset", "shop"] = "power"
    set_by: Literal["plateau", "lean_drop"] = "plateau"
    """Where on the plateau it is set: by what it may lose, or as lean as it holds."""
    preset: Annotated[Fact | None, Quantity("turns", "Maker's preset", 0.05, 40.0)] = None
    most: Annotated[Fact | None, Quantity("turns", "The screw's last turn", 0.5, 40.0)] = None
    load: Annotated[Fact | None, Quantity("power", "Steady load", 0.0, 60e3)] = None
    step: Annotated[Fact | None, Quantity("power", "The load goes in steps of", 1.0, 5e3)] = None
    readings: Annotated[dict[Key, SweepReading], Field(max_length=60)] = {}
    seat: Note = ""
    """What the turns are counted from: lightly seated, a mark, a pin."""
    locked: Annotated[Fact | None, Quantity("turns", "Locked at", 0.02, 40.0)] = None
    locked_by: By = ""
    locked_on: Stamp = ""
    idle: Annotated[Fact | None, Quantity("turns", "Idle screw", 0.0, 40.0)] = None
    left: Annotated[Fact | None, Quantity("turns", "Left barrel's screw", 0.02, 40.0)] = None
    right: Annotated[Fact | None, Quantity("turns", "Right barrel's screw", 0.02, 40.0)] = None
    checks: Annotated[dict[Key, Tried], Field(max_length=20)] = {}

    @property
    def simulated(self) -> bool:
        """Whether any reading comes from the simulated bench."""
        return any(simulated(one) for one in self.readings.values())

    @property
    def proven(self) -> bool:
        """Whether the lock rests on readings of the real machine, and on nothing else."""
        read = any(
            one.turns is not None and one.read_by(self.signal) and one.ran is not Ran.DIED
            for one in self.readings.values()
        )
        real = self.locked is not None and self.locked.origin is not Origin.SIMULATED
        return real and read and not self.simulated
