"""A job as one aggregate: the set, its sites, loads, schools, stages and people. All SI."""

from __future__ import annotations

import re
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints

from gentle_ember.core.facts import Fact, Model, Quantity
from gentle_ember.core.fuel_use import SetClass
from gentle_ember.core.fuels import FuelKey
from gentle_ember.core.output import School

Name = Annotated[str, StringConstraints(strip_whitespace=True, max_length=120)]
Note = Annotated[str, StringConstraints(max_length=4000)]


def _key(text: str) -> str:
    """A dictionary's key, as it stands in paths; no pattern, so that schemas keep plain maps."""
    if not re.fullmatch(r"[a-z0-9_-]{1,40}", text):
        raise ValueError("a key takes small letters, digits, - and _, at most 40")
    return text


Key = Annotated[str, AfterValidator(_key)]


class CarburetorType(StrEnum):
    """How the carburetor is built, as far as it decides metering."""

    FLOAT = "float"
    TWO_BARREL = "two_barrel"
    MULTI_FUEL = "multi_fuel"
    UNKNOWN = "unknown"


class Carburetor(Model):
    """The gasoline carburetor and the elevation its jet was chosen for."""

    type: CarburetorType = CarburetorType.UNKNOWN
    fuel_solenoid: bool | None = None
    jetted_at: Annotated[
        Fact | None, Quantity("elevation", "Elevation the jet was chosen for", -430.0, 4000.0)
    ] = None


class RunTime(Model):
    """A data-sheet run time: a tank lasts so long at a load."""

    load: Annotated[Fact | None, Quantity("power", "Load of the run", 0.0, 60e3)] = None
    duration: Annotated[Fact | None, Quantity("duration", "Run time", 300.0, 30 * 86400.0)] = None
    volume: Annotated[Fact | None, Quantity("volume", "Gasoline used", 1e-4, 1.0)] = None
    """Gasoline used; the set's own tank when not given."""


class WeighIn(Model):
    """Fuel weighed before and after a run that delivered a metered energy."""

    fuel: FuelKey = FuelKey.PROPANE
    before: Annotated[Fact | None, Quantity("mass", "Weight before", 0.0, 500.0)] = None
    after: Annotated[Fact | None, Quantity("mass", "Weight after", 0.0, 500.0)] = None
    energy: Annotated[Fact | None, Quantity("energy", "Energy delivered", 1e4, 1e11)] = None
    duration: Annotated[
        Fact | None, Quantity("duration", "Length of the run", 300.0, 30 * 86400.0)
    ] = None


class GeneratorSet(Model):
    """The machine: identity, ratings with their conditions, engine, alternator, carburetor."""

    maker: Name = ""
    model: Name = ""
    serial: Name = ""
    set_class: SetClass = SetClass.OPEN_FRAME
    displacement: Annotated[Fact | None, Quantity("displacement", "Displacement", 20e-6, 5e-3)] = (
        None
    )
    shaft_power: Annotated[Fact | None, Quantity("power", "Shaft power", 200.0, 80e3)] = None
    cylinders: Annotated[int, Field(ge=1, le=6)] = 1
    running: Annotated[Fact | None, Quantity("power", "Running rating", 100.0, 50e3)] = None
    starting: Annotated[Fact | None, Quantity("power", "Starting rating", 100.0, 80e3)] = None
    rating_elevation: Annotated[
        Fact | None, Quantity("elevation", "Elevation of the rating", -430.0, 4000.0)
    ] = None
    rating_temperature: Annotated[
        Fact | None, Quantity("temperature", "Temperature of the rating", 253.15, 323.15)
    ] = None
    reserve_ratio: Annotated[Fact | None, Quantity("ratio", "Engine reserve", 0.5, 2.5)] = None
    alternator_efficiency: Annotated[
        Fact | None, Quantity("share", "Alternator efficiency", 0.5, 0.97)
    ] = None
    gas_efficiency: Annotated[
        Fact | None, Quantity("ratio", "Efficiency on gas over gasoline", 0.7, 1.3)
    ] = None
    volts: Annotated[Fact | None, Quantity("voltage", "Voltage", 6.0, 690.0)] = None
    hertz: Annotated[Fact | None, Quantity("frequency", "Frequency", 45.0, 65.0)] = None
    phases: Literal[1, 3] = 1
    tank: Annotated[Fact | None, Quantity("volume", "Tank", 2e-4, 0.5)] = None
    gasoline: Literal["e0", "e10"] = "e10"
    carburetor: Carburetor = Carburetor()
    run_times: dict[Key, RunTime] = {}
    weigh_ins: dict[Key, WeighIn] = {}
    note: Note = ""


class Gas(Model):
    """A gas at hand on a site, by the figures that describe it."""

    kind: Literal["natural_gas", "biogas"] = "natural_gas"
    hhv: Annotated[
        Fact | None, Quantity("heating_value_volume", "Heating value (HHV)", 30e6, 48e6)
    ] = None
    specific_gravity: Annotated[Fact | None, Quantity("ratio", "Specific gravity", 0.55, 0.80)] = (
        None
    )
    methane: Annotated[Fact | None, Quantity("share", "Methane share", 0.40, 0.98)] = None


class CylindersAtHand(Model):
    """Cylinders of one size on a site, and how full: stated or weighed less the tare."""

    size: Key = "20"
    count: Annotated[int, Field(ge=1, le=24)] = 1
    fill: Annotated[Fact | None, Quantity("mass", "Propane in each", 0.1, 500.0)] = None
    weighed: Annotated[Fact | None, Quantity("mass", "Weighed", 1.0, 900.0)] = None
    tare: Annotated[Fact | None, Quantity("mass", "Stamped tare", 1.0, 400.0)] = None
    shelter: Literal["still_air", "breeze", "closed_locker"] = "still_air"


class Site(Model):
    """A place where the set runs, with its air and the fuels at hand."""

    name: Name = ""
    elevation: Annotated[Fact | None, Quantity("elevation", "Elevation", -430.0, 5500.0)] = None
    coldest: Annotated[Fact | None, Quantity("temperature", "Coldest", 223.15, 323.15)] = None
    hottest: Annotated[Fact | None, Quantity("temperature", "Hottest", 223.15, 328.15)] = None
    humidity: Annotated[Fact | None, Quantity("share", "Relative humidity", 0.0, 1.0)] = None
    gasoline: bool = True
    gases: dict[Key, Gas] = {}
    cylinders: dict[Key, CylindersAtHand] = {}
    note: Note = ""


class Load(Model):
    """What the set must carry."""

    planned: Annotated[Fact | None, Quantity("power", "Planned load", 0.0, 60e3)] = None
    largest_start: Annotated[Fact | None, Quantity("power", "Largest start", 0.0, 80e3)] = None
    note: Note = ""


class Schools(Model):
    """Which school the estimate of output follows, fuel and air apart."""

    fuel: School = School.FIELD_RULE
    air: School = School.FIELD_RULE


class StageState(StrEnum):
    """Where a stage stands."""

    NOT_STARTED = "not_started"
    UNDER_WAY = "under_way"
    WAITING = "waiting"
    DONE = "done"


class WaitsFor(StrEnum):
    """What a job can wait for."""

    NOTHING = "nothing"
    PARTS = "parts"
    OWNER = "owner"
    FITTER = "fitter"
    TEST = "test"
    CORE_RETURN = "core_return"


class Stage(Model):
    """A stage's record: its state, who closed it and when, and what it waits for."""

    state: StageState = StageState.NOT_STARTED
    waits_for: WaitsFor = WaitsFor.NOTHING
    by: Name = ""
    on: Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2})?$")] = ""
    note: Note = ""


STAGES: dict[str, str] = {
    "intake": "Intake",
    "method": "Method",
    "fuel_path": "Fuel path",
    "fit": "Fit",
    "prove_tight": "Prove tight",
    "first_start": "First start",
    "load_test": "Load test",
    "hand_over": "Hand over",
    "logbook": "Logbook",
}


class Attachment(Model):
    """A file kept with the job, by the SHA-256 of its bytes."""

    sha256: Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")]
    name: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    media_type: Annotated[str, StringConstraints(max_length=100)]
    size: Annotated[int, Field(ge=0)]


class Job(Model):
    """One conversion job. `site` names the site the page looks at."""

    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
    owner: Name = ""
    wish: Note = ""
    set: GeneratorSet = GeneratorSet()
    sites: dict[Key, Site] = {"s1": Site()}
    site: Key = "s1"
    load: Load = Load()
    schools: Schools = Schools()
    stages: dict[Key, Stage] = {}
    attachments: dict[Key, Attachment] = {}
    archived: bool = False
