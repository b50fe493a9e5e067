"""What a job keeps of first starts: what was looked at before, every attempt, what was proven."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.job.facts import By, Fact, Key, Model, Note, Quantity
from gentle_ember.core.job.fit import Stamp


class Looked(Model):
    """Something looked at: good, not good, or not yet."""

    state: Literal["", "good", "bad"] = ""
    note: Note = ""
    by: By = ""
    on: Stamp = ""


class Attempt(Model):
    """One try to start it."""

    choke: Literal["open", "half", "shut"] = "open"
    presses: Annotated[int, Field(ge=0, le=50)] = 0
    seconds: Annotated[int, Field(ge=0, le=60)] = 0
    """How long each press of the primer was held."""
    hiss: Literal["", "heard", "not_heard"] = ""
    result: Literal["runs", "dies", "coughs", "nothing", "smells"] = "nothing"
    note: Note = ""
    by: By = ""
    on: Stamp = ""


class StartLog(Model):
    """The first starts of one fuel."""

    looked: Annotated[dict[Key, Looked], Field(max_length=60)] = {}
    attempts: Annotated[dict[Key, Attempt], Field(max_length=60)] = {}
    died_after: Annotated[
        Fact | None, Quantity("seconds", "Ran on after its valve was shut", 0.0, 1800.0)
    ] = None
    no_load: Annotated[Fact | None, Quantity("frequency", "No load, warm", 30.0, 80.0)] = None
    """Frequency with nothing switched on, once it is warm."""
    change_over: Annotated[Fact | None, Quantity("seconds", "Changed over in", 0.0, 1800.0)] = None
    load_before: Annotated[
        Fact | None, Quantity("power", "Gasoline held, before the work", 0.0, 60e3)
    ] = None
    load_after: Annotated[
        Fact | None, Quantity("power", "Gasoline held, afterwards", 0.0, 60e3)
    ] = None
