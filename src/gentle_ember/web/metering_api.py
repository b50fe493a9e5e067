"""Readings of a sweep as a file, out and in."""

from __future__ import annotations

from typing import TypeVar

from flask import Response, request
from pydantic import ValidationError

from gentle_ember.core.job.facts import Model
from gentle_ember.core.job.metering import Metering, SweepReading
from gentle_ember.documents.readings_csv import SWEEP, BadCell, Form, read_readings, readings_csv
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.store.validate import field_errors
from gentle_ember.units.registry import System
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.files_api import download, slug
from gentle_ember.web.services import services
from gentle_ember.web.views.first_start import LoadedOut, SweepPath, SweepQuery

api = blueprint("metering", "metering", "/api/jobs/<job_id>/metering/<key>", 404, 422)
MOST_BYTES = 200_000
Reading = TypeVar("Reading", bound=Model)


@api.get("/readings.csv")
def save(path: SweepPath, query: SweepQuery) -> Response:
    """Every reading of a sweep as CSV."""
    job = services().jobs.get(path.job_id).job
    record = job.metering.get(path.key, Metering())
    text = readings_csv(record.readings.values(), SWEEP, query.system)
    return download(text, f"{slug(job.title)}-{path.key}-readings.csv", "text/csv")


@api.post("/readings.csv", responses={200: LoadedOut})
def load(path: SweepPath, query: SweepQuery) -> Response:
    """Read a CSV of readings: all of it, or every cell that is wrong. Nothing is saved by this."""
    services().jobs.get(path.job_id)
    at = f"metering.{path.key}.readings"
    return sent(LoadedOut(readings=read_file(at, SWEEP, SweepReading, query.system)))


def read_file(at: str, form: Form, model: type[Reading], system: System) -> list[Reading]:
    """Readings of the file that was sent, as the job keeps them.

    Raises:
        InvalidJobError: every cell that is wrong, by its line.
    """
    content = request.get_data(cache=False)
    if len(content) > MOST_BYTES:
        raise InvalidJobError([FieldError(at, "That is too large for readings.")])
    found, bad = read_readings(content, form, system)
    readings: list[Reading] = []
    for line, one in enumerate(found, start=2):
        try:
            readings.append(model.model_validate(one))
        except ValidationError as error:
            bad += [BadCell(line, fault.path, fault.message) for fault in field_errors(error)]
    if bad or not readings:
        said = bad or [BadCell(1, "", "no readings in it")]
        raise InvalidJobError(
            [FieldError(at, f"Line {one.line}, {one.column or 'file'}: {one.why}") for one in said]
        )
    return readings
