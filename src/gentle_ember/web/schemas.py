"""Requests and responses; the OpenAPI document and the page's types come from these."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, RootModel, StringConstraints

from gentle_ember.core.base.figure import Origin

System = Literal["us", "metric"]
WriteKey = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9-]{8,64}$")]
Who = Annotated[str, StringConstraints(max_length=120)]


class Request(BaseModel):
    """Base of request bodies: no unknown keys, no NaN."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class JobPath(Request):
    """A job's id in the address."""

    job_id: str


class EventsQuery(Request):
    """Which simulated bench is listened to along with the job; none when empty."""

    bench: Literal["", "gasoline", "propane", "natural_gas", "biogas"] = ""


class JobQuery(Request):
    """Which sections of the plan to send along."""

    views: str = ""


class ChangeIn(Request):
    """One change: a quantity as typed, a plain value, or a removal."""

    path: Annotated[
        str, StringConstraints(pattern=r"^[a-z0-9_-]+(\.[a-z0-9_-]+)*$", max_length=200)
    ]
    typed: Annotated[str, StringConstraints(max_length=400)] | None = None
    origin: Origin | None = None
    value: Any = None
    remove: bool = False


class ChangesIn(Request):
    """Changes that belong together, made against a revision; `key` makes the write unique."""

    changes: Annotated[list[ChangeIn], Field(min_length=1, max_length=50)]
    base: int = 0
    key: WriteKey
    who: Who = ""
    system: System = "us"
    preview: bool = False
    views: str = ""


class StepIn(Request):
    """Undo or redo."""

    key: WriteKey
    who: Who = ""
    views: str = ""


class NewJobIn(Request):
    """A new job by its title."""

    title: str
    key: WriteKey
    who: Who = ""


class CopyIn(Request):
    """A copy of a job."""

    key: WriteKey
    who: Who = ""


class AttachmentPath(Request):
    """An attachment of a job."""

    job_id: str
    key: str


class CylinderQuery(Request):
    """What-if on a job's cylinder: where a value is left out the job's own stands."""

    cylinder: str = ""
    size: str = ""
    temperature_k: float | None = None
    load_w: float | None = None
    count: Annotated[int, Field(ge=1, le=24)] | None = None
    shelter: Literal["still_air", "breeze", "closed_locker"] | None = None


class CsvQuery(Request):
    """Units of an exported table."""

    system: System = "us"


class ShownOut(BaseModel):
    """A figure in one system of units."""

    text: str
    unit: str
    low: str
    high: str
    number: float


class MethodOut(BaseModel):
    """A method's name, formula, source and page."""

    key: str
    name: str
    formula: str
    source: str
    page: str


class InputOut(BaseModel):
    """One input of a working."""

    label: str
    us: str
    metric: str
    origin: str
    path: str | None


class RivalOut(BaseModel):
    """Another school's result."""

    name: str
    note: str
    us: str
    metric: str


class FigureOut(BaseModel):
    """A figure with its whole working."""

    key: str
    label: str
    value: float
    kind: str
    us: ShownOut
    metric: ShownOut
    method: MethodOut
    inputs: list[InputOut]
    rivals: list[RivalOut]
    rounding: str
    estimated: bool
    narrows: list[str]
    warnings: list[str]


class FuelOutputOut(BaseModel):
    """One fuel's output."""

    fuel: str
    name: str
    letter: str
    at_hand: bool
    running: FigureOut
    starting: FigureOut
    steps: list[FigureOut]
    limited_by: str
    carries_planned: bool
    starts_largest: bool | None


class OutputOut(BaseModel):
    """The output section."""

    rating: FigureOut
    air: FigureOut
    fuels: list[FuelOutputOut]


class RunOut(BaseModel):
    """One container's run time."""

    key: str
    label: str
    fuel: str
    at_hand: bool
    figure: FigureOut | None
    left: FigureOut | None
    why_not: str


class FlowOut(BaseModel):
    """A gas's demand at its full output."""

    fuel: str
    flow: FigureOut
    heat: FigureOut


class PlainOut(BaseModel):
    """A plain value in both systems."""

    us: str
    metric: str
    value: float
    assumed: bool


class PutsOut(BaseModel):
    """A fuel's steady output, and whether the site has the fuel."""

    at_hand: bool
    running: FigureOut


class PathLineOut(BaseModel):
    """A train in the Ledger."""

    name: str
    stops: int
    cautions: int
    tightest: FigureOut | None


class BillLineOut(BaseModel):
    """The bill of materials in the Ledger."""

    price: float
    core: float
    days: int


class LedgerOut(BaseModel):
    """What every choice adds up to."""

    puts_out: list[PutsOut]
    load: PlainOut | None
    runs: list[RunOut]
    flows: list[FlowOut]
    path: list[PathLineOut]
    bill: BillLineOut | None


class CautionOut(BaseModel):
    """A caution."""

    key: str
    severity: str
    stage: str
    text: str
    path: str | None
    site: str


class HoldOut(BaseModel):
    """Something that keeps an act or a signature back, and the place of the job that settles it."""

    text: str
    path: str


class OrderOut(BaseModel):
    """A safe order of moves from one state to another, or why there is none."""

    key: str
    name: str
    lines: list[str]
    why_not: str


class QuestionOut(BaseModel):
    """Something the job does not say yet."""

    text: str
    path: str
    stage: str


class StageOut(BaseModel):
    """A stage of the Route."""

    key: str
    name: str
    state: str
    detail: str


class ShownFact(BaseModel):
    """How a fact reads in both systems."""

    us: str
    metric: str


class HelpOut(BaseModel):
    """Something that would lengthen a run."""

    key: str
    label: str
    run: FigureOut
    gain: FigureOut


class CurveOut(BaseModel):
    """The chill curve, thinned for drawing [s, K, kg]."""

    times_s: list[float]
    temperatures_k: list[float]
    contents_kg: list[float]
    frost_k: float
    dew_k: float
    starves_k: float
    ambient_k: float


class MixtureOut(BaseModel):
    """λ over load, set once at full load: loads as shares of full load, λ at each."""

    loads: list[float]
    expected: list[float]
    low: list[float]
    high: list[float]
    idle_set: list[float]
    figures: list[FigureOut]
    hunts: float
    hot: float


class CylinderOut(BaseModel):
    """A cylinder's answer."""

    size: str
    count: int
    shelter: str
    load_w: float
    temperature_k: float
    figures: dict[str, FigureOut]
    starves: bool
    curve: CurveOut
    helps: list[HelpOut]


class LogEntryOut(BaseModel):
    """One write of the job's log."""

    revision: int
    at: str
    who: str
    kind: str
    paths: list[str]


class LogOut(RootModel[list[LogEntryOut]]):
    """The log, newest first."""


class HealthOut(BaseModel):
    """The server answers."""

    ok: bool
    version: str
