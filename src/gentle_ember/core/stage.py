"""What a stage of a job tells the house: the fields it owns, its sections, its three kinds of no.

Adding a stage is adding a folder with a `STAGE` in it; everything that goes through the stages
(the gate of a write, a copy, the route, the lists of open items and cautions, what a page asks
for) loops over them and lists nothing itself.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from typing import Any, TypeVar

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.dates import Dated, Standing
from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.job import Confirmation, Job
from gentle_ember.core.job.site import Site
from gentle_ember.core.shop import NOTHING, Shop

R = TypeVar("R")

UNKNOWN, TO_DO, UNWEIGHED, SOMEBODY, NOTED = (
    "not known",
    "to do",
    "not weighed",
    "somebody else",
    "to be noted",
)
"""Kinds of open items."""


class Severity(StrEnum):
    """How hard a caution holds: a stop blocks sign-off."""

    STOP = "stop"
    NOT_KNOWN = "not_known"
    """Of a train only: it can't be judged before this is told, and what rests on it waits."""
    CAUTION = "caution"
    STANDING = "standing"


@dataclass(frozen=True, slots=True)
class Caution:
    """One thing to mind: where it belongs and what to do about it."""

    key: str
    severity: Severity
    stage: str
    text: str
    path: str | None = None
    site: str = ""
    """The only site it holds at; empty where it holds at all."""
    fuel: str = ""
    """The only fuel it is about; empty where it is about all."""
    by_date: bool = False
    """Whether it comes and goes with the day, so that what is kept for other days leaves it out."""
    proving_settles: bool = False
    """Whether only more proving can settle it: it keeps nobody from letting gas in for that."""


def dated_caution(
    key: str, what: str, stands: Dated, over: str, path: str, stage: str, fuel: str, site: str = ""
) -> Caution | None:
    """What a date says of something: a stop once it ran out or can't be right, a caution soon
    before, nothing while it is good.

    Args:
        key: of the caution.
        what: the thing, as a sentence begins.
        stands: how it stands today.
        over: what follows once it ran out, after "was good until".
        path: where the date is kept.
        stage: which it stops.
        fuel: the only one it is about.
        site: the only one it holds at.
    """
    words = {
        Standing.OVER: f"was good until {stands.until}, {stands.years} years from {stands.since}: "
        f"{over}",
        Standing.NOT_YET: f"is dated {stands.since}, which has not come: look again.",
        Standing.SOON: f"is good until {stands.until} only: tell the owner.",
    }.get(stands.standing)
    if words is None:
        return None
    soon = stands.standing is Standing.SOON
    severity, held = (Severity.CAUTION, "hand_over") if soon else (Severity.STOP, stage)
    return Caution(key, severity, held, f"{what} {words}", path, site, fuel, by_date=True)


@dataclass(frozen=True, slots=True)
class Item:
    """One line: what, which kind, the stage it must be settled before, and where to settle it.

    `holds` items keep the stage from being signed off. `confirm` items are ticked by a person,
    with a number where `number` says which.
    """

    key: str
    kind: str
    text: str
    stage: str
    path: str
    done: bool = False
    by: str = ""
    holds: bool = False
    confirm: bool = False
    number: str = ""
    given: str = ""
    acts: bool = False
    """Whether nothing is done with the machine before it is settled."""
    fuel: str = ""
    """The only fuel it is about; empty where it is about all."""
    site: str = ""
    """The only site it holds at; empty where it holds at all."""


def confirm_item(
    job: Job,
    key: str,
    kind: str,
    text: str,
    stage: str,
    *,
    holds: bool = True,
    acts: bool = False,
    fuel: str = "",
    number: str = "",
) -> Item:
    """An item ticked by whoever saw or heard it, kept in the job's `confirmed`.

    Args:
        job: the job.
        key: under which it is confirmed.
        kind: of item.
        text: what it is.
        stage: it must be settled before.
        holds: whether it keeps that stage from being signed.
        acts: whether nothing is done with the machine before it.
        fuel: the only fuel it is about.
        number: what number it takes besides the tick; without one it is not done.
    """
    seen = job.confirmed.get(key, blank(Confirmation))
    done = seen.done and (not number or bool(seen.number.strip()))
    return Item(
        key,
        kind,
        text,
        stage,
        f"confirmed.{key}",
        done,
        seen.by,
        holds,
        True,
        number,
        seen.number if number else "",
        acts,
        fuel,
    )


@dataclass(frozen=True, slots=True)
class Question:
    """Something the job does not say yet, and the field that answers it."""

    text: str
    path: str
    stage: str = "intake"


@dataclass(frozen=True, slots=True)
class Refusal:
    """A write that is not taken: the field it is refused at, and why."""

    path: str
    text: str


@dataclass(frozen=True, slots=True)
class Hold:
    """Something of the job that keeps an act or a signature back, and where it is settled."""

    text: str
    path: str = ""
    """A place of the job; empty where the text says it all."""


class Doing(StrEnum):
    """Kinds of acts, by what must stand before them."""

    LET_IN = "let_in"
    """The source opened on a train that is being proven."""
    RUN = "run"
    """A start, a reading of the machine, a setting, a load, a change-over."""
    NEAR_RATING = "near_rating"
    """A load near the rating, which a new engine is broken in for first."""


@dataclass(frozen=True, slots=True)
class Act:
    """Something newly done with the machine itself: a start, a reading, a setting, a load."""

    path: str
    what: str
    """As a refusal begins: “No start on propane”."""
    fuel: str
    doing: Doing = Doing.RUN
    site: str = ""
    """Where it is done; empty where that is not kept, and then every site must allow it."""
    own: tuple[Hold, ...] = ()
    """What holds it besides: its own gate is open, its wait is not over."""
    emptied: Change | None = None
    """What takes it out of a job again, where it is no entry of its own at `path`."""

    @property
    def back(self) -> Change:
        """The write that takes it out of a job again."""
        return self.emptied or Change(self.path, remove=True)


class Plan:
    """Everything computed of one job, the catalog and what the shop learned.

    A section is a pure function of the plan; it is worked out when first asked for, and sections
    ask for those of the stages before them. Dates run out against `today`; without one nothing
    does.
    """

    def __init__(
        self, job: Job, catalog: Catalog, shop: Shop = NOTHING, today: date | None = None
    ) -> None:
        self.job = job
        self.catalog = catalog
        self.shop = shop
        self.today = today
        self._found: dict[Callable[[Plan], Any], Any] = {}
        self._elsewhere: dict[str, Plan] = {}

    def of(self, section: Callable[[Plan], R]) -> R:
        """A section, the same object each time it is asked for."""
        if section not in self._found:
            self._found[section] = section(self)
        found: R = self._found[section]
        return found

    def at(self, site: str) -> Plan:
        """The same job looked at from another of its sites."""
        if site == self.job.site:
            return self
        if site not in self._elsewhere:
            job = self.job.model_copy(update={"site": site})
            self._elsewhere[site] = Plan(job, self.catalog, self.shop, self.today)
        return self._elsewhere[site]

    @property
    def site(self) -> Site:
        """The site the job looks at."""
        return self.job.sites[self.job.site]


@dataclass(frozen=True, slots=True)
class Page:
    """A page of a stage: its address below the stage, its name, what it asks for.

    Attributes:
        views: what the page wants along with the job, by the views' names.
        facts: places of the job that are filled in here; the longest that fits a path wins, and a
            star stands for any one key.
    """

    key: str
    name: str
    views: tuple[str, ...] = ()
    facts: tuple[str, ...] = ()
    tab: bool = True
    """Whether it has a tab; bench mode is reached from the sheet and has the screen to itself."""


RECORD = Page("record", "Record")
"""Every stage's last page: what is open, who signs."""


def kept(value: Any) -> Any:
    """A field that goes into a copy as it is."""
    return value


def anew(_: Any) -> None:
    """A field that begins anew in a copy, with what it is when nobody has said anything."""


def nothing(*_: Any) -> tuple[()]:
    """A stage that has none."""
    return ()


@dataclass(frozen=True, slots=True)
class Stage:
    """One stage of a job.

    Attributes:
        key: as it stands in the job and in the page's addresses.
        name: as people read it.
        owns: fields of the job that are this stage's, each with what a copy of the job makes of
            it: `kept`, `anew`, or a function of its own.
        on_demand: dictionaries whose keys the core gives, so that a record begins with the first
            write into it.
        computed: places only `follows` writes to; a person may at most take an entry out.
        pages: in the order of the tabs.
        contradictions: facts that can't both be true; never taken.
        questions: what the job does not say yet.
        items: open items; those that hold keep the stage they name from being signed off.
        cautions: stops, cautions, and what always stands.
        acts: what a write newly does with the machine; each is held against the whole job.
        refusals: what a write may not do, from the job before it and the plan after it.
        signs: places a write newly signs this stage at, besides its sign-off; what holds the
            stage holds them.
        follows: writes that a write implies, from the job before it and the job after it.
    """

    key: str
    name: str
    owns: Mapping[str, Callable[[Any], Any]] = field(default_factory=dict)
    on_demand: frozenset[str] = frozenset()
    computed: frozenset[str] = frozenset()
    pages: tuple[Page, ...] = ()
    contradictions: Callable[[Job], Iterable[Refusal]] = nothing
    questions: Callable[[Plan], Iterable[Question]] = nothing
    items: Callable[[Plan], Iterable[Item]] = nothing
    cautions: Callable[[Plan], Iterable[Caution]] = nothing
    acts: Callable[[Job, Plan], Iterable[Act]] = nothing
    refusals: Callable[[Job, Plan], Iterable[Refusal]] = nothing
    signs: Callable[[Job, Plan], Iterable[str]] = nothing
    follows: Callable[[Job, Plan], Iterable[Change]] = nothing
