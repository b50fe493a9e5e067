"""The catalog, its kits and a job's bill of materials as they are answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field, RootModel

from gentle_ember.core.job.part import Part
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.web.schemas import FigureOut, Request


class AssumedOut(BaseModel):
    """What was taken because the job does not say it, and where to say it."""

    text: str
    path: str


class LineOut(BaseModel):
    """One line of the bill."""

    key: str
    number: str
    name: str
    maker: str
    count: str
    uses: list[str]
    source: str
    days: int
    price: float
    core: float
    other: str
    """A part that does the same for less or sooner."""
    other_key: str
    other_gain: str
    slot: str
    """Where it stands, as train and slot; empty where it stands in no train."""
    comes: bool
    """Whether it is bought and so checked in when it comes."""
    whole: int
    """How many are counted when they come."""
    here: bool


class BillGroupOut(BaseModel):
    """Lines that come from one place."""

    source: str
    title: str
    price: float
    lines: list[LineOut]


class SupplierOut(BaseModel):
    """Whom to call."""

    maker: str
    name: str
    phone: str
    mail: str
    terms: str
    lines: int
    price: float


class KitOut(BaseModel):
    """A kit."""

    key: str
    name: str
    maker: str
    fits: str
    price: float
    parts: int


class KitLineOut(BaseModel):
    """A part of a kit check."""

    number: str
    name: str
    count: str
    what_for: str
    price: float


class KitCheckOut(BaseModel):
    """A kit against the job's bill."""

    key: str
    name: str
    price: float
    covers: list[KitLineOut]
    missing: list[KitLineOut]
    left_over: list[KitLineOut]
    missing_price: float
    saves: float


class BillOut(BaseModel):
    """The bill of materials."""

    groups: list[BillGroupOut]
    price: float
    core: float
    days: int
    hours: list[FigureOut]
    """Bench hours of each chosen method."""
    missing: list[str]
    questions: list[AssumedOut]
    suppliers: list[SupplierOut]
    kits: list[KitOut]
    kit: KitCheckOut | None


class CatalogQuery(Request):
    """Which parts of the catalog."""

    kind: str = Field(default="", max_length=30)
    words: str = Field(default="", max_length=80)
    fuel: str = Field(default="", max_length=20)
    limit: int = Field(default=60, ge=1, le=500)


class PartFactOut(BaseModel):
    """One thing that is known of a part, in both systems of units."""

    label: str
    us: str
    metric: str


class CatalogPartOut(BaseModel):
    """A part as listed."""

    part: Part
    inlet: str
    outlet: str
    own: bool
    facts: list[PartFactOut]


class CatalogOut(BaseModel):
    """Parts found."""

    total: int
    found: int
    kinds: dict[str, int]
    parts: list[CatalogPartOut]


class ImportQuery(Request):
    """How to import: without `accept` nothing changes."""

    accept: Literal["", "all", "good"] = ""


class RowFaultOut(BaseModel):
    """What is wrong with a row."""

    line: int
    column: str
    why: str


class EffectOut(BaseModel):
    """What an import does to a part."""

    number: str
    name: str
    kind: str
    fields: list[str]


class ImportOut(BaseModel):
    """An import, tried or done."""

    done: bool
    rows: int
    good: int
    faults: list[RowFaultOut]
    effects: list[EffectOut]


class KitIn(Request):
    """A kit made of what a job takes."""

    job: str = Field(max_length=36)
    name: str = Field(min_length=1, max_length=100)


class EndOut(BaseModel):
    """An end, as its key and in words."""

    key: str
    text: str


class EndsOut(RootModel[list[EndOut]]):
    """Every end of the catalog."""


class JoinQuery(Request):
    """Two ends, in the direction of the flow, and what flows."""

    a: str = Field(max_length=40)
    b: str = Field(max_length=40)
    fuel: FuelKey = FuelKey.PROPANE


class WayPartOut(BaseModel):
    """A fitting between."""

    number: str
    name: str
    price: float
    stock: int


class WayOut(BaseModel):
    """Fittings that join two ends."""

    parts: list[WayPartOut]
    price: float


class JoinOut(BaseModel):
    """Whether two ends mate, how, and what joins them when not."""

    mates: bool
    why: str
    seal: str
    never: str
    ways: list[WayOut]
