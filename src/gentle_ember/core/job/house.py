"""The gas piping of a house before the stub, as a job keeps it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.job.facts import Fact, Key, Model, Name, Quantity

Nominal = Literal["", "3/8", "1/2", "3/4", "1", "1-1/4", "1-1/2", "2", "2-1/2", "3"]


class Section(Model):
    """One length of pipe: what it comes from, how long with its fittings, what hangs on its end."""

    name: Name = ""
    parent: Key | Literal[""] = ""
    """The section it branches from; empty at the meter."""
    length: Annotated[Fact | None, Quantity("length", "Length with fittings", 0.1, 300.0)] = None
    load: Annotated[Fact | None, Quantity("heat_rate", "Appliance at its end", 0.0, 5e6)] = None
    size: Nominal = ""
    """Schedule 40 size that is there; empty to be sized."""


class House(Model):
    """The house side of a gas: its sections, and which one ends at the generator's stub."""

    sections: Annotated[dict[Key, Section], Field(max_length=40)] = {}
    stub: Key | Literal[""] = ""
    allowed: Annotated[Fact | None, Quantity("pressure", "Drop allowed", 10.0, 3000.0)] = None
