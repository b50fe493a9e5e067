"""The logbook's files: runs out and in as CSV, upkeep as a calendar."""

from __future__ import annotations

from datetime import date

from flask import Response, request

from gentle_ember.core.job.job import machine_name
from gentle_ember.core.stages.logbook.hours import not_yet_held
from gentle_ember.core.stages.logbook.upkeep import upkeep
from gentle_ember.documents.runs_csv import read_runs, runs_csv
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.files_api import download, slug
from gentle_ember.web.services import services
from gentle_ember.web.views.base import CsvQuery, JobPath
from gentle_ember.web.views.logbook import RunsOut

api = blueprint("logbook", "logbook", "/api/jobs/<job_id>", 404, 422)
MOST_BYTES = 1_000_000


@api.get("/runs.csv")
def save(path: JobPath, query: CsvQuery) -> Response:
    """Every run of the logbook as CSV."""
    job = services().jobs.get(path.job_id).job
    text = runs_csv(job.logbook.runs.values(), query.system)
    return download(text, f"{slug(job.title)}-runs.csv", "text/csv")


@api.get("/runs-form.pdf")
def form(path: JobPath, query: CsvQuery) -> Response:
    """A sheet to write runs on by hand, to hang beside the set."""
    from gentle_ember.documents.runs_form_pdf import runs_form_pdf

    stored = services().jobs.get(path.job_id)
    title = machine_name(stored.job) or stored.job.title
    content = runs_form_pdf(title, stored.job, query.system, services().front)
    return download(content, f"{slug(stored.job.title)}-runs-form.pdf", "application/pdf")


@api.post("/runs.csv", responses={200: RunsOut})
def load(path: JobPath, query: CsvQuery) -> Response:
    """Read a CSV of runs: all of it, or every cell that is wrong. Nothing is saved by this.

    A run the logbook holds already is left out.
    """
    held = services().jobs.get(path.job_id).job.logbook.runs.values()
    content = request.get_data(cache=False)
    if len(content) > MOST_BYTES:
        raise InvalidJobError([FieldError("logbook.runs", "That is too large for a logbook.")])
    found = read_runs(content, query.system)
    if found.bad or not found.runs:
        said = [f"Line {one.line}, {one.column or 'file'}: {one.why}" for one in found.bad]
        raise InvalidJobError(
            [FieldError("logbook.runs", text) for text in said or ["No runs in it."]]
        )

    fresh = not_yet_held(held, found.runs)
    return sent(RunsOut(runs=fresh, already=len(found.runs) - len(fresh)))


@api.get("/upkeep.ics")
def calendar(path: JobPath) -> Response:
    """What is due on the set as a calendar, to load once."""
    from gentle_ember.documents.upkeep_ics import upkeep_ics

    job = services().jobs.get(path.job_id).job
    today = date.today()
    due = upkeep(job, today)
    content = upkeep_ics(f"Upkeep: {job.title}", [(path.job_id, job.title, due)], today)
    return download(content, f"{slug(job.title)}-upkeep.ics", "text/calendar")
