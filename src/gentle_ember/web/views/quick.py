"""Quick answers: what they ask and what they say."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, RootModel, StringConstraints

from gentle_ember.units.registry import System
from gentle_ember.web.views.base import FigureOut, Request, View
from gentle_ember.web.views.cylinder import CylinderOut


class SoundQuery(Request):
    """Samples a second [Hz] of a recording, and the cylinders that fire."""

    rate: float = Field(ge=2000, le=200_000)
    cylinders: int = Field(default=1, ge=1, le=6)
    even: bool = False
    """Whether two cylinders fire at even steps; a V-twin's do not."""
    hertz: float | None = Field(default=None, ge=45, le=65)
    """Of the plate, where the engine's speed makes it."""


class ConvertIn(Request):
    """Quick conversion of a typed quantity; the kind is found when it is not given."""

    text: Annotated[str, StringConstraints(max_length=400)]
    kind: str = ""
    system: System = "us"


class FiguresOut(RootModel[list[FigureOut]]):
    """Figures, the most asked for first."""


class TableCellOut(View):
    """A figure, or words where there is none; both where the words go with it."""

    figure: FigureOut | None
    text: str


class TableLineOut(View):
    """A line of a table."""

    label: str
    fuel: str
    cells: list[TableCellOut]


class TableOut(View):
    """Figures side by side."""

    title: str
    columns: list[str]
    lines: list[TableLineOut]


class SaidOut(View):
    """Something said in words."""

    key: str
    label: str
    text: str
    bad: bool


class AnsweredOut(View):
    """What a quick answer says: figures, words, tables, what a job of it would warn of."""

    figures: list[FigureOut]
    said: list[SaidOut]
    tables: list[TableOut]
    notes: list[SaidOut]
    cylinder: CylinderOut | None


class ChoiceOut(View):
    """A choice of a field."""

    value: str
    text: str


class WhenOut(View):
    """Another field, and the choices of it with which a field is asked; always where empty."""

    field: str
    is_one_of: list[str]


class FormFieldOut(View):
    """One thing a quick answer asks; `default`, `low` and `high` are SI, `sample` as typed."""

    name: str
    label: str
    kind: str
    quantity: bool
    default: float | str | None
    sample: str
    assumed: float | str
    low: float | None
    high: float | None
    when: WhenOut
    options: list[ChoiceOut]


class FormOut(View):
    """The form of a quick answer."""

    key: str
    title: str
    text: str
    caution: str
    fields: list[FormFieldOut]


class FormsOut(RootModel[list[FormOut]]):
    """All of them, in order."""


class ConvertOut(View):
    """A quantity in every unit people ask for."""

    kind: str
    kinds: list[ChoiceOut]
    """Every kind it may be, the likelier first; more than one where its unit is usual for more."""
    value: float
    rows: list[FigureOut]
