"""What a job keeps of its leak test: every soaping, the decays, the lock-up."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from gentle_ember.core.job.facts import By, Fact, Key, Model, Name, Note, Quantity
from gentle_ember.core.job.fit import Stamp


class Soaped(Model):
    """A joint looked at once: what the film did, and what was done about it."""

    joint: Annotated[str, StringConstraints(max_length=60)] = ""
    found: Literal["holds", "bubbles", "foam"] = "holds"
    repair: Note = ""
    by: By = ""
    on: Stamp = ""


class ZoneTest(Model):
    """A zone's decay, where one is made: what was shut in, read before and after."""

    volume: Annotated[Fact | None, Quantity("volume", "Gas shut in", 1e-5, 1.0, 7.571e-4)] = None
    before: Annotated[Fact | None, Quantity("pressure", "Pressure before", 100.0, 1.8e6)] = None
    after: Annotated[Fact | None, Quantity("pressure", "Pressure after", 0.0, 1.8e6)] = None
    before_k: Annotated[
        Fact | None, Quantity("temperature", "Gas temperature before", 233.15, 333.15)
    ] = None
    after_k: Annotated[
        Fact | None, Quantity("temperature", "Gas temperature after", 233.15, 333.15)
    ] = None
    seconds: Annotated[Fact | None, Quantity("minutes", "Time between", 60.0, 86400.0)] = None
    gauge: Annotated[Fact | None, Quantity("pressure", "Gauge reads within", 0.1, 20e3)] = None
    limit: Annotated[Fact | None, Quantity("leak", "Leak to rule out", 1e-11, 1e-6)] = None
    barometer: Annotated[Fact | None, Quantity("pressure", "Barometer moved by", 0.0, 5e3)] = None
    by: By = ""
    on: Stamp = ""


class LockUp(Model):
    """Inlet live, engine stopped: whether a film over the demand regulator's outlet grows."""

    state: Literal["", "still", "grows"] = ""
    note: Note = ""
    by: By = ""
    on: Stamp = ""


class How(Model):
    """With what a fuel's joints were looked at: film or detector, the air, the gauge."""

    by: Literal["", "leak_fluid", "winter_fluid", "soap", "detector", "both"] = ""
    air: Annotated[Fact | None, Quantity("temperature", "Air at the test", 233.15, 333.15)] = None
    gauge: Name = ""
    """The gauge, by its name or number."""
    detector: Name = ""
    """The detector, by its name or number, with its last calibration."""


class InletPressures(Model):
    """Pressure at the inlet of the demand regulator, or of a carburetor that has one built in."""

    static: Annotated[Fact | None, Quantity("pressure", "At no flow", 0.0, 1.8e6)] = None
    later: Annotated[
        Fact | None, Quantity("pressure", "At no flow, five minutes later", 0.0, 1.8e6)
    ] = None
    full: Annotated[Fact | None, Quantity("pressure", "At full load", -5e3, 1.8e6)] = None
    by: By = ""
    on: Stamp = ""


class Proof(Model):
    """Everything kept of proving tight."""

    how: Annotated[dict[Key, How], Field(max_length=8)] = {}
    """By fuel."""
    pressures: Annotated[dict[Key, InletPressures], Field(max_length=8)] = {}
    """By gas."""
    soaped: Annotated[dict[Key, Soaped], Field(max_length=400)] = {}
    """Every look at a joint, in order; a pass that counts stands with the fitting."""
    zones: Annotated[dict[Key, ZoneTest], Field(max_length=24)] = {}
    """By gas and zone, as in `propane-low`."""
    lock_up: Annotated[dict[Key, LockUp], Field(max_length=8)] = {}
    """By gas."""
