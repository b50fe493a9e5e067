"""What a quick answer is: the fields it asks, within what limits, and what it says."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Figure, Input, Origin
from gentle_ember.core.base.quantities import check
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.cylinder import CylinderAnswer, Help
from gentle_ember.core.job.choices import CHOICES
from gentle_ember.core.job.facts import quantity_at
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import (
    GASES,
    NATURAL_GAS_HHV_J_M3,
    PROPANE,
    USUAL_METHANE,
    Fuel,
    FuelKey,
    biogas,
    natural_gas,
    usual,
)
from gentle_ember.core.route import cautions, contradictions
from gentle_ember.core.stage import Caution, Plan, Severity

Values = Mapping[str, float | str | None]
Options = tuple[tuple[str, str], ...]
GAS_OPTIONS: Options = tuple((str(gas), usual(gas).name) for gas in GASES)


BLAMED: dict[str, tuple[str, ...]] = {
    "flow less pilots": ("pilots_w",),
    "pressure drop": ("nominal", "bore_m"),
    "inside diameter": ("nominal",),
    "gas flow": ("heat_w",),
    "flow": ("heat_w", "head_m"),
    "bore": ("heat_w",),
    "heat rate": ("heat_w",),
    "temperature before": ("before_k",),
    "temperature after": ("after_k",),
}
"""Fields a quantity hangs on that is found out of range only on the way; else the first asked."""


@dataclass(frozen=True, slots=True)
class AnswerField:
    """One thing asked: a quantity of a kind [SI] with its limits, or a choice.

    The kinds `choice` and `cylinder` are one of a few: its own options, or the catalog's sizes.
    """

    name: str
    label: str
    kind: str
    default: float | str | None = None
    sample: str = ""
    """The default as typed; empty where the field may be left empty."""
    assumed: str | float = ""
    """What stands in where it is left empty: in words, or a value [SI]."""
    options: Options = ()
    low: float = -math.inf
    high: float = math.inf
    at: tuple[str, ...] = ()
    """Places of a job it fills, for answers that a job of these few facts gives."""
    when: tuple[str, tuple[str, ...]] = ("", ())
    """Another field and the choices of it with which this one is asked; always, where empty."""
    whole: bool = False
    """Whether its choices are whole numbers in a job."""

    @property
    def asked(self) -> bool:
        """Whether it must be given."""
        return self.quantity and bool(self.sample)

    @property
    def quantity(self) -> bool:
        """Whether it is a number, and no choice."""
        return self.kind not in ("choice", "cylinder")

    def choices(self, catalog: Catalog) -> Options:
        """What it is one of; empty for a number."""
        if self.kind == "cylinder":
            return tuple((size.key, size.name) for size in catalog.cylinders.values())
        return self.options


def quantity(
    name: str, label: str, kind: str, low: float, high: float, default: float, sample: str
) -> AnswerField:
    """A quantity that must be given, from low to high [SI], with what it begins at."""
    return AnswerField(name, label, kind, default, sample, low=low, high=high)


def optional(
    name: str, label: str, kind: str, low: float, high: float, assumed: str | float
) -> AnswerField:
    """A quantity from low to high [SI] that something stands in for."""
    return AnswerField(name, label, kind, assumed=assumed, low=low, high=high)


def choice(
    name: str,
    label: str,
    default: str,
    options: Options,
    when: tuple[str, tuple[str, ...]] = ("", ()),
) -> AnswerField:
    """One of a few."""
    return AnswerField(name, label, "choice", default, options=options, when=when)


def of_job(
    name: str,
    *at: str,
    default: float | str | None = None,
    sample: str = "",
    assumed: str | float = "",
    options: str | Options = "",
    label: str = "",
    whole: bool = False,
) -> AnswerField:
    """A field that fills places of a job: kind, label and limits are the job's own.

    Args:
        name: of the field.
        at: the job's places; the first one's label and limits are taken.
        default, sample: value [SI] to begin with and how it is typed, where it must be given.
        assumed: what stands in where it is left empty.
        options: of a choice, or the name of the job's own list of them.
        label: where the job's own does not say which of two it is.
        whole: whether the choices are whole numbers.
    """
    if options:
        rows = CHOICES[options] if isinstance(options, str) else options
        plain = tuple((str(value), text) for value, text in rows)
        return AnswerField(
            name, label, "choice", default, options=plain, at=at, whole=whole
        )  # fmt: skip
    own = quantity_at(Job, at[0].split("."))
    if own is None:
        raise KeyError(at[0])
    return AnswerField(
        name, label or own.label, own.kind, default, sample, assumed,
        low=own.low, high=own.high, at=at,
    )  # fmt: skip


ELEVATION = of_job("elevation_m", "sites.s1.elevation", assumed="sea level")


@dataclass(frozen=True, slots=True)
class Cell:
    """A figure, or words where there is none; both where the words go with it."""

    figure: Figure | None = None
    text: str = ""


@dataclass(frozen=True, slots=True)
class TableLine:
    """A line of a table: what it is about, the fuel whose mark it wears, its cells."""

    label: str
    fuel: str
    cells: tuple[Cell, ...]


@dataclass(frozen=True, slots=True)
class AnswerTable:
    """Figures side by side, under a heading each."""

    title: str
    columns: tuple[str, ...]
    lines: tuple[TableLine, ...]


@dataclass(frozen=True, slots=True)
class Said:
    """Something said in words: under which key, with what label, and whether it is bad news."""

    key: str
    label: str
    text: str
    bad: bool = False


@dataclass(frozen=True, slots=True)
class Answered:
    """What a quick answer says."""

    figures: tuple[Figure, ...] = ()
    said: tuple[Said, ...] = ()
    tables: tuple[AnswerTable, ...] = ()
    notes: tuple[Said, ...] = ()
    """Stops and cautions a job of these facts would have, by the field each is about."""
    cylinder: tuple[CylinderAnswer, tuple[Help, ...]] | None = None


@dataclass(frozen=True, slots=True)
class Answer:
    """A quick answer: its texts, its fields and the function that answers; its title is by key in
    `titles`."""

    key: str
    text: str
    caution: str
    fields: tuple[AnswerField, ...]
    solve: Callable[[Values, Catalog], Answered]


class QuickError(ValueError):
    """Values that can't be answered: what is wrong, by field; a limit in words at the edge."""

    def __init__(self, faults: Mapping[str, str | QuantityError]) -> None:
        super().__init__("; ".join(f"{name}: {why}" for name, why in faults.items()))
        self.faults = faults


def answered(answer: Answer, values: Values, catalog: Catalog) -> Answered:
    """An answer from values [SI] by the names of its fields.

    Raises:
        QuickError: something missing, out of range, of no choice, or that contradicts another.
    """
    wrong = {
        field.name: why
        for field in answer.fields
        if (why := _wrong(field, values, catalog)) is not None
    }
    if wrong:
        raise QuickError(wrong)
    try:
        return answer.solve(values, catalog)
    except QuantityError as error:
        names = [field.name for field in answer.fields]
        first = next(field.name for field in answer.fields if field.asked)
        blamed = next((one for one in BLAMED.get(error.name, ()) if one in names), first)
        raise QuickError({blamed: error}) from None


def _wrong(field: AnswerField, values: Values, catalog: Catalog) -> str | QuantityError | None:
    value, (other, wanted) = values.get(field.name), field.when
    if other and values.get(other) not in wanted:
        return None
    if value is None:
        return f"Give {field.label[0].lower()}{field.label[1:]}." if field.asked else None
    if not field.quantity:
        known = value in dict(field.choices(catalog))
        return None if known else "That is not one of the choices."
    if isinstance(value, str):
        return "A number [SI] is wanted."
    try:
        check(field.label, field.kind, value, field.low, field.high)
    except QuantityError as error:
        return error
    return None


def number(values: Values, name: str, fallback: float | None = None) -> float:
    """A value [SI] by its name, or what stands in for it; not a number when it is missing."""
    value = values.get(name)
    if value is None and fallback is not None:
        return fallback
    return float(value) if isinstance(value, int | float) else math.nan


def gas(values: Values, name: str) -> Fuel:
    """The gas chosen, propane when none is; its methane or heating value where a form asks it."""
    key = values.get(name)
    if key == FuelKey.NATURAL_GAS:
        return natural_gas(number(values, "hhv_j_m3", NATURAL_GAS_HHV_J_M3))
    if key == FuelKey.BIOGAS:
        return biogas(number(values, "methane_share", USUAL_METHANE))
    return usual(FuelKey(key)) if key in GASES else PROPANE


def row(label: str, value: float | str, kind: str = "text", origin: Origin = Origin.OWNER) -> Input:
    """An input of a working, as told unless its origin is another."""
    return Input(label, value, kind, origin)


def plain(solve: Callable[[Values], tuple[Figure, ...]]) -> Callable[[Values, Catalog], Answered]:
    """An answer that is its figures."""
    return lambda values, catalog: Answered(solve(values))


def job_of(
    title: str, fields: tuple[AnswerField, ...], values: Values, base: Mapping[str, Any]
) -> Job:
    """A job of nothing but the values given, so that quick and full answers are one code.

    Args:
        title: of the job.
        fields: of the answer; those that fill no place of a job are passed over.
        values: [SI] by field.
        base: more of the job, by place.

    Raises:
        QuickError: values a job would refuse, each at its field.
    """
    document: dict[str, Any] = {"title": title, "sites": {"s1": {}}}
    for path, value in base.items():
        _put(document, path, value)
    for field in fields:
        value = values.get(field.name)
        if value is None:
            continue
        held: Any = value
        if field.quantity:
            held = {"value": value, "origin": str(Origin.OWNER)}
        elif field.whole:
            held = int(value)
        for path in field.at:
            _put(document, path, held)
    # Each field has the job's own limits and choices, so that what is left are contradictions.
    job = Job.model_validate(document)
    clashes = {_field_at(fields, one.path): one.text for one in contradictions(job)}
    if clashes:
        raise QuickError(clashes)
    return job


def _put(document: dict[str, Any], path: str, value: Any) -> None:
    """As `change.apply`, but for a document that is only begun: parents are made."""
    *above, last = path.split(".")
    for key in above:
        document = document.setdefault(key, {})
    document[last] = value


def _field_at(fields: tuple[AnswerField, ...], path: str) -> str:
    return next((one.name for one in fields if path in one.at), path)


def judged(plan: Plan, fields: tuple[AnswerField, ...]) -> tuple[Said, ...]:
    """What a job of these facts warns of, at its own fields.

    Raises:
        QuickError: where such a job is stopped whatever the fuel.
    """
    mine = [
        (_field_at(fields, one.path or ""), one)
        for one in plan.of(cautions)
        if any(one.path in field.at for field in fields)
    ]
    stops = {name: one.text for name, one in mine if _stops(one) and not one.fuel}
    if stops:
        raise QuickError(stops)
    return tuple(Said(name, one.fuel, one.text, _stops(one)) for name, one in mine)


def _stops(one: Caution) -> bool:
    return one.severity is Severity.STOP
