"""What every answer is made of: figures with their workings, texts in both systems of units."""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache
from typing import Annotated

from pydantic import BaseModel, ConfigDict, StringConstraints

from gentle_ember.core.base.figure import Figure, Input, Rounding
from gentle_ember.core.stage import Hold
from gentle_ember.units import show, show_input
from gentle_ember.units.display import rounded, show_value, text_of, trimmed
from gentle_ember.units.registry import System, Unit, from_si, unit_for

WriteKey = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9.-]{8,64}$")]


Who = Annotated[str, StringConstraints(max_length=120)]


class Request(BaseModel):
    """Base of request bodies: no unknown keys, no NaN."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class View(BaseModel):
    """Base of answers, made of the core's own objects or field by field."""

    model_config = ConfigDict(from_attributes=True)


class JobPath(Request):
    """A job's id in the address."""

    job_id: str


class CsvQuery(Request):
    """Units of an exported table."""

    system: System = "us"


class ShownOut(View):
    """A figure in one system of units."""

    text: str
    unit: str
    low: str
    high: str
    number: float


class MethodOut(View):
    """A method's name, formula, source and page."""

    key: str
    name: str
    formula: str
    source: str
    page: str


class InputOut(View):
    """One input of a working."""

    label: str
    us: str
    metric: str
    origin: str
    path: str | None


class RivalOut(View):
    """Another school's result."""

    name: str
    note: str
    us: str
    metric: str


class FigureOut(View):
    """A figure with its whole working."""

    key: str
    label: str
    value: float
    kind: str
    us: ShownOut
    metric: ShownOut
    method: MethodOut
    inputs: list[InputOut]
    rivals: list[RivalOut]
    rounding: str
    estimated: bool
    narrows: list[str]
    warnings: list[str]


class BothOut(View):
    """A text in both systems of units."""

    us: str
    metric: str


class PlainOut(BothOut):
    """A plain value in both systems."""

    value: float
    assumed: bool


class HoldOut(View):
    """Something that keeps an act or a signature back, and the place of the job that settles it."""

    text: str
    path: str


class HealthOut(View):
    """The server answers."""

    ok: bool
    version: str


class AssumedOut(View):
    """What was taken because the job does not say it, and where to say it."""

    text: str
    path: str


SYSTEMS: tuple[System, System] = ("us", "metric")


def holds(found: Iterable[Hold]) -> list[HoldOut]:
    """What keeps an act or a signature back, and where each is settled."""
    return [HoldOut(text=one.text, path=one.path) for one in found]


def both(value: float, kind: str, digits: int | None = None) -> BothOut:
    """A value in both systems, to so many digits where the kind's own are too many."""
    more = () if digits is None else (digits,)
    us, metric = (" ".join(show_value(value, kind, name, *more)).strip() for name in SYSTEMS)
    return BothOut(us=us, metric=metric)


def same(text: str) -> BothOut:
    """A text that reads the same in both systems."""
    return BothOut(us=text, metric=text)


@lru_cache(maxsize=4096)
def figure(entry: Figure) -> FigureOut:
    """A figure with its working; made once for each, since most stay as they are from one change
    of a job to the next."""

    def rival(value: float, system: System) -> str:
        unit = unit_for(entry.kind, system, value)
        scaled = from_si(value, entry.kind, unit)
        number = rounded(scaled, unit.decimals, 3, entry.rounding)
        return f"{text_of(number)} {unit.text}".strip()

    return FigureOut(
        key=entry.key,
        label=entry.label,
        value=entry.value,
        kind=entry.kind,
        us=ShownOut.model_validate(show(entry, "us")),
        metric=ShownOut.model_validate(show(entry, "metric")),
        method=MethodOut.model_validate(entry.method),
        inputs=[_input(one) for one in entry.inputs],
        rivals=[
            RivalOut(
                name=one.name,
                note=one.note,
                us=rival(one.value, "us"),
                metric=rival(one.value, "metric"),
            )
            for one in entry.rivals
        ],
        rounding=str(entry.rounding),
        estimated=entry.estimated,
        narrows=list(entry.narrows),
        warnings=list(entry.warnings),
    )


@lru_cache(maxsize=8192)
def _input(entry: Input) -> InputOut:
    """One input; figures share most of theirs, so each is made once and never changed."""
    return InputOut(
        label=entry.label,
        us=show_input(entry, "us"),
        metric=show_input(entry, "metric"),
        origin=str(entry.origin),
        path=entry.path or None,
    )


def plain(value: float, kind: str, *, assumed: bool = False) -> PlainOut:
    """A value that is a fact, not a computed figure."""
    return PlainOut(**dict(both(value, kind)), value=value, assumed=assumed)


def in_unit(value: float, kind: str, unit: Unit) -> str:
    """A value [SI] in one unit, to five figures; noughts that say nothing are left out."""
    number = rounded(from_si(value, kind, unit), unit.decimals, 5, Rounding.NEAREST)
    return f"{trimmed(text_of(number))} {unit.text}"
