"""The shop around the jobs: board, finder, reference, people, method pages, coming in."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, RootModel, StringConstraints

from gentle_ember.core.job.facts import Name
from gentle_ember.store.board import BoardShown
from gentle_ember.units.registry import System
from gentle_ember.web.views.base import BothOut, PlainOut, Request, View


class BoardQuery(Request):
    """What the board shows."""

    query: Annotated[str, StringConstraints(max_length=200)] = ""
    archived: bool = False
    limit: Annotated[int, Field(ge=1, le=200)] = 12


class FinderQuery(Request):
    """What somebody looks for."""

    q: Annotated[str, StringConstraints(max_length=200)] = ""
    system: System = "us"


class ReadIn(Request):
    """A typed quantity of a kind."""

    text: Annotated[str, StringConstraints(max_length=400)]
    kind: str
    system: System = "us"


class BackupOut(View):
    """A daily backup: its file in the data folder's `backups`, its day, its size [bytes]."""

    name: str
    day: str
    size: int


class BackupsOut(View):
    """Every daily backup, the newest first."""

    kept: list[BackupOut]


class PersonIn(Request):
    """A person of the shop."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
    units: System | None = None


class MethodPath(Request):
    """A method page's name."""

    page: Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,60}$")]


class BoardRowOut(BoardShown):
    """A job on the board, its stage by its name, its rating in words besides."""

    id: str
    running: PlainOut | None
    updated_at: str


class BoardGroupOut(View):
    """Jobs that wait for the same thing."""

    waits_for: str
    label: str
    count: int
    rows: list[BoardRowOut]


class BoardOut(View):
    """The board."""

    groups: list[BoardGroupOut]
    total: int


class FoundOut(View):
    """Something the finder found."""

    kind: Literal["job", "term", "quantity"]
    title: str
    detail: str
    job: str = ""
    page: str = ""
    field: str = ""


class FoundListOut(RootModel[list[FoundOut]]):
    """What the finder found, best first."""


class ReadOut(BothOut):
    """What a typed quantity was understood as."""

    value: float


class UnitOut(View):
    """Shown = SI × factor + offset."""

    text: str
    factor: float
    offset: float
    decimals: int


class KindOut(View):
    """A kind's units in both systems and a sample to type."""

    us: UnitOut
    metric: UnitOut
    sample_us: str
    sample_metric: str


class FieldOut(View):
    """What a quantity field of a job means; a sample to type where its kind's is none for it."""

    kind: str
    label: str
    sample_us: str = ""
    sample_metric: str = ""


class PersonOut(View):
    """A person of the shop."""

    name: str
    initials: str
    units: System


class SizeOut(View):
    """A cylinder size of the catalog."""

    key: str
    name: str
    full: PlainOut
    tare: PlainOut


class ReferenceOut(View):
    """What a page needs once: kinds, fields, cylinder sizes, people."""

    kinds: dict[str, KindOut]
    fields: dict[str, FieldOut]
    cylinders: list[SizeOut]
    people: list[PersonOut]
    version: str
    currency: str
    """The shop's, before every price."""


class MethodPageOut(View):
    """A method page as HTML made from our own Markdown."""

    page: str
    title: str
    html: str


class WayInOut(View):
    """One address of the shop with its codes, as SVG."""

    address: str
    join: str
    authority: str


class DeviceOut(View):
    """A device that was let in; when, and when it was there last."""

    key: str
    name: str
    since: str
    seen: str


class DeviceIn(Request):
    """What a device is called."""

    name: Annotated[Name, StringConstraints(min_length=1)]


class DevicePath(Request):
    """A device that was let in."""

    key: str = Field(max_length=40)


class PairOut(View):
    """What a phone reads to come in."""

    ways: list[WayInOut]
    fingerprint: str
    lapses_s: float
    """For how long the code still stands [s]."""
    devices: list[DeviceOut]


class PairQuery(Request):
    """The pairing code."""

    token: str = Field(max_length=80)
