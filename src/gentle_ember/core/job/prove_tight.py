"""What a job keeps of its leak test: every soaping, the decays, the lock-up."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from gentle_ember.core.job.facts import Fact, Key, Model, Name, Note, Quantity
from gentle_ember.core.job.fit import Stamp


class Soaped(Model):
    """A joint looked at once: what the film did, and what was done about it."""

    joint: Annotated[str, StringConstraints(max_length=60)] = ""
    found: Literal["holds", "bubbles", "foam"] = "holds"
    repair: Note = ""
    by: Name = ""
    on: Stamp = ""


class ZoneTest(Model):
    """A zone's decay, where one is made: what was shut in, read before and after."""

    volume: Annotated[Fact | None, Quantity("volume", "Gas shut in", 1e-5, 1.0)] = None
    before: Annotated[Fact | None, Quantity("pressure", "Pressure before", 100.0, 1.8e6)] = None
    after: Annotated[Fact | None, Quantity("pressure", "Pressure after", 0.0, 1.8e6)] = None
    before_k: Annotated[
        Fact | None, Quantity("temperature", "Gas temperature before", 233.15, 333.15)
    ] = None
    after_k: Annotated[
        Fact | None, Quantity("temperature", "Gas temperature after", 233.15, 333.15)
    ] = None
    seconds: Annotated[Fact | None, Quantity("minutes", "Time", 60.0, 86400.0)] = None
    allowed: Annotated[Fact | None, Quantity("pressure", "Drop allowed", 0.0, 5e3)] = None
    barometer: Annotated[Fact | None, Quantity("pressure", "Barometer moved by", 0.0, 5e3)] = None
    by: Name = ""
    on: Stamp = ""


class LockUp(Model):
    """Inlet live, engine stopped: whether a film over the demand regulator's outlet grows."""

    state: Literal["", "still", "grows"] = ""
    note: Note = ""
    by: Name = ""
    on: Stamp = ""


class Proof(Model):
    """Everything kept of proving tight."""

    soaped: Annotated[dict[Key, Soaped], Field(max_length=400)] = {}
    """Every look at a joint, in order; a pass that counts stands with the fitting."""
    zones: Annotated[dict[Key, ZoneTest], Field(max_length=24)] = {}
    """By gas and zone, as in `propane-low`."""
    lock_up: Annotated[dict[Key, LockUp], Field(max_length=8)] = {}
    """By gas."""
