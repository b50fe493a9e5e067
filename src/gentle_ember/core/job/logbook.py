"""What a job keeps of its set in service: its runs, and the upkeep that was done."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from gentle_ember.core.job.dates import Month
from gentle_ember.core.job.facts import By, Fact, Key, Model, Name, Note, Quantity
from gentle_ember.core.job.handling import AnyFuel

HOUR_S, DAY_S = 3600.0, 86_400.0


def day(text: str) -> str:
    """A day, kept as year, month and day.

    Raises:
        ValueError: when it can't be read.

    >>> day("2026-11-27"), day("")
    ('2026-11-27', '')
    """
    said = text.strip()
    if not said:
        return ""
    try:
        found = date.fromisoformat(said)
    except ValueError:
        raise ValueError("Write the day as 2026-11-27") from None
    if not 1990 <= found.year <= 2100:
        raise ValueError("That is no year such a set ran in")
    return found.isoformat()


Day = Annotated[str, AfterValidator(day)]
Burns = AnyFuel
Hours = Annotated[Fact | None, Quantity("duration", "Hour meter", 0.0, 30_000 * HOUR_S)]


class LoggedRun(Model):
    """One run of the set: how long, or what its hour meter read after it, and on what."""

    on: Day = ""
    hours: Annotated[Fact | None, Quantity("duration", "Ran", 60.0, 31 * DAY_S)] = None
    meter: Hours = None
    new_meter: bool = False
    """Whether the hour meter was changed before this run, so that it counts from nothing."""
    fuel: Burns = ""
    load: Annotated[Fact | None, Quantity("power", "About what load", 0.0, 60e3)] = None
    used: Annotated[Fact | None, Quantity("mass", "Fuel used, weighed", 0.02, 500.0)] = None
    remark: Note = ""
    by: By = ""


class Upkept(Model):
    """Upkeep that was done: what, when, at what reading, and what was found."""

    task: Key = "oil"
    on: Day = ""
    meter: Hours = None
    found: Name = ""
    lash: Annotated[Fact | None, Quantity("clearance", "Exhaust valve lash found", 0.0, 2e-3)] = (
        None
    )
    set_to: Annotated[
        Fact | None, Quantity("clearance", "Exhaust valve lash set to", 2e-5, 2e-3)
    ] = None
    """What it was set to; empty where it was left as found."""
    parts: Name = ""
    minutes: Annotated[int | None, Field(ge=0, le=10_000)] = None
    opened: bool = False
    """Whether a gas joint or the carburetor was opened for it: soaped again before it runs."""
    note: Note = ""
    by: By = ""


class StockCylinder(Model):
    """A cylinder the owner has: its size and stamps, and what it weighed."""

    name: Name = ""
    size: Key = "20"
    tare: Annotated[Fact | None, Quantity("mass", "Stamped tare (TW)", 1.0, 400.0)] = None
    weighed: Annotated[Fact | None, Quantity("mass", "Weighs", 1.0, 900.0)] = None
    weighed_on: Day = ""
    stamped: Month = ""
    """The last date stamped on it, of making or of a later test."""
    stamp: Literal["unknown", "made", "plain", "s", "e"] = "unknown"


class StockCan(Model):
    """Gasoline the owner has in a can: how much, since when, and what it is."""

    name: Name = ""
    volume: Annotated[Fact | None, Quantity("volume", "Gasoline in it", 1e-4, 0.3)] = None
    filled_on: Day = ""
    ethanol: Literal["unknown", "yes", "no"] = "unknown"
    stabilizer: bool = False


class Logbook(Model):
    """The set in service since it was handed over."""

    since: Day = ""
    meter: Hours = None
    """What the hour meter read then; the set had run so long before."""
    dusty: bool = False
    """Whether it runs where air is dusty: filters are due twice as often."""
    runs: Annotated[dict[Key, LoggedRun], Field(max_length=3000)] = {}
    upkeep: Annotated[dict[Key, Upkept], Field(max_length=600)] = {}
    cylinders: Annotated[dict[Key, StockCylinder], Field(max_length=60)] = {}
    cans: Annotated[dict[Key, StockCan], Field(max_length=60)] = {}
    ended: Day = ""
    ended_as: Literal["", "sold", "scrapped", "next_job"] = ""
    """Why it is no longer looked after here; its history stays."""
    before: Annotated[str, Field(max_length=64)] = ""
    """The job the set was in before, whose runs and upkeep this one carries on."""
