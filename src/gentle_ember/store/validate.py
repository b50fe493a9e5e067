"""Turn a document into a Job, with every fault named at its field."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.job.job import Job
from gentle_ember.core.route import contradictions
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.units.display import show_value


def allowed(error: QuantityError) -> str:
    """A sentence saying what a quantity may be, in both systems of units."""

    def both(value: float) -> str:
        us, metric = (" ".join(show_value(value, error.kind, s)) for s in ("us", "metric"))
        return us.strip() if us == metric else f"{us} ({metric})".strip()

    if error.value != error.value:
        return f"{error.name} must be a number."
    if error.low is not None and error.value < error.low:
        if error.low >= 0 > error.value and error.kind != "temperature":
            return f"{error.name} can't be negative; the least is {both(error.low)}."
        return f"{error.name} is too low; the least is {both(error.low)}."
    return f"{error.name} is too high; the most is {both(error.high or 0.0)}."


Known = tuple[Job, dict[str, Any]]


def _from(known: Known, document: dict[str, Any]) -> Job:
    """A job whose unchanged fields are those of a known one; no rule of a job spans its fields."""
    job, before = known
    changed = {
        name: value for name, value in document.items() if value is not before.get(name, before)
    }
    if "title" not in document:
        return Job.model_validate(document)
    gone = before.keys() - document.keys()
    made = Job.model_validate({"title": document["title"], **changed})
    return job.model_copy(update={name: getattr(made, name) for name in (*changed, *gone)})


PLAINLY = {
    "extra_forbidden": "There is no such field.",
    "missing": "This is missing.",
    "float_type": "A number is wanted here.",
    "float_parsing": "A number is wanted here.",
    "int_parsing": "A whole number is wanted here.",
    "int_from_float": "A whole number is wanted here.",
    "string_type": "Text is wanted here.",
    "literal_error": "That is not one of the choices.",
    "enum": "That is not one of the choices.",
}
"""What the schema's own refusals say, in plain words."""


def field_errors(error: ValidationError, prefix: str = "") -> list[FieldError]:
    """Pydantic's errors as sentences at field paths."""
    found = []
    for entry in error.errors(include_url=False):
        path = ".".join(str(part) for part in entry["loc"] if part != "[key]")
        cause = entry.get("ctx", {}).get("error")
        if isinstance(cause, QuantityError):
            message = allowed(cause)
        elif entry["type"] in PLAINLY:
            message = PLAINLY[entry["type"]]
        else:
            message = entry["msg"].removeprefix("Value error, ") + "."
        found.append(FieldError(prefix + path, message))
    return found


def valid_job(document: dict[str, Any], known: Known | None = None) -> Job:
    """The job a document describes.

    Args:
        document: of the whole job.
        known: a job and the document it came from; what both documents share is taken from it, so
            that what did not change is neither checked again nor another object.

    Raises:
        InvalidJobError: with every fault at its field, contradictions included.
    """
    try:
        job = Job.model_validate(document) if known is None else _from(known, document)
    except ValidationError as error:
        raise InvalidJobError(field_errors(error)) from None
    clashes = [FieldError(clash.path, clash.text) for clash in contradictions(job)]
    if clashes:
        raise InvalidJobError(clashes)
    return job
