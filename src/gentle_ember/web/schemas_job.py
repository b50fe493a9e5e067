"""A job as it stands, as it is answered: intake, methods, fuel states, readiness, sketch."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, RootModel

from gentle_ember.core.job.job import Job
from gentle_ember.web.schemas import (
    CautionOut,
    FigureOut,
    HoldOut,
    LedgerOut,
    OrderOut,
    OutputOut,
    QuestionOut,
    RunOut,
    ShownFact,
    StageOut,
)
from gentle_ember.web.schemas_catalog import BillOut
from gentle_ember.web.schemas_fit import FitOut, MarksOut, SmellOut
from gentle_ember.web.schemas_hand_over import CardsOut
from gentle_ember.web.schemas_load import JetsOut, LoadTestOut
from gentle_ember.web.schemas_metering import MeteringOut
from gentle_ember.web.schemas_path import FuelPathOut, HouseOut, StackOut
from gentle_ember.web.schemas_prove import GasProofOut
from gentle_ember.web.schemas_start import FuelStartOut


class OptionOut(BaseModel):
    """A choice's value and what it is called."""

    value: str | bool | int | None
    text: str


class AskOut(BaseModel):
    """A question at the machine."""

    path: str
    label: str
    why: str
    kind: Literal["quantity", "text", "long", "number", "choice"]
    options: list[OptionOut]
    assumed: str
    answered: bool


class AskGroupOut(BaseModel):
    """Questions of one place."""

    key: str
    title: str
    asks: list[AskOut]


class WalkOut(BaseModel):
    """The questions that matter for this set, in walking order."""

    groups: list[AskGroupOut]
    answered: int
    total: int


class TaskOut(BaseModel):
    """Work found on the walk-round."""

    title: str
    why: str
    parts: list[str]
    minutes: int
    holds: str
    decision: str
    done: bool
    by: str


class CheckOut(BaseModel):
    """A place of the walk-round."""

    key: str
    title: str
    good: str
    bad: str
    value: str
    look: str
    task: TaskOut | None


class CheckGroupOut(BaseModel):
    """Places that are looked at together."""

    key: str
    title: str
    checks: list[CheckOut]


class PutRightOut(BaseModel):
    """A step of putting a dead set right."""

    key: str
    text: str
    state: Literal["done", "next", "open"]


class InspectionOut(BaseModel):
    """The walk-round with what was found."""

    groups: list[CheckGroupOut]
    looked: int
    total: int
    dead: bool
    put_right: list[PutRightOut]
    brand_new: bool


class ReasonOut(BaseModel):
    """A reason of a verdict."""

    verdict: str
    text: str
    path: str


class MethodTextsOut(BaseModel):
    """What a school changes, keeps, loses and risks."""

    changes: str
    keeps: str
    loses: str
    change_over: str
    choke: str
    metering: str
    cannot_undo: str
    risk: str


class JudgedOut(BaseModel):
    """A school judged on this set."""

    key: str
    name: str
    kind: Literal["gas", "tank", "jet", "instead"]
    verdict: Literal["fits", "fits_with_work", "not_known", "does_not_fit"]
    verdict_name: str
    reasons: list[ReasonOut]
    fuel: str
    output: FigureOut | None
    run: FigureOut | None
    hours: FigureOut
    parts: FigureOut
    figures: list[FigureOut]
    chosen: bool
    clash: str
    texts: MethodTextsOut


class MethodsOut(BaseModel):
    """Every school, and which is recommended."""

    judged: list[JudgedOut]
    recommended: list[str]
    why: str


class ControlOut(BaseModel):
    """A valve, vent, selector, cap, coupler or switch."""

    key: str
    name: str
    positions: list[str]


class FaultOut(BaseModel):
    """What a state lets happen."""

    key: str
    text: str
    never: bool


class SlipOut(BaseModel):
    """One control out of place."""

    control: str
    position: str
    faults: list[FaultOut]


class StateColumnOut(BaseModel):
    """One fuel state."""

    key: str
    name: str
    positions: dict[str, str]
    safe: bool
    faults: list[FaultOut]
    slips: list[SlipOut]


class StatesOut(BaseModel):
    """The fuel-state matrix."""

    methods: list[str]
    controls: list[ControlOut]
    columns: list[StateColumnOut]
    answer: str
    differences: list[str]
    both_on: str
    """The shortest way to two gases at once; empty where there is none."""
    orders: list[OrderOut]


class DistanceOut(BaseModel):
    """A distance on the sketch."""

    key: str
    figure: FigureOut
    trouble: str
    least_m: float | None


class ItemOut(BaseModel):
    """A line of the readiness list."""

    key: str
    kind: str
    text: str
    stage: str
    path: str
    done: bool
    by: str
    holds: bool
    confirm: bool
    number: str
    given: str
    acts: bool
    fuel: str
    site: str


class ChosenMethodOut(BaseModel):
    """A chosen method in the Ledger."""

    key: str
    name: str
    verdict: str
    verdict_name: str
    parts: FigureOut
    hours: FigureOut


class ChosenOut(BaseModel):
    """What is chosen."""

    methods: list[ChosenMethodOut]


class SigningOut(BaseModel):
    """What keeps a stage from being signed, and from being left out on purpose; empty: nothing."""

    sign: list[HoldOut]
    leave_out: list[HoldOut]


class SnapshotOut(BaseModel):
    """A job as it stands, with what follows from it."""

    id: str
    revision: int
    updated_at: str
    can_undo: bool
    can_redo: bool
    preview: bool
    job: Job
    shown: dict[str, ShownFact]
    route: list[StageOut]
    cautions: list[CautionOut]
    questions: list[QuestionOut]
    ledger: LedgerOut | None
    chosen: ChosenOut | None
    ready: list[ItemOut]
    smell: SmellOut
    signing: dict[str, SigningOut]
    output: OutputOut | None
    runs: list[RunOut] | None
    walk: WalkOut | None
    inspection: InspectionOut | None
    methods: MethodsOut | None
    states: StatesOut | None
    sketch: list[DistanceOut] | None
    noise: list[FigureOut] | None
    path: FuelPathOut | None
    stack: StackOut | None
    bill: BillOut | None
    cards: CardsOut | None
    house: list[HouseOut] | None
    fit: FitOut | None
    marks: MarksOut | None
    metering: list[MeteringOut] | None
    load_tests: list[LoadTestOut] | None
    jets: JetsOut | None
    proofs: list[GasProofOut] | None
    starts: list[FuelStartOut] | None


class OfferOut(BaseModel):
    """A fact an earlier job knows and this one does not."""

    path: str
    label: str
    us: str
    metric: str
    origin: str
    value: float
    typed: str


class LikeOut(BaseModel):
    """A set of the shop's library like this one."""

    job: str
    title: str
    set_label: str
    why: str
    offers: list[OfferOut]
    learned: list[str]


class LibraryOut(RootModel[list[LikeOut]]):
    """Sets like this one, most alike first."""
