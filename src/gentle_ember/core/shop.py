"""What the shop measured against what was estimated, per class and fuel, small samples shrunk."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Rival, Rounding
from gentle_ember.core.base.quantities import percent
from gentle_ember.core.job.facts import Model, Name, Note
from gentle_ember.core.physics.fuels import FuelKey

Key = tuple[str, str, str]
PRIOR_SPREAD = {"output": 0.06, "fuel": 0.12, "turns": 0.25, "jet": 0.03}
"""Spread of measured over estimated between sets of a class, before the shop has any [1]."""
PRIOR_WEIGHT = 2.0
"""How many sets' worth the prior spread weighs when the shop's own spread is worked out."""
NAMES = {
    "output": "output", "fuel": "fuel use", "turns": "load screw", "jet": "main jet",
}  # fmt: skip

LEARNED = Method(
    "shop-lessons", "The shop's own sets of this class",
    "estimate × exp(n·mean ln(measured/estimate)/(n + s²/τ²))",
    "normal-normal shrinkage of log ratios toward 1; s scatter, τ spread of the estimate; the band "
    "is the next set's",
    "lessons",
)  # fmt: skip


VENT_RATE = Method(
    "vent-failures", "Vents the shop found failed",
    "(failed + ½) / (looked at + 1); band 5 to 95 % of that beta distribution",
    "binomial share with the Jeffreys prior, of the walk-rounds of the shop's own sets",
    "lessons",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Lesson:
    """One measured fact against its estimate: which quantity, class of set, fuel."""

    quantity: str
    set_class: str
    fuel: str
    estimate: float
    measured: float

    @property
    def ratio(self) -> float:
        """Measured over estimated [1]."""
        return self.measured / self.estimate


@dataclass(frozen=True, slots=True)
class Learned:
    """What several sets taught: how many, their mean ratio and spread, and the shrunk ratio [1]."""

    n: int
    mean: float
    spread: float
    shrunk: float
    band: float
    """Standard error of the next set's ratio about the shrunk one: what the mean is unsure of and
    what sets differ by, together [1]."""

    def said(self) -> str:
        """In words.

        >>> Learned(3, 0.94, 0.02, 0.95, 0.02).said()
        '3 sets, measured 0.94 of the estimate, spread 2 %'
        """
        sets = "1 set" if self.n == 1 else f"{self.n} sets"
        spread = f", spread {percent(self.spread)}" if self.n > 1 else ""
        return f"{sets}, measured {self.mean:.2f} of the estimate{spread}"


def learn(lessons: Iterable[Lesson]) -> dict[Key, Learned]:
    """What lessons teach, by quantity, class and fuel.

    >>> two = [Lesson("output", "open_frame", "propane", 1000.0, m) for m in (900.0, 900.0)]
    >>> found = learn(two)["output", "open_frame", "propane"]
    >>> found.n, round(found.mean, 2), 0.90 < found.shrunk < 0.97
    (2, 0.9, True)
    """
    groups: dict[Key, list[float]] = defaultdict(list)
    for one in lessons:
        if one.estimate > 0 and one.measured > 0 and one.quantity in PRIOR_SPREAD:
            groups[one.quantity, one.set_class, one.fuel].append(math.log(one.ratio))
    return {key: _of(key[0], logs) for key, logs in groups.items()}


SEEN = "vent"
"""Quantity of a lesson that counts a part as seen good (0) or failed (1); its class is its type."""


@dataclass(frozen=True, slots=True)
class VentCount:
    """How many of a kind the shop looked at, and how many of them had failed."""

    looked: int
    failed: int


def counted(lessons: Iterable[Lesson]) -> dict[str, VentCount]:
    """Tank vents looked at and found failed, by their type.

    >>> seen = [Lesson("vent", "cap_lever", "", 1.0, bad) for bad in (0.0, 1.0, 0.0)]
    >>> counted(seen)
    {'cap_lever': VentCount(looked=3, failed=1)}
    """
    found: dict[str, VentCount] = {}
    for one in lessons:
        if one.quantity == SEEN:
            was = found.get(one.set_class, VentCount(0, 0))
            found[one.set_class] = VentCount(was.looked + 1, was.failed + (one.measured > 0))
    return found


LOAD = "load"
"""Quantity of a lesson that says what a load drew by the meter: its class is the load's name, its
fuel the load's kind, its estimate the starting draw, nought where none was read."""


@dataclass(frozen=True, slots=True)
class MeasuredLoad:
    """A load as the shop measured it: its mean running and starting draw [W], on how many jobs."""

    name: str
    kind: str
    running_w: float
    starting_w: float | None
    times: int


def measured_loads(lessons: Iterable[Lesson]) -> tuple[MeasuredLoad, ...]:
    """Loads by name and kind, those measured most often first.

    >>> drew = [Lesson("load", "well pump", "pump", 3000.0, w) for w in (900.0, 1000.0)]
    >>> [(one.name, one.running_w, one.times) for one in measured_loads(drew)]
    [('well pump', 950.0, 2)]
    """
    groups: dict[tuple[str, str], list[Lesson]] = defaultdict(list)
    for one in lessons:
        if one.quantity == LOAD:
            groups[one.set_class, one.fuel].append(one)
    found = []
    for (name, kind), drew in groups.items():
        starts = [one.estimate for one in drew if one.estimate > 0]
        running = sum(one.measured for one in drew) / len(drew)
        # The hardest start of them: a set must take it.
        found.append(MeasuredLoad(name, kind, running, max(starts, default=None), len(drew)))
    return tuple(sorted(found, key=lambda one: (-one.times, one.name)))


def _of(quantity: str, logs: list[float]) -> Learned:
    n, mean = len(logs), sum(logs) / len(logs)
    prior = PRIOR_SPREAD[quantity]
    scatter = sum((one - mean) ** 2 for one in logs)
    # The shop's own scatter is worth little while it has few sets: it begins as the prior's.
    within = (PRIOR_WEIGHT * prior**2 + scatter) / (PRIOR_WEIGHT + n - 1)
    shrunk = n * mean / (n + within / prior**2)
    # The next set differs from the mean by as much as sets do, however well the mean is known.
    band = math.sqrt(1 / (n / within + 1 / prior**2) + within)
    spread = math.sqrt(scatter / (n - 1)) if n > 1 else 0.0
    return Learned(n, math.exp(mean), spread, math.exp(shrunk), band)


class ShopFront(Model):
    """The shop as its papers name it, and what it asks for its work."""

    name: Name = ""
    address: Note = ""
    contact: Note = ""
    """Phone and mail, as they stand on its papers."""
    license: Name = ""
    currency: Annotated[str, StringConstraints(strip_whitespace=True, max_length=4)] = "$"
    rate: Annotated[float | None, Field(ge=0, le=1000)] = None
    """An hour of work, in its currency."""
    tax: Annotated[float, Field(ge=0, le=0.5)] = 0.0
    """Share of what is taxed [1]."""
    tax_labor: bool = False
    """Whether work is taxed as parts are."""
    terms: Note = ""
    units: Literal["us", "metric"] = "us"
    """What papers and new people begin with."""
    backups: Annotated[int, Field(ge=0, le=60)] = 7
    """How many daily backups are kept; none are made where it is nought."""
    logo: Annotated[str, StringConstraints(max_length=400_000)] = ""
    """A PNG in base64; empty for none."""


UNNAMED = ShopFront()
"""A shop whose settings nobody filled in."""


@dataclass(frozen=True, eq=False)
class Shop:
    """What sets of the shop taught, as plans read it; another object only when it differs."""

    learned: Mapping[Key, Learned]
    front: ShopFront = UNNAMED
    vents: Mapping[str, VentCount] = field(default_factory=dict)
    """Tank vents looked at, by their type."""
    loads: tuple[MeasuredLoad, ...] = ()
    """What loads drew by the meter, on the shop's other jobs."""

    def vent_fails(self, kind: str, name: str) -> Figure | None:
        """Share of tank vents of a type that the shop found failed; None before it saw one.

        No published rate is known that would hold for them all: only what was seen counts.
        """
        seen = self.vents.get(kind)
        if seen is None:
            return None
        from scipy.stats import beta

        failed, good = seen.failed + 0.5, seen.looked - seen.failed + 0.5
        low, high = (float(beta.ppf(one, failed, good)) for one in (0.05, 0.95))
        inputs = (Input("looked at", float(seen.looked), "count"),
                  Input("found failed", float(seen.failed), "count"))  # fmt: skip
        return Figure(
            f"vent.{kind}", f"tank vents ({name}) that failed on the shop's sets",
            failed / (failed + good), "share", VENT_RATE, Band(low, high), inputs,
            rounding=Rounding.UP, estimated=True,
            narrows=("more sets of the shop's own, their vents looked at",),
        )  # fmt: skip

    def of(self, quantity: str, set_class: str, fuel: str) -> Learned | None:
        """What sets of a class taught of a quantity on a fuel."""
        return self.learned.get((quantity, set_class, fuel))

    def beside(self, one: Figure, quantity: str, set_class: str, fuel: FuelKey) -> Figure:
        """An estimate with the shop's own answer beside it; never blended into it."""
        found = self.of(quantity, set_class, str(fuel))
        if found is None:
            return one
        note = f"{found.said()}; shrunk to {found.shrunk:.2f} ± {percent(2 * found.band)}"
        rival = Rival("the shop's own sets of this class", one.value * found.shrunk, note)
        return replace(one, rivals=(rival, *one.rivals))

    def figure(
        self, one: Figure, quantity: str, set_class: str, fuel: FuelKey, key: str, label: str
    ) -> Figure | None:
        """The shop's own answer as a figure of its own; None while it has none."""
        found = self.of(quantity, set_class, str(fuel))
        if found is None:
            return None
        value, off = one.value * found.shrunk, 2 * found.band
        return replace(
            one, key=key, label=label, value=value, method=LEARNED,
            band=Band(value * (1 - off), value * (1 + off)), warnings=(found.said(),),
            rivals=(Rival(one.label, one.value),), estimated=True,
        )  # fmt: skip


NOTHING = Shop({})
"""A shop that measured nothing yet."""


class Taught:
    """Every job's lessons: a job is told what all the others taught, never what it did itself."""

    def __init__(
        self,
        by_job: Mapping[str, tuple[Lesson, ...]] | None = None,
        before: Mapping[str, Shop] | None = None,
        front: ShopFront | None = None,
    ) -> None:
        self._by_job = dict(by_job or {})
        self.front = front or UNNAMED
        self._kept: dict[str, Shop] = {}
        self._before = before or {}

    def renewed(
        self, by_job: Mapping[str, tuple[Lesson, ...]], front: ShopFront | None = None
    ) -> Taught:
        """With lessons as read anew; what teaches a job the same stays the same object for it."""
        front = front or self.front
        if by_job == self._by_job and front == self.front:
            return self
        return Taught(by_job, {**self._before, **self._kept}, front)

    def with_job(self, job_id: str, lessons: tuple[Lesson, ...]) -> Taught:
        """With what one job teaches now; what all but it taught stays the same object."""
        others = self.but(job_id)
        by_job = {**self._by_job, job_id: lessons}
        if not lessons:
            del by_job[job_id]
        made = Taught(by_job, {**self._before, **self._kept}, self.front)
        made._kept[job_id if lessons else ""] = others
        return made

    def of(self, job_id: str) -> tuple[Lesson, ...]:
        """What one job taught, as it was last read."""
        return self._by_job.get(job_id, ())

    def all(self) -> Shop:
        """What every job together teaches."""
        return self.but("")

    def but(self, job_id: str) -> Shop:
        """What all jobs but this one teach; one object for every job that taught nothing.

        >>> one = Lesson("output", "open_frame", "propane", 1000.0, 900.0)
        >>> taught = Taught({"a": (one,), "b": (one, )})
        >>> [taught.but(job).of("output", "open_frame", "propane").n for job in ("a", "c", "")]
        [1, 2, 2]
        >>> taught.but("c") is taught.all()
        True
        """
        place = job_id if job_id in self._by_job else ""
        if place not in self._kept:
            others = (own for name, own in self._by_job.items() if name != place)
            told = [one for own in others for one in own]
            made = Shop(learn(told), self.front, counted(told), measured_loads(told))
            before = self._before.get(place)
            same = before and (before.learned, before.front, before.vents, before.loads) == (
                made.learned, made.front, made.vents, made.loads)  # fmt: skip
            self._kept[place] = before if before and same else made
        return self._kept[place]
