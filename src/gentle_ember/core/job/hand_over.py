"""What a job keeps of its hand-over: the owner taught, what is paid, who signed, what is sealed."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints

from gentle_ember.core.job.facts import By, Fact, Hand, Key, Model, Name, Note, Quantity
from gentle_ember.core.job.fit import Stamp
from gentle_ember.core.job.logbook import HOUR_S, Day

PAD = 1000
"""A signature's pad is so many steps wide; its height has the same steps."""


def _paired(stroke: tuple[int, ...]) -> tuple[int, ...]:
    if len(stroke) % 2:
        raise ValueError("A stroke is torn: a place of it has no height.")
    return stroke


Digest = Annotated[str, StringConstraints(pattern=r"^([0-9a-f]{64})?$")]
Stroke = Annotated[
    tuple[Annotated[int, Field(ge=0, le=PAD)], ...],
    Field(min_length=2, max_length=2000),
    AfterValidator(_paired),
]
"""One line drawn without lifting: x and y by turns, in steps of the pad from its upper left."""


class Signature(Model):
    """A name drawn on the screen, and the record it stands under."""

    name: Name = ""
    on: Stamp = ""
    strokes: Annotated[tuple[Stroke, ...], Field(max_length=80)] = ()
    of: Digest = ""
    """SHA-256 of the work it was given for; another work is signed anew."""


class OwnerDrill(Model):
    """One order of handles, done by the owner; or why it was not."""

    state: Literal["", "done", "left"] = ""
    seconds: Annotated[int, Field(ge=0, le=7200)] = 0
    wrong: Annotated[int, Field(ge=0, le=99)] = 0
    """Wrong moves before it was right."""
    reason: Note = ""
    of: Annotated[str, StringConstraints(max_length=64)] = ""
    """The moves it was done with; other moves are taught anew."""
    by: By = ""
    on: Stamp = ""


class Extra(Model):
    """Something else on the bill: a permit, the way, a gift."""

    what: Name = ""
    count: Annotated[Fact | None, Quantity("count", "How many", 0.0, 1000.0)] = None
    each: Annotated[Fact | None, Quantity("money", "Each", -50_000.0, 50_000.0)] = None
    taxed: bool = True


class Invoice(Model):
    """What it comes to: hours, rate, what is charged besides, what is paid already."""

    number: Name = ""
    on: Day = ""
    hours: Annotated[Fact | None, Quantity("duration", "Hours worked", 0.0, 500 * HOUR_S)] = None
    rate: Annotated[Fact | None, Quantity("money", "Rate an hour", 0.0, 1000.0)] = None
    tax: Annotated[Fact | None, Quantity("share", "Tax", 0.0, 0.5, 0.07)] = None
    without: Annotated[tuple[Key, ...], Field(max_length=200)] = ()
    """Parts of the list that are not charged."""
    extras: Annotated[dict[Key, Extra], Field(max_length=40)] = {}
    paid: Annotated[Fact | None, Quantity("money", "Paid already", 0.0, 100_000.0)] = None


class CoreBack(Model):
    """The old part that goes back for its deposit: when it is due, when it went."""

    what: Name = ""
    deposit: Annotated[Fact | None, Quantity("money", "Deposit on it", 0.0, 5_000.0)] = None
    """What is held for a part that is not of the parts list; the list's own come besides."""
    due: Day = ""
    sent: Day = ""
    by: By = ""


class MovedSet(Model):
    """The set was taken to another place or gas: what was proven there, and by whom."""

    start: Key
    goal: Key
    on: Day = ""
    by: By = ""
    proven: Annotated[dict[Key, By], Field(max_length=40)] = {}
    """Who proved what the move sheet asks for, by its mark."""


class SealedRow(Model):
    """A line of the record as it was sealed; a value is in SI units of its kind."""

    label: Annotated[str, StringConstraints(max_length=400)] = ""
    text: Annotated[str, StringConstraints(max_length=4000)] = ""
    value: float | None = None
    kind: Annotated[str, StringConstraints(max_length=40)] = ""
    by: Annotated[str, StringConstraints(max_length=200)] = ""


class SealedSection(Model):
    """A heading of the record as it was sealed."""

    title: Annotated[str, StringConstraints(max_length=200)] = ""
    rows: Annotated[tuple[SealedRow, ...], Field(max_length=3000)] = ()


class SealedRecord(Model):
    """A revision of the record, whole as it was signed; it is never changed, only followed."""

    number: Annotated[int, Field(ge=1, le=40)]
    work: Digest
    """SHA-256 of the work as the job held it."""
    sections: Annotated[tuple[SealedSection, ...], Field(max_length=60)]
    files: Annotated[tuple[Digest, ...], Field(max_length=3000)] = ()
    """Photos and files that belong to it, by the SHA-256 of their bytes."""
    technician: Signature
    owner: Signature
    before: Digest = ""
    """The seal of the revision before it."""
    digest: Digest
    """SHA-256 of all the above."""


class HandOver(Model):
    """The hand-over of one job."""

    drills: Annotated[dict[Key, OwnerDrill], Field(max_length=60)] = {}
    core: CoreBack = CoreBack()
    stays: Note = ""
    """What stays with the owner: the old jet, the bracket, spares, what was left over."""
    invoice: Invoice = Invoice()
    technician: Annotated[Signature, Hand()] = Signature()
    owner: Signature = Signature()
    arrivals: Annotated[dict[Key, MovedSet], Field(max_length=200)] = {}
    seals: Annotated[dict[Key, SealedRecord], Field(max_length=40)] = {}
    """Revisions of the record; made by the core once both signatures stand under one work."""
