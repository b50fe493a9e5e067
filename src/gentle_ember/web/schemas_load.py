"""Load tests, jets and what the shop learned, as they are answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field, RootModel

from gentle_ember.core.job.facts import Fact, Key
from gentle_ember.core.job.load_test import LoadReading
from gentle_ember.web.schemas import FigureOut, HoldOut, Request
from gentle_ember.web.schemas_path import BothOut

Strength = Literal["stop", "caution", "standing"]


class BankLoadOut(BaseModel):
    """Something at hand to load the set with."""

    key: str
    name: str
    watts: BothOut
    count: int
    without: bool
    """Not at hand today."""


class SwitchedOut(BaseModel):
    """A load to switch on, and where."""

    name: str
    count: int
    leg: Literal["a", "b", "both"]
    watts: BothOut


class BankOut(BaseModel):
    """What to switch on, and what it comes to."""

    loads: list[BankLoadOut]
    on: list[SwitchedOut]
    total: BothOut
    total_w: float
    share: float
    """Of what this fuel is expected to give here."""
    legs: list[BothOut]
    enough: bool
    short: BothOut


class RemarkOut(BaseModel):
    """Something a reading says."""

    severity: Strength
    text: str


class LoadReadingOut(BaseModel):
    """A reading under load; quantities as shown, by their names."""

    key: str
    after: BothOut | None
    output: BothOut | None
    counts: bool
    shown: dict[str, BothOut]
    ran: Literal["smooth", "hunting", "rough", "died"]
    smell: str
    simulated: bool
    by: str


class PlugReadOut(BaseModel):
    """A plug read by the picture chart."""

    key: str
    name: str
    leaning: Literal["right", "rich", "lean", "too_lean", "other"]
    text: str
    why_not: str
    counts: bool


class AdviceRunOut(BaseModel):
    """What follows from a run."""

    what: Literal["", "keep", "screw_out", "screw_in", "jet_up", "jet_down", "put_right"]
    reasons: list[str]
    jet: str
    turns: str
    expects: str
    stop: bool


class AgainOut(BaseModel):
    """What the run after this one begins with; empty where it has none."""

    jet: str
    turns: str


class KeepsOut(BaseModel):
    """A fact that a kept run makes, and where."""

    path: str
    value: Fact


class DialOut(BaseModel):
    """A test dial of a gas meter: what one turn passes [m³]."""

    name: str
    m3: float


class LoadRunOut(BaseModel):
    """One run under load."""

    key: str
    jet: str
    turns: str
    time: FigureOut
    seconds: float
    held: FigureOut | None
    energy: FigureOut | None
    """Delivered from the first reading to the last."""
    span_s: float
    jet_ratio: float
    """Bore of the jet in it over that of the one it was made with."""
    used: FigureOut | None
    """Fuel weighed or clocked meanwhile, over what its class uses at that load."""
    again: AgainOut
    keeps: list[KeepsOut]
    lam: str
    opened: bool
    simulated: bool
    counts: bool
    settled: bool
    wants_reason: bool
    """Kept against what follows from it, and why is not noted."""
    readings: list[LoadReadingOut]
    remarks: list[RemarkOut]
    plug: PlugReadOut | None
    advice: AdviceRunOut
    decided: str
    reason: str
    decided_by: str


class LoadTestOut(BaseModel):
    """One fuel's load test on this site."""

    fuel: str
    name: str
    letter: str
    key: str
    gas: bool
    legs: int
    expected: FigureOut
    least: FigureOut
    flow: FigureOut | None
    least_s: float
    most_s: float
    bank: BankOut
    runs: list[LoadRunOut]
    holds: bool
    dials: list[DialOut]
    heating: Fact | None
    """Heating value of the gas as the site tells it, kept with a clocked meter."""
    screw: str
    """Where the load screw is locked, as typed into a new run; empty where there is none."""
    jet: str
    forbidden: list[HoldOut]


class ComingDownOut(BaseModel):
    """What the jet does at another place it runs."""

    place: str
    figure: FigureOut
    state: Literal["good", "rich", "caution", "stop"]
    text: str


class JetsOut(BaseModel):
    """The main jet: schools, what is at hand, coming down."""

    wanted: list[FigureOut]
    as_it_is: FigureOut | None
    state: str
    text: str
    at_hand: list[float]
    pick: float | None
    in_it: float | None
    meant: float | None
    below: list[ComingDownOut]
    orifice: FigureOut | None
    coldest: FigureOut | None
    asked: bool
    """Whether the job's method changes the jet."""


class PlugLooksOut(BaseModel):
    """One picture of the plug chart."""

    key: str
    name: str
    seen: str
    gasoline: str
    gas: str


class TaughtOut(BaseModel):
    """What the shop's sets taught of one quantity, class and fuel."""

    quantity: str
    name: str
    set_class: str
    fuel: str
    fuel_name: str
    letter: str
    n: int
    mean: str
    spread: str
    shrunk: str
    band: str


class PlugChartOut(RootModel[list[PlugLooksOut]]):
    """Every picture of the plug chart."""


class LearnedOut(RootModel[list[TaughtOut]]):
    """What the shop's own sets taught."""


class PlugIn(Request):
    """A plug as it looks, and the run it comes from."""

    key: str = Field(max_length=40)
    fuel: Literal["gasoline", "gas"] = "gasoline"
    before: Literal["", "new", "clean", "as_was"] = ""
    seconds: float = Field(default=0.0, ge=0, le=36000)


class RunPath(Request):
    """A run under load of a fuel on a site, as in `s1-propane` and `r1`."""

    job_id: str = Field(max_length=36)
    key: Key
    run: Key


class LoadReadingsOut(BaseModel):
    """Readings of a file, as the job keeps them; the page saves them."""

    readings: list[LoadReading]
