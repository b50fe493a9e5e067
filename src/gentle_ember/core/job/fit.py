"""What a job keeps of the fitting: steps done, finds, smells of gas, what was left on the machine.

Steps themselves are not kept: they follow from the job. A record says what was done, with what it
was done, and how long it took; where the sheet has changed since, it no longer matches.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from gentle_ember.core.job.facts import By, Key, Model, Name, Note

Stamp = Annotated[
    str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}(\.\d{1,3})?Z)?$")
]
"""A moment in UTC, as the browser writes it; empty for none."""


class StepRecord(Model):
    """A step of the sheet as it went."""

    state: Literal["open", "done", "skipped"] = "open"
    by: By = ""
    on: Stamp = ""
    seconds: Annotated[int, Field(ge=0, le=100_000)] = 0
    note: Note = ""
    value: Name = ""
    """What was measured, as noted."""
    reason: Note = ""
    """Why it was skipped."""
    of: Annotated[str, StringConstraints(max_length=200)] = ""
    """What the step was about when it was done: parts and lengths."""
    what: Annotated[str, StringConstraints(max_length=200)] = ""
    """Its words when it was done, should the sheet no longer have it."""


class Added(Model):
    """A step somebody added."""

    what: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
    why: Name = ""
    minutes: Annotated[int, Field(ge=0, le=1000)] = 10
    after: Key | Literal[""] = ""
    """Step it comes after; before the closing up when empty."""


class Find(Model):
    """Something found in the middle of the work, and what was decided."""

    what: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=400)]
    step: Key | Literal[""] = ""
    decision: Literal["open", "go_on", "order", "stop"] = "open"
    reason: Note = ""
    undoes: Annotated[tuple[Key, ...], Field(max_length=60)] = ()
    """Steps that are to be done again because of it."""
    by: By = ""
    on: Stamp = ""


class Smell(Model):
    """Gas was smelled: when, at which step, and what cleared it."""

    step: Key | Literal[""] = ""
    by: By = ""
    on: Stamp = ""
    did: Annotated[tuple[Key, ...], Field(max_length=12)] = ()
    """Which of the things to do at once were done."""
    cause: Note = ""
    cleared_by: By = ""
    cleared_on: Stamp = ""

    @property
    def cleared(self) -> bool:
        """Whether somebody says that it is over, and why it was."""
        return bool(self.cleared_on and self.cause.strip())


class LeftBehind(Model):
    """A hole, a cut or a bend in the machine that was not there before."""

    kind: Literal["hole", "cut", "bent", "removed"] = "hole"
    what: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
    state: Literal["used", "abandoned", "closed"] = "used"
    undo: Literal["unknown", "yes", "partly", "no"] = "unknown"
    by: By = ""
    on: Stamp = ""


class ComesBack(Model):
    """A part taken off that somebody gets back: jet, core, bracket."""

    what: Name = ""
    tag: Name = ""
    """What is written on its tag."""
    to: Literal["owner", "supplier", "shop"] = "owner"
    back: bool = False
    by: By = ""
    on: Stamp = ""


class Fastener(Model):
    """Screws of one place: how many, which, hidden or not, which goes back first, how secured."""

    count: Annotated[int | None, Field(ge=0, le=99)] = None
    size: Name = ""
    hidden: Name = ""
    """Which are hidden, and under what."""
    first: Name = ""
    """What must go back first."""
    secured: Literal["", "torque", "locker", "washer", "none"] = ""


class Packed(Model):
    """A tool or a consumable, ticked before leaving the shop."""

    done: bool = False
    by: By = ""


class Tight(Model):
    """A joint's leak pass: how, by whom, and what the joint was then."""

    passed: bool = False
    how: Literal["soap", "decay", "vacuum", "drip"] = "soap"
    by: By = ""
    on: Stamp = ""
    of: Annotated[str, StringConstraints(max_length=200)] = ""


class Fit(Model):
    """Everything kept of the fitting."""

    studs: Literal["", "longer", "back_out", "extend", "pull"] = ""
    """How studs that are too short are made to reach; longer ones when not said, and drawn together
    by their nuts where that alone brings a full nut on."""
    gaskets: Literal["", "new", "reused"] = ""
    """What went in at the intake: new gaskets, or the old ones once more."""
    nuts: Literal["", "full", "short"] = ""
    """Whether every nut there is full on its stud."""
    steps: Annotated[dict[Key, StepRecord], Field(max_length=400)] = {}
    added: Annotated[dict[Key, Added], Field(max_length=100)] = {}
    finds: Annotated[dict[Key, Find], Field(max_length=100)] = {}
    smelled: Annotated[dict[Key, Smell], Field(max_length=100)] = {}
    left: Annotated[dict[Key, LeftBehind], Field(max_length=100)] = {}
    back: Annotated[dict[Key, ComesBack], Field(max_length=50)] = {}
    fasteners: Annotated[dict[Key, Fastener], Field(max_length=60)] = {}
    packed: Annotated[dict[Key, Packed], Field(max_length=200)] = {}
    tight: Annotated[dict[Key, Tight], Field(max_length=200)] = {}
