"""A computed value with its working: what the screen, the CSV and the API all show."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Rounding(StrEnum):
    """Which way a shown figure may be rounded so that it never errs toward danger."""

    DOWN = "down"
    UP = "up"
    NEAREST = "nearest"


class Origin(StrEnum):
    """Where a fact comes from."""

    MEASURED = "measured"
    DATA_SHEET = "data_sheet"
    OWNER = "owner"
    ASSUMED = "assumed"
    SIMULATED = "simulated"
    COMPUTED = "computed"
    TABLE = "table"


@dataclass(frozen=True, slots=True)
class Method:
    """A published or named way of computing something; `page` is its docs/engineering page."""

    key: str
    name: str
    formula: str
    source: str
    page: str


@dataclass(frozen=True, slots=True)
class Band:
    """Worst-case ends around a value [same unit]."""

    low: float
    high: float

    def __post_init__(self) -> None:
        if not self.low <= self.high:
            raise ValueError(f"band ends are crossed: {self.low} > {self.high}")


@dataclass(frozen=True, slots=True)
class Input:
    """One input of a working: a number of a kind [SI], or a plain text."""

    label: str
    value: float | str
    kind: str = "ratio"
    origin: Origin = Origin.COMPUTED
    path: str | None = None
    """Where in the job the fact stands, so the page can lead there; None for derived inputs."""


@dataclass(frozen=True, slots=True)
class Rival:
    """What another school gives for the same figure."""

    name: str
    value: float
    note: str = ""


@dataclass(frozen=True, slots=True)
class Figure:
    """A value [SI unit of `kind`] with method, inputs, band, rivals and rounding direction."""

    key: str
    label: str
    value: float
    kind: str
    method: Method
    band: Band
    inputs: tuple[Input, ...] = ()
    rivals: tuple[Rival, ...] = ()
    rounding: Rounding = Rounding.NEAREST
    estimated: bool = False
    narrows: tuple[str, ...] = ()
    """What would narrow the band, in plain words."""
    warnings: tuple[str, ...] = ()
    """What a person must know with the value, in whole sentences; shown wherever it is shown."""

    def __post_init__(self) -> None:
        if not self.band.low <= self.value <= self.band.high:
            raise ValueError(f"{self.key}: {self.value} lies outside its own band {self.band}")


def exact(value: float) -> Band:
    """The band of a value taken as it is."""
    return Band(value, value)


def spread(value: float, share: float) -> Band:
    """A symmetric band of ± `share` [1] of a value, ends in order.

    >>> spread(10.0, 0.2)
    Band(low=8.0, high=12.0)
    """
    ends = sorted((value * (1 - share), value * (1 + share)))
    return Band(*ends)
