"""Metering and the simulated bench as they are asked and answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from gentle_ember.core.job.facts import Key
from gentle_ember.core.job.metering import SweepReading
from gentle_ember.web.schemas import FigureOut, HoldOut, MixtureOut, Request, System
from gentle_ember.web.schemas_path import BothOut


class TakenOut(BaseModel):
    """A reading of the sweep as it is judged and drawn."""

    key: str
    turns: float
    value: float
    sigma: float
    ran: Literal["smooth", "hunting", "rough", "died"]
    simulated: bool
    turns_shown: str
    shown: BothOut
    lam: str
    by: str


class SweepCurveOut(BaseModel):
    """What the readings say of the whole curve, thinned for drawing; in the signal's SI unit."""

    turns: list[float]
    middle: list[float]
    low: list[float]
    high: list[float]


class NextOut(BaseModel):
    """The next reading worth taking."""

    turns: float
    shown: str
    why: str
    how: str


class CannotOut(BaseModel):
    """Why there is no setting, and what to check."""

    why: str
    text: str
    checks: list[str]


class LookOut(BaseModel):
    """Something to be looked at after the setting."""

    key: str
    text: str
    state: Literal["", "good", "bad"]
    before: str
    """Where the screw was when it was looked at, if it was turned since [turns]; else empty."""
    by: str
    note: str
    simulated: bool


class MeteringOut(BaseModel):
    """One gas on this site."""

    fuel: str
    name: str
    letter: str
    key: str
    screw: bool
    barrels: int
    signal: Literal["output", "speed", "throttle"]
    signal_kind: str
    starts: list[FigureOut]
    start: FigureOut | None
    most: float
    motors: bool
    load: FigureOut | None
    expected: FigureOut | None
    readings: list[TakenOut]
    curve: SweepCurveOut | None
    next: NextOut | None
    cannot: CannotOut | None
    lean: FigureOut | None
    rich: FigureOut | None
    setting: FigureOut | None
    locked: str
    locked_turns: float | None
    simulated: bool
    proven: bool
    looks: list[LookOut]
    forbidden: list[HoldOut]
    mixture: MixtureOut | None
    """What keeps it from being run."""


class SweepPath(Request):
    """A gas's metering on a site, as in `s1-propane`."""

    job_id: str = Field(max_length=36)
    key: Key


class SweepQuery(Request):
    """Units of bare numbers."""

    system: System = "us"


class LoadedOut(BaseModel):
    """Readings of a file, as the job keeps them; the page saves them."""

    readings: list[SweepReading]


class BenchPath(Request):
    """A job's bench on one fuel."""

    job_id: str = Field(max_length=36)
    fuel: Literal["gasoline", "propane", "natural_gas", "biogas"]


class OpenBenchIn(Request):
    """A fresh bench; the seed draws what nobody knows of it."""

    seed: int = Field(default=1, ge=0, le=2**31)


class HandsIn(Request):
    """What the person does; what is left out stays. Watts and turns."""

    turns: float | None = Field(default=None, ge=0, le=40)
    right_turns: float | None = Field(default=None, ge=0, le=40)
    gauge: str | None = Field(default=None, max_length=60)
    idle_turns: float | None = Field(default=None, ge=0, le=20)
    load_w: float | None = Field(default=None, ge=0, le=60e3)
    choke: float | None = Field(default=None, ge=0, le=1)
    jet: float | None = Field(default=None, ge=0.4, le=2)
    gas_open: bool | None = None
    gasoline_open: bool | None = None
    switch_on: bool | None = None
    eco: bool | None = None
    kinked: float | None = Field(default=None, ge=0, le=1)
    pace: float | None = Field(default=None, ge=1, le=20)


class ActIn(Request):
    """Something done on the bench."""

    what: Literal["pull", "prime", "reset", "run", "plug", "film", "mend", "lock_up"]
    seconds: float = Field(default=2.0, ge=0.1, le=600)
    """How long: the primer is held, or it runs on."""
    joint: str = Field(default="", max_length=60)
    """The joint soaped, or made anew."""


class TakeIn(Request):
    """A reading of a sweep."""

    signal: Literal["output", "speed", "throttle"] = "output"
    load_w: float = Field(ge=0, le=60e3)


class ChannelOut(BaseModel):
    """What one instrument shows."""

    key: str
    name: str
    instrument: str
    value: float
    us: str
    metric: str


class GaugeOut(BaseModel):
    """Somewhere the manometer can be put."""

    key: str
    title: str


class BenchOut(BaseModel):
    """The bench as it stands."""

    at_s: float
    running: bool
    tripped: bool
    said: str
    plug: str
    """The plug as last taken out, by the picture chart."""
    film: Literal["", "holds", "bubbles", "foam"]
    """The film at the joint last soaped."""
    inverter: bool
    barrels: int
    gauges: list[GaugeOut]
    most_turns: float
    limit_w: float
    hands: HandsIn
    channels: list[ChannelOut]


class BenchTakenOut(BaseModel):
    """A reading taken on the bench, and the bench after it."""

    turns: float
    value: float
    sigma: float
    ran: Literal["smooth", "hunting", "rough", "died"]
    lam: float | None
    bench: BenchOut
