"""Quick answers without a job: each an operation of its own, made of its form."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from flask import Response
from pydantic import Field, create_model

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Figure, Input, Method, exact
from gentle_ember.core.base.quantities import KINDS
from gentle_ember.core.quick.answer import Answer, Answered, AnswerField, Cell, QuickError, answered
from gentle_ember.core.quick.answers import ANSWERS
from gentle_ember.core.quick.titles import QUICK
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.store.validate import allowed
from gentle_ember.units import ReadingError
from gentle_ember.units.reading import fits
from gentle_ember.units.registry import CONVERSIONS
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.services import services
from gentle_ember.web.views import base, cylinder
from gentle_ember.web.views.base import FigureOut, Request, ShownOut
from gentle_ember.web.views.quick import (
    AnsweredOut,
    ChoiceOut,
    ConvertIn,
    ConvertOut,
    FormFieldOut,
    FormOut,
    FormsOut,
    SaidOut,
    TableCellOut,
    TableLineOut,
    TableOut,
    WhenOut,
)

api = blueprint("quick", "quick answers", "/api/quick", 422)
CONVERSION = Method(
    "convert", "Unit conversion", "exact factor between units", "definitions, by pint", "units"
)


def request_of(answer: Answer) -> type[Request]:
    """The request of an answer, by its form: values in SI, with what each is and its limits."""
    fields: dict[str, Any] = {field.name: _typed(field) for field in answer.fields}
    name = "".join(part.title() for part in answer.key.split("-")) + "In"
    return create_model(name, __base__=Request, __doc__=answer.text, **fields)


def _typed(field: AnswerField) -> tuple[Any, Any]:
    if field.options:
        # Spread by subscription, as a tuple of one is what it was made of.
        one_of: Any = Literal[tuple(value for value, _ in field.options)]
        return Annotated[one_of, Field(description=f"{field.label}.")], field.default
    if not field.quantity:
        return Annotated[str, Field(description=f"{field.label}: a key of the catalog's.")], (
            field.default
        )
    kind = KINDS[field.kind]
    said = f"{field.label} [{kind.si}]"
    if field.assumed:
        said += f"; without it: {field.assumed}"
    limits: dict[str, Any] = {"minimum": field.low, "maximum": field.high}
    # Limits are the core's to hold, with words in the reader's units; here they are only told.
    told = Field(description=f"{said}.", json_schema_extra=limits, examples=[kind.sample])
    return (Annotated[float, told], ...) if field.asked else (Annotated[float | None, told], None)


def _operation(answer: Answer) -> None:
    request = request_of(answer)

    def operation(body: Request) -> Response:
        try:
            return sent(answer_out(answered(answer, body.model_dump(), services().catalog)))
        except QuickError as error:
            raise InvalidJobError(
                [
                    FieldError(name, allowed(why) if isinstance(why, QuantityError) else why)
                    for name, why in error.faults.items()
                ]
            ) from None

    operation.__name__ = answer.key.replace("-", "_")
    operation.__doc__ = f"{answer.text} {answer.caution}".strip()
    operation.__annotations__["body"] = request
    api.post(f"/{answer.key}", responses={200: AnsweredOut})(operation)


def answer_out(found: Answered) -> AnsweredOut:
    """What a quick answer says, as it is sent."""
    return AnsweredOut(
        figures=[base.figure(one) for one in found.figures],
        said=[SaidOut.model_validate(one) for one in found.said],
        tables=[
            TableOut(
                title=table.title,
                columns=list(table.columns),
                lines=[
                    TableLineOut(
                        label=line.label,
                        fuel=line.fuel,
                        cells=[_cell(c) for c in line.cells],
                    )
                    for line in table.lines
                ],
            )
            for table in found.tables
        ],
        notes=[SaidOut.model_validate(one) for one in found.notes],
        cylinder=(
            cylinder.cylinder(found.cylinder[0], list(found.cylinder[1]))
            if found.cylinder
            else None
        ),
    )


def _cell(cell: Cell) -> TableCellOut:
    return TableCellOut(figure=base.figure(cell.figure) if cell.figure else None, text=cell.text)


for one in ANSWERS.values():
    _operation(one)


def _field(field: AnswerField) -> FormFieldOut:
    return FormFieldOut(
        name=field.name,
        label=field.label,
        kind=field.kind,
        quantity=field.quantity,
        default=field.default,
        sample=field.sample,
        assumed=field.assumed,
        low=field.low if field.quantity else None,
        high=field.high if field.quantity else None,
        when=WhenOut(field=field.when[0], is_one_of=list(field.when[1])),
        options=[
            ChoiceOut(value=value, text=text) for value, text in field.choices(services().catalog)
        ],
    )


@api.get("/forms", responses={200: FormsOut})
def forms() -> Response:
    """The forms of the quick answers: what each asks, with limits and defaults."""
    return sent(
        FormsOut(
            [
                FormOut(
                    key=form.key,
                    title=QUICK[form.key],
                    text=form.text,
                    caution=form.caution,
                    fields=[_field(field) for field in form.fields],
                )
                for form in ANSWERS.values()
            ]
        )
    )


@api.post("/convert", responses={200: ConvertOut})
def convert(body: ConvertIn) -> Response:
    """A typed quantity in every unit people ask for."""
    if body.kind and body.kind not in CONVERSIONS:
        raise ReadingError("There is nothing to convert this kind to.")
    found = fits(body.text, CONVERSIONS, body.system)
    kind = body.kind if body.kind in found else next(iter(found))
    value = found[kind]
    rows: list[FigureOut] = []
    for unit in CONVERSIONS[kind]:
        text, _, name = base.in_unit(value, kind, unit).partition(" ")
        shown = ShownOut(text=text, unit=name, low=text, high=text, number=value)
        row = base.figure(
            Figure(
                f"convert.{unit.text}",
                name,
                value,
                kind,
                CONVERSION,
                exact(value),
                (Input("typed", body.text.strip(), "text"),),
            )
        )
        rows.append(row.model_copy(update={"us": shown, "metric": shown}))
    kinds = [ChoiceOut(value=one, text=KINDS[one].name) for one in found]
    return sent(ConvertOut(kind=kind, kinds=kinds, value=value, rows=rows))
