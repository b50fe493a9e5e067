"""The fuel path as it is answered: trains with their ladders, stack, bill, catalog, kits."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field, RootModel

from gentle_ember.core.job.facts import Key
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.web.schemas import FigureOut, MixtureOut, Request
from gentle_ember.web.schemas_catalog import AssumedOut, KitOut


class BothOut(BaseModel):
    """A text in both systems of units."""

    us: str
    metric: str


class AmountOut(BaseModel):
    """A number that belongs to a trouble."""

    label: str
    us: str
    metric: str


class TroubleOut(BaseModel):
    """One fault of a train, at a slot or at the joint before it."""

    rule: str
    severity: Literal["stop", "caution", "standing"]
    slot: str
    joint: bool
    text: str
    why: str
    amounts: list[AmountOut]
    mend: str
    path: str
    """Where what is not known is said; empty for the train itself."""


class JointOut(BaseModel):
    """The joint before a part: whether it mates, how it is sealed."""

    mates: bool
    why: str
    letter: str
    name: str
    do: str
    never: str
    tool: str
    torque_nm: float | None
    seal: str
    proper: str
    """What seals it as it should; empty where one of its parts is not known."""


class PlaceOut(BaseModel):
    """A slot of a train with its part, as drawn."""

    key: str
    kind: str
    role: str
    title: str
    sub: BothOut
    number: str
    name: str
    maker: str
    inlet: str
    outlet: str
    joint: JointOut | None
    price: float
    stock: int
    site: bool
    by_length: bool
    turned: bool
    unknown: str
    ports: list[str]
    capped: bool | None
    upright: bool | None
    needs_upright: bool
    ages: bool
    """Whether its rubber ages from the day it was made."""
    zone_in: str
    zone_out: str
    inlet_pa: dict[str, float]
    outlet_pa: dict[str, float]
    least_pa: float | None
    most_pa: float | None
    lost: BothOut


class WhatIfOut(BaseModel):
    """The train with one thing otherwise."""

    key: str
    title: str
    margin: BothOut | None
    change: BothOut | None
    stops: int
    train: Train | None


class ProfileOut(BaseModel):
    """Heights of a gasoline route over the float bowl [m], and what they lead to."""

    outlet_m: float
    full_surface_m: float
    highest_m: float
    lowest_m: float
    most_m: float
    gravity: bool
    lift_m: float | None
    outlet: BothOut
    full_surface: BothOut
    highest: BothOut
    lowest: BothOut
    flow: FigureOut
    margin: FigureOut
    vent: FigureOut
    both_open: str


class ScaleOut(BaseModel):
    """How a zone's pressures are shown: unit, and Pascal in one of it."""

    unit: str
    pa: float


class ZoneOut(BaseModel):
    """One strip of the ladder."""

    key: str
    name: str
    us: ScaleOut
    metric: ScaleOut


class TrainOut(BaseModel):
    """A train as drawn."""

    name: str
    title: str
    fuel: str
    letter: str
    template: str
    template_title: str
    method: str
    found: bool
    places: list[PlaceOut]
    zones: list[ZoneOut]
    troubles: list[TroubleOut]
    grade: str
    """What it comes to as somebody else's conversion."""
    tightest: FigureOut | None
    signal: FigureOut | None
    mixture: MixtureOut | None
    signals_pa: dict[str, float] | None
    price: float
    assumed: list[AssumedOut]
    what_ifs: list[WhatIfOut]
    profile: ProfileOut | None
    outdated: dict[str, list[str]]


class TemplateOut(BaseModel):
    """A train that could be built."""

    key: str
    name: str
    """Key of the train in the job."""
    title: str
    method: str
    method_name: str
    fuel: str
    letter: str
    usual: bool
    """Whether it suits what the site has."""


class FuelPathOut(BaseModel):
    """All trains of the job, and those that could be built."""

    trains: list[TrainOut]
    templates: list[TemplateOut]
    kits: list[KitOut]


class LayerOut(BaseModel):
    """One layer of the stack."""

    key: str
    name: str
    kind: str
    thickness: BothOut | None
    thickness_m: float | None
    origin: str
    path: str
    mind: str
    new: bool


class StackOut(BaseModel):
    """The stack in the order of the air flow."""

    layers: list[LayerOut]
    stick_out_m: float | None
    engagement_m: float | None
    nut_m: float | None
    diameter_m: float | None
    verdict: Literal["unknown", "pass", "caution", "short"]
    beside: list[AmountOut]
    figures: list[FigureOut]
    missing: list[AssumedOut]
    count: int


class SizedOut(BaseModel):
    """A section of house piping."""

    key: str
    load: FigureOut
    wanted: str | None
    enough: bool | None
    drop: FigureOut | None


class HouseOut(BaseModel):
    """The house side of a gas, sized."""

    gas: str
    sections: list[SizedOut]
    longest: BothOut
    total: BothOut
    meter: BothOut | None
    meter_enough: bool | None
    faults: dict[str, str]


class TrainPath(Request):
    """A train of a job."""

    job_id: str = Field(max_length=36)
    name: Key


class ProposeIn(Request):
    """Which train to work out."""

    template: str = Field(max_length=60)
    mode: Literal["fresh", "repair", "kit"] = "fresh"
    kit: str = Field(default="", max_length=40)


class ProposalOut(BaseModel):
    """A train to take or leave."""

    train: Train
    joints: int
    price: float
    changes: int
    differs: list[str]
    margin: BothOut | None
    stops: int
    cautions: int
    days: int


class ImpossibleOut(BaseModel):
    """Why there is no train, and the nearest thing."""

    role: str
    why: str
    nearest: list[str]
    relaxed: str


class ProposalsOut(BaseModel):
    """Answers of the solver, best first."""

    proposals: list[ProposalOut]
    impossible: ImpossibleOut | None


class OptionsIn(Request):
    """What could stand at a slot."""

    slot: Key
    everything: bool = False
    """Also what does not mate."""


class PartOptionOut(BaseModel):
    """A part that could stand there, with what it changes."""

    part: str
    number: str
    name: str
    mates: bool
    adds: list[str]
    price: float
    """Change of the train's price."""
    stock: int
    margin: BothOut | None
    stops: int
    cautions: int
    worst: str
    now: bool
    train: Train


class OptionsOut(RootModel[list[PartOptionOut]]):
    """What could stand there, best first."""


class EditIn(Request):
    """A change to a train's order."""

    op: Literal["turn", "remove", "insert", "bridge"]
    slot: str = Field(default="", max_length=40)
    put: Slot | None = None


class EditOut(BaseModel):
    """The train as it would be."""

    train: Train
