"""A job as one aggregate: the set, its sites, loads, findings, method, stages. All SI."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints

from gentle_ember.core.job.facts import (
    By,
    Fact,
    Key,
    Model,
    Name,
    Note,
    Quantity,
    Title,
    blank,
    one_line,
)
from gentle_ember.core.job.first_start import StartLog
from gentle_ember.core.job.fit import Fit
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.hand_over import HandOver
from gentle_ember.core.job.load_test import LoadTest
from gentle_ember.core.job.logbook import Logbook
from gentle_ember.core.job.marks import Mount
from gentle_ember.core.job.metering import Metering
from gentle_ember.core.job.part import Part
from gentle_ember.core.job.prove_tight import Proof
from gentle_ember.core.job.site import Site
from gentle_ember.core.job.train import Train
from gentle_ember.core.job.ways import Ways
from gentle_ember.core.physics.output import OutputSchool


class ApplianceKind(StrEnum):
    """What a load is, which decides how hard it starts."""

    RESISTIVE = "resistive"
    ELECTRONIC = "electronic"
    FRIDGE = "fridge"
    PUMP = "pump"
    WINDOW_AC = "window_ac"
    SOFT_STARTED = "soft_started"
    MOTOR_TOOL = "motor_tool"


class Appliance(Model):
    """One load: what it draws, how it starts, on which leg, and whether it may wait."""

    name: Name = ""
    kind: ApplianceKind = ApplianceKind.RESISTIVE
    running: Annotated[Fact | None, Quantity("power", "Running", 0.0, 60e3)] = None
    starting: Annotated[Fact | None, Quantity("power", "Starting", 0.0, 80e3)] = None
    power_factor: Annotated[Fact | None, Quantity("share", "Power factor", 0.2, 1.0)] = None
    leg: Literal["", "a", "b", "c", "both"] = ""
    """Empty while nobody said; "both" is across all legs the set has."""
    outlet: Key | Literal[""] = ""
    """The receptacle of the set it is plugged into; empty while nobody said."""
    must_run: bool = True


class Load(Model):
    """What the set must carry."""

    appliances: dict[Key, Appliance] = {}
    planned: Annotated[Fact | None, Quantity("power", "Planned load", 0.0, 60e3)] = None
    largest_start: Annotated[Fact | None, Quantity("power", "Largest start", 0.0, 80e3)] = None
    note: Note = ""


class Schools(Model):
    """Which school the estimate of output follows, fuel and air apart."""

    fuel: OutputSchool = OutputSchool.FIELD_RULE
    air: OutputSchool = OutputSchool.FIELD_RULE


class StageState(StrEnum):
    """Where a stage stands."""

    NOT_STARTED = "not_started"
    UNDER_WAY = "under_way"
    WAITING = "waiting"
    DONE = "done"
    LEFT_OUT = "left_out"
    """Left out on purpose, by somebody and for a reason, which is its note."""


class WaitsFor(StrEnum):
    """What a job can wait for."""

    NOTHING = "nothing"
    PARTS = "parts"
    OWNER = "owner"
    FITTER = "fitter"
    TEST = "test"
    CORE_RETURN = "core_return"


class StageRecord(Model):
    """A stage's record: its state, who closed it and when, and what it waits for."""

    state: StageState = StageState.NOT_STARTED
    waits_for: WaitsFor = WaitsFor.NOTHING
    by: By = ""
    on: Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2})?$")] = ""
    note: Note = ""


class Attachment(Model):
    """A file kept with the job, by the SHA-256 of its bytes."""

    sha256: Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")]
    name: Annotated[str, AfterValidator(one_line), StringConstraints(min_length=1, max_length=200)]
    media_type: Annotated[str, StringConstraints(max_length=100)]
    size: Annotated[int, Field(ge=0)]
    subject: Annotated[str, StringConstraints(max_length=120)] = ""
    """For a photo: what it shows, as a path of the job."""


class Look(StrEnum):
    """What the walk-round found at one place."""

    NOT_LOOKED = "not_looked"
    GOOD = "good"
    WATCH = "watch"
    BAD = "bad"


class Decision(StrEnum):
    """What is done about a bad finding."""

    OPEN = "open"
    REBUILD = "rebuild"
    REPLACE = "replace"
    ORDER = "order"
    STOP = "stop"


class FoundMeasures(Model):
    """What was measured at a place of the walk-round; each place asks for its own."""

    lash_exhaust: Annotated[
        Fact | None, Quantity("clearance", "Exhaust valve lash, cold", 0.0, 2e-3)
    ] = None
    lash_intake: Annotated[
        Fact | None, Quantity("clearance", "Intake valve lash, cold", 0.0, 2e-3)
    ] = None
    gap: Annotated[Fact | None, Quantity("clearance", "Plug gap", 0.0, 3e-3, 0.7e-3)] = None
    volts: Annotated[Fact | None, Quantity("voltage", "Battery at rest", 0.0, 30.0, 12.6)] = None
    compression: Annotated[
        Fact | None, Quantity("pressure", "Compression, the least cylinder", 0.0, 3e6)
    ] = None
    leak_down: Annotated[Fact | None, Quantity("share", "Leak-down", 0.0, 1.0)] = None
    bond: Annotated[Fact | None, Quantity("resistance", "Neutral to frame", 0.0, 1e9)] = None
    oil_level: Annotated[
        Fact | None, Quantity("share", "Oil: 0 % at the low mark, 100 % at the full one", 0.0, 3.0)
    ] = None
    stream: Annotated[
        Fact | None, Quantity("volume", "Ran out at the bowl in 15 seconds", 0.0, 5e-3, 3.785e-4)
    ] = None


class Finding(Model):
    """One place of the walk-round: how it looked, what was measured, what is decided, done by."""

    look: Look = Look.NOT_LOOKED
    value: Name = ""
    measured: FoundMeasures = FoundMeasures()
    note: Note = ""
    decision: Decision = Decision.OPEN
    done: bool = False
    by: By = ""


class Wants(Model):
    """What the owner asks for."""

    propane: bool = False
    natural_gas: bool = False
    biogas: bool = False
    remote_tank: bool = False
    elevation: bool = False
    keep_gasoline: bool = True


class Choice(Model):
    """The chosen methods, by key, with who chose and why."""

    methods: Annotated[tuple[Key, ...], Field(max_length=6)] = ()
    by: By = ""
    on: Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2})?$")] = ""
    reason: Note = ""


class Confirmation(Model):
    """Something of the readiness list, confirmed by somebody."""

    done: bool = False
    by: By = ""
    number: Name = ""
    """A license, permit or order number, where the item asks for one."""
    note: Note = ""


class Arrival(Model):
    """Parts that came: how many, when, checked by whom; photos hang on its path."""

    count: Annotated[int, Field(ge=0, le=1000)] = 0
    on: Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2})?$")] = ""
    by: By = ""
    note: Note = ""


class Job(Model):
    """One conversion job. `site` names the site the page looks at."""

    title: Title
    owner: Name = ""
    wish: Note = ""
    set: GeneratorSet = GeneratorSet()
    sites: dict[Key, Site] = {"s1": Site()}
    site: Key = "s1"
    load: Load = Load()
    wants: Wants = Wants()
    findings: dict[Key, Finding] = {}
    choice: Choice = Choice()
    ways: Ways = Ways()
    """Where schools of working differ, which of them is gone by."""
    confirmed: dict[Key, Confirmation] = {}
    trains: dict[Key, Train] = {}
    """By fuel; `as_found` for somebody else's conversion."""
    parts: dict[Key, Part] = {}
    """The parts of the trains as they were when chosen; kept by the store, not typed."""
    kit: Key | Literal[""] = ""
    arrived: dict[Key, Arrival] = {}
    marks: Annotated[dict[Key, Mount], Field(max_length=12)] = {}
    """Faces parts are mounted on."""
    fit: Fit = Fit()
    proof: Proof = Proof()
    starts: Annotated[dict[Key, StartLog], Field(max_length=8)] = {}
    """First starts, by fuel."""
    metering: Annotated[dict[Key, Metering], Field(max_length=24)] = {}
    """By site and gas, as in `s1-propane`: each site's pressure differs."""
    load_tests: Annotated[dict[Key, LoadTest], Field(max_length=24)] = {}
    """By site and fuel, as in `s1-gasoline`."""
    hand_over: HandOver = HandOver()
    logbook: Logbook = Logbook()
    schools: Schools = Schools()
    stages: dict[Key, StageRecord] = {}
    attachments: dict[Key, Attachment] = {}
    archived: bool = False


REMOTE_TANKS = frozenset(("remote_tank_gravity", "remote_tank_pump"))
"""Methods that feed the set from a tank beside it."""


def machine_name(job: Job) -> str:
    """Maker and model of the set, as far as they are told."""
    return " ".join(filter(None, (job.set.maker, job.set.model)))


def step_done(job: Job, key: str) -> bool:
    """Whether a step of the fit sheet was ticked as done."""
    record = job.fit.steps.get(key)
    return record is not None and record.state == "done"


SHUT_OFF_FIT, GASOLINE_OFF, IGNITION_CUT = "shut_off_fit", "gasoline_off", "ignition_cut"
"""Steps that change what is on the set: a shut-off, gasoline given up, a cut for the ignition."""


def shut_off_fitted(job: Job) -> bool:
    """Whether a gasoline shut-off was put in by this job."""
    return step_done(job, SHUT_OFF_FIT)


def gasoline_given_up(job: Job) -> bool:
    """Whether the set was made one for gas alone: tank drained, line off and plugged."""
    return not job.wants.keep_gasoline and step_done(job, GASOLINE_OFF)


def permitted(job: Job) -> bool:
    """Whether the fitter's own test is confirmed, with the number of license or permit."""
    seen = job.confirmed.get("fitter", blank(Confirmation))
    return seen.done and bool(seen.number.strip())
