"""What a school of conversion is, and how a verdict on it is put together."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import Part, PartClass
from gentle_ember.core.job.site import Site, gases_here
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.physics.fuels import GASES, FuelKey


class Verdict(StrEnum):
    """Whether a school fits a set, best first."""

    FITS = "fits"
    WORK = "fits_with_work"
    UNKNOWN = "not_known"
    NO = "does_not_fit"


NAMES = {
    Verdict.FITS: "fits",
    Verdict.WORK: "fits with work",
    Verdict.UNKNOWN: "not known yet",
    Verdict.NO: "does not fit",
}


@dataclass(frozen=True, slots=True)
class Reason:
    """One reason: which way it speaks, in plain words, and the fact of the job it rests on."""

    verdict: Verdict
    text: str
    path: str


def fits(text: str, path: str) -> Reason:
    """A fact that speaks for it."""
    return Reason(Verdict.FITS, text, path)


def work(text: str, path: str) -> Reason:
    """A fact that can be worked round, and how."""
    return Reason(Verdict.WORK, text, path)


def unknown(text: str, path: str) -> Reason:
    """A fact not known yet; the text says what to measure."""
    return Reason(Verdict.UNKNOWN, text, path)


def no(text: str, path: str) -> Reason:
    """A fact that rules it out."""
    return Reason(Verdict.NO, text, path)


def verdict_of(reasons: Iterable[Reason]) -> Verdict:
    """The worst of the reasons: one that rules out decides, then one not known, then work."""
    order = list(Verdict)
    return max((reason.verdict for reason in reasons), key=order.index, default=Verdict.FITS)


@dataclass(frozen=True, slots=True)
class Case:
    """What a school is judged on: the job, its set, the site looked at, what the fuels put out."""

    job: Job
    output: OutputSection | None = None

    @property
    def set(self) -> GeneratorSet:
        """The set."""
        return self.job.set

    @property
    def site(self) -> Site:
        """The site the job looks at."""
        return self.job.sites[self.job.site]

    @property
    def at(self) -> str:
        """The path of that site."""
        return f"sites.{self.job.site}"

    @property
    def inverter(self) -> bool:
        """An enclosed inverter set."""
        return self.set.set_class in INVERTERS

    @property
    def gases(self) -> tuple[FuelKey, ...]:
        """Gases at hand on the site."""
        return gases_here(self.site)

    def train(self, fuel: FuelKey) -> tuple[Part, ...] | None:
        """Parts of a fuel's train as it stands; None until there is one."""
        train = self.job.trains.get(str(fuel))
        if train is None or not train.slots:
            return None
        known = (self.job.parts.get(slot.part) for slot in train.slots.values())
        return tuple(part for part in known if part is not None)

    @property
    def mixer(self) -> Part | None:
        """The adapter or carburetor chosen for a gas train; None until there is one."""
        for fuel in GASES:
            for part in self.train(fuel) or ():
                if part.kind in (PartClass.ADAPTER, PartClass.CARBURETOR):
                    return part
        return None

    def has_gas_selector(self, methods: Collection[str]) -> bool:
        """Whether a carburetor's LP/NG selector meters its gases; one for a single gas has none."""
        mixer = self.mixer
        both = mixer is None or len(mixer.gases) > 1
        return "multi_fuel_carburetor" in methods and bool(self.for_gas) and both

    @property
    def plate_m(self) -> float | None:
        """Thickness of the adapter chosen for its train [m]; None until there is one."""
        mixer = self.mixer
        return mixer.thickness_m if mixer and mixer.kind is PartClass.ADAPTER else None

    @property
    def wanted(self) -> tuple[str, ...]:
        """What the owner asks for, as keys of `Wants`, gasoline kept left out."""
        wants = self.job.wants
        names = (*map(str, GASES), "remote_tank", "elevation")
        return tuple(name for name in names if getattr(wants, name))

    @property
    def for_gas(self) -> tuple[FuelKey, ...]:
        """Gases it is about: those wanted and at hand, or all at hand when none is asked for."""
        wanted = tuple(gas for gas in self.gases if gas in self.wanted)
        return wanted or self.gases


class SchoolKind(StrEnum):
    """What a school is about; schools of one kind exclude each other."""

    GAS = "gas"
    TANK = "tank"
    JET = "jet"
    INSTEAD = "instead"


@dataclass(frozen=True, slots=True)
class School:
    """One way of doing it: texts for the sheet, what it gives, its usual cost, its judge.

    `gives` are keys of `Wants`. `parts_usd` and `hours` are what such a job usually takes.
    """

    key: str
    name: str
    kind: SchoolKind
    gives: tuple[str, ...]
    changes: str
    keeps: str
    loses: str
    change_over: str
    choke: str
    metering: str
    cannot_undo: str
    risk: str
    parts_usd: float
    hours: float
    judge: Callable[[Case], list[Reason]]
    drills: bool = False
    """Whether it usually drills a panel or cover: the owner's consent is asked."""
    fixed: bool = False
    """Whether its gas metering is fixed by a jet."""
    loses_choke: bool = False
    """Whether gasoline loses its choke by it."""

    @property
    def reversible(self) -> bool:
        """Whether it can be wholly undone."""
        return not self.cannot_undo
