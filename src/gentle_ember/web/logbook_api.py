"""The logbook's files: runs out and in as CSV, upkeep as a calendar."""

from __future__ import annotations

from datetime import date

from flask import Response, request

from gentle_ember.core.job.logbook import LoggedRun
from gentle_ember.core.stages.logbook.upkeep import upkeep
from gentle_ember.documents.runs_csv import read_runs, runs_csv
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.files_api import download, slug
from gentle_ember.web.services import services
from gentle_ember.web.views.base import JobPath
from gentle_ember.web.views.logbook import RunsOut, RunsQuery

api = blueprint("logbook", "logbook", "/api/jobs/<job_id>", 404, 422)
MOST_BYTES = 1_000_000


@api.get("/runs.csv")
def save(path: JobPath, query: RunsQuery) -> Response:
    """Every run of the logbook as CSV."""
    job = services().jobs.get(path.job_id).job
    text = runs_csv(job.logbook.runs.values(), query.system)
    return download(text, f"{slug(job.title)}-runs.csv", "text/csv")


@api.post("/runs.csv", responses={200: RunsOut})
def load(path: JobPath, query: RunsQuery) -> Response:
    """Read a CSV of runs: all of it, or every cell that is wrong. Nothing is saved by this.

    A run the logbook holds already, of the same day, fuel, hours and reading, is left out, so
    that a file loaded twice counts nothing twice.
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

    def same(run: LoggedRun) -> tuple[str, str, int | None, int | None]:
        hours = round(run.hours.value) if run.hours else None
        meter = round(run.meter.value) if run.meter else None
        return run.on, run.fuel, hours, meter

    seen = {same(one) for one in held}
    fresh = [one for one in found.runs if same(one) not in seen]
    return sent(RunsOut(runs=fresh, already=len(found.runs) - len(fresh)))


@api.get("/upkeep.ics")
def calendar(path: JobPath) -> Response:
    """What is due on the set as a calendar, to load once or to subscribe to."""
    from gentle_ember.documents.upkeep_ics import upkeep_ics

    job = services().jobs.get(path.job_id).job
    today = date.today()
    content = upkeep_ics(path.job_id, job.title, upkeep(job, today), today)
    return download(content, f"{slug(job.title)}-upkeep.ics", "text/calendar")
