"""What a job keeps of metering: readings of a sweep, where the screw was locked, what was checked.

Settings belong to a site and a gas; the seat they are counted from is noted with them.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.facts import Fact, Key, Model, Name, Note, Quantity
from gentle_ember.core.figure import Origin
from gentle_ember.core.fit.records import Stamp
from gentle_ember.core.metering.reading import Ran, Signal


class SweepReading(Model):
    """A reading of the sweep; which of the signals is used, the sweep says."""

    turns: Annotated[Fact | None, Quantity("turns", "Load screw", 0.02, 40.0)] = None
    output: Annotated[Fact | None, Quantity("power", "Output held", 0.0, 60e3)] = None
    speed: Annotated[Fact | None, Quantity("speed", "Engine speed", 0.0, 1200.0)] = None
    throttle: Annotated[Fact | None, Quantity("share", "Throttle", 0.0, 1.0)] = None
    lam: Annotated[Fact | None, Quantity("ratio", "λ", 0.3, 3.0)] = None
    sigma: Annotated[float, Field(ge=0, le=0.2)] = 0.0
    """Standard error as a share of the signal, where an instrument averaged it."""
    ran: Ran = Ran.SMOOTH
    by: Name = ""
    on: Stamp = ""


class Tried(Model):
    """Something looked at after the setting: no load, eco, a load step, idle, the locked nut."""

    state: Literal["", "good", "bad"] = ""
    note: Note = ""
    by: Name = ""
    on: Stamp = ""
    origin: Origin = Origin.MEASURED
    at: Annotated[float | None, Field(ge=0.0, le=40.0)] = None
    """Where the screw was locked when it was looked at [turns]."""


class Metering(Model):
    """The metering of one gas on one site."""

    signal: Signal = Signal.OUTPUT
    school: Literal["power", "area", "preset", "shop"] = "power"
    preset: Annotated[Fact | None, Quantity("turns", "Maker's preset", 0.05, 40.0)] = None
    most: Annotated[Fact | None, Quantity("turns", "The screw's last turn", 0.5, 40.0)] = None
    load: Annotated[Fact | None, Quantity("power", "Steady load", 0.0, 60e3)] = None
    readings: Annotated[dict[Key, SweepReading], Field(max_length=60)] = {}
    seat: Note = ""
    """What the turns are counted from: lightly seated, a mark, a pin."""
    locked: Annotated[Fact | None, Quantity("turns", "Locked at", 0.02, 40.0)] = None
    locked_by: Name = ""
    locked_on: Stamp = ""
    idle: Annotated[Fact | None, Quantity("turns", "Idle screw", 0.0, 40.0)] = None
    left: Annotated[Fact | None, Quantity("turns", "Left barrel's screw", 0.02, 40.0)] = None
    right: Annotated[Fact | None, Quantity("turns", "Right barrel's screw", 0.02, 40.0)] = None
    checks: Annotated[dict[Key, Tried], Field(max_length=20)] = {}
