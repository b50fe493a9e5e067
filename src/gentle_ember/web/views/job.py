"""A job as it stands, with what follows from it: the answer to every change."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from functools import lru_cache
from typing import Annotated, Any

from pydantic import Field, RootModel, StringConstraints

from gentle_ember.core.base.cached import remember
from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.facts import Fact, Model, quantity_at
from gentle_ember.core.job.handling import AnyFuel
from gentle_ember.core.job.job import Job
from gentle_ember.core.rests import what_it_rests_on
from gentle_ember.core.route import (
    NAMES,
    cautions,
    holds_leaving_out,
    holds_signing,
    open_items,
    questions,
    route,
)
from gentle_ember.core.stage import Caution, Item, Plan, Question, Severity
from gentle_ember.store.jobs import Stored
from gentle_ember.units.registry import System
from gentle_ember.web.services import services
from gentle_ember.web.views import (
    base,
    first_start,
    fit,
    fuel_path,
    hand_over,
    intake,
    ledger,
    load_test,
    logbook,
    method,
    parts,
    prove_tight,
)
from gentle_ember.web.views.base import (
    BothOut,
    FigureOut,
    HoldOut,
    Request,
    View,
    Who,
    WriteKey,
)
from gentle_ember.web.views.first_start import FuelStartOut, MeteringOut
from gentle_ember.web.views.fit import FitOut, MarksOut, SmellOut
from gentle_ember.web.views.fuel_path import FuelPathOut, HouseOut, StackOut
from gentle_ember.web.views.hand_over import (
    CardsOut,
    ClosingOut,
    DrillOut,
    InvoiceOut,
    MovesOut,
)
from gentle_ember.web.views.intake import (
    DistanceOut,
    InspectionOut,
    KnownLoadOut,
    LegOut,
    MotorOut,
    OutletOut,
    WalkOut,
)
from gentle_ember.web.views.ledger import LedgerOut, OutputOut, RunOut
from gentle_ember.web.views.load_test import JetsOut, LoadTestOut, TogetherOut
from gentle_ember.web.views.logbook import LogbookOut
from gentle_ember.web.views.method import ChosenOut, DisputesOut, MethodsOut, StatesOut
from gentle_ember.web.views.parts import BillOut
from gentle_ember.web.views.prove_tight import GasProofOut


class EventsQuery(Request):
    """Which simulated bench is listened to along with the job; none when empty."""

    bench: AnyFuel = ""


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
    same_set: bool = False
    """Whether it is the next job on the very same set: then its logbook goes on in it."""


class AttachmentPath(Request):
    """An attachment of a job."""

    job_id: str
    key: str


class LogEntryOut(View):
    """One write of the job's log."""

    revision: int
    at: str
    who: str
    kind: str
    paths: list[str]


class LogOut(RootModel[list[LogEntryOut]]):
    """The log, newest first."""


class CautionOut(View):
    """A caution."""

    key: str
    severity: Severity
    stage: str
    text: str
    path: str | None
    site: str


class QuestionOut(View):
    """Something the job does not say yet."""

    text: str
    path: str
    stage: str


class StageOut(View):
    """A stage of the Route."""

    key: str
    name: str
    state: str
    detail: str


class ItemOut(View):
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


class SigningOut(View):
    """What keeps a stage from being signed, and from being left out on purpose; empty: nothing."""

    sign: list[HoldOut]
    leave_out: list[HoldOut]


class RestsOut(View):
    """An assumed fact that alone turns something that holds into a stop."""

    path: str
    label: str
    taken: BothOut
    turns_at: FigureOut
    above: bool
    """Whether it turns above what is taken, or below."""
    stops: list[str]


class SnapshotOut(View):
    """A job as it stands, with what follows from it."""

    id: str
    revision: int
    updated_at: str
    can_undo: bool
    can_redo: bool
    preview: bool
    job: Job
    shown: dict[str, BothOut]
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
    legs: list[LegOut] | None
    outlets: list[OutletOut] | None
    motors: list[MotorOut] | None
    known_loads: list[KnownLoadOut] | None
    ways: DisputesOut | None
    path: FuelPathOut | None
    stack: StackOut | None
    bill: BillOut | None
    cards: CardsOut | None
    closing: ClosingOut | None
    drills: list[DrillOut] | None
    invoice: InvoiceOut | None
    moves: MovesOut | None
    logbook: LogbookOut | None
    house: list[HouseOut] | None
    fit: FitOut | None
    marks: MarksOut | None
    metering: list[MeteringOut] | None
    load_tests: list[LoadTestOut] | None
    jets: JetsOut | None
    joint: TogetherOut | None
    rests: list[RestsOut] | None
    proofs: list[GasProofOut] | None
    starts: list[FuelStartOut] | None


class OfferOut(BothOut):
    """A fact an earlier job knows and this one does not."""

    path: str
    label: str
    origin: str
    value: float
    typed: str


class LikeOut(View):
    """A set of the shop's library like this one."""

    job: str
    title: str
    set_label: str
    why: str
    offers: list[OfferOut]
    learned: list[str]


class LibraryOut(RootModel[list[LikeOut]]):
    """Sets like this one, most alike first."""


_PLAIN = {str, int, float, bool, type(None)}


@lru_cache(maxsize=8192)
def _kind_at(path: str) -> str | None:
    spec = quantity_at(Job, path.split("."))
    return None if spec is None else spec.kind


@lru_cache(maxsize=8192)
def _shown_fact(value: float, kind: str) -> BothOut:
    return base.both(value, kind)


def shown_facts(job: Job) -> dict[str, BothOut]:
    """Every fact of the job as it reads, by path."""
    found: dict[str, BothOut] = {}
    for name, inner in job.__dict__.items():
        if name != "parts":
            found |= _shown_in(name, inner)[1]
    return found


def _same_object(name: str, inner: object) -> Hashable:
    return name, id(inner)


@remember(512, _same_object)
def _shown_in(name: str, inner: Any) -> tuple[Any, dict[str, BothOut]]:
    """What is shown of one field of a job, kept with the very object it was shown of."""
    found: dict[str, BothOut] = {}

    def walk(value: Any, path: str) -> None:
        if isinstance(value, Fact):
            kind = _kind_at(path)
            if kind is not None:
                found[path] = _shown_fact(value.value, kind)
        elif isinstance(value, Model):
            for key, below in value.__dict__.items():
                if below.__class__ not in _PLAIN:
                    walk(below, f"{path}.{key}")
        elif isinstance(value, dict):
            for key, below in value.items():
                walk(below, f"{path}.{key}")

    walk(inner, name)
    return inner, found


@lru_cache(maxsize=4096)
def _item(item: Item) -> ItemOut:
    return ItemOut.model_validate(item)


@lru_cache(maxsize=2048)
def _caution(caution: Caution) -> CautionOut:
    return CautionOut.model_validate(caution)


@lru_cache(maxsize=2048)
def _question(question: Question) -> QuestionOut:
    return QuestionOut.model_validate(question)


def ready(planned: Plan) -> list[ItemOut]:
    """The readiness list."""
    return [_item(item) for item in planned.of(open_items)]


def rests(planned: Plan) -> list[RestsOut]:
    """Assumed facts that alone turn something that holds into a stop, the nearest first."""
    return [
        RestsOut(
            path=one.fact.path, label=one.fact.label,
            taken=base.both(one.fact.value, one.fact.kind), turns_at=base.figure(one.figure),
            above=one.above, stops=list(one.stops),
        )
        for one in planned.of(what_it_rests_on)
    ]  # fmt: skip


VIEWS: dict[str, Callable[[Plan], Any]] = {
    "output": ledger.output,
    "runs": ledger.runs,
    "walk": intake.walk,
    "inspection": intake.inspection,
    "sketch": intake.sketch,
    "noise": intake.noise,
    "legs": intake.legs,
    "outlets": intake.outlets,
    "motors": intake.motors,
    "known_loads": intake.known_loads,
    "methods": method.methods,
    "states": method.states,
    "ways": method.working,
    "path": fuel_path.fuel_path,
    "stack": fuel_path.stack,
    "house": fuel_path.house,
    "bill": parts.bill,
    "fit": lambda planned: fit.fit(planned, services().jobs.times),
    "marks": fit.marks,
    "proofs": prove_tight.proofs,
    "starts": first_start.starts,
    "metering": first_start.metering,
    "load_tests": load_test.load_tests,
    "jets": load_test.jets,
    "joint": load_test.joint,
    "rests": rests,
    "cards": hand_over.owner_cards,
    "closing": hand_over.closing,
    "drills": hand_over.teaching,
    "invoice": hand_over.priced,
    "moves": hand_over.moving,
    "logbook": logbook.logbook,
}
"""What a page may ask for along with the job, by its name in the answer."""


def snapshot_json(stored: Stored, planned: Plan, views: set[str], *, preview: bool = False) -> str:
    """The same as JSON, the job itself as it was just written."""
    rest = snapshot(stored, planned, views, preview=preview).model_dump_json(exclude={"job"})
    return f'{rest[:-1]},"job":{stored.text}}}'


def snapshot(
    stored: Stored, planned: Plan, views: set[str], *, preview: bool = False
) -> SnapshotOut:
    """A job with what follows from it; sections only when a view asks."""
    return SnapshotOut(
        id=stored.id,
        revision=stored.revision,
        updated_at=stored.updated_at.isoformat(timespec="seconds") + "Z",
        can_undo=stored.can_undo,
        can_redo=stored.can_redo,
        preview=preview,
        job=stored.job,
        shown=shown_facts(stored.job),
        route=[StageOut.model_validate(stage) for stage in planned.of(route)],
        cautions=[_caution(caution) for caution in planned.of(cautions)],
        questions=[_question(question) for question in planned.of(questions)],
        ledger=ledger.ledger(planned),
        chosen=method.chosen(planned),
        ready=ready(planned),
        smell=fit.smell(planned),
        signing={
            key: SigningOut(
                sign=base.holds(planned.of(holds_signing)[key]),
                leave_out=base.holds(planned.of(holds_leaving_out)[key]),
            )
            for key in NAMES
        },
        **{name: view(planned) if name in views else None for name, view in VIEWS.items()},
    )
