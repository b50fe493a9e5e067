"""What a job keeps of its load tests: loads, runs with their readings, the plug, what was decided.

A test belongs to a site and a fuel, as in `s1-propane`; every trial of a jet or a screw is a run
of its own, so that the runs in their order are the log of what was tried.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.facts import By, Fact, Key, Model, Name, Note, Quantity, simulated
from gentle_ember.core.job.fit import Stamp
from gentle_ember.core.job.metering import Ran


class TestLoad(Model):
    """Something else at hand to load the set with, besides what the shop keeps."""

    name: Name = ""
    watts: Annotated[Fact | None, Quantity("power", "Draws", 20.0, 20e3)] = None
    leg: Literal["a", "b", "c", "both", "any"] = "any"


class LoadReading(Model):
    """What the instruments show at one moment of a run."""

    after: Annotated[Fact | None, Quantity("minutes", "Since it was loaded", 0.0, 14400.0)] = None
    output: Annotated[Fact | None, Quantity("power", "Output", 0.0, 60e3)] = None
    volts_a: Annotated[Fact | None, Quantity("voltage", "Volts, leg A", 0.0, 690.0)] = None
    volts_b: Annotated[Fact | None, Quantity("voltage", "Volts, leg B", 0.0, 690.0)] = None
    volts_c: Annotated[Fact | None, Quantity("voltage", "Volts, leg C", 0.0, 690.0)] = None
    amps_a: Annotated[Fact | None, Quantity("current", "Amps, leg A", 0.0, 400.0)] = None
    amps_b: Annotated[Fact | None, Quantity("current", "Amps, leg B", 0.0, 400.0)] = None
    amps_c: Annotated[Fact | None, Quantity("current", "Amps, leg C", 0.0, 400.0)] = None
    hertz: Annotated[Fact | None, Quantity("frequency", "Frequency", 0.0, 80.0)] = None
    speed: Annotated[Fact | None, Quantity("speed", "Engine speed", 0.0, 1200.0)] = None
    throttle: Annotated[Fact | None, Quantity("share", "Throttle", 0.0, 1.0)] = None
    lam: Annotated[Fact | None, Quantity("ratio", "λ", 0.3, 3.0)] = None
    suction: Annotated[Fact | None, Quantity("pressure", "Suction at the throat", 0.0, 8000.0)] = (
        None
    )
    """By a U-tube at the throat's port, as a pressure below the air around."""
    exhaust: Annotated[Fact | None, Quantity("temperature", "Exhaust", 233.15, 1400.0)] = None
    co: Annotated[Fact | None, Quantity("share", "CO in the exhaust", 0.0, 0.2, 0.02)] = None
    air_co: Annotated[Fact | None, Quantity("ppm", "CO where people are", 0.0, 0.01)] = None
    ran: Ran = Ran.SMOOTH
    smell: Literal["", "none", "gas", "hot"] = ""
    by: By = ""
    on: Stamp = ""

    @property
    def legs(self) -> tuple[tuple[Fact | None, Fact | None], ...]:
        """Volts and amps of each leg."""
        return (
            (self.volts_a, self.amps_a), (self.volts_b, self.amps_b), (self.volts_c, self.amps_c),
        )  # fmt: skip

    @property
    def watts(self) -> float | None:
        """Output [W]: as metered, else volts times amps of the legs."""
        if self.output is not None:
            return self.output.value
        found = [
            volts.value * amps.value
            for volts, amps in self.legs
            if volts is not None and amps is not None
        ]
        return sum(found) if found else None


class PlugLook(Model):
    """The plug: how it went in, and what it looks like after the run, by the picture chart."""

    before: Literal["", "new", "clean", "as_was"] = ""
    after: Key | Literal[""] = ""
    note: Note = ""
    by: By = ""
    on: Stamp = ""
    origin: Origin = Origin.MEASURED


class Decided(Model):
    """What a person decided after a run, and why."""

    what: Literal["", "keep", "screw_out", "screw_in", "jet_up", "jet_down", "put_right"] = ""
    reason: Note = ""
    by: By = ""
    on: Stamp = ""


class Run(Model):
    """One run under load with one jet or one setting of the screw."""

    jet: Annotated[Fact | None, Quantity("count", "Jet in it", 20.0, 400.0)] = None
    turns: Annotated[Fact | None, Quantity("turns", "Load screw", 0.02, 40.0)] = None
    outside: Annotated[Fact | None, Quantity("temperature", "Air outside", 223.15, 328.15)] = None
    held: Annotated[Fact | None, Quantity("power", "Most it held, throttle open", 20.0, 60e3)] = (
        None
    )
    opened: Literal["", "yes", "no"] = ""
    """Whether the throttle was seen to open as the load went on."""
    readings: Annotated[dict[Key, LoadReading], Field(max_length=200)] = {}
    plug: PlugLook = PlugLook()
    decided: Decided = Decided()

    @property
    def simulated(self) -> bool:
        """Whether any of it is off the bench: it settles nothing."""
        return self.plug.origin is Origin.SIMULATED or any(map(simulated, self.readings.values()))


class LoadTest(Model):
    """The load tests of one fuel on one site."""

    loads: Annotated[dict[Key, TestLoad], Field(max_length=40)] = {}
    without: Annotated[tuple[Key, ...], Field(max_length=100)] = ()
    """What the shop keeps and is not at hand today."""
    runs: Annotated[dict[Key, Run], Field(max_length=30)] = {}
